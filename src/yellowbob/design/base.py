"""What every model of the document shares: frozen, strict about unknown fields, bounded numbers."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

LONGEST_MM = 3000.0
"""No body, place or length in a design is larger than this."""


class Model(BaseModel):
    """A frozen part of a document; an edit makes a new one."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, defer_build=True)


Name = Annotated[str, Field(min_length=1, max_length=80)]
Words = Annotated[str, Field(max_length=4000)]
Place = Annotated[float, Field(ge=-LONGEST_MM, le=LONGEST_MM)]
Length = Annotated[float, Field(gt=0.0, le=LONGEST_MM)]
LengthOrNone = Annotated[float, Field(ge=0.0, le=LONGEST_MM)]
Mass = Annotated[float, Field(ge=0.0, le=50_000.0)]
Density = Annotated[float, Field(gt=0.0, le=25.0)]
Film = Annotated[float, Field(ge=0.0, le=5.0)]
Angle = Annotated[float, Field(ge=-180.0, le=180.0)]
Point = tuple[Place, Place, Place]

"""What every model of the document shares: frozen, strict about unknown fields, bounded numbers, edits that are checked."""

from __future__ import annotations

from typing import Annotated, Any, TypeVar

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from yellowbob.design.faults import describe
from yellowbob.ground.errors import BadInput

LONGEST_MM = 3000.0
"""No body, place or length in a design is larger than this."""


class Model(BaseModel):
    """A frozen part of a document; an edit makes a new one."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, defer_build=True)


M = TypeVar("M", bound=Model)


def build_rules() -> None:
    """Build what checks each kind of part, which else is built when the first of its kind is edited."""
    left: list[type[BaseModel]] = [Model]
    while left:
        one = left.pop()
        left += one.__subclasses__()
        one.model_rebuild()


def replaced(model: M, **changes: Any) -> M:
    """A copy of any frozen part with fields replaced and its rules checked again; unchanged parts stay the same.

    Raises BadInput with the field and what is wrong with it.
    """
    values = {name: getattr(model, name) for name in type(model).model_fields}
    try:
        return type(model).model_validate({**values, **changes})
    except ValidationError as error:
        named = getattr(model, "name", "") or type(model).__name__.lower()
        raise BadInput(f"{named}: {describe(error)}") from None


def made(kind: type[M], /, **fields: Any) -> M:
    """A new part of a document. Raises BadInput with the field and what is wrong with it."""
    try:
        return kind.model_validate(fields)
    except ValidationError as error:
        raise BadInput(f"{kind.__name__.lower()}: {describe(error)}") from None


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

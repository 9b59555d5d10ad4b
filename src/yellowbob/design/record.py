"""What the maker has written down beside the design: weighings, measurements, checks set aside."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from yellowbob.design.base import Density, Mass, Model, Name

Stage = Literal["bare body", "drilled body", "fitted", "ballasted", "finished"]
STAGES: tuple[Stage, ...] = ("bare body", "drilled body", "fitted", "ballasted", "finished")


class Weighing(Model):
    """What a stated set of things weighed: evidence of this piece, never a figure that takes another's place.

    On the scale lies everything that a stage has by then, but for `shares`: by its key on the weigh slip, 0 for a thing
    that was off, 1 for one that was on already, and between them for a coat that was laid in part (two of four: 0.5).

    bare body: cut, not drilled; drilled body: holes and slots made; fitted: parts, wire and hooks on; ballasted: ballast
    and plugs in; finished: all coats on.
    """

    stage: Stage
    mass_g: Mass
    u_g: Annotated[float, Field(gt=0.0, le=1000.0)] | None = Field(
        default=None, description="standard uncertainty of the scale's reading; a rule when left out"
    )
    shares: Annotated[dict[str, Annotated[float, Field(ge=0.0, le=1.0)]], Field(max_length=200)] = {}
    then: Annotated[dict[str, float], Field(max_length=400)] = Field(
        default={},
        description="what each thing was forecast to weigh when this was weighed, by slip key; as now when empty",
    )
    densities: Annotated[dict[str, Density], Field(max_length=41)] = Field(
        default={}, description="density of each piece in that forecast, by its name"
    )
    heeded: bool = Field(default=True, description="false: kept, but nothing follows from it")
    note: Annotated[str, Field(max_length=200)] = ""


class Measurement(Model):
    """One worksheet: the readings as typed (mm, g, g/mL), what came of it, and its standard uncertainty."""

    kind: Literal["block", "puck", "mould", "master", "immersion", "sink"]
    readings: Annotated[dict[str, float], Field(max_length=20)]
    density_g_ml: Annotated[float, Field(gt=0.0, le=100.0)] | None = None
    density_u_g_ml: Annotated[float, Field(ge=0.0, le=100.0)] | None = None
    volume_ml: Annotated[float, Field(gt=0.0, le=1e6)] | None = None
    volume_u_ml: Annotated[float, Field(ge=0.0, le=1e6)] | None = None


class SetAside(Model):
    """A check the maker has decided not to heed, and why."""

    check: Name
    reason: Annotated[str, Field(min_length=3, max_length=400)]

"""What the maker has written down beside the design: weighings, measurements, checks set aside."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from yellowbob.design.base import Mass, Model, Name

Stage = Literal["bare body", "drilled body", "fitted", "ballasted", "finished"]
STAGES: tuple[Stage, ...] = ("bare body", "drilled body", "fitted", "ballasted", "finished")


class Reading(Model):
    """A weighing of the build at a stage; it takes the place of what was predicted up to there.

    bare body: cut, not drilled; drilled body: holes and slots made; fitted: parts, wire and hooks on; ballasted: ballast
    and plugs in; finished: all coats on.
    """

    stage: Stage
    mass_g: Mass
    note: Annotated[str, Field(max_length=200)] = ""


class Measurement(Model):
    """One worksheet: the readings as typed (mm, g, g/mL), what came of it, and its standard uncertainty."""

    kind: Literal["block", "puck", "master", "immersion", "sink"]
    readings: Annotated[dict[str, float], Field(max_length=20)]
    density_g_ml: Annotated[float, Field(gt=0.0, le=100.0)] | None = None
    density_u_g_ml: Annotated[float, Field(ge=0.0, le=100.0)] | None = None
    volume_ml: Annotated[float, Field(gt=0.0, le=1e6)] | None = None
    volume_u_ml: Annotated[float, Field(ge=0.0, le=1e6)] | None = None


class SetAside(Model):
    """A check the maker has decided not to heed, and why."""

    check: Name
    reason: Annotated[str, Field(min_length=3, max_length=400)]

"""What a new design is asked for: the lines of a brief that a maker fills in, each checked by itself."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated, Literal

from pydantic import Field, model_validator

from yellowbob.design.base import Model
from yellowbob.design.brief import Span
from yellowbob.design.model import STANDING, Kind
from yellowbob.design.shape import Lofted, Turned

LEAST_MM, MOST_MM = 20.0, 400.0
LURES: tuple[Kind, ...] = ("popper", "wake bait", "prop bait", "pencil", "darter", "tail-spinner", "crawler", "other")
STARTERS = Path(__file__).parents[1] / "starters"


def a_kind(kind: str) -> str:
    """`a popper`, `an antenna float`."""
    return f"{'an' if kind[0] in 'aeio' else 'a'} {kind}"


class Asked(Model):
    """A brief for something new. What is left out is chosen by kind and size."""

    kind: Kind
    length_mm: Annotated[float, Field(ge=LEAST_MM, le=MOST_MM)]
    name: Annotated[str, Field(max_length=80)] = ""
    made: Literal["wood", "print", "resin"] = Field(default="wood", description="carved or turned, printed, or poured")
    wood: Annotated[str, Field(max_length=80)] = Field(default="", description="of the body, by its name on the shelf")
    water: Literal["fresh", "brackish", "sea"] = "fresh"
    temperature_c: Annotated[float, Field(ge=-2.0, le=40.0)] = 15.0
    mass_g: Span | None = Field(default=None, description="finished, hooks on")
    tackle_g: Span | None = Field(default=None, description="casting range of the rod that must throw it")
    pitch_deg: Span | None = Field(default=None, description="how it is to sit, nose-up positive")
    hooks: Annotated[str, Field(max_length=20)] = Field(default="", description="their size, such as 6 or 1/0")
    hung_by: Literal["wire", "screw eyes"] = "wire"
    weight: Literal["belly", "tail"] = "belly"
    lead: bool = True
    outline: Lofted | Turned | None = Field(
        default=None, description="the body's outlines in the place of the kind's own, at that length"
    )
    capacity_g: Annotated[float, Field(gt=0.0, le=500.0)] | None = Field(
        default=None, description="of a standing float"
    )

    @model_validator(mode="after")
    def _sound(self) -> Asked:
        if self.capacity_g is not None and self.kind not in STANDING:
            raise ValueError(f"{a_kind(self.kind)} has no capacity; that is for {', '.join(STANDING)}")
        if self.made != "wood" and self.kind in (*STANDING, "dropper"):
            raise ValueError(f"{a_kind(self.kind)} is begun out of wood here, not as a {self.made}")
        if self.outline is not None and self.kind in (*STANDING, "dropper"):
            raise ValueError(f"{a_kind(self.kind)} is begun from its pieces; draw or trace its body on the Lines bench")
        return self


def starter_file(kind: Kind) -> Path:
    """The plain first design of a kind that ships with the program."""
    return STARTERS / f"{kind.replace(' ', '-')}.ybob"

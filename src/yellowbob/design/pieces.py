"""Pieces: what a thing is made of. Each is a solid with its place, its material record, its cuts, hollow and bores."""

from __future__ import annotations

from typing import Annotated, Literal, NamedTuple, get_args

from pydantic import Field, model_validator

from yellowbob.design.base import Angle, Density, Model, Name, Point
from yellowbob.design.cuts import Cut
from yellowbob.design.faults import TAGS
from yellowbob.design.holes import Bore, Shell, Shot, Slug
from yellowbob.design.plates import Cutout, Ellipsoid, Fin, Lip, TurningTail, Wings
from yellowbob.design.shape import Lofted, MeshBody, Turned

Group = Literal["wood", "foam", "resin", "plastic", "metal"]
"""Kinds of material as the shelf sorts them; rules of walls, sealing and sanding go by these."""

Shape = Annotated[
    Lofted | Turned | MeshBody | Lip | Wings | Fin | TurningTail | Ellipsoid | Cutout, Field(discriminator="kind")
]
SHAPES: tuple[type[Model], ...] = get_args(get_args(Shape)[0])
CUTS: tuple[type[Model], ...] = get_args(get_args(Cut)[0])
WEIGHTS: tuple[type[Model], ...] = (Shot, Slug)
MAIN_SHAPES = (Lofted, Turned, MeshBody)
"""Shapes that can be a body: only these take cuts and a hollow."""


def _tags(members: tuple[type[Model], ...]) -> set[str]:
    found: set[str] = set()
    for member in members:
        for field in ("kind", "form"):
            if field in member.model_fields:
                found |= set(get_args(member.model_fields[field].annotation))
    return found


TAGS |= _tags(SHAPES) | _tags(CUTS) | _tags(WEIGHTS)


class Material(Model):
    """What a piece is made of: density g/mL of *this* piece, whether it was measured, and its standard uncertainty."""

    name: Name
    group: Group = "wood"
    density_g_ml: Density = Field(description="of this piece")
    measured: bool = Field(default=False, description="true once this piece was measured, not looked up")
    density_u_g_ml: Annotated[float, Field(ge=0.0, le=5.0)] | None = Field(
        default=None, description="standard uncertainty of a measured density"
    )


class Inside(NamedTuple):
    """The closed space of a piece: the share of it that infill takes, and whether water fills the rest."""

    infill: float
    drain: bool


class Piece(Model):
    """One solid of the thing. Where two overlap the later in the list has the room: it displaces once, is weighed once.

    `at_mm` shifts the shape after `turned_deg` has turned it about x, then y, then z (right-handed); a `mirrored` piece
    stands on both sides of the centre plane. The first piece is the body: it lies as drawn, its nose at x = 0.
    """

    name: Name = "body"
    material: Material
    shape: Shape
    at_mm: Point = (0.0, 0.0, 0.0)
    turned_deg: tuple[Angle, Angle, Angle] = (0.0, 0.0, 0.0)
    mirrored: bool = False
    cuts: tuple[Cut, ...] = Field(default=(), max_length=50)
    shell: Shell | None = None
    bores: tuple[Bore, ...] = Field(default=(), max_length=50)
    glue_mm: float = Field(
        default=0.0, ge=0.0, le=1.0, description="film of glue where it sits in earlier turned pieces"
    )
    sleeve: bool = Field(
        default=False, description="rubber or heat-shrink pushed over a joint: no spigot, no wall to keep"
    )

    @model_validator(mode="after")
    def _sound(self) -> Piece:
        if (self.cuts or self.shell) and not isinstance(self.shape, MAIN_SHAPES):
            raise ValueError(
                f"a {self.shape.kind} takes no cuts and has no hollow; give it an outline of its own instead"
            )
        if self.shell is not None and isinstance(self.shape, MeshBody) and self.shape.cavity_faces:
            raise ValueError("a solid with a closed space inside takes no print shell as well; import it filled")
        return self

    @property
    def inside(self) -> Inside | None:
        """What the closed space of a print, or of a solid from CAD, holds; None for a piece without one."""
        if self.shell is not None:
            return Inside(self.shell.infill_percent / 100.0, self.shell.drain)
        if isinstance(self.shape, MeshBody) and self.shape.cavity_faces:
            return Inside(0.0, self.shape.cavity == "water")
        return None

    @property
    def as_drawn(self) -> bool:
        """Neither shifted, turned nor mirrored."""
        return self.at_mm == (0.0, 0.0, 0.0) and self.turned_deg == (0.0, 0.0, 0.0) and not self.mirrored

    @property
    def density_g_ml(self) -> float:
        """Of the piece's material, g/mL."""
        return self.material.density_g_ml

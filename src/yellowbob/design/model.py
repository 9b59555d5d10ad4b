"""The Design document: one lure or float, whole, immutable.

Lengths are mm, masses g, densities g/mL, angles degrees, as the field names say. `files.json_schema` publishes it.
"""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field, model_validator

from yellowbob.design.bands import Band
from yellowbob.design.base import Model, Name, Words, replaced
from yellowbob.design.brief import Brief, Span, Water
from yellowbob.design.hardware import Coat, Dressing, Filler, Fitting, Loop, Sort, Wire, aim
from yellowbob.design.holes import Ballast, Bore, Drilling, Shell, Shot, Slug
from yellowbob.design.pieces import MAIN_SHAPES, Cut, Material, Piece
from yellowbob.design.record import STAGES, Measurement, SetAside, Stage, Weighing
from yellowbob.design.rig import Rig
from yellowbob.design.shape import Lofted, MeshBody, Turned

__all__ = ["STAGES", "Ballast", "Band", "Bore", "Brief", "Coat", "Cut", "Design", "Dressing", "Drilling", "Filler", "Fitting",
           "Loop", "MainShape", "Material", "Measurement", "Piece", "SetAside", "Shell", "Shot", "Slug", "Sort", "Span",
           "Stage", "Water", "Weighing", "Wire", "aim", "replaced"]  # fmt: skip

FORMAT = "yellow-bob-design"
VERSION = 3

Kind = Literal[
    "popper", "wake bait", "prop bait", "pencil", "darter", "tail-spinner", "crawler",
    "stick float", "waggler", "antenna float", "dropper", "other",
]  # fmt: skip

STANDING: tuple[Kind, ...] = ("stick float", "waggler", "antenna float")
"""Floats that are to stand with their tip up under what hangs on their line."""

MainShape = Lofted | Turned | MeshBody


class Design(Model):
    """One design, whole."""

    format: Literal["yellow-bob-design"] = "yellow-bob-design"
    version: Literal[3] = 3
    name: Name
    kind: Kind = "other"
    notes: Words = ""
    brief: Brief = Brief()
    water: Water = Water()
    pieces: tuple[Piece, ...] = Field(
        min_length=1, max_length=41, description="the body first; later ones have the room"
    )
    ballast: tuple[Ballast, ...] = Field(default=(), max_length=50)
    fittings: tuple[Fitting, ...] = Field(default=(), max_length=100)
    wires: tuple[Wire, ...] = Field(default=(), max_length=20)
    coats: tuple[Coat, ...] = Field(default=(), max_length=20)
    rig: Rig | None = Field(default=None, description="a float's line and what hangs on it")
    bands: tuple[Band, ...] = Field(
        default=(), max_length=30, description="painted round its front, in the order painted"
    )
    weighings: tuple[Weighing, ...] = Field(default=(), max_length=60)
    measurements: tuple[Measurement, ...] = Field(default=(), max_length=50)
    set_aside: tuple[SetAside, ...] = Field(default=(), max_length=60)

    @model_validator(mode="after")
    def _sound(self) -> Design:
        body = self.pieces[0]
        if not isinstance(body.shape, MAIN_SHAPES):
            raise ValueError(f"pieces[0]: the body cannot be a {body.shape.kind}; put a drawn or turned one first")
        if not body.as_drawn:
            raise ValueError("pieces[0]: the body lies as drawn; shift, turn or mirror the other pieces")
        names = [p.name for p in self.pieces]
        twice = next((n for n in names if names.count(n) > 1), None)
        if twice is not None:
            raise ValueError(f"pieces: two are called '{twice}'; give each a name of its own")
        for one in self.ballast:
            if one.into and one.into not in names:
                raise ValueError(f"ballast: '{one.name}' goes into '{one.into}', which is none of {', '.join(names)}")
        for coat in self.coats:
            stray = next((n for n in coat.over if n not in names), None)
            if stray is not None:
                raise ValueError(f"coats: '{coat.name}' goes over '{stray}', which is none of {', '.join(names)}")
        return self

    @property
    def body(self) -> Piece:
        """The first and main piece."""
        return self.pieces[0]

    @property
    def shape(self) -> MainShape:
        """The body's shape."""
        shape = self.pieces[0].shape
        assert isinstance(shape, MAIN_SHAPES)
        return shape

    @property
    def stack_mm(self) -> tuple[float, float]:
        """From where to where along x it is turned, mm: the body, and of a float all that stands on its axis too."""
        turned = [(p.at_mm[0], p.shape.length_mm) for p in self.parts if isinstance(p.shape, Turned)]
        return min([0.0, *(x for x, _ in turned)]), max([self.shape.length_mm, *(x + long for x, long in turned)])

    @property
    def ends(self) -> tuple[str, str]:
        """What its front and back are called: tip and base of a standing float, nose and tail of all else."""
        return ("tip", "base") if self.kind in STANDING else ("nose", "tail")

    @property
    def parts(self) -> tuple[Piece, ...]:
        """The pieces beside the body."""
        return self.pieces[1:]

    def number_of(self, name: str) -> int:
        """Which piece has a name; the body for an empty one. Raises KeyError."""
        if not name:
            return 0
        return {p.name: k for k, p in enumerate(self.pieces)}[name]

    def but(self, **changes: Any) -> Design:
        """A copy with some fields replaced, checked again. Raises BadInput."""
        return replaced(self, **changes)

    def with_piece(self, number: int, piece: Piece) -> Design:
        """A copy with one piece exchanged."""
        return self.but(pieces=(*self.pieces[:number], piece, *self.pieces[number + 1 :]))

    def with_body(self, **changes: Any) -> Design:
        """A copy with fields of the body replaced."""
        return self.with_piece(0, replaced(self.body, **changes))

    def with_parts(self, parts: tuple[Piece, ...]) -> Design:
        """A copy with other pieces beside the body; coats that lay on nothing but pieces gone now go with them."""
        names = {self.body.name, *(p.name for p in parts)}
        left = tuple((c, tuple(n for n in c.over if n in names)) for c in self.coats)
        coats = tuple(c if over == c.over else replaced(c, over=over) for c, over in left if over or not c.over)
        return self.but(pieces=(self.body, *parts), coats=coats)

    def of_material(self, number: int = 0, **changes: Any) -> Design:
        """A copy in which fields of a piece's material are replaced."""
        piece = self.pieces[number]
        return self.with_piece(number, replaced(piece, material=replaced(piece.material, **changes)))

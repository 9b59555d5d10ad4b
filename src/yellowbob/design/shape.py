"""The body's shape as it is drawn: outlines, section exponents, a turned profile or an imported mesh.

Body axes: x aft from the nose tip, y to starboard, z up, all in mm.
"""

from __future__ import annotations

from functools import cached_property
from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, PrivateAttr, model_validator

from yellowbob.design.base import Model, Name, Place

LEAST_STEP_MM = 0.01
"""Neighbouring points of an outline stand at least this far apart along x."""


class OutlinePoint(Model):
    """One point of an outline: where it is and how the curve passes it.

    `smooth` points carry the curve through and hold it between their heights; a `corner` breaks it; `round`, on a first or
    last point, makes the curve leave it square to the body's axis, as a rounded nose does. An `arc` point carries the
    circle through itself and its neighbours on, and may bulge above them: so files before version 3 drew every smooth one.
    """

    at_mm: tuple[Place, Place] = Field(description="x aft of the nose, and the height or half-width there, mm")
    bend: Literal["smooth", "arc", "corner", "round"] = "smooth"


Outline = Annotated[tuple[OutlinePoint, ...], Field(min_length=2, max_length=400)]


def _checked(name: str, outline: tuple[OutlinePoint, ...]) -> None:
    for number, (one, two) in enumerate(pairwise(outline)):
        if two.at_mm[0] - one.at_mm[0] < LEAST_STEP_MM:
            raise ValueError(
                f"{name}: point {number + 2} at x = {two.at_mm[0]:g} mm must lie at least {LEAST_STEP_MM} mm "
                f"aft of point {number + 1} at {one.at_mm[0]:g} mm"
            )
    for number, point in enumerate(outline[1:-1]):
        if point.bend == "round":
            raise ValueError(f"{name}: point {number + 2} is 'round', which only the first and last point can be")


class SectionStation(Model):
    """How full the cross-section is at x: superellipse exponents of the back's and the belly's half.

    2 is an ellipse, larger is boxier (flat-sided, flat back), smaller is keeled (1 is a straight-sided V).
    `waist` is where the beam is widest: 0 at the belly line, 1 at the back line.
    """

    x_mm: Place
    back: float = Field(default=2.0, ge=0.6, le=20.0)
    belly: float = Field(default=2.0, ge=0.6, le=20.0)
    waist: float = Field(default=0.5, ge=0.05, le=0.95)


class Lofted(Model):
    """A carved body: side outlines (back and belly), half the plan, and sections along the length."""

    kind: Literal["lofted"] = "lofted"
    back: Outline = Field(description="top of the side view: (x, z) points")
    belly: Outline = Field(description="bottom of the side view: (x, z) points")
    plan: Outline = Field(description="half the plan: (x, half-width) points; symmetric by construction")
    sections: tuple[SectionStation, ...] = Field(default=(SectionStation(x_mm=0.0),), min_length=1, max_length=100)

    @model_validator(mode="after")
    def _sound(self) -> Lofted:
        for name, outline in (("back", self.back), ("belly", self.belly), ("plan", self.plan)):
            _checked(name, outline)
            ends = outline[0].at_mm[0], outline[-1].at_mm[0]
            if abs(ends[0]) > 1e-6 or abs(ends[1] - self.back[-1].at_mm[0]) > 1e-6:
                raise ValueError(
                    f"{name}: runs from x = {ends[0]:g} to {ends[1]:g} mm; back, belly and plan must all run "
                    f"from 0 to the same length ({self.back[-1].at_mm[0]:g} mm)"
                )
        if min(p.at_mm[1] for p in self.plan) < 0:
            raise ValueError("plan: a half-width is negative; give distances from the centre line")
        if max(p.at_mm[1] for p in self.plan) <= 0:
            raise ValueError("plan: every half-width is zero; the body has no width")
        stations = [s.x_mm for s in self.sections]
        if any(b <= a for a, b in pairwise(stations)):
            raise ValueError("sections: stations must be in order along x, each further aft than the one before")
        return self

    @property
    def length_mm(self) -> float:
        """From the nose to the tail end of the outlines, mm."""
        return self.back[-1].at_mm[0]


class Turned(Model):
    """A lathe body: one profile of radius along the axis."""

    kind: Literal["turned"] = "turned"
    profile: Outline = Field(description="(x, radius) points")

    @model_validator(mode="after")
    def _sound(self) -> Turned:
        _checked("profile", self.profile)
        if abs(self.profile[0].at_mm[0]) > 1e-6:
            raise ValueError("profile: must start at x = 0, the nose")
        if min(p.at_mm[1] for p in self.profile) < 0:
            raise ValueError("profile: a radius is negative")
        if max(p.at_mm[1] for p in self.profile) <= 0:
            raise ValueError("profile: every radius is zero; the body has no width")
        return self

    @property
    def length_mm(self) -> float:
        """From the nose to the tail end of the profile, mm."""
        return self.profile[-1].at_mm[0]


class MeshBody(Model):
    """A closed triangle mesh from CAD, already in body axes and mm.

    The last `cavity_faces` of its faces are a closed space inside it, wound outward as a solid of its own: `cavity` says
    whether it holds air and stays dry, or water.
    """

    kind: Literal["mesh"] = "mesh"
    source: Name = Field(default="mesh", description="name of the file it came from")
    vertices_mm: tuple[tuple[Place, Place, Place], ...] = Field(min_length=4, max_length=400_000)
    faces: tuple[tuple[int, int, int], ...] = Field(min_length=4, max_length=800_000)
    cavity_faces: int = Field(default=0, ge=0, le=800_000)
    cavity: Literal["air", "water"] = "air"
    _looked_through: bool = PrivateAttr(default=False)

    @model_validator(mode="after")
    def _sound(self) -> MeshBody:
        if self.cavity_faces and not 4 <= self.cavity_faces <= len(self.faces) - 4:
            raise ValueError(f"cavity_faces: {self.cavity_faces} of {len(self.faces)} faces leave no body")
        if self._looked_through:  # at every edit of what it is part of it is looked through again
            return self
        count = len(self.vertices_mm)
        for number, face in enumerate(self.faces):
            if min(face) < 0 or max(face) >= count:
                raise ValueError(f"faces: triangle {number + 1} names vertex {max(face)}, but there are {count}")
        self._looked_through = True
        return self

    @cached_property
    def length_mm(self) -> float:
        """Extent along x, mm."""
        xs = [v[0] for v in self.vertices_mm]
        return max(xs) - min(xs)

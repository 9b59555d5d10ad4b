"""What is fitted to a body and laid over it: hooks and other hardware, wires, coats."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field, model_validator

from yellowbob.design.base import Angle, Density, Film, Length, LengthOrNone, Mass, Model, Name, Place, Point

Sort = Literal[
    "hook", "ring", "eye", "swivel", "prop", "bead", "lip", "other", "tie", "screw eye", "blade", "ticker", "washer",
    "grommet", "sleeve", "jig",
]  # fmt: skip


Inertia = Annotated[float, Field(ge=0.0, le=1e12)]
"""About one axis, g·mm²: of a ton of metal a metre wide at most."""


class Filler(Model):
    """What closes a hole."""

    material: Name
    density_g_ml: Density


class Dressing(Model):
    """Feather, hair, foam or tinsel tied on a hook: dry and soaked mass, the fibres' own density, drag area (Cd times
    area)."""

    stuff: Name = "feather"
    dry_g: Mass
    soaked_g: Mass = Field(description="with the water it holds once it is wet")
    density_g_ml: Density = 1.2
    drag_mm2: Annotated[float, Field(ge=0.0, le=1e6)] = 0.0

    @model_validator(mode="after")
    def _sound(self) -> Dressing:
        if self.soaked_g < self.dry_g:
            raise ValueError(f"weighs {self.dry_g:g} g dry and {self.soaked_g:g} g soaked: it cannot lose by soaking")
        return self


class Fitting(Model):
    """Hardware as a mass at a place: hooks, rings, eyes, props, swivels, a jig on its leader.

    A hanging one acts at its eye (`at_mm`); `reach_mm` is how far it hangs below. A fixed one points along `aim_deg` in the
    side view: 0 aft, 90 up, -90 down. `volume_ml` is the water it pushes aside when under, so 0 for what is buried in the
    body; `in_wood_ml` is the wood it takes the place of, centred half of `long_mm` along its aim.
    """

    name: Name
    sort: Sort = "other"
    stock: Annotated[str, Field(max_length=80)] = ""
    at_mm: Point
    mass_g: Mass
    volume_ml: Annotated[float, Field(ge=0.0, le=10_000.0)] = 0.0
    hanging: bool = False
    reach_mm: LengthOrNone = 0.0
    span_mm: LengthOrNone = Field(
        default=0.0, description="gape of a hook, diameter of a ring or prop, width of a blade"
    )
    aim_deg: Angle = Field(default=-90.0, description="where a fixed one points, in the side view")
    point: Literal["down", "up"] = Field(default="down", description="of a fixed single hook: down or forward, or up")
    points: int = Field(default=3, ge=1, le=3, description="of a hook: treble 3, double 2, single 1")
    wire_mm: LengthOrNone = Field(default=0.0, description="thickness of a hook's wire")
    long_mm: LengthOrNone = Field(
        default=0.0, description="along the wire or into the wood: prop, bead, washer, sleeve"
    )
    play_mm: LengthOrNone = Field(default=0.0, description="how far a prop can slide on its wire, aft of at_mm")
    blade_deg: Angle = Field(default=0.0, description="of a prop's or spinner's blades to the plane of the disc")
    hand: Literal["right", "left"] = "right"
    in_wood_ml: Annotated[float, Field(ge=0.0, le=10_000.0)] = 0.0
    drag_mm2: Annotated[float, Field(ge=0.0, le=1e6)] = Field(default=0.0, description="drag area, Cd times area")
    inertia_g_mm2: tuple[Inertia, Inertia, Inertia] = Field(
        default=(0.0, 0.0, 0.0), description="own inertia about x, y and z through at_mm"
    )
    dressing: Dressing | None = Field(default=None, description="tied on a hook; not in its mass")


class Loop(Model):
    """An eye bent at an end of a wire. `turns` are the wraps of its tail round the wire, or of the binding."""

    end: Literal["fore", "aft"]
    kind: Literal["wraps", "bound", "welded"] = "wraps"
    inner_mm: Length = 3.0
    turns: Annotated[float, Field(ge=0.0, le=30.0)] = 3.0


class Wire(Model):
    """A bent wire along its path, buried in the body.

    `route` says how it gets there: `bored` in a hole of `hole_mm` (the wire's own diameter when 0), `grooved` from the
    belly in a groove so wide, or between the halves of a `split` body. What the wire leaves free is closed by `filler`,
    or holds air.
    """

    name: Name = "wire"
    material: Name = "stainless wire"
    density_g_ml: Density = 7.9
    diameter_mm: Length
    path_mm: tuple[Point, ...] = Field(min_length=2, max_length=200)
    route: Literal["bored", "grooved", "split"] = "bored"
    hole_mm: LengthOrNone = 0.0
    filler: Filler | None = None
    loops: tuple[Loop, ...] = Field(default=(), max_length=2)

    @property
    def bore_mm(self) -> float:
        """Width of the hole or groove."""
        return max(self.hole_mm, self.diameter_mm) if self.route != "split" else self.diameter_mm


class Coat(Model):
    """One kind of finish: number of coats and dry film of each, over the whole outside or a region of it.

    `over` names the pieces it is laid on, where they show; without any it is laid on the body.

    `soak_g_m2` is what open wood drinks once, beside the film.
    """

    name: Name
    stock: Annotated[str, Field(max_length=80)] = ""
    coats: int = Field(default=1, ge=1, le=60)
    film_mm: Film = Field(description="dry film of one coat")
    density_g_ml: Density = 1.2
    region: Literal["all", "back", "belly"] = Field(default="all", description="above or below the axis (z = 0)")
    from_mm: Place | None = Field(default=None, description="only aft of here")
    to_mm: Place | None = Field(default=None, description="only forward of here")
    over: Annotated[tuple[Name, ...], Field(max_length=50)] = Field(
        default=(), description="pieces it is laid on, by name; empty for the body alone"
    )
    soak_g_m2: Annotated[float, Field(ge=0.0, le=5000.0)] = 0.0

    @property
    def everywhere(self) -> bool:
        """Whether it covers the whole outside."""
        return self.region == "all" and self.from_mm is None and self.to_mm is None


def aim(fitting: Fitting) -> tuple[float, float, float]:
    """Unit vector a fixed fitting points along, body axes."""
    a = math.radians(fitting.aim_deg)
    return (math.cos(a), 0.0, math.sin(a))


def line_tie(fittings: tuple[Fitting, ...]) -> Fitting | None:
    """The fitting the line is tied to: a tie, an eye called tie, else the foremost eye; None without any."""
    ties = [f for f in fittings if f.sort == "tie"]
    ties += [f for f in fittings if f.sort in ("eye", "screw eye") and "tie" in f.name.lower()]
    ties += sorted((f for f in fittings if f.sort in ("eye", "screw eye")), key=lambda f: f.at_mm[0])
    return ties[0] if ties else None

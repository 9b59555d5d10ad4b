"""One design's results, worked out on demand and kept until the part they rest on changes.

shape -> holes -> weights -> afloat -> rests. The window and the command line ask here and nowhere else.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import dataclass
from typing import Any, TypeVar

import numpy as np

from yellowbob.afloat.landing import RestMap, rest_map
from yellowbob.afloat.rest import Afloat, Rest, all_rests, rest_near
from yellowbob.design.model import Design
from yellowbob.errors import NoRest
from yellowbob.fitout.budget import Budget, budget, target_of
from yellowbob.fitout.clearances import Clearance, fitting_clearances
from yellowbob.fitout.in_wood import wood_clearances
from yellowbob.lines.build import blank_mesh, body_mesh
from yellowbob.lines.hollow import hollow_of
from yellowbob.lines.mesh import Mesh, grown
from yellowbob.lines.plates import part_solid
from yellowbob.lines.solids import subtract, unite
from yellowbob.lines.walls import ThinWall, least_wall_mm, thin_walls
from yellowbob.water import WaterState, named_water
from yellowbob.weights.finish import film_mm
from yellowbob.weights.holes import Holes, drill_all, seat_all
from yellowbob.weights.slip import (
    Slip,
    ballast_lines,
    body_lines,
    coat_lines,
    hardware_lines,
    part_lines,
    weighed_lines,
)
from yellowbob.weights.wet import wet_point, wet_run
from yellowbob.weights.wires import Routed, route

T = TypeVar("T")


@dataclass(frozen=True)
class Buoyancy:
    """What it weighs against what it can push aside; masses g, volumes mL."""

    mass_g: float
    hull_volume_ml: float
    lift_g: float
    """mass of all the water that hull and hardware can push aside"""
    displaced_ml: float
    """water pushed aside at rest; all it can when it sinks"""
    floats: bool

    @property
    def reserve_g(self) -> float:
        """Spare buoyancy; negative for a sinker."""
        return self.lift_g - self.mass_g

    @property
    def reserve_percent(self) -> float:
        """Reserve as per cent of the displacement (the mass)."""
        return 100.0 * self.reserve_g / self.mass_g

    @property
    def sinking_weight_g(self) -> float:
        """Weight under water of a sinker; 0 for what floats."""
        return max(0.0, -self.reserve_g)


class Study:
    """Results of one immutable design. `before` hands over whatever still holds from an earlier one."""

    def __init__(self, design: Design, before: Study | None = None) -> None:
        self.design = design
        self._kept: dict[str, tuple[Hashable, Any]] = dict(before._kept) if before else {}

    def _keep(self, name: str, rests_on: Hashable, work: Callable[[], T]) -> T:
        kept = self._kept.get(name)
        if kept is not None and kept[0] == rests_on:
            value: T = kept[1]
            return value
        value = work()
        self._kept[name] = (rests_on, value)
        return value

    @property
    def water(self) -> WaterState:
        water = self.design.water
        return named_water(water.name, water.temperature_c, water.salinity_g_kg)

    @property
    def outer(self) -> Mesh:
        """The body's outer surface, cuts made, bare of finish."""
        body = self.design.body
        return self._keep("outer", (body.shape, body.cuts), lambda: body_mesh(body))

    @property
    def parts(self) -> tuple[Mesh, ...]:
        """Solids of the parts beside the body, in the design's order."""
        parts = self.design.parts
        return self._keep("parts", parts, lambda: tuple(part_solid(p) for p in parts))

    @property
    def whole(self) -> Mesh:
        """Body and parts as one surface, bare of finish: what is seen."""
        outer, parts = self.outer, self.parts
        return self._keep("whole", (outer, parts), lambda: unite((outer, *parts)))

    @property
    def thin_walls(self) -> tuple[ThinWall, ...]:
        """Walls that cuts have left thinner than the material's least."""
        outer, body = self.outer, self.design.body
        least = least_wall_mm(body.material)
        return self._keep("thin", (outer, least), lambda: thin_walls(outer, blank_mesh(body.shape), least))

    @property
    def thin_known(self) -> bool:
        """Whether `thin_walls` is already worked out for the body as it is."""
        kept = self._kept.get("thin")
        return kept is not None and kept[0] == (self.outer, least_wall_mm(self.design.body.material))

    @property
    def hollow(self) -> Mesh | None:
        """The hollow of a printed body, None for a solid one."""
        outer, shell = self.outer, self.design.body.shell
        if shell is None:
            return None
        return self._keep("hollow", (outer, shell), lambda: hollow_of(outer, shell).mesh)

    @property
    def holes(self) -> Holes:
        d = self.design
        outer, parts = self.outer, self.parts
        seats = self._keep("seats", (outer, parts), lambda: seat_all(outer, parts))
        rests_on = (outer, seats, d.bores, d.ballast)
        return self._keep("holes", rests_on, lambda: drill_all(outer, d.bores, d.ballast, seats))

    @property
    def wires(self) -> tuple[Routed, ...]:
        """Wires as they lie in the body."""
        outer, wires = self.outer, self.design.wires
        return self._keep("wires", (outer, wires), lambda: tuple(route(w, outer) for w in wires))

    @property
    def clearances(self) -> tuple[Clearance, ...]:
        """Everything that can touch something else, and the walls left around holes."""
        d, outer, holes, wires = self.design, self.outer, self.holes, self.wires
        half_beam = float(np.abs(outer.bounds[:, 1]).max())
        wood = self._keep(
            "wood clearances",
            (outer, holes, wires, d.fittings, d.body.material, d.body.cuts),
            lambda: tuple(wood_clearances(d, outer, holes, wires)),
        )
        return (*fitting_clearances(d, half_beam), *wood)

    @property
    def budget(self) -> Budget:
        """What may still go in, against the brief's mass."""
        slip = self.slip
        target, _ = target_of(self.design, slip.finished.mass_g)
        return budget(slip, self.buoyancy.lift_g, target)

    @property
    def slip(self) -> Slip:
        d, wires = self.design, self.wires
        outer, holes, parts, hollow = self.outer, self.holes, self.parts, self.hollow
        return self._keep(
            "slip",
            (
                outer,
                holes,
                parts,
                hollow,
                d.body.shell,
                d.body.material,
                d.body.density_g_ml,
                d.fittings,
                wires,
                d.coats,
                d.readings,
            ),
            lambda: Slip(
                tuple(
                    weighed_lines(
                        body_lines(outer, d.body, holes.bores, holes.ballast, holes.seats, hollow)
                        + part_lines(d.parts, parts)
                        + hardware_lines(d.fittings, wires, d.body.density_g_ml)
                        + ballast_lines(holes.ballast)
                        + coat_lines(outer, d.body.cuts, d.coats),
                        d.readings,
                    )
                )
            ),
        )

    @property
    def hull(self) -> Mesh:
        """The displacing surface: the body with its finish on, and its parts, less hollows open to the water."""
        d = self.design
        outer, holes, parts, hollow = self.outer, self.holes, self.parts, self.hollow
        finished = self._keep("finished", (outer, d.coats), lambda: grown(outer, film_mm(d.coats)))
        drained = hollow if hollow is not None and d.body.shell is not None and d.body.shell.drain else None
        voids = [*holes.voids, *([drained] if drained is not None else [])]
        joined = self._keep("joined", (finished, parts), lambda: unite((finished, *parts)))
        if not voids:
            return joined
        return self._keep("hull", (joined, holes, drained), lambda: subtract(joined, voids))

    @property
    def afloat(self) -> Afloat:
        """The finished build in its water."""
        hull, slip, density = self.hull, self.slip, self.water.density_g_mm3
        mass = slip.finished
        wires = self._keep(
            "wet wires", self.wires, lambda: tuple(wet_run(r, w.wire.diameter_mm) for w in self.wires for r in w.runs)
        )
        points = tuple(p for p in (*map(wet_point, self.design.fittings), *wires) if p is not None)
        centre = (float(mass.centre_mm[0]), float(mass.centre_mm[1]), float(mass.centre_mm[2]))
        return self._keep(
            "afloat",
            (hull, slip, density, points),
            lambda: Afloat(hull, mass.mass_g, centre, density, points),
        )

    @property
    def buoyancy(self) -> Buoyancy:
        afloat = self.afloat
        lift = afloat.volume_mm3 * afloat.density_g_mm3
        displaced = min(afloat.mass_g / afloat.density_g_mm3, afloat.volume_mm3) / 1000.0
        return Buoyancy(afloat.mass_g, afloat.hull.volume_mm3 / 1000.0, lift, displaced, afloat.floats)

    @property
    def rests(self) -> tuple[Rest, ...]:
        """All rest attitudes, lowest energy first; empty for a sinker."""
        afloat = self.afloat
        return self._keep("rests", afloat, lambda: all_rests(afloat) if afloat.floats else ())

    @property
    def rests_known(self) -> bool:
        """Whether `rests` is already worked out for the design as it is."""
        kept = self._kept.get("rests")
        return kept is not None and kept[0] == self.afloat

    def accept_rests(self, afloat: Afloat, rests: tuple[Rest, ...]) -> bool:
        """Take rests worked out elsewhere; False when they belong to a build that is no longer this one."""
        if afloat is not self.afloat:
            return False
        self._kept["rests"] = (afloat, rests)
        return True

    @property
    def landings(self) -> RestMap:
        """Every landing attitude and where it ends; without rests for a sinker."""
        afloat, rests = self.afloat, self.rests
        return self._keep("landings", (afloat, rests), lambda: rest_map(afloat, rests))

    @property
    def landings_known(self) -> bool:
        """Whether `landings` is already worked out for the design as it is."""
        kept = self._kept.get("landings")
        return self.rests_known and kept is not None and kept[0] == (self.afloat, self.rests)

    def accept_landings(self, found: RestMap) -> bool:
        """Take a map worked out elsewhere; False when it belongs to a build that is no longer this one."""
        if found.afloat is not self.afloat:
            return False
        self._kept["landings"] = ((self.afloat, self.rests), found)
        return True

    def share_of(self, rest: Rest) -> float:
        """Share of all landings that end in one of its rests."""
        return self.landings.shares[self.rests.index(rest)]

    @property
    def upright_rest(self) -> Rest | None:
        """The rest it is meant for: the one nearest to right side up, None for a sinker."""
        return max(self.rests, key=lambda r: (round(r.up[2], 6), -r.energy_nj), default=None)

    def rest_followed(self, last: Rest | None) -> Rest | None:
        """The rest reached from the last one shown; None for a sinker."""
        up = last.up if last is not None else (0.0, 0.0, 1.0)
        try:
            return rest_near(self.afloat, up)
        except NoRest:
            return None

    @property
    def inertia_g_mm2(self) -> np.ndarray[Any, Any]:
        """Inertia tensor of the finished build about its centre of gravity."""
        return self.slip.finished.inertia_g_mm2

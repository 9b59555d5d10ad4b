"""Results afloat: hull, buoyancy, rests, landings."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from yellowbob.afloat.landing import RestMap, rest_map
from yellowbob.afloat.line import UP_TIP, submerged_g, under_load
from yellowbob.afloat.remembered import keep, recall
from yellowbob.afloat.rest import Afloat, Rest, all_rests, rest_near, up_from
from yellowbob.afloat.rest_picture import RestPicture, rest_picture
from yellowbob.design.model import STANDING, Design, Water
from yellowbob.design.rig import Rig
from yellowbob.ground.errors import BadShape, NoRest
from yellowbob.ground.water import WaterState, named_water
from yellowbob.lines.mesh import Mesh, grown
from yellowbob.lines.solids import common, overlap, subtract, to_manifold
from yellowbob.lines.stacked import put_together
from yellowbob.study.engine import Study, drawn, result, slow
from yellowbob.study.lines import hollows, insides, outers
from yellowbob.study.weights import fittings, holes, slip, wires
from yellowbob.weights.finish import film_mm
from yellowbob.weights.wet import wet_infill, wet_parts, wet_point

LEAST_OPENING_MM3 = 1e-3
LEAST_G = 1e-12
"""What weighs less is nothing."""


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


@drawn
def drawn_water(design: Design) -> Water:
    """The water it fishes in, as the design says."""
    return design.water


@result
def water(study: Study) -> WaterState:
    """The water it fishes in, its density g/mm³."""
    asked = drawn_water(study)
    return named_water(asked.name, asked.temperature_c, asked.salinity_g_kg)


@result
def water_density(study: Study) -> float:
    """Of the water, g/mm³."""
    return water(study).density_g_mm3


@drawn
def films(design: Design) -> tuple[float, ...]:
    """Dry film all round each piece, mm."""
    return tuple(
        film_mm(design.coats, p.name) + (0.0 if number else film_mm(design.coats))
        for number, p in enumerate(design.pieces)
    )


@result
def finished(study: Study) -> tuple[Mesh, ...]:
    """The pieces' outer surfaces with their finish on, mm."""
    rows = tuple(zip(outers(study), films(study), strict=True))
    return study.each("finished", rows, lambda row: grown(*row))


@result
def joined(study: Study) -> Mesh:
    """The finished pieces as one surface, mm."""
    return put_together(finished(study))


@result
def let_in(study: Study) -> tuple[tuple[str, ...], ...]:
    """For every piece's closed space, the holes and cuts open to the water that reach into it and flood it, by name."""
    open_ones = [
        *((b.bore.name, b.void) for b in holes(study).bores), *((b.ballast.name, b.void) for b in holes(study).ballast)
    ]  # fmt: skip
    found: list[tuple[str, ...]] = []
    for hollow, opened in zip(hollows(study), sawn(study), strict=True):
        if hollow is None:
            found.append(())
            continue
        names = [name for name, void in open_ones if void is not None and _reaches(void, hollow)]
        found.append((*names, *(["a cut"] if opened else [])))
    return tuple(found)


@result
def sawn(study: Study) -> tuple[bool, ...]:
    """For every piece, whether a cut opens its closed space."""
    return tuple(
        hollow is not None and subtract(hollow, [surface]).volume_mm3 > LEAST_OPENING_MM3
        for surface, hollow in zip(outers(study), hollows(study), strict=True)
    )


def _reaches(void: Mesh, hollow: Mesh) -> bool:
    return overlap(void, hollow) and common(to_manifold(void), hollow).volume_mm3 > LEAST_OPENING_MM3


@result
def drained(study: Study) -> tuple[tuple[Mesh, float], ...]:
    """Spaces that the water fills, by a drain or through an opening, each with the share that infill leaves dry."""
    found = zip(hollows(study), insides(study), let_in(study), strict=True)
    return tuple(
        (hollow, inside.infill)
        for hollow, inside, opened in found if hollow is not None and inside is not None and (inside.drain or opened)
    )  # fmt: skip


@result
def hull(study: Study) -> Mesh:
    """The displacing surface: the body with its finish on, the other pieces, less hollows open to the water. mm."""
    voids = [*holes(study).voids, *(hollow for hollow, _ in drained(study))]
    return subtract(joined(study), voids) if voids else joined(study)


@drawn
def rig(design: Design) -> Rig | None:
    """The line of a float; None where there is none."""
    return design.rig


@drawn
def stands_by_kind(design: Design) -> bool:
    """Whether it is a float that is to stand with its tip up, by its kind."""
    return design.kind in STANDING


@result
def line_at(study: Study) -> tuple[float, float, float]:
    """Where the line pulls, body axes, mm: as the rig says, else the middle of the lowest end."""
    line = rig(study)
    if line is not None and line.at_mm is not None:
        return line.at_mm
    vertices = hull(study).vertices
    most = float(vertices[:, 0].max())
    x, y, z = vertices[vertices[:, 0] > most - 1e-6].mean(axis=0)
    return (float(x), float(y), float(z))


@result
def line_load_g(study: Study) -> float:
    """What hangs on the line, under water, g; 0 without a rig."""
    line, water_g_ml = rig(study), 1000.0 * water_density(study)
    hung = line.hung if line is not None else ()
    return sum(one.count * submerged_g(one.mass_g, one.density_g_ml, water_g_ml) for one in hung)


@result
def afloat(study: Study) -> Afloat:
    """The finished build in its water, with what hangs on its line. Raises BadShape where nothing of it is left."""
    load = line_load_g(study)
    return under_load(unloaded(study), max(load, 0.0), line_at(study)) if load else unloaded(study)


@result
def unloaded(study: Study) -> Afloat:
    """The finished build in its water by itself. Raises BadShape where nothing of it is left."""
    mass = slip(study).finished
    if not mass.mass_g > LEAST_G:
        raise BadShape(
            f"nothing is left of it: all that was taken away leaves {mass.mass_g:.3g} g; make holes, cuts or slots smaller"
        )
    if float(np.linalg.eigvalsh(mass.inertia_g_mm2)[0]) <= 0.0:
        raise BadShape(
            "more wood is taken away far off than there is: a screw eye or sleeve reaches out of the body; make it shorter"
        )
    if not len(hull(study).faces) or hull(study).volume_mm3 <= 0.0:
        raise BadShape("it pushes no water aside: the water fills all of it through its open holes; make them smaller")
    runs = (p for wire in wires(study) for p in wet_parts(wire))
    infills = (p for hollow, share in drained(study) for p in wet_infill(hollow, share))
    points = tuple(p for p in (*map(wet_point, fittings(study)), *runs, *infills) if p is not None)
    centre = (float(mass.centre_mm[0]), float(mass.centre_mm[1]), float(mass.centre_mm[2]))
    return Afloat(hull(study), mass.mass_g, centre, water_density(study), points)


@result
def buoyancy(study: Study) -> Buoyancy:
    """Mass against lift."""
    a = afloat(study)
    displaced = min(a.mass_g / a.density_g_mm3, a.volume_mm3) / 1000.0
    return Buoyancy(a.mass_g, a.hull.volume_mm3 / 1000.0, a.volume_mm3 * a.density_g_mm3, displaced, a.floats)


def _recalled(study: Study) -> tuple[Rest, ...] | None:
    build = afloat(study)
    return recall(build) if build.floats else ()


@slow("looking for its rests", recall=_recalled)
def rests(study: Study) -> tuple[Rest, ...]:
    """All rest attitudes, lowest energy first; empty for a sinker."""
    build = afloat(study)
    if not build.floats:
        return ()
    known = recall(build)
    if known is not None:
        return known
    found = all_rests(build)
    keep(build, found)
    return found


@slow("following every landing")
def landings(study: Study) -> RestMap:
    """Every landing attitude and where it ends; without rests for a sinker."""
    return rest_map(afloat(study), rests(study))


@slow("drawing where every landing ends")
def landing_picture(study: Study) -> RestPicture:
    """The rest map as a picture; meaningless for a sinker."""
    return rest_picture(landings(study))


def wanted_up(study: Study) -> tuple[float, float, float]:
    """Where up should point at rest, body axes: by the middle of the brief's pitch, else by its kind: tip up for a standing
    float, right side up for all others."""
    wanted = study.design.brief.pitch_deg
    if wanted is None:
        return UP_TIP if stands_by_kind(study) else (0.0, 0.0, 1.0)
    x, y, z = up_from(math.radians(wanted.middle), 0.0)
    return (float(x), float(y), float(z))


@result
def upright_rest(study: Study) -> Rest | None:
    """The rest it is meant for: the one nearest to the attitude wanted, None for a sinker."""
    wanted = wanted_up(study)
    return max(rests(study), key=lambda r: (round(float(np.dot(r.up, wanted)), 6), -r.energy_nj), default=None)


@result
def upright_share(study: Study) -> float:
    """Share of all landings that end in the rest it is meant for; 0 for a sinker."""
    rest = upright_rest(study)
    return 0.0 if rest is None else share_of(study, rest)


@result
def inertia_g_mm2(study: Study) -> np.ndarray[Any, Any]:
    """(3, 3) inertia tensor of the finished build about its centre of gravity, g·mm²."""
    return slip(study).finished.inertia_g_mm2


def share_of(study: Study, rest: Rest) -> float:
    """Share of all landings that end in one of its rests."""
    return landings(study).shares[rests(study).index(rest)]


def rest_followed(study: Study, last: Rest | None) -> Rest | None:
    """The rest reached from the last one shown; None for a sinker."""
    up = last.up if last is not None else (0.0, 0.0, 1.0)
    try:
        return rest_near(afloat(study), up)
    except NoRest:
        return None

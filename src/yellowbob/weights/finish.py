"""The finish: film by coat and region, what open wood drinks, what pools in cups; and films learnt from weighings."""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np

from yellowbob.design.cuts import Cup, Cut
from yellowbob.design.model import Coat
from yellowbob.ground.errors import BadInput
from yellowbob.lines.clipped import below
from yellowbob.lines.cutting import cup_axis
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.stacked import showing
from yellowbob.weights.mass import MassProperties, of_point, of_skin, total


def film_mm(coats: tuple[Coat, ...], piece: str = "") -> float:
    """Dry films together of the coats all round one piece, by its name, "" for the body of coats that name no piece."""
    return sum(c.film_mm * c.coats for c in coats if c.everywhere and (piece in c.over if c.over else not piece))


def skin_of(outers: Mapping[str, Mesh], coat: Coat) -> Mesh:
    """The surface that a coat covers, mm: the body's whole one (the first of the pieces by name), or what shows of the
    pieces that it is laid on, cut exactly at the region's edges. Open, but for a coat all over the body."""
    if not coat.over:
        return region_of(next(iter(outers.values())), coat)
    laid = [mesh for name, mesh in outers.items() if name in coat.over]
    return region_of(showing(laid, [mesh for name, mesh in outers.items() if name not in coat.over]), coat)


def region_of(outer: Mesh, coat: Coat) -> Mesh:
    """The part of a surface that a coat covers (an open surface), cut exactly at the region's edges."""
    if coat.everywhere:
        return outer
    corners = outer.corners
    if coat.from_mm is not None:
        corners = below(corners, np.array([-1.0, 0.0, 0.0]), -coat.from_mm)
    if coat.to_mm is not None:
        corners = below(corners, np.array([1.0, 0.0, 0.0]), coat.to_mm)
    if coat.region != "all":
        corners = below(corners, np.array([0.0, 0.0, -1.0 if coat.region == "back" else 1.0]), 0.0)
    return Mesh(corners.reshape(-1, 3), np.arange(3 * len(corners), dtype=np.int32).reshape(-1, 3))


def of_coat(skin: Mesh, coat: Coat) -> MassProperties:
    """What a coat weighs on the surface that it covers: area x (film x coats x density + what soaks in)."""
    if not len(skin.faces):
        return of_point(0.0, np.zeros(3))
    # the soaked mass per area as a film of the same density: 1 g/m² is 1 µm at 1 g/mL
    soak_mm = coat.soak_g_m2 / coat.density_g_ml / 1000.0
    return of_skin(skin, coat.film_mm * coat.coats + soak_mm, coat.density_g_ml)


def cap_volume_mm3(cup: Cup, depth_mm: float) -> float:
    """Volume of a cup so deep below its rim: the spherical cap πh(3a² + h²)/6, stretched sideways when it is elliptical."""
    a = cup.diameter_mm / 2
    return math.pi * depth_mm * (3 * a * a + depth_mm**2) / 6.0 * (cup.width_mm or cup.diameter_mm) / cup.diameter_mm


def pool_of(cut: Cut, density_g_ml: float) -> MassProperties | None:
    """Finish that pools in a cup until it is as shallow as wanted, lying at the bottom; None for anything else."""
    if not isinstance(cut, Cup) or cut.pool_mm <= 0:
        return None
    whole = cut.depth_mm + cut.pool_mm
    mass = (cap_volume_mm3(cut, whole) - cap_volume_mm3(cut, cut.depth_mm)) * density_g_ml / 1000.0
    at = np.array([cut.rim_x_mm, 0.0, cut.z_mm]) + (cut.depth_mm + cut.pool_mm / 2) * cup_axis(cut)
    return of_point(mass, at)


def pools(cuts: tuple[Cut, ...], coats: tuple[Coat, ...]) -> MassProperties | None:
    """All that pools, at the density of the last coat; None without cups, pooling or coats."""
    if not coats:
        return None
    found = [p for p in (pool_of(cut, coats[-1].density_g_ml) for cut in cuts) if p is not None]
    return total(found) if found else None


def film_from_weighings(before_g: float, after_g: float, area_mm2: float, density_g_ml: float, coats: int) -> float:
    """Dry film of one coat, mm, from the mass before and after: Δm/(ρ·A·n). Raises BadInput when it lost mass."""
    if after_g <= before_g:
        raise BadInput(
            f"after ({after_g:g} g) is not heavier than before ({before_g:g} g); weigh again, dry both times"
        )
    if area_mm2 <= 0 or density_g_ml <= 0 or coats < 1:
        raise BadInput("the film needs an area, a density and at least one coat")
    return (after_g - before_g) / (density_g_ml / 1000.0 * area_mm2 * coats)

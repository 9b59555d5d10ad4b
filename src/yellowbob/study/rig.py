"""Results of a float's line: how the float cocks under it, and what it carries."""

from __future__ import annotations

from dataclasses import replace

from yellowbob.afloat.line import Capacity, Cocking, capacity, cocking, in_air_g, tip_mm
from yellowbob.afloat.rest import Rest, rest_near
from yellowbob.design.bands import Band
from yellowbob.design.model import Design
from yellowbob.design.rig import Hung, Rig
from yellowbob.ground.water import named_water
from yellowbob.study.afloat import afloat, line_at, rig, unloaded, upright_rest, water_density
from yellowbob.study.engine import Study, drawn, slow


@drawn
def bands(design: Design) -> tuple[Band, ...]:
    """Painted bands, as listed."""
    return design.bands


@slow("cocking it load by load")
def cocked(study: Study) -> Cocking:
    """From no load to the one that sinks it. Raises BadInput for what sinks by itself."""
    return cocking(unloaded(study), line_at(study))


@slow("finding what it carries")
def carried(study: Study) -> Capacity:
    """The load that leaves the rig's tip showing. Raises BadInput where none does."""
    return capacity(unloaded(study), line_at(study), tip_wanted_mm(study))


def tip_of_rest(study: Study, rest: Rest) -> float:
    """Height of the tip's end above the water at a rest, mm."""
    return tip_mm(unloaded(study), rest.up, rest.height_mm)


def tip_wanted_mm(study: Study) -> float:
    """How much of the tip is to show, mm: as the rig says, else its usual."""
    line = rig(study)
    return line.tip_mm if line is not None else float(Rig.model_fields["tip_mm"].default)


def shot_in_air_g(study: Study, pull_g: float) -> float:
    """The shot, weighed in air, that pulls so much under water: of what most of its line's weight is, if that sinks, else
    lead."""
    line, water = rig(study), 1000.0 * water_density(study)
    hung = [h for h in (line.hung if line is not None else ()) if h.density_g_ml > 1.5 * water]
    heaviest = max(hung, key=lambda h: h.count * h.mass_g, default=None)
    density = heaviest.density_g_ml if heaviest is not None else float(Hung.model_fields["density_g_ml"].default)
    return in_air_g(pull_g, density, water)


SEA_C, WARM_C = 14.0, 30.0
"""The sea, and the warm fresh water, that a build is held against."""


@slow("floating it in the sea")
def rest_in_the_sea(study: Study) -> Rest | None:
    """Where the rest it is meant for goes in sea water; None for a sinker."""
    rest = upright_rest(study)
    sea = named_water("sea", SEA_C).density_g_mm3
    if rest is None or not replace(afloat(study), density_g_mm3=sea).floats:
        return None
    return rest_near(replace(afloat(study), density_g_mm3=sea), rest.up)

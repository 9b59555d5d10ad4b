"""A design in rough water: in a chop, and held by its line in a current."""

from __future__ import annotations

from yellowbob.action.waves import Current, Rough, chop, in_current
from yellowbob.ground.errors import BadInput
from yellowbob.study import Study, of


def in_rough_water(
    study: Study,
    height_mm: float,
    length_mm: float | None = None,
    current_m_s: float | None = None,
    line_deg: float = 45.0,
) -> tuple[Rough, Current | None]:
    """Waves of a height and length, mm, and a current, m/s, at the rest it is meant for. Raises BadInput for a sinker."""
    waves = chop(height_mm, length_mm, of.water_density(study))
    ready = of.ridden(study)
    if ready is None:
        raise BadInput(f"it sinks, {-of.buoyancy(study).reserve_g:.2f} g too heavy: no wave moves it")
    if current_m_s is not None and not ready.periods.stands:
        raise BadInput("a current is worked out for what stands in it, its length square to the flow; this one lies")
    if current_m_s is None:
        return ready.on(waves), None
    return ready.on(waves), in_current(ready.afloat, ready.rest, of.line_at(study), current_m_s, line_deg)

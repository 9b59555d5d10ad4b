"""Results of a float's line: how the float cocks under it, and what it carries."""

from __future__ import annotations

from yellowbob.afloat.line import Capacity, Cocking, capacity, cocking, tip_mm
from yellowbob.afloat.rest import Rest
from yellowbob.design.bands import Band
from yellowbob.design.model import Design
from yellowbob.design.rig import Rig
from yellowbob.study.afloat import line_at, rig, unloaded
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

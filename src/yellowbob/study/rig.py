"""Results of a float's line: where it pulls, what hangs on it, how the float cocks under it."""

from __future__ import annotations

import numpy as np

from yellowbob.afloat.line import Capacity, Cocking, Point, capacity, cocking, submerged_g, under_load
from yellowbob.afloat.rest import Afloat
from yellowbob.design.model import Design
from yellowbob.design.rig import Hung, Rig
from yellowbob.study.afloat import afloat, hull, water_density
from yellowbob.study.engine import Study, drawn, result, slow


@drawn
def rig(design: Design) -> Rig | None:
    """The line of a float; None where there is none."""
    return design.rig


def hung_g(study: Study, one: Hung) -> float:
    """What one entry of the line pulls with under water, all its pieces together, g."""
    return one.count * submerged_g(one.mass_g, one.density_g_ml, 1000.0 * water_density(study))


@result
def line_at(study: Study) -> Point:
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
    line = rig(study)
    return 0.0 if line is None else sum(hung_g(study, one) for one in line.hung)


@result
def loaded(study: Study) -> Afloat:
    """The finished build in its water with what hangs on its line."""
    return under_load(afloat(study), max(line_load_g(study), 0.0), line_at(study))


@slow("cocking it load by load")
def cocked(study: Study) -> Cocking:
    """From no load to the one that sinks it."""
    return cocking(afloat(study), line_at(study))


@slow("finding what it carries")
def carried(study: Study) -> Capacity:
    """The load that leaves the rig's tip showing. Raises BadInput where none does."""
    line = rig(study)
    return capacity(afloat(study), line_at(study), line.tip_mm if line is not None else Rig().tip_mm)


def shifted(at_mm: Point, by_mm: float) -> Point:
    """A place along the axis from another."""
    x, y, z = np.asarray(at_mm) + [by_mm, 0.0, 0.0]
    return (float(x), float(y), float(z))

"""The wake of a build drawn along the surface: its angle, the length of its waves, what cuts the surface, what a lip
holds."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from yellowbob.action.running import PLATE, Pulled, Trim, froude
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.lines.clipped import below

GRADE = "textbook"
SOURCE = "Kelvin 1887; narrower above Froude 0.5, Rabaud and Moisy 2013; lengths of the waterplane and plates exact"
KELVIN_DEG = math.degrees(math.asin(1.0 / 3.0))
NARROWS = 0.5
"""Length Froude number from which the wake is narrower (Rabaud and Moisy 2013: 0.49)."""


@dataclass(frozen=True)
class Wake:
    """At a speed: half-angle of the wake, degrees; length of its waves along the way, mm; breadth at the waterline, mm;
    area of plates under water, mm², and how deep their middle lies, mm (None without)."""

    speed_m_s: float
    froude: float
    angle_deg: float
    waves_mm: float
    beam_mm: float
    plates_mm2: float
    plates_deep_mm: float | None


def wake_angle_deg(number: float) -> float:
    """Half-angle of the wake by length Froude number: Kelvin's, and beyond NARROWS that of the highest waves of a hull's
    length."""
    if number <= NARROWS:
        return KELVIN_DEG
    square = 2.0 * math.pi * number * number
    return min(KELVIN_DEG, math.degrees(math.atan(math.sqrt(square - 1.0) / (2.0 * square - 1.0))))


def wake(thing: Pulled, trim: Trim) -> Wake:
    """The wake of a trim. Lengths of the waterplane from the skin where it is cut."""
    length, beam = _waterline(thing, trim)
    number = froude(trim.speed_m_s, max(length, 1e-6))
    area, moment = 0.0, 0.0
    for mesh, law in thing.skins:
        if law != PLATE:
            continue
        wet = below(mesh.corners, trim.up, trim.height_mm)
        size = np.linalg.norm(np.cross(wet[:, 1] - wet[:, 0], wet[:, 2] - wet[:, 0]), axis=1) / 2.0
        # a thin plate has two faces
        area += float(size.sum()) / 2.0
        moment += float(size @ (trim.height_mm - wet.mean(axis=1) @ trim.up)) / 2.0
    waves = 2.0 * math.pi * (1000.0 * trim.speed_m_s) ** 2 / GRAVITY_MM_S2
    deep = moment / area if area > 0.0 else None
    return Wake(trim.speed_m_s, number, wake_angle_deg(number), waves, beam, area, deep)


def _waterline(thing: Pulled, trim: Trim) -> tuple[float, float]:
    """Length and breadth of where the surface cuts the hull, mm; of all of it where it runs under."""
    hull, (aft, across) = thing.afloat.hull, (np.array([math.cos(trim.pitch_rad), 0.0, math.sin(trim.pitch_rad)]), 1)
    corners = hull.corners
    high = corners @ trim.up - trim.height_mm
    places = []
    for a, b in ((0, 1), (1, 2), (2, 0)):
        cut = (high[:, a] < 0.0) != (high[:, b] < 0.0)
        t = (high[cut, a] / (high[cut, a] - high[cut, b]))[:, None]
        places.append(corners[cut, a] + t * (corners[cut, b] - corners[cut, a]))
    line = np.concatenate(places)
    if not len(line):
        line = hull.vertices
    return float(np.ptp(line @ aft)), float(np.ptp(line[:, across]))

"""A running build as it is drawn just now: swung to a side, with the waves behind its bow."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QRectF

from yellowbob.action.running import Trim
from yellowbob.action.swing import Swing
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.lines.picture import View
from yellowbob.study import Study, of

Array = NDArray[np.float64]

BOW_MM = 3.0
"""No bow wave is drawn higher."""
SURFACE_POINTS = 100
MOST_DEG = 80.0


def swung(study: Study, swing: Swing | None, time_s: float, view: View, up: Array, aft: Array) -> View:
    """The view of it yawed and rolled as it swings at a time, about its centre of gravity; as it was at no time."""
    if swing is None or not time_s or not math.isfinite(swing.yaw_deg + swing.roll_deg):
        return view
    phase = 2.0 * math.pi * swing.hz * time_s
    yaw = math.radians(min(swing.yaw_deg, MOST_DEG)) * math.sin(phase)
    roll = math.radians(min(swing.roll_deg, MOST_DEG)) * math.cos(phase)
    level = np.stack([aft, np.cross(up, aft), up])
    about_up = np.array([[math.cos(yaw), -math.sin(yaw), 0.0], [math.sin(yaw), math.cos(yaw), 0.0], [0.0, 0.0, 1.0]])
    about_aft = np.array(
        [[1.0, 0.0, 0.0], [0.0, math.cos(roll), -math.sin(roll)], [0.0, math.sin(roll), math.cos(roll)]]
    )
    own = level.T @ (about_up @ about_aft).T @ level
    middle = np.asarray(of.unloaded(study).centre_mm)
    x, y = view.pixels(middle)
    return View(own @ aft, own @ up, view.scale, middle, (float(x), float(y)))


def bow_wave(
    study: Study, trim: Trim, area: QRectF, surface: float, scale: float, centre: float
) -> list[tuple[float, float]]:
    """The surface with waves behind the bow, as long as water has them at that speed; how high is drawn, not computed."""
    speed = 1000.0 * trim.speed_m_s
    long = 2.0 * math.pi * speed**2 / GRAVITY_MM_S2 * scale
    high = min(0.25 * speed**2 / (2.0 * GRAVITY_MM_S2), BOW_MM) * scale
    if long < 6.0:
        return [(area.left(), surface), (area.right(), surface)]
    x = np.linspace(area.left(), area.right(), SURFACE_POINTS)
    behind = x - (centre - scale * of.pulled(study).length_mm / 2.0)
    fades = np.where(behind >= 0.0, np.exp(-behind / (2.5 * max(long, 40.0))), np.exp(behind / 16.0))
    y = surface - high * fades * np.cos(2.0 * math.pi * np.maximum(behind, 0.0) / long)
    return [(float(a), float(b)) for a, b in zip(x, y, strict=True)]

"""Painted bands over a drawn solid."""

from __future__ import annotations

from weakref import WeakKeyDictionary

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QPainter, QPolygonF

from yellowbob.action.wetted import Strips, strips
from yellowbob.design.model import Design
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.picture import View

Array = NDArray[np.float64]

BAND_STRIPS = 160
_BREADTHS: WeakKeyDictionary[Mesh, dict[tuple[float, ...], Strips]] = WeakKeyDictionary()


def _breadth(mesh: Mesh, across: Array) -> Strips:
    """A solid's reach to both sides along its axis, kept for as long as the solid is drawn."""
    known, key = _BREADTHS.setdefault(mesh, {}), tuple(round(float(c), 3) for c in across)
    if key not in known:
        known[key] = strips(mesh.corners, np.array([1.0, 0.0, 0.0]), across, BAND_STRIPS)
    return known[key]


def paint_bands(painter: QPainter, view: View, design: Design, mesh: Mesh) -> None:
    """The bands round its front, over the drawn solid."""
    if not design.bands:
        return
    front = float(mesh.bounds[0, 0])
    across = np.cross(np.cross(view.right, view.up), [1.0, 0.0, 0.0])
    size = float(np.linalg.norm(across))
    if size < 0.2:  # looked at along the axis
        return
    breadth = _breadth(mesh, across / size)
    painter.setPen(Qt.PenStyle.NoPen)
    for band in design.bands:
        x = front + np.linspace(band.from_mm, band.to_mm, 24)
        half = np.interp(x, breadth.at_mm, breadth.half_mm)
        axis = np.stack([x, np.zeros_like(x), np.zeros_like(x)], axis=1)
        edge = half[:, None] * (across / size)[None, :]
        painter.setBrush(QColor(band.colour))
        corners = view.pixels(np.concatenate([axis + edge, (axis - edge)[::-1]]))
        painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in corners]))

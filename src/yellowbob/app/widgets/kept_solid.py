"""A drawn solid kept as a picture while only its place on the screen changes, as under a load that draws it down."""

from __future__ import annotations

from typing import Any

import numpy as np
from PySide6.QtCore import QPointF, QSize, Qt
from PySide6.QtGui import QPainter, QPixmap

from yellowbob.app.session.warm import Warm
from yellowbob.app.widgets.bands import paint_bands
from yellowbob.app.widgets.painter import paint_solid
from yellowbob.app.widgets.theme import Look
from yellowbob.design.model import Design
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.picture import View, drawn_by

EDGE_PX = 4
MOST_PX = 3000
"""Larger ones are painted anew each time."""


class KeptSolid:
    """One solid of one view. The second time that it is asked for from the same side at the same scale it is kept; or the
    first time, where it is not turned about."""

    def __init__(self, still: bool = False) -> None:
        self._still = still
        self._mesh: Mesh | None = None
        self._key: tuple[Any, ...] = ()
        self._picture: QPixmap | None = None
        self._corner = (0.0, 0.0)

    def paint(self, painter: QPainter, mesh: Mesh, view: View, design: Design, small: bool = False) -> None:
        """The solid with its painted bands."""
        mesh = drawn_by(mesh)
        ratio = painter.device().devicePixelRatioF()
        key = (tuple(np.round(view.right, 6)), tuple(np.round(view.up, 6)), round(view.scale, 6), small, Look.now, Warm.ready,
               ratio, design.bands)  # fmt: skip
        same = mesh is self._mesh and key == self._key
        if not same:
            self._mesh, self._key, self._picture = mesh, key, None
        if not (same or self._still):
            self._plainly(painter, mesh, view, design, small)
            return
        at = view.pixels(mesh.vertices[:1])[0]
        if self._picture is None:
            points = view.pixels(mesh.vertices)
            low, high = points.min(axis=0) - EDGE_PX, points.max(axis=0) + EDGE_PX
            wide, tall = (int(np.ceil(v)) for v in high - low)
            if max(wide, tall) > MOST_PX:
                self._plainly(painter, mesh, view, design, small)
                return
            self._picture = QPixmap(QSize(wide, tall) * ratio)
            self._picture.setDevicePixelRatio(ratio)
            self._picture.fill(Qt.GlobalColor.transparent)
            inner = QPainter(self._picture)
            inner.setRenderHint(QPainter.RenderHint.Antialiasing)
            x, y = view.origin
            self._plainly(
                inner, mesh, View(view.right, view.up, view.scale, view.place, (x - low[0], y - low[1])), design, small
            )
            inner.end()
            self._corner = float(low[0] - at[0]), float(low[1] - at[1])
        painter.drawPixmap(QPointF(at[0] + self._corner[0], at[1] + self._corner[1]), self._picture)

    def _plainly(self, painter: QPainter, mesh: Mesh, view: View, design: Design, small: bool) -> None:
        paint_solid(painter, mesh, view, small=small)
        paint_bands(painter, view, design, mesh)

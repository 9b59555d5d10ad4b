"""What stands on the tank's drawing beside the lure: centres, plan and tail views, the ruler, the large figures."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPen, QPixmap
from PySide6.QtWidgets import QWidget

from yellowbob.afloat.meniscus import capillary
from yellowbob.app.session.session import Session
from yellowbob.app.session.warm import Warm
from yellowbob.app.widgets import painter as paint
from yellowbob.app.widgets.camera import level_axes, small_view
from yellowbob.app.widgets.kept_solid import KeptSolid
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.theme import Look, colour, font, width_of
from yellowbob.ground.quantities import show
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.picture import View
from yellowbob.study import of

Array = NDArray[np.float64]
FINE_MM2 = 80.0
"""A waterplane smaller than this is fine enough for the meniscus to count: the band it puts on the draft is shown."""


class TankFigures(QWidget):
    """Painting by a view that knows its session and its `up`."""

    session: Session
    _plan: tuple[Mesh, tuple[Any, ...], QPixmap] | None = None
    _at_water: KeptSolid | None = None
    _ruler: tuple[tuple[Any, ...], QPixmap] | None = None

    def up(self) -> Array:
        """World-up in body axes, as it is shown."""
        rest = self.session.shown
        return np.asarray(rest.up if rest is not None else (0.0, 0.0, 1.0), dtype=float)

    def _paint_centres(self, painter: QPainter, view: View) -> None:
        rest, study = self.session.rest, self.session.study
        if rest is None:
            return
        g = view.pixels(np.asarray(of.afloat(study).centre_mm))
        b = view.pixels(np.asarray(rest.buoyancy_mm))
        painter.setPen(QPen(colour(Look.now.ink), 1, Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(b[0], min(g[1], b[1]) - 46), QPointF(b[0], max(g[1], b[1]) + 46))
        paint.paint_centre(painter, (b[0], b[1]), "B", colour(Look.now.water_ink), label_left=False)
        paint.paint_centre(painter, (g[0], g[1]), "G", colour(Look.now.ink), label_left=True)

    def _paint_small(self, painter: QPainter, view: View) -> None:
        study, up = self.session.study, self.up()
        painter.setFont(font(8.5))
        right = self.width() - 18.0
        scale = view.scale * 0.45
        painter.setPen(colour(Look.now.soft))
        standing = of.stands_by_kind(study)
        words = "at the water, enlarged" if standing else "from the tail"
        painter.drawText(QRectF(right - 140, 8, 140, 16), Qt.AlignmentFlag.AlignRight, words)
        painter.drawText(QRectF(right - 330, 8, 190, 16), Qt.AlignmentFlag.AlignLeft, "plan")
        mesh = of.whole(study)
        self._paint_plan(painter, right - 330, 26, scale)
        _, starboard = level_axes(up)
        if standing:
            self._paint_waterline(painter, QRectF(right - 118, 26, 118, 110), starboard)
            return
        tail = small_view(mesh, starboard, up, (right - 118, 26, 118, 66), scale)
        paint.paint_solid(painter, mesh, tail, small=True)
        rest = self.session.shown
        if rest is not None:
            y = tail.origin[1] - tail.scale * (rest.height_mm - float(tail.place @ up))
            painter.setPen(QPen(colour(Look.now.water_ink), 2))
            painter.drawLine(QPointF(right - 112, y), QPointF(right - 2, y))

    def _paint_waterline(self, painter: QPainter, box: QRectF, across: Array) -> None:
        """A standing float about its waterline, enlarged, with the mark to which its tip is to show."""
        rest, study, up = self.session.shown, self.session.study, self.up()
        if rest is None:
            return
        hull = of.hull(study)
        at_water = np.abs(hull.vertices @ up - rest.height_mm)
        foot = hull.vertices[int(np.argmin(at_water))]
        place = np.array([foot[0], 0.0, 0.0]) + up * (rest.height_mm - float(foot[0] * up[0]))
        wanted = of.tip_wanted_mm(study)
        scale = (box.height() - 24.0) / max(2.0 * wanted, 8.0)
        middle = (box.center().x(), box.top() + box.height() * 0.62)
        painter.save()
        painter.setClipRect(box)
        painter.fillRect(box, colour(Look.now.card))
        painter.setPen(QPen(colour(Look.now.line), 1))
        painter.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5))
        inset = View(across, up, scale, place, middle)
        if self._at_water is None:
            self._at_water = KeptSolid()
        self._at_water.paint(painter, of.whole(study), inset, study.design, small=True)
        painter.setPen(QPen(colour(Look.now.water_ink), 2))
        painter.drawLine(QPointF(box.left() + 3, middle[1]), QPointF(box.right() - 3, middle[1]))
        tip = middle[1] - scale * of.tip_of_rest(study, rest)
        mark = tip + scale * wanted
        painter.setPen(QPen(colour(Look.now.grab_edge), 1.4, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(box.left() + 3, mark), QPointF(box.right() - 3, mark))
        painter.restore()

    def _paint_plan(self, painter: QPainter, x: float, y: float, scale: float) -> None:
        """The plan does not change with the attitude: painted once for each shape and size."""
        mesh, wanted = of.whole(self.session.study), (scale, self.devicePixelRatioF(), Look.now, Warm.ready)
        if self._plan is None or self._plan[0] is not mesh or self._plan[1] != wanted:
            image = QPixmap(QSize(190, 62) * self.devicePixelRatioF())
            image.setDevicePixelRatio(self.devicePixelRatioF())
            image.fill(Qt.GlobalColor.transparent)
            inner = QPainter(image)
            inner.setRenderHint(QPainter.RenderHint.Antialiasing)
            plan = small_view(mesh, np.array([1.0, 0, 0]), np.array([0, 1.0, 0]), (1, 1, 188, 60), scale)
            paint.paint_solid(inner, mesh, plan, small=True)
            inner.end()
            self._plan = (mesh, wanted, image)
        painter.drawPixmap(QPointF(x, y), self._plan[2])

    def _paint_ruler(self, painter: QPainter, area: QRectF, surface: float, zero: float, scale: float) -> None:
        """The ruler depends on scale and unit alone: painted once for each, then shifted along."""
        ratio = self.devicePixelRatioF()
        wanted = (scale, Units.of("length"), self.width(), ratio, Look.now)
        if self._ruler is None or self._ruler[0] != wanted:
            image = QPixmap(QSize(self.width() + 40, 30) * ratio)
            image.setDevicePixelRatio(ratio)
            image.fill(Qt.GlobalColor.transparent)
            inner = QPainter(image)
            inner.setRenderHint(QPainter.RenderHint.Antialiasing)
            paint.paint_ruler(inner, QRectF(0, 0, self.width() + 40, 30), 28.0, 20.0, scale)
            inner.end()
            self._ruler = (wanted, image)
        painter.save()
        shown = QRectF(area)
        shown.setRight(paint.ruler_end(zero, area.right() - 16.0, scale))
        painter.setClipRect(shown)
        painter.drawPixmap(QPointF(zero - 20.0, surface - 28.0), self._ruler[1])
        painter.restore()
        painter.setFont(font(8))
        painter.setPen(colour(Look.now.water_ink))
        words = f"{Units.of('length')} along the water"
        painter.drawText(QRectF(area.right() - 130, surface + 5, 122, 16), Qt.AlignmentFlag.AlignRight, words)

    def _paint_figures(self, painter: QPainter) -> None:
        """The large figures: attitude, what shows, draft; unit once."""
        rest = self.session.shown
        if rest is None:
            painter.setPen(colour(Look.now.bad))
            painter.setFont(font(26, bold=True))
            painter.drawText(QPointF(20, 46), "Sinks")
            painter.setFont(font(10))
            weight = of.buoyancy(self.session.study).sinking_weight_g
            unit = Units.of("mass")
            painter.drawText(QPointF(20, 68), f"weighs {show(weight, unit)} {unit} under water")
            return
        pitch, roll = math.degrees(rest.pitch_rad), math.degrees(rest.roll_rad)
        front = self.session.design.ends[0]
        way = f"{front} up" if pitch > 0.05 else f"{front} down" if pitch < -0.05 else "level"
        words = way if abs(roll) < 0.05 else f"{way}, {abs(roll):.1f}° to {'starboard' if roll > 0 else 'port'}"
        if rest.neutral:
            words += ", any side up"
        unit = Units.of("length")
        top = float((of.whole(self.session.study).vertices @ self.up()).max()) - rest.height_mm
        under = "draft"
        if self.session.posture is None and 0.0 < rest.waterplane_mm2 < FINE_MM2:
            band = capillary(of.afloat(self.session.study), rest.up, rest.height_mm).draft_mm
            under = f"draft, ± {show(band, unit)} by the meniscus"
        figures = [(f"{abs(pitch):.1f}°", "", words), (show(max(top, 0.0), unit), unit, "shows above water"),
                   (show(rest.draft_mm, unit), unit, under)]  # fmt: skip
        x = 20.0
        for number, unit_words, label in figures:
            painter.setFont(font(25, True))
            wide = width_of(number, 25, True)
            painter.setPen(colour(Look.now.ink))
            painter.drawText(QPointF(x, 46), number)
            painter.setFont(font(10))
            painter.setPen(colour(Look.now.soft))
            painter.drawText(QPointF(x + wide + 4, 46), unit_words)
            painter.drawText(QPointF(x, 66), label)
            x += max(wide + 8 + width_of(unit_words, 10), width_of(label, 10)) + 26

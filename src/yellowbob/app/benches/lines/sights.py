"""What stands beside the outlines: the section that slides along, the sight from the front, a lip's own plan."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from yellowbob.app.benches.lines.places import Places
from yellowbob.app.session.session import Session
from yellowbob.app.widgets import painter as paint
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.theme import Look, colour, font
from yellowbob.design.model import Design, MainShape
from yellowbob.design.shape import MeshBody
from yellowbob.ground.quantities import show
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.picture import View
from yellowbob.lines.plates import lip_plan
from yellowbob.lines.sections import sections_at
from yellowbob.study import of

Array = NDArray[np.float64]


class Sights(Places):
    """Paints them in the cells at the right."""

    section_x = 0.4
    _drag = ""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self._kept: dict[str, tuple[MainShape, float, Array]] = {}

    def kept(self, name: str, shape: MainShape, at: float, make: Callable[[], Array]) -> Array:
        """What was worked out of the body's shape, until that is another: while a piece beside it is dragged it is not."""
        known = self._kept.get(name)
        if known is None or known[0] is not shape or known[1] != at:
            known = self._kept[name] = (shape, at, make())
        return known[2]

    def _paint_section(self, painter: QPainter, design: Design) -> None:
        """The cross-section at the slider, at a scale of its own when the body is small."""
        shape = design.shape
        assert not isinstance(shape, MeshBody)
        at = self.section_x * shape.length_mm
        ring = self.kept("section", shape, at, lambda: sections_at(shape, np.array([at])).rings(96)[0])
        middle, scale = self.fitted("section", float(np.ptp(ring[:, 1])), float(np.ptp(ring[:, 2])))
        lift = float(ring[:, 2].max() + ring[:, 2].min()) / 2
        points = [QPointF(middle.x() + y * scale, middle.y() - (z - lift) * scale) for _, y, z in ring]
        painter.setPen(QPen(colour(Look.now.ink), 2))
        painter.setBrush(colour(Look.now.wood))
        painter.drawPolygon(QPolygonF(points))
        unit = Units.of("length")
        painter.setFont(font(9))
        painter.setPen(colour(Look.now.soft))
        words = f"{show(float(np.ptp(ring[:, 1])), unit)} wide, {show(float(np.ptp(ring[:, 2])), unit)} {unit} deep"
        self._paint_foot(painter, "section", words)
        top, foot = self._grip().y(), self.plan_origin().y() + self.laid().reach[2] * self.scale()
        painter.setPen(QPen(colour(Look.now.soft), 1, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(self._grip().x(), top), QPointF(self._grip().x(), foot))
        paint.paint_mark(painter, self._grip(), self._drag == "section")

    def _grip(self) -> QPointF:
        """Where the section's slider is grabbed: above the side view."""
        x = self.side_origin().x() + self.section_x * self.length() * self.scale()
        return QPointF(x, 30.0)

    def _paint_lip(self, painter: QPainter) -> None:
        """A lip's own plan in its own plane, slot uppermost."""
        lip = self.own_lip()
        if lip is None:
            return
        outline = [(along, across) for along, across in lip_plan(lip) if along >= 0]
        painter.setPen(QPen(colour(Look.now.ink), 2))
        painter.setBrush(colour(Look.now.water_top, 90))
        painter.drawPolygon(QPolygonF([self.to_px("lip", *p) for p in outline]))

    def _paint_foot(self, painter: QPainter, name: str, words: str) -> None:
        """Words under a drawing at the right."""
        cell = self.cells()[name]
        painter.setFont(font(9))
        painter.setPen(colour(Look.now.soft))
        painter.drawText(
            QRectF(cell.left(), cell.bottom() - 18, cell.width(), 16), Qt.AlignmentFlag.AlignHCenter, words
        )

    def _paint_front(self, painter: QPainter, mesh: Mesh) -> None:
        """The body as the water meets it: the rim of a cup, and how thick it is."""
        _, y, z = np.eye(3)
        low, high = mesh.vertices[:, 1:].min(axis=0), mesh.vertices[:, 1:].max(axis=0)
        middle, scale = self.fitted("front", *(high - low))
        centre = np.array([0.0, *(low + high) / 2.0])
        paint.paint_solid(painter, mesh, View(-y, z, scale, centre, (middle.x(), middle.y())), small=True)

    def _front_words(self) -> str:
        """What of the front is worth a figure."""
        if not self.sound():
            return ""
        unit = Units.of("length")
        rims = of.rims_left_mm(self.session.study)
        return f"rim {show(min(rims), unit)} {unit} at the thinnest" if rims else ""

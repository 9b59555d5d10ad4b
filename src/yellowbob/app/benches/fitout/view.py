"""The Fit-out drawing: the body level, hardware on it, each hook's swing as an arc, what comes too close in red."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QMouseEvent, QPainter, QPen

from yellowbob.app.benches.tank.view import TankView
from yellowbob.app.session.session import Session
from yellowbob.app.session.warm import Warm
from yellowbob.app.widgets import painter as paint
from yellowbob.app.widgets.bands import paint_bands
from yellowbob.app.widgets.camera import side_camera, small_view
from yellowbob.app.widgets.complaint import paint_complaint
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.theme import Look, colour, font
from yellowbob.fitout.clearances import Clearance, drum_of
from yellowbob.fitout.hooks import hangs_from, swing_mm
from yellowbob.ground.quantities import show
from yellowbob.lines.picture import View
from yellowbob.study import of

Array = NDArray[np.float64]
LEVEL = np.array([0.0, 0.0, 1.0])
QUIET_MS = 120
TAIL_PX = 110.0
"""Width at the right that the sight from the tail has to itself."""
ENDS = 0.12
"""A hook within so much of its length of an end can swing up beyond it."""


class FitoutView(TankView):
    """Grabbed and nudged like the tank's drawing, but level and dry."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.setAccessibleName("Fit-out: hardware on the body")
        self.clearances: tuple[Clearance, ...] = ()
        self.arcs: dict[int, list[tuple[float, float]]] = {}
        self.shown: Clearance | None = None
        self._level: tuple[object, View] | None = None
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.setInterval(QUIET_MS)
        self._quiet.timeout.connect(self.look_again)
        session.changed.connect(self._changed)
        session.arrived.connect(self._arrived)

    def _arrived(self, asked: object) -> None:
        if asked in (of.clearances, of.free_arcs):
            self.look_again()

    def _changed(self) -> None:
        if self.isVisible() and not self._quiet.isActive():
            self._quiet.start()

    def look_again(self) -> None:
        """Work the clearances and arcs out for the design as it is."""
        if self.session.fault:
            return
        self.clearances = self.session.ask(of.clearances) or ()
        self.arcs = self.session.ask(of.free_arcs) or {}
        if self.shown is not None:
            same = [c for c in self.clearances if (c.kind, c.one, c.other) == self._named(self.shown)]
            self.shown = same[0] if same else None
        self.update()

    @staticmethod
    def _named(c: Clearance) -> tuple[str, str, str]:
        return c.kind, c.one, c.other

    def up(self) -> Array:
        return LEVEL

    def camera(self) -> View:
        study = self.session.study
        mesh = of.whole(study)
        asked = (study, self.size())
        if self._level is not None and self._level[0] == asked:
            return self._level[1]
        area = (24.0, 40.0, self.width() - 48.0 - TAIL_PX, self.height() - 40.0 - 30.0)
        middle = float(mesh.bounds[:, 2].mean())
        view = side_camera(mesh, study.design, LEVEL, middle, area, self._held, self._swung())
        self._level = (asked, view)
        return view

    def _swung(self) -> Array:
        """How far the hooks swing, (n, 3) mm: down and fore and aft; up too where no body is in the way."""
        design, found = self.session.study.design, [np.zeros((0, 3))]
        low, high = design.stack_mm
        for fitting in design.fittings:
            if fitting.sort == "hook" and fitting.hanging:
                at, r = np.asarray(hangs_from(fitting, design.fittings)[0]), swing_mm(fitting, design.fittings)
                free = at[0] > high - ENDS * (high - low) or at[0] < low + ENDS * (high - low)
                found.append(at + r * np.array([[1, 0, 0], [-1, 0, 0], [0, 0, -1], [0, 0, 1 if free else 0]], float))
        return np.vstack(found)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._level = None
        super().mouseReleaseEvent(event)
        self.look_again()

    def paint_build(self, painter: QPainter, area: QRectF, view: View) -> None:
        session = self.session
        study, picked = session.study, session.piece
        paint.paint_solid(painter, of.whole(study), view)
        paint_bands(painter, view, study.design, of.whole(study))
        paint.paint_wires(painter, view, study.design)
        paint.paint_holes(painter, view, of.holes(study), picked.index if picked and picked.kind == "ballast" else None)
        self._paint_swings(painter, view)
        paint.paint_fittings(painter, view, study.design, picked.index if picked and picked.kind == "fitting" else None)
        self._paint_clashes(painter, view)
        self._paint_tail(painter, view)
        painter.setFont(font(9))
        painter.setPen(colour(Look.now.soft))
        painter.drawText(QPointF(16, 22), "from port, level; dashed arcs: how far each hook can swing")
        if session.complaint:
            paint_complaint(painter, area, session.complaint)
        painter.setPen(
            QPen(colour(Look.now.water_ink if self.hasFocus() else Look.now.line), 2 if self.hasFocus() else 1)
        )
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(area.adjusted(0.5, 0.5, -0.5, -0.5))
        painter.end()
        self.frames += 1
        if self.frames == 1:
            if not Warm.ready:
                QTimer.singleShot(30, lambda: session.loader.load(self.update))
            QTimer.singleShot(0, self.look_again)

    def _paint_swings(self, painter: QPainter, view: View) -> None:
        design = self.session.study.design
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for number, fitting in enumerate(design.fittings):
            if fitting.sort == "hook" and fitting.hanging:
                x, y = view.pixels(hangs_from(fitting, design.fittings)[0])
                r = swing_mm(fitting, design.fittings) * view.scale
                painter.setPen(QPen(colour(Look.now.water_ink), 1.3, Qt.PenStyle.DashLine))
                for low, high in self.arcs.get(number, [(-180.0, 180.0)]):
                    # the screen's angles run the same way: 0 to the right (aft), up positive
                    painter.drawArc(QRectF(x - r, y - r, 2 * r, 2 * r), round(low * 16), round((high - low) * 16))
            elif fitting.sort == "prop" and fitting.span_mm > 0:
                drum = drum_of(fitting)
                fore = view.pixels(drum.fore + [0, 0, drum.radius_mm])
                aft = view.pixels(drum.fore + [drum.long_mm, 0, -drum.radius_mm])
                painter.setPen(QPen(colour(Look.now.water_ink), 1.3, Qt.PenStyle.DashLine))
                painter.drawRect(QRectF(QPointF(*fore), QPointF(*aft)))

    def _paint_clashes(self, painter: QPainter, view: View) -> None:
        """A mark where something comes too close; the chosen one with its words."""
        unit = Units.of("length")
        for one in self.clearances:
            chosen = self.shown is not None and self._named(one) == self._named(self.shown)
            if one.clear and not chosen:
                continue
            x, y = view.pixels(np.asarray(one.at_mm))
            tone = colour(Look.now.water_ink if one.clear else Look.now.bad)
            painter.setPen(QPen(tone, 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(QPointF(x, y), 9, 9)
            if not one.clear:
                painter.drawLine(QPointF(x - 5, y - 5), QPointF(x + 5, y + 5))
            if chosen:
                painter.setFont(font(10, bold=True))
                words = f"{one.one} – {one.other}: {show(one.distance_mm, unit)} {unit}"
                wide = min(self.width() - 32.0, 9.0 * len(words))
                left = max(16.0, min(x - wide / 2, self.width() - 16.0 - wide))
                painter.drawText(QRectF(left, y - 34, wide, 20), Qt.AlignmentFlag.AlignCenter, words)

    def _paint_tail(self, painter: QPainter, view: View) -> None:
        """The section from the tail: whether points stand clear of the widest part."""
        mesh = of.whole(self.session.study)
        tail = small_view(mesh, np.array([0.0, 1.0, 0.0]), LEVEL, (self.width() - 118.0, 10, 104, 70), view.scale * 0.5)
        paint.paint_solid(painter, mesh, tail, small=True)
        painter.setFont(font(8.5))
        painter.setPen(colour(Look.now.soft))
        painter.drawText(QRectF(self.width() - 118.0, 80, 104, 14), Qt.AlignmentFlag.AlignCenter, "from the tail")

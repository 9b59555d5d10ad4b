"""The drawing of the Shop bench: the body in its square blank with the stations and holes that the pages list."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF, QTransform

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.complaint import only_waits
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.painted import Painted
from yellowbob.app.widgets.theme import Look, colour, font
from yellowbob.ground.quantities import show
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.silhouette import silhouette
from yellowbob.shop.bores import Bored
from yellowbob.shop.stations import Stations
from yellowbob.shop.templates import VIEWS, blank_of
from yellowbob.study import of

ROOM_PX = 34.0


class ShopView(Painted):
    """Side above, plan below, both in their blank; what is listed is ticked or crossed where it lies."""

    def __init__(self, session: Session) -> None:
        super().__init__("Shop: the body in its blank", (420, 270))
        self.session = session
        self.stations: Stations | None = None
        self.bores: tuple[Bored, ...] = ()
        self._seen: tuple[Mesh, dict[str, list[QPolygonF]]] | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        session.changed.connect(self.update)

    def show_things(self, stations: Stations | None, bores: tuple[Bored, ...]) -> None:
        """What the page lists."""
        self.stations, self.bores = stations, bores
        self.update()

    def paint(self, painter: QPainter, area: QRectF) -> None:
        if self.session.complaint:
            words, waits = self.session.complaint, only_waits(self.session.complaint)
            self.say(painter, area, words if waits else f"! {words}", Look.now.soft if waits else Look.now.bad)
        else:
            self._paint_views(painter, area)

    def _paint_views(self, painter: QPainter, area: QRectF) -> None:
        study = self.session.study
        blanks = [blank_of(study, view) for view in VIEWS]
        long = float(blanks[0][1][0] - blanks[0][0][0])
        tall = sum(float(high[1] - low[1]) for low, high in blanks)
        highest = max(float(high[1] - low[1]) for low, high in blanks)
        stacked = min((area.width() - 2 * ROOM_PX) / long, (area.height() - 4.2 * ROOM_PX) / tall)
        beside = min((area.width() - 3 * ROOM_PX) / (2.0 * long), (area.height() - 2.6 * ROOM_PX) / highest)
        if beside > stacked:
            foot = area.center().y() + beside * highest / 2.0
            left = area.center().x() - beside * long - ROOM_PX / 2.0
            for view, (low, high) in zip(VIEWS, blanks, strict=True):
                self._paint_view(painter, view, low, high, (left, foot, beside))
                left += beside * long + ROOM_PX
            return
        left, top = area.center().x() - stacked * long / 2.0, 1.3 * ROOM_PX
        for view, (low, high) in zip(VIEWS, blanks, strict=True):
            deep = stacked * float(high[1] - low[1])
            self._paint_view(painter, view, low, high, (left, top + deep, stacked))
            top += deep + 1.4 * ROOM_PX

    def _outline(self, view: str) -> list[QPolygonF]:
        """The body's silhouette in mm, worked out once."""
        mesh = of.outer(self.session.study)
        if self._seen is None or self._seen[0] is not mesh:
            self._seen = mesh, {}
        if view not in self._seen[1]:
            loops = silhouette(mesh, view)
            self._seen[1][view] = [QPolygonF([QPointF(float(x), float(y)) for x, y in loop]) for loop in loops]
        return self._seen[1][view]

    def _paint_view(
        self, painter: QPainter, view: str, low: np.ndarray, high: np.ndarray, place: tuple[float, float, float]
    ) -> None:
        left, foot, scale = place

        def at(x: float, y: float) -> QPointF:
            return QPointF(left + scale * (x - float(low[0])), foot - scale * (y - float(low[1])))

        painter.setFont(font(9))
        painter.setPen(colour(Look.now.soft))
        painter.drawText(at(float(low[0]), float(high[1])) + QPointF(0, -6), f"{view}, in its square blank")
        painter.setPen(QPen(colour(Look.now.line), 1))
        painter.setBrush(colour(Look.now.wood))
        painter.drawRect(QRectF(at(float(low[0]), float(high[1])), at(float(high[0]), float(low[1]))))
        painter.setPen(QPen(colour(Look.now.ink), 1.4))
        painter.setBrush(colour(Look.now.card))
        origin = at(0.0, 0.0)
        place_px = QTransform(scale, 0.0, 0.0, -scale, origin.x(), origin.y())
        for loop in self._outline(view):
            painter.drawPolygon(place_px.map(loop))
        painter.setPen(QPen(colour(Look.now.water_ink), 1, Qt.PenStyle.DashDotLine))
        painter.drawLine(at(float(low[0]), 0.0), at(float(high[0]), 0.0))
        if self.stations is not None:
            painter.setPen(QPen(colour(Look.now.water_ink), 1))
            for one in self.stations.stations:
                painter.drawLine(at(one.at_mm, float(low[1])), at(one.at_mm, float(high[1])))
        self._paint_bores(painter, view, at, scale)

    def _paint_bores(self, painter: QPainter, view: str, at: Callable[[float, float], QPointF], scale: float) -> None:
        unit = Units.of("length")
        painter.setBrush(Qt.BrushStyle.NoBrush)
        seen = ("port", "starboard") if view == "side" else ("belly", "back")
        for number, one in enumerate(self.bores, 1):
            if one.side not in (*seen, "nose", "tail"):
                continue
            across = one.over_mm if view == "side" else one.off_mm
            place = at(one.at_mm, across)
            painter.setPen(QPen(colour(Look.now.bad if one.says else Look.now.ink), 1.6))
            radius = max(scale * one.diameter_mm / 2.0, 4.0)
            painter.drawEllipse(place, radius, radius)
            painter.drawText(place + QPointF(radius + 4, -5), f"{number}  {show(one.at_mm, unit)} {unit}")

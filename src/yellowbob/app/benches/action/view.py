"""The drawing of the Action bench: the build on moving waves, or its path through the air."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QLinearGradient, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from yellowbob.action.flight import Cast
from yellowbob.action.running import Trim
from yellowbob.action.swing import Swing
from yellowbob.action.waves import Rough
from yellowbob.app.benches.action.swung import SURFACE_POINTS, bow_wave, swung
from yellowbob.app.session.session import Session
from yellowbob.app.widgets import painter as paint
from yellowbob.app.widgets.bands import paint_bands
from yellowbob.app.widgets.camera import drawn_places, level_axes
from yellowbob.app.widgets.complaint import only_waits
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.theme import Look, colour, font
from yellowbob.ground.quantities import show
from yellowbob.lines.picture import View
from yellowbob.study import of
from yellowbob.study.action import tie_mm

FRAME_MS = 33
GHOSTS = 9
"""How many times the build is drawn along its flight."""
PATH_POINTS = 240
"""Corners of the path that it is drawn on."""


class ActionView(QWidget):
    """Draws what its page has found: `rough` as a build on waves, `flown` as a path."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.rough: Rough | None = None
        self.flown: Cast | None = None
        self.trim: Trim | None = None
        self.swing: Swing | None = None
        self.flight_at: int | None = None
        """only there along its flight is it drawn; None: all along"""
        self.words = ""
        self.time_s = 0.0
        self._moves = 0j
        self._clock = QTimer(self)
        self._clock.setInterval(FRAME_MS)
        self._clock.timeout.connect(self._tick)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setAccessibleName("Action: the build in motion")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(420, 270)

    def sizeHint(self) -> QSize:
        return QSize(944, 470)

    def show_waves(self, rough: Rough | None) -> None:
        """Draw it riding these waves; None: as it lies."""
        self.flown, self.rough, self.trim, self.words = None, rough, None, ""
        ready = of.ridden(self.session.study) if rough is not None else None
        if rough is not None and ready is not None:
            self._moves = ready.bob(rough.chop)
        self.update()

    def show_flight(self, flown: Cast | None, words: str = "") -> None:
        """Draw a throw's path; with None the words alone."""
        self._clock.stop()
        self.flown, self.words, self.rough, self.trim = flown, words, None, None
        self.update()

    def show_trim(self, trim: Trim | None, words: str = "", swing: Swing | None = None) -> None:
        """Draw it running, and once it is set going swinging as it does; with None the words alone."""
        if trim is None:
            self._clock.stop()
        self.trim, self.words, self.rough, self.flown, self.swing = trim, words, None, None, swing
        self.update()

    @property
    def playing(self) -> bool:
        return self._clock.isActive()

    def play(self, on: bool) -> None:
        """Let it move, or stand."""
        if on and (self.rough is not None or self.trim is not None):
            self._clock.start()
        else:
            self._clock.stop()

    def _tick(self) -> None:
        if not self.isVisible():
            self._clock.stop()
            return
        self.time_s += FRAME_MS / 1000.0
        self.update()

    # ---- painting

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = QRectF(0, 0, self.width(), self.height())
        painter.fillRect(area, colour(Look.now.card))
        if self.session.complaint:
            self._say(painter, self.session.complaint, bad=not only_waits(self.session.complaint))
        elif self.flown is not None:
            self._paint_flight(painter, area, self.flown)
        elif self.words:
            self._say(painter, self.words)
        else:
            self._paint_riding(painter, area)
        painter.setPen(QPen(colour(Look.now.line), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(area.adjusted(0.5, 0.5, -0.5, -0.5))
        painter.end()

    def _say(self, painter: QPainter, words: str, bad: bool = False) -> None:
        painter.setPen(colour(Look.now.bad if bad else Look.now.soft))
        painter.setFont(font(11))
        painter.drawText(
            QRectF(24, 20, self.width() - 48, 60), Qt.TextFlag.TextWordWrap, f"! {words}" if bad else words
        )

    def _paint_riding(self, painter: QPainter, area: QRectF) -> None:
        study = self.session.study
        if not study.knows(of.rests):
            self._say(painter, "Looking for its rests …")
            return
        rest = of.upright_rest(study)
        if rest is None:
            self._say(painter, "It sinks: no wave moves it.")
            return
        up, height, mesh = np.asarray(rest.up), rest.height_mm, of.whole(study)
        if self.trim is not None:
            up, height = self.trim.up, self.trim.height_mm
        aft, _ = level_axes(up)
        discs = [
            np.asarray(f.at_mm) + [0.0, 0.0, way * f.span_mm] for f, _ in of.prop_discs(study) for way in (-0.5, 0.5)
        ]
        places = np.concatenate(
            [mesh.vertices, drawn_places(study.design, up).reshape(-1, 3), *(d[None] for d in discs)]
        )
        heights, across = places @ up - height, places @ aft
        high = self.rough.chop.height_mm if self.rough is not None else 0.0
        tall = float(heights.max() - min(heights.min(), -4.0)) + high + 8.0
        wide = float(np.ptp(across)) * 1.4
        scale = min((area.height() - 70.0) / tall, (area.width() - 60.0) / max(wide, 1.0))
        surface = area.top() + 54.0 + scale * (max(float(heights.max()), 0.0) + high / 2.0)
        middle = float(across.max() + across.min()) / 2.0
        centre = area.center().x()
        lift = 0.0
        if self.rough is not None:
            phase = self.rough.chop.rate * self.time_s
            lift = high / 2.0 * float((self._moves * complex(math.cos(phase), math.sin(phase))).real)
        place = up * height + aft * middle
        view = View(aft, up, scale, place, (centre, surface - scale * lift))
        if self.trim is not None:
            view = swung(self.session.study, self.swing, self.time_s, view, up, aft)
        level = self._surface(area, surface, scale, centre)
        self._fill(painter, area, level, 255, 255)
        paint.paint_solid(painter, mesh, view)
        paint_bands(painter, view, study.design, mesh)
        paint.paint_wires(painter, view, study.design)
        self._fill(painter, area, level, 105, 140)
        painter.setPen(QPen(colour(Look.now.water_ink), 2))
        painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in level]))
        paint.paint_hardware(painter, view, study.design)
        if self.trim is not None:
            self._paint_line(painter, view, self.trim)
        self._paint_scale(painter, area, scale)
        self._paint_words(painter)

    def _surface(self, area: QRectF, surface: float, scale: float, centre: float) -> list[tuple[float, float]]:
        if self.trim is not None and self.trim.speed_m_s > 0.0:
            return bow_wave(self.session.study, self.trim, area, surface, scale, centre)
        if self.rough is None:
            return [(area.left(), surface), (area.right(), surface)]
        waves = self.rough.chop
        x = np.linspace(area.left(), area.right(), SURFACE_POINTS)
        phase = waves.rate * self.time_s - waves.number * (x - centre) / scale
        return [
            (float(a), float(b))
            for a, b in zip(x, surface - scale * waves.height_mm / 2.0 * np.cos(phase), strict=True)
        ]

    def _fill(self, painter: QPainter, area: QRectF, level: list[tuple[float, float]], top: int, deep: int) -> None:
        gradient = QLinearGradient(0, min(y for _, y in level), 0, area.bottom())
        gradient.setColorAt(0, colour(Look.now.water_top, top))
        gradient.setColorAt(1, colour(Look.now.water_deep, deep))
        corners = [*level, (area.right(), area.bottom()), (area.left(), area.bottom())]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(gradient)
        painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in corners]))

    def _paint_scale(self, painter: QPainter, area: QRectF, scale: float) -> None:
        """A bar of a round length, so that waves and build can be measured by eye."""
        unit = Units.of("length")
        long = next((v for v in (10.0, 20.0, 50.0, 100.0, 200.0, 500.0) if v * scale > 70.0), 1000.0)
        x, y = area.right() - 24.0, area.bottom() - 20.0
        painter.setPen(QPen(colour(Look.now.ink), 2))
        painter.drawLine(QPointF(x - long * scale, y), QPointF(x, y))
        painter.setFont(font(9))
        painter.drawText(QRectF(x - 160, y - 20, 160, 16), Qt.AlignmentFlag.AlignRight, f"{show(long, unit)} {unit}")

    def _paint_line(self, painter: QPainter, view: View, trim: Trim) -> None:
        """The line from the tie on, and the speed."""
        x, y = view.pixels(np.asarray(tie_mm(self.session.study)))
        far = x + 40.0
        painter.setPen(QPen(colour(Look.now.ink), 1.2))
        painter.drawLine(QPointF(x, y), QPointF(x - far, y - far * math.tan(trim.line_rad)))
        painter.setPen(QPen(colour(Look.now.ink), 2))
        painter.drawEllipse(QPointF(x, y), 3.5, 3.5)
        painter.setFont(font(25, True))
        painter.drawText(QPointF(20, 40), f"{trim.speed_m_s:.2f}")
        painter.setFont(font(10))
        painter.setPen(colour(Look.now.soft))
        ends = f" Here it {self.swing.why}." if self.swing is not None and self.swing.why else ""
        painter.drawText(QPointF(96, 40), f"m/s, drawn to the left. An estimate; the wave's height is not.{ends}")

    def _paint_words(self, painter: QPainter) -> None:
        if self.rough is None:
            return
        unit = Units.of("length")
        painter.setFont(font(25, True))
        painter.setPen(colour(Look.now.ink))
        painter.drawText(QPointF(20, 40), f"{100.0 * self.rough.follows:.0f} %")
        painter.setFont(font(10))
        painter.setPen(colour(Look.now.soft))
        painter.drawText(QPointF(120, 28), "of the waves' rise and fall is its own;")
        painter.drawText(QPointF(120, 44), f"crests reach {show(self.rough.needs_mm, unit)} {unit} up it. An estimate.")

    def _paint_flight(self, painter: QPainter, area: QRectF, found: Cast) -> None:
        places = found.flight.places_mm
        far, high = max(float(places[:, 0].max()), found.dart_mm) * 1.04, float(places[:, 1].max()) * 1.15
        scale = min((area.width() - 80.0) / far, (area.height() - 120.0) / high)
        ground = area.bottom() - 44.0
        paint.paint_water(painter, area, ground)
        painter.setPen(QPen(colour(Look.now.water_ink), 2))
        painter.drawLine(QPointF(area.left(), ground), QPointF(area.right(), ground))
        left = area.left() + 40.0
        painter.setPen(QPen(colour(Look.now.soft), 1.2, Qt.PenStyle.DashLine))
        path = places[np.linspace(0, len(places) - 1, min(len(places), PATH_POINTS)).astype(int)]
        painter.drawPolyline(QPolygonF([QPointF(left + scale * x, ground - scale * z) for x, z in path.tolist()]))
        mesh = of.whole(self.session.study)
        size = 70.0 / float(mesh.bounds[1, 0] - mesh.bounds[0, 0])
        every = np.linspace(0, len(places) - 1, GHOSTS).astype(int)
        picks = every if self.flight_at is None else np.array([min(self.flight_at, len(places) - 1)])
        middle = np.asarray(of.unloaded(self.session.study).centre_mm)
        for k in picks:
            pitch = float(found.flight.pitches_rad[k])
            at = (left + scale * float(places[k, 0]), ground - scale * float(places[k, 1]))
            # it flies to the right: level is ahead of it, and up in the world
            above = np.array([-math.sin(pitch), 0.0, math.cos(pitch)])
            right = np.array([-math.cos(pitch), 0.0, -math.sin(pitch)])
            paint.paint_solid(painter, mesh, View(right, above, size, middle, at), small=True)
        painter.setFont(font(9))
        painter.setPen(colour(Look.now.water_ink))
        for metres, words in ((found.flight.range_mm, "it"), (found.dart_mm, "a smooth dart")):
            x = left + scale * metres
            painter.drawLine(QPointF(x, ground), QPointF(x, ground + 20))
            # the build lies where it comes down: its figure stands before it
            box = QRectF(x - 190, ground + 22, 140, 16) if words == "it" else QRectF(x - 70, ground + 22, 140, 16)
            side = Qt.AlignmentFlag.AlignRight if words == "it" else Qt.AlignmentFlag.AlignHCenter
            painter.drawText(box, side, f"{words}, {metres / 1000.0:.1f} m")
        painter.setFont(font(25, True))
        painter.setPen(colour(Look.now.ink))
        front, back = self.session.design.ends
        painter.drawText(QPointF(20, 40), found.flies.replace("nose", front).replace("tail", back))
        painter.setFont(font(10))
        painter.setPen(colour(Look.now.soft))
        painter.drawText(QPointF(20, 60), "An estimate, for comparing; the build is drawn larger than its path.")

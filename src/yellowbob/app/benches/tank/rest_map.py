"""The rest map: roll across, pitch up; every landing attitude shaded by where it ends, with contours of energy."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from yellowbob.afloat.landing import RestMap
from yellowbob.afloat.rest import up_from
from yellowbob.afloat.rest_picture import COLUMNS, ROWS, RestPicture
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.beside import beside
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.theme import Look, colour, font, width_of
from yellowbob.ground.quantities import show
from yellowbob.study import of

Array = NDArray[np.float64]

CONTOURS = 9
LEFT, TOP, RIGHT, FOOT = 60.0, 8.0, 8.0, 20.0
STEP_DEG = 2.0
DOT_PX = 5.0


class RestMapView(QWidget):
    """Point at it: `pointed` tells the attitude; drag on it: `posed` does. Arrow keys move the pointer."""

    pointed = Signal(float, float)
    left = Signal()
    posed = Signal(float, float)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setMinimumSize(300, 150)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Rest map")
        self.setAccessibleDescription("Roll across, pitch up. Arrow keys move the pointer, Enter poses")
        self._image: tuple[RestPicture, object, QImage, list[QPainterPath]] | None = None
        self.at: tuple[float, float] | None = None
        session.arrived.connect(self.update)
        session.changed.connect(self.update)

    # ---- attitudes and pixels

    def area(self) -> QRectF:
        return QRectF(LEFT, TOP, self.width() - LEFT - RIGHT, self.height() - TOP - FOOT)

    def pixel(self, pitch_rad: float, roll_rad: float) -> QPointF:
        area = self.area()
        x = area.left() + area.width() * (roll_rad / (2 * math.pi) + 0.5)
        return QPointF(x, area.top() + area.height() * (0.5 - pitch_rad / math.pi))

    def attitude(self, at: QPointF) -> tuple[float, float]:
        """(pitch, roll), rad, at a place on the map."""
        area = self.area()
        across = min(1.0, max(0.0, (at.x() - area.left()) / area.width()))
        down = min(1.0, max(0.0, (at.y() - area.top()) / area.height()))
        return (0.5 - down) * math.pi, (across - 0.5) * 2.0 * math.pi

    def found(self) -> RestMap | None:
        return self.session.ask(of.landings)

    # ---- painting

    def _picture(self, found: RestMap, drawn: RestPicture) -> tuple[QImage, list[QPainterPath]]:
        if self._image is not None and self._image[0] is drawn and self._image[1] is Look.now:
            return self._image[2], self._image[3]
        energy = drawn.energy
        low, high = float(energy.min()), max(float(energy.max()), float(energy.min()) + 1e-9)
        depth = ((energy - low) / (high - low))[..., None]
        tones = _tones(found)
        base = tones[np.clip(drawn.ends, 0, len(tones) - 1)]
        ink = _rgb(Look.now.card)
        shade = base * (0.45 + 0.55 * (1 - depth)) + ink * 0.55 * depth
        rgb = np.ascontiguousarray(np.clip(shade, 0, 255).astype(np.uint8))
        image = QImage(rgb.data.tobytes(), COLUMNS, ROWS, 3 * COLUMNS, QImage.Format.Format_RGB888).copy()
        paths = [_contour(energy, low + (high - low) * (k + 1) / (CONTOURS + 1)) for k in range(CONTOURS)]
        self._image = (drawn, Look.now, image, paths)
        return image, paths

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        area, now = self.area(), Look.now
        found = self.found()
        painter.setFont(font(8))
        drawn = self.session.ask(of.landing_picture) if found is not None and found.rests else None
        if found is None or drawn is None:
            painter.setPen(colour(now.soft))
            words = "it sinks: nowhere to land" if not of.buoyancy(self.session.study).floats else "working it out …"
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, words)
            return
        image, paths = self._picture(found, drawn)
        painter.drawImage(area, image)
        painter.save()
        painter.translate(area.topLeft())
        painter.scale(area.width() / COLUMNS, area.height() / ROWS)
        pen = QPen(colour(now.ink, 90), 0.8)
        pen.setCosmetic(True)
        painter.setPen(pen)
        for path in paths:
            painter.drawPath(path)
        painter.restore()
        self._paint_scale(painter, area)
        self._paint_rests(painter, found)
        if self.at is not None:
            self._paint_pointer(painter, found)
        if self.hasFocus():
            painter.setPen(QPen(colour(now.water_ink), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(area)

    def _paint_scale(self, painter: QPainter, area: QRectF) -> None:
        painter.setPen(colour(Look.now.soft))
        for degrees in (-180, -90, 0, 90, 180):
            at = self.pixel(-math.pi / 2, math.radians(degrees))
            x = min(max(at.x() - 26, 0.0), self.width() - 52.0)
            word = f"roll {degrees}°".replace("-", "−") if degrees in (-180, 180) else f"{degrees}°".replace("-", "−")
            side = Qt.AlignmentFlag.AlignRight if degrees == 180 else Qt.AlignmentFlag.AlignHCenter
            painter.drawText(QRectF(x, area.bottom() + 3, 52, 14), side, word)
        for degrees, word in ((90, "nose up"), (45, "45°"), (0, "level"), (-45, "−45°"), (-90, "nose down")):
            y = self.pixel(math.radians(degrees), 0.0).y()
            painter.drawText(
                QRectF(0, min(max(y - 7, 0.0), area.bottom() - 13), LEFT - 4, 14), Qt.AlignmentFlag.AlignRight, word
            )

    def _paint_rests(self, painter: QPainter, found: RestMap) -> None:
        """Each rest with its share of landings, its draft, and the knock that turns it over."""
        now, unit = Look.now, Units.of("length")
        taken: list[QRectF] = []
        dots = [self.pixel(rest.pitch_rad, rest.roll_rad) for rest in found.rests]
        painter.setPen(QPen(colour(now.card), 2))
        painter.setBrush(colour(now.ink))
        for dot in dots:
            painter.drawEllipse(dot, DOT_PX, DOT_PX)
        for rest, share, knock in zip(found.rests, found.shares, found.knocks_nj, strict=True):
            at = self.pixel(rest.pitch_rad, rest.roll_rad)
            first = f"{100 * share:.1f} %" + (", any side up" if rest.neutral else "")
            second = f"draft {show(rest.draft_mm, unit)} {unit}"
            if math.isfinite(knock):
                second += f", {knock / 1000.0:.2g} µJ"
            wide = max(width_of(first, 9, True), width_of(second, 8)) + 12
            box = beside(at, wide, 29.0, self.area(), taken, dots, DOT_PX)
            taken.append(box)
            painter.setPen(QPen(colour(now.ink), 1))
            painter.drawLine(
                at, QPointF(min(max(at.x(), box.left()), box.right()), min(max(at.y(), box.top()), box.bottom()))
            )
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour(now.card, 225))
            painter.drawRoundedRect(box, 3, 3)
            painter.setPen(colour(now.ink))
            painter.setFont(font(9, True))
            painter.drawText(
                box.adjusted(6, 1, -2, -14), Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, first
            )
            painter.setFont(font(8))
            painter.drawText(
                box.adjusted(6, 14, -2, -1), Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, second
            )

    def _paint_pointer(self, painter: QPainter, found: RestMap) -> None:
        assert self.at is not None
        places, _ = found.path_from(up_from(*self.at))
        pen = QPen(colour(Look.now.ink), 1.6, Qt.PenStyle.DotLine)
        painter.setPen(pen)
        before: QPointF | None = None
        for up in places:
            roll = math.atan2(-up[1], up[2])
            here = self.pixel(math.asin(max(-1.0, min(1.0, -up[0]))), roll)
            if before is not None and abs(here.x() - before.x()) < self.area().width() / 3:
                painter.drawLine(before, here)
            before = here
        at = self.pixel(*self.at)
        painter.setPen(QPen(colour(Look.now.grab_edge), 1.4))
        painter.setBrush(colour(Look.now.grab))
        painter.drawEllipse(at, 5, 5)

    # ---- hands

    def point(self, pitch_rad: float, roll_rad: float) -> None:
        self.at = (pitch_rad, roll_rad)
        self.pointed.emit(pitch_rad, roll_rad)
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        at = self.attitude(event.position())
        self.point(*at)
        if event.buttons() & Qt.MouseButton.LeftButton:
            self.posed.emit(*at)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        self.point(*self.attitude(event.position()))

    def leaveEvent(self, event: object) -> None:
        self.at = None
        self.left.emit()
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {
            Qt.Key.Key_Left: (0, -1), Qt.Key.Key_Right: (0, 1), Qt.Key.Key_Up: (1, 0), Qt.Key.Key_Down: (-1, 0)
        }  # fmt: skip
        step = steps.get(Qt.Key(event.key()))
        pitch, roll = self.at or (0.0, 0.0)
        if step is not None:
            size = math.radians(STEP_DEG * (10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1))
            pitch = max(-math.pi / 2, min(math.pi / 2, pitch + step[0] * size))
            roll = (roll + step[1] * size + math.pi) % (2 * math.pi) - math.pi
            self.point(pitch, roll)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.at is not None:
            self.posed.emit(*self.at)
        elif event.key() == Qt.Key.Key_Escape:
            self.leaveEvent(event)
        else:
            super().keyPressEvent(event)


def _tones(found: RestMap) -> Array:
    """(rests, 3) a colour for each rest: water for the most upright, wood and stone for the others."""
    others = ["#c08a5a", "#8a7f9c", "#b9a25a", "#7d8b95"]
    most = max(range(len(found.rests)), key=lambda k: found.rests[k].up[2])
    tones = [others[k % len(others)] for k in range(len(found.rests))]
    tones[most] = Look.now.water_deep
    return np.stack([_rgb(tone) for tone in tones])


def _rgb(tone: str) -> Array:
    made = QColor(tone)
    return np.array([made.red(), made.green(), made.blue()], dtype=float)


def _contour(energy: Array, level: float) -> QPainterPath:
    """A contour of a grid of energies as a path in its cells."""
    from skimage.measure import find_contours

    path = QPainterPath()
    lines: list[Array] = find_contours(energy, level)
    for line in lines:
        path.moveTo(float(line[0, 1]) + 0.5, float(line[0, 0]) + 0.5)
        for row, column in line[1::2]:
            path.lineTo(float(column) + 0.5, float(row) + 0.5)
    return path

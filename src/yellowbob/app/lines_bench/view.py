"""The drawing on the Lines bench: side above, plan below, the section that slides along, the area curve."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPolygonF,
    QTransform,
)
from PySide6.QtWidgets import QWidget

from yellowbob.app.fields import Units
from yellowbob.app.session import Session
from yellowbob.app.tank import painter as paint
from yellowbob.app.theme import Look, colour, font
from yellowbob.design.cut_edits import placed_at
from yellowbob.design.model import Design
from yellowbob.design.outline_edits import (
    CurveName,
    PointRef,
    added_point,
    curve_names,
    moved_point,
    outline_of,
    with_bend,
    without_point,
)
from yellowbob.design.shape import MeshBody
from yellowbob.lines.curves import curve
from yellowbob.lines.picture import View
from yellowbob.lines.sections import sections_at
from yellowbob.quantities import show

Array = NDArray[np.float64]

FOLLOW_MS = 40
GRAB_PX = 13.0
NUDGE_MM = 0.1
SHIFT_TIMES = 10


class LinesView(QWidget):
    """Draws the outlines of the design at hand; the solid follows a moment later."""

    picked = Signal()
    held = Signal(str)
    slid = Signal(float)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setAccessibleName("Lines: side and plan outlines")
        self.setAccessibleDescription("Arrows nudge the point; comma and full stop select; A adds, C turns its bend")
        self.setMinimumSize(420, 300)
        self.point: PointRef | None = None
        self.draft: Design | None = None
        self.ghost: Design | None = None
        self.section_x = 0.4
        self._under: tuple[QImage, Array] | None = None
        self.frames = 0
        self._drag: str = ""
        self._cut: tuple[str, int] | None = None
        self._follow = QTimer(self)
        self._follow.setSingleShot(True)
        self._follow.setInterval(FOLLOW_MS)
        self._follow.timeout.connect(self._take_draft)
        session.changed.connect(self._changed)

    def sizeHint(self) -> QSize:
        return QSize(944, 470)

    def design(self) -> Design:
        """What is being drawn: the draft while a point is dragged."""
        return self.draft or self.session.design

    def _changed(self) -> None:
        point = self.point
        if point is not None and (
            point.curve not in curve_names(self.session.design)
            or point.index >= len(outline_of(self.session.design, point.curve))
        ):
            self.pick(None)
        self.update()

    # ---- where things are

    def length(self) -> float:
        return self.design().body.shape.length_mm

    def scale(self) -> float:
        """px per mm: side and plan one above the other, the section on the right."""
        low, high, half = self._reach()
        wide = (self.width() - 290) / self.length()
        tall = (self.height() - 150) / max(high - low + 2 * half, 1.0)
        return float(max(0.2, min(wide, tall)))

    def _reach(self) -> tuple[float, float, float]:
        """Lowest and highest z of the side, and the half-width, mm, of the solid as it is known."""
        bounds = self.session.study.outer.bounds
        return float(bounds[0, 2]), float(bounds[1, 2]), float(bounds[1, 1])

    def side_origin(self) -> QPointF:
        return QPointF(34.0, 46.0 + self._reach()[1] * self.scale())

    def plan_origin(self) -> QPointF:
        low, _, half = self._reach()
        return QPointF(34.0, self.side_origin().y() - low * self.scale() + 58.0 + half * self.scale())

    def to_px(self, name: str, x: float, y: float) -> QPointF:
        origin = self.plan_origin() if name == "plan" else self.side_origin()
        sign = -1.0
        return QPointF(origin.x() + x * self.scale(), origin.y() + sign * y * self.scale())

    def to_mm(self, name: str, at: QPointF) -> tuple[float, float]:
        origin = self.plan_origin() if name == "plan" else self.side_origin()
        return (at.x() - origin.x()) / self.scale(), (origin.y() - at.y()) / self.scale()

    def point_at(self, at: QPointF) -> PointRef | None:
        best, nearest = None, GRAB_PX
        for name in curve_names(self.design()):
            for index, point in enumerate(outline_of(self.design(), name)):
                spot = self.to_px(name, *point.at_mm)
                away = math.hypot(spot.x() - at.x(), spot.y() - at.y())
                if away < nearest:
                    best, nearest = PointRef(name, index), away
        return best

    def handles(self) -> list[tuple[tuple[str, int], QPointF, str]]:
        """Drag handles of cuts and parts: which one, where, its name."""
        found = []
        design = self.session.design
        for kind, listed in (("cut", design.body.cuts), ("part", design.parts)):
            for number, one in enumerate(listed):
                x = getattr(one, "rim_x_mm", getattr(one, "x_mm", None))
                z = getattr(one, "z_mm", None)
                if x is not None and z is not None:
                    found.append(((kind, number), self.to_px("back", x, z), one.name))
        if design.body.shell is not None:
            for number, (x, z) in enumerate(design.body.shell.split_mm):
                found.append((("split", number), self.to_px("back", x, z), "split line" if number == 1 else ""))
        return found

    # ---- painting

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), colour(Look.now.card))
        design = self.design()
        self._paint_words(painter)
        self._paint_under(painter)
        self._paint_solid(painter)
        if self.ghost is not None:
            painter.setClipRect(QRectF(0, 0, self.width() - 240, self.height()))
            self._paint_curves(painter, self.ghost, colour(Look.now.soft, 150), Qt.PenStyle.DashLine)
            painter.setClipping(False)
        if not isinstance(design.body.shape, MeshBody):
            self._paint_curves(painter, design, colour(Look.now.ink), Qt.PenStyle.SolidLine)
            self._paint_area(painter, design)
            self._paint_section(painter, design)
            self._paint_points(painter, design)
        self._paint_handles(painter)
        if self.session.fault:
            box = QRectF(16, self.height() - 50, self.width() - 32, 36)
            painter.setPen(QPen(colour(Look.now.bad), 2))
            painter.setBrush(colour(Look.now.card))
            painter.drawRoundedRect(box, 4, 4)
            painter.setFont(font(10.5, True))
            flags = Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(box.adjusted(12, 2, -12, -2), flags, f"! {self.session.fault}")
        edge = colour(Look.now.water_ink if self.hasFocus() else Look.now.line)
        painter.setPen(QPen(edge, 2 if self.hasFocus() else 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5))
        painter.end()
        self.frames += 1

    def _paint_words(self, painter: QPainter) -> None:
        painter.setFont(font(9))
        painter.setPen(colour(Look.now.soft))
        painter.drawText(QPointF(16, 22), "side")
        painter.drawText(QPointF(16, self.plan_origin().y() - self._reach()[2] * self.scale() + 8), "plan")
        painter.drawText(QPointF(self.width() - 226, 22), "section")
        zero, unit = self.plan_origin(), Units.of("length")
        y = zero.y() + self._reach()[2] * self.scale() + 22
        painter.setPen(QPen(colour(Look.now.line), 1))
        long = self.length()
        painter.drawLine(QPointF(zero.x(), y), QPointF(zero.x() + long * self.scale(), y))
        painter.setFont(font(8))
        painter.setPen(colour(Look.now.soft))
        step = 10.0 if long < 160 else 20.0
        for number in range(int(long / step) + 1):
            x = zero.x() + number * step * self.scale()
            painter.drawLine(QPointF(x, y), QPointF(x, y + 4))
            painter.drawText(
                QRectF(x - 24, y + 4, 48, 14),
                Qt.AlignmentFlag.AlignCenter,
                show(number * step, unit, None if unit == "in" else 0),
            )
        painter.drawText(QPointF(zero.x() + long * self.scale() + 16, y + 8), unit)

    def lay_under(self, image: QImage | None, to_px: Array | None) -> None:
        """Lay a traced picture under the side view; None takes it away."""
        self._under = None if image is None or to_px is None else (image, np.asarray(to_px))
        self.update()

    def _paint_under(self, painter: QPainter) -> None:
        if self._under is None:
            return
        image, to_px = self._under
        # picture pixel -> mm -> widget: invert the affine map, then the view's own
        back = np.linalg.inv(np.vstack([to_px, [0.0, 0.0, 1.0]]))
        origin, scale = self.side_origin(), self.scale()
        view = np.array([[scale, 0.0, origin.x()], [0.0, -scale, origin.y()], [0.0, 0.0, 1.0]])
        whole = view @ back
        painter.save()
        painter.setClipRect(QRectF(0, 0, self.width() - 240, self.plan_origin().y() - self._reach()[2] * scale - 50))
        painter.setOpacity(0.8)
        painter.setTransform(
            QTransform(whole[0, 0], whole[1, 0], whole[0, 1], whole[1, 1], whole[0, 2], whole[1, 2]), combine=True
        )
        painter.drawImage(QPointF(0, 0), image)
        painter.restore()

    def _paint_solid(self, painter: QPainter) -> None:
        study = self.session.study
        side, plan = self.side_origin(), self.plan_origin()
        nothing = np.zeros(3)
        x, y, z = np.eye(3)
        painter.setOpacity(0.25 if self._under is not None else 0.55)
        paint.paint_solid(painter, study.whole, View(x, z, self.scale(), nothing, (side.x(), side.y())), small=True)
        paint.paint_solid(painter, study.whole, View(x, y, self.scale(), nothing, (plan.x(), plan.y())), small=True)
        painter.setOpacity(1.0)

    def _paint_curves(self, painter: QPainter, design: Design, tone: QColor, style: Qt.PenStyle) -> None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(tone, 2.0 if style == Qt.PenStyle.SolidLine else 1.4, style))
        for name in curve_names(design):
            controls = curve(outline_of(design, name)).controls
            for view, sign in (("back", 1.0), ("back", -1.0), ("plan", 1.0), ("plan", -1.0)):
                shown = {"back": view == "back" and sign > 0, "belly": view == "back" and sign > 0, "plan": view == "plan",
                         "profile": True}[name]  # fmt: skip
                if not shown:
                    continue
                path = QPainterPath(self.to_px(view, controls[0, 0, 0], sign * controls[0, 0, 1]))
                for one in controls:
                    path.cubicTo(*(self.to_px(view, p[0], sign * p[1]) for p in one[1:]))
                painter.drawPath(path)

    def _paint_area(self, painter: QPainter, design: Design) -> None:
        """The curve of section areas, between side and plan."""
        shape = design.body.shape
        assert not isinstance(shape, MeshBody)
        x = np.linspace(0.0, shape.length_mm, 80)
        area = sections_at(shape, x).areas()
        base = self.plan_origin().y() - self._reach()[2] * self.scale() - 12
        rise = 34.0 / max(float(area.max()), 1e-9)
        points = [
            QPointF(self.side_origin().x() + a * self.scale(), base - v * rise) for a, v in zip(x, area, strict=True)
        ]
        painter.setPen(QPen(colour(Look.now.water_ink), 1.4))
        painter.setBrush(colour(Look.now.water_top, 90))
        painter.drawPolygon(QPolygonF([QPointF(points[0].x(), base), *points, QPointF(points[-1].x(), base)]))
        painter.setFont(font(8))
        painter.setPen(colour(Look.now.water_ink))
        words = f"area of the section, at most {area.max():.0f} mm²"
        painter.drawText(QRectF(points[-1].x() - 260, base - 34, 256, 14), Qt.AlignmentFlag.AlignRight, words)

    def _paint_section(self, painter: QPainter, design: Design) -> None:
        """The cross-section at the slider, at a scale of its own when the body is small."""
        shape = design.body.shape
        assert not isinstance(shape, MeshBody)
        at = self.section_x * shape.length_mm
        ring = sections_at(shape, np.array([at])).rings(96)[0]
        half = max(float(np.ptp(ring[:, 1])), float(np.ptp(ring[:, 2])), 1.0)
        scale = min(190.0 / half, 4.0 * self.scale())
        middle = QPointF(self.width() - 122, 46 + 100)
        lift = float(ring[:, 2].max() + ring[:, 2].min()) / 2
        points = [QPointF(middle.x() + y * scale, middle.y() - (z - lift) * scale) for _, y, z in ring]
        painter.setPen(QPen(colour(Look.now.ink), 2))
        painter.setBrush(colour(Look.now.wood))
        painter.drawPolygon(QPolygonF(points))
        unit = Units.of("length")
        painter.setFont(font(9))
        painter.setPen(colour(Look.now.soft))
        words = f"{show(float(np.ptp(ring[:, 1])), unit)} wide, {show(float(np.ptp(ring[:, 2])), unit)} {unit} deep"
        painter.drawText(QRectF(self.width() - 226, 254, 210, 16), Qt.AlignmentFlag.AlignHCenter, words)
        top, foot = self._grip().y(), self.plan_origin().y() + self._reach()[2] * self.scale()
        painter.setPen(QPen(colour(Look.now.soft), 1, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(self._grip().x(), top), QPointF(self._grip().x(), foot))
        paint.paint_mark(painter, self._grip(), self._drag == "section")

    def _grip(self) -> QPointF:
        """Where the section's slider is grabbed: above the side view."""
        x = self.side_origin().x() + self.section_x * self.length() * self.scale()
        return QPointF(x, 30.0)

    def _paint_points(self, painter: QPainter, design: Design) -> None:
        for name in curve_names(design):
            for index, point in enumerate(outline_of(design, name)):
                paint.paint_mark(
                    painter, self.to_px(name, *point.at_mm), self.point == PointRef(name, index), point.bend == "corner"
                )

    def _paint_handles(self, painter: QPainter) -> None:
        shell = self.session.design.body.shell
        if shell is not None:
            painter.setPen(QPen(colour(Look.now.water_ink), 2, Qt.PenStyle.DashDotLine))
            painter.drawPolyline(QPolygonF([self.to_px("back", x, z) for x, z in shell.split_mm]))
        self._paint_thin(painter)
        painter.setFont(font(8.5))
        for which, at, name in self.handles():
            paint.paint_mark(painter, at, which == self._cut, True)
            painter.setPen(colour(Look.now.ink))
            painter.drawText(QPointF(at.x() + 10, at.y() - 6), name)

    def _paint_thin(self, painter: QPainter) -> None:
        """Walls the cuts left too thin, marked where they are; the thinnest with its figure."""
        walls = self.session.study.thin_walls
        painter.setPen(QPen(colour(Look.now.bad), 2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for wall in walls[:60]:
            at = self.to_px("back", wall.at_mm[0], wall.at_mm[2])
            painter.drawLine(at + QPointF(-3, -3), at + QPointF(3, 3))
            painter.drawLine(at + QPointF(-3, 3), at + QPointF(3, -3))
        if walls:
            unit = Units.of("length")
            painter.setFont(font(9, True))
            at = self.to_px("back", walls[0].at_mm[0], walls[0].at_mm[2])
            painter.drawText(at + QPointF(10, 16), f"! wall {show(walls[0].thick_mm, unit)} {unit}")

    # ---- hands

    def pick(self, point: PointRef | None) -> None:
        if point != self.point:
            self.point = point
            self.picked.emit()
        self.update()

    def slide_to(self, share: float) -> None:
        self.section_x = min(1.0, max(0.0, share))
        self.slid.emit(self.section_x * self.length())
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at = event.position()
        self.session.end_thread()
        grip = self._grip()
        if math.hypot(at.x() - grip.x(), at.y() - grip.y()) < GRAB_PX:
            self._drag = "section"
            return
        for which, spot, _ in self.handles():
            if math.hypot(at.x() - spot.x(), at.y() - spot.y()) < GRAB_PX:
                self._cut, self._drag = which, "cut"
                self.session.dragging = True
                return
        self.pick(self.point_at(at))
        self._drag = "point" if self.point is not None else ""
        self.session.dragging = bool(self._drag)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        at = event.position()
        if self._drag == "section":
            self.slide_to((at.x() - self.side_origin().x()) / (self.scale() * self.length()))
        elif self._drag == "cut" and self._cut is not None:
            self.move_cut(self._cut, *self.to_mm("back", at))
        elif self._drag == "point" and self.point is not None:
            self.put_point(self.point, *self.to_mm(self.point.curve, at))
        else:
            over = self.point_at(at) is not None
            self.setCursor(Qt.CursorShape.OpenHandCursor if over else Qt.CursorShape.ArrowCursor)

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        self._take_draft()
        self._drag = ""
        self.session.dragging = False
        self.session.end_thread()
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """A new point on the nearest outline."""
        best: tuple[float, CurveName, float, float] | None = None
        for name in curve_names(self.session.design):
            x, y = self.to_mm(name, event.position())
            on = float(curve(outline_of(self.session.design, name)).at(np.array([x]))[0])
            if best is None or abs(on - y) < best[0]:
                best = abs(on - y), name, x, on
        if best is not None and best[0] * self.scale() < 20:
            self._add(best[1], best[2], best[3])

    def _add(self, name: CurveName, x: float, y: float) -> None:
        added = added_point(self.session.design, name, x, y)
        if added is not None:
            self.session.edit(added[0], f"point on the {name}")
            self.pick(added[1])

    def put_point(self, ref: PointRef, x_mm: float, y_mm: float) -> None:
        """Drag a point: the drawing at once, the solid a moment later."""
        done = moved_point(self.design(), ref, x_mm, y_mm)
        self.draft = done.design
        self.held.emit(done.held)
        if not self._follow.isActive():
            self._follow.start()
        self.update()

    def _take_draft(self) -> None:
        self._follow.stop()
        if self.draft is not None:
            draft, self.draft = self.draft, None
            self.session.edit(draft, "move a point", "drag")

    def move_cut(self, which: tuple[str, int], x_mm: float, z_mm: float) -> None:
        """Drag a cut or a part by its handle."""
        self.session.edit(placed_at(self.session.design, which, x_mm, z_mm), "move a cut", "drag")

    def pick_next(self, step: int) -> None:
        every = [
            PointRef(n, i)
            for n in curve_names(self.session.design)
            for i in range(len(outline_of(self.session.design, n)))
        ]
        if every:
            now = every.index(self.point) if self.point in every else -1
            self.pick(every[(now + step) % len(every)])

    def keyPressEvent(self, event: QKeyEvent) -> None:
        arrows = {
            Qt.Key.Key_Left: (-1.0, 0.0), Qt.Key.Key_Right: (1.0, 0.0), Qt.Key.Key_Up: (0.0, 1.0),
            Qt.Key.Key_Down: (0.0, -1.0),
        }  # fmt: skip
        step, point = arrows.get(Qt.Key(event.key())), self.point
        if event.text() in (",", "."):
            self.pick_next(1 if event.text() == "." else -1)
        elif point is None:
            super().keyPressEvent(event)
        elif step is not None:
            size = NUDGE_MM * (SHIFT_TIMES if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1)
            x, y = outline_of(self.session.design, point.curve)[point.index].at_mm
            done = moved_point(self.session.design, point, x + step[0] * size, y + step[1] * size)
            self.held.emit(done.held)
            self.session.edit(done.design, "nudge a point", f"nudge {point}")
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.remove_point()
        elif event.text().lower() == "c":
            self.session.edit(with_bend(self.session.design, point), "bend of a point")
        elif event.text().lower() == "a":
            self.add_after()
        else:
            super().keyPressEvent(event)

    def remove_point(self) -> None:
        if self.point is not None:
            done = without_point(self.session.design, self.point)
            self.held.emit(done.held)
            self.session.edit(done.design, "remove a point")

    def add_after(self) -> None:
        """A point half-way to the next one."""
        if self.point is None:
            return
        outline = outline_of(self.session.design, self.point.curve)
        at = min(self.point.index, len(outline) - 2)
        x = (outline[at].at_mm[0] + outline[at + 1].at_mm[0]) / 2
        self._add(self.point.curve, x, float(curve(outline).at(np.array([x]))[0]))

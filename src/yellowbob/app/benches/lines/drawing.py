"""What is seen on the Lines bench: side above, plan below, the section that slides along, the area curve."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer
from PySide6.QtGui import (
    QColor,
    QImage,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
    QTransform,
)

from yellowbob.app.benches.lines.sights import Sights
from yellowbob.app.session.session import Session
from yellowbob.app.session.warm import Warm
from yellowbob.app.widgets import painter as paint
from yellowbob.app.widgets.beside import beside
from yellowbob.app.widgets.complaint import paint_complaint
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.theme import Look, colour, font, width_of
from yellowbob.design.corner_edits import Corner, corners
from yellowbob.design.model import Design
from yellowbob.design.outline_edits import (
    PointRef,
    curve_names,
    outline_of,
)
from yellowbob.design.shape import MeshBody, Turned
from yellowbob.ground.quantities import show
from yellowbob.lines.curves import curve
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.picture import View
from yellowbob.lines.sections import sections_at
from yellowbob.study import of

Array = NDArray[np.float64]


class LinesDrawing(Sights):
    """Painting of the outlines; `LinesView` adds the hands."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setMinimumSize(420, 270)
        self.point: PointRef | None = None
        self.ghost: Design | None = None
        self.frames = 0
        self._under: tuple[QImage, Array] | None = None
        self._solid: tuple[Mesh, tuple[Any, ...], QPixmap] | None = None
        self._shade = QTimer(self)
        self._shade.setSingleShot(True)
        self._shade.timeout.connect(self._shade_solid)
        self._cut: tuple[str, int] | None = None
        self._area_at: QPointF | None = None
        self._most_mm2 = 0.0
        self.corner: Corner | None = None

    def sizeHint(self) -> QSize:
        return QSize(944, 470)

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
            painter.setClipRect(QRectF(0, 0, self.cells()["section"].left(), self.height()))
            self._paint_curves(painter, self.ghost, colour(Look.now.soft, 150), Qt.PenStyle.DashLine)
            painter.setClipping(False)
        if not isinstance(design.shape, MeshBody):
            self._paint_curves(painter, design, colour(Look.now.ink), Qt.PenStyle.SolidLine)
            self._paint_stack(painter, design)
            self._paint_area(painter, design)
            self._paint_section(painter, design)
            self._paint_points(painter, design)
        self._paint_handles(painter)
        self._paint_names(painter)
        if self.session.complaint:
            paint_complaint(painter, QRectF(self.rect()), self.session.complaint)
        edge = colour(Look.now.water_ink if self.hasFocus() else Look.now.line)
        painter.setPen(QPen(edge, 2 if self.hasFocus() else 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5))
        painter.end()
        self.frames += 1

    def _paint_words(self, painter: QPainter) -> None:
        painter.setFont(font(8))
        painter.setPen(colour(Look.now.soft))
        painter.drawText(QPointF(5, self.side_origin().y() + 4), "side")
        painter.drawText(QPointF(5, self.plan_origin().y() + 4), "plan")
        painter.setFont(font(9))
        for name, words in (
            ("section", "section"),
            ("front", "from the front"),
            ("lip", "the lip, flat, slot uppermost"),
        ):
            if name in self.cells():
                painter.drawText(self.cells()[name].adjusted(8, 0, 0, 0), words)
        zero, unit = self.plan_origin(), Units.of("length")
        y = zero.y() + self.laid().reach[2] * self.scale() + 22
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
        painter.setClipRect(
            QRectF(0, 0, self.cells()["section"].left(), self.plan_origin().y() - self.laid().reach[2] * scale - 50)
        )
        painter.setOpacity(0.8)
        painter.setTransform(
            QTransform(whole[0, 0], whole[1, 0], whole[0, 1], whole[1, 1], whole[0, 2], whole[1, 2]), combine=True
        )
        painter.drawImage(QPointF(0, 0), image)
        painter.restore()

    def _paint_solid(self, painter: QPainter) -> None:
        """The solid as it was last shaded; where it is another one by now it is shaded in the next turn, and drawn then."""
        if not self.sound():
            return
        mesh, wanted = of.whole(self.session.study), self._solid_wanted()
        known = self._solid
        if known is None or known[0] is not mesh or known[1] != wanted:
            self._shade.start()
        if known is not None and known[1] == wanted:
            painter.setOpacity(0.25 if self._under is not None else 0.55)
            painter.drawPixmap(0, 0, known[2])
            painter.setOpacity(1.0)
        self._paint_foot(painter, "front", self._front_words())

    def _solid_wanted(self) -> tuple[Any, ...]:
        side, plan = self.side_origin(), self.plan_origin()
        places = (side.x(), side.y(), plan.x(), plan.y())
        return self.scale(), places, self.width(), self.height(), self.devicePixelRatioF(), Look.now, Warm.ready

    def _shade_solid(self) -> None:
        """Shade the solid that there is now."""
        if not self.isVisible() or not self.sound():
            return
        mesh, wanted, ratio = of.whole(self.session.study), self._solid_wanted(), self.devicePixelRatioF()
        image = QPixmap(self.size() * ratio)
        image.setDevicePixelRatio(ratio)
        image.fill(Qt.GlobalColor.transparent)
        inner = QPainter(image)
        inner.setRenderHint(QPainter.RenderHint.Antialiasing)
        x, y, z = np.eye(3)
        for up, origin in ((z, self.side_origin()), (y, self.plan_origin())):
            view = View(x, up, self.scale(), np.zeros(3), (origin.x(), origin.y()))
            paint.paint_solid(inner, mesh, view, small=True)
        self._paint_front(inner, mesh)
        inner.end()
        self._solid = (mesh, wanted, image)
        self.update()

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
                painter.drawPath(self._path(view, controls, sign))

    def _path(self, view: str, controls: Array, sign: float = 1.0, at: float = 0.0) -> QPainterPath:
        path = QPainterPath(self.to_px(view, at + controls[0, 0, 0], sign * controls[0, 0, 1]))
        for one in controls:
            path.cubicTo(*(self.to_px(view, at + p[0], sign * p[1]) for p in one[1:]))
        return path

    def _paint_stack(self, painter: QPainter, design: Design) -> None:
        """Outlines of the turned pieces that stand on the axis beside the body, from the side and from above."""
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour(Look.now.ink), 1.2))
        for piece in design.parts:
            if isinstance(piece.shape, Turned) and piece.turned_deg == (0.0, 0.0, 0.0) and not any(piece.at_mm[1:]):
                controls, at = curve(piece.shape.profile).controls, piece.at_mm[0]
                for view, sign in (("back", 1.0), ("back", -1.0), ("plan", 1.0), ("plan", -1.0)):
                    painter.drawPath(self._path(view, controls, sign, at))

    def _paint_area(self, painter: QPainter, design: Design) -> None:
        """The curve of section areas, between side and plan."""
        shape = design.shape
        assert not isinstance(shape, MeshBody)
        x = np.linspace(0.0, shape.length_mm, 80)
        area = self.kept("area", shape, 0.0, lambda: sections_at(shape, x).areas())
        base = self.plan_origin().y() - self.laid().reach[2] * self.scale() - 12
        rise = 34.0 / max(float(area.max()), 1e-9)
        along, high = self.side_origin().x() + x * self.scale(), base - area * rise
        points = [QPointF(a, v) for a, v in zip(along.tolist(), high.tolist(), strict=True)]
        painter.setPen(QPen(colour(Look.now.water_ink), 1.4))
        painter.setBrush(colour(Look.now.water_top, 90))
        painter.drawPolygon(QPolygonF([QPointF(points[0].x(), base), *points, QPointF(points[-1].x(), base)]))
        self._area_at, self._most_mm2 = points[len(points) * 2 // 3], float(area.max())

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
        self._paint_lip(painter)
        for corner in corners(self.design()):
            paint.paint_mark(painter, self.to_px(corner.view, *corner.at_mm), corner == self.corner, True)
        for which, at, _ in self.handles():
            paint.paint_mark(painter, at, which == self._cut, True)

    def _paint_names(self, painter: QPainter) -> None:
        """Names of cuts and parts and the area's figure, clear of the handles and of one another."""
        design = self.design()
        solid = not isinstance(design.shape, MeshBody)
        marks = [at for _, at, _ in self.handles()] + [self.to_px(c.view, *c.at_mm) for c in corners(self.design())]
        if solid:
            marks += [self.to_px(n, *p.at_mm) for n in curve_names(design) for p in outline_of(design, n)]
            marks.append(self._grip())
        rows = [(at, name, Look.now.ink) for _, at, name in self.handles() if name]
        if solid and self._area_at is not None:
            rows.append((self._area_at, f"area of the section, at most {self._most_mm2:.0f} mm²", Look.now.water_ink))
        taken: list[QRectF] = []
        painter.setFont(font(8.5))
        for at, words, tone in rows:
            box = beside(
                at, width_of(words, 8.5) + 8.0, 16.0, QRectF(self.rect()).adjusted(4, 4, -4, -4), taken, marks, 8.0
            )
            taken.append(box)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour(Look.now.card, 200))
            painter.drawRoundedRect(box, 3, 3)
            painter.setPen(colour(tone))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)

    def _paint_thin(self, painter: QPainter) -> None:
        """Walls the cuts left too thin, marked where they are; the thinnest with its figure."""
        walls = (self.session.ask(of.thin) or ()) if self.sound() else ()
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

"""Painting of solids, hardware and water; each function paints one thing with the painter it is given."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QLinearGradient, QPainter, QPainterPath, QPen, QPolygonF

from yellowbob.app.session.warm import Warm
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.theme import Look, colour, font
from yellowbob.design.model import Design, Fitting, Slug
from yellowbob.fitout.hooks import fixed_lines
from yellowbob.ground.quantities import show
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.picture import View, contour, drawn_by, flat_faces, shaded
from yellowbob.weights.ballast import PlacedBallast
from yellowbob.weights.holes import Holes

Array = NDArray[np.float64]

GRIP_PX = 9.0
LABEL_PX = 26.0
"""Figures along the ruler stand at least so far apart."""
JIG_SHOWN_MM = 25.0
"""So much of a leader is drawn."""


def round_pen(tone: QColor, width: float) -> QPen:
    return QPen(tone, width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin)


def paint_solid(painter: QPainter, mesh: Mesh, view: View, small: bool = False) -> None:
    """The shaded body and its edges; a small one is only edges until the compiled code is there."""
    mesh = drawn_by(mesh)
    points = view.pixels(mesh.vertices)
    x0, y0 = (int(v) - 2 for v in points.min(axis=0))
    x1, y1 = (int(v) + 3 for v in points.max(axis=0))
    width, height = x1 - x0, y1 - y0
    if width <= 0 or height <= 0 or width > 6000 or height > 6000:
        return
    if Warm.ready:
        _paint_shaded(painter, mesh, view, x0, y0, width, height)
    elif not small:
        _paint_flat(painter, mesh, view)
    painter.setPen(QPen(colour(Look.now.ink), 1.4))
    painter.drawLines([QLineF(*line) for line in contour(mesh, view, compiled=Warm.ready).reshape(-1, 4).tolist()])


def _paint_flat(painter: QPainter, mesh: Mesh, view: View) -> None:
    """Face by face, for the time before the compiled code is loaded."""
    dark, bright = np.array(Look.now.body_dark), np.array(Look.now.body_bright)
    faces, light = flat_faces(mesh, view)
    tones = (dark + (bright - dark) * light[:, None]).astype(int).tolist()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    for corners, tone in zip(faces.tolist(), tones, strict=True):
        fill = QColor(*tone)
        painter.setPen(fill)
        painter.setBrush(fill)
        painter.drawPolygon(QPolygonF([QPointF(*corner) for corner in corners]))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, True)


def _paint_shaded(painter: QPainter, mesh: Mesh, view: View, x0: int, y0: int, width: int, height: int) -> None:
    moved = View(view.right, view.up, view.scale, view.place, (view.origin[0] - x0, view.origin[1] - y0))
    pixels = shaded(mesh, moved, width, height, Look.now.body_dark, Look.now.body_bright)
    image = QImage(pixels.data, width, height, width * 4, QImage.Format.Format_RGBA8888)
    painter.drawImage(QPointF(x0, y0), image)


def paint_water(painter: QPainter, area: QRectF, surface: float) -> None:
    """The water from its surface down."""
    gradient = QLinearGradient(0, surface, 0, area.bottom())
    gradient.setColorAt(0, colour(Look.now.water_top))
    gradient.setColorAt(1, colour(Look.now.water_deep))
    painter.fillRect(QRectF(area.left(), surface, area.width(), area.bottom() - surface), gradient)


def paint_wet(painter: QPainter, area: QRectF, surface: float) -> None:
    """Water again, thin, over what is under it."""
    gradient = QLinearGradient(0, surface, 0, area.bottom())
    gradient.setColorAt(0, colour(Look.now.water_top, 105))
    gradient.setColorAt(1, colour(Look.now.water_deep, 140))
    painter.fillRect(QRectF(area.left(), surface, area.width(), area.bottom() - surface), gradient)
    painter.setPen(QPen(colour(Look.now.water_ink), 2))
    painter.drawLine(QPointF(area.left(), surface), QPointF(area.right(), surface))


def ruler_steps(scale: float) -> tuple[float, int, int]:
    """Of a ruler at so many px to the mm: mm from tick to tick, ticks from long to long, and from figure to figure."""
    step, long = {"mm": (1.0, 10), "cm": (1.0, 10), "in": (25.4 / 8, 8)}[Units.of("length")]
    return step, long, long * next((n for n in (1, 2, 5, 10, 20, 50) if scale * step * long * n >= LABEL_PX), 100)


def ruler_end(zero: float, right: float, scale: float) -> float:
    """How far a ruler is shown toward `right`, px: up to there, or to before the figure that it would cut."""
    step, _, each = ruler_steps(scale)
    last = zero + scale * step * each * math.floor((right + LABEL_PX / 2 - zero) / (scale * step * each))
    return last - LABEL_PX / 2 if last + LABEL_PX / 2 > right else right


def paint_ruler(painter: QPainter, area: QRectF, surface: float, zero: float, scale: float) -> None:
    """Ticks along the water from the body's foremost point, in the unit the maker reads."""
    unit = Units.of("length")
    step, labelled, each = ruler_steps(scale)
    fine = scale * step >= 4.0
    painter.setFont(font(8))
    painter.setPen(QPen(colour(Look.now.water_ink), 1))
    for number in range(int((area.right() - zero) / (scale * step)) + 1):
        x = zero + number * step * scale
        if number % labelled == 0:
            painter.drawLine(QPointF(x, surface), QPointF(x, surface - 10))
            if number % each:
                continue
            painter.drawText(QRectF(x - 30, surface - 26, 60, 14), Qt.AlignmentFlag.AlignCenter,
                             show(number * step, unit, 0))  # fmt: skip
        elif number % (labelled // 2) == 0:
            painter.drawLine(QPointF(x, surface), QPointF(x, surface - 7))
        elif fine:
            painter.drawLine(QPointF(x, surface), QPointF(x, surface - 4))


def _outline(view: View, corners: Array) -> QPolygonF:
    return QPolygonF([QPointF(x, y) for x, y in view.pixels(corners)])


def _band(view: View, start: Array, end: Array, width_mm: float) -> QPolygonF:
    """A rod seen from the side: a rectangle about its axis."""
    a, b = view.pixels(start), view.pixels(end)
    along = b - a
    size = float(np.hypot(*along))
    if size < 1e-6:
        along, size = np.array([0.0, 1.0]), 1.0
    across = np.array([-along[1], along[0]]) / size * width_mm * view.scale / 2
    return QPolygonF([QPointF(*(a + across)), QPointF(*(b + across)), QPointF(*(b - across)), QPointF(*(a - across))])


def paint_holes(painter: QPainter, view: View, holes: Holes, picked: int | None) -> None:
    """Holes dashed; ballast in the grab colour, for it can be dragged."""
    for bore in holes.bores:
        painter.setPen(QPen(colour(Look.now.ink), 1.2, Qt.PenStyle.DashLine))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolygon(_band(view, bore.hole.at_depth(0), bore.hole.bottom_mm, bore.hole.diameter_mm))
    for number, placed in enumerate(holes.ballast):
        _paint_ballast(painter, view, placed, number == picked)


def _paint_ballast(painter: QPainter, view: View, placed: PlacedBallast, picked: bool) -> None:
    hole = placed.hole
    if hole is not None:
        painter.setPen(QPen(colour(Look.now.ink), 1.2, Qt.PenStyle.DashLine))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolygon(_band(view, hole.at_depth(0), hole.bottom_mm, hole.diameter_mm))
    painter.setPen(QPen(colour(Look.now.grab_edge), 2.5 if picked else 1.2))
    painter.setBrush(colour(Look.now.grab, 235))
    weight = placed.ballast.weight
    if hole is not None:
        width = weight.diameter_mm if isinstance(weight, Slug) else hole.diameter_mm
        painter.drawPolygon(_band(view, hole.at_depth(hole.depth_mm - placed.stack_mm), hole.bottom_mm, width))
    x, y = view.pixels(placed.weight.centre_mm)
    if hole is None:
        painter.drawEllipse(QPointF(x, y), GRIP_PX, GRIP_PX)
    elif picked:
        painter.setBrush(colour(Look.now.card))
        painter.drawEllipse(QPointF(x, y), 4, 4)


FIGURES_PX = 96.0
"""The top of the drawing belongs to figures and small views."""


BEYOND = 6.0
"""Waterlines of a fan are drawn so many lengths beyond the body."""


def paint_fan(painter: QPainter, view: View, mesh: Mesh, ups: Array, drafts_mm: Array) -> None:
    """The waterlines of many builds, as they would stand on the body drawn here."""
    painter.save()
    painter.setClipRect(QRectF(0, FIGURES_PX, 4000, 4000))
    painter.setPen(QPen(colour(Look.now.water_ink, 40), 1.4))
    low, high = mesh.bounds[0, 0], mesh.bounds[1, 0]
    long = float(high - low)
    ups = np.asarray(ups)
    heights = (mesh.vertices @ ups.T).min(axis=0) + np.asarray(drafts_mm)
    shown = ups[:, 2] >= 0.2
    ups, heights = ups[shown, None], heights[shown, None]
    x = np.array([low - BEYOND * long, high + BEYOND * long])  # out of the drawing, where no end of it is seen
    # the water plane x·up = height, met in the centre plane at both stations
    z = (heights - x * ups[..., 0]) / ups[..., 2]
    ends = view.pixels(np.stack([np.broadcast_to(x, z.shape), np.zeros_like(z), z], axis=-1).reshape(-1, 3))
    painter.drawLines([QLineF(*line) for line in ends.reshape(-1, 4).tolist()])
    painter.restore()


def paint_wires(painter: QPainter, view: View, design: Design) -> None:
    for wire in design.wires:
        pen = QPen(colour(Look.now.soft), max(1.4, wire.diameter_mm * view.scale * 0.5))
        pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        painter.setPen(pen)
        painter.drawPolyline(_outline(view, np.asarray(wire.path_mm)))


def paint_hardware(painter: QPainter, view: View, design: Design) -> None:
    """Eyes, rings and hooks; these hang straight down in the world."""
    for fitting in design.fittings:
        _paint_fitting(painter, view, fitting)


def paint_fittings(painter: QPainter, view: View, design: Design, picked: int | None) -> None:
    """The same, and the grips that the eyes carry."""
    paint_hardware(painter, view, design)
    for number, fitting in enumerate(design.fittings):
        hangs = fitting.sort in ("ring", "hook") and number != picked
        if hangs and any(o.sort in ("eye", "ring") and o is not fitting and _near(o, fitting) for o in design.fittings):
            continue
        paint_grip(painter, view, np.asarray(fitting.at_mm), number == picked)


def _near(one: Fitting, two: Fitting) -> bool:
    return float(np.linalg.norm(np.subtract(one.at_mm, two.at_mm))) < 0.6


def paint_grip(painter: QPainter, view: View, place: Array, picked: bool) -> None:
    x, y = view.pixels(place)
    paint_mark(painter, QPointF(x, y), picked)


def paint_mark(painter: QPainter, at: QPointF, picked: bool, square: bool = False) -> None:
    """Something to grab: a ring in the grab colour, or a square for a corner or a cut; filled when selected."""
    painter.setPen(QPen(colour(Look.now.grab_edge if picked else Look.now.grab), 3.4 if picked else 3))
    painter.setBrush(colour(Look.now.grab if picked else Look.now.card))
    if square:
        painter.drawRect(QRectF(at.x() - 5.5, at.y() - 5.5, 11, 11))
    else:
        painter.drawEllipse(at, 6, 6)


def _paint_fitting(painter: QPainter, view: View, fitting: Fitting) -> None:
    x, y = view.pixels(np.asarray(fitting.at_mm))
    painter.setPen(round_pen(colour(Look.now.ink), 1.8))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if fitting.sort == "hook" and not fitting.hanging:
        for line in fixed_lines(fitting):
            painter.drawPolyline(_outline(view, line))
    elif fitting.sort == "hook":
        _paint_hook(painter, x, y, fitting.reach_mm * view.scale, fitting.span_mm * view.scale)
    elif fitting.sort == "ring":
        size = max(3.0, fitting.span_mm * view.scale / 2)
        painter.drawEllipse(QPointF(x, y + size * 0.6), size * 0.7, size)
    elif fitting.sort in ("prop", "lip"):
        axis = np.array([0.0, 0.0, 1.0]) if fitting.sort == "prop" else np.array([-0.5, 0.0, -0.87])
        half = fitting.span_mm / 2 * axis
        a, b = view.pixels(np.asarray(fitting.at_mm) - half), view.pixels(np.asarray(fitting.at_mm) + half)
        painter.setPen(round_pen(colour(Look.now.ink, 150), 5))
        painter.drawLine(QPointF(*a), QPointF(*b))
    elif fitting.sort == "jig":
        painter.setPen(round_pen(colour(Look.now.ink, 150), 1.0))
        painter.drawLine(QPointF(x, y), QPointF(x, y + min(fitting.reach_mm, JIG_SHOWN_MM) * view.scale))
        painter.setBrush(colour(Look.now.ink, 150))
        painter.drawEllipse(QPointF(x, y + min(fitting.reach_mm, JIG_SHOWN_MM) * view.scale), 5, 5)
    elif fitting.sort == "bead":
        painter.drawEllipse(QPointF(x, y), 4, 4)


def _paint_hook(painter: QPainter, x: float, y: float, reach: float, span: float) -> None:
    """A hook from its eye: a shank and two bends with their points."""
    half = span / 2
    bend = min(half, reach * 0.45)
    path = QPainterPath(QPointF(x, y))
    path.lineTo(x, y + reach - bend)
    for side in (-1.0, 1.0):
        path.moveTo(x, y + reach - bend)
        path.cubicTo(x, y + reach, x + side * half, y + reach, x + side * half, y + reach - bend)
        path.lineTo(x + side * half * 0.98, y + reach - bend - span * 0.28)
        path.lineTo(x + side * half * 0.72, y + reach - bend - span * 0.05)
    painter.drawPath(path)


def paint_centre(painter: QPainter, at: tuple[float, float], letter: str, ring: QColor, label_left: bool) -> None:
    """The mark of a centre with its letter beside it, so that two on one vertical stay readable."""
    x, y = at
    painter.setPen(QPen(ring, 2))
    painter.setBrush(colour(Look.now.card))
    painter.drawEllipse(QPointF(x, y), 4, 4)
    offset = -22.0 if label_left else 6.0
    box = QRectF(x + offset, y - 8, 16, 16)
    painter.setBrush(colour(Look.now.card, 225))
    painter.setPen(QPen(ring, 1))
    painter.drawRoundedRect(box, 3, 3)
    painter.setPen(colour(Look.now.ink))
    painter.setFont(font(8.5, bold=True))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, letter)

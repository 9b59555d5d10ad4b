"""The drawing in the tank: the lure at its rest, looked at from port, with plan and tail views; grabbed and nudged."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen

from yellowbob.afloat.rest import Rest
from yellowbob.app.benches.tank.figures import TankFigures
from yellowbob.app.benches.tank.poser import Poser
from yellowbob.app.session.session import Session
from yellowbob.app.session.warm import Warm
from yellowbob.app.widgets import painter as paint
from yellowbob.app.widgets.camera import level_axes, side_camera
from yellowbob.app.widgets.complaint import paint_complaint
from yellowbob.app.widgets.kept_solid import KeptSolid
from yellowbob.app.widgets.theme import Look, colour
from yellowbob.design.edits import Grip, grips, moved
from yellowbob.ground.errors import YellowBobError
from yellowbob.lines.picture import View
from yellowbob.study import Study, of

Array = NDArray[np.float64]

NUDGE_MM = 0.1
SHIFT_TIMES = 10
GRAB_PX = 14.0


class TankView(TankFigures):
    """Shows `session.rest`; drags and arrow keys move the selected piece."""

    def __init__(self, session: Session, poser: Poser | None = None) -> None:
        super().__init__()
        self.session = session
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setAccessibleName("Tank: the lure at rest")
        self.setAccessibleDescription("Arrow keys nudge the selected piece; comma and full stop select another")
        self.setMinimumSize(420, 200)
        self._drag: tuple[Grip, QPointF] | None = None
        self._held: float | None = None
        self.frames = 0
        self._solid = KeptSolid()
        self._camera: tuple[Study, Rest | None, QSize, View] | None = None
        session.changed.connect(self.update)
        session.picked.connect(self.update)
        session.moved.connect(self.update)
        self.poser = poser if poser is not None else Poser(session)
        self.poser.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(944, 470)

    # ---- where things are

    def camera(self) -> View:
        """The side view as it is drawn now."""
        study, rest, up = self.session.study, self.session.shown, self.up()
        if self._camera is not None and self._camera[:3] == (study, rest, self.size()):
            return self._camera[3]
        mesh = of.whole(study)
        top = float((mesh.vertices @ up).max())
        height = rest.height_mm if rest is not None else top + 4.0
        area = (24.0, 92.0, self.width() - 48.0, self.height() - 92.0 - 14.0)
        held = self._held
        if held is None and self.session.posture is not None and not self.poser.posing:
            # a moment is drawn at one scale whatever its attitude, so that it does not breathe
            reach = 1.1 * float(np.linalg.norm(mesh.bounds[1] - mesh.bounds[0]))
            held = min(area[2], area[3]) / reach
        view = side_camera(mesh, study.design, up, height, area, held)
        self._camera = (study, rest, self.size(), view)
        return view

    def place_of(self, piece: Grip) -> Array | None:
        """Where a piece is grabbed, body axes."""
        study = self.session.study
        if piece.kind == "ballast":
            listed = of.holes(study).ballast
            return listed[piece.index].weight.centre_mm if piece.index < len(listed) else None
        fittings = study.design.fittings
        return np.asarray(fittings[piece.index].at_mm) if piece.index < len(fittings) else None

    def piece_at(self, at: QPointF) -> Grip | None:
        """The nearest piece within reach of the pointer."""
        view, best, nearest = self.camera(), None, GRAB_PX
        for piece in grips(self.session.study.design):
            place = self.place_of(piece)
            if place is None:
                continue
            x, y = view.pixels(place)
            away = math.hypot(at.x() - x, at.y() - y)
            if away < nearest:
                best, nearest = piece, away
        return best

    # ---- painting

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = QRectF(0, 0, self.width(), self.height())
        painter.fillRect(area, colour(Look.now.card))
        try:
            view = self.camera()
        except YellowBobError as error:
            paint_complaint(painter, area, self.session.fault or str(error))
            return
        self.paint_build(painter, area, view)

    def paint_build(self, painter: QPainter, area: QRectF, view: View) -> None:
        """The build as this bench shows it; the ground is painted, and the design can be built."""
        session = self.session
        study, rest, up = session.study, session.shown, self.up()
        surface = view.origin[1]
        picked = session.piece
        ballast = picked.index if picked and picked.kind == "ballast" else None
        fitting = picked.index if picked and picked.kind == "fitting" else None
        paint.paint_water(painter, area, surface)
        self._solid.paint(painter, of.whole(study), view, study.design)
        paint.paint_wires(painter, view, study.design)
        paint.paint_wet(painter, area, surface)
        aft, _ = level_axes(up)
        zero = view.origin[0] + float(((of.whole(study).vertices - view.place) @ aft).min()) * view.scale
        self._paint_ruler(painter, area, surface, zero, view.scale)
        work = self.poser.work  # while it is posed, the ballast that is looked for is not drawn where it was
        paint.paint_holes(painter, view, of.holes(work.bare) if work is not None else of.holes(study), ballast)
        paint.paint_fittings(painter, view, study.design, fitting)
        if session.fan and session.posture is None:
            paint.paint_fan(painter, view, of.whole(study), *session.fan)
        self.poser.paint(painter, view)
        if rest is not None and session.posture is None:
            self._paint_centres(painter, view)
        self._paint_small(painter, view)
        self._paint_figures(painter)
        if session.complaint:
            paint_complaint(painter, area, session.complaint)
        painter.setPen(
            QPen(colour(Look.now.water_ink if self.hasFocus() else Look.now.line), 2 if self.hasFocus() else 1)
        )
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(area.adjusted(0.5, 0.5, -0.5, -0.5))
        painter.end()
        self.frames += 1
        if self.frames == 1 and not Warm.ready:
            QTimer.singleShot(30, lambda: session.loader.load(self.update))

    # ---- hands

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton or (self.session.rest is None and self.session.fault):
            return
        if self.poser.press(event.position(), self.camera()):
            self._held = self.camera().scale
            return
        piece = self.piece_at(event.position())
        self.session.pick(piece)
        self.session.end_thread()
        self._held = self.camera().scale if piece is not None else None
        self.session.dragging = piece is not None
        self._drag = (piece, event.position()) if piece is not None else None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.poser.move(event.position(), self.camera()):
            return
        if self._drag is None:
            over = self.piece_at(event.position())
            self.setCursor(Qt.CursorShape.OpenHandCursor if over else Qt.CursorShape.ArrowCursor)
            return
        piece, last = self._drag
        view = self.camera()
        step = event.position() - last
        self._drag = (piece, event.position())
        self.move_piece(piece, view.right * (step.x() / view.scale) - view.up * (step.y() / view.scale), "drag")

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        self.poser.release()
        self._drag = self._held = self._camera = None
        self.session.dragging = False
        self.session.end_thread()
        self.update()

    def move_piece(self, piece: Grip, by: Array, thread: str) -> None:
        """Move a piece by a body-axes vector, mm, as one step of undo a thread."""
        thing = piece.of(self.session.design)
        if thing is None:
            return
        design = moved(self.session.design, piece, float(by[0]), float(by[1]), float(by[2]))
        self.session.edit(design, f"move {thing.name}", thread)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        arrows = {
            Qt.Key.Key_Left: (-1.0, 0.0), Qt.Key.Key_Right: (1.0, 0.0), Qt.Key.Key_Up: (0.0, 1.0),
            Qt.Key.Key_Down: (0.0, -1.0),
        }  # fmt: skip
        step = arrows.get(Qt.Key(event.key()))
        tenfold = SHIFT_TIMES if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        if step is not None and self.poser.nudge(step[0] * tenfold, step[1] * tenfold):
            return
        if event.text() in (",", "."):
            self.session.pick_next(1 if event.text() == "." else -1)
        elif step is not None and self.session.piece is not None:
            size = NUDGE_MM * tenfold
            by = np.array([step[0] * size, 0.0, step[1] * size])
            self.move_piece(self.session.piece, by, f"nudge {self.session.piece}")
        else:
            super().keyPressEvent(event)

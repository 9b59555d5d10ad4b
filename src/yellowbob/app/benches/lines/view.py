"""The hands on the Lines bench: points, cuts and the section dragged, nudged, added and removed."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import TypeVar

import numpy as np
from PySide6.QtCore import QPointF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QKeyEvent,
    QMouseEvent,
)

from yellowbob.app.benches.lines.drawing import LinesDrawing
from yellowbob.app.benches.lines.following import Following
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.cards import explain
from yellowbob.design.corner_edits import Corner, added_corner, corners, moved_corner, said_of, without_corner
from yellowbob.design.cut_edits import placed_at
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
from yellowbob.ground.errors import YellowBobError
from yellowbob.lines.curves import curve

Thing = TypeVar("Thing")

GRAB_PX = 13.0
NUDGE_MM = 0.1
SHIFT_TIMES = 10


def nearest(every: Iterable[tuple[Thing, QPointF]], at: QPointF) -> tuple[Thing | None, float]:
    """What lies nearest to a place within reach, and how far off, px; None, and further than all, where nothing does."""
    found: tuple[Thing | None, float] = (None, math.inf)
    for thing, spot in every:
        away = math.hypot(spot.x() - at.x(), spot.y() - at.y())
        if away < min(GRAB_PX, found[1]):
            found = thing, away
    return found


class LinesView(LinesDrawing):
    """Draws the outlines of the design at hand; the solid follows a moment later."""

    picked = Signal()
    held = Signal(str)
    slid = Signal(float)

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName("Lines: side and plan outlines")
        self.setAccessibleDescription("Arrows nudge the point; comma and full stop select; A adds, C turns its bend")
        self.following = Following(self)
        session.changed.connect(self._changed)

    def _changed(self) -> None:
        if self.corner is not None and self.draft is None:
            self._hold_corner(self.corner)
        point = self.point
        if point is not None and (
            point.curve not in curve_names(self.session.design)
            or point.index >= len(outline_of(self.session.design, point.curve))
        ):
            self.pick(None)
        if self.session.dragging:  # what waited while the solid was made comes before it is drawn
            QTimer.singleShot(0, self.update)
        else:
            self.update()

    def point_at(self, at: QPointF) -> PointRef | None:
        design = self.design()
        spots = ((PointRef(name, index), self.to_px(name, *point.at_mm))
                 for name in curve_names(design) for index, point in enumerate(outline_of(design, name)))  # fmt: skip
        return nearest(spots, at)[0]

    def corner_at(self, at: QPointF) -> Corner | None:
        """The corner of a plate, or the free end of a piece, that is nearest within reach."""
        return nearest(((c, self.to_px(c.view, *c.at_mm)) for c in corners(self.design())), at)[0]

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
        which, away = nearest(((which, spot) for which, spot, _ in self.handles()), at)
        self.corner, further = nearest(((c, self.to_px(c.view, *c.at_mm)) for c in corners(self.design())), at)
        if which is not None and away <= further:
            self._cut, self._drag, self.corner = which, "cut", None
            self.session.dragging = True
            return
        if self.corner is not None:
            self._drag, self.session.dragging = "corner", True
            self.pick(None)
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
        elif self._drag == "corner" and self.corner is not None:
            self.put_corner(self.corner, *self.to_mm(self.corner.view, at))
        elif self._drag == "point" and self.point is not None:
            self.put_point(self.point, *self.to_mm(self.point.curve, at))
        else:
            over = self.point_at(at) is not None or self.corner_at(at) is not None
            self.setCursor(Qt.CursorShape.OpenHandCursor if over else Qt.CursorShape.ArrowCursor)

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        self.following.take()
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
        self.following.put(done.design, "move a point")
        self.held.emit(done.held)

    def move_cut(self, which: tuple[str, int], x_mm: float, z_mm: float) -> None:
        """Drag a cut or a part by its handle."""
        self.session.edit(placed_at(self.session.design, which, x_mm, z_mm), "move a cut", "drag")

    def put_corner(self, corner: Corner, x_mm: float, y_mm: float, thread: str = "drag") -> None:
        """A corner of a plate, or a piece's free end, at a place of its view; what the design refuses stays where it was.

        Dragged, it is drawn at once, and the solid a moment later.
        """
        try:
            design = moved_corner(self.design(), corner, round(x_mm, 2), round(y_mm, 2))
        except (YellowBobError, ValueError) as error:
            self.held.emit(explain(error))
            return
        words = f"{said_of(design, corner)} of {design.parts[corner.part].name}"
        if thread != "drag":
            self.session.edit(design, words, thread)
        else:
            self.following.put(design, words)
        self._hold_corner(corner)

    def _hold_corner(self, corner: Corner | None) -> None:
        """Select the corner that now has this one's number."""
        every = corners(self.design())
        same = [c for c in every if corner and (c.part, c.index) == (corner.part, corner.index)]
        self.corner = same[0] if same else None
        self.update()

    def _corner_key(self, event: QKeyEvent, corner: Corner, step: tuple[float, float] | None) -> bool:
        design = self.session.design
        if step is not None:
            size = NUDGE_MM * (SHIFT_TIMES if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1)
            if corner.view == "lip":  # drawn with its slot uppermost
                step = (-step[1], step[0])
            at = corner.at_mm
            self.put_corner(corner, at[0] + step[0] * size, at[1] + step[1] * size, f"nudge corner {corner.index}")
        elif event.text().lower() == "a":
            added = added_corner(design, corner)
            if added is not None:
                self.session.edit(added[0], "add a corner")
                self._hold_corner(added[1])
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.remove_point()
        else:
            return False
        return True

    def pick_next(self, step: int) -> None:
        every: list[PointRef | Corner] = [
            PointRef(n, i)
            for n in curve_names(self.session.design)
            for i in range(len(outline_of(self.session.design, n)))
        ]
        every += corners(self.session.design)
        if every:
            held = self.corner or self.point
            now = every.index(held) if held in every else -1
            new = every[(now + step) % len(every)]
            self.corner = new if isinstance(new, Corner) else None
            self.pick(new if isinstance(new, PointRef) else None)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        arrows = {
            Qt.Key.Key_Left: (-1.0, 0.0), Qt.Key.Key_Right: (1.0, 0.0), Qt.Key.Key_Up: (0.0, 1.0),
            Qt.Key.Key_Down: (0.0, -1.0),
        }  # fmt: skip
        step, point = arrows.get(Qt.Key(event.key())), self.point
        if event.text() in (",", "."):
            self.pick_next(1 if event.text() == "." else -1)
        elif self.corner is not None and self._corner_key(event, self.corner, step):
            return
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
        if self.corner is not None:
            self.session.edit(without_corner(self.session.design, self.corner), "remove a corner")
            self._hold_corner(self.corner)
            return
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

"""Where things are on the Lines drawing: side above, plan below, a lip's own plane at the right."""

from __future__ import annotations

import math
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtWidgets import QWidget

from yellowbob.app.session.session import Session
from yellowbob.design.cut_edits import handle_of
from yellowbob.design.cuts import Cup
from yellowbob.design.model import Design
from yellowbob.design.plates import Lip
from yellowbob.ground.errors import YellowBobError
from yellowbob.study import Study, of

WORDS_PX = 40.0
"""Height that words over and under a drawing at the right take."""


class Laid(NamedTuple):
    """Where the views lie, in px; `reach` is lowest and highest z of the side and the half-width, mm; `span` along x, mm."""

    span: tuple[float, float]
    reach: tuple[float, float, float]
    scale: float
    left: float
    side: QPointF
    plan: QPointF


class Places(QWidget):
    """Turns mm of a view into px and back; knows what is being drawn."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.draft: Design | None = None
        self._laid: tuple[Design, Study, int, int, Laid] | None = None

    def design(self) -> Design:
        """What is being drawn: the draft while a point is dragged."""
        return self.draft or self.session.design

    def sound(self) -> bool:
        """Whether there is a solid to show; a design can be opened that makes none."""
        try:
            return len(of.outer(self.session.study).faces) > 0
        except YellowBobError:
            return False

    def length(self) -> float:
        return self.design().shape.length_mm

    def laid(self) -> Laid:
        """Side and plan one above the other, the section on the right; worked out once for a design and a size."""
        design, study, known = self.design(), self.session.study, self._laid
        size = (self.width(), self.height())
        if known is not None and known[2:4] == size:
            if known[0] is design and known[1] is study:
                return known[4]
            if self.session.dragging:  # the drawing must not breathe under the hand
                return known[4]
        low, high, half = -12.0, 12.0, 12.0
        if self.sound():
            bounds = of.outer(study).bounds
            low, high, half = float(bounds[0, 2]), float(bounds[1, 2]), float(bounds[1, 1])
        start, end = design.stack_mm
        wide = (size[0] - 290) / (end - start)
        tall = (size[1] - 150) / max(high - low + 2 * half, 1.0)
        scale = float(max(0.2, min(wide, tall)))
        left, side_y = 34.0 - start * scale, 46.0 + high * scale
        plan_y = side_y - low * scale + 58.0 + half * scale
        found = Laid((start, end), (low, high, half), scale, left, QPointF(left, side_y), QPointF(left, plan_y))
        self._laid = design, study, *size, found
        return found

    def span(self) -> tuple[float, float]:
        """From where to where along x is drawn, mm: the body, and of a float what is turned and stands on its axis too."""
        return self.laid().span

    def left(self) -> float:
        """px at which x = 0 lies."""
        return self.laid().left

    def scale(self) -> float:
        """px per mm."""
        return self.laid().scale

    def side_origin(self) -> QPointF:
        """Where the axis of the side view begins, px."""
        return self.laid().side

    def plan_origin(self) -> QPointF:
        """Where the axis of the plan begins, px."""
        return self.laid().plan

    def to_px(self, name: str, x: float, y: float) -> QPointF:
        """Where (x, y) mm of a view is."""
        if name == "lip":
            origin, scale = self.lip_frame()
            return QPointF(origin.x() + y * scale, origin.y() + x * scale)
        laid = self.laid()
        origin = laid.plan if name == "plan" else laid.side
        return QPointF(origin.x() + x * laid.scale, origin.y() - y * laid.scale)

    def to_mm(self, name: str, at: QPointF) -> tuple[float, float]:
        if name == "lip":
            origin, scale = self.lip_frame()
            return (at.y() - origin.y()) / scale, (at.x() - origin.x()) / scale
        origin = self.plan_origin() if name == "plan" else self.side_origin()
        return (at.x() - origin.x()) / self.scale(), (origin.y() - at.y()) / self.scale()

    def cells(self) -> dict[str, QRectF]:
        """The room beside the outlines, shared by the section, the sight from the front, and a lip's own plan."""
        names = ["section", "front"] + (["lip"] if self.own_lip() is not None else [])
        start = min(self.left() + self.span()[1] * self.scale() + 24.0, self.width() - 236.0)
        room = QRectF(start, 10.0, self.width() - 10.0 - start, self.height() - 20.0)

        def side_px(across: int) -> float:
            down = math.ceil(len(names) / across)
            return min(room.width() / across, room.height() / down - WORDS_PX)

        across = max(range(1, len(names) + 1), key=side_px)
        wide, high = room.width() / across, room.height() / math.ceil(len(names) / across)
        return {
            name: QRectF(room.left() + k % across * wide, room.top() + k // across * high, wide, high)
            for k, name in enumerate(names)
        }

    def fitted(self, name: str, wide_mm: float, high_mm: float) -> tuple[QPointF, float]:
        """The middle of a cell, words left room for, and the px per mm at which something fits it."""
        cell = self.cells()[name]
        most = min((cell.width() - 24.0) / max(wide_mm, 1.0), (cell.height() - WORDS_PX - 6.0) / max(high_mm, 1.0))
        return QPointF(cell.center().x(), cell.center().y()), min(4.0 * self.scale(), most)

    def lip_frame(self) -> tuple[QPointF, float]:
        """Where a lip's own plan is drawn at the right, slot uppermost, and its px per mm."""
        lip = self.own_lip()
        if lip is None:
            return QPointF(self.width() - 122.0, 40.0), self.scale()
        middle, scale = self.fitted("lip", lip.wide_mm, lip.long_mm)
        return QPointF(middle.x(), middle.y() - lip.long_mm * scale / 2.0), scale

    def own_lip(self) -> Lip | None:
        shapes = (p.shape for p in self.session.design.parts)
        return next((s for s in shapes if isinstance(s, Lip) and s.plan == "own"), None)

    def handles(self) -> list[tuple[tuple[str, int], QPointF, str]]:
        """Drag handles of cuts and parts: which one, where, its name."""
        found = []
        design = self.design()
        for number, cut in enumerate(design.body.cuts):
            x = cut.rim_x_mm if isinstance(cut, Cup) else cut.x_mm
            found.append((("cut", number), self.to_px("back", x, cut.z_mm), cut.name))
        for number, piece in enumerate(design.parts):
            at = handle_of(piece)
            if at is not None:
                found.append((("part", number), self.to_px("back", *at), piece.name))
        if design.body.shell is not None:
            for number, (x, z) in enumerate(design.body.shell.split_mm):
                found.append((("split", number), self.to_px("back", x, z), "split line" if number == 1 else ""))
        return found

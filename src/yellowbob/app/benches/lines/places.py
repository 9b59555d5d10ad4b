"""Where things are on the Lines drawing: side above, plan below, a lip's own plane at the right."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QPointF
from PySide6.QtWidgets import QWidget

from yellowbob.app.session.session import Session
from yellowbob.design.cut_edits import handle_of
from yellowbob.design.cuts import Cup
from yellowbob.design.model import Design
from yellowbob.design.plates import Lip
from yellowbob.ground.errors import YellowBobError
from yellowbob.study import of


class Places(QWidget):
    """Turns mm of a view into px and back; knows what is being drawn."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.draft: Design | None = None
        self._scaled: tuple[tuple[Any, ...], float] | None = None

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

    def span(self) -> tuple[float, float]:
        """From where to where along x is drawn, mm: the body, and of a float what is turned and stands on its axis too."""
        return self.design().stack_mm

    def left(self) -> float:
        """px at which x = 0 lies."""
        return 34.0 - self.span()[0] * self.scale()

    def scale(self) -> float:
        """px per mm: side and plan one above the other, the section on the right."""
        mesh = of.outer(self.session.study) if self.sound() else None
        asked = (self.width(), self.height(), self.span(), mesh)
        if self._scaled is not None and self._scaled[0] == asked:
            return self._scaled[1]
        low, high, half = self._reach()
        start, end = self.span()
        wide = (self.width() - 290) / (end - start)
        tall = (self.height() - 150) / max(high - low + 2 * half, 1.0)
        self._scaled = asked, float(max(0.2, min(wide, tall)))
        return self._scaled[1]

    def _reach(self) -> tuple[float, float, float]:
        """Lowest and highest z of the side, and the half-width, mm, of the solid as it is known."""
        if not self.sound():
            return -12.0, 12.0, 12.0
        bounds = of.outer(self.session.study).bounds
        return float(bounds[0, 2]), float(bounds[1, 2]), float(bounds[1, 1])

    def side_origin(self) -> QPointF:
        return QPointF(self.left(), 46.0 + self._reach()[1] * self.scale())

    def plan_origin(self) -> QPointF:
        low, _, half = self._reach()
        return QPointF(self.left(), self.side_origin().y() - low * self.scale() + 58.0 + half * self.scale())

    def to_px(self, name: str, x: float, y: float) -> QPointF:
        if name == "lip":
            origin, scale = self.lip_frame()
            return QPointF(origin.x() + y * scale, origin.y() + x * scale)
        origin = self.plan_origin() if name == "plan" else self.side_origin()
        return QPointF(origin.x() + x * self.scale(), origin.y() - y * self.scale())

    def to_mm(self, name: str, at: QPointF) -> tuple[float, float]:
        if name == "lip":
            origin, scale = self.lip_frame()
            return (at.y() - origin.y()) / scale, (at.x() - origin.x()) / scale
        origin = self.plan_origin() if name == "plan" else self.side_origin()
        return (at.x() - origin.x()) / self.scale(), (origin.y() - at.y()) / self.scale()

    def lip_frame(self) -> tuple[QPointF, float]:
        """Where a lip's own plan is drawn at the right, slot uppermost, and its px per mm."""
        lip = self.own_lip()
        tall = max(self.height() - 330.0, 60.0)
        long, half = (lip.long_mm, lip.wide_mm / 2) if lip is not None else (10.0, 10.0)
        return QPointF(self.width() - 122, 306.0), min(4 * self.scale(), tall / long, 100.0 / half)

    def own_lip(self) -> Lip | None:
        shapes = (p.shape for p in self.session.design.parts)
        return next((s for s in shapes if isinstance(s, Lip) and s.plan == "own"), None)

    def handles(self) -> list[tuple[tuple[str, int], QPointF, str]]:
        """Drag handles of cuts and parts: which one, where, its name."""
        found = []
        design = self.session.design
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

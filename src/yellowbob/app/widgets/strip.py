"""Several builds as small drawings at rest, side by side with their figures."""

from __future__ import annotations

import time

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from yellowbob.app.widgets import painter as paint
from yellowbob.app.widgets.camera import side_camera
from yellowbob.app.widgets.kept_solid import KeptSolid
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.theme import Look, colour, elided, font
from yellowbob.checks.registry import signed
from yellowbob.ground.quantities import show
from yellowbob.study import of
from yellowbob.trials.variants import Variant

TURN_S = 0.02
"""What is not painted by then waits for the next turn of the event loop."""


class Strip(QWidget):
    """Variants as small drawings at rest, with their figures; one is chosen by a click or the arrow keys."""

    def __init__(self, name: str = "Variants side by side", empty: str = "Choose what to compare.") -> None:
        super().__init__()
        self._empty = empty
        self.setMinimumSize(420, 150)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(name)
        self.variants: list[Variant] = []
        self._solids: list[KeptSolid] = []
        self.chosen = 0
        self.painted = False
        """whether the last painting got to the end"""

    def sizeHint(self) -> QSize:
        return QSize(560, 160)

    def show_variants(self, variants: list[Variant], chosen: int = 0) -> None:
        self.variants, self.chosen = variants, chosen
        self._solids = [KeptSolid(still=True) for _ in variants]
        self.setAccessibleDescription("; ".join(f"{v.words}: {_figures(v)}" for v in variants))
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        if self.variants:
            self.chosen = min(len(self.variants) - 1, int(event.position().x() / self.width() * len(self.variants)))
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if step is None or not self.variants:
            super().keyPressEvent(event)
            return
        self.chosen = (self.chosen + step) % len(self.variants)
        self.update()

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        now = Look.now
        if not self.variants:
            painter.setPen(colour(now.soft))
            painter.drawText(QRectF(self.rect()), Qt.AlignmentFlag.AlignCenter, self._empty)
            return
        wide = self.width() / len(self.variants)
        began = time.perf_counter()
        for number, variant in enumerate(self.variants):
            box = QRectF(number * wide + 3, 2, wide - 6, self.height() - 4)
            self.painted = time.perf_counter() - began < TURN_S
            if not self.painted:
                QTimer.singleShot(0, self, self.update)  # those painted so far are kept as pictures
                return
            painter.save()
            painter.setClipRect(box)
            self._paint_one(painter, box, variant, self._solids[number])
            painter.restore()
            picked = number == self.chosen
            painter.setPen(QPen(colour(now.water_ink if picked else now.line), 2 if picked else 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(box)

    def _paint_one(self, painter: QPainter, box: QRectF, variant: Variant, solid: KeptSolid) -> None:
        now, s = Look.now, variant.at_rest
        drawing = QRectF(box.left(), box.top() + 20, box.width(), box.height() - 20 - 50)
        if s is not None and s.rest is not None:
            study, up = variant.study, np.asarray(s.rest.up)
            view = side_camera(
                of.whole(study), study.design.but(fittings=(), wires=()), up, s.rest.height_mm,
                (drawing.left() + 6, drawing.top() + 2, drawing.width() - 12, drawing.height() - 4),
            )  # fmt: skip
            paint.paint_water(painter, drawing, view.origin[1])
            solid.paint(painter, of.whole(study), view, study.design, small=True)
            paint.paint_wet(painter, drawing, view.origin[1])
            painter.setPen(QPen(colour(now.ink), 1))
            painter.setBrush(colour(now.ink, 120))
            for placed in of.holes(study).ballast:
                painter.drawEllipse(QPointF(*view.pixels(placed.weight.centre_mm)), 3.5, 3.5)
        painter.setPen(colour(now.ink))
        painter.setFont(font(9, True))
        painter.drawText(
            QRectF(box.left() + 6, box.top() + 2, box.width() - 12, 17), Qt.AlignmentFlag.AlignVCenter,
            elided(variant.words, 9, True, int(box.width() - 12)),
        )  # fmt: skip
        painter.setFont(font(8))
        painter.drawText(
            QRectF(box.left() + 4, box.bottom() - 49, box.width() - 6, 48), Qt.TextFlag.TextWordWrap, _figures(variant)
        )


def _figures(variant: Variant) -> str:
    s = variant.at_rest
    if s is None:
        return variant.fault
    if not s.floats:
        return f"sinks, {-s.reserve_g:.1f} g too heavy"
    unit, mass = Units.of("length"), Units.of("mass")
    words = f"{signed(s.pitch_deg, 1)}°, {show(s.draft_mm, unit)} {unit}\n{show(s.reserve_g, mass)} {mass} spare"
    return words if s.landing_share is None else words + f"\n{100 * s.landing_share:.0f} % right"

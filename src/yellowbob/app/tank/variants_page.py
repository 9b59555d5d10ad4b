"""Variants side by side, and one quantity swept by a slider with what follows drawn."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QHBoxLayout, QLabel, QSlider, QVBoxLayout, QWidget

from yellowbob.app.background import Told
from yellowbob.app.fields import Choice, Units
from yellowbob.app.session import Session
from yellowbob.app.tank import painter as paint
from yellowbob.app.tank.camera import side_camera
from yellowbob.app.tank.cards import button
from yellowbob.app.theme import Look, colour, elided, font
from yellowbob.checks.registry import signed
from yellowbob.design.model import Design
from yellowbob.errors import YellowBobError
from yellowbob.quantities import show
from yellowbob.tuning.variants import (
    Quantity,
    SweepPoint,
    Variant,
    by_hooks,
    by_place,
    by_wood,
    compared,
    quantities,
    sweep,
)

WAYS = {"ballast slid along": by_place, "hook sizes": by_hooks, "woods": by_wood}
SLIDER = 200
STEPS = 21
SLIDE_MS = 40


class Strip(QWidget):
    """Variants as small drawings at rest, with their figures; one is chosen by a click or the arrow keys."""

    def __init__(self) -> None:
        super().__init__()
        self.setMinimumSize(420, 150)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Variants side by side")
        self.variants: list[Variant] = []
        self.chosen = 0

    def sizeHint(self) -> QSize:
        return QSize(560, 160)

    def show_variants(self, variants: list[Variant], chosen: int = 0) -> None:
        self.variants, self.chosen = variants, chosen
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
            painter.drawText(QRectF(self.rect()), Qt.AlignmentFlag.AlignCenter, "Choose what to compare.")
            return
        wide = self.width() / len(self.variants)
        for number, variant in enumerate(self.variants):
            box = QRectF(number * wide + 3, 2, wide - 6, self.height() - 4)
            painter.save()
            painter.setClipRect(box)
            self._paint_one(painter, box, variant)
            painter.restore()
            picked = number == self.chosen
            painter.setPen(QPen(colour(now.water_ink if picked else now.line), 2 if picked else 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(box)

    def _paint_one(self, painter: QPainter, box: QRectF, variant: Variant) -> None:
        now, s = Look.now, variant.at_rest
        drawing = QRectF(box.left(), box.top() + 20, box.width(), box.height() - 20 - 50)
        if s is not None and s.rest is not None:
            study, up = variant.study, np.asarray(s.rest.up)
            view = side_camera(
                study.whole, study.design, up, s.rest.height_mm,
                (drawing.left() + 6, drawing.top() + 2, drawing.width() - 12, drawing.height() - 4),
            )  # fmt: skip
            paint.paint_water(painter, drawing, view.origin[1])
            paint.paint_solid(painter, study.whole, view, small=True)
            paint.paint_wet(painter, drawing, view.origin[1])
            painter.setPen(QPen(colour(now.ink), 1))
            painter.setBrush(colour(now.ink, 120))
            for placed in study.holes.ballast:
                painter.drawEllipse(QPointF(*view.pixels(placed.weight.centre_mm)), 3.5, 3.5)
        painter.setPen(colour(now.ink))
        painter.setFont(font(9, True))
        painter.drawText(
            QRectF(box.left() + 6, box.top() + 2, box.width() - 12, 17), Qt.AlignmentFlag.AlignVCenter,
            elided(variant.words, 9, True, int(box.width() - 12)),
        )  # fmt: skip
        painter.setFont(font(8))
        painter.drawText(
            QRectF(box.left() + 6, box.bottom() - 49, box.width() - 12, 48), Qt.TextFlag.TextWordWrap, _figures(variant)
        )


def _figures(variant: Variant) -> str:
    s = variant.at_rest
    if s is None:
        return variant.fault
    if not s.floats:
        return f"sinks, {-s.reserve_g:.1f} g too heavy"
    unit, mass = Units.of("length"), Units.of("mass")
    words = (
        f"{signed(s.pitch_deg, 1)}°, draft {show(s.draft_mm, unit)} {unit}\n{show(s.reserve_g, mass)} {mass} to spare"
    )
    return words + f"\n{100 * (s.landing_share or 0.0):.0f} % right, GM {show(s.gm_min_mm, unit)} {unit}"


class SweepPlot(QWidget):
    """Pitch and draft against the quantity swept, with a mark where the slider stands."""

    def __init__(self) -> None:
        super().__init__()
        self.setMinimumSize(220, 90)
        self.setAccessibleName("What follows")
        self.points: list[SweepPoint] = []
        self.at: float | None = None

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        now = Look.now
        good = [(p.value, p.at_rest) for p in self.points if p.at_rest is not None and p.at_rest.floats]
        painter.setFont(font(8))
        if len(good) < 2:
            painter.setPen(colour(now.soft))
            painter.drawText(QRectF(self.rect()), Qt.AlignmentFlag.AlignCenter, "it floats nowhere on this way")
            return
        area = QRectF(40, 4, self.width() - 86, self.height() - 20)
        low, high = self.points[0].value, self.points[-1].value
        rows = (("pitch °", now.water_ink, [s.pitch_deg for _, s in good], 0.0, Qt.PenStyle.SolidLine),
                ("draft mm", now.ink, [s.draft_mm for _, s in good], area.right() + 3, Qt.PenStyle.DashLine))  # fmt: skip
        for words, tone, values, x, style in rows:
            least, most = min(values), max(values)
            span = max(most - least, 1e-3 * max(abs(most), 1.0))
            line = QPolygonF([
                QPointF(area.left() + area.width() * (v - low) / (high - low),
                        area.bottom() - area.height() * (0.06 + 0.88 * (y - least) / span))
                for (v, _), y in zip(good, values, strict=True)
            ])  # fmt: skip
            painter.setPen(QPen(colour(tone), 2, style))
            painter.drawPolyline(line)
            painter.setPen(colour(tone))
            side = Qt.AlignmentFlag.AlignRight if x == 0.0 else Qt.AlignmentFlag.AlignLeft
            painter.drawText(QRectF(x, area.top(), 37, 13), side, signed(most, 1))
            painter.drawText(QRectF(x, area.bottom() - 13, 37, 13), side, signed(least, 1))
            painter.drawText(QRectF(x, area.center().y() - 14, 42, 28), side | Qt.TextFlag.TextWordWrap, words)
        painter.setPen(QPen(colour(now.line), 1))
        painter.drawRect(area)
        painter.setPen(colour(now.soft))
        painter.drawText(QRectF(area.left() - 20, self.height() - 14, 60, 14), Qt.AlignmentFlag.AlignLeft, f"{low:.3g}")
        painter.drawText(
            QRectF(area.right() - 40, self.height() - 14, 60, 14), Qt.AlignmentFlag.AlignRight, f"{high:.3g}"
        )
        if self.at is not None:
            x = area.left() + area.width() * (self.at - low) / (high - low)
            painter.setPen(QPen(colour(now.grab_edge), 1.4))
            painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()))


class VariantsPage(QWidget):
    """Several ways to build it, and a slider over one of its figures."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setAccessibleName("Variants")
        self.setObjectName("card")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.strip = Strip()
        self.plot = SweepPlot()
        self.way = Choice("What to compare", list(WAYS), lambda _: self.compare())
        self.way.setMinimumWidth(170)
        self.use = button("Build this one", self.use_chosen)
        self.what = Choice("Quantity to sweep", [], lambda _: self.sweep())
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, SLIDER)
        self.slider.setFixedHeight(24)
        self.slider.setAccessibleName("Value of the quantity swept")
        self.slider.valueChanged.connect(self._slide)
        self.slider.sliderReleased.connect(self._let_go)
        self.take = button("Take this value", self._take)
        self.value = QLabel()
        self.says = QLabel()
        self.says.setObjectName("wrong")
        self.says.setWordWrap(True)
        self._known: dict[str, Quantity] = {}
        self._design: Design | None = None
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(SLIDE_MS)
        self._soon.timeout.connect(self._show_value)
        self._lay_out()
        session.changed.connect(self._follow)

    def _lay_out(self) -> None:
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 8, 12, 8)
        line.setSpacing(14)
        left = QVBoxLayout()
        left.setSpacing(4)
        head = QHBoxLayout()
        title = QLabel("Side by side")
        title.setObjectName("title")
        head.addWidget(title)
        head.addWidget(self.way)
        head.addStretch(1)
        head.addWidget(self.use)
        left.addLayout(head)
        left.addWidget(self.strip, 1)
        line.addLayout(left, 7)
        right = QVBoxLayout()
        right.setSpacing(4)
        row = QHBoxLayout()
        words = QLabel("Sweep")
        words.setObjectName("title")
        row.addWidget(words)
        row.addWidget(self.what, 1)
        right.addLayout(row)
        right.addWidget(self.plot, 1)
        right.addWidget(self.slider)
        foot = QHBoxLayout()
        foot.addWidget(self.value, 1)
        foot.addWidget(self.take)
        right.addLayout(foot)
        right.addWidget(self.says)
        self.says.hide()
        line.addLayout(right, 4)

    # ---- side by side

    def refresh(self) -> None:
        if self._design is not self.session.design and not self.session.fault:
            self._design = self.session.design
            self.says.hide()
            self._known = quantities(self.session.design)
            now = self.what.currentText()
            self.what.clear()
            self.what.addItems([q.words for q in self._known.values()])
            self.what.show_text(now if now in [q.words for q in self._known.values()] else self._first())
            self.compare()
            self.sweep()

    def _first(self) -> str:
        ballast = [q.words for q in self._known.values() if q.key.startswith("ballast")]
        return ballast[0] if ballast else next(iter(self._known.values())).words

    def _follow(self) -> None:
        if self.isVisible() and not self.session.dragging:
            self.refresh()

    def compare(self) -> None:
        """Settle the variants off the interface's thread."""
        study, make = self.session.study, WAYS[self.way.currentText()]
        try:
            designs = make(study.design)
        except YellowBobError as error:
            self._complain(str(error))
            self.strip.show_variants([])
            return
        self.session.tasks.start("variants", lambda _: compared(designs, study), self._compared, self._complain)

    def _compared(self, found: list[Variant]) -> None:
        now = next((k for k, v in enumerate(found) if "as drawn" in v.words), 0)
        self.strip.show_variants(found, now)

    def use_chosen(self) -> None:
        if self.strip.variants:
            one = self.strip.variants[self.strip.chosen]
            self.session.edit(one.study.design, one.words)

    def _complain(self, words: str) -> None:
        self.says.setText(f"! {words}" if words else "")
        self.says.setVisible(bool(words))

    # ---- the sweep

    def quantity(self) -> Quantity | None:
        return next((q for q in self._known.values() if q.words == self.what.currentText()), None)

    def sweep(self) -> None:
        one, study = self.quantity(), self.session.study
        if one is None:
            return
        share = (one.now - one.low) / (one.high - one.low)
        self.slider.blockSignals(True)
        self.slider.setValue(round(SLIDER * min(1.0, max(0.0, share))))
        self.slider.blockSignals(False)
        self.plot.at = one.now
        self._say_value(one, one.now)

        def work(_: Told) -> list[SweepPoint]:
            return sweep(study, one.key, steps=STEPS)

        self.session.tasks.start("sweep", work, self._swept, self._complain)

    def _swept(self, found: list[SweepPoint]) -> None:
        self.plot.points = found
        self.plot.update()

    def _value_now(self, one: Quantity) -> float:
        return one.low + (one.high - one.low) * self.slider.value() / SLIDER

    def _say_value(self, one: Quantity, value: float) -> None:
        self.value.setText(f"{value:.4g} {one.unit} (now {one.now:.4g})")

    def _slide(self, _: int) -> None:
        one = self.quantity()
        if one is not None:
            self.plot.at = self._value_now(one)
            self._say_value(one, self.plot.at)
            self.plot.update()
            if not self._soon.isActive():
                self._soon.start()

    def _show_value(self) -> None:
        """The lure in the tank at the slider's value, following the rest."""
        from yellowbob.study import Study

        one, session = self.quantity(), self.session
        if one is None or session.rest is None:
            return
        try:
            rest = Study(one.change(self._value_now(one)), session.study).rest_followed(session.rest)
        except (YellowBobError, ValueError) as error:
            self._complain(str(error))
            return
        self._complain("" if rest is not None else "it sinks there")
        if rest is not None and math.isfinite(rest.height_mm):
            session.show_posture(rest)

    def _let_go(self) -> None:
        self._soon.stop()
        self._show_value()

    def _take(self) -> None:
        one = self.quantity()
        if one is None:
            return
        try:
            self.session.edit(one.change(self._value_now(one)), f"{one.words}")
        except (YellowBobError, ValueError) as error:
            self._complain(str(error))

    def hideEvent(self, event: object) -> None:
        self.session.show_posture(None)

"""Pose it: the wanted tilt and waterline in figures, what they ask, picks from the shelf, trims and remedies."""

from __future__ import annotations

import math
from collections import Counter
from typing import Any

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import (
    QCheckBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
)

from yellowbob.app.benches.tank.poser import Poser
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.fields import QuantityField
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.paged import CardPage
from yellowbob.app.widgets.words import Words
from yellowbob.ballast.picks import Pick
from yellowbob.ballast.settle import Settled
from yellowbob.checks.registry import signed
from yellowbob.design.model import Design
from yellowbob.ground.quantities import show
from yellowbob.trials.ballasting import Ballasting, settled_at, shelf_picks, why_none, without_ballast
from yellowbob.trials.remedies import Remedy, remedies
from yellowbob.trials.trim import Trim, trims

SAFE_MS = 250
"""Pause after a pose before it is worked out how safe it is."""


class PosePage(CardPage):
    """How it should sit, and what brings it there."""

    def __init__(self, session: Session, poser: Poser) -> None:
        super().__init__("Pose it", session)
        self.poser = poser
        self.pitch = self._field("Wanted pitch", "angle", lambda v: self.poser.tilt(math.radians(v)), 1)
        self.draft = self._field("Wanted draft", "length", self.poser.sink_to, None)
        self.mass = self._field("Wanted finished mass", "mass", self.poser.weigh, None)
        self.asks = Words()
        self.asks.setAccessibleName("What the pose asks")
        self.asks.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.list = QListWidget()
        self.list.setAccessibleName("Picks, trims and remedies")
        self.list.setWordWrap(True)
        self.list.itemActivated.connect(lambda _: self.fit_chosen())
        self.picks = button("Picks from the shelf", self.find_picks)
        self.trim = button("Trim what is made", self.find_trims)
        self.fit = button("Fit it", self.fit_chosen)
        self.leave = button("Leave posing", self._leave)
        self.lead_free = QCheckBox("no lead")
        self.counted = QCheckBox("only what I have")
        self._choices: list[tuple[Design, str]] = []
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(SAFE_MS)
        self._soon.timeout.connect(self._look_how_safe)
        self._lay_out()
        poser.changed.connect(self._show)
        poser.refused.connect(self._refuse)
        session.changed.connect(self._forget)
        self._design = session.design
        self._safe, self._safe_of = "", poser.work

    def _field(self, name: str, dimension: Any, given: Any, decimals: int | None) -> QuantityField:
        field = QuantityField(name, dimension, decimals)
        field.given.connect(lambda value: self.poser.once_posing(lambda: given(value)))
        field.refused.connect(self._refuse)
        return field

    def _lay_out(self) -> None:
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 8, 12, 8)
        line.setSpacing(16)
        left = QVBoxLayout()
        left.setSpacing(5)
        title = QLabel("How it should sit")
        title.setObjectName("title")
        left.addWidget(title)
        grid = QGridLayout()
        grid.setVerticalSpacing(4)
        for row, (words, field) in enumerate((("Pitch", self.pitch), ("Draft", self.draft), ("Mass", self.mass))):
            label = QLabel(words)
            label.setObjectName("soft")
            label.setBuddy(field)
            grid.addWidget(label, row, 0)
            grid.addWidget(field, row, 1)
        left.addLayout(grid)
        left.addWidget(self.leave)
        left.addStretch(1)
        line.addLayout(left, 2)
        middle = QVBoxLayout()
        asked = QLabel("What it asks")
        asked.setObjectName("title")
        middle.addWidget(asked)
        middle.addWidget(self.asks, 1)
        line.addLayout(middle, 4)
        right = QVBoxLayout()
        right.setSpacing(4)
        keys = QHBoxLayout()
        keys.setSpacing(6)
        for one in (self.picks, self.trim, self.fit, self.lead_free, self.counted):
            keys.addWidget(one)
        keys.addStretch(1)
        right.addLayout(keys)
        right.addWidget(self.list, 1)
        line.addLayout(right, 6)
        self.fit.setEnabled(False)

    # ---- showing

    def refresh(self) -> None:
        """Turned to: start posing from how it sits now."""
        if not self.poser.posing and self.session.piece is not None:
            self.session.pick(None)
        if not self.poser.posing:
            self.poser.begin()
        self._show()

    def _refuse(self, words: str) -> None:
        self.asks.setText(f"! {words}" if words else self.asks.text().removeprefix("! "))
        if not words and self.poser.posing:
            self._show()

    def _forget(self) -> None:
        if self.session.design is not self._design:
            self._design = self.session.design
            self._fill([])

    def _show(self) -> None:
        work = self.poser.work
        self.leave.setEnabled(work is not None)
        self.picks.setEnabled(work is not None)
        if work is None:
            self.asks.setText(
                "Turn to this page or press P, then drag the lure: its ends tilt it, its middle raises it."
            )
            return
        posed, locus = work.posed, work.locus
        if work is not self._safe_of:
            self._safe = ""
        self.pitch.show_value(math.degrees(work.pose.pitch_rad))
        self.draft.show_value(posed.draft_mm)
        self.mass.show_value(posed.total_g)
        unit, length = Units.of("mass"), Units.of("length")
        if posed.ballast_g <= 0:
            self.asks.setText(
                f"<b>{show(work.too_heavy_g, unit)} {unit} too heavy</b> before any ballast.<br>"
                "Sink it deeper, or see below what would lighten it."
            )
            return
        lines = [f"<b>{show(work.lead_g, unit)} {unit}</b> of lead in a plugged hole "
                 f"({show(posed.ballast_g, unit)} {unit} more than the wood)"]  # fmt: skip
        ends = locus.ends_mm
        if ends is not None and locus.best is not None:
            one, two = ends
            lines.append(
                f"its centre between x {show(one[0], length)}, z {show(one[2], length)} and "
                f"x {show(two[0], length)}, z {show(two[2], length)} {length}"
            )
            low, high = posed.gm_min_mm(locus.best.low_mm), posed.gm_min_mm(locus.best.high_mm)
            lines.append(f"GM {show(low, length)} at its lowest, {show(high, length)} {length} at its highest"
                         + self._safe)  # fmt: skip
            self._soon.start()
            lines.append(f"lower: {locus.best.below}; higher: {locus.best.above}")
        else:
            lines.append(f"<b>no room for it:</b> {locus.limit}")
        self.asks.setText("<br>".join(lines))

    def _look_how_safe(self) -> None:
        """The share of landings that come right with the ballast at either end of its line, off the interface's thread."""
        work = self.poser.work
        if work is None or work is self._safe_of or work.locus.best is None or self.session.dragging:
            return
        best = work.locus.best

        def look(_: Told) -> list[Settled]:
            return [settled_at(work, lam) for lam in (best.low_mm, best.high_mm)]

        self.session.tasks.start("safe", look, lambda found: self._tell_safe(work, found), words="throwing it in")

    def _tell_safe(self, work: Ballasting, found: list[Settled]) -> None:
        if work is self.poser.work:
            low, high = (100 * (one.landing_share or 0.0) for one in found)
            self._safe, self._safe_of = f"; {low:.0f} % and {high:.0f} % of landings come right", work
            self._show()

    def _fill(self, rows: list[tuple[str, Design, str]]) -> None:
        self.list.clear()
        self._choices = []
        for words, design, step in rows:
            self.list.addItem(QListWidgetItem(words))
            self._choices.append((design, step))
        self.fit.setEnabled(bool(rows))
        if rows:
            self.list.setCurrentRow(0)

    # ---- doing

    def _wait(self, words: str) -> None:
        self._fill([])
        self.list.addItem(words)

    def find_picks(self) -> None:
        """Look for picks off the interface's thread; where there is no room, for what would make it."""
        work = self.poser.work
        if work is None:
            return
        counted, lead = self.counted.isChecked(), not self.lead_free.isChecked()

        def look(told: Told) -> tuple[list[Pick], list[Remedy], str]:
            reasons: Counter[str] = Counter()
            found = shelf_picks(work, counted, lead, reasons=reasons, told=told)
            return (found, [], "") if found else ([], remedies(work, told), why_none(work, reasons))

        self._wait("Trying shot, slugs and holes, each in the full solve …")
        self.session.tasks.start("picks", look, self._picks_found, self._refuse, words="trying picks")

    def _picks_found(self, found: tuple[list[Pick], list[Remedy], str]) -> None:
        picks, tried, why = found
        work = self.poser.work
        if work is None:
            return
        drawing = self.session.design
        base = without_ballast(drawing)
        rows = [
            (f"{pick.words}\n{settled_words(pick.at_rest)}" + (f", {pick.left:g} left" if pick.left is not None else "")
             + ("; lead: look up the local rule" if pick.lead else ""),
             base.but(ballast=(*base.ballast, *pick.ballast)), "fit a pick")
            for pick in picks
        ]  # fmt: skip
        rows += [
            (f"{one.words}: {show(one.ballast_g, Units.of('mass'))} {Units.of('mass')} then, "
             + ("and there is room for it" if one.feasible else one.limit), one.change.make(drawing), one.words)
            for one in tried
        ]  # fmt: skip
        if not rows:
            self._wait(f"Nothing on the shelf does it within 6° and 3 mm: {why}. Try another tilt, or a lighter wood.")
            return
        self._fill(rows)
        if not picks:
            self.list.addItem(f"No pick from the shelf: {why}.")

    def find_trims(self) -> None:
        """Every change that a finished piece still allows, nearest to the pose first."""
        study = self.session.apart()
        wanted = math.degrees(self.poser.work.pose.pitch_rad) if self.poser.work is not None else None
        self._wait("Trying hooks, lead, lip and wire …")
        self.session.tasks.start(
            "picks", lambda told: trims(study, wanted, told=told), self._trims_found, self._refuse, words="trying trims"
        )

    def _trims_found(self, found: list[Trim]) -> None:
        drawing = self.session.design
        rows = [
            (f"{one.words}\n{settled_words(one.after)} ({signed(one.pitch_deg, 1)}° and {signed(one.reserve_g, 2)} g "
             "to spare by it)", one.change.make(drawing), one.words)
            for one in found
        ]  # fmt: skip
        self._fill(rows)

    def fit_chosen(self) -> None:
        """Put the chosen one into the design: one step of undo."""
        at = self.list.currentRow()
        if 0 <= at < len(self._choices):
            design, words = self._choices[at]
            self.poser.end()
            self.session.edit(design, words)

    def _leave(self) -> None:
        self.poser.end()
        self._show()


def settled_words(at_rest: Settled) -> str:
    """A rest in a line."""
    if not at_rest.floats:
        return "sinks"
    unit = Units.of("length")
    words = f"sits {signed(at_rest.pitch_deg, 1)}°, draft {show(at_rest.draft_mm, unit)} {unit}"
    words += f", GM {show(at_rest.gm_min_mm, unit)} {unit}"
    if at_rest.landing_share is not None:
        words += f", {100 * at_rest.landing_share:.0f} % come right"
    return words

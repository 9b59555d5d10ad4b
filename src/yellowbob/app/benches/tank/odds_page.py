"""Build odds: the shares that float, sit and come right, what matters most, and the fan of waterlines in the tank."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QProgressBar, QVBoxLayout

from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.charts import ShareBars, Spread
from yellowbob.app.widgets.fields import NumberField
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.paged import CardPage
from yellowbob.app.widgets.turns import in_a_turn
from yellowbob.app.widgets.words import Words
from yellowbob.ground.quantities import in_unit
from yellowbob.trials.odds import Odds, odds

FAN = 80
"""Waterlines drawn of the builds: the first ones, for they are drawn at random."""
SPREADS_SHARE = 6
"""Of the page's width, beside 2 for what is asked and 4 for what is told."""


class OddsPage(CardPage):
    """If every build differs as yours do."""

    def __init__(self, session: Session) -> None:
        super().__init__("Build odds", session)
        self.found: Odds | None = None
        self._design = session.design
        self.builds = NumberField("Builds", (100, 50_000), 5000)
        self.builds.setMinimumWidth(92)
        self.run = button("Work out the odds", self.start)
        self.halt = button("Stop", self.stop)
        self.halt.setEnabled(False)
        self.bar = QProgressBar()
        self.bar.setAccessibleName("Builds settled")
        self.bar.setTextVisible(False)
        self.bar.setFixedHeight(10)
        self.bars = ShareBars("Shares of builds")
        self.says = Words("Draws builds whose wood, finish, holes, ballast and hooks differ as such things do, and "
                           "settles each of them.")  # fmt: skip
        self.says.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.says.setAccessibleName("What the odds say")
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 8, 12, 8)
        line.setSpacing(18)
        left = QVBoxLayout()
        title = QLabel("If every build differs as yours do")
        title.setObjectName("title")
        left.addWidget(title)
        grid = QGridLayout()
        label = QLabel("Builds")
        label.setObjectName("soft")
        grid.addWidget(label, 0, 0)
        grid.addWidget(self.builds, 0, 1)
        grid.addWidget(self.run, 1, 0, 1, 2)
        grid.addWidget(self.bar, 2, 0)
        grid.addWidget(self.halt, 2, 1)
        left.addLayout(grid)
        estimate = Words("An estimate: its tolerances are rules until you have weighed your own.")
        estimate.setObjectName("soft")
        left.addWidget(estimate)
        left.addStretch(1)
        middle = QVBoxLayout()
        middle.addWidget(self.bars, 2)
        middle.addWidget(self.says, 3)
        line.addLayout(left, 2)
        line.addLayout(middle, 4)
        self._line = line
        line.addStretch(SPREADS_SHARE)
        self.spreads: dict[str, Spread] = {}
        """of pitch, draft and what is to spare; made when there is something to show, for charts take long to make"""
        session.changed.connect(self._forget)

    def start(self) -> None:
        """Draw and settle, off the interface's thread."""
        study, builds = self.session.apart(), int(self.builds.value())
        self.run.setEnabled(False)
        self.halt.setEnabled(True)
        self.bar.setValue(0)

        def work(told: Told) -> Odds:
            return odds(study, builds, 1, lambda done: told(done / builds))

        self.session.tasks.start(
            "odds",
            work,
            self._take,
            self._refuse,
            lambda share: self.bar.setValue(round(100 * share)),
            words="settling builds",
        )

    def stop(self) -> None:
        self.session.tasks.stop("odds")
        self._ready()
        self.says.setText("Stopped.")

    def _ready(self) -> None:
        self.run.setEnabled(True)
        self.halt.setEnabled(False)

    def _refuse(self, words: str) -> None:
        self._ready()
        self.says.setText(f"! {words}")

    def _forget(self) -> None:
        """Another design: its odds are not these."""
        if self.session.design is self._design:
            return
        self._design = self.session.design
        if self.session.tasks.running("odds"):
            self.stop()
        if self.found is not None:
            self.found = None
            self.session.fan = ()
            self.bars.show_rows([])
            for chart in self.spreads.values():
                chart.clear_all()
            self.says.setText("The design has changed since; work them out again.")

    def _take(self, found: Odds) -> None:
        self._ready()
        self.bar.setValue(100)
        self.found = found
        self.bars.show_rows([("float, hooks on", found.floats), (f"sit within {found.wanted}", found.sits),
                             ("come right", found.comes_right)])  # fmt: skip
        p, d, r = found.pitch_deg, found.draft_mm, found.reserve_g
        lines = [f"Nine of ten builds: pitch {p.low:.1f} to {p.high:.1f}°, draft {d.low:.1f} to {d.high:.1f} mm, "
                 f"{r.low:.1f} to {r.high:.1f} g to spare."]  # fmt: skip
        if found.matters:
            first = found.matters[0]
            lines.append(f"<b>Attend to first:</b> {first.words}, {100 * first.share:.0f} % of the spread of pitch.")
        if found.if_weighed is not None:
            lines.append(f"This piece weighed: {100 * found.if_weighed:.0f} % would sit as wanted.")
        if found.if_jig is not None:
            lines.append(f"Drilled in a jig: {100 * found.if_jig:.0f} % would.")
        self.says.setText("<br>".join(lines))
        floating = found.done.floats
        self._show_spreads(found)
        self.session.show_fan(found.done.ups[floating][:FAN], found.done.draft_mm[floating][:FAN])

    def _show_spreads(self, found: Odds) -> None:
        """Each spread with what the brief wants of it, in the units that are read; one in a turn of the event loop."""
        afloat, brief = found.done.floats, self.session.design.brief
        length, mass = Units.of("length"), Units.of("mass")
        rows = (
            ("pitch", np.degrees(found.done.pitch_rad[afloat]), "pitch °", brief.pitch_deg, 1.0),
            ("draft", found.done.draft_mm[afloat], f"draft {length}", brief.draft_mm, in_unit(1.0, length)),
            ("to spare", found.done.reserve_g, f"to spare {mass}", None, in_unit(1.0, mass)),
        )

        def show(left: int) -> None:
            if self.found is not found:
                return
            name, values, words, span, unit = rows[-left]
            if name not in self.spreads:
                self.spreads[name] = Spread(f"Spread of {name}")
                self._line.insertWidget(self._line.count() - 1, self.spreads[name], SPREADS_SHARE // len(rows))
                self._line.setStretch(self._line.count() - 1, SPREADS_SHARE * (left - 1) // len(rows))
            if len(values):
                wanted = None if span is None else (span.least * unit, span.most * unit)
                self.spreads[name].show_values(values * unit, words, wanted)
            else:
                self.spreads[name].clear_all()
            if left > 1:
                in_a_turn(self, lambda: show(left - 1))

        in_a_turn(self, lambda: show(len(rows)))

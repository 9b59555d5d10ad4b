"""The weight budget: what may still go in, and the weighings that tell what this piece really weighs."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QBoxLayout, QListWidget, QListWidgetItem

from yellowbob.app.benches.fitout.page import Page
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.fields import Choice
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.tables import fill, table
from yellowbob.checks.verdict import signed
from yellowbob.design.model import STAGES, Design
from yellowbob.ground.quantities import show
from yellowbob.study import of
from yellowbob.study.evidence import MOST_WEIGHINGS, rewritten, ticked, weighed
from yellowbob.weights.evidence import Weighed, share_on_scale


class BudgetPage(Page):
    """Wanted total, less what is on the scale, less what is still to come."""

    def __init__(self, session: Session) -> None:
        super().__init__(
            "Budget",
            session,
            "A weighing is evidence: it corrects what is believed of this piece. F2 in the field reads the scale.",
        )
        self.target = self.field("Wanted total, hooks on", "mass", self._target, 2)
        self.stage = Choice("Stage weighed", list(STAGES), lambda _: self.refresh())
        self.weighed = self.field("Mass at that stage", "mass", self._weigh, 2)
        self.forget = button("Forget", self._forget, "Forget the chosen weighing")
        self.put(0, 0, "Wanted total", self.target)
        self.put(1, 0, "Weighed", self.stage)
        self.put(1, 1, "at", self.weighed)
        self.grid.addWidget(self.forget, 1, 4)
        self.grid.setColumnStretch(5, 1)
        self._solved: list[Weighed] = []
        self.list = QListWidget()
        self.list.setAccessibleName("Weighings")
        self.list.setWordWrap(True)
        self.list.currentRowChanged.connect(lambda _: self._fill_things())
        self.column.addWidget(self.list, 1)
        self.column.addWidget(self.said)
        self.things = QListWidget()
        self.things.setAccessibleName("What lay on the scale")
        self.things.setToolTip("What lay on the scale at the chosen weighing")
        self.things.setFixedWidth(210)
        self.things.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.things.setTextElideMode(Qt.TextElideMode.ElideRight)
        self.things.itemChanged.connect(self._ticked)
        self.beside.setDirection(QBoxLayout.Direction.LeftToRight)
        self.beside.addWidget(self.things)
        self.table = table("The budget", ("", "mass"))
        self.table.horizontalHeader().hide()
        self.table.setMinimumWidth(232)
        self.beside.addWidget(self.table)
        session.changed.connect(self.refresh)
        self.refresh()

    def _row(self) -> Weighed | None:
        """The weighing chosen in the list, as it was solved."""
        at = self.list.currentRow()
        return self._solved[at] if 0 <= at < len(self._solved) else None

    def refresh(self) -> None:
        if self.session.fault:
            return
        b, unit = of.budget(self.session.study), Units.of("mass")
        self.target.show_value(b.target_g)
        self.weighed.show_value(None)

        def g(value: float) -> str:
            return f"{show(value, unit)} {unit}"

        self._solved = list(of.evidence(self.session.study).weighed)
        self._fill_list(g)
        room = f"{g(b.ballast_g)} of ballast may go in" if b.ballast_g >= 0 else f"{g(-b.ballast_g)} too heavy already"
        self.say(f"{room}; {g(b.ballast_in_g)} is in the design.")
        rows = (("wanted, hooks on", b.target_g), ("on the scale, no ballast", b.on_scale_g), ("still to come", b.to_come_g),
                ("may still go in", b.ballast_g), ("finished, as believed", b.finished_g), ("just hangs at", b.neutral_g),
                ("spare for a dropper", b.spare_g))  # fmt: skip
        fill(self.table, [[words, g(value)] for words, value in rows])

    def _fill_list(self, g: Callable[[float], str]) -> None:
        now = self.list.currentRow()
        self.list.blockSignals(True)
        self.list.clear()
        for one in self._solved:
            off = one.weighing.mass_g - one.forecast_g
            more = f"{'+' if off > 0 else ''}{signed(off, 2)} g"
            words = f"{one.weighing.stage}: {g(one.weighing.mass_g)}, forecast {g(one.forecast_g)} ({more})"
            if one.surprising:
                words = f"! {words}: {abs(one.sigmas):.1f} σ off" + (f"; {one.likely}?" if one.likely else "")
            self.list.addItem(words)
        self.list.setCurrentRow(min(max(now, 0), len(self._solved) - 1))
        self.list.blockSignals(False)
        self._fill_things()

    def _fill_things(self) -> None:
        """What lay on the scale at the chosen weighing; a tick more or less changes what it is evidence of."""
        one = self._row()
        self.forget.setEnabled(one is not None)
        self.things.setEnabled(one is not None)
        self.things.blockSignals(True)
        self.things.clear()
        lines = of.forecast_slip(self.session.study).lines if one is not None else ()
        for line in (line for line in lines if not line.under):
            item = QListWidgetItem(line.words)
            item.setData(Qt.ItemDataRole.UserRole, line.key)
            share = share_on_scale(one.weighing, line.key) if one is not None else 0.0
            on = Qt.CheckState.Checked if share == 1 else Qt.CheckState.PartiallyChecked
            item.setCheckState(Qt.CheckState.Unchecked if share == 0 else on)
            self.things.addItem(item)
        self.things.blockSignals(False)

    def _ticked(self, item: QListWidgetItem) -> None:
        one = self._row()
        if one is not None:
            key = item.data(Qt.ItemDataRole.UserRole)
            share = 1.0 if item.checkState() == Qt.CheckState.Checked else 0.0
            number = self.session.design.weighings.index(one.weighing)
            self.session.edit(ticked(self.session.design, number, key, share), f"{item.text()} on the scale")

    def _target(self, value: float) -> None:
        design = self.session.design
        old = design.brief.mass_g
        half = (old.most - old.least) / 2 if old is not None else 0.05 * value
        span = {"least": max(0.0, value - half), "most": value + half}
        brief = design.brief.model_dump() | {"mass_g": span}
        self.session.edit(design.but(brief=brief), "wanted total")

    def _weigh(self, value: float) -> None:
        stage = self.stage.currentText()
        assert stage in STAGES
        study, session = self.session.apart(), self.session

        def keep(found: Design) -> None:
            design = session.design  # it may have been edited meanwhile
            kept = (*design.weighings[-(MOST_WEIGHINGS - 1) :], found.weighings[-1])
            session.edit(design.but(weighings=kept), f"weighed: {stage}")

        session.aside("taking a weighing", lambda: weighed(study, stage, value), keep, self._refused)

    def _forget(self) -> None:
        one = self._row()
        if one is not None:
            number = self.session.design.weighings.index(one.weighing)
            self.session.edit(rewritten(self.session.design, number, None), f"forget: {one.weighing.stage}")

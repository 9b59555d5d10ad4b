"""The weight budget: what may still go in, and weighings that take the place of what was predicted."""

from __future__ import annotations

from yellowbob.app.benches.fitout.page import Page, fill, table
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.cards import button
from yellowbob.app.widgets.fields import Choice, Units
from yellowbob.design.model import STAGES, Reading
from yellowbob.ground.quantities import show
from yellowbob.study import of


class BudgetPage(Page):
    """Wanted total, less what is on the scale, less what is still to come."""

    def __init__(self, session: Session) -> None:
        super().__init__(
            "Budget",
            session,
            "A weighing at a stage takes the place of what was predicted. F2 in the field reads the scale.",
        )
        self.target = self.field("Wanted total, hooks on", "mass", self._target, 2)
        self.stage = Choice("Stage weighed", list(STAGES), lambda _: self.refresh())
        self.weighed = self.field("Mass at that stage", "mass", self._weigh, 2)
        self.forget = button("Forget", self._forget, "Forget the weighing of this stage")
        self.put(0, 0, "Wanted total", self.target)
        self.put(1, 0, "Weighed", self.stage)
        self.put(1, 1, "at", self.weighed)
        self.grid.addWidget(self.forget, 1, 4)
        self.grid.setColumnStretch(5, 1)
        self.column.addWidget(self.said)
        self.column.addStretch(1)
        self.table = table("The budget", ("", "mass"))
        self.table.horizontalHeader().hide()
        self.beside.addWidget(self.table)
        session.changed.connect(self.refresh)
        self.refresh()

    def _reading(self) -> Reading | None:
        return next((r for r in self.session.design.readings if r.stage == self.stage.currentText()), None)

    def refresh(self) -> None:
        if self.session.fault:
            return
        b, unit = of.budget(self.session.study), Units.of("mass")
        self.target.show_value(b.target_g)
        reading = self._reading()
        self.weighed.show_value(reading.mass_g if reading else None)
        self.forget.setEnabled(reading is not None)

        def g(value: float) -> str:
            return f"{show(value, unit)} {unit}"

        room = f"{g(b.ballast_g)} of ballast may go in" if b.ballast_g >= 0 else f"{g(-b.ballast_g)} too heavy already"
        self.say(f"{room}; {g(b.ballast_in_g)} is in the design.")
        rows = (("wanted, hooks on", b.target_g), ("on the scale, no ballast", b.on_scale_g), ("still to come", b.to_come_g),
                ("may still go in", b.ballast_g), ("finished, as designed", b.finished_g), ("just hangs at", b.neutral_g),
                ("spare for a dropper", b.spare_g))  # fmt: skip
        fill(self.table, [[words, g(value)] for words, value in rows])

    def _target(self, value: float) -> None:
        design = self.session.design
        old = design.brief.mass_g
        half = (old.most - old.least) / 2 if old is not None else 0.05 * value
        span = {"least": max(0.0, value - half), "most": value + half}
        brief = design.brief.model_dump() | {"mass_g": span}
        self.session.edit(design.but(brief=brief), "wanted total")

    def _weigh(self, value: float) -> None:
        stage = self.stage.currentText()
        design = self.session.design
        others = tuple(r for r in design.readings if r.stage != stage)
        new = Reading.model_validate({"stage": stage, "mass_g": value})
        self.session.edit(design.but(readings=(*others, new)), f"weighed: {stage}")

    def _forget(self) -> None:
        stage, design = self.stage.currentText(), self.session.design
        self.session.edit(
            design.but(readings=tuple(r for r in design.readings if r.stage != stage)), f"forget: {stage}"
        )

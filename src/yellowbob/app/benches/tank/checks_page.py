"""All checks: what each found, why it matters, what to do; and setting one aside with a reason."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout

from yellowbob.app.frame.verdict_line import MARKS
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.paged import CardPage
from yellowbob.app.widgets.words import Words
from yellowbob.checks.registry import Verdict, verdicts
from yellowbob.checks.verdict import heeded_again, with_set_aside
from yellowbob.ground.errors import YellowBobError

ORDER = {"failed": 0, "watch": 1, "unknown": 2, "pending": 3, "good": 4}


class ChecksPage(CardPage):
    """The registry behind the verdict line."""

    def __init__(self, session: Session) -> None:
        super().__init__("Checks", session)
        self.list = QListWidget()
        self.list.setAccessibleName("All checks")
        self.list.setUniformItemSizes(True)  # a tick comes from another font, whose lines are taller
        # beside it the chosen one is whole
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.currentRowChanged.connect(self._tell)
        self.says = Words()
        self.says.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.says.setAccessibleName("What the check says")
        self.reason = QLineEdit()
        self.reason.setAccessibleName("Reason for setting it aside")
        self.reason.setPlaceholderText("why it may be set aside")
        self.reason.returnPressed.connect(self.set_aside)
        self.aside = button("Set aside", self.set_aside)
        self.heed = button("Count it again", self.count_again)
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 8, 12, 8)
        line.setSpacing(14)
        line.addWidget(self.list, 5)
        right = QVBoxLayout()
        right.addWidget(self.says, 1)
        keys = QHBoxLayout()
        keys.addWidget(self.reason, 1)
        keys.addWidget(self.aside)
        keys.addWidget(self.heed)
        right.addLayout(keys)
        line.addLayout(right, 6)
        self.shown: list[Verdict] = []
        session.arrived.connect(self._follow)

    def _follow(self) -> None:
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Failed first, what was set aside last."""
        if self.session.fault:
            return
        now = self.chosen()
        self.shown = sorted(verdicts(self.session.study, wait=False), key=lambda v: (bool(v.aside), ORDER[v.state]))
        self.list.blockSignals(True)
        self.list.clear()
        for verdict in self.shown:
            aside = "  – set aside" if verdict.aside else ""
            self.list.addItem(QListWidgetItem(f"{MARKS[verdict.state]}  {verdict.title}: {verdict.figure}{aside}"))
        self.list.blockSignals(False)
        keys = [v.key for v in self.shown]
        self.list.setCurrentRow(keys.index(now.key) if now is not None and now.key in keys else 0)
        self._tell()

    def open(self, key: str) -> None:
        """Show one check."""
        self.refresh()
        keys = [v.key for v in self.shown]
        if key in keys:
            self.list.setCurrentRow(keys.index(key))

    def chosen(self) -> Verdict | None:
        at = self.list.currentRow()
        return self.shown[at] if 0 <= at < len(self.shown) else None

    def _tell(self, _: int = 0) -> None:
        one = self.chosen()
        self.heed.setEnabled(one is not None and bool(one.aside))
        if one is None:
            self.says.setText("")
            return
        lines = [
            f"<b>{one.title}: {one.figure}</b>",
            one.why,
            f"<b>What to do:</b> {one.do}",
            f"<i>Grade: {one.grade}</i>",
        ]
        if one.aside:
            lines.append(f"<b>Set aside:</b> {one.aside}")
        self.says.setText("<br>".join(lines))

    def set_aside(self) -> None:
        one = self.chosen()
        if one is None:
            return
        try:
            design = with_set_aside(self.session.design, one.key, self.reason.text())
        except YellowBobError as error:
            self.says.setText(f"! {error}")
            return
        self.reason.clear()
        self.session.edit(design, f"set {one.title} aside")

    def count_again(self) -> None:
        one = self.chosen()
        if one is not None:
            self.session.edit(heeded_again(self.session.design, one.key), f"count {one.title} again")

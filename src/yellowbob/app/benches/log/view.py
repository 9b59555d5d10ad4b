"""Builds at the left, found by words; at the right what was kept of the one on the bench."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QTableWidget, QVBoxLayout, QWidget

from yellowbob.app.benches.log.book import Book
from yellowbob.app.widgets.tables import fill, table
from yellowbob.app.widgets.words import Words
from yellowbob.logbook.words import told


class LogView(QWidget):
    """Two tables side by side."""

    def __init__(self, book: Book) -> None:
        super().__init__()
        self.book = book
        self.setObjectName("card")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setMinimumSize(420, 240)
        self.finder = QLineEdit()
        self.finder.setAccessibleName("Find builds by words")
        self.finder.setPlaceholderText("find: wood, words, what broke …")
        self.finder.textChanged.connect(book.search)
        self.builds = table("Builds", ("serial", "begun", "design", "state"))
        self.builds.setSelectionMode(QTableWidget.SelectionMode.ExtendedSelection)
        self.builds.currentCellChanged.connect(self._choose)
        self.builds.itemSelectionChanged.connect(self._mark)
        self.entries = table("Entries of the build on the bench", ("when", "what", "found"))
        self.says = Words()
        self.says.setAccessibleName("The build on the bench")
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 10, 12, 10)
        line.setSpacing(14)
        for parts, share in (((self.finder, self.builds), 4), ((self.says, self.entries), 6)):
            column = QVBoxLayout()
            for part in parts:
                column.addWidget(part, 1 if isinstance(part, QTableWidget) else 0)
            line.addLayout(column, share)
        self.listed: list[str] = []
        book.changed.connect(self.refresh)
        book.chosen.connect(self.show_entries)

    def refresh(self) -> None:
        """Builds as they are found now, the one on the bench kept."""
        found = self.book.builds()
        self.listed = [b.serial for b in found]
        self.builds.blockSignals(True)
        fill(self.builds, [[b.serial, b.made_on.isoformat(), b.name, b.differs or b.state] for b in found])
        if self.book.serial in self.listed:
            self.builds.selectRow(self.listed.index(self.book.serial))
        self.builds.blockSignals(False)
        self.show_entries()
        if self.book.trouble:
            self.says.setText(f"! {self.book.trouble}")
        elif not found:
            begin = "No builds yet: begin one below, from the open design."
            none = "No build has these words." if self.book.words else begin
            self.says.setText(none)

    def _choose(self, row: int, *_: int) -> None:
        if 0 <= row < len(self.listed):
            self.book.choose(self.listed[row])

    def _mark(self) -> None:
        rows = sorted({index.row() for index in self.builds.selectedIndexes()})
        self.book.marked = [self.listed[row] for row in rows if row < len(self.listed)]

    def show_entries(self) -> None:
        """What was kept of the build on the bench, newest last."""
        build = self.book.build()
        if build is None:
            fill(self.entries, [])
            return
        more = f", batch {build.batch}" if build.batch else ""
        more += f", {build.differs}" if build.differs else ""
        aside = f" Set aside: {build.aside}." if build.aside else ""
        lost = f" Lost: {build.lost_why}." if build.lost_why else ""
        self.says.setText(
            f"<b>{build.serial}</b> {build.name}{more}, begun {build.made_on:%d %b %Y}, {build.state}.{lost}{aside}"
        )
        fill(self.entries, [[f"{e.at.astimezone():%d %b %Y %H:%M}", e.what, told(e)] for e in self.book.entries()])

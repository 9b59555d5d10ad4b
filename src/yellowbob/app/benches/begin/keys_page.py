"""Every key and what it does, in place of a bench; found by any words."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QVBoxLayout, QWidget

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.tables import fill, table

COLUMNS = 3


class KeysPage(QWidget):
    """A field to find by, and the keys running down three columns."""

    def __init__(self, _: Session) -> None:
        super().__init__()
        self.rows: list[tuple[str, str]] = []
        self.finder = QLineEdit()
        self.finder.setAccessibleName("Find a key by words")
        self.finder.setPlaceholderText("find: undo, bench, nudge …")
        self.finder.textChanged.connect(lambda _: self.refresh())
        self.table = table("Keys", ("key", "what it does") * COLUMNS)
        self.view: QWidget = self.table  # not the field: ? typed there would be a letter
        self.cards = self.table
        head = QHBoxLayout()
        title = QLabel("Keys")
        title.setObjectName("title")
        head.addWidget(title)
        head.addWidget(self.finder, 1)
        head.addWidget(QLabel("? goes back"))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(head)
        column.addWidget(self.table, 1)

    def show_rows(self, rows: list[tuple[str, str]]) -> None:
        """Keys with their words."""
        self.rows = rows
        self.refresh()

    def refresh(self) -> None:
        """Those that have all the words, down one column after another."""
        words = self.finder.text().lower().split()
        found = [row for row in self.rows if all(w in " ".join(row).lower() for w in words)]
        deep = -(-len(found) // COLUMNS)
        lines = []
        for at in range(deep):
            cells = [found[k] if k < len(found) else ("", "") for k in range(at, COLUMNS * deep, deep)]
            lines.append([text for pair in cells for text in pair])
        fill(self.table, lines)

    def remove_selected(self) -> None:
        """Nothing is selected here."""

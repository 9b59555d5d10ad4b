"""The handbook, read in the window: chapters at the left."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QHBoxLayout, QListWidget, QTextBrowser, QWidget

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.spaced import Spaced
from yellowbob.app.widgets.theme import font

FILE = Path(__file__).parents[3] / "handbook" / "handbook.md"


def chapters() -> list[tuple[str, str]]:
    """(title, Markdown) of each chapter; each begins with a second-level heading."""
    parts = FILE.read_text(encoding="utf-8").split("\n## ")
    return [(part.partition("\n")[0].strip(), f"## {part}") for part in parts[1:]]


class HandbookPage(QWidget):
    """A list of chapters, and the one that is read."""

    def __init__(self, _: Session) -> None:
        super().__init__()
        self.chapters = chapters()
        self.view = self.list = QListWidget()
        self.list.setAccessibleName("Chapters of the handbook")
        self.list.setFixedWidth(240)
        self.list.setItemDelegate(Spaced(self.list))
        self.list.setSpacing(3)
        self.list.addItems([title for title, _text in self.chapters])
        self.text = QTextBrowser()
        self.text.setAccessibleName("Handbook")
        self.text.setOpenLinks(False)
        self.text.setFont(font(11))
        self.text.document().setDocumentMargin(18.0)
        self.cards: QWidget = self.text
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(12)
        line.addWidget(self.list)
        line.addWidget(self.text, 1)
        self.list.currentRowChanged.connect(self.show_chapter)
        self.list.setCurrentRow(0)

    def show_chapter(self, number: int) -> None:
        """Read a chapter."""
        if 0 <= number < len(self.chapters):
            self.text.setMarkdown(self.chapters[number][1])

    def remove_selected(self) -> None:
        """Nothing is selected here."""

"""Builds side by side: their drawings afloat, and a table of what was measured and said of each."""

from __future__ import annotations

from PySide6.QtWidgets import QHeaderView, QVBoxLayout, QWidget

from yellowbob.app.widgets.strip import Strip
from yellowbob.app.widgets.tables import fill, table
from yellowbob.logbook.compared import Compared
from yellowbob.trials.variants import Variant


class CompareView(QWidget):
    """Drawings over a table, a column to each build."""

    def __init__(self) -> None:
        super().__init__()
        self.strip = Strip("Builds side by side", "Mark two to six builds in the list.")
        self.table = table("Figures of the builds", ("figure",))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.strip, 4)
        column.addWidget(self.table, 5)

    def show_nothing(self) -> None:
        self.strip.show_variants([])
        fill(self.table, [])

    def show_figures(self, found: Compared) -> None:
        """The table; drawings come when they are ready."""
        heads = ["figure", *(b.serial for b in found.builds)]
        self.table.setColumnCount(len(heads))
        self.table.setHorizontalHeaderLabels(heads)
        rows = [["state", *(b.state for b in found.builds)],
                ["made again", *({True: "yes", False: "no", None: "–"}[b.again] for b in found.builds)]]  # fmt: skip
        if any(b.differs for b in found.builds):
            rows.insert(0, ["differs in", *(b.differs or "–" for b in found.builds)])
        for one in found.rows:
            name = f"{one.words}, {one.unit}" if one.unit else one.words
            rows.append([name, *(_figure(v) for v in one.values)])
        rows.append(["words", *("; ".join(words) or "–" for words in found.words)])
        fill(self.table, rows)
        for column in range(1, len(heads)):
            self.table.horizontalHeader().setSectionResizeMode(column, QHeaderView.ResizeMode.Stretch)

    def show_afloat(self, variants: list[Variant]) -> None:
        """Each as it lies in the water."""
        self.strip.show_variants(variants)


def _figure(value: float | None) -> str:
    return "–" if value is None else f"{value:.2f}".rstrip("0").rstrip(".")

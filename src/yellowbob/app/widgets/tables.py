"""Tables to read and choose rows from."""

from __future__ import annotations

from PySide6.QtWidgets import QHeaderView, QTableWidget, QTableWidgetItem


def table(name: str, columns: tuple[str, ...]) -> QTableWidget:
    """A table to read and choose rows from."""
    made = QTableWidget(0, len(columns))
    made.setAccessibleName(name)
    made.setHorizontalHeaderLabels(list(columns))
    made.verticalHeader().hide()
    made.setSelectionBehavior(QTableWidget.SelectionBehavior.SelectRows)
    made.setSelectionMode(QTableWidget.SelectionMode.SingleSelection)
    made.verticalHeader().setDefaultSectionSize(25)
    made.setMinimumWidth(350)
    made.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
    made.setTabKeyNavigation(False)  # Tab leaves the table; the arrows go through it
    return made


def fill(shown: QTableWidget, rows: list[list[str]]) -> None:
    """Put rows of text into a table, the last column as wide as there is room."""
    header = shown.horizontalHeader()
    # a column that fits its contents measures all of them again at every cell
    header.setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
    shown.setRowCount(len(rows))
    for at, cells in enumerate(rows):
        for place, text in enumerate(cells):
            shown.setItem(at, place, QTableWidgetItem(text))
    shown.resizeColumnsToContents()
    header.setSectionResizeMode(shown.columnCount() - 1, QHeaderView.ResizeMode.Stretch)

"""Labels and fields in a line."""

from __future__ import annotations

from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QWidget


def row(*widgets: QWidget | str) -> QHBoxLayout:
    """Labels and fields in a line."""
    line = QHBoxLayout()
    line.setSpacing(8)
    for one in widgets:
        if isinstance(one, str):
            label = QLabel(one)
            label.setObjectName("soft")
            line.addWidget(label)
        else:
            line.addWidget(one)
    return line


def labelled(*rows: tuple[str, QWidget]) -> QGridLayout:
    """Fields one under another, each behind its words."""
    grid = QGridLayout()
    grid.setVerticalSpacing(12)
    for number, (words, field) in enumerate(rows):
        grid.addWidget(soft(words, field), number, 0)
        grid.addWidget(field, number, 1)
    return grid


def soft(words: str, field: QWidget) -> QLabel:
    """A quiet label of a field."""
    label = QLabel(words)
    label.setObjectName("soft")
    label.setBuddy(field)
    return label

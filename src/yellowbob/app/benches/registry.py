"""The benches in the order of the work: entered here once, each brought in when it is first turned to."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from importlib import import_module
from typing import Protocol, cast

from PySide6.QtWidgets import QWidget

from yellowbob.app.session.session import Session


class Bench(Protocol):
    """What the window needs of a bench: its drawing, the cards that the brief may take the room of, its own removal."""

    view: QWidget
    cards: QWidget

    def remove_selected(self) -> None:
        """Take off what is selected on it."""


@dataclass(frozen=True)
class BenchEntry:
    """One bench: its title, its key, and where its widget is."""

    title: str
    key: str
    module: str
    widget: str

    def build(self, session: Session) -> QWidget:
        """The bench's widget; its module is imported now."""
        maker = cast(Callable[[Session], QWidget], getattr(import_module(self.module), self.widget))
        return maker(session)


NEW = BenchEntry("New", "Ctrl+N", "yellowbob.app.benches.begin.bench", "NewBench")
"""Where something new begins: no bench of the work, so it has no tab."""
KEYS = BenchEntry("Keys", "?", "yellowbob.app.benches.begin.keys_page", "KeysPage")
HANDBOOK = BenchEntry("Handbook", "Ctrl+H", "yellowbob.app.benches.begin.handbook_page", "HandbookPage")
SIDES = (NEW, KEYS, HANDBOOK)
"""What stands in the place of a bench and has no tab."""
BENCHES: tuple[BenchEntry, ...] = (
    BenchEntry("Lines", "1", "yellowbob.app.benches.lines.bench", "LinesBench"),
    BenchEntry("Fit-out", "2", "yellowbob.app.benches.fitout.bench", "FitoutBench"),
    BenchEntry("Tank", "3", "yellowbob.app.benches.tank.bench", "TankBench"),
    BenchEntry("Action", "4", "yellowbob.app.benches.action.bench", "ActionBench"),
    BenchEntry("Shop", "5", "yellowbob.app.benches.shop.bench", "ShopBench"),
    BenchEntry("Log", "6", "yellowbob.app.benches.log.bench", "LogBench"),
)

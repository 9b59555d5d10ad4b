"""Colours and type: chalk, pale wood, slate ink, river water; signal yellow for what can be grabbed, one red."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache, partial
from pathlib import Path
from weakref import WeakKeyDictionary

from PySide6.QtCore import QObject, Qt, QTimer
from PySide6.QtGui import QColor, QFont, QFontDatabase, QFontMetricsF, QPalette
from PySide6.QtWidgets import QApplication, QWidget
from shiboken6 import isValid

from yellowbob.app.widgets.turns import BETWEEN_MS, in_a_turn

FAMILY = "Lato"
_TICK = (Path(__file__).parent / "icons" / "tick.svg").as_posix()
_ARROW = (Path(__file__).parent / "icons" / "down.svg").as_posix()


@dataclass(frozen=True)
class Theme:
    """One set of colours, as hex text."""

    paper: str
    card: str
    wood: str
    line: str
    ink: str
    soft: str
    water_top: str
    water_deep: str
    water_ink: str
    grab: str
    grab_edge: str
    bad: str
    foot: str
    foot_ink: str
    foot_soft: str
    foot_good: str
    foot_bad: str
    marked: str
    body_dark: tuple[int, int, int]
    body_bright: tuple[int, int, int]


DAY = Theme(
    paper="#f5f1e7", card="#fdfcf7", wood="#e6ddc8", line="#cfc4aa", ink="#22303a", soft="#525e64",
    water_top="#bfe0d8", water_deep="#6aaea6", water_ink="#17605c", grab="#f7b90a", grab_edge="#6b4e00", bad="#b3261e",
    foot="#24323c", foot_ink="#f3f1ea", foot_soft="#b9c4c8", foot_good="#9fd8bd", foot_bad="#ffb4a8", marked="#f0e2b4",
    body_dark=(86, 54, 30), body_bright=(226, 178, 116),
)  # fmt: skip
EVENING = Theme(
    paper="#1b242a", card="#212c33", wood="#2c3439", line="#46525a", ink="#e9e5da", soft="#a9b4b8",
    water_top="#2d5c5b", water_deep="#173b3d", water_ink="#8fd0c8", grab="#f7b90a", grab_edge="#fff0c0", bad="#ff8a7d",
    foot="#10181d", foot_ink="#f3f1ea", foot_soft="#a9b4b8", foot_good="#9fd8bd", foot_bad="#ffb4a8", marked="#5c5330",
    body_dark=(70, 46, 28), body_bright=(206, 160, 104),
)  # fmt: skip


class Look:
    """The theme in force; widgets read `Look.now` when they paint."""

    now: Theme = DAY


@lru_cache(maxsize=64)
def font(size: float, bold: bool = False) -> QFont:
    """The shipped family at a size in points; its figures are tabular. Shared: not to be changed."""
    made = QFont(FAMILY)
    made.setPointSizeF(size)
    made.setBold(bold)
    return made


@lru_cache(maxsize=4096)
def elided(words: str, size: float, bold: bool, room: int) -> str:
    """Words cut to a width in px, with an ellipsis where they were cut."""
    return QFontMetricsF(font(size, bold)).elidedText(words, Qt.TextElideMode.ElideRight, room)


@lru_cache(maxsize=4096)
def width_of(words: str, size: float, bold: bool = False) -> float:
    """Width of words in px."""
    return QFontMetricsF(font(size, bold)).horizontalAdvance(words)


@lru_cache(maxsize=256)
def colour(text: str, alpha: int = 255) -> QColor:
    made = QColor(text)
    made.setAlpha(alpha)
    return made


def load_fonts() -> None:
    for file in sorted((Path(__file__).parent.parent.parent / "fonts").glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(file))


More = Callable[[Theme], str]
"""Rules of one part, in the colours of a theme."""
_worn: WeakKeyDictionary[QWidget, tuple[More, Theme]] = WeakKeyDictionary()


def _no_more(_: Theme) -> str:
    return ""


def wear(part: QWidget, more: More = _no_more) -> None:
    """Dress a part of the window with all that is in it, now and whenever the colours turn; best when it is whole.

    Each part has a sheet of its own: one on the application dressed every widget anew at each turn (0.3 to 0.6 s), and every
    one that was made again and again while it was put in its place.
    """
    _worn[part] = more, Look.now
    part.setStyleSheet(_sheet(Look.now) + more(Look.now))


SMALL = 40
"""A part with more widgets in it is dressed in a turn of its own: a fifth of a millisecond each."""
AT_ONCE_S = 0.01
"""For so long parts that are seen are dressed one after the other; those that are left have turns of their own."""


def _change(seen: bool, small: bool = False) -> bool:
    """Dress one part, seen or not, that wears other colours than those in force; False: none does. small: only such."""
    for part, (more, worn) in list(_worn.items()):
        if worn is Look.now or not isValid(part) or part.isVisible() != seen:
            continue
        many = len(part.findChildren(QWidget)) > SMALL
        if not (small and many):
            if many and seen:  # a turn for dressing it, and another for painting it
                part.setUpdatesEnabled(False)
                QTimer.singleShot(BETWEEN_MS, part, partial(part.setUpdatesEnabled, True))
            wear(part, more)
            return True
    return False


def _change_the_rest(app: QObject) -> None:
    if _change(seen=True) or _change(seen=False):
        in_a_turn(app, partial(_change_the_rest, app))


def apply_theme(app: QApplication, theme: Theme) -> None:
    """The colours in force from now on: what is seen and small changes at once, as far as a moment lasts; the rest changes in
    turns of the event loop, what is seen first."""
    Look.now = theme
    palette = QPalette()
    for role, text in (
        (QPalette.ColorRole.Window, theme.paper), (QPalette.ColorRole.Base, theme.card),
        (QPalette.ColorRole.AlternateBase, theme.wood), (QPalette.ColorRole.Text, theme.ink),
        (QPalette.ColorRole.WindowText, theme.ink), (QPalette.ColorRole.Button, theme.wood),
        (QPalette.ColorRole.ButtonText, theme.ink), (QPalette.ColorRole.Highlight, theme.water_deep),
        (QPalette.ColorRole.HighlightedText, theme.ink), (QPalette.ColorRole.ToolTipBase, theme.card),
        (QPalette.ColorRole.ToolTipText, theme.ink), (QPalette.ColorRole.PlaceholderText, theme.soft),
    ):  # fmt: skip
        palette.setColor(role, QColor(text))
    if app.palette() != palette:
        app.setPalette(palette)
    if app.font() != font(10):
        app.setFont(font(10))
    end = time.perf_counter() + AT_ONCE_S
    while time.perf_counter() < end and _change(seen=True, small=True):
        pass
    in_a_turn(app, partial(_change_the_rest, app))


@lru_cache(maxsize=4)
def _sheet(t: Theme) -> str:
    return f"""
    QWidget {{ color: {t.ink}; }}
    #card, #slip {{ background: {t.card}; border: 1px solid {t.line}; border-radius: 3px; }}
    #header {{ background: {t.wood}; border-bottom: 1px solid {t.line}; }}
    QLabel#soft {{ color: {t.soft}; }}
    QLabel#wrong {{ color: {t.bad}; }}
    QLabel#title {{ font-weight: bold; }}
    QLineEdit, QComboBox, QSpinBox {{ background: {t.card}; border: 1px solid {t.line}; border-radius: 3px;
        padding: 3px 6px; min-height: 20px; }}
    QLineEdit {{ placeholder-text-color: {t.soft}; }}
    QLineEdit:focus, QComboBox:focus, QSpinBox:focus {{ border: 2px solid {t.water_ink}; padding: 2px 5px; }}
    QLineEdit[wrong="true"] {{ border: 2px solid {t.bad}; padding: 2px 5px; }}
    QComboBox::drop-down {{ border: none; width: 18px; }}
    QComboBox::down-arrow {{ image: url({_ARROW}); width: 10px; height: 10px; }}
    QComboBox QAbstractItemView {{ background: {t.card}; }}
    QPushButton, QToolButton {{ background: {t.paper}; border: 1px solid {t.line}; border-radius: 3px;
        padding: 4px 10px; min-height: 20px; }}
    QPushButton:checked {{ background: {t.wood}; border-color: {t.water_ink}; font-weight: bold; }}
    QPushButton:hover, QToolButton:hover {{ border-color: {t.water_ink}; }}
    QPushButton:focus, QToolButton:focus {{ border: 2px solid {t.water_ink}; padding: 3px 9px; }}
    QPushButton:disabled, QToolButton:disabled {{ color: {t.soft}; }}
    QToolButton::menu-indicator {{ image: none; }}
    QListWidget {{ background: transparent; border: none; outline: none; }}
    QListWidget::item {{ padding: 4px 6px; border-radius: 3px; }}
    QListWidget::item:selected {{ background: {t.wood}; color: {t.ink}; }}
    QListWidget:focus {{ border: 1px solid {t.water_ink}; }}
    QMenu {{ background: {t.card}; border: 1px solid {t.line}; padding: 4px; }}
    QMenu::item {{ padding: 6px 22px; }}
    QMenu::item:selected {{ background: {t.wood}; }}
    QMenu::item:disabled {{ color: {t.soft}; }}
    QToolTip {{ background: {t.card}; color: {t.ink}; border: 1px solid {t.line}; padding: 4px; }}
    QCheckBox {{ min-height: 24px; }}
    QCheckBox::indicator, QListView::indicator {{ width: 16px; height: 16px; border: 1px solid {t.soft}; border-radius: 3px;
        background: {t.card}; }}
    QCheckBox::indicator:checked, QListView::indicator:checked {{ background: {t.water_ink};
        image: url({_TICK}); }}
    QListView::indicator:indeterminate {{ background: {t.line}; }}
    QTableWidget {{ background: {t.card}; border: 1px solid {t.line}; gridline-color: {t.line}; }}
    QTableWidget::item:selected {{ background: {t.wood}; color: {t.ink}; }}
    QHeaderView::section {{ background: {t.wood}; border: none; padding: 5px 8px; }}
    QScrollBar:vertical {{ background: {t.card}; width: 10px; }}
    QScrollBar::handle:vertical {{ background: {t.line}; border-radius: 4px; min-height: 24px; }}
    QScrollBar:horizontal {{ background: {t.card}; height: 10px; }}
    QScrollBar::handle:horizontal {{ background: {t.line}; border-radius: 4px; min-width: 24px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; width: 0; }}
    QSlider::groove:horizontal {{ background: {t.wood}; height: 6px; border-radius: 3px; }}
    QSlider::handle:horizontal {{ background: {t.grab}; border: 2px solid {t.grab_edge}; width: 14px; margin: -6px 0;
        border-radius: 8px; }}
    QSlider:focus {{ border: 1px solid {t.water_ink}; border-radius: 3px; }}
    QProgressBar {{ background: {t.wood}; border: none; border-radius: 4px; }}
    QProgressBar::chunk {{ background: {t.water_deep}; border-radius: 4px; }}
    QScrollArea {{ border: none; background: transparent; }}
    QScrollArea > QWidget > QWidget {{ background: transparent; }}
    """

"""By keyboard alone, and read by anybody: Tab's order, names, and contrast as it is on the screen."""

from __future__ import annotations

import re
from collections.abc import Iterator

import numpy as np
import pytest
from numpy.typing import NDArray
from PySide6.QtCore import QPoint, QPointF, QRect, Qt
from PySide6.QtGui import QEnterEvent, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QHeaderView,
    QLabel,
    QLineEdit,
    QSlider,
    QWidget,
)
from pytestqt.qtbot import QtBot
from shiboken6 import isValid

from tests.app.conftest import OpenWindow, grabbed
from yellowbob.app.benches.registry import BENCHES
from yellowbob.app.frame.verdict_line import VerdictCell
from yellowbob.app.frame.window import Window
from yellowbob.app.widgets import theme
from yellowbob.app.widgets.theme import DAY, Look
from yellowbob.app.widgets.usual import TEXTS, USUAL

CONTROLS = (QAbstractButton, QLineEdit, QComboBox, QAbstractSpinBox, QAbstractItemView, QSlider)
READABLE = 4.5


def shown(window: Window) -> None:
    QApplication.processEvents()
    window.put_tabs_in_order()


def sights(window: Window) -> Iterator[str]:
    """Turn to every bench, page and side, one after the other."""
    for one in BENCHES:
        window.show_bench(one.title)
        paged = getattr(window.bench(one.title), "paged", None)
        for page in paged.keys if paged is not None else ("",):
            if paged is not None:
                paged.turn_to(page)
            shown(window)
            yield f"{one.title} {page}".strip()
    for name, show in (("New", window.show_new), ("Keys", window.show_keys), ("Handbook", window.show_handbook)):
        show()
        shown(window)
        yield name
    window.show_bench("Tank")


def in_these_colours() -> bool:
    """Whether every part wears those in force."""
    return all(worn is Look.now for part, (_, worn) in theme._worn.items() if isValid(part))


def controls(window: Window) -> set[QWidget]:
    """What can be worked with the mouse and is not a part of another control."""
    found = set()
    for one in window.findChildren(QWidget):
        inner = isinstance(one.parentWidget(), QComboBox | QAbstractSpinBox) or isinstance(one, QHeaderView)
        if isinstance(one, CONTROLS) and one.isVisible() and one.isEnabled() and not inner:
            found.add(one)
    return found


def words_of(one: QWidget) -> str:
    text = getattr(one, "text", None)
    return one.accessibleName() or (text() if text is not None else "")


def tabbed(window: Window) -> list[QWidget]:
    """Where Tab leads, from the benches' names once round."""
    window.header.tabs.setFocus()
    seen: list[QWidget] = []
    while (now := QApplication.focusWidget()) is not None and now not in seen:
        seen.append(now)
        QTest.keyClick(now, Qt.Key.Key_Tab)
    return seen


def test_tab_is_in_order_however_soon_it_is_pressed(window: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    window.show_bench("Fit-out")
    window.fitout.show_page("Shelf")
    window.fitout.shelf.search.setFocus()
    put = list[bool]()
    with monkeypatch.context() as patched:
        patched.setattr(Window, "put_tabs_in_order", lambda _: put.append(True))
        window.fitout.show_page("Budget")  # what has the keyboard goes out of sight: nobody pressed Tab
    assert not put and window.tabs_due.isActive()
    window.header.tabs.setFocus()
    QTest.keyClick(window.header.tabs, Qt.Key.Key_Tab)
    assert not window.tabs_due.isActive()
    seen = tabbed(window)
    assert not controls(window) - set(seen)
    bench = window.benches.currentWidget()
    parts = [0 if window.header.isAncestorOf(w) else 1 if bench.isAncestorOf(w) else 2 for w in seen]
    assert parts == sorted(parts)


@pytest.mark.parametrize("name", ["sallow-74", "bar-antenna-234"])
def test_tab_reaches_everything_in_the_order_of_the_work(open_window: OpenWindow, name: str) -> None:
    window = open_window(name)
    for sight in sights(window):
        seen = tabbed(window)
        if controls(window) - set(seen):  # a list that is come to may show fields of what stands first in it
            seen = tabbed(window)
        missed = controls(window) - set(seen)
        assert not missed, (sight, [words_of(w) for w in missed])
        assert all(words_of(w) for w in seen), (sight, [type(w).__name__ for w in seen if not words_of(w)])
        bench = window.benches.currentWidget()
        parts = [0 if window.header.isAncestorOf(w) else 1 if bench.isAncestorOf(w) else 2 for w in seen]
        assert parts == sorted(parts) and (2 in parts or sight == "New"), sight
        paged = getattr(bench, "paged", None)
        if paged is not None:
            keys = [seen.index(k) for k in paged.keys.values()]
            inside = [seen.index(w) for w in seen if paged.isAncestorOf(w) and w not in paged.keys.values()]
            assert keys == sorted(keys) and (not inside or max(keys) < min(inside)), sight


def test_a_page_that_is_made_is_no_window_of_its_own(window: Window) -> None:
    """A part shown before it has its place comes up as a window for a moment and takes the keyboard away."""
    for sight in sights(window):
        assert QApplication.activeWindow() is window, sight


# ---- contrast


def pixels(image: QImage) -> NDArray[np.float64]:
    """(h, w, 3) of 0 to 1."""
    flat = image.convertToFormat(QImage.Format.Format_RGB32)
    raw = np.frombuffer(flat.constBits(), np.uint8).reshape(flat.height(), flat.bytesPerLine() // 4, 4)
    return raw[:, : flat.width(), 2::-1].astype(float) / 255.0


def luminance(rgb: NDArray[np.float64]) -> NDArray[np.float64]:
    """WCAG 2 relative luminance."""
    line = np.where(rgb <= 0.04045, rgb / 12.92, ((rgb + 0.055) / 1.055) ** 2.4)
    return np.asarray(line @ np.array([0.2126, 0.7152, 0.0722]))


def contrast_of(part: NDArray[np.float64]) -> float:
    """Of the words in a part of a picture: its commonest colour against the one that stands out most from it."""
    packed = (part.reshape(-1, 3) * 255.0 + 0.5).astype(np.int64) @ np.array([65536, 256, 1])
    found, counts = np.unique(packed, return_counts=True)
    most = luminance(np.stack([found >> 16, (found >> 8) & 255, found & 255], axis=1) / 255.0)
    ground = float(most[counts.argmax()])
    return float(max((most.max() + 0.05) / (ground + 0.05), (ground + 0.05) / (most.min() + 0.05)))


def written(window: Window) -> Iterator[tuple[str, QRect]]:
    """Words on the screen and where they are, in the window's pixels."""
    for one in window.findChildren(QWidget):
        if not one.isVisible() or not one.isEnabled() or one.visibleRegion().isEmpty():
            continue
        at = one.visibleRegion().boundingRect().translated(one.mapTo(window, QPoint(0, 0)))
        if isinstance(one, QLabel) and one.text().strip():
            yield one.text(), at
        elif isinstance(one, QAbstractButton) and one.text().strip():
            yield one.text(), at.adjusted(4, 4, -4, -4)
        elif isinstance(one, QLineEdit) and (one.text() or one.placeholderText()):
            yield one.text() or one.placeholderText(), at.adjusted(4, 4, -4, -4)
        elif isinstance(one, QComboBox) and one.currentText():
            yield one.currentText(), at.adjusted(4, 4, -24, -4)
        elif isinstance(one, VerdictCell):
            yield one.verdict.title, QRect(at.left(), at.top(), at.width(), at.height() // 2)
            yield one.verdict.figure, QRect(at.left(), at.top() + at.height() // 2, at.width(), at.height() // 2)
    if window.slip.isVisible():
        start = window.slip.mapTo(window, QPoint(0, 0))
        for key, place in window.slip._places.items():
            yield f"slip: {key}", place.toAlignedRect().translated(start)


@pytest.mark.parametrize("evening", [False, True], ids=["day", "evening"])
def test_every_word_stands_out_from_its_ground(qtbot: QtBot, window: Window, evening: bool) -> None:
    window.resize(1366, 768)
    if evening:
        window.turn_colours()
        qtbot.waitUntil(in_these_colours, timeout=60_000)
    try:
        weak, count = [], 0
        for sight in sights(window):
            picture = pixels(grabbed(window))
            for words, at in written(window):
                part = picture[max(at.top(), 0) : at.bottom(), max(at.left(), 0) : at.right()]
                if part.size < 60:
                    continue
                count += 1
                found = contrast_of(part)
                if found < READABLE:
                    weak.append((sight, words[:40], round(found, 2)))
        assert count > 900 and not weak, weak[:12]
    finally:
        if Look.now is not DAY:
            window.turn_colours()


def test_a_weak_word_would_be_found() -> None:
    image = QImage(60, 20, QImage.Format.Format_RGB32)
    image.fill(0xFFFFFF)
    for x in range(20, 30):
        image.setPixel(x, 10, 0x767676)
    assert contrast_of(pixels(image)) == pytest.approx(4.54, abs=0.01)  # WCAG's own example of what just suffices
    for x in range(20, 30):
        image.setPixel(x, 10, 0x808080)
    assert contrast_of(pixels(image)) < READABLE


# ---- what a field says on hover


def hovered(field: QLineEdit) -> str:
    """The tip after the pointer has come over it."""
    at = QPointF(3, 3)
    QApplication.sendEvent(field, QEnterEvent(at, at, at))
    return field.toolTip()


@pytest.mark.parametrize("name", ["print-wake-92", "bar-antenna-234", "mill-tail-88"])
def test_every_field_says_what_it_is_and_what_is_usual(open_window: OpenWindow, name: str) -> None:
    window = open_window(name)
    dumb = set()
    for sight in sights(window):
        for field in window.benches.currentWidget().findChildren(QLineEdit):
            called = field.accessibleName()
            if called and not isinstance(field.parentWidget(), QComboBox):
                said = hovered(field)
                dumb |= {(sight, called)} if len(said) <= len(called) and "such as" not in called else set()
    for field in window.brief.findChildren(QLineEdit):
        assert len(hovered(field)) > len(field.accessibleName()), field.accessibleName()
    assert not dumb


def test_usual_figures_are_in_the_maker_s_units(window: Window) -> None:
    window.show_bench("Fit-out")
    field = next(f for f in window.fitout.findChildren(QLineEdit) if f.accessibleName() == "Length of the slug")
    assert hovered(field) == "Length of the slug. Usual: 5 mm to 15 mm."
    window.use_units("inches and ounces")
    assert hovered(field) == "Length of the slug. Usual: 0.197 in to 0.591 in."
    window.use_units("mm and g")
    assert hovered(field) == "Length of the slug. Usual: 5 mm to 15 mm."


def test_what_is_usual_can_be_read() -> None:
    for name, words in {**USUAL, **TEXTS}.items():
        assert words and not words.endswith(".") and re.sub(r"\[-?[\d.]+ (mm|g)\]", "", words).count("[") == 0, name


@pytest.mark.parametrize("name", ["sallow-74", "bar-antenna-234"])
def test_every_page_fits_a_small_window_and_a_large_one(open_window: OpenWindow, name: str) -> None:
    window = open_window(name)
    for wide, high in ((1024, 700), (2560, 1440)):
        window.resize(wide, high)
        for sight in sights(window):
            assert (window.width(), window.height()) == (wide, high), sight
            bench = window.benches.currentWidget()
            view = getattr(bench, "view", None)
            if wide > 2000 and view is not None and view.isVisible():  # the room goes to the drawing and the page
                paged = getattr(bench, "paged", None)
                used = view.height() + (paged.height() if paged is not None else 0)
                assert sight == "New" or paged is None or used > 0.9 * bench.height(), sight

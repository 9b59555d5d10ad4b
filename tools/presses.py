"""How long the window's event loop stands still while every button is pressed and every field and list given another value.

Usage: presses.py [DEMO …] (the popper, the hollow print and a float where none is named). What asks for a file gets one of
the demo's, or one in a scratch folder. Each change is undone before the next. `make bench` takes its figures into
build/bench.json.
"""

from __future__ import annotations

import json
import os
import re
import sys
import tempfile
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtPrintSupport import QPrintDialog
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QComboBox, QFileDialog, QLineEdit, QWidget
from stalls import Heart, opened, summed

from yellowbob.app.session.settings import Settings
from yellowbob.app.start.desk import dressed

DEMOS = ("sallow-74", "print-wake-92", "reed-waggler-217")
MOST_S = 4.0
"""What is still worked out after a press is not waited for any longer."""
UNDONE = 5
Pressed = QLineEdit | QComboBox | QAbstractButton


def another(text: str) -> str:
    """What is typed in the place of a text: another figure, where there is one."""
    found = re.search(r"\d+(\.\d+)?", text)
    if found is None:
        return (text or "x") + "1"
    figure = found.group()
    more = f"{1.03 * float(figure):.2f}" if "." in figure else str(int(figure) + 1)
    return text[: found.start()] + more + text[found.end() :]


def press(one: Pressed) -> None:
    """Press it, or give it another value."""
    if isinstance(one, QLineEdit):
        words = another(one.text())
        one.setFocus()
        one.setText(words)
        one.setModified(True)
        one.textEdited.emit(words)
        QTest.keyClick(one, Qt.Key.Key_Return)
    elif isinstance(one, QComboBox):
        one.setCurrentIndex((one.currentIndex() + 1) % max(1, one.count()))
        one.activated.emit(one.currentIndex())
    elif (menu := getattr(one, "menu", lambda: None)()) is not None:
        menu.aboutToShow.emit()
    else:
        one.click()


def name_of(one: Pressed) -> str:
    return one.accessibleName() or (one.text() if isinstance(one, QAbstractButton) else type(one).__name__)


def on(place: str, ground: QWidget, seen: set[tuple[str, str]]) -> Iterator[tuple[str, Pressed]]:
    """What can be pressed on a page and was not yet, one after the other: some come when others are pressed."""
    while True:
        for one in ground.findChildren(QWidget):
            if not isinstance(one, QLineEdit | QComboBox | QAbstractButton) or not (
                one.isVisible() and one.isEnabled()
            ):
                continue
            key = (place, name_of(one))
            if key not in seen:
                seen.add(key)
                yield f"{place}: {key[1]}", one
                break
        else:
            return


def all_pressed(window: Any, heart: Heart, settled: Callable[[], bool]) -> None:
    """Everything on every page of every bench, then every action."""
    from yellowbob.app.benches.registry import BENCHES

    session, seen = window.session, set[tuple[str, str]]()
    for bench in BENCHES:
        window.show_bench(bench.title)
        paged = getattr(window.bench(bench.title), "paged", None)
        for page in list(paged.keys) if paged is not None else [""]:
            if paged is not None:
                heart.through(f"{bench.title}: {page}", lambda d=paged, p=page: d.turn_to(p), settled, MOST_S)
            place = f"{bench.title}/{page}"
            for what, one in on(place, window.bench(bench.title), seen):
                before = session.design
                heart.through(what, lambda one=one: press(one), settled, MOST_S)
                for _ in range(UNDONE):
                    if session.design is not before and session.design != before and session.undo.canUndo():
                        heart.through(f"{what}, undone", session.undo.undo, settled, MOST_S)
                heart.through(f"{place}, gone back to", partial(window.show_bench, bench.title), settled, MOST_S)
                if paged is not None:
                    heart.through(f"{place}, turned back to", partial(paged.turn_to, page), settled, MOST_S)
    for name, action in window.actions_by_name.items():
        if name != "close":
            heart.through(f"action {name}", action.trigger, settled, 2.0 * MOST_S)


def files_given(scratch: Path) -> None:
    """Whoever asks for a file gets one: to write in the scratch folder, to read one of the demo's."""
    from yellowbob.app.session.demo_designs import DEMO_PICTURE, demo_files

    asked: list[str] = []

    def to_write(_: object, __: str, start: str = "", ___: str = "") -> tuple[str, str]:
        asked.append(start)
        return str(scratch / f"{len(asked)}{Path(start).suffix or '.out'}"), ""

    def to_read(_: object, __: str, ___: str = "", kinds: str = "") -> tuple[str, str]:
        here = str(demo_files()[1]) if "ybob" in kinds else str(DEMO_PICTURE) if "jpg" in kinds else ""
        return here, ""

    QFileDialog.getSaveFileName = staticmethod(to_write)  # type: ignore[assignment]
    QFileDialog.getOpenFileName = staticmethod(to_read)  # type: ignore[assignment]
    QPrintDialog.exec = lambda *_: 0  # type: ignore[method-assign,assignment]


def measured(names: list[str]) -> dict[str, Any]:
    """For each demo named."""
    from yellowbob.app.session.demo_designs import demo_files

    found: dict[str, Any] = {}
    with tempfile.TemporaryDirectory() as folder:
        scratch = Path(folder)
        os.environ["YELLOW_BOB_WORKSHOP"] = str(scratch / "workshop.sqlite")
        settings = Settings(scratch)
        dressed(settings)
        files_given(scratch)
        heart = Heart()
        for file in [f for f in demo_files() if f.stem in names]:
            window, settled = opened(file, scratch, heart, settings)
            heart.gaps = {}
            all_pressed(window, heart, settled)
            heart.doing = "end"
            window.crashes.end()
            window.close()
            found[file.stem] = summed({what: gap for what, gap in heart.gaps.items() if what not in ("", "end")})
    return found


if __name__ == "__main__":
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    print(json.dumps(measured(sys.argv[1:] or list(DEMOS)), indent=2))

"""Everything that can be done from the keyboard or a menu, declared once: menus, key list and tests are made from this."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from yellowbob.app.benches.registry import BENCHES

Window = Any
"""The window that an action is done in: this table names its methods, and a test calls every one."""


@dataclass(frozen=True)
class Action:
    """One thing that can be done: a stable name, its words, its keys, the menu it stands in (empty: none), what it does."""

    name: str
    words: str
    keys: tuple[str, ...]
    menu: str
    done: Callable[[Window], object]


def _to_bench(title: str) -> Callable[[Window], object]:
    return lambda window: window.show_bench(title)


def _to_page(title: str) -> Callable[[Window], object]:
    return lambda window: window.show_tank_page(title)


TANK_PAGES = ("Pieces", "Landings", "Pose it", "Variants", "Odds", "Checks", "Cocking", "Load")

ACTIONS: tuple[Action, ...] = (
    Action("new", "New design", ("Ctrl+N",), "Design", lambda w: w.show_new()),
    Action("open", "Open a design", ("Ctrl+O",), "Design", lambda w: w.ask_open()),
    Action("save", "Save", ("Ctrl+S",), "Design files", lambda w: w.save()),
    Action("save as", "Save as", ("Ctrl+Shift+S",), "Design files", lambda w: w.ask_save()),
    Action("sheet", "Sheet at true scale", ("Ctrl+P",), "Design files", lambda w: w.ask_sheet()),
    Action("undo", "Undo", ("Ctrl+Z",), "Undo", lambda w: w.session.undo.undo()),
    Action("redo", "Redo", ("Ctrl+Shift+Z", "Ctrl+Y"), "Undo", lambda w: w.session.undo.redo()),
    *(Action(f"bench {b.title}", f"{b.title} bench", (b.key,), "", _to_bench(b.title)) for b in BENCHES),
    *(
        Action(f"page {title}", f"Tank: {title}", (f"Alt+{number}",), "", _to_page(title))
        for number, title in enumerate(TANK_PAGES, start=1)
    ),
    Action("pose", "Pose the lure", ("P",), "", _to_page("Pose it")),
    Action("throw", "Throw it in", ("T",), "", lambda w: w.throw()),
    Action("brief", "Turn over the brief", ("B",), "View", lambda w: w.turn_brief()),
    Action("next", "Next piece", ("Ctrl+.",), "", lambda w: w.session.pick_next(1)),
    Action("previous", "Previous piece", ("Ctrl+,",), "", lambda w: w.session.pick_next(-1)),
    Action("remove", "Remove the piece", ("Del",), "", lambda w: w.remove_selected()),
    Action("stop", "Stop what is being worked out", ("Shift+Esc",), "", lambda w: w.session.stop_work()),
    Action("steps", "Next step, told or not", ("Ctrl+T",), "View", lambda w: w.turn_steps()),
    Action("handbook", "Handbook", ("Ctrl+H",), "View", lambda w: w.show_handbook()),
    Action("colours", "Day or evening colours", ("Ctrl+E",), "View", lambda w: w.turn_colours()),
    Action("units", "Change units", ("Ctrl+U",), "View", lambda w: w.next_units()),
    Action("crash", "Crash report, copied", ("Ctrl+Shift+R",), "View", lambda w: w.copy_crash()),
    Action("keys", "Keys", ("?", "F1"), "View", lambda w: w.show_keys()),
    Action("close", "Close", ("Ctrl+Q",), "Design end", lambda w: w.close()),
)

FIELD_KEYS: tuple[tuple[str, str], ...] = (
    ("arrows", "Nudge the piece 0.1 mm"), ("Shift+arrows", "Nudge it 1 mm"), (", and .", "Select a piece"),
    ("F2", "Take a reading"), ("Tab", "Next field"), ("Esc", "Put a field back"),
)  # fmt: skip
"""Keys that the drawing and the fields take themselves."""


def key_rows() -> list[tuple[str, str]]:
    """(keys, words) of everything, for the list of keys."""
    return [(one.keys[0], one.words) for one in ACTIONS] + list(FIELD_KEYS)


def in_menu(menu: str) -> list[str]:
    """Names of the actions that stand in a menu, in order."""
    return [one.name for one in ACTIONS if one.menu == menu]

"""The window: header, benches, weigh slip, verdict line; and the commands that belong to no bench."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QCloseEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from yellowbob.app.benches.tank.bench import TankBench
from yellowbob.app.frame.brief_card import BriefCard
from yellowbob.app.frame.header import Header
from yellowbob.app.frame.menus import fill_design_menu, fill_undo_menu, fill_view_menu
from yellowbob.app.frame.slip_panel import SlipPanel
from yellowbob.app.frame.verdict_line import VerdictLine
from yellowbob.app.session.instruments import use_kept_ports
from yellowbob.app.session.session import Session
from yellowbob.app.session.settings import Settings
from yellowbob.app.widgets.cards import drop
from yellowbob.app.widgets.fields import Units
from yellowbob.app.widgets.theme import DAY, EVENING, Look, apply_theme
from yellowbob.design.edits import Grip
from yellowbob.design.files import SUFFIX, read_design
from yellowbob.ground.errors import YellowBobError

if TYPE_CHECKING:
    from yellowbob.app.benches.fitout.bench import FitoutBench
    from yellowbob.app.benches.lines.bench import LinesBench

UNIT_SETS = {"mm and g": ("mm", "g"), "inches and ounces": ("in", "oz"), "mm and grains": ("mm", "gr")}


def settle_layout(widget: QWidget) -> None:
    """Have a widget's layout take note at once of what was hidden in it, before something else claims the room."""
    layout = widget.layout()
    if layout is not None:
        layout.invalidate()
        layout.activate()
    widget.updateGeometry()


class Window(QMainWindow):
    """One design open."""

    def __init__(self, session: Session, settings: Settings) -> None:
        super().__init__()
        self.session, self.settings = session, settings
        use_kept_ports(settings)
        self.setWindowTitle("Yellow Bob")
        self.resize(1280, 800)
        self.actions_by_name: dict[str, QAction] = {}
        self.header = Header(session, [("Lines", "1"), ("Fit-out", "2"), ("Tank", "3")])
        self.slip = SlipPanel(session)
        self.verdict = VerdictLine(session)
        self.tank = TankBench(session)
        self.brief = BriefCard(session)
        self.benches = QStackedWidget()
        self._lines: LinesBench | None = None
        self._fitout: FitoutBench | None = None
        self.benches.addWidget(self.tank)
        self.header.tabs.show_bench("Tank")
        self.brief.hide()
        self.message = QLabel()
        self.message.setWordWrap(True)
        self.message.setContentsMargins(16, 6, 16, 6)
        self.message.setAccessibleName("Message")
        self.message.hide()
        self._lay_out()
        self._make_actions()
        self._fill_header()
        session.said.connect(self.say)
        self.verdict.wanted.connect(self.open_check)
        session.renamed.connect(self._retitle)
        session.settle()
        if session.design.ballast:
            session.pick(Grip("ballast", 0))
        self._retitle()
        self.tank.view.setFocus()

    @property
    def lines(self) -> LinesBench:
        """The Lines bench, built when it is first asked for, so that the window is there sooner."""
        if self._lines is None:
            from yellowbob.app.benches.lines.bench import LinesBench

            self._lines = LinesBench(self.session)
            self.benches.addWidget(self._lines)
        return self._lines

    @property
    def fitout(self) -> FitoutBench:
        """The Fit-out bench, built when it is first asked for."""
        if self._fitout is None:
            from yellowbob.app.benches.fitout.bench import FitoutBench

            self._fitout = FitoutBench(self.session)
            self.benches.addWidget(self._fitout)
        return self._fitout

    def _lay_out(self) -> None:
        ground = QWidget()
        ground.setObjectName("bench")
        column = QVBoxLayout(ground)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.header)
        column.addWidget(self.message)
        middle = QHBoxLayout()
        middle.setContentsMargins(16, 12, 16, 12)
        middle.setSpacing(14)
        left = QVBoxLayout()
        left.setSpacing(10)
        left.addWidget(self.benches, 1)
        left.addWidget(self.brief)
        middle.addLayout(left, 1)
        middle.addWidget(self.slip)
        column.addLayout(middle, 1)
        column.addWidget(self.verdict)
        self.setCentralWidget(ground)

    # ---- commands

    def _action(self, words: str, keys: list[str], done: Callable[[], object]) -> QAction:
        action = QAction(words, self)
        action.setShortcuts([QKeySequence(k) for k in keys])
        action.triggered.connect(lambda: done())
        self.addAction(action)
        self.actions_by_name[words] = action
        return action

    def _make_actions(self) -> None:
        self._action("Open a design", ["Ctrl+O"], self.ask_open)
        self._action("Save", ["Ctrl+S"], self.save)
        self._action("Save as", ["Ctrl+Shift+S"], self.ask_save)
        self._action("Sheet at true scale", ["Ctrl+P"], self.ask_sheet)
        self._action("Undo", ["Ctrl+Z"], self.session.undo.undo)
        self._action("Redo", ["Ctrl+Shift+Z", "Ctrl+Y"], self.session.undo.redo)
        self._action("Lines bench", ["1"], lambda: self.show_bench("Lines"))
        self._action("Fit-out bench", ["2"], lambda: self.show_bench("Fit-out"))
        self._action("Tank bench", ["3"], lambda: self.show_bench("Tank"))
        for number, name in enumerate(self.tank.paged.keys, start=1):
            self._action(f"Tank: {name}", [f"Alt+{number}"], partial(self.show_tank_page, name))
        self._action("Pose the lure", ["P"], lambda: self.show_tank_page("Pose it"))
        self._action("Throw it in", ["T"], self.throw)
        self._action("Turn over the brief", ["B"], self.turn_brief)
        self._action("Next piece", ["Ctrl+."], lambda: self.session.pick_next(1))
        self._action("Previous piece", ["Ctrl+,"], lambda: self.session.pick_next(-1))
        self._action("Remove the piece", ["Del"], self._remove_selected)
        self._action("Day or evening colours", ["Ctrl+E"], self.turn_colours)
        self._action("Change units", ["Ctrl+U"], self.next_units)
        self._action("Keys", ["?", "F1"], self.show_keys)
        self._action("Close", ["Ctrl+Q"], self.close)

    def _fill_header(self) -> None:
        line = self.header.buttons
        line.addWidget(drop("Design", partial(fill_design_menu, self), "Design menu"))
        line.addWidget(drop("Undo", partial(fill_undo_menu, self), "Undo menu"))
        line.addWidget(drop("View", partial(fill_view_menu, self), "View menu"))
        self.header.tabs.chosen.connect(self.show_bench)

    # ---- what they do

    def attempt(self, work: Callable[[], object]) -> bool:
        """Do something that may refuse; what it says is shown in place."""
        try:
            work()
        except YellowBobError as error:
            self.say(str(error), wrong=True)
            return False
        return True

    def say(self, words: str, wrong: bool = False) -> None:
        """A line under the header; empty hides it."""
        now = Look.now
        self.message.setText(f"! {words}" if wrong and words else words)
        self.message.setStyleSheet(f"background: {now.card}; color: {now.bad if wrong else now.ink};")
        self.message.setVisible(bool(words))

    def open(self, path: Path) -> bool:
        """Open a file; a refused one leaves everything as it is."""
        if not self.attempt(lambda: self.session.open(path)):
            return False
        self.settings.remember(path)
        self.say("")
        return True

    def open_demo(self, file: Path) -> None:
        """A copy of a demo design, not bound to a file."""
        self.session.keep_now()
        self.session.replace(read_design(file), None, clean=False)

    def save(self) -> bool:
        if self.session.path is None:
            return self.ask_save()
        done = self.attempt(self.session.save)
        if done:
            self.settings.remember(self.session.path)
            self.say("")
        return done

    def save_as(self, path: Path) -> bool:
        if path.suffix != SUFFIX:
            path = path.with_name(path.name + SUFFIX)
        done = self.attempt(lambda: self.session.save(path))
        if done:
            self.settings.remember(path)
            self.say("")
        return done

    def ask_open(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Open a design", "", f"Designs (*{SUFFIX})")
        if name:
            self.open(Path(name))

    def ask_save(self) -> bool:
        start = self.session.path or Path.home() / f"{self.session.design.name}{SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(self, "Save the design", str(start), f"Designs (*{SUFFIX})")
        return bool(name) and self.save_as(Path(name))

    def ask_sheet(self) -> None:
        name, _ = QFileDialog.getSaveFileName(self, "Write the sheet", f"{self.session.design.name}.pdf", "PDF (*.pdf)")
        if name:
            self.write_sheet(Path(name))

    def write_sheet(self, path: Path) -> None:
        from yellowbob.shop.sheet import write_sheet

        if self.attempt(lambda: write_sheet(self.session.study, path)):
            self.say(f"Wrote {path.name}. Print it at 100 %, and check the 100 mm rule.")

    def show_bench(self, name: str) -> None:
        bench: LinesBench | FitoutBench | TankBench = (
            self.lines if name == "Lines" else self.fitout if name == "Fit-out" else self.tank
        )
        self.benches.setCurrentWidget(bench)
        self.header.tabs.show_bench(name)
        bench.cards.setVisible(not self.brief.isVisible())
        bench.view.setFocus()

    def show_tank_page(self, name: str) -> None:
        """The Tank bench, turned to one of its pages."""
        self.show_bench("Tank")
        self.tank.paged.turn_to(name)

    def throw(self) -> None:
        """Throw the lure in, at random."""
        self.show_tank_page("Landings")
        self.tank.landing.once.click()

    def open_check(self, key: str) -> None:
        self.show_bench("Tank")
        self.tank.open_check(key)

    def _remove_selected(self) -> None:
        if self._lines is not None and self.benches.currentWidget() is self._lines:
            self._lines.view.remove_point()
        else:
            self.tank.piece.remove.click()

    def turn_brief(self) -> None:
        """Show the brief in place of the bench's cards, or turn it back. What goes makes room for what comes."""
        brief = not self.brief.isVisible()
        if not brief:
            self.brief.hide()
        for bench in (self._lines, self._fitout, self.tank):
            if bench is not None:
                bench.cards.setVisible(not brief)
                settle_layout(bench)
        settle_layout(self.benches)
        if brief:
            self.brief.show()

    def turn_colours(self) -> None:
        theme = EVENING if Look.now is DAY else DAY
        app = QApplication.instance()
        if isinstance(app, QApplication):
            apply_theme(app, theme)
        self.verdict.dress()
        self.settings.put("theme", "evening" if theme is EVENING else "day")
        self.update()

    def next_units(self) -> None:
        names = list(UNIT_SETS)
        now = (Units.chosen["length"], Units.chosen["mass"])
        at = next((i for i, name in enumerate(names) if UNIT_SETS[name] == now), -1)
        self.use_units(names[(at + 1) % len(names)])

    def use_units(self, name: str) -> None:
        """Read everything in another set of units."""
        Units.chosen["length"], Units.chosen["mass"] = UNIT_SETS[name]
        self.settings.put("units", name)
        self.session.changed.emit()
        self.session.settle()
        self.say(f"Reading in {name}.")

    def show_keys(self) -> None:
        """List every key, in place."""
        if self.message.isVisible() and self.message.text().startswith("<table"):
            self.say("")
            return
        rows = [(a.shortcuts()[0].toString(), a.text()) for a in self.actions_by_name.values()]
        rows += [("arrows", "Nudge the piece 0.1 mm"), ("Shift+arrows", "Nudge it 1 mm"), (", and .", "Select a piece"),
                 ("F2", "Take a reading"), ("Tab", "Next field"), ("Esc", "Put a field back")]  # fmt: skip
        cells = [f"<td><b>{keys}</b>&nbsp;&nbsp;</td><td>{words}&nbsp;&nbsp;&nbsp;&nbsp;</td>" for keys, words in rows]
        lines = ["<tr>" + "".join(cells[i : i + 4]) + "</tr>" for i in range(0, len(cells), 4)]
        self.message.setTextFormat(Qt.TextFormat.AutoText)
        self.say("<table>" + "".join(lines) + "</table>")

    def _retitle(self) -> None:
        mark = "" if self.session.saved else " *"
        self.setWindowTitle(f"{self.session.design.name}{mark} — Yellow Bob")

    def closeEvent(self, event: QCloseEvent) -> None:
        """Nothing is asked: what is not in a file is kept and comes back at the next start."""
        self.session.keep_now()
        self.session.tasks.finish()
        event.accept()

"""The window: header, benches, weigh slip, verdict line; and the commands that belong to no bench."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from pathlib import Path
from typing import cast

from PySide6.QtGui import QAction, QCloseEvent, QKeySequence, QResizeEvent
from PySide6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from yellowbob.app.benches.registry import BENCHES, NEW, Bench
from yellowbob.app.frame.actions import ACTIONS, Action
from yellowbob.app.frame.brief_card import BriefCard
from yellowbob.app.frame.header import Header
from yellowbob.app.frame.looks import HasLooks
from yellowbob.app.frame.menus import fill_design_menu, fill_undo_menu, fill_view_menu
from yellowbob.app.frame.sides import HasSides
from yellowbob.app.frame.slip_panel import SlipPanel
from yellowbob.app.frame.verdict_line import VerdictLine
from yellowbob.app.session.crashes import Crashes
from yellowbob.app.session.instruments import use_kept_ports
from yellowbob.app.session.session import Session
from yellowbob.app.session.settings import Settings
from yellowbob.app.widgets.buttons import drop
from yellowbob.app.widgets.theme import wear
from yellowbob.app.widgets.turns import hold, let_paint
from yellowbob.design.edits import Grip
from yellowbob.design.files import SUFFIX
from yellowbob.design.outline_edits import arcs_kept
from yellowbob.shelf.filling import opened

SMALL_PX = 1200
"""A window narrower than this is small."""


def settle_layout(widget: QWidget) -> None:
    """Have a widget's layout take note at once of what was hidden in it, before something else claims the room."""
    layout = widget.layout()
    if layout is not None:
        layout.invalidate()
        layout.activate()
    widget.updateGeometry()


class Window(HasSides, HasLooks):
    """One design open."""

    def __init__(self, session: Session, settings: Settings, at_once: bool = True) -> None:
        """On a session. Where not `at_once`, the caller makes it with `make_more`, a turn of the event loop each."""
        super().__init__()
        self.session, self.settings = session, settings
        self.crashes = Crashes()
        self._turns = self._made_in_turns()
        while at_once and self.make_more():
            pass

    def make_more(self) -> bool:
        """One turn of making it; False when it is whole."""
        return next(self._turns, False)

    def _made_in_turns(self) -> Iterator[bool]:
        session, settings = self.session, self.settings
        use_kept_ports(settings)
        session.timers.keep_in(settings)
        self.setWindowTitle("Yellow Bob")
        self.resize(1280, 800)
        self.actions_by_name: dict[str, QAction] = {}
        self.header = Header(session, [(b.title, b.key) for b in BENCHES])
        yield True
        self.slip = SlipPanel(session)
        self.verdict = VerdictLine(session)
        yield True
        self.brief = BriefCard(session)
        yield True
        self.benches, self.built = QStackedWidget(), {}
        self.header.tabs.show_bench("Tank")
        self.brief.hide()
        self._make_message()
        self.slip.steps = settings.text("steps", "on") == "on"
        self._lay_out()
        for part in (self.header, self.slip, self.brief):
            wear(part)
        yield True
        self.bench("Tank")
        yield True
        self.tank.paged.page("Pieces")
        yield True
        self._make_actions()
        self._fill_header()
        session.said.connect(self.say)
        self.verdict.wanted.connect(self.open_check)
        session.renamed.connect(self._retitle)
        yield True
        session.settle()
        if session.design.ballast:
            session.pick(Grip("ballast", 0))
        self._retitle()
        self.tank.view.setFocus()

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

    def _make_actions(self) -> None:
        for one in ACTIONS:
            action = QAction(one.words, self)
            action.setShortcuts([QKeySequence(k) for k in one.keys])
            action.triggered.connect(partial(self._do, one))
            self.addAction(action)
            self.actions_by_name[one.name] = action

    def _do(self, one: Action, _: bool = False) -> None:
        one.done(self)

    def _fill_header(self) -> None:
        line = self.header.buttons
        line.addWidget(drop("Design", partial(fill_design_menu, self), "Design menu"))
        line.addWidget(drop("Undo", partial(fill_undo_menu, self), "Undo menu"))
        line.addWidget(drop("View", partial(fill_view_menu, self), "View menu"))
        self.header.tabs.chosen.connect(self.show_bench)

    # ---- what they do

    def open(self, path: Path) -> None:
        """Open a file; a refused one leaves everything as it is."""

        def taken() -> None:
            self.settings.remember(path)
            self.say(arcs_kept(self.session.design))

        self.session.begin(lambda: opened(path), path, taken=taken, words=f"opening {path.name}")

    def open_demo(self, file: Path) -> None:
        """A copy of a demo design, not bound to a file."""
        self.session.begin(lambda: opened(file), clean=False, begun=False)

    def open_copy(self, file: Path) -> None:
        """A copy of a design that was left without a file; it has none yet."""
        self.session.begin(lambda: opened(file), clean=False)

    def save(self) -> None:
        """To its file, or to one that is asked for."""
        if self.session.path is None:
            self.ask_save()
        else:
            self.save_as(self.session.path)

    def save_as(self, path: Path) -> None:
        """To a file, which is remembered."""
        if path.suffix != SUFFIX:
            path = path.with_name(path.name + SUFFIX)

        def saved() -> None:
            self.settings.remember(path)
            self.say("")

        self.session.save(path, saved)

    def ask_open(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Open a design", "", f"Designs (*{SUFFIX})")
        if name:
            self.open(Path(name))

    def ask_save(self) -> None:
        start = self.session.path or Path.home() / f"{self.session.design.name}{SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(self, "Save the design", str(start), f"Designs (*{SUFFIX})")
        if name:
            self.save_as(Path(name))

    def ask_sheet(self) -> None:
        name, _ = QFileDialog.getSaveFileName(self, "Write the sheet", f"{self.session.design.name}.pdf", "PDF (*.pdf)")
        if name:
            self.write_sheet(Path(name))

    def write_sheet(self, path: Path) -> None:
        from yellowbob.shop.sheet import write_sheet

        told = f"Wrote {path.name}. Print it at 100 %, and check the 100 mm rule."
        self.session.write(path, lambda study: write_sheet(study, path), lambda _: self.say(told))

    def show_bench(self, name: str) -> None:
        widget = self.bench(name)
        parts = hold([self.benches])  # what was there before is seen until the new bench is ready to be painted
        self.benches.setCurrentWidget(widget)
        parts += hold(self.bench_parts())
        self.header.tabs.show_bench(name)
        bench = cast(Bench, widget)
        bench.cards.setVisible(not self.brief.isVisible())
        # slip and verdicts are those of the open design: where something new is asked for, they are of no use
        for one in (self.slip, self.verdict):
            one.setVisible(name != NEW.title)
        bench.view.setFocus()
        let_paint(self, parts)
        self.order_tabs()

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

    def remove_selected(self) -> None:
        cast(Bench, self.benches.currentWidget()).remove_selected()

    def turn_brief(self) -> None:
        """Show the brief in place of the bench's cards, or turn it back. What goes makes room for what comes."""
        brief = not self.brief.isVisible()
        if not brief:
            self.brief.hide()
        for bench in self.built.values():
            cast(Bench, bench).cards.setVisible(not brief)
            settle_layout(bench)
        settle_layout(self.benches)
        if brief:
            self.brief.show()

    def _retitle(self) -> None:
        mark = "" if self.session.saved else " *"
        self.setWindowTitle(f"{self.session.design.name}{mark} — Yellow Bob")

    def resizeEvent(self, event: QResizeEvent) -> None:
        """A small window leaves more to the bench."""
        super().resizeEvent(event)
        self.slip.make_narrow(self.width() < SMALL_PX)

    def closeEvent(self, event: QCloseEvent) -> None:
        """Nothing is asked: what is not in a file is kept and comes back at the next start."""
        self.session.end()
        if not self.isMaximized():
            self.settings.put("size", f"{self.width()}x{self.height()}")
        event.accept()

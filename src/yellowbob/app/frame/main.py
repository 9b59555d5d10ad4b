"""Making the window: what to open, its first figures, and the window on it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import partial
from importlib import import_module
from pathlib import Path
from threading import Thread

from PySide6.QtCore import QRect
from PySide6.QtWidgets import QApplication

from yellowbob.app.frame.looks import UNIT_SETS
from yellowbob.app.frame.window import Window
from yellowbob.app.session.demo_designs import demo_files
from yellowbob.app.session.recovery import Recovery
from yellowbob.app.session.session import Session
from yellowbob.app.session.settings import Settings
from yellowbob.app.session.sight import ready_to_draw
from yellowbob.app.session.warm import drawn_beforehand, load_compiled
from yellowbob.app.start.desk import dressed
from yellowbob.app.widgets.measures import Units
from yellowbob.checks.next_step import next_step
from yellowbob.design.model import Design
from yellowbob.ground.compiled import cache_folder
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.shelf.filling import opened
from yellowbob.study import Study, of
from yellowbob.workshop.backups import back_up

ONCE = (
    "This machine's own code for the sums is being made. It is kept: only the first start takes so long, "
    "about half a minute."
)
"""Said where the compiler's cache is empty."""


@dataclass(frozen=True)
class First:
    """What a window starts with: a design, its file, whether that holds it, and whether it is nobody's own yet."""

    design: Design
    path: Path | None
    saved: bool
    nothing: bool = False


def application(settings: Settings) -> QApplication:
    """The Qt application, dressed, reading in the units it was left in."""
    app = dressed(settings)
    use_units(settings)
    return app


def use_units(settings: Settings) -> None:
    """Read in the units that were last chosen."""
    length, mass = UNIT_SETS.get(settings.text("units", ""), ("mm", "g"))
    Units.chosen.update(length=length, mass=mass)


def first_design(file: Path | None, recovery: Recovery, settings: Settings) -> First:
    """The design to start with: the one named, else what was kept, else the last file, else a demo that is nobody's own.

    What was kept of the named file and never saved comes back with it. Raises BadInput for a bad file.
    """
    kept = recovery.last()
    if file is not None:
        if kept is not None and not kept.saved and kept.path == file.absolute():
            return First(kept.design, file, saved=False)
        return First(opened(file), file, saved=True)
    if kept is not None:
        there = None if kept.path is None else settings.whereabouts(kept.path)
        if kept.saved and there is not None:
            try:
                return First(opened(there), there, saved=True)
            except BadInput:
                pass
        return First(kept.design, there or kept.path, saved=False)
    return replace(first_demo(), nothing=True)


def first_demo() -> First:
    """The made-up workshop's first design, bound to no file."""
    return First(opened(demo_files()[0]), None, saved=False)


def session_on(first: First, recovery: Recovery, study: Study | None = None) -> Session:
    """A session on it; `study` may hold what was worked out already."""
    session = Session(first.design, recovery, first.path, study)
    session.begun = not first.nothing
    if not first.saved:
        session.undo.resetClean()
    return session


def first_session(file: Path | None, recovery: Recovery, settings: Settings) -> Session:
    """A session on what to start with, see `first_design`. Raises BadInput for a bad file."""
    first = first_design(file, recovery, settings)
    if file is not None and first.saved:
        settings.remember(file)
    return session_on(first, recovery)


def make_window(file: Path | None, settings: Settings, recovery: Recovery) -> Window:
    """The window at once, for who can wait for it. Raises BadInput for a bad file."""
    return Window(first_session(file, recovery, settings), settings)


# ---- in the background, and in turns


def said_of_compiling() -> str:
    """Why it takes a while, where the compiler has kept nothing yet."""
    return "" if any(cache_folder().rglob("*.nbi")) else ONCE


@dataclass(frozen=True)
class Prepared:
    """What to start with and its study, with the first figures in it."""

    first: First
    study: Study
    recovery: Recovery


def first_of(file: Path | None, settings: Settings, first: First | None = None) -> Prepared:
    """What to start with (named `first`, else as `first_design` says), worked out as far as the window shows it at once.

    Away from the interface's thread. Raises BadInput for a bad file.
    """
    recovery = Recovery()
    first = first or first_design(file, recovery, settings)
    if file is not None and first.saved:
        settings.remember(file)
    load_compiled()
    study = Study(first.design)
    try:
        of.upright_rest(study)
        ready_to_draw(study)
        of.rests(study)
        next_step(study)
    except YellowBobError:
        pass  # the session says what cannot be built
    import_module("yellowbob.app.benches.tank.bench")
    if first.nothing:
        drawn_beforehand()
    return Prepared(first, study, recovery)


def window_in_turns(prepared: Prepared, settings: Settings, at: QRect) -> Iterator[Window | None]:
    """Make the window in turns, at its place on the screen: None after each, the window itself after the last."""
    use_units(settings)
    session = session_on(prepared.first, prepared.recovery, prepared.study)
    yield None
    window = Window(session, settings, at_once=False)
    while window.make_more():
        yield None
    if prepared.first.nothing:
        yield None
        window.show_new()
    # a copy of the workshop's file at each start; where that cannot be, the log says so when it is opened
    Thread(target=partial(_kept_safe, session), daemon=True).start()
    window.setGeometry(at)
    for (
        part
    ) in window.parts():  # painted where nobody sees it: what Qt keeps of letters and styles need not be made at once
        part.grab()
        yield None
    yield window


def _kept_safe(session: Session) -> None:
    try:
        back_up()
    except BadInput as error:
        session.said.emit(f"! {error}")

"""The demo: the window on the made-up workshop, or, with no display, its results and pictures."""

from __future__ import annotations

import math
import os
import tempfile
from pathlib import Path

from yellowbob.app.session.demo_designs import FOLDER, demo_files
from yellowbob.study import of
from yellowbob.workshop.database import PLACE, workshop_file


def run_demo(pictures: Path) -> int:
    """Open the demo in a window; with no display print a table and write a picture of each design."""
    from yellowbob.app.start.desk import has_display

    if has_display() or os.environ.get("QT_QPA_PLATFORM"):
        from yellowbob.app.start.run import run_demo_window

        return run_demo_window()
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    os.environ.setdefault("QT_LOGGING_RULES", "default.warning=false")
    print(f"No display here: running the demo offscreen, pictures go to {pictures}/")
    return _offscreen(pictures)


def demo_log() -> Path:
    """The made-up season in a log of its own beside the maker's, made where it is not there; from now on it is the log.

    Raises BadInput where it cannot be made.
    """
    from yellowbob.logbook.exchange import take_json
    from yellowbob.logbook.store import LogBook

    there = os.environ.get(PLACE)
    if there is None:
        own = workshop_file()
        os.environ[PLACE] = str(own.with_name("demo") / own.name)
    log = LogBook()
    if not log.serials():
        take_json(log, FOLDER / "season.json", good_only=True)
    return log.path


def _offscreen(pictures: Path) -> int:
    from rich.console import Console
    from rich.table import Table

    from yellowbob.app.frame.main import application
    from yellowbob.app.frame.window import Window
    from yellowbob.app.session.recovery import Recovery
    from yellowbob.app.session.session import Session
    from yellowbob.app.session.settings import Settings
    from yellowbob.app.session.warm import load_compiled
    from yellowbob.app.widgets.turns import whole
    from yellowbob.shelf.filling import opened

    pictures.mkdir(parents=True, exist_ok=True)
    table = Table(title="Demo workshop", title_justify="left", box=None, header_style="bold")
    for words in ("design", "kind"):
        table.add_column(words)
    for words in ("mass g", "to spare g", "rests", "pitch °", "draft mm", "GM mm"):
        table.add_column(words, justify="right")
    with tempfile.TemporaryDirectory() as scratch:
        settings, recovery = Settings(Path(scratch)), Recovery(Path(scratch))
        app = application(settings)
        load_compiled()
        for file in demo_files():
            session = Session(opened(file), recovery, file)
            window = Window(session, settings)
            window.show()
            app.processEvents()
            while not whole(window):
                app.processEvents()
            window.grab().save(str(pictures / f"{file.stem}.png"))
            window.close()
            study, rest = session.study, of.upright_rest(session.study)
            figures = ["–"] * 3 if rest is None else [
                f"{math.degrees(rest.pitch_rad):z.1f}", f"{rest.draft_mm:.1f}", f"{rest.gm_min_mm:.1f}"
            ]  # fmt: skip
            table.add_row(
                session.design.name, session.design.kind, f"{of.buoyancy(study).mass_g:.2f}",
                f"{of.buoyancy(study).reserve_g:z.2f}", str(len(of.rests(study))), *figures,
            )  # fmt: skip
    Console(width=100).print(table)
    return 0

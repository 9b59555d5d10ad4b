"""Refresh the screenshots in docs/ from the demo designs. Usage: shots.py FOLDER"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import QApplication
from season import season

from yellowbob.app.frame.main import application
from yellowbob.app.frame.window import Window
from yellowbob.app.session.demo_designs import FOLDER
from yellowbob.app.session.recovery import Recovery
from yellowbob.app.session.session import Session
from yellowbob.app.session.settings import Settings
from yellowbob.app.session.warm import load_compiled
from yellowbob.app.widgets.turns import whole
from yellowbob.design.edits import Grip
from yellowbob.design.files import read_design
from yellowbob.design.model import Weighing
from yellowbob.design.outline_edits import PointRef
from yellowbob.logbook.store import LogBook
from yellowbob.study import of
from yellowbob.study.evidence import weighed
from yellowbob.weights.evidence import share_on_scale


def shot(window: Window, app: QApplication, file: Path) -> None:
    for _ in range(3):
        app.processEvents()
    until(app, lambda: not window.session.waiting and not window.session.tasks.doing)
    for _ in range(3):
        app.processEvents()
    until(app, lambda: whole(window))
    window.grab().save(str(file))
    print(file)


def until(app: QApplication, done: Callable[[], bool]) -> None:
    """Let the window work until something in the background is there."""
    limit = time.monotonic() + 120
    while not done() and time.monotonic() < limit:
        app.processEvents()
        time.sleep(0.01)


def budget_page(window: Window, app: QApplication) -> None:
    """The budget after two weighings of a made-up piece, a little denser than the shelf says."""
    for stage, more in (("bare body", 0.21), ("fitted", 0.34)):
        study = window.session.study
        lines = of.forecast_slip(study).lines
        lain = Weighing(stage=stage, mass_g=1.0)
        mass = sum(share_on_scale(lain, line.key) * line.mass.mass_g for line in lines) + more
        window.session.edit(weighed(study, stage, round(mass, 2)), "weighed")
        until(app, lambda: not window.session.fault)
    window.fitout.show_page("Budget")
    window.fitout.budget.list.setCurrentRow(1)


def tank_pages(app: QApplication, settings: Settings, scratch: Path, folder: Path) -> None:
    """The Tank bench's pages, each with something to see."""

    def opened(name: str, bare: bool = False) -> Window:
        design = read_design(FOLDER / f"{name}.ybob")
        if bare:
            design = design.but(ballast=())
        window = Window(Session(design, Recovery(scratch), None), settings)
        window.show()
        return window

    window = opened("moth-crawler-64", bare=True)
    window.show_tank_page("Landings")
    until(app, lambda: window.session.study.knows(of.landings))
    window.tank.landing.refresh()
    window.tank.landing.map.point(-0.6, 1.9)
    shot(window, app, folder / "tank-landings.png")
    window.close()
    window = opened("sallow-74")
    window.show_tank_page("Pose it")
    until(app, lambda: window.tank.view.poser.posing)
    window.tank.pose.find_picks()
    until(app, window.tank.pose.fit.isEnabled)
    shot(window, app, folder / "tank-pose.png")
    window.show_tank_page("Odds")
    window.tank.odds.start()
    until(app, lambda: len(window.tank.odds.spreads) == 3)
    shot(window, app, folder / "tank-odds.png")
    window.show_tank_page("Checks")
    until(app, lambda: window.session.study.knows(of.landings))
    shot(window, app, folder / "tank-checks.png")
    window.close()
    window = opened("osier-96")
    window.show_tank_page("Variants")
    until(app, lambda: bool(window.tank.variants.strip.variants and window.tank.variants.plot.points))
    shot(window, app, folder / "tank-variants.png")
    window.close()
    window = opened("withy-stick-150")
    window.show_tank_page("Cocking")
    until(app, lambda: "it rises" in window.tank.cocking.says.text())
    window.tank.cocking.slider.setValue(14)
    shot(window, app, folder / "tank-cocking.png")
    window.close()


def action_pages(window: Window, app: QApplication, folder: Path) -> None:
    """The Action bench: running, thrown, and a float on waves in the evening's colours."""
    window.show_bench("Action")
    bench = window.action
    until(app, lambda: bench.run.found is not None)
    bench.run.slider.setValue(12)
    shot(window, app, folder / "action-run.png")
    bench.paged.turn_to("Throw")
    until(app, lambda: bench.throw.found is not None)
    shot(window, app, folder / "action-throw.png")


def float_on_waves(window: Window, app: QApplication, folder: Path) -> None:
    """A waggler on a chop, in the evening's colours."""
    window.turn_colours()
    window.show_bench("Action")
    window.action.paged.turn_to("Waves")
    window.action.view.time_s = 0.2
    shot(window, app, folder / "action-waves.png")
    window.turn_colours()


def main(folder: Path) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as scratch:
        settings = Settings(Path(scratch))
        app = application(settings)
        load_compiled()
        file = FOLDER / "sill-darter-98.ybob"
        window = Window(Session(read_design(file), Recovery(Path(scratch)), file), settings)
        window.show()
        window.show_bench("Lines")
        window.lines.view.pick(PointRef("back", 2))
        window.lines.show_ghost(FOLDER / "spit-pencil-118.ybob")
        shot(window, app, folder / "lines.png")
        window.lines.show_ladder()
        until(app, lambda: window.lines.ladder.table.rowCount() > 0)
        shot(window, app, folder / "lines-rescale.png")
        page = window.lines.trace
        page.open(FOLDER / "to-trace.jpg")
        until(app, lambda: page.picture.picture is not None)
        page.picture.marks += [(197.0, 399.0), (1203.0, 469.0)]
        page.find_outline()
        window.lines.show_trace()
        until(app, lambda: not page.words.text().startswith("Looking"))
        shot(window, app, folder / "lines-trace.png")
        window.close()
        file = FOLDER / "mill-tail-88.ybob"
        window = Window(Session(read_design(file), Recovery(Path(scratch)), file), settings)
        window.show()
        window.show_bench("Fit-out")
        window.session.pick(Grip("fitting", 5))
        window.fitout.view.look_again()
        shot(window, app, folder / "fit-out.png")
        budget_page(window, app)
        shot(window, app, folder / "fit-out-budget.png")
        window.fitout.show_page("Shelf")
        shot(window, app, folder / "fit-out-shelf.png")
        window.close()
        tank_pages(app, settings, Path(scratch), folder)
        file = FOLDER / "reed-waggler-217.ybob"
        window = Window(Session(read_design(file), Recovery(Path(scratch)), file), settings)
        window.show()
        float_on_waves(window, app, folder)
        window.close()
        os.environ["YELLOW_BOB_WORKSHOP"] = str(Path(scratch) / "season.sqlite")
        season(LogBook())
        for name in ("sallow-74",):
            file = FOLDER / f"{name}.ybob"
            window = Window(Session(read_design(file), Recovery(Path(scratch)), file), settings)
            window.show()
            if name == "sallow-74":
                shot(window, app, folder / f"tank-{name}.png")
                window.show_new()
                until(app, lambda: window.begin.answer is not None)  # noqa: B023
                shot(window, app, folder / "new.png")
                window.show_bench("Tank")
                action_pages(window, app, folder)
                window.show_bench("Shop")
                window.shop.paged.turn_to("Packet")
                until(app, lambda: bool(window.shop.preview.sizes) and not window.session.tasks.doing)  # noqa: B023
                window.shop.preview.turn(1)
                window.shop.preview.whole_page()
                shot(window, app, folder / "shop.png")
                window.show_bench("Log")
                window.logged.view.builds.selectRow(3)
                window.logged.paged.turn_to("Taught")
                until(app, lambda: window.logged.taught.found is not None)  # noqa: B023
                shot(window, app, folder / "log.png")
            window.close()


if __name__ == "__main__":
    main(Path(sys.argv[1]))

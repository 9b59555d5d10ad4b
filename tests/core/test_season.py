"""The made-up season: what the log learns of it against the true values it was drawn from."""

from __future__ import annotations

import runpy
from pathlib import Path

from tests.conftest import DEMO
from yellowbob.logbook.figures import charted
from yellowbob.logbook.sides import pucks_of
from yellowbob.logbook.store import LogBook
from yellowbob.trials.learned import learned


def test_a_season_is_learnt_as_it_really_was(tmp_path: Path) -> None:
    made = runpy.run_path(str(DEMO.parents[2] / "tools" / "season.py"))
    log = LogBook(tmp_path / "s.sqlite")
    made["season"](log)
    builds = log.builds()
    assert len(builds) == 24 + 2 * len(made["BATCHED"]) and {b.state for b in builds} == {"done", "lost"}
    found = learned([(b, log.design(b.serial), log.entries(b.serial)) for b in builds], pucks=pucks_of(log))
    for wood, (mean, _) in made["TRUE_DENSITY"].items():
        told = found.densities[wood]
        assert told.low <= mean <= told.high and told.count >= 3, wood
        assert abs(told.mean - mean) < abs(told.shelf - mean) or abs(told.shelf - mean) < 0.01
    # several coats weighed at once are told apart as far as they can be, and no further
    more, _ = made["TRUE_FILM"]
    assert "two-part epoxy clear" in found.films
    for name, told in found.films.items():
        assert told.low <= more * told.shelf <= told.high, name
    assert found.films["two-part epoxy clear"].mean > 1.1 * found.films["two-part epoxy clear"].shelf
    # its hand lays a quarter more than the shelf says: finished pieces come out heavier than forecast for their wood
    assert found.pitch_deg.bias is not None and abs(found.pitch_deg.bias) < 1.0
    assert found.mass_g.spread is not None and len(found.mass_g.misses) == len(builds)
    # resin and powder come out of pucks, and what was promised stands beside what was weighed
    for name, true in ((made["RESIN"], made["TRUE_RESIN"]), (made["POWDER"], made["TRUE_POWDER"])):
        told = {**found.pucks.resins, **found.pucks.powders}[name]
        assert told.low <= true <= told.high and told.count == 3
    points = charted(log, "finished promised", "finished")
    assert len(points.x) == len(builds) and points.r is not None and points.r > 0.98

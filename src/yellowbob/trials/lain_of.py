"""Where a build's weight really lies, from its tank tests: each against the build as it is believed to be with what was off
left off."""

from __future__ import annotations

from collections.abc import Sequence

from yellowbob.logbook.lain import ON_ITS_SIDE_DEG, Lain, lain
from yellowbob.logbook.records import TankTest
from yellowbob.study import Study, of
from yellowbob.study.evidence import evidence
from yellowbob.trials.learned import without

WEIGHED_U_G = 0.05
"""How well a build's mass is known that was weighed finished; a rule."""


def lain_of(study: Study, tests: Sequence[TankTest]) -> Lain | None:
    """None where no test gives a pitch or a draft. Raises BadInput where it sinks."""
    read = [
        t
        for t in tests
        if (t.pitch_deg is not None or t.draft_mm is not None) and abs(t.roll_deg or 0.0) <= ON_ITS_SIDE_DEG
    ]
    if not read:
        return None
    built = study.build.but(weighings=())
    builds = [
        of.unloaded(Study(without(built, t.off).but(water={"name": t.water, "temperature_c": t.temperature_c}))) for t in read
    ]  # fmt: skip
    weighed = any(w.weighing.stage == "finished" for w in evidence(study).weighed)
    return lain(of.unloaded(Study(built)), builds, read, WEIGHED_U_G if weighed else None)

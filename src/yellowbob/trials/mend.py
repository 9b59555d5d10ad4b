"""Trims that would mend a finished build as its tank tests make it out to be: each tried on its own weight and centre."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from yellowbob.ballast.settle import settled
from yellowbob.ground.errors import YellowBobError
from yellowbob.logbook.lain import Lain, shifted
from yellowbob.study import Study, of
from yellowbob.trials.still import wanted_pitch
from yellowbob.trials.trim import trim_changes

MOST = 3


@dataclass(frozen=True)
class Mend:
    """A trim in words, and how the build lies with it: pitch, degrees; draft, mm; what it has to spare, g."""

    words: str
    pitch_deg: float
    draft_mm: float
    reserve_g: float


@dataclass(frozen=True)
class Mended:
    """How the build lies as the tests say, degrees (None: it sinks); the pitch wanted; the trims that bring it nearer, the
    nearest first: none where it lies as briefed, nor where readings do not agree."""

    pitch_deg: float | None
    wanted_deg: float | None
    mends: tuple[Mend, ...]


def mended(study: Study, found: Lain) -> Mended:
    """Every trim of a finished piece, tried on the build with the weight and centre its tank tests give."""
    built = Study(study.build.but(weighings=()), study)
    off = np.array([
        found.mass_g - found.forecast_g,
        found.mass_g * found.centre_mm[0] - found.forecast_g * found.forecast_mm[0],
        found.mass_g * found.centre_mm[1] - found.forecast_g * found.forecast_mm[1],
    ])  # fmt: skip
    now = settled(shifted(of.unloaded(built), off))
    wanted = wanted_pitch(study.design, study.forecast)
    span = study.design.brief.pitch_deg
    if not now.floats or wanted is None or now.rest is None or not found.agree:
        return Mended(now.pitch_deg if now.floats else None, wanted, ())
    if span is not None and span.holds(now.pitch_deg):
        return Mended(now.pitch_deg, wanted, ())
    mends = []
    for change in trim_changes(built.design):
        try:
            after = settled(shifted(of.unloaded(Study(change.make(built.design), built)), off), now.rest.up)
        except YellowBobError:
            continue
        if after.floats and abs(after.pitch_deg - wanted) < abs(now.pitch_deg - wanted):
            mends.append(Mend(change.words, after.pitch_deg, after.draft_mm, after.reserve_g))
    mends.sort(key=lambda m: abs(m.pitch_deg - wanted))
    return Mended(now.pitch_deg, wanted, tuple(mends[:MOST]))

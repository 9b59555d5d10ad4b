"""Where a build's weight really lies, from its tank tests: each against the build as it is believed to be with what was off
left off."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from yellowbob.afloat.rest import up_from
from yellowbob.design.base import made
from yellowbob.ground.errors import BadInput
from yellowbob.logbook.clicked import Click, clicked
from yellowbob.logbook.lain import ON_ITS_SIDE_DEG, Lain, lain
from yellowbob.logbook.records import TankTest
from yellowbob.study import Study, of
from yellowbob.study.evidence import evidence
from yellowbob.trials.learned import without

NEAR_END_MM = 0.3
HIGHER, DEEPER_MM = 1.05, 1.0
"""A draft may be read so much too deep before it cannot be of the build: a rule."""
WEIGHED_U_G = 0.05
"""How well a build's mass is known that was weighed finished; a rule."""


def lies_in_picture(
    study: Study, off: Sequence[str], waterline: tuple[Click, Click], ends: tuple[Click, Click]
) -> dict[str, float]:  # fmt: skip
    """Pitch and draft of a tank test with their uncertainties, by its fields, from clicks in a picture: see `clicked`.

    ends: where nose and tail meet the body's ends, in its middle. Raises BadInput.
    """
    built = Study(without(study.build, off))
    vertices = of.unloaded(built).hull.vertices
    found = clicked(waterline, ends, ends_of(built), vertices[:, [0, 2]])
    read = {
        "pitch_deg": round(found.pitch_deg, 2), "pitch_u_deg": max(round(found.pitch_u_deg, 3), 0.05),
        "draft_mm": round(found.draft_mm, 2), "draft_u_mm": max(round(found.draft_u_mm, 3), 0.05),
    }  # fmt: skip
    possible(study, made(TankTest, off=tuple(off), **read))  # before the picture is kept with it
    return read


def ends_of(study: Study) -> tuple[Click, Click]:
    """The middle of the body's two ends in (x, z), mm: what is clicked in a picture."""
    vertices = of.outer(study).vertices
    found = []
    for at in (vertices[:, 0].min(), vertices[:, 0].max()):
        near = vertices[np.abs(vertices[:, 0] - at) < NEAR_END_MM]
        found.append((float(at), float((near[:, 2].min() + near[:, 2].max()) / 2.0)))
    return found[0], found[1]


def possible(study: Study, test: TankTest) -> TankTest:
    """The test, where the build can lie so. Raises BadInput for a draft deeper than it is high."""
    if test.draft_mm is None:
        return test
    vertices = of.unloaded(Study(without(study.build, test.off))).hull.vertices
    if test.pitch_deg is None or test.roll_deg is not None:
        high = float(np.linalg.norm(np.ptp(vertices, axis=0)))
    else:
        high = float(np.ptp(vertices @ up_from(math.radians(test.pitch_deg), 0.0)))
    if test.draft_mm > HIGHER * high + DEEPER_MM:
        raise BadInput(f"a draft of {test.draft_mm:g} mm: lying so it is {high:.1f} mm high; read it again")
    return test


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

"""What to change to make it slower, wider, steadier, deeper or fly further: changes tried by the model of action, before and
after; and how steady it is over speed and tie height."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from yellowbob.action.flight import cast
from yellowbob.action.running import Line, run
from yellowbob.action.stability import at_tie, stability
from yellowbob.design.base import replaced
from yellowbob.design.hardware import line_tie
from yellowbob.design.model import Design
from yellowbob.design.plates import Lip
from yellowbob.ground.errors import YellowBobError
from yellowbob.ground.progress import Told
from yellowbob.study import Study, of
from yellowbob.study.action import tied_first
from yellowbob.study.drawn import Drawn, draw

TIE_MM, ALONG_MM, LOWER_MM, LIP_SHARE, ROD_MM = 3.0, 8.0, 2.0, 0.15, 1500.0
"""How much is changed: tie up or down, ballast along and lower, lip larger or smaller, rod up."""
GOALS = ("slower", "wider", "steadier", "deeper", "further")


@dataclass(frozen=True)
class Figures:
    """At a speed: rate Hz, half-swing and roll degrees, draft mm, pitch degrees; speed at which it ends (under or over), m/s
    (inf: it does not); range of a throw, m. None where it is not drawn at that speed any more."""

    hz: float | None
    yaw_deg: float | None
    roll_deg: float | None
    draft_mm: float | None
    pitch_deg: float | None
    ends_m_s: float
    range_m: float


@dataclass(frozen=True, eq=False)
class Moved:
    """A change tried. figures None with the reason where it cannot be built or drawn; drawn: its run."""

    words: str
    figures: Figures | None
    drawn: Drawn | None
    why: str = ""


def tied_higher(design: Design, by_mm: float) -> Design | None:
    """With its line tie moved up; None without one."""
    tie = line_tie(design.fittings)
    if tie is None:
        return None
    x, y, z = tie.at_mm
    moved = replaced(tie, at_mm=(x, y, z + by_mm))
    return design.but(fittings=tuple(moved if f is tie else f for f in design.fittings))


def ballast_along(design: Design, by_mm: float) -> Design | None:
    """With all drilled ballast slid aft; None without any."""
    if not any(b.drilling for b in design.ballast):
        return None
    return design.but(ballast=tuple(
        b if b.drilling is None else replaced(b, drilling=replaced(
            b.drilling, place_mm=(b.drilling.place_mm[0] + by_mm, b.drilling.place_mm[1])
        )) for b in design.ballast
    ))  # fmt: skip


def ballast_lower(design: Design, by_mm: float) -> Design | None:
    """With all drilled ballast so much less deep in the belly; None where none is that deep."""
    if not any(b.drilling and b.drilling.depth_mm > 2.0 * by_mm for b in design.ballast):
        return None
    return design.but(ballast=tuple(
        b if b.drilling is None or b.drilling.depth_mm <= 2.0 * by_mm
        else replaced(b, drilling=replaced(b.drilling, depth_mm=b.drilling.depth_mm - by_mm)) for b in design.ballast
    ))  # fmt: skip


def lip_larger(design: Design, share: float) -> Design | None:
    """With every lip larger both ways; None without one."""
    if not any(isinstance(p.shape, Lip) for p in design.pieces):
        return None
    times = 1.0 + share
    return design.but(pieces=tuple(
        replaced(p, shape=replaced(p.shape, long_mm=times * p.shape.long_mm, wide_mm=times * p.shape.wide_mm))
        if isinstance(p.shape, Lip) else p for p in design.pieces
    ))  # fmt: skip


CHANGES: tuple[tuple[str, Callable[[Design], Design | None]], ...] = (
    (f"tie {TIE_MM:g} mm up", lambda d: tied_higher(d, TIE_MM)),
    (f"tie {TIE_MM:g} mm down", lambda d: tied_higher(d, -TIE_MM)),
    (f"ballast {ALONG_MM:g} mm aft", lambda d: ballast_along(d, ALONG_MM)),
    (f"ballast {ALONG_MM:g} mm forward", lambda d: ballast_along(d, -ALONG_MM)),
    (f"ballast {LOWER_MM:g} mm lower", lambda d: ballast_lower(d, LOWER_MM)),
    (f"lip {100 * LIP_SHARE:g} % larger", lambda d: lip_larger(d, LIP_SHARE)),
    (f"lip {100 * LIP_SHARE:g} % smaller", lambda d: lip_larger(d, -LIP_SHARE)),
)


def figures_of(study: Study, found: Drawn, speed_m_s: float) -> Figures:
    """What is told of a run at a speed, and of a throw."""
    trim = next((t for t in found.run.trims if abs(t.speed_m_s - speed_m_s) < 1e-9), None)
    swing = None
    if found.sideways is not None:
        swing = next((s for s in found.sideways.swings if abs(s.speed_m_s - speed_m_s) < 1e-9), None)
    over = found.sideways.ends_m_s if found.sideways is not None else None
    ends = min(v if v is not None else math.inf for v in (over, found.run.ends_at_m_s))
    thrown = cast(of.thrown(study), 20.0, 35.0, 2.0, tied_first(study))
    return Figures(
        swing.hz if swing else None, swing.yaw_deg if swing else None, swing.roll_deg if swing else None,
        trim.draft_mm if trim else None, math.degrees(trim.pitch_rad) if trim else None, ends,
        thrown.flight.range_mm / 1000.0,
    )  # fmt: skip


def tried(study: Study, speed_m_s: float, line: Line, told: Told | None = None) -> tuple[Moved, ...]:
    """The build as it is, first, then every change that it has room for. Raises what drawing the build itself raises."""
    speeds = sorted({0.1 * k for k in range(26)} | {speed_m_s})

    def looked(one: Study, held: Line, words: str) -> Moved:
        found = draw(one, speeds, held)
        return Moved(words, figures_of(one, found, speed_m_s), found)

    rows = [looked(study, line, "as it is")]
    for number, (words, make) in enumerate(CHANGES):
        if told is not None and not told((number + 1) / (len(CHANGES) + 2)):
            return tuple(rows)
        try:
            design = make(study.build)
            if design is not None:
                rows.append(looked(Study(design, study), line, words))
        except (YellowBobError, ValueError) as error:
            rows.append(Moved(words, None, None, str(error)))
    high = replace(line, angle_deg=0.0, rod_mm=(line.rod_mm or 0.0) + ROD_MM)
    rows.append(looked(study, high, f"rod {ROD_MM / 1000.0:g} m higher"))
    return tuple(rows)


def gain(now: Figures, then: Figures, goal: str) -> float | None:
    """How much nearer to a goal of GOALS, positive for better, as a share of what it was; None where it cannot be said."""
    pairs = {
        "slower": (now.hz, then.hz, -1.0), "wider": (now.yaw_deg, then.yaw_deg, 1.0),
        "steadier": (now.ends_m_s, then.ends_m_s, 1.0), "deeper": (now.draft_mm, then.draft_mm, 1.0),
        "further": (now.range_m, then.range_m, 1.0),
    }  # fmt: skip
    before, after, way = pairs[goal]
    if before is None or after is None or before == after:
        return None if before is None or after is None else 0.0
    if math.isinf(before) or math.isinf(after):
        return way * (1.0 if math.isinf(after) else -1.0)
    return way * (after - before) / max(abs(before), 1e-9)


STEADY, SWINGS, UNDER, OVER = "steady", "swings", "under", "over"


def tie_map(
    study: Study, speeds_m_s: Sequence[float], ties_mm: Sequence[float], line: Line, told: Told | None = None
) -> tuple[tuple[str, ...], ...]:
    """For every tie height over its own (rows) and speed: steady, swings by itself, under or over. Stopped: fewer rows."""
    rest, thing, body = of.upright_rest(study), of.pulled(study), of.body(study)
    assert rest is not None
    rows: list[tuple[str, ...]] = []
    for number, up in enumerate(ties_mm):
        if told is not None and not told(number / len(ties_mm)):
            break
        tied = at_tie(thing, up)
        found = run(tied, rest, speeds_m_s, line)
        looked = {s.speed_m_s: s for s in stability(tied, found, line, body).swings}
        ran = {t.speed_m_s for t in found.trims}
        row = []
        for speed in speeds_m_s:
            swing = looked.get(speed)
            over = OVER if "under" not in found.ends else UNDER
            row.append(over if speed not in ran else STEADY if swing is None else OVER if swing.why else
                       SWINGS if swing.by_itself else STEADY)  # fmt: skip
        rows.append(tuple(row))
    return tuple(rows)

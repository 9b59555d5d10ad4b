"""What is still to go into a build: how much ballast and where, at what it weighs now, so that it sits as briefed."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from yellowbob.design.model import Ballast, Design, Shot, Slug, replaced
from yellowbob.design.record import STAGES, Stage, Weighing
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.lines.hole_walls import WANDER_DEG, wall_mm
from yellowbob.lines.walls import least_wall_mm
from yellowbob.study import Study, of
from yellowbob.study.evidence import evidence
from yellowbob.weights.causes import causes_of_lines

FURTHEST_MM = 25.0
"""Ballast is not moved further from where it is drawn."""
LONGEST_SHARE, LEAST_SHARE = 6.0, 0.02
NEAR_DEG, NEAR_G = 0.02, 0.002
ROUNDS = 40


@dataclass(frozen=True)
class Still:
    """What to put in. drawn_g, put_in_g: of the ballast named; aft_mm: behind its drawn place; length_mm of a slug, count
    of shot.

    pitch_deg, draft_mm, finished_g: of the build with it in, by the full solve, u_g the mass's uncertainty; within: it
    keeps the brief's pitch, mass and draft; why: what stands against it, else empty; measure: the weighing that would tell
    most now.
    """

    stage: Stage | None
    ballast: str
    drawn_g: float
    put_in_g: float
    aft_mm: float
    length_mm: float | None
    count: int | None
    pitch_deg: float | None
    draft_mm: float | None
    finished_g: float
    u_g: float
    wanted_deg: float | None
    within: bool
    why: str
    measure: str
    design: Design


def still_to_go(study: Study) -> Still:
    """The first ballast of a design made heavier or lighter and moved along, so that the build as it is believed to be sits
    at the brief's pitch (the middle of it; without one, as drawn) and weighs what was drawn, held within the brief's mass.

    Raises BadInput for a design without ballast to put in.
    """
    design = study.design
    number = next((k for k, b in enumerate(design.ballast) if b.drilling is not None or b.at_mm is not None), None)
    if number is None:
        raise BadInput(f"{design.name} has no ballast that could be made heavier; trim it by its hooks (`trim`)")
    drawn = study.forecast
    wanted = wanted_pitch(design, drawn)
    mass = of.slip(drawn).finished.mass_g
    if design.brief.mass_g is not None:
        mass = min(max(mass, design.brief.mass_g.least), design.brief.mass_g.most)
    one = design.ballast[number]

    def miss(share: float) -> float:
        return _finished_g(study, number, share, 0.0) - mass

    size = (
        _whole(one.weight, miss)
        if isinstance(one.weight, Shot)
        else solved(miss, 1.0, LEAST_SHARE, LONGEST_SHARE, NEAR_G)
    )
    why = "" if size is not None else _too_heavy(study, number, mass)
    size = 1.0 if size is None else size
    aft = 0.0
    if wanted is not None:
        found = solved(
            lambda by: _pitch_deg(study, number, size, by) - wanted, 0.0, -FURTHEST_MM, FURTHEST_MM, NEAR_DEG
        )
        if found is None:
            nowhere = f"no place within {FURTHEST_MM:g} mm of the drawn one gives {wanted:+z.1f}°"
            why = why or nowhere
        aft = 0.0 if found is None else found
        if isinstance(one.weight, Shot):  # whole shot: the place is found again for what they weigh
            again = solved(
                lambda by: _pitch_deg(study, number, size, by) - wanted, aft, -FURTHEST_MM, FURTHEST_MM, NEAR_DEG
            )
            aft = aft if again is None else again
    new = _changed(design, number, size, aft)
    return _told(study, new, number, wanted, aft, why)


def _whole(shot: Shot, miss: Callable[[float], float]) -> float | None:
    """The count of shot, as a share of what it is, that comes nearest; None where it is too heavy with one."""
    best: tuple[float, float] | None = None
    for count in range(1, 6 * shot.count + 1):
        try:
            off = miss(count / shot.count)
        except YellowBobError:
            break
        if best is None or abs(off) < best[0]:
            best = (abs(off), count / shot.count)
        if off > 0.0:
            break
    return None if best is None or (best[1] * shot.count <= 1.0 and miss(best[1]) > shot.mass_g / 2.0) else best[1]


def wanted_pitch(design: Design, drawn: Study) -> float | None:
    """The middle of the brief's pitch, degrees; without one, as drawn; None where that sinks."""
    if design.brief.pitch_deg is not None:
        return float(design.brief.pitch_deg.middle)
    rest = of.upright_rest(drawn)
    return None if rest is None else math.degrees(rest.pitch_rad)


def _changed(design: Design, number: int, share: float, aft_mm: float) -> Design:
    """The design with a ballast so many times as heavy and so far aft. A slug longer than its hole's room makes the hole
    deeper."""
    one = design.ballast[number]
    weight = one.weight
    if isinstance(weight, Slug):
        longer = (share - 1.0) * weight.length_mm
        heavier: Shot | Slug = replaced(weight, length_mm=weight.length_mm * share)
    else:
        longer = 0.0
        heavier = replaced(weight, count=max(1, round(weight.count * share)))
    listed = list(design.ballast)
    listed[number] = _placed(replaced(one, weight=heavier), aft_mm, max(longer, 0.0))
    return design.but(ballast=tuple(listed))


def _placed(one: Ballast, aft_mm: float, deeper_mm: float) -> Ballast:
    if one.drilling is None:
        assert one.at_mm is not None
        return replaced(one, at_mm=(one.at_mm[0] + aft_mm, one.at_mm[1], one.at_mm[2]))
    drilling, place = one.drilling, list(one.drilling.place_mm)
    if drilling.side in ("nose", "tail"):  # along the axis: a deeper or shallower hole
        way = 1.0 if drilling.side == "nose" else -1.0
        return replaced(
            one, drilling=replaced(drilling, depth_mm=max(drilling.depth_mm + deeper_mm + way * aft_mm, 0.5))
        )
    place[0] += aft_mm
    return replaced(one, drilling=replaced(drilling, place_mm=tuple(place), depth_mm=drilling.depth_mm + deeper_mm))


def _built(study: Study, number: int, share: float, aft_mm: float) -> Study:
    """The build as it is believed to be, with the ballast changed; what was weighed of the ballast itself is of the old
    one."""
    return Study(_changed(study.design, number, share, aft_mm), study)


def _finished_g(study: Study, number: int, share: float, aft_mm: float) -> float:
    return of.slip(_built(study, number, share, aft_mm)).finished.mass_g


def _pitch_deg(study: Study, number: int, share: float, aft_mm: float) -> float:
    built = _built(study, number, share, aft_mm)
    rest = of.rest_followed(built, of.upright_rest(study.forecast))
    if rest is None:
        raise BadInput("it sinks")
    return math.degrees(rest.pitch_rad)


def solved(miss: Callable[[float], float], start: float, low: float, high: float, near: float) -> float | None:
    """Where a steady function is nothing, by a bracket grown from a start and halved by regula falsi (Illinois); None
    without."""

    def tried(x: float) -> float | None:
        try:
            return miss(x)
        except YellowBobError:
            return None

    at = tried(start)
    if at is None:
        return None
    if abs(at) <= near:
        return start
    step = 0.05 * (high - low)
    for way in (1.0, -1.0):
        one, one_miss, x = start, at, start
        while low <= x + way * step <= high:
            x += way * step
            there = tried(x)
            if there is None:
                break
            if there * one_miss <= 0.0:
                return _between(tried, one, one_miss, x, there, near)
            if abs(there) > abs(at) and abs(there) > abs(one_miss):
                break  # it leads away
            one, one_miss = x, there
    return None


def _between(
    tried: Callable[[float], float | None], a: float, fa: float, b: float, fb: float, near: float
) -> float | None:  # fmt: skip
    x = b
    for _ in range(ROUNDS):
        x = (a * fb - b * fa) / (fb - fa)
        f = tried(x)
        if f is None:
            return None
        if abs(f) <= near or abs(b - a) < 1e-4:
            return x
        if f * fb < 0.0:
            a, fa = b, fb
        else:
            fa /= 2.0
        b, fb = x, f
    return x


def _too_heavy(study: Study, number: int, mass_g: float) -> str:
    try:
        least = _finished_g(study, number, LEAST_SHARE, 0.0)
    except YellowBobError as error:
        return str(error)
    if least > mass_g:
        return f"it is {least - mass_g:.2f} g too heavy before any ballast: a lighter hook, fewer coats, or drill it"
    return f"more ballast than its hole can hold is wanted for {mass_g:.1f} g"


def _told(study: Study, new: Design, number: int, wanted: float | None, aft: float, why: str) -> Still:
    built, brief = Study(new, study), study.design.brief
    one, weighed = new.ballast[number], of.slip(built).finished.mass_g
    placed = of.holes(built).ballast[number]
    rest = of.rest_followed(built, of.upright_rest(study.forecast))
    pitch = None if rest is None else math.degrees(rest.pitch_rad)
    draft = None if rest is None else rest.draft_mm
    if rest is None:
        why = why or "it sinks"
    if placed.hole is not None and not why:
        left, _ = wall_mm(placed.hole, of.outer(built), WANDER_DEG)
        least = least_wall_mm(study.design.body.material.group)
        if left < least:
            why = f"the hole there leaves {left:.1f} mm of wall, and {least:g} mm are wanted"
    within = not why and pitch is not None and draft is not None
    for span, value, words in (
        (brief.pitch_deg, pitch, "pitch, °"),
        (brief.mass_g, weighed, "mass, g"),
        (brief.draft_mm, draft, "draft, mm"),
    ):
        if span is not None and value is not None and not span.holds(value):
            within = False
            why = why or f"{words}: {value:.1f} is not within {span.least:g} to {span.most:g}"
    unsure, measure = _unsure(study)
    slug = one.weight if isinstance(one.weight, Slug) else None
    old = of.holes(study).ballast[number]
    return Still(
        _stage(study.design), one.name, old.weight.mass_g, placed.weight.mass_g, aft,
            None if slug is None else slug.length_mm,
        one.weight.count if isinstance(one.weight, Shot) else None, pitch, draft, weighed, unsure, wanted,
        within, why, measure, new,
    )  # fmt: skip


def _stage(design: Design) -> Stage | None:
    reached = [STAGES.index(w.stage) for w in design.weighings if isinstance(w, Weighing)]
    return STAGES[max(reached)] if reached else None


def _unsure(study: Study) -> tuple[float, str]:
    """What the finished mass is unsure by, g, and the measurement that would take most of that away."""
    told, lines = evidence(study), causes_of_lines(study.design)
    parts: dict[str, float] = {}
    for line in of.slip(study).lines:
        for cause, share in lines.get(line.key, ()):
            parts[cause] = parts.get(cause, 0.0) + share * line.mass.mass_g
    grams: dict[str, float] = {}
    for key, mass in parts.items():
        known = told.of(key)
        found = next((c for c in told.causes if c.key == key), None)
        if known is None or found is None:
            continue
        grams[key] = abs(mass) * known[1] / found.now
    if not grams:
        return 0.0, ""
    worst = max(grams, key=grams.__getitem__)
    kind, _, name = worst.partition(":")
    words = {
        "density": f"weigh the bare body ({name})", "film": f"weigh before and after {name}", "soak": f"weigh before "
                                                                                                      f"and after {name}",
        "ballast": f"weigh {name} before it goes in", "cast": f"weigh {name} before it is cast in",
            "fitting": f"weigh {name}",
    }.get(kind, f"weigh {name or worst}")  # fmt: skip
    return math.sqrt(sum(v * v for v in grams.values())), f"{words}: ± {grams[worst]:.2f} g"

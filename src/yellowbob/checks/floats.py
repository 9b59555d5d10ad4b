"""Checks of floats: how they stand under what hangs on the line, the tip they show, and how their pieces are joined."""

from __future__ import annotations

import math

import numpy as np

from yellowbob.afloat.meniscus import capillary
from yellowbob.checks.verdict import NOTHING, Finding, check, signed
from yellowbob.design.model import STANDING
from yellowbob.design.shape import Turned
from yellowbob.ground.errors import BadInput
from yellowbob.lines.silhouette import silhouette
from yellowbob.lines.walls import least_wall_mm
from yellowbob.study import Study, of

TIP_OFF = 0.2
"""Share of the wanted tip that it may show more or less: a rule."""
SINKS_BY_ITSELF = Finding("failed", "sinks by itself", "Make it of something lighter, or larger, before it is shotted.")
LEAST_UPRIGHT_DEG = 60.0
"""A float that lies flatter than this shows no tip to go by: a rule."""
LEAN_DEG = 1.0
"""A standing float that leans by more is seen to: a rule."""
THICKEST_SPIGOT = 0.5
"""Share of the body's diameter that a spigot may have; about a third is the trade's rule."""
OFF_AXIS_MM = 0.5
"""How far off the axis an eye or the line may be before it is said: a rule."""


@check("cocks", "Cocks", "A float shows bites once it stands; how little shot that takes decides how it is fished.")
def cocks(study: Study) -> Finding | None:
    if not of.stands_by_kind(study):
        return None
    load = of.line_load_g(study)
    try:
        found = of.cocked(study)
    except BadInput:
        return SINKS_BY_ITSELF
    if found.cocks_at_g is None:
        return Finding("failed", "never stands", "Tie the line lower, or make the base or stem heavier.")
    figure = f"stands from {found.cocks_at_g:.2f} g on, under water"
    if load < found.cocks_at_g - 1e-6:
        more = of.shot_in_air_g(study, found.cocks_at_g - load)
        do = f"Put {more:.2f} g of shot more on the line, weighed in air."
        return Finding("failed", f"{figure}; {load:.2f} g hang on it", do)
    if of.upright_rest(study) is None:
        return Finding("failed", f"{figure}; {load:.2f} g draw it under", "Take shot off the line; Tip says how much.")
    return Finding("good", figure)


@check("tip", "Tip", "Too much tip blows about and hides light bites; too little draws under on every ripple.")
def tip(study: Study) -> Finding | None:
    line, rest = of.rig(study), of.upright_rest(study)
    if line is None or not of.stands_by_kind(study):
        return None
    if rest is None and not of.unloaded(study).floats:
        return SINKS_BY_ITSELF
    try:
        more = of.shot_in_air_g(study, of.carried(study).load_g - of.line_load_g(study))
        do = f"{'Put on' if more > 0 else 'Take off'} {abs(more):.2f} g of shot, weighed in air."
    except BadInput as error:
        return Finding("failed", f"{line.tip_mm:g} mm cannot be had", f"{str(error)[0].upper()}{str(error)[1:]}.")
    if rest is None:
        return Finding("failed", "drawn under", do)
    pitch = math.degrees(rest.pitch_rad)
    if abs(pitch) < LEAST_UPRIGHT_DEG:
        return Finding("watch", f"lies at {signed(pitch)}°: no tip shows yet", do)
    build = of.afloat(study)
    shown = of.tip_of_rest(study, rest)
    band = capillary(build, rest.up, rest.height_mm).draft_mm
    figure = f"{signed(shown, 1)} of {line.tip_mm:.1f} mm show, ± {band:.1f} mm by the meniscus"
    if abs(shown - line.tip_mm) <= max(TIP_OFF * line.tip_mm, 1.0, band):
        return Finding("good", figure)
    return Finding("watch", figure, do)


@check("leans", "Plumb", "An eye or spigot off the axis leans the float: it casts crooked and hides lift bites.")
def leans(study: Study) -> Finding | None:
    rest = of.upright_rest(study)
    if rest is None or not of.stands_by_kind(study):
        return None
    lean = 90.0 - abs(math.degrees(rest.pitch_rad))
    off = float(np.hypot(*np.asarray(of.line_at(study))[1:]))
    aside = f"; the line pulls {off:.1f} mm off the axis" if off > OFF_AXIS_MM else ""
    figure = f"leans {lean:.1f}°{aside}"
    if lean > LEAN_DEG:
        return Finding("watch", figure, "Bring eyes, spigots and the line onto the axis.")
    return Finding("watch" if aside else "good", figure, "Bring the line onto the axis." if aside else NOTHING)


DIVES, WOBBLES = 0.26, 0.015
"""How far G lies behind the middle of the side area, as a share of the length, from which a float dives, and under which it
wobbles through the air: rules."""


@check(
    "flies",
    "Cast by itself",
    "A well-balanced float flies far without shot; a heavy base dives, a light one wobbles.",
    "rule",
)
def flies(study: Study) -> Finding | None:
    if not of.stands_by_kind(study):
        return None
    bounds = of.whole(study).bounds
    long = float(bounds[1, 0] - bounds[0, 0])
    g = float(of.unloaded(study).centre_mm[0])
    index = (g - _side_middle_mm(study)) / long
    figure = (
        f"balances {g - float(bounds[0, 0]):.0f} mm from the tip, {signed(100 * index)} % behind the middle of its side"
    )
    if index > DIVES:
        return Finding("watch", figure, "It dives: a lighter or shorter stem, or a longer tip.")
    if index < WOBBLES:
        return Finding("watch", figure, "It wobbles: a denser or longer stem, or a brass foot.")
    return Finding("good", f"{figure}: flies true")


def _side_middle_mm(study: Study) -> float:
    """x of the centroid of its side view's area."""
    areas, moments = 0.0, 0.0
    for loop in silhouette(of.whole(study), "side"):
        x, z = loop.T
        cross = x * np.roll(z, -1) - np.roll(x, -1) * z
        areas += float(cross.sum()) / 2.0
        moments += float(((x + np.roll(x, -1)) * cross).sum()) / 6.0
    return moments / areas


@check(
    "finish over",
    "Finish on tip and stem",
    "On a thin tip a few hundredths of a millimetre of paint are felt: it is weighed and makes the tip thicker.",
)
def finish_over(study: Study) -> Finding | None:
    design = study.build
    if design.kind not in (*STANDING, "dropper") or not design.coats:
        return None
    bare = [p.name for p in design.parts if not p.sleeve and p.material.group != "metal"
            and not any(p.name in c.over for c in design.coats)]  # fmt: skip
    if not bare:
        return None
    return Finding(
        "watch",
        f"{', '.join(bare)}: counted bare",
        "Where they are painted too, let a coat be laid on every piece: Fit-out, Finish, Laid on.",
    )


@check("spigot", "Spigots", "The wall left round a spigot is where a float snaps in two.", "rule")
def spigot(study: Study) -> Finding | None:
    worst: tuple[float, float, float, str, str] | None = None
    pieces = study.build.pieces
    for number, piece in enumerate(pieces):
        for other in pieces[:number]:
            if piece.sleeve or other.sleeve:
                continue
            joint = _joint(other.shape, other.at_mm[0], piece.shape, piece.at_mm[0])
            if joint is None:
                continue
            least = least_wall_mm(other.material.group)
            if worst is None or joint[0] - least < worst[1] - worst[0]:
                worst = (least, *joint, piece.name, other.name)
    if worst is None:
        return None
    least, wall, share, name, into = worst
    figure = f"{name} in {into}: wall {signed(wall, 1)} mm, {100 * share:.0f} % of its diameter"
    if wall <= 0.0:
        return Finding("failed", figure, "The spigot is as wide as what it sits in: make it thinner.")
    if wall < least or share > THICKEST_SPIGOT:
        return Finding("watch", figure, f"About a third of the diameter, and {least:g} mm of wall at least.")
    return Finding("good", figure)


def _joint(outer: object, outer_x: float, inner: object, inner_x: float) -> tuple[float, float] | None:
    """(wall left, mm; spigot's share of the diameter) where one turned piece sits in an end of another; None where not.

    A piece that goes right through is a through-stem: its wall counts over the whole length but the last 2 mm at either end.
    """
    if not isinstance(outer, Turned) or not isinstance(inner, Turned):
        return None
    start = max(outer_x, inner_x)
    end = min(outer_x + outer.length_mm, inner_x + inner.length_mm)
    if end - start < 0.5:
        return None
    low, high = max(start, outer_x + 2.0), min(end, outer_x + outer.length_mm - 2.0)
    x = np.linspace(low, high, 40) if high > low else np.array([(start + end) / 2.0])
    wide, thin = _radius(outer, x - outer_x), _radius(inner, x - inner_x)
    wall = wide - thin
    at = int(np.argmin(wall))
    return float(wall[at]), float(thin[at] / max(wide[at], 1e-9))


def _radius(shape: Turned, x: np.ndarray) -> np.ndarray:
    """Radius along a profile, straight between its points: near enough for a rule."""
    points = np.array([p.at_mm for p in shape.profile])
    return np.asarray(np.interp(x, points[:, 0], points[:, 1]))

"""A body from an SVG drawing, true size: a closed side view, and a closed plan when there is one.

What is drawn beside them (a page border, an eye, a hidden layer) is told apart by visibility, size and place; what cannot
be told apart is refused, and every choice that was made is said.
"""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.shape import Lofted, Turned
from yellowbob.ground.errors import BadInput
from yellowbob.ground.progress import Told, unheard
from yellowbob.lines.curves import curve
from yellowbob.lines.svg.kept import Drawn, as_kept, changed, kept_in, piece_of, placed
from yellowbob.lines.svg.lies import lain, refuse_parts, refuse_unsound, slant_of, stands, thickness_of
from yellowbob.lines.svg.outlines import Outline, Shown
from yellowbob.lines.svg.paths import read_shown
from yellowbob.lines.tracing.edge import area_of
from yellowbob.lines.tracing.fit import edges_of, fit_outline
from yellowbob.lines.tracing.trace import not_negative

Array = NDArray[np.float64]

FIT_SHARE, FIT_DEPTH_SHARE = 0.0003, 0.0005
"""Curves hold an outline within these shares of its length, and of its depth or beam."""
UNLIKE = 0.0015
"""An outline whose curves change its area, or its depth or beam, by more than this share is too ragged to follow."""
GAP_SHARE = 0.002
"""An outline whose ends lie this share of its size apart is closed by a straight line, and that is said."""
PAGE_SHARE = 0.9
ALIKE = 0.03
"""Side and plan of one body are as long as each other within this."""
MUCH_SMALLER = 0.75
"""Next to the side, an outline that is less long than this is no plan: an eye, a fin, a lip."""
EVEN, UNEVEN = 0.001, 0.003
"""Halves of an outline that differ by less than the one share of its depth are alike, by more than the other are not."""
DOUBLED_BACK = 1.5e-3
LEAN = 0.1
"""Halves of a plan that differ by a larger share of the beam are no plan's."""


def _named(shown: Shown, name: str) -> list[Outline]:
    return [o for o in shown.outlines if o.name.strip().lower() == name]


def _only(name: str, outlines: list[Outline], what: str) -> Outline:
    """The outer loop of what has a name. Raises BadInput where several lie beside each other."""
    closed = sorted((_closed(name, o, what) for o in outlines), key=lambda o: -area_of(o.points))
    for other in closed[1:]:
        if not _within(other, closed[0]) and area_of(other.points) > 0.001 * area_of(closed[0].points):
            raise BadInput(f"{name}: '{what}' holds several outlines beside each other; leave one of them")
    return closed[0]


def _closed(name: str, outline: Outline, what: str) -> Outline:
    """An outline if it closes, or nearly. Raises BadInput with the gap."""
    size = float(outline.size.max())
    if outline.closed:
        return outline
    gap = float(np.linalg.norm(outline.points[0] - outline.points[-1]))
    if gap > GAP_SHARE * size:
        raise BadInput(f"{name}: '{what[:40]}' is open: its ends lie {gap:.2f} mm apart; close it and save it again")
    return replace(outline, closed=True)


def _within(inner: Outline, outer: Outline) -> bool:
    low, high = outer.points.min(axis=0), outer.points.max(axis=0)
    return bool((inner.points.min(axis=0) >= low - 1e-6).all() and (inner.points.max(axis=0) <= high + 1e-6).all())


def _border(outline: Outline, shown: Shown, others: list[Outline]) -> bool:
    """Whether an outline is the page's edge, or a frame about everything: an upright rectangle that holds all the rest."""
    low, high = outline.points.min(axis=0), outline.points.max(axis=0)
    wide, high_mm = high - low
    if area_of(outline.points) < 0.98 * wide * high_mm:
        return False
    if shown.page_mm is not None and wide > PAGE_SHARE * shown.page_mm[0] and high_mm > PAGE_SHARE * shown.page_mm[1]:
        return True
    return bool(others) and all(_within(o, outline) for o in others)


def _chosen(name: str, shown: Shown) -> tuple[Outline, Outline | None, list[str]]:
    """The side, the plan (None: there is none) and what was chosen. Raises BadInput."""
    notes: list[str] = []
    sides, plans = _named(shown, "side"), _named(shown, "plan")
    if sides:
        side = _only(name, sides, "side")
        plan = _only(name, plans, "plan") if plans else None
        return side, plan, notes
    if plans:
        raise BadInput(f"{name}: there is a 'plan' but no 'side'; name the side view's path 'side'")
    left = [o for o in shown.outlines if float(o.size.max()) > 0 and not o.name.strip().lower().endswith("-cut")]
    held = [o for o in left if o.closed or _nearly(o)]  # lines and arrows may run out of a frame
    frames = [o for o in held if o.closed and _border(o, shown, [p for p in held if p is not o])]
    if frames:
        notes.append("a frame about the drawing was left out")
    left = [o for o in left if all(o is not f for f in frames)]
    drawn = [o for o in left if not _is_line(o)]  # a middle line, or an arrow to a figure
    if any(o.closed or _nearly(o) for o in drawn):
        left = drawn
    solid = [o for o in left if o.closed or _nearly(o)]
    if not solid:
        open_one = max(left, key=lambda o: float(o.size.max()), default=None)
        if open_one is None:
            more = "; it holds a picture: trace that instead" if shown.pictures else "; draw the body's side view"
            raise BadInput(f"{name}: there is no path in it that encloses anything{more}")
        _closed(name, open_one, open_one.name)
    solid.sort(key=lambda o: -float(o.size.max()))
    longest = float(solid[0].size.max())
    open_ones = [o for o in left if o not in solid and float(o.size.max()) > MUCH_SMALLER * longest]
    if open_ones:
        _closed(name, open_ones[0], open_ones[0].name)
    alike = [o for o in solid if float(o.size.max()) > MUCH_SMALLER * longest]
    inside = [o for o in solid[1:] if any(o is not p and _within(o, p) for p in alike)]
    alike = [o for o in alike if all(o is not i for i in inside)]
    if len(alike) > 2:
        raise BadInput(f"{name}: {len(alike)} outlines of about one size; name two of them 'side' and 'plan'")
    held_in = {id(o) for o in (alike[0], *inside)}
    refuse_parts(name, alike[0], [o for o in solid if id(o) not in held_in])
    if len(solid) > len(alike):
        notes.append(f"{len(solid) - len(alike)} smaller outlines were left out")
    if len(alike) == 2:
        side, plan, why = _side_and_plan(*sorted(alike, key=lambda o: -area_of(o.points)))
        notes.append(f"{why}; name them 'side' and 'plan' to be sure")
        return side, plan, notes
    return alike[0], None, notes


def _is_line(outline: Outline) -> bool:
    """Whether it runs straight and does not close."""
    spread = np.linalg.svd(outline.points - outline.points.mean(axis=0), compute_uv=False)
    return not outline.closed and (len(spread) < 2 or bool(spread[1] < 1e-3 * spread[0]))


def _side_and_plan(larger: Outline, smaller: Outline) -> tuple[Outline, Outline, str]:
    """Which of two outlines is the side and which the plan, and why: a plan's halves are alike."""
    one, two = _unevenness(larger), _unevenness(smaller)
    if one < EVEN < UNEVEN < two:
        return smaller, larger, "the outline whose halves are alike was taken as the plan, the other as the side"
    if two < EVEN < UNEVEN < one:
        return larger, smaller, "the outline whose halves are alike was taken as the plan, the other as the side"
    return larger, smaller, "the larger outline was taken as the side, the other as the plan"


def _unevenness(outline: Outline) -> float:
    """By how much the halves of an outline differ about its middle line, as a share of its depth."""
    laid = lain(outline) if stands(outline) else outline
    _, top, bottom = edges_of(laid.points, 120)
    middle = (top + bottom) / 2.0
    return float(np.abs(middle - middle.mean()).max()) / max(float((top - bottom).max()), 1e-9)


def _nearly(outline: Outline) -> bool:
    gap = float(np.linalg.norm(outline.points[0] - outline.points[-1]))
    return len(outline.points) > 3 and gap <= GAP_SHARE * float(outline.size.max())


def _edges(name: str, outline: Outline, what: str) -> tuple[Array, Array, Array, list[float]]:
    """x, top and bottom of an outline, and x of its corners. Raises BadInput where it doubles back."""
    corners = [float(x) for x in outline.points[outline.corners, 0]]
    x, top, bottom = edges_of(outline.points, 480, corners)
    area, own = float(np.trapezoid(top - bottom, x)), area_of(outline.points)
    if abs(area - own) > DOUBLED_BACK * own:
        raise BadInput(
            f"{name}: the {what} doubles back along its length (a fork, a hook or a hollow end): "
            f"{100 * abs(area - own) / own:.1f} % of it cannot be drawn by one top and one bottom; draw the body alone"
        )
    return x, top, bottom, corners


def read_svg_body(path: Path | str, told: Told = unheard) -> Drawn:
    """Shape and cuts of a body from the closed paths `side` and `plan` (or the largest two of one size) of a drawing.

    Without a plan the body is as wide as it is deep. A drawing that the program wrote itself gives back the very outlines,
    sections, cuts and turning, as long as its paths are still those. Raises BadInput.
    """
    path = Path(path)
    shown, root = read_shown(path, told)
    side, plan, notes = _chosen(path.name, shown)
    kept = kept_in(root)
    refuse_unsound(path.name, side, "side")
    if plan is not None:
        refuse_unsound(path.name, plan, "plan")
    exact = as_kept(kept, side, plan)
    if exact is None and stands(side):
        shown.notes.append("it stands on end: taken as nose up")
        side, plan = lain(side), plan and lain(plan)
        exact = as_kept(kept, side, plan)
    if exact is not None:
        return replace(exact, notes=(*shown.notes, *exact.notes))
    notes = [*shown.notes, *notes, *changed(kept, side), *slant_of(path.name, side), *thickness_of(side, "side")]
    if plan is not None:
        notes += thickness_of(plan, "plan")
    shape = _fitted(path.name, kept, placed(side, plan, kept), plan, notes)
    try:
        if isinstance(shape, Lofted) and kept.get("sections"):
            shape = Lofted.model_validate({**dict(shape), "sections": kept["sections"]})
        body = piece_of(shape, kept)
    except ValueError as error:
        raise BadInput(f"{path.name}: what was kept beside the outlines is spoilt ({str(error)[:60]})") from None
    return Drawn(shape, body.cuts, tuple(notes))


def _refuse_unlike(name: str, what: str, x: Array, wanted: Array, drawn: Array, missed_mm: float) -> None:
    """Raise BadInput where curves miss an outline, heights (n,) over x, by more than is right."""
    area = abs(float(np.trapezoid(drawn, x)) / float(np.trapezoid(wanted, x)) - 1.0)
    high = abs(float(drawn.max()) / float(wanted.max()) - 1.0)
    if missed_mm > 3.0 * FIT_SHARE * float(x[-1] - x[0]) or max(area, high) > UNLIKE:
        raise BadInput(
            f"{name}: the {what} outline is too ragged to follow: curves miss it by {missed_mm:.2f} mm; smooth it and save "
            "it again"
        )


def _fitted(name: str, kept: dict[str, Any], side: Outline, plan: Outline | None, notes: list[str]) -> Lofted | Turned:
    x, top, bottom, corners = _edges(name, side, "side")
    shift = float(x[0])
    x, corners = x - shift, [c - shift for c in corners]
    length = float(x[-1])
    bound = min(FIT_SHARE * length, FIT_DEPTH_SHARE * float((top - bottom).max()))
    if kept.get("kind") == "turned":
        radius = fit_outline(x, (top - bottom) / 2, bound, corners)
        _refuse_unlike(name, "side", x, (top - bottom) / 2, curve(radius.outline).at(x), radius.error_mm)
        return Turned(profile=not_negative(radius.outline))
    back, belly = fit_outline(x, top, bound, corners), fit_outline(x, bottom, bound, corners)
    drawn = curve(back.outline).at(x) - curve(belly.outline).at(x)
    _refuse_unlike(name, "side", x, top - bottom, drawn, max(back.error_mm, belly.error_mm))
    px, half, plan_corners = x, (top - bottom) / 2, corners
    if plan is None:
        notes.append("there is no plan: the body is taken as wide as it is deep")
    else:
        px, high, low, plan_corners = _edges(name, plan, "plan")
        long = float(px[-1] - px[0])
        if abs(long / length - 1.0) > ALIKE:
            raise BadInput(
                f"{name}: the side is {length:.1f} mm long and the plan {long:.1f} mm; draw both to one size"
            )
        if abs(long / length - 1.0) > 1e-3:
            notes.append(f"the plan was {long:.2f} mm long and was stretched to the side's {length:.2f} mm")
        middle = (high + low) / 2
        lean = float(np.abs(middle - middle.mean()).max()) / float((high - low).max())
        if lean > LEAN:
            raise BadInput(
                f"{name}: the plan's halves differ by {100 * lean:.0f} % of the beam; draw it level, both halves alike"
            )
        if lean > 0.01:
            notes.append(f"the plan's halves differ by {100 * lean:.0f} % of the beam; their mean was taken")
        plan_corners = [(c - px[0]) * length / long for c in plan_corners]
        px, half = (px - px[0]) * length / long, np.maximum((high - low) / 2, 0.0)
        px[-1] = length
    beam = fit_outline(px, half, min(FIT_SHARE * length, FIT_DEPTH_SHARE * float(2.0 * half.max())), plan_corners)
    _refuse_unlike(name, "plan", px, half, curve(beam.outline).at(px), beam.error_mm)
    return Lofted(back=back.outline, belly=belly.outline, plan=not_negative(beam.outline))

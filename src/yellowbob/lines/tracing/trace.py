"""A picture and one known length to a design's outlines."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.base import LONGEST_MM
from yellowbob.design.model import Design
from yellowbob.design.shape import Lofted, OutlinePoint, Turned
from yellowbob.design.starts import bare_design
from yellowbob.lines.tracing.edge import area_of
from yellowbob.lines.tracing.fit import edges_of, fit_outline
from yellowbob.lines.tracing.silhouette import BadPicture, Silhouette

Array = NDArray[np.float64]

SHORTEST_MM = 2.0
FIT_SHARE = 0.002
"""Error that a fit must hold, as a share of the length."""
LEAN_SHARE = 0.04
"""A turned body whose two halves differ by more than this share of its depth is leaning, or not turned."""


@dataclass(frozen=True, eq=False)
class Trace:
    """What was read off a picture. Lengths mm, area mm²; `fit_error_mm` is the curves' largest miss."""

    shape: Lofted | Turned
    length_mm: float
    depth_mm: float
    area_mm2: float
    fit_error_mm: float
    points: int
    warnings: tuple[str, ...]
    outline_mm: Array
    """the silhouette itself, levelled: x aft of the nose, z up"""
    to_px: Array
    """(2, 3): picture pixel of (x, z, 1), to lay the picture under the drawing"""


def major_axis(outline: Array) -> Array:
    """Unit vector along a closed outline's length, from the second moments of its area, pointing right."""
    a, b = outline, np.roll(outline, -1, axis=0)
    cross = a[:, 0] * b[:, 1] - b[:, 0] * a[:, 1]
    area = cross.sum() / 2
    centre = ((a + b) * cross[:, None]).sum(axis=0) / (6 * area)
    a, b = a - centre, b - centre
    cross = a[:, 0] * b[:, 1] - b[:, 0] * a[:, 1]
    xx = (cross * (a[:, 0] ** 2 + a[:, 0] * b[:, 0] + b[:, 0] ** 2)).sum() / 12 / area
    yy = (cross * (a[:, 1] ** 2 + a[:, 1] * b[:, 1] + b[:, 1] ** 2)).sum() / 12 / area
    xy = (cross * (a[:, 0] * b[:, 1] + 2 * a[:, 0] * a[:, 1] + 2 * b[:, 0] * b[:, 1] + b[:, 0] * a[:, 1])).sum()
    angle = 0.5 * np.arctan2(2 * xy / 24 / area, xx - yy)
    return np.array([np.cos(angle), np.sin(angle)]) * (1 if np.cos(angle) >= 0 else -1)


def levelled(outline: Array, mm_per_px: float, along: Array, nose: str) -> Array:
    """The outline in mm, x aft from the nose end, z up, with the nose end's middle at z = 0."""
    x = outline @ along * mm_per_px
    z = -(outline @ np.array([-along[1], along[0]])) * mm_per_px
    if nose == "right":
        x, z = -x, z
    x = x - x.min()
    length = float(x.max())
    front = z[x < 0.01 * length]
    return np.stack([x, z - (front.max() + front.min()) / 2], axis=1)


def traced(
    side: Silhouette, mm_per_px: float, turned: bool, plan: Silhouette | None = None,
    along: Array | None = None, nose: str = "left", error_mm: float | None = None,
) -> Trace:  # fmt: skip
    """Fit a body to a silhouette.

    Parameters
    ----------
    side : silhouette of the side (or only) view; mm_per_px : its scale.
    turned : one profile about an axis instead of back, belly and plan.
    plan : silhouette from above; it is scaled to the side's length. Without it the plan is as wide as the body is deep.
    along : unit vector that lies level in the picture, pixels; the silhouette's major axis when None.
    nose : the end of the picture that the nose is at, `left` or `right`.
    error_mm : error that the fit must hold; FIT_SHARE of the length when None.
    """
    axis = major_axis(side.outline) if along is None else np.asarray(along) / np.linalg.norm(along)
    outline = levelled(side.outline, mm_per_px, axis, nose)
    length = float(outline[:, 0].max())
    if not SHORTEST_MM <= length <= LONGEST_MM:
        raise BadPicture(f"the body comes out {length:.3g} mm long; is the known length right, and its unit?")
    if error_mm is not None and not 0 < error_mm < length:
        raise BadPicture(f"an error of {error_mm:g} mm is none that curves can hold; give 0.05 to 2 mm")
    bound = FIT_SHARE * length if error_mm is None else error_mm
    x, top, bottom = edges_of(outline, 480)
    warnings = [*side.doubts, *(f"the plan: {doubt}" for doubt in (plan.doubts if plan is not None else ()))]
    shape: Lofted | Turned
    if turned:
        middle = np.polyval(np.polyfit(x, (top + bottom) / 2, 1), x)
        lean = float(np.abs((top + bottom) / 2 - middle).max()) / float((top - bottom).max())
        if lean > LEAN_SHARE:
            warnings.append(
                f"its two halves differ by {100 * lean:.0f} % of the depth: it leans to the camera, or is not turned"
            )
        fit = fit_outline(x, (top - bottom) / 2, bound)
        shape = Turned(profile=fit.outline)
        error, points = fit.error_mm, len(fit.outline)
    else:
        back, belly = fit_outline(x, top, bound), fit_outline(x, bottom, bound)
        error, points = max(back.error_mm, belly.error_mm), len(back.outline) + len(belly.outline)
        if plan is None:
            half = fit_outline(x, (top - bottom) / 2, bound)
        else:
            seen = levelled(plan.outline, 1.0, major_axis(plan.outline), nose)
            seen = seen * (length / float(seen[:, 0].max()))
            px, ptop, pbottom = edges_of(seen)
            half = fit_outline(px, (ptop - pbottom) / 2, bound)
            uneven = float(np.abs((ptop + pbottom) / 2 - np.polyval(np.polyfit(px, (ptop + pbottom) / 2, 1), px)).max())
            if uneven > LEAN_SHARE * float((ptop - pbottom).max()):
                warnings.append("the plan's two halves differ: it was not taken from straight above")
            error, points = max(error, half.error_mm), points + len(half.outline)
        shape = Lofted(back=back.outline, belly=belly.outline, plan=not_negative(half.outline))
    if along is None and abs(np.degrees(np.arctan2(axis[1], axis[0]))) > 30:
        warnings.append("it lies more than 30° off level in the picture: check which end is the nose")
    if error > 1.05 * bound:
        warnings.append(f"the curves miss the outline by {error:.2f} mm, more than the {bound:.2f} mm asked")
    to_px = _back_to_picture(side.outline, outline)
    deep = float((top - bottom).max())
    return Trace(shape, length, deep, area_of(outline), error, points, tuple(warnings), outline, to_px)


def _back_to_picture(pixels: Array, levelled_mm: Array) -> Array:
    """The affine map (2, 3) from levelled mm to the picture's pixels, from the outline in both."""
    rows = np.column_stack([levelled_mm, np.ones(len(levelled_mm))])
    found, *_ = np.linalg.lstsq(rows, pixels, rcond=None)
    return np.asarray(found.T)


def not_negative(points: tuple[OutlinePoint, ...]) -> tuple[OutlinePoint, ...]:
    """Half-widths that a fit let dip below nothing, put back to nothing."""
    return tuple(p if p.at_mm[1] >= 0 else OutlinePoint(at_mm=(p.at_mm[0], 0.0), bend=p.bend) for p in points)


def traced_design(trace: Trace, name: str) -> Design:
    """A bare design of the traced shape."""
    return bare_design(name or "traced", trace.shape, notes=f"Traced; the curves hold {trace.fit_error_mm:.2f} mm.")

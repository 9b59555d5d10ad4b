"""What two clicked places tell: the scale, and what an outline has to do with them where they are the ends of the body."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.base import LONGEST_MM
from yellowbob.lines.tracing.background import BadPicture
from yellowbob.lines.tracing.levels import NEAR_SHARE, Ends
from yellowbob.lines.tracing.tips import MOST_SHORT_SHARE, SHORT_SHARE, to_clicks

Array = NDArray[np.float64]

ONE_SIDED, ONE_SIDED_SAID = 0.12, 0.2
"""A body lies to both sides of the line between its ends, its lesser depth at least this share of the greater; up to which
it is said."""


def scale_of(known_mm: float, start: tuple[float, float], end: tuple[float, float]) -> float:
    """mm per pixel from a known length between two places in the picture. Raises BadPicture."""
    apart = float(np.hypot(end[0] - start[0], end[1] - start[1]))
    if apart < 2.0:
        raise BadPicture("the two places of the known length are the same; click its two ends")
    if not 0 < known_mm <= LONGEST_MM:
        raise BadPicture(
            f"a known length of {known_mm:g} mm cannot be; give more than nothing and at most {LONGEST_MM:g} mm"
        )
    return known_mm / apart


def refuse_missed_ends(outline: Array, ends: Ends, factor: float) -> None:
    """Refuse an outline that one of the clicked ends misses, or both."""
    from skimage.measure import points_in_poly

    away = [float(np.linalg.norm(outline - np.asarray(end), axis=1).min()) for end in (ends.one, ends.two)]
    near = [a <= NEAR_SHARE * ends.apart + 1.0 for a in away]
    between = np.linspace(0.08, 0.92, 40)[:, None] * (np.asarray(ends.two) - ends.one) + ends.one
    crosses = float(points_in_poly(between, outline).mean()) > 0.05
    if all(near) and one_sided(outline, ends) < ONE_SIDED:
        raise BadPicture(
            "what was found lies all to one side of the line between its ends, as a back does whose belly has the "
            "background's colour; use another background, or touch it up with the brush"
        )
    if all(near):
        return
    if not (any(near) or crosses):
        raise BadPicture(
            "what stands out most in it is not what was clicked: click the two ends of the body; where the known length lies "
            "on something else, such as a ruler, say that it lies beside the body"
        )
    raise BadPicture(
        f"the outline found passes {max(away) * factor:.0f} pixels from an end that was clicked: part of the body cannot "
        "be told from the background; use another background, touch it up with the brush, or click its two ends"
    )


def one_sided(outline: Array, ends: Ends) -> float:
    """How deep an outline is to one side of the line between the clicked ends, as a share of the other, the greater."""
    line = (np.asarray(ends.two) - ends.one) / ends.apart
    sides = (outline - ends.one) @ np.array([-line[1], line[0]])
    return float(min(sides.max(), -sides.min()) / max(sides.max(), -sides.min(), 1e-9))


def by_its_ends(outline: Array, ends: Ends, by_hand: bool) -> tuple[Array, tuple[str, ...]]:
    """The outline drawn on to its clicked ends, and what is doubtful about that. Raises BadPicture if it is far off."""
    if by_hand:
        drawn, (_, short) = outline, to_clicks(outline, ends.one, ends.two, 0.0)
    else:
        drawn, short = to_clicks(outline, ends.one, ends.two, NEAR_SHARE * ends.apart + 1.0)
    told = f"it comes out {abs(100 * short):.1f} % {'shorter' if short > 0 else 'longer'} than what was clicked"
    if abs(short) > MOST_SHORT_SHARE and not by_hand:
        raise BadPicture(
            f"{told}: a shadow or something else lies against it, or an end has the background's colour; "
            "use softer light or another background, or touch it up with the brush"
        )
    doubts = [f"{told}: look at its ends"] if abs(short) > SHORT_SHARE else []
    if one_sided(drawn, ends) < ONE_SIDED_SAID:
        doubts.append(
            "nearly all of it lies to one side of the line between its ends: look whether a part is missing there"
        )
    return drawn, tuple(doubts)

"""How a build lies in a picture: two clicks along the waterline and two at the ends of the body give pitch and draft.

The camera is taken to look level and square at the side of it: an estimate, its uncertainty that of the clicks alone.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.errors import BadInput

Array = NDArray[np.float64]
Click = tuple[float, float]

CLICK_PX = 2.0
"""How well a place in a picture is clicked, one sigma: a rule."""
LEAST_PX = 40.0
LEAST_UPRIGHT = 0.02
MOST_U_DEG, MOST_U_MM = 30.0, 50.0


@dataclass(frozen=True)
class Clicked:
    """pitch_deg: nose-up positive; draft_mm: of the lowest point of what was given; with standard uncertainties.

    mm_per_px: the picture's scale. water_mm: height of the water over the body's axis, at the nose and at the tail.
    """

    pitch_deg: float
    pitch_u_deg: float
    draft_mm: float
    draft_u_mm: float
    mm_per_px: float
    water_mm: tuple[float, float]


def clicked(
    waterline: tuple[Click, Click], ends: tuple[Click, Click], ends_mm: tuple[Click, Click], outline_mm: Array,
    click_px: float = CLICK_PX,
) -> Clicked:  # fmt: skip
    """Pitch and draft from a picture's places, pixels, x to the right and y down.

    ends : the nose, then the tail, as clicked; ends_mm : the same two in the body's (x, z), mm; outline_mm : (n, 2) places
    of the body in (x, z), whose lowest is the draft's. Raises BadInput for clicks that say nothing.
    """
    picture = np.array([(x, -y) for x, y in ends]), np.array([(x, -y) for x, y in waterline])
    (nose, tail), (left, right) = picture
    if not all(math.isfinite(v) for pair in (*ends, *waterline) for v in pair):
        raise BadInput("a click is no place in the picture")
    long, wide = float(np.hypot(*(tail - nose))), float(np.hypot(*(right - left)))
    if min(long, wide) < LEAST_PX:
        raise BadInput(
            f"two clicks lie {min(long, wide):.0f} pixels apart; take them further apart, {LEAST_PX:g} at least"
        )
    if right[0] < left[0]:
        left, right = right, left
    along = (right - left) / wide
    if abs(along[0]) < LEAST_UPRIGHT:
        raise BadInput("the waterline as clicked stands upright; turn the picture level first")
    up = np.array([-along[1], along[0]])
    body = np.asarray(ends_mm[1], dtype=float) - np.asarray(ends_mm[0], dtype=float)
    scale = float(np.hypot(*body)) / long
    # the body's axes in the picture: the back up, the nose to whichever side it was clicked
    way = (tail - nose) / long
    straight = np.array([way @ along, way @ up])
    left_to_right = 1.0 if straight[0] >= 0.0 else -1.0
    lean = math.atan2(straight[1], left_to_right * straight[0])  # of the line between the ends, tail up positive
    offset = math.atan2(body[1], body[0])
    if abs(offset) > 1e-6 and abs(lean) > math.pi / 2.0 - 2.0 * abs(offset):
        raise BadInput("it stands so nearly upright that its back cannot be told from its belly; type what you read")
    pitch = offset - lean
    high = np.array([math.sin(-pitch), math.cos(pitch)])  # the vertical in the body's axes
    level = float(np.asarray(ends_mm[0]) @ high) + scale * float((left - nose) @ up)
    draft = level - float((outline_mm @ high).min())
    if draft <= 0.0:
        raise BadInput("as clicked the whole of it lies over the water; click the waterline where water meets the body")
    turn = math.degrees(math.sqrt(2.0) * click_px * math.hypot(1.0 / long, 1.0 / wide))
    if turn > MOST_U_DEG or scale * click_px * 2.0 > MOST_U_MM:
        raise BadInput("the clicks are too rough to say anything; use a larger picture")
    water = tuple((level - float(np.asarray(p) @ high)) / max(high[1], 1e-6) for p in ends_mm)
    return Clicked(
        math.degrees(pitch), turn, draft, 1.5 * click_px * scale + 0.5 * math.radians(turn) * float(np.hypot(*body)) / 2.0,
        scale, (water[0], water[1]),
    )  # fmt: skip

"""Checks of what meets the surface: cups, faces, lips."""

from __future__ import annotations

import numpy as np

from yellowbob.checks.verdict import Finding, check
from yellowbob.design.cuts import Cup
from yellowbob.design.plates import Lip
from yellowbob.lines.cutting import cup_axis
from yellowbob.study import Study, of

LEAST_RIM_MM = 1.2
"""Rim left around a cup that does not chip: a rule."""


def _rim(cup: Cup) -> np.ndarray[tuple[int, int], np.dtype[np.float64]]:
    """(48, 3) places round a cup's rim, body axes."""
    turns = np.linspace(0.0, 2.0 * np.pi, 49)[:-1]
    inward = cup_axis(cup)
    across = np.array([0.0, 1.0, 0.0])
    upward = np.cross(inward, -across)
    wide = (cup.width_mm or cup.diameter_mm) / 2
    centre = np.array([cup.rim_x_mm, 0.0, cup.z_mm])
    return np.asarray(
        centre + np.cos(turns)[:, None] * across * wide + np.sin(turns)[:, None] * upward * cup.diameter_mm / 2
    )


@check(
    "drains",
    "Cup drains",
    "Tail down, the face clear enough to drain, so that the cup holds air when it is pulled.",
    "rule",
)
def drains(study: Study) -> Finding | None:
    cups, rest = of.cups(study), of.upright_rest(study)
    if not cups or rest is None:
        return None
    dry = float(np.mean(_rim(cups[0]) @ np.asarray(rest.up) > rest.height_mm))
    figure = f"{100 * dry:.0f} % of the rim in air"
    if dry < 0.5:
        return Finding("watch", figure, "Sit it more tail-down, or shallower: a drowned cup gulps no air.")
    return Finding("good", figure)


@check(
    "air", "Holds air", "A cup whose lower lip is wet at rest takes air and water together on the first pull.", "rule"
)
def holds_air(study: Study) -> Finding | None:
    cups, rest = of.cups(study), of.upright_rest(study)
    if not cups or rest is None:
        return None
    heights = _rim(cups[0]) @ np.asarray(rest.up) - rest.height_mm
    low = float(heights.min())
    figure = f"lower rim {abs(low):.1f} mm {'over' if low > 0 else 'under'} the water"
    if low > 0.5 * cups[0].diameter_mm:
        return Finding("watch", figure, "It rides high: the cup slaps before it gulps. A little less tail weight.")
    return Finding("good", figure)


@check("rim", "Cup's rim", "Thin rims chip, and a chipped cup no longer pops.", "rule")
def rim(study: Study) -> Finding | None:
    cups = of.cups(study)
    if not cups:
        return None
    left = min(of.rims_left_mm(study))
    if left < LEAST_RIM_MM:
        return Finding("watch", f"{left:.1f} mm left", "Make the cup narrower, or the head wider.")
    return Finding("good", f"{left:.1f} mm left")


@check("pools", "Varnish in the cup", "Varnish pools in a cup, so it is cut deeper than drawn.", "rule")
def pools(study: Study) -> Finding | None:
    cups = of.cups(study)
    if not cups or not study.build.coats:
        return None
    least = min(c.pool_mm for c in cups)
    if least <= 0.0:
        return Finding(
            "watch", "no allowance", "Cut the cup 0.3 to 0.6 mm deeper than you want it: Lines, the cup's entry."
        )
    return Finding("good", f"cut {least:.1f} mm deeper")


@check("lip", "Lip wet", "A wake bait's lip should be just wet: dry it does not bite, deep it dives.", "rule")
def lip(study: Study) -> Finding | None:
    rest = of.upright_rest(study)
    lips = [k for k, p in enumerate(study.build.parts) if isinstance(p.shape, Lip)]
    if not lips or rest is None:
        return None
    places = of.parts(study)[lips[0]].vertices
    under = float((places @ np.asarray(rest.up) < rest.height_mm).mean())
    if under < 0.05:
        return Finding("watch", "dry at rest", "Bring the nose down a little, or set the lip lower.")
    return Finding("good", f"{100 * under:.0f} % under")

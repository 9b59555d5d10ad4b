"""Walk: twitched from side to side on slack line. How soon it turns over to the other side, how far it glides meanwhile.

A body free in the plane: its own mass and the water's that moves with it (strips at its rest, Newman 1977, 4.16), cross-flow
drag of every strip (Hoerner 1965, 3-9), the stream's push ahead (`pressure`). A twitch draws the tie along a line that leads
straight ahead, at a speed and for a length; then the line is slack. Graded rule: for comparing; eddies, the line on the
water and waves are left out.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.action.lateral import CROSS_CD, axes_of, sides
from yellowbob.action.periods import Body
from yellowbob.action.running import Pulled, Trim
from yellowbob.afloat.rest import Rest
from yellowbob.ground.errors import BadInput

Array = NDArray[np.float64]

GRADE = "rule"
SOURCE = "strip theory, Newman 1977, 4.16; cross-flow drag, Hoerner 1965, 3-9; the twitch a rule"
TWITCH_M_S = 0.6
"""Speed that a twitch gives its tie, along the line."""
PULL_MM = 60.0
"""How far a twitch draws the line."""
LONGEST_S = 1.2
"""So long after a twitch it is watched."""
STEP_S = 0.004
SIDE_DEG = 30.0
"""It lies so far to one side of the line before a twitch, and has walked once it lies as far to the other."""
AHEAD_SHARE = 0.1
"""Water that moves ahead with it, of its displacement (Lamb 1932, art. 114, for a long body): a rule."""


@dataclass(frozen=True)
class Walk:
    """One twitch of a body that lies SIDE_DEG to a side. turn_s: until it lies as far to the other, None where it does not
    get there; turns_deg: how far it turns at most; glide_mm, aside_mm: its way ahead and to a side by then."""

    turn_s: float | None
    turns_deg: float
    glide_mm: float
    aside_mm: float


@dataclass(frozen=True, eq=False)
class _Afloat:
    """What moves in the plane: mass g, that with the water that moves ahead with it, (2, 2) of sway and yaw with their
    water and its inverse; strips (n,) aft of the centre and their cross-flow drag; drag ahead over speed²; the tie aft of the
    centre."""

    mass_g: float
    ahead_g: float
    sideways: Array
    inverse: Array
    at_mm: Array
    drag: Array
    braked: float
    tie_mm: float

    def rates(self, state: Array) -> Array:
        """Of speed ahead u (ahead is -x), sway v along y, yaw rate r about up, yaw; places along the line and across it."""
        u, v, r, yaw = state[:4]
        side = v + self.at_mm * r
        push = -self.drag * np.abs(side) * side
        # a body's own axes turn with it (Fossen 2011, 6.3)
        sway, turn = self.inverse @ np.array([push.sum() + self.mass_g * u * r, float(push @ self.at_mm)])
        go = (-self.braked * abs(u) * u - v * r * self.sideways[0, 0]) / self.ahead_g
        # the nose points to -x, turned by yaw about up
        east = -u * math.cos(yaw) - v * math.sin(yaw)
        north = -u * math.sin(yaw) + v * math.cos(yaw)
        return np.array([go, sway, turn, r, east, north])

    def drawn(self, state: Array, wanted: float) -> Array:
        """With an impulse that gives the tie a speed along the line, where it has less: ahead by cos, aside by sin of yaw."""
        ahead, aside = math.cos(state[3]), math.sin(state[3]) * np.array([1.0, self.tie_mm])
        goes = float(state[0] * ahead + state[1:3] @ aside)
        if goes < wanted:
            impulse = (wanted - goes) / (ahead**2 / self.ahead_g + float(aside @ self.inverse @ aside))
            state = state.copy()
            state[0] += impulse * ahead / self.ahead_g
            state[1:3] += impulse * self.inverse @ aside
        return state

    def twitched(self, side: float, wanted: float) -> Array:
        """(k, 3) yaw and places, each STEP_S, after a twitch of so many mm/s."""
        state = np.zeros(6)
        state[3] = side
        rows = [state[3:].copy()]
        for n in range(round(LONGEST_S / STEP_S)):
            if n * STEP_S * wanted <= PULL_MM:
                state = self.drawn(state, wanted)
            a = self.rates(state)
            b = self.rates(state + 0.5 * STEP_S * a)
            c = self.rates(state + 0.5 * STEP_S * b)
            d = self.rates(state + STEP_S * c)
            state = state + STEP_S / 6.0 * (a + 2.0 * b + 2.0 * c + d)
            rows.append(state[3:].copy())
        return np.array(rows)


def _afloat(thing: Pulled, trim: Trim, body: Body) -> _Afloat | None:
    strips = sides(thing, trim)
    if strips is None:
        return None
    axes = axes_of(thing, trim)
    x, step, water = strips.at_mm, strips.step_mm, strips.water_g_mm
    frame = np.stack([axes.aft, axes.across, axes.up])
    own = float((frame @ np.asarray(body.inertia_g_mm2) @ frame.T)[2, 2])
    mass = thing.afloat.mass_g
    none, one, two = (float((water * x**k).sum() * step) for k in range(3))
    sideways = np.array([[mass + none, one], [one, own + two]])
    drag = 0.5 * thing.afloat.density_g_mm3 * CROSS_CD * strips.high_mm * step
    stream = thing.stream(trim.up, trim.height_mm, 1000.0 * axes.aft, np.zeros(3))
    return _Afloat(
        mass, mass * (1.0 + AHEAD_SHARE), sideways, np.linalg.inv(sideways), x, drag, float(frame[0] @ stream[:3]) / 1e6,
        float(axes.of(np.asarray(thing.tie_mm))[0]),
    )  # fmt: skip


def walk(thing: Pulled, rest: Rest, body: Body, twitch_m_s: float = TWITCH_M_S) -> Walk | None:
    """Twitch it once; None where nothing of it is wet. Raises BadInput for a twitch out of 0.05 to 3 m/s."""
    if not 0.05 <= twitch_m_s <= 3.0:
        raise BadInput(f"a twitch of {twitch_m_s:g} m/s: give 0.05 to 3")
    trim = Trim(0.0, rest.pitch_rad, rest.height_mm, rest.draft_mm, 0.0, 0.0, 0.0, (0.0, 0.0, 0.0))
    moved = _afloat(thing, trim, body)
    if moved is None:
        return None
    start = math.radians(SIDE_DEG)
    rows = moved.twitched(start, 1000.0 * twitch_m_s)
    over = np.flatnonzero(rows[:, 0] <= -start)
    last = int(over[0]) if len(over) else len(rows) - 1
    return Walk(
        None if not len(over) else last * STEP_S, math.degrees(start - float(rows[:, 0].min())), -float(rows[last, 1]),
        abs(float(rows[last, 2])),
    )  # fmt: skip

"""What weighings say of a piece: corrections of its densities, films, lead and hardware, and what remains unsure.

A reading y of a stated set of things was forecast as f. With the causes' own uncertainties P and the scale's R, the
corrections are x = P·Jᵀ·(J·P·Jᵀ + R)⁻¹·(y - f), and P - P·Jᵀ·(J·P·Jᵀ + R)⁻¹·J·P remains of their covariance: weighted
least squares with the forecast as prior (Tarantola 2005, eq. 3.37). Masses are linear in all causes, so this is exact.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.model import Design, Weighing
from yellowbob.design.record import STAGES, Stage
from yellowbob.weights.causes import OF_PIECE, Cause, causes_of, causes_of_lines
from yellowbob.weights.slip import Slip

Array = NDArray[np.float64]

SCALE_G = 0.02
SCALE_SHARE = 0.0005
"""σ of a kitchen scale's reading where none is given: a rule."""
SURPRISE = 3.0
"""A weighing further off than so many σ is not explained by what is known to vary."""
SAME_G = 1e-9


@dataclass(frozen=True)
class Weighed:
    """One weighing against what was expected of it. Masses g.

    forecast_g : before any weighing; expected_g : as the corrected piece would weigh so; sigmas : how far it lies from
    what everything else, other weighings with it, leads to expect, in σ; likely : the likeliest mistake where that is
    too far.
    """

    weighing: Weighing
    forecast_g: float
    expected_g: float
    u_g: float
    sigmas: float
    likely: str = ""

    @property
    def surprising(self) -> bool:
        """Whether it cannot be explained within three σ."""
        return abs(self.sigmas) > SURPRISE

    @property
    def misread(self) -> bool:
        """Whether a reading in another unit, or with its point in another place, would explain what is too far off."""
        return any(self.likely == words for words, _ in SLIPS)


@dataclass(frozen=True, eq=False)
class Evidence:
    """What all weighings together say: per cause the correction (its unit), and the covariance that remains (n, n)."""

    causes: tuple[Cause, ...]
    correction: Array
    covariance: Array
    weighed: tuple[Weighed, ...]

    def of(self, key: str) -> tuple[float, float] | None:
        """(correction, remaining σ) of a cause; None for one it does not know."""
        at = next((k for k, c in enumerate(self.causes) if c.key == key), None)
        return None if at is None else (float(self.correction[at]), math.sqrt(max(0.0, float(self.covariance[at, at]))))

    @property
    def surprising(self) -> tuple[Weighed, ...]:
        """The weighings that cannot be explained within three σ."""
        return tuple(w for w in self.weighed if w.surprising)


def scale_u_g(weighing: Weighing) -> float:
    """Standard uncertainty of a reading, g."""
    return weighing.u_g if weighing.u_g is not None else math.hypot(SCALE_G, SCALE_SHARE * weighing.mass_g)


_FROM: dict[str, Stage] = {
    "body": "bare body", "cast": "bare body", "ballast": "ballasted", "plug": "ballasted", "coat": "finished",
    "pool": "finished",
}  # fmt: skip


def stage_of_line(key: str) -> Stage:
    """The stage from which a thing lies on the scale, by its slip key."""
    kind, _, rest = key.partition(":")
    if kind in OF_PIECE and not rest:
        return "bare body" if kind in ("hollow", "cast in") else "drilled body"
    return _FROM.get(kind, "fitted")


def share_on_scale(weighing: Weighing, key: str) -> float:
    """How much of a thing lay on the scale, 0 to 1: as ticked, else whether the stage has it by then."""
    if key in weighing.shares:
        return weighing.shares[key]
    return 1.0 if STAGES.index(stage_of_line(key)) <= STAGES.index(weighing.stage) else 0.0


def things_of(slip: Slip) -> dict[str, float]:
    """What each thing is forecast to weigh, g, by its slip key: what a weighing keeps of the design it was made of."""
    return {line.key: line.mass.mass_g for line in slip.lines}


@dataclass(frozen=True, eq=False)
class _Row:
    """One weighing over the causes: forecast g and the slopes, g per unit of each cause."""

    forecast_g: float
    slopes: dict[str, float]
    things: dict[str, float]


def _row(weighing: Weighing, design: Design, slip: Slip, causes: dict[str, Cause]) -> _Row:
    """Things that weighed otherwise then than they would now are other things: they get causes of their own."""
    now = things_of(slip)
    goes_with = causes_of_lines(design)
    forecast = 0.0
    slopes: dict[str, float] = {}
    lain: dict[str, float] = {}
    for key, mass in (weighing.then or now).items():
        share = share_on_scale(weighing, key)
        if share == 0.0 or mass == 0.0:
            continue
        for cause, part in goes_with.get(key, ((key, 1.0),)):
            grams = share * part * mass
            name = cause
            if cause.startswith("density:"):
                dense = weighing.densities.get(cause.partition(":")[2], causes[cause].now) if cause in causes else 1.0
                per = grams / dense
                forecast += per * causes[cause].now if cause in causes else grams
            else:
                forecast += grams
                per = grams
                if key in now and abs(now[key] - mass) > SAME_G and not key.startswith("coat:"):
                    name = f"{cause}@{mass:.9g}"
            slopes[name] = slopes.get(name, 0.0) + per
        lain[key] = share * mass
    return _Row(forecast, slopes, lain)


def _with_former(rows: list[_Row], causes: dict[str, Cause]) -> dict[str, Cause]:
    """The causes, with those of things that have been exchanged since: they vary as what took their place."""
    out = dict(causes)
    for row in rows:
        for name in row.slopes:
            if name not in out:
                like = causes.get(name.partition("@")[0])
                sigma, unit = (like.sigma, like.unit) if like is not None else (0.05, "of it")
                out[name] = Cause(name, like.words if like is not None else name, sigma, unit)
    return out


def rows_of(design: Design, slip: Slip) -> list[tuple[float, dict[str, float], float]]:
    """For each heeded weighing of a design whose forecast is `slip`: how far it is off the forecast, g, g per unit of each
    cause, and the scale's standard uncertainty, g."""
    causes = causes_of(design)
    heeded = [w for w in design.weighings if w.heeded and w.mass_g > 0.0]
    rows = [_row(w, design, slip, causes) for w in heeded]
    return [(w.mass_g - row.forecast_g, row.slopes, scale_u_g(w)) for w, row in zip(heeded, rows, strict=True)]


def evidence_of(design: Design, slip: Slip) -> Evidence:
    """Solve for all heeded weighings of a design whose forecast is `slip`. A weighing of 0 g says nothing and is left out."""
    causes = causes_of(design)
    heeded = [w for w in design.weighings if w.heeded and w.mass_g > 0.0]
    rows = [_row(w, design, slip, causes) for w in heeded]
    every = tuple(_with_former(rows, causes).values())
    prior = np.diag([c.sigma**2 for c in every])
    if not rows:
        return Evidence(every, np.zeros(len(every)), prior, ())
    slopes = np.array([[row.slopes.get(c.key, 0.0) for c in every] for row in rows])
    off = np.array([w.mass_g - row.forecast_g for w, row in zip(heeded, rows, strict=True)])
    scale = np.array([scale_u_g(w) for w in heeded])
    spread = slopes @ prior @ slopes.T + np.diag(scale**2)
    gain = np.linalg.solve(spread, slopes @ prior).T
    correction = gain @ off
    correction[np.abs(correction) < 1e-13] = 0.0
    covariance = prior - gain @ slopes @ prior
    inverse = np.linalg.inv(spread)
    sigmas = (inverse @ off) / np.sqrt(np.diag(inverse))
    expected = slopes @ correction
    weighed = []
    for number, (one, row) in enumerate(zip(heeded, rows, strict=True)):
        likely = ""
        if abs(sigmas[number]) > SURPRISE:
            likely = likeliest_mistake(one, row.things, things_of(slip), float(1.0 / np.sqrt(inverse[number, number])),
                                       float(one.mass_g - sigmas[number] / math.sqrt(inverse[number, number])))  # fmt: skip
        weighed.append(
            Weighed(one, row.forecast_g, row.forecast_g + float(expected[number]), float(scale[number]),
                    float(sigmas[number]), likely)
        )  # fmt: skip
    return Evidence(every, correction, (covariance + covariance.T) / 2.0, tuple(weighed))


SLIPS: tuple[tuple[str, float], ...] = (
    ("the decimal point slipped: ten times too much", 0.1), ("the decimal point slipped: a tenth of it", 10.0),
    ("ounces read as grams", 28.349523125), ("grains read as grams", 0.06479891),
)  # fmt: skip
"""Mistakes of reading: what the true mass would be, times the one written down."""


def likeliest_mistake(
    weighing: Weighing, lain: dict[str, float], things: dict[str, float], sigma_g: float, wanted_g: float
) -> str:
    """In words, the single mistake that would explain a weighing best; empty when none comes within three σ.

    wanted_g, sigma_g : what everything else leads to expect.
    """
    tries = [(abs(weighing.mass_g * times - wanted_g), words) for words, times in SLIPS]
    for key, mass in things.items():
        name = key.partition(":")[2] or key
        if abs(mass) < SURPRISE * sigma_g * 0.2 or key.partition(":")[0] in ("body", *OF_PIECE):
            continue
        if key in lain:
            tries.append((abs(weighing.mass_g + lain[key] - wanted_g), f"{name} was not on the scale"))
        else:
            tries.append((abs(weighing.mass_g - mass - wanted_g), f"{name} was on the scale already"))
    off, words = min(tries, default=(math.inf, ""))
    return words if off <= SURPRISE * sigma_g else ""

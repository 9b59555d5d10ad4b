"""A ladder of sizes: what becomes of a design when it is made larger or smaller."""

from __future__ import annotations

from dataclasses import dataclass

from yellowbob.design.model import Design
from yellowbob.design.rescale import rescaled
from yellowbob.ground.errors import NoHollow
from yellowbob.ground.progress import Told, each, tell, unheard
from yellowbob.study import Study, of

SMALLEST_TRIED = 0.1


@dataclass(frozen=True)
class Rung:
    """One size. Masses g, lengths mm, volumes mL. `ballast_g` is what may be placed for the same share in reserve."""

    factor: float
    length_mm: float
    volume_ml: float
    body_g: float
    hardware_g: float
    finish_g: float
    ballast_g: float
    reserve_g: float
    floats: bool
    """without ballast"""
    as_briefed: bool
    """floats with the original's share of its lift in reserve, by placing `ballast_g`; never so when the original sinks"""
    verdict: str
    """the same in words"""


@dataclass(frozen=True)
class Ladder:
    """Every size asked for, and the smallest that can still work."""

    rungs: tuple[Rung, ...]
    smallest_factor: float | None
    """the smallest size that can be ballasted to float like the original, or, when that sinks, that floats at all"""
    smallest_mm: float | None
    sinks: bool
    """the original sinks"""

    @property
    def words(self) -> str:
        """What the smallest size is, without its figure."""
        if self.sinks:
            none, some = (
                "it sinks, and so does every size up to four times it, even without ballast",
                "floats without ballast",
            )
        else:
            none, some = "no size up to four times this one can be ballasted to float like it", "can still work"
        return none if self.smallest_mm is None else f"the smallest that {some}"


def _bare(design: Design, factor: float) -> tuple[Study, bool]:
    """A size without its ballast, and whether its walls leave no hollow any more: then it is printed solid."""
    sized = rescaled(design, factor).but(ballast=())
    if sized.body.shell is None:
        return Study(sized), False
    study = Study(sized)
    try:
        of.hollow(study)
    except NoHollow:
        return Study(sized.with_body(shell=None)), True
    return study, False


def _rung(design: Design, factor: float, share: float) -> Rung:
    """`share` is finished mass over lift, that of the original."""
    study, solid = _bare(design, factor)
    slip, lift = of.slip(study), of.buoyancy(study).lift_g
    body = sum(line.mass.mass_g for line in slip.lines if line.of_piece == 0)
    finish = slip.to_come.mass_g
    hardware = slip.on_scale.mass_g - body
    ballast = share * lift - slip.finished.mass_g
    floats, like_it = slip.finished.mass_g < lift, share < 1.0 and ballast >= 0.0
    if like_it:
        verdict = "floats like it"
    elif not floats:
        verdict = "sinks"
    else:
        verdict = "floats, no ballast left" if share < 1.0 else "sinks when ballasted like it"
    if solid:
        verdict += ", printed solid"
    return Rung(
        factor=factor,
        length_mm=design.shape.length_mm * factor,
        volume_ml=of.outer(study).volume_mm3 / 1000.0,
        body_g=body,
        hardware_g=hardware,
        finish_g=finish,
        ballast_g=max(ballast, 0.0),
        reserve_g=lift - slip.finished.mass_g - max(ballast, 0.0),
        floats=floats,
        as_briefed=like_it,
        verdict=verdict,
    )


def ladder(design: Design, factors: tuple[float, ...], told: Told = unheard) -> Ladder:
    """Every size asked for, and the smallest that can still work.

    A size works when, without ballast, it is no heavier for its lift than the finished original: what is left is what the
    ballast may weigh. Of an original that sinks, the size is sought at which it floats at all without ballast. Found by
    bisection on the factor, to 0.1 %.
    """
    from scipy.optimize import brentq  # half a second to import: only when a ladder is climbed

    design = Study(design).build
    b = of.buoyancy(Study(design))
    share = b.mass_g / b.lift_g

    seeks = 0

    def left(factor: float) -> float:
        nonlocal seeks
        seeks += 1
        tell(told, 1.0 - 0.4 * 0.85**seeks)
        study, _ = _bare(design, factor)
        return min(share, 1.0) * of.buoyancy(study).lift_g - of.slip(study).finished.mass_g

    rungs = tuple(_rung(design, f, share) for f in each(factors, told, 0.0, 0.6))
    smallest: float | None = None
    if left(1.0) >= 0.0:
        smallest = SMALLEST_TRIED if left(SMALLEST_TRIED) >= 0 else float(brentq(left, SMALLEST_TRIED, 1.0, rtol=1e-3))
    elif left(4.0) >= 0.0:
        smallest = float(brentq(left, 1.0, 4.0, rtol=1e-3))
    return Ladder(rungs, smallest, smallest and smallest * design.shape.length_mm, share >= 1.0)

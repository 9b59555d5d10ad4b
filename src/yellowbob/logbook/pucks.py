"""Resins and powders out of pucks: those without powder say what the resin weighs, those with it what its grains weigh."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from yellowbob.logbook.records import Puck
from yellowbob.logbook.taught import Piece, Taught, taught

Shelf = Callable[[str], tuple[float, float] | None]
"""Density and spread of a stock by its name, g/mL; None for one that is not on the shelf."""
RESIN_TIMES, POWDER_TIMES = 1.5, 4.0
"""So many times off the shelf's a resin cannot be, nor grains, which carry air or are crushed: rules."""
OWN_SPREAD = 0.1
"""Share by which a stock is unsure that the shelf does not know."""


@dataclass(frozen=True)
class FromPucks:
    """By name what was taught, g/mL; and what pucks could not be used, with why."""

    resins: dict[str, Taught]
    powders: dict[str, Taught]
    aside: tuple[str, ...]


def from_pucks(pucks: Sequence[Puck], shelf: Shelf) -> FromPucks:
    """Volumes of resin and grains add up: w/ρ_powder + (1 − w)/ρ_resin = 1/ρ_puck, w the powder's share of the mass.

    Air stirred in counts as lighter powder, as it will in the cast.
    """
    neat: dict[str, list[Piece]] = {}
    grains: dict[str, list[Piece]] = {}
    shared: dict[str, list[float]] = {}
    aside: list[str] = []
    for number, puck in enumerate(pucks, 1):
        if puck.powder:
            continue
        found = Piece(*_density(puck), f"puck {number}")
        if words := _too_far(found, puck.resin, shelf, RESIN_TIMES):
            aside.append(words)
        else:
            neat.setdefault(puck.resin, []).append(found)
    resins = {name: taught(pieces, *_prior(name, pieces, shelf)) for name, pieces in sorted(neat.items())}
    for number, puck in enumerate(pucks, 1):
        if not puck.powder:
            continue
        told = resins.get(puck.resin)
        on_shelf = shelf(puck.resin)
        if told is None and on_shelf is None:
            aside.append(
                f"puck {number}: {puck.resin} is not on the shelf and no puck of it without powder was weighed"
            )
            continue
        resin, resin_u = (told.mean, (told.high - told.low) / 3.29) if told else (on_shelf or (1.0, 0.0))
        mixed, mixed_u = _density(puck)
        w = puck.powder_share
        taken = 1.0 / mixed - (1.0 - w) / resin
        of_resin = (1.0 - w) * resin_u / resin**2
        u = math.hypot(mixed_u / mixed**2, of_resin)
        if taken <= 2.0 * u:
            aside.append(f"puck {number}: its powder would take up no room; weigh it again, with more powder")
            continue
        found = Piece(w / taken, w * mixed_u / mixed**2 / taken**2, f"puck {number}")
        if words := _too_far(found, puck.powder, shelf, POWDER_TIMES):
            aside.append(words)
            continue
        grains.setdefault(puck.powder, []).append(found)
        shared.setdefault(puck.powder, []).append(w * of_resin / taken**2)
    powders = {name: _wider(taught(pieces, *_prior(name, pieces, shelf)), sum(shared[name]) / len(pieces))
               for name, pieces in sorted(grains.items())}  # fmt: skip
    return FromPucks(resins, powders, tuple(aside))


def _too_far(found: Piece, name: str, shelf: Shelf, times: float) -> str:
    """Why a puck is not learnt from: its stock has another density altogether; empty where it may be so."""
    known = shelf(name)
    if known is None or known[0] / times <= found.value <= known[0] * times:
        return ""
    return f"{found.serial}: {found.value:.3g} g/mL of {name}, which has about {known[0]:.3g}; weigh it again"


def _wider(told: Taught, u: float) -> Taught:
    """What all pucks have from the resin's own uncertainty together does not grow less with their number."""

    def end(at: float) -> float:
        return told.mean + math.copysign(math.hypot(at - told.mean, 1.6449 * u), at - told.mean)

    return replace(
        told, low=end(told.low), high=end(told.high), next_low=end(told.next_low), next_high=end(told.next_high)
    )


def _density(puck: Puck) -> tuple[float, float]:
    value = puck.mass_g / puck.volume_ml
    return value, value * math.hypot(puck.mass_u_g / puck.mass_g, puck.volume_u_ml / puck.volume_ml)


def _prior(name: str, pieces: Sequence[Piece], shelf: Shelf) -> tuple[float, float]:
    known = shelf(name)
    if known is not None:
        return known
    mean = sum(p.value for p in pieces) / len(pieces)
    return mean, OWN_SPREAD * mean

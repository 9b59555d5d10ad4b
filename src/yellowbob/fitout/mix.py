"""Resin by weight: parts A and B, filler as per cent of A + B; what to add after an overshoot; density of the mix."""

from __future__ import annotations

from dataclasses import dataclass

from yellowbob.ground.errors import BadInput


@dataclass(frozen=True)
class Mix:
    """A batch, g. `add` is what is still to be poured; `grown` by how much an overshoot made the batch larger."""

    a_g: float
    b_g: float
    filler_g: float
    add_a_g: float
    add_b_g: float
    add_filler_g: float
    grown: float

    @property
    def total_g(self) -> float:
        """All of the batch together, g."""
        return self.a_g + self.b_g + self.filler_g


def planned(a_g: float, b_g: float, filler_percent: float) -> tuple[float, float, float]:
    """A, B and filler of a batch, g. Raises BadInput for what cannot be poured."""
    for name, value in (("A", a_g), ("B", b_g)):
        if not 0 < value < 1e6:
            raise BadInput(f"part {name} is {value:g} g; give a mass above 0, such as 50 g")
    if not 0 <= filler_percent <= 500:
        raise BadInput(f"filler is {filler_percent:g} % of A + B; give 0 to 500")
    return a_g, b_g, (a_g + b_g) * filler_percent / 100.0


def mix(
    a_g: float, b_g: float, filler_percent: float, poured_a_g: float = 0.0, poured_b_g: float = 0.0,
    poured_filler_g: float = 0.0,
) -> Mix:  # fmt: skip
    """What to add so that A : B and filler : (A + B) come out as planned, whatever was overshot.

    The part most overshot sets the batch; the others are raised to it, so nothing is ever taken out. It depends on
    what lies in the cup, not on the order of pouring.
    """
    plan = planned(a_g, b_g, filler_percent)
    poured = (poured_a_g, poured_b_g, poured_filler_g)
    for name, value in zip(("A", "B", "filler"), poured, strict=True):
        if not 0 <= value < 1e6:
            raise BadInput(f"poured {name} is {value:g} g; tare the cup and read again")
    if plan[2] == 0 and poured_filler_g > 0:
        raise BadInput("filler is in the cup, but the plan has none; give the per cent of filler that you will accept")
    grown = max([1.0] + [p / w for p, w in zip(poured, plan, strict=True) if w > 0])
    a, b, filler = (w * grown for w in plan)
    add_a, add_b, add_filler = (max(0.0, w - p) for w, p in zip((a, b, filler), poured, strict=True))
    return Mix(a, b, filler, add_a, add_b, add_filler, grown)


def mixed_density(resin_g_ml: float, filler_g_ml: float, filler_percent: float) -> float:
    """Density of resin with filler, no air in it: (1 + p)/(1/ρr + p/ρf)."""
    p = filler_percent / 100.0
    return (1.0 + p) / (1.0 / resin_g_ml + p / filler_g_ml)


def percent_for(resin_g_ml: float, filler_g_ml: float, wanted_g_ml: float) -> float:
    """Filler, per cent of A + B, that gives a density. Raises BadInput when no share of it can."""
    low, high = sorted((resin_g_ml, filler_g_ml))
    if not low < wanted_g_ml < high and wanted_g_ml != resin_g_ml:
        raise BadInput(
            f"{wanted_g_ml:g} g/mL cannot be mixed: it must lie between {low:g} (one) and {high:g} (the other)"
        )
    return 100.0 * (1.0 / resin_g_ml - 1.0 / wanted_g_ml) / (1.0 / wanted_g_ml - 1.0 / filler_g_ml)


def pot_life_min(at_given_min: float, given_c: float, here_c: float) -> float:
    """Pot life at another temperature: half for every 10 °C warmer (a rule; the product's data sheet decides)."""
    return at_given_min * float(2.0 ** ((given_c - here_c) / 10.0))

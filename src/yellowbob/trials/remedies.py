"""What would make a pose possible where no ballast will do, each tried."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial

from yellowbob.design.model import Design, replaced
from yellowbob.design.rescale import rescaled
from yellowbob.design.shape import Lofted
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.ground.progress import Told, each, unheard
from yellowbob.shelf.fitting import of_wood
from yellowbob.shelf.shipped import materials
from yellowbob.trials.ballasting import Ballasting, ballasting
from yellowbob.trials.change import Change
from yellowbob.trials.hook_sizes import other_hooks

LEAST_GAIN_G = 0.005
"""Less than this nearer is no help."""


@dataclass(frozen=True, eq=False)
class Remedy:
    """A change that was tried where the pose could not be had, and what the pose asks then."""

    change: Change
    ballast_g: float
    feasible: bool
    limit: str

    @property
    def words(self) -> str:
        """What is changed, in words."""
        return self.change.words


def _beamier(design: Design, factor: float) -> Design:
    shape = design.shape
    if not isinstance(shape, Lofted):
        raise BadInput("only a drawn body can be made beamier by its plan")
    plan = tuple(replaced(p, at_mm=(p.at_mm[0], p.at_mm[1] * factor)) for p in shape.plan)
    return design.with_body(shape=replaced(shape, plan=plan))


def _thinner(design: Design) -> Design:
    last = design.coats[-1]
    return design.but(coats=(*design.coats[:-1], replaced(last, coats=last.coats - 1)))


def _smaller_hooks(design: Design) -> Design:
    return other_hooks(design, -1) or design


def _to_try(design: Design) -> list[Change]:
    """Lighter wood, smaller hooks, less finish, longer, more beam."""
    lighter = sorted(
        (m for m in materials().values() if m.group == "wood" and m.density_g_ml < design.body.density_g_ml - 0.02),
        key=lambda m: -m.density_g_ml,
    )
    found = [
        Change(f"{wood.name}, {wood.density_g_ml:.2f} g/mL", partial(of_wood, stock=wood))
        for wood in (lighter[len(lighter) // 4 :: max(1, len(lighter) // 3)])[:3]
    ]
    if other_hooks(design, -1) is not None:
        found.append(Change("hooks one size smaller", _smaller_hooks))
    if design.coats and design.coats[-1].coats > 1:
        found.append(Change(f"one coat less of {design.coats[-1].name}", _thinner))
    found += [Change(f"{100 * f - 100:.0f} % larger", partial(rescaled, factor=f)) for f in (1.05, 1.12)]
    return [*found, Change("10 % more beam", partial(_beamier, factor=1.1))]


def _helps(found: Ballasting, work: Ballasting) -> bool:
    """Whether there is room after the change, or, where the build is too heavy as it is, it is too heavy by less."""
    return found.locus.feasible or (
        work.posed.ballast_g < 0.0 and found.posed.ballast_g > work.posed.ballast_g + LEAST_GAIN_G
    )


def remedies(work: Ballasting, told: Told = unheard) -> list[Remedy]:
    """What would make the pose possible, or less far from it, each tried; what does not help is not among them."""
    out = []
    kept = tuple(b.name for b in work.bare.build.ballast)
    for change in each(_to_try(work.bare.build), told):
        try:
            found = ballasting(change.make(work.bare.build), work.pose, keep=kept)
        except YellowBobError:
            continue
        if _helps(found, work):
            out.append(Remedy(change, found.posed.ballast_g, found.locus.feasible, found.locus.limit))
    return sorted(out, key=lambda r: (not r.feasible, -r.ballast_g))

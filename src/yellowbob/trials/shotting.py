"""A float shotted from the shelf: the exact combination for its capacity, put on its line, and what to write on it."""

from __future__ import annotations

from dataclasses import dataclass

from yellowbob.afloat.line import Capacity, capacity, in_air_g, submerged_g
from yellowbob.ballast.shotting import Combination, ShotSize, best_shot, handy_shot, labels
from yellowbob.design.model import Design
from yellowbob.design.rig import Hung, Rig
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.items import BallastStock
from yellowbob.shelf.shipped import ballast_stock
from yellowbob.study import Study, of
from yellowbob.trials.ballasting import shelf_counts

UNLIMITED = 30
"""Of each size so many are taken to be at hand where none were counted."""
LEAD_G_ML = 11.34
SLACK_G = 0.02
"""How far under the mark a handy combination may stay, at most half of what the meniscus bears: a rule."""


@dataclass(frozen=True, eq=False)
class Shotted:
    """The load that brings the tip to its mark, what of it is on the line already, and the shot for the rest.

    on_line_g, target_g, and the combination's totals are pulls under water; `in_air_g` is the shot's mass as it is bought.
    """

    carried: Capacity
    on_line_g: float
    target_g: float
    shot: Combination
    stock: tuple[BallastStock, ...]
    in_air_g: float
    labels: tuple[str, ...]
    handy: Combination | None = None
    """the fewest pieces that come as near as the meniscus lets one tell; None where so few do not"""

    @property
    def hung(self) -> tuple[Hung, ...]:
        """The handy shot, else the nearest, as entries of a line, the heaviest first."""
        return self.hung_of(self.handy or self.shot)

    def hung_of(self, shot: Combination) -> tuple[Hung, ...]:
        """A combination as entries of a line, the heaviest first."""
        rows = [(s, n) for s, n in zip(self.stock, shot.counts, strict=True) if n]
        rows.sort(key=lambda row: -(row[0].mass_g or 0.0))
        return tuple(
            Hung(name=s.name, stock=s.name, mass_g=s.mass_g or 1.0, density_g_ml=s.density_g_ml, count=n)
            for s, n in rows
        )

    def words_of(self, shot: Combination) -> str:
        """A combination in words."""
        return ", ".join(f"{one.count} × {one.name}" for one in self.hung_of(shot)) or "no shot"


def shot_stock(
    like: str = "split shot", from_shelf: bool = False, lead: bool = True
) -> dict[str, tuple[BallastStock, int]]:
    """Shot to choose from, with how many there are: of one kind by a part of its name, or all that was counted."""
    counts = shelf_counts()
    found = {}
    for name, item in ballast_stock().items():
        if item.form != "shot" or item.mass_g is None or (not lead and item.material == "lead"):
            continue
        if lead and not from_shelf and item.material != "lead":
            continue
        if from_shelf:
            if counts.get(name, 0.0) >= 1.0:
                found[name] = (item, int(counts[name]))
        elif like.lower() in name.lower():
            found[name] = (item, int(counts.get(name, UNLIMITED)))
    if not found:
        where = "no shot was counted on your own shelf" if from_shelf else f"no shot on the shelf is called '{like}'"
        raise BadInput(f"{where}; `shelf list ballast` shows what there is, `shelf add ... --count N` counts it")
    return found


def shotted(
    study: Study, tip_mm: float | None = None, like: str = "split shot", from_shelf: bool = False, lead: bool = True
) -> Shotted:
    """Shot a float to its tip mark. What hangs on its line that is no shot (hook, bait, leader) stays and counts.

    Raises BadInput where no load leaves that tip, or what hangs already is too much.
    """
    water = 1000.0 * of.water_density(study)
    wanted = of.tip_wanted_mm(study) if tip_mm is None else tip_mm
    carried = capacity(of.unloaded(study), of.line_at(study), wanted)
    rig = of.rig(study)
    kept = [h for h in rig.hung if h.role in ("hook", "bait", "leader")] if rig is not None else []
    on_line = sum(h.count * submerged_g(h.mass_g, h.density_g_ml, water) for h in kept)
    target = carried.load_g - on_line
    if target < 0.0:
        raise BadInput(
            f"hook, bait and leader pull with {on_line:.2f} g already, and it carries {carried.load_g:.2f} g with "
            f"{wanted:g} mm of tip; show less tip, or use a larger float"
        )
    stock = shot_stock(like, from_shelf, lead)
    items = tuple(item for item, _ in stock.values())
    sizes = [
        ShotSize(item.name, submerged_g(item.mass_g or 0.0, item.density_g_ml, water), count)
        for item, count in stock.values()
    ]
    best = best_shot(target, sizes)
    handy = handy_shot(target, sizes, min(SLACK_G, carried.capillary_g / 2.0))
    air = sum(n * (item.mass_g or 0.0) for n, item in zip(best.counts, items, strict=True))
    by_air = [ShotSize(item.name, item.mass_g or 0.0, count) for item, count in stock.values()]
    written = labels(in_air_g(target, LEAD_G_ML, water), by_air)
    return Shotted(carried, on_line, target, best, items, air, tuple(written), handy)


def with_shot(design: Design, found: Shotted) -> Design:
    """The design with that shot on its line in place of what shot it had."""
    rig = design.rig or Rig()
    kept = tuple(h for h in rig.hung if h.role in ("hook", "bait", "leader"))
    return design.but(rig=rig.model_copy(update={"hung": (*found.hung, *kept), "tip_mm": found.carried.tip_mm}))

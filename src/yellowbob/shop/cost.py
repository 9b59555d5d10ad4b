"""Hours and cost of a build from its steps and the shelf's prices: rules for hands, no price where the shelf has none."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from yellowbob.design.shape import Turned
from yellowbob.ground.errors import BadInput
from yellowbob.lines.build import blank_mesh
from yellowbob.shelf.items import Item
from yellowbob.shelf.shipped import ballast_stock, coats, every_material, hardware, hooks, wires
from yellowbob.shop.schedule import layers_of
from yellowbob.study import Study, of
from yellowbob.weights.wires import cut_length_mm

EACH_MIN = {
    "mark and plane the blank": 12.0, "glue a joint of the blank": 8.0, "turn the body": 25.0, "turn a further piece": 10.0,
    "saw both views": 15.0, "carve round": 45.0, "cut": 6.0, "sand through the grits": 20.0, "bore a hole": 4.0,
    "bend a wire": 10.0, "weigh in ballast and plug it": 6.0, "saw and file a piece of sheet": 10.0, "fit hardware": 1.5,
    "trial in the tank": 10.0, "set up the print": 10.0, "wash, cure and sand the print": 35.0, "mix and pour": 12.0,
    "trim and sand the cast": 15.0,
}  # fmt: skip
"""Minutes of hands each takes on one piece: rules of thumb; the log's hours correct them."""
BATCHED = ("mark and plane the blank", "set up the print", "mix and pour", "trial in the tank")
"""What is set up once: a further piece takes so much of the first's time."""
FURTHER = 0.5


@dataclass(frozen=True)
class Step:
    """A step, how often on one piece, minutes of hands for one piece."""

    name: str
    times: int
    minutes: float


@dataclass(frozen=True)
class Bought:
    """What goes into one piece: how much in the unit its price is for, and what that costs; None without a price."""

    name: str
    amount: float
    unit: str
    cost: float | None


@dataclass(frozen=True)
class Reckoning:
    """Steps and goods of one piece, and for the batch minutes and cost; unpriced: what the shelf has no price for."""

    copies: int
    steps: tuple[Step, ...]
    goods: tuple[Bought, ...]
    minutes_each: float
    minutes_batch: float
    cost_each: float
    cost_batch: float
    unpriced: tuple[str, ...]


def reckoned(study: Study, copies: int = 1) -> Reckoning:
    """Hours and cost of so many of a design. Raises BadInput for copies out of range."""
    if not 1 <= copies <= 200:
        raise BadInput(f"{copies} copies: give 1 to 200")
    steps, goods = tuple(_steps(study)), tuple(_goods(study))
    each = sum(s.minutes for s in steps)
    further = sum(s.minutes * (FURTHER if s.name in BATCHED else 1.0) for s in steps)
    cost = sum(g.cost for g in goods if g.cost is not None)
    return Reckoning(
        copies, steps, goods, each, each + (copies - 1) * further, cost, copies * cost,
        tuple(g.name for g in goods if g.cost is None),
    )  # fmt: skip


def _steps(study: Study) -> list[Step]:
    design = study.design
    body, holes = design.body, of.holes(study)
    counts: Counter[str] = Counter()
    if body.shell is not None:
        counts["set up the print"] = counts["wash, cure and sand the print"] = 1
    elif body.material.group == "resin":
        counts["mix and pour"] = counts["trim and sand the cast"] = 1
    else:
        counts["mark and plane the blank"] = 1
        counts["glue a joint of the blank"] = int(any(w.route == "split" for w in design.wires))
        if isinstance(body.shape, Turned):
            counts["turn the body"] = 1
        else:
            counts["saw both views"] = counts["carve round"] = 1
        counts["sand through the grits"] = 1
    counts["turn a further piece"] = sum(p.shape.kind in ("turned", "turning tail") for p in design.parts)
    counts["saw and file a piece of sheet"] = sum(
        2 if p.shape.kind == "wings" or p.mirrored else 1
        for p in design.parts
        if p.shape.kind in ("lip", "wings", "fin", "cutout")
    )
    counts["cut"] = len(body.cuts)
    counts["bore a hole"] = len(holes.bores) + sum(p.hole is not None for p in holes.ballast)
    counts["bend a wire"] = len(design.wires)
    counts["weigh in ballast and plug it"] = len(design.ballast)
    counts["fit hardware"] = len(design.fittings)
    counts["trial in the tank"] = 1
    found = [Step(name, counts[name], counts[name] * minutes) for name, minutes in EACH_MIN.items() if counts[name]]
    if design.coats:
        layers, _ = layers_of(design)
        found.append(Step("lay coats, sand between", len(layers), float(sum(one.hands_min for one in layers))))
    return found


def _bought(shelf: dict[str, Item], name: str, amount: float, unit: str) -> Bought:
    stock = shelf.get(name)
    price = stock.price if stock is not None else None
    return Bought(name, amount, unit, None if price is None else price * amount)


def _goods(study: Study) -> list[Bought]:
    design = study.design
    found = []
    woods: dict[str, float] = {}
    for piece, mesh in zip(design.pieces, of.outers(study), strict=True):
        whole = blank_mesh(design.shape) if piece is design.body else mesh
        size = whole.bounds[1] - whole.bounds[0]
        printed = piece.shell is not None or piece.material.group in ("resin", "plastic")
        volume = mesh.volume_mm3 if printed else float(size[0] * size[1] * size[2])
        woods[piece.material.name] = woods.get(piece.material.name, 0.0) + volume / 1e5
    found += [_bought(dict(every_material()), name, amount, "100 mL") for name, amount in woods.items()]
    for wire in design.wires:
        found.append(_bought(dict(wires()), wire.material, cut_length_mm(wire) / 1000.0, "m"))
    small: dict[str, Item] = {**hooks(), **hardware()}
    counted = Counter(f.stock or f.name for f in design.fittings if f.sort != "tie" and f.sort != "eye")
    found += [_bought(small, name, float(number), "piece") for name, number in counted.items()]
    for placed in of.holes(study).ballast:
        name = placed.ballast.stock or placed.ballast.name
        found.append(_bought(dict(ballast_stock()), name, placed.weight.mass_g / 100.0, "100 g"))
    for coat, skin in zip(design.coats, of.coated(study), strict=True):
        film = skin.area_mm2 * (coat.film_mm * coat.coats + coat.soak_g_m2 / 1000.0 / coat.density_g_ml)
        found.append(_bought(dict(coats()), coat.stock or coat.name, film / 1e5, "100 mL"))
    return found

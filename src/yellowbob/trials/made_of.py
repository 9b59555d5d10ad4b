"""Of what a new body is made: wood, a print that is solid at its keel and a shell above it, or resin with micro-balloons."""

from __future__ import annotations

from yellowbob.design.base import replaced
from yellowbob.design.holes import Shell
from yellowbob.design.model import Design
from yellowbob.fitout.mix import mixed_density, percent_for
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.fitting import of_wood
from yellowbob.shelf.shipped import every_material, powders, taken
from yellowbob.study import Study, of
from yellowbob.trials.asked import Asked

PRINTED, POURED = "ABS print", "epoxy casting resin"
"""What is printed and poured where nothing else is said."""
POURED_G_ML, POURED_STEP, BALLOONS = 0.70, 0.88, "glass micro-balloons"
WALL_SHARE, LEAST_WALL_MM, MOST_WALL_MM = 0.018, 0.8, 1.6
KEEL, KEEL_STEP, LEAST_KEEL, MOST_KEEL = 0.32, 0.09, 0.08, 0.7
"""Up to which share of its depth a print is solid, where the slugs sit, and by how much that is tried otherwise. Rules."""


def in_stuff(design: Design, asked: Asked, keel: int = 0) -> Design:
    """The body out of what is asked for; keel: resin so many steps denser (negative: lighter).

    Raises BadInput for what cannot be printed or poured, or is not on the shelf.
    """
    if asked.made == "wood":
        return of_wood(design, taken(every_material(), asked.wood)) if asked.wood else design
    usual, group = (PRINTED, "plastic") if asked.made == "print" else (POURED, "resin")
    stock = taken(every_material(), asked.wood or usual)
    if stock.group != group:
        raise BadInput(f"a {asked.made} of '{stock.name}' cannot be made: name a {group}, such as {usual}")
    wanted = POURED_G_ML * POURED_STEP ** -min(keel, 0)
    if asked.made == "resin" and stock.density_g_ml > wanted:
        balloons = taken(powders(), BALLOONS).density_g_ml
        share = round(percent_for(stock.density_g_ml, balloons, wanted))
        name = f"{stock.name}, {share} % micro-balloons"
        mixed = round(mixed_density(stock.density_g_ml, balloons, share), 3)
        stock = stock.model_copy(update={"name": name, "density_g_ml": mixed})
    return of_wood(design, stock)


def hollowed(design: Design, asked: Asked, keel: int) -> Design:
    """A print's hollow: solid up to a level split line, a shell above it; any other body as it is. keel: so many steps
    more of its depth are solid."""
    if asked.made != "print":
        return design
    bounds = of.outer(Study(design.but(ballast=(), wires=(), fittings=()))).bounds
    share = min(max(KEEL + KEEL_STEP * keel, LEAST_KEEL), MOST_KEEL)
    z = round(float(bounds[0, 2] + share * (bounds[1, 2] - bounds[0, 2])), 1)
    long = design.shape.length_mm
    wall = round(min(max(WALL_SHARE * long, LEAST_WALL_MM), MOST_WALL_MM), 1)
    body = replaced(design.pieces[0], shell=Shell(wall_mm=wall, split_mm=((0.0, z), (long, z))))
    return design.but(pieces=(body, *design.pieces[1:]))

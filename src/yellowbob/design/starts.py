"""Where a design starts: a bare body of a shape, or a design that gets another one."""

from __future__ import annotations

from yellowbob.design.cuts import Cut
from yellowbob.design.model import Design, MainShape, Material, Piece, replaced

ALDER = Material(name="alder", density_g_ml=0.51)


def bare_design(
    name: str, shape: MainShape, cuts: tuple[Cut, ...] = (), material: Material = ALDER, notes: str = ""
) -> Design:
    """A design that is nothing but a body."""
    return Design(name=name[:80] or "design", pieces=(Piece(material=material, shape=shape, cuts=cuts),), notes=notes)


def with_shape(design: Design, shape: MainShape, cuts: tuple[Cut, ...] = ()) -> Design:
    """The design with a body of another shape; cuts, hollow, holes, ballast and other pieces of the old one go."""
    return design.but(pieces=(replaced(design.body, shape=shape, cuts=cuts, shell=None, bores=()),), ballast=())

"""Results of the weights: the carving of every piece, holes, wires, the weigh slip."""

from __future__ import annotations

from yellowbob.design.cuts import Cut
from yellowbob.design.model import Ballast, Bore, Coat, Design, Fitting, Piece, Wire
from yellowbob.lines.mesh import Mesh
from yellowbob.study.engine import Study, drawn, result
from yellowbob.study.lines import hollows, outers, pieces, whole
from yellowbob.weights import carving, seats
from yellowbob.weights.finish import skin_of
from yellowbob.weights.glue import glue_of
from yellowbob.weights.holes import Holes, drill_all
from yellowbob.weights.mass import MassProperties
from yellowbob.weights.slip import (
    PieceParts,
    Slip,
    SlipLine,
    ballast_lines,
    coat_lines,
    hardware_lines,
    in_order,
    piece_lines,
)
from yellowbob.weights.wires import Routed, route_all


@drawn
def listed_fittings(design: Design) -> tuple[Fitting, ...]:
    """Hooks and other hardware, as listed."""
    return design.fittings


@result
def fittings(study: Study) -> tuple[Fitting, ...]:
    """Hooks and other hardware, as listed, then what dresses the hooks, each hanging or fixed as its hook."""
    every = listed_fittings(study)
    return (*every, *(dressing_of(f) for f in every if f.dressing is not None))


def dressing_of(hook: Fitting) -> Fitting:
    """What is tied on a hook, as a thing by itself at its eye: dry mass, the fibres' own volume; water it holds weighs
    nothing in the water."""
    assert hook.dressing is not None
    own = hook.dressing
    return Fitting(
        name=f"{hook.name}, {own.stuff}"[:80], at_mm=hook.at_mm, mass_g=own.dry_g, volume_ml=own.dry_g / own.density_g_ml,
        hanging=hook.hanging, reach_mm=hook.reach_mm, aim_deg=hook.aim_deg, drag_mm2=own.drag_mm2,
    )  # fmt: skip


@drawn
def drawn_wires(design: Design) -> tuple[Wire, ...]:
    """Wires, as listed."""
    return design.wires


@drawn
def coats(design: Design) -> tuple[Coat, ...]:
    """The finish, as listed."""
    return design.coats


@drawn
def piece_names(design: Design) -> tuple[str, ...]:
    """Of the pieces, the body's first."""
    return tuple(p.name for p in design.pieces)


@drawn
def laid_on(design: Design) -> tuple[Coat, ...]:
    """The coats as far as the place of each goes."""
    return tuple(c.model_copy(update={"name": "any", "stock": "", "coats": 1, "film_mm": 0.1, "soak_g_m2": 0.0,
                                      "density_g_ml": 1.0}) for c in design.coats)  # fmt: skip


@result
def coated(study: Study) -> tuple[Mesh, ...]:
    """The surface each coat covers, in the order of the coats, bare of finish, mm."""
    by_name = dict(zip(piece_names(study), outers(study), strict=True))
    return study.each("coated", tuple((by_name, coat) for coat in laid_on(study)), lambda row: skin_of(*row))


@drawn
def body_cuts(design: Design) -> tuple[Cut, ...]:
    """Cuts of the body, in order."""
    return design.body.cuts


@drawn
def bores(design: Design) -> tuple[tuple[Bore, ...], ...]:
    """Bores, piece by piece."""
    return tuple(p.bores for p in design.pieces)


@drawn
def ballast_into(design: Design) -> tuple[tuple[Ballast, ...], ...]:
    """Ballast, piece by piece."""
    numbers = [design.number_of(one.into) for one in design.ballast]
    return tuple(
        tuple(one for one, at in zip(design.ballast, numbers, strict=True) if at == k)
        for k in range(len(design.pieces))
    )  # fmt: skip


@drawn
def ballast_order(design: Design) -> tuple[tuple[int, int], ...]:
    """For each ballast as listed: its piece, and its number there."""
    counts = [0] * len(design.pieces)
    out = []
    for one in design.ballast:
        at = design.number_of(one.into)
        out.append((at, counts[at]))
        counts[at] += 1
    return tuple(out)


@drawn
def infills(design: Design) -> tuple[float, ...]:
    """Share of each piece's hollow that is filled, 0 to 1."""
    return tuple(p.inside.infill if p.inside is not None else 0.0 for p in design.pieces)


@result
def seated(study: Study) -> tuple[tuple[carving.Block, ...], tuple[tuple[carving.Cut, ...], ...]]:
    """Every piece less the room of later ones, and what those took."""
    return seats.blocks_of(outers(study), hollows(study), infills(study))


@result
def wired(study: Study) -> tuple[tuple[Routed, ...], tuple[carving.Block, ...]]:
    """Wires as they lie, and the pieces as carved then."""
    if not drawn_wires(study):
        return (), seated(study)[0]
    return route_all(drawn_wires(study), seated(study)[0], whole(study))


@result
def wires(study: Study) -> tuple[Routed, ...]:
    """Wires as they lie in the pieces."""
    return wired(study)[0]


@result
def socketed(study: Study) -> tuple[tuple[seats.Socket, ...], tuple[carving.Block, ...]]:
    """What fittings sit in, and the pieces as carved then."""
    return seats.sockets_of(fittings(study), wired(study)[1])


@result
def holes_of(study: Study) -> tuple[Holes, ...]:
    """Bores and ballast of each piece. Raises BadShape where a bit would miss it."""
    rows = tuple(zip(socketed(study)[1], bores(study), ballast_into(study), strict=True))
    return study.each("holes", rows, lambda row: drill_all(*row))


@result
def holes(study: Study) -> Holes:
    """All bores and ballast, ballast in the order it is listed."""
    each = holes_of(study)
    placed = tuple(each[piece].ballast[number] for piece, number in ballast_order(study))
    return Holes(tuple(b for h in each for b in h.bores), placed)


def _gone(study: Study, number: int) -> tuple[tuple[MassProperties, ...], ...]:
    """What later pieces, wires and fittings took of a piece, at 1 g/mL."""
    return (
        tuple(cut.gone for cut in seated(study)[1][number]),
        tuple(routed.gone[number] for routed in wires(study)),
        tuple(s.gone for s in socketed(study)[0] if s.piece == number),
    )


@result
def slip(study: Study) -> Slip:
    """The weigh slip of the build."""
    lines: list[SlipLine] = []
    listed: tuple[Piece, ...] = pieces(study)
    for number, piece in enumerate(listed):
        sat, wire, sockets = _gone(study, number)
        parts = PieceParts(
            piece, outers(study)[number], hollows(study)[number], sat, wire, sockets, holes_of(study)[number]
        )
        lines += piece_lines(number, parts)
        film = glue_of(listed, number)
        if film is not None:
            lines.append(SlipLine(f"glue:{piece.name}", f"glue, {piece.name}", film))
    lines += hardware_lines(fittings(study), wires(study)) + ballast_lines(holes(study).ballast)
    return Slip(in_order(lines + coat_lines(coated(study), body_cuts(study), coats(study))))

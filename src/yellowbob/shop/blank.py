"""From stock to blank: the square or block a body is made from, its layers, glue and clamps, and the pieces to cut for it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from yellowbob.design.shape import Turned
from yellowbob.ground.errors import BadInput
from yellowbob.lines.curves import curve
from yellowbob.shop.boards import EPS, Board, Wanted
from yellowbob.shop.cutlist import SOLVE_S, CutList, least_cut
from yellowbob.study import Study, of

SQUARE_MM = 1.0
"""A square for the lathe is so much larger than the body all round."""
WASTE_MM = 3.0
"""A block for the saw is so much larger than the body beside its outlines."""
ENDS_MM = 15.0
"""Waste at either end of what is turned: driving and tail centre, and the parting tool. Rule."""
LEAST_ENDS_MM = 6.0
THINNEST_WAFER_MM = 2.0
RESAW_KERF_MM = 2.0
CLAMP_EVERY_MM = 60.0


@dataclass(frozen=True)
class Layer:
    """A layer of a blank, from starboard to port: what it is, how thick, and where its lower face lies from the middle."""

    name: str
    thick_mm: float
    from_mm: float


@dataclass(frozen=True)
class Blank:
    """A blank: turned from a square or sawn from a block; sizes mm. ends_mm: waste at either end, in its length.

    feather_mm: how thick the outermost layer still is at the widest place, once made; splits: parted again on its middle
    joint.
    """

    name: str
    way: str
    long_mm: float
    wide_mm: float
    high_mm: float
    ends_mm: float
    layers: tuple[Layer, ...]
    feather_mm: float
    splits: bool
    glue: tuple[str, ...]
    clamps: int
    steps: tuple[str, ...]
    says: tuple[str, ...]


def margin_mm(study: Study) -> float:
    """What a body's blank is larger than it, on every side but its ends."""
    return SQUARE_MM if isinstance(study.design.shape, Turned) else WASTE_MM


def blank_of(study: Study, stock: Sequence[Board], bed_mm: float | None = None) -> Blank:
    """The blank of a design's body out of boards on hand, in as few layers as can be, all of one thickness of board.

    Raises BadInput where no board is wide and long enough, or the lathe's bed is too short.
    """
    design = study.design
    long, beam, depth = of.sizes_mm(study)[0]
    turned, margin = isinstance(design.shape, Turned), margin_mm(study)
    if isinstance(design.shape, Turned):  # it is cut only when it is off the lathe
        long, beam = design.shape.length_mm, 2.0 * float(curve(design.shape.profile).sampled(64)[:, 1].max())
        depth = beam
    wide, high = beam + 2 * margin, depth + 2 * margin
    waste = ends_of(long, turned, bed_mm)
    ends, says = waste.waste_mm, list(waste.says)
    if design.body.shell is not None or design.body.material.group in ("resin", "plastic"):
        how = "printed" if design.body.shell is not None or design.body.material.group == "plastic" else "cast"
        raise BadInput(f"{design.name} is {how}: it has no blank")
    splits = any(w.route == "split" for w in design.wires)
    best: tuple[tuple[int, float], tuple[Layer, ...]] | None = None
    for board in stock:
        if board.wide_mm < high - EPS or board.long_mm < long + 2 * ends - EPS:
            continue
        # a board a little thinner than the block does for a sawn body: less waste beside it
        spare = not turned and not splits and beam + 2 * SQUARE_MM - EPS <= board.thick_mm < wide
        layers = layers_of(board.thick_mm if spare else wide, board.thick_mm, splits)
        score = (len(layers), board.thick_mm)
        if best is None or score < best[0]:
            best = (score, layers)
    if best is None:
        raise BadInput(
            f"{design.name} wants boards {high:.1f} mm wide and {long + 2 * ends:.0f} mm long: none of these is"
        )
    layers = best[1]
    wide = sum(layer.thick_mm for layer in layers)
    joint = any(abs(layer.from_mm) < EPS for layer in layers)
    feather = beam / 2.0 - (layers[-1].from_mm if len(layers) > 1 else -wide / 2.0)
    if len(layers) > 1 and feather < THINNEST_WAFER_MM:
        says.append(
            f"the outermost layer is turned down to {feather:.1f} mm at the widest place: thicker boards would do better"
        )
    parts_again = splits and joint and len(layers) > 1
    return Blank(
        design.name, "lathe" if turned else "saw", long + 2 * ends, wide, high, ends, layers, feather, parts_again,
        _glue(layers, parts_again), _clamps(long + 2 * ends) if len(layers) > 1 else 0,
        _steps(turned, ends, layers, parts_again), tuple(says),
    )  # fmt: skip


@dataclass(frozen=True)
class Ends:
    """Waste at either end of what is turned, mm; 0 of what is sawn."""

    waste_mm: float
    says: tuple[str, ...]


def ends_of(long_mm: float, turned: bool, bed_mm: float | None = None) -> Ends:
    """The waste that a length takes on a lathe's bed. Raises BadInput where the bed is too short."""
    if not turned:
        return Ends(0.0, ())
    if bed_mm is None or long_mm + 2 * ENDS_MM <= bed_mm + EPS:
        return Ends(ENDS_MM, ())
    spare = (bed_mm - long_mm) / 2.0
    if spare < LEAST_ENDS_MM:
        raise BadInput(
            f"{long_mm:.0f} mm and {LEAST_ENDS_MM:g} mm of waste at either end are more than a bed of {bed_mm:g} mm: turn "
            "it in two pieces"
        )
    return Ends(spare, (f"only {spare:.1f} mm of waste at either end: the bed takes no more",))


def layers_of(wide_mm: float, thick_mm: float, splits: bool) -> tuple[Layer, ...]:
    """The layers that make up a width out of boards so thick: equal boards outside, wafers on both sides of a centred joint.

    Wafers are no thinner than THINNEST_WAFER_MM: the boards beside them are planed to make room.
    """
    if thick_mm >= wide_mm - EPS and not splits:
        return (Layer("one piece", wide_mm, -wide_mm / 2.0),)
    half = wide_mm / 2.0
    boards = [thick_mm] * math.floor((half + EPS) / thick_mm)
    rest = half - sum(boards)
    names = ["board"] * len(boards)
    if rest > EPS:
        if not boards:
            boards, names = [half], ["half"]
        else:
            if rest < THINNEST_WAFER_MM:
                boards[-1] -= THINNEST_WAFER_MM - rest
                rest = THINNEST_WAFER_MM
            boards.append(rest)
            names.append("wafer")
    found, at = [], 0.0
    for name, thick in zip(reversed(names), reversed(boards), strict=True):
        found.append(Layer(name, thick, at))
        at += thick
    other = [Layer(one.name, one.thick_mm, -one.from_mm - one.thick_mm) for one in reversed(found)]
    return (*other, *found)


def _glue(layers: tuple[Layer, ...], parts_again: bool) -> tuple[str, ...]:
    if len(layers) == 1:
        return ()
    found = []
    for one in layers[1:]:
        if abs(one.from_mm) < EPS and parts_again:
            found.append(
                "middle joint: full on the waste at both ends, a dab in the middle, none between: it is parted again"
            )
        else:
            found.append(f"joint {one.from_mm:+z.1f} mm from the middle: full".replace("-", "−"))
    return tuple(found)


def _clamps(long: float) -> int:
    return max(2, math.ceil(long / CLAMP_EVERY_MM) + 1)


def _steps(turned: bool, ends: float, layers: tuple[Layer, ...], parts_again: bool) -> tuple[str, ...]:
    steps = ["Grain along the body; keep knots and split ends out of it."]
    if any(one.name == "wafer" for one in layers):
        steps.append(
            "Saw the wafers from one board and plane both faces; they go in the middle, where turning does not thin them."
        )
    if len(layers) > 1:
        steps.append(
            "Dry-fit, mark the faces that meet, glue as listed, clamp between cauls, scrape off what is squeezed out."
        )
    if parts_again:
        steps.append(
            "Saw or rout the wire's slots in both halves before gluing: it is the slots that must line up, even if "
            "the edges do not."
        )
    steps.append("Plane it square: all is measured from one end and the centre line.")
    steps.append("Bore from the ends, cut face, slots, sockets and flats while the sides are square.")
    if turned:
        steps.append(f"Mark both centres; {ends:.0f} mm of waste at either end for the centres and the parting tool.")
    else:
        steps.append("Saw the side view first, tack the offcuts back on so that it lies flat, then saw the plan.")
    return tuple(steps)


def pieces_of(blank: Blank, copies: int = 1, thickest_mm: float | None = None) -> list[Wanted]:
    """What is cut from boards for so many of a blank: a piece a layer, wafers sawn several from one board's thickness."""
    found = []
    thick_board = max((one.thick_mm for one in blank.layers), default=0.0) if thickest_mm is None else thickest_mm
    for copy in range(copies):
        number = f" {copy + 1}" if copies > 1 else ""
        wafers = [one for one in blank.layers if one.name == "wafer"]
        for k, one in enumerate([layer for layer in blank.layers if layer.name != "wafer"], 1):
            found.append(Wanted(f"{blank.name}{number}, {one.name} {k}", blank.long_mm, blank.high_mm, one.thick_mm))
        left = len(wafers)
        while left:
            thick = wafers[0].thick_mm
            many = min(left, max(1, math.floor((thick_board + RESAW_KERF_MM) / (thick + RESAW_KERF_MM))))
            words = f"{many} wafers" if many > 1 else "wafer"
            deep = many * thick + (many - 1) * RESAW_KERF_MM
            found.append(Wanted(f"{blank.name}{number}, {words}", blank.long_mm, blank.high_mm, deep))
            left -= many
    return found


@dataclass(frozen=True)
class Cutting:
    """Blanks and the cut list for all of them."""

    blanks: tuple[Blank, ...]
    cuts: CutList


def cut_for(
    studies: Sequence[Study], stock: Sequence[Board], copies: int = 1, kerf_mm: float = 2.0, bed_mm: float | None = None,
    seconds: float = SOLVE_S,
) -> Cutting:  # fmt: skip
    """Blanks of several designs, so many of each, and the least stock they are cut from. Raises BadInput."""
    if not 1 <= copies <= 100:
        raise BadInput(f"{copies} copies: give 1 to 100")
    if not stock:
        raise BadInput("no stock: say a board, such as 19x90x900 mm")
    blanks = tuple(blank_of(study, stock, bed_mm) for study in studies)
    thick = max(b.thick_mm for b in stock)
    wanted = [piece for one in blanks for piece in pieces_of(one, copies, thick)]
    return Cutting(blanks, least_cut(wanted, stock, kerf_mm, seconds))

"""What later pieces and fittings sit in: the material of earlier pieces whose room they have."""

from __future__ import annotations

import math
from dataclasses import dataclass

import manifold3d
import numpy as np
from numpy.typing import NDArray

from yellowbob.design.model import Fitting, aim
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.rays import inside
from yellowbob.lines.solids import common, overlap, rod
from yellowbob.lines.stacked import meeting
from yellowbob.weights.carving import Block, Cut, Region, Stretch, shared_with_earlier, taken_of
from yellowbob.weights.mass import MassProperties, of_point, total

Array = NDArray[np.float64]


def blocks_of(
    outers: tuple[Mesh, ...], hollows: tuple[Mesh | None, ...], infills: tuple[float, ...]
) -> tuple[tuple[Block, ...], tuple[tuple[Cut, ...], ...]]:
    """Every piece with the room of later pieces taken out of it, and what each of those took of it, in order."""
    blocks, seats = [], []
    for number, (outer, hollow, infill) in enumerate(zip(outers, hollows, infills, strict=True)):
        block, cuts = Block(outer, hollow, infill), []
        for later in outers[number + 1 :]:
            if not overlap(outer, later):
                continue
            cut = taken_of(Region(meeting(later, outer)), block)
            if len(cut.region.solid.faces):
                cuts.append(cut)
                block = block.less(cut.region)
        blocks.append(block)
        seats.append(tuple(cuts))
    return tuple(blocks), tuple(seats)


@dataclass(frozen=True, eq=False)
class Socket:
    """What a fitting sits in: the piece's number, and the material gone of it, at 1 g/mL."""

    fitting: int
    piece: int
    gone: MassProperties


def _plug_of(fitting: Fitting) -> tuple[manifold3d.Manifold, Stretch]:
    """The round plug of `in_wood_ml` along the fitting's aim: as long as it goes in, at least as long as it is wide."""
    volume = fitting.in_wood_ml * 1000.0
    long = fitting.long_mm
    least = (4.0 * volume / math.pi) ** (1.0 / 3.0)
    middle = np.asarray(fitting.at_mm) + np.asarray(aim(fitting)) * long / 2.0
    long = max(long, least)
    half = np.asarray(aim(fitting)) * long / 2.0
    diameter = math.sqrt(4.0 * volume / (math.pi * long))
    return rod(middle - half, middle + half, diameter), Stretch(middle - half, middle + half, diameter / 2.0)


def sockets_of(
    fittings: tuple[Fitting, ...], blocks: tuple[Block, ...]
) -> tuple[tuple[Socket, ...], tuple[Block, ...]]:
    """The wood each fitting takes the place of, less what was gone before, and the pieces as they are carved then.

    A fitting sits in the last piece that holds the middle of what is in the wood, else in the body.
    """
    found, carved = [], list(blocks)
    for number, fitting in enumerate(fittings):
        if fitting.in_wood_ml <= 0.0:
            continue
        solid, stretch = _plug_of(fitting)
        middle = (stretch.start_mm + stretch.end_mm) / 2.0
        piece = next((k for k in range(len(carved) - 1, 0, -1) if inside(carved[k].outer, middle)), 0)
        gone = of_point(fitting.in_wood_ml, np.asarray(fitting.at_mm) + np.asarray(aim(fitting)) * fitting.long_mm / 2)
        shared = shared_with_earlier(solid, carved[piece], (stretch,))
        if shared is not None:
            gone = total([gone, shared.times(-1.0)])
        found.append(Socket(number, piece, gone))
        carved[piece] = carved[piece].less(Region(common(solid, carved[piece].outer), (stretch,)))
    return tuple(found), tuple(carved)

"""The weigh slip: every gram of a build, line by line, with its place, and what is still to come."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from yellowbob.design.cuts import Cut
from yellowbob.design.model import Ballast, Coat, Fitting, Piece, Stage
from yellowbob.design.names import told_apart
from yellowbob.lines.mesh import Mesh
from yellowbob.weights.ballast import PlacedBallast
from yellowbob.weights.finish import of_coat, pools
from yellowbob.weights.holes import Holes
from yellowbob.weights.mass import MassProperties, of_solid, total
from yellowbob.weights.wires import Routed, cut_length_mm, of_wire

Account = Literal["on scale", "to come"]


@dataclass(frozen=True, eq=False)
class SlipLine:
    """One line of the slip. `under` lines belong to the line before them."""

    key: str
    words: str
    mass: MassProperties
    of: Stage = "fitted"
    """the stage of the build that this goes in at"""
    under: bool = False
    of_piece: int | None = None
    """the piece whose material it is, so that it goes with that piece's density"""

    @property
    def stage(self) -> Account:
        """Whether it lies on the scale before the finish, or is still to come."""
        return "to come" if self.of == "finished" else "on scale"


@dataclass(frozen=True, eq=False)
class Slip:
    """The running account of a build."""

    lines: tuple[SlipLine, ...]

    def at(self, stage: Account) -> tuple[SlipLine, ...]:
        """The lines of one account, in order."""
        return tuple(line for line in self.lines if line.stage == stage)

    @cached_property
    def on_scale(self) -> MassProperties:
        """What would lie on the scale before the finish: body, hardware, ballast."""
        return total(line.mass for line in self.at("on scale"))

    @cached_property
    def to_come(self) -> MassProperties:
        """The finish."""
        return total(line.mass for line in self.at("to come"))

    @cached_property
    def finished(self) -> MassProperties:
        """Everything together: g, mm, g·mm²."""
        return total(line.mass for line in self.lines)


def piece_key(number: int, name: str) -> str:
    """The slip's key of a piece's own line."""
    return "body" if number == 0 else f"piece:{name}"


@dataclass(frozen=True, eq=False)
class PieceParts:
    """What the slip needs of one piece: its outer surface and everything gone of it, at 1 g/mL."""

    piece: Piece
    outer: Mesh
    hollow: Mesh | None
    seats: tuple[MassProperties, ...]
    wires: tuple[MassProperties, ...]
    sockets: tuple[MassProperties, ...]
    holes: Holes


def piece_lines(number: int, parts: PieceParts) -> list[SlipLine]:
    """A piece, what hollow, seats, wires, fittings and holes took away, and what fills its bores."""
    piece, density = parts.piece, parts.piece.density_g_ml
    own = piece_key(number, piece.name)
    first = number == 0
    words = f"{'Body' if first else piece.name}, {piece.material.name} {density:.3f}"
    stage: Stage = "bare body" if first else "fitted"
    lines = [SlipLine(own, words, of_solid(parts.outer, density), stage, of_piece=number)]

    def less(key: str, words: str, gone: Sequence[MassProperties], of: Stage) -> None:
        taken = [g for g in gone if g.mass_g > 0]
        if taken:
            name = key if first else f"{key}:{piece.name}"
            mass = total(taken).times(-density)
            lines.append(SlipLine(name, words, mass, of, under=True, of_piece=number))

    if parts.hollow is not None and piece.inside is not None:
        infill = piece.inside.infill
        words = "hollow" if infill == 0 else f"hollow, {100 * infill:g} % filled"
        less("hollow", words, [of_solid(parts.hollow, 1.0).times(1.0 - infill)], stage)
    drilled: Stage = "drilled body" if first else "fitted"
    less("seats", "slots for other pieces", parts.seats, drilled)
    less("wire wood", "wood the wire takes", parts.wires, drilled)
    less("fitting wood", "wood the fittings take", parts.sockets, drilled)
    holes = [b.gone for b in parts.holes.bores] + [b.gone for b in parts.holes.ballast if b.hole is not None]
    less("holes", "holes drilled out", holes, drilled)
    less("cast in", "place of the cast-in ballast", [b.gone for b in parts.holes.ballast if b.hole is None], stage)
    names = told_apart(b.bore.name for b in parts.holes.bores)
    for drilled_bore, bore_name in zip(parts.holes.bores, names, strict=True):
        filling, filler = drilled_bore.filling, drilled_bore.bore.filler
        if filling is not None and filler is not None:
            name = f"bore:{bore_name}" if first else f"bore:{bore_name}:{piece.name}"
            lines.append(SlipLine(name, f"{drilled_bore.bore.name}, {filler.material}", filling))
    return lines


def ballast_keys(ballast: Sequence[Ballast]) -> tuple[str, ...]:
    """Slip keys of a design's ballast, in its order; what is cast in is in the casting from the first."""
    names = told_apart(one.name for one in ballast)
    return tuple(
        f"{'cast' if one.drilling is None else 'ballast'}:{name}" for one, name in zip(ballast, names, strict=True)
    )


def ballast_lines(ballast: Sequence[PlacedBallast]) -> list[SlipLine]:
    """Ballast as listed in the design, each with its plug."""
    lines = []
    keys = ballast_keys([placed.ballast for placed in ballast])
    for placed, key in zip(ballast, keys, strict=True):
        one = placed.ballast
        count = f", {one.weight.count} shot" if one.weight.form == "shot" else ""
        stage: Stage = "bare body" if one.drilling is None else "ballasted"
        lines.append(SlipLine(key, f"{one.name}{count}", placed.weight, stage))
        if placed.plug is not None and one.plug is not None:
            plug = f"plug:{key.partition(':')[2]}"
            lines.append(SlipLine(plug, f"plug, {one.plug.material}", placed.plug, "ballasted", under=True))
    return lines


def of_fitting(fitting: Fitting) -> MassProperties:
    """A fitting at its place with its own inertia: the spread is (Iyy + Izz - Ixx)/2 and so on."""
    own = np.asarray(fitting.inertia_g_mm2, dtype=float)
    spread = np.diag(own.sum() / 2.0 - own)
    return MassProperties(fitting.mass_g, np.asarray(fitting.at_mm, dtype=float), spread)


def hardware_lines(fittings: tuple[Fitting, ...], wires: tuple[Routed, ...]) -> list[SlipLine]:
    """Wires with what closes their holes, then fittings."""
    lines = []
    for routed, name in zip(wires, told_apart(r.wire.name for r in wires), strict=True):
        wire = routed.wire
        words = f"{wire.name}, {wire.diameter_mm:g} × {cut_length_mm(wire):.0f} mm"
        lines.append(SlipLine(f"wire:{name}", words, of_wire(wire), "fitted"))
        if routed.closing is not None and wire.filler is not None:
            words = f"{wire.route}, closed with {wire.filler.material}"
            lines.append(SlipLine(f"closing:{name}", words, routed.closing, "fitted", under=True))
    keys = told_apart(f.name for f in fittings)
    return lines + [
        SlipLine(f"fitting:{key}", f.name, of_fitting(f), "fitted") for f, key in zip(fittings, keys, strict=True)
    ]


def coat_lines(skins: tuple[Mesh, ...], cuts: tuple[Cut, ...], coats: tuple[Coat, ...]) -> list[SlipLine]:
    """The finish: what each coat lays on its skin and soaks in, and what pools in cups."""
    lines = [
        SlipLine(
            f"coat:{key}",
            coat.name + (f", {coat.coats} coats" if coat.coats > 1 else ""),
            of_coat(skin, coat),
            "finished",
        )
        for skin, coat, key in zip(skins, coats, told_apart(c.name for c in coats), strict=True)
    ]
    pooled = pools(cuts, coats)
    if pooled is not None:
        lines.append(SlipLine("pool", "pools in the cup", pooled, "finished"))
    return lines


def in_order(lines: list[SlipLine]) -> tuple[SlipLine, ...]:
    """The lines in the order of the build: the pieces and what is taken off them first."""
    return tuple(sorted(lines, key=lambda line: line.of not in ("bare body", "drilled body")))

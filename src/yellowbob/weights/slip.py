"""The weigh slip: every gram of a build, line by line, with its place, and what is still to come."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from yellowbob.design.model import Body, Coat, Fitting, Wire
from yellowbob.design.parts import Part
from yellowbob.lines.mesh import Mesh
from yellowbob.weights.ballast import PlacedBallast
from yellowbob.weights.holes import DrilledBore
from yellowbob.weights.mass import MassProperties, of_cylinder, of_point, of_skin, of_solid, total

Stage = Literal["on scale", "to come"]


@dataclass(frozen=True, eq=False)
class SlipLine:
    """One line of the slip. `under` lines belong to the line before them."""

    key: str
    words: str
    mass: MassProperties
    stage: Stage = "on scale"
    under: bool = False


@dataclass(frozen=True, eq=False)
class Slip:
    """The running account of a build."""

    lines: tuple[SlipLine, ...]

    def at(self, stage: Stage) -> tuple[SlipLine, ...]:
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
        return total(line.mass for line in self.lines)


def of_wire(wire: Wire) -> MassProperties:
    """A wire as straight rods along its path."""
    path = np.asarray(wire.path_mm, dtype=float)
    per_mm = np.pi / 4.0 * wire.diameter_mm**2 * wire.density_g_ml / 1000.0
    return total(
        of_cylinder(per_mm * float(np.linalg.norm(b - a)), wire.diameter_mm, a, b) for a, b in itertools.pairwise(path)
    )


def wire_length_mm(wire: Wire) -> float:
    path = np.asarray(wire.path_mm, dtype=float)
    return float(np.linalg.norm(np.diff(path, axis=0), axis=1).sum())


def body_lines(
    outer: Mesh, body: Body, bores: tuple[DrilledBore, ...], ballast: tuple[PlacedBallast, ...],
    seats: tuple[Mesh, ...] = (), hollow: Mesh | None = None,
) -> list[SlipLine]:  # fmt: skip
    """The body, what hollow, slots and holes took away, and what fills the bores."""
    material, density_g_ml = body.material, body.density_g_ml
    lines = [SlipLine("body", f"Body, {material} {density_g_ml:.3f}", of_solid(outer, density_g_ml))]
    if hollow is not None and body.shell is not None:
        left_out = 1.0 - body.shell.infill_percent / 100.0
        words = "hollow" if body.shell.infill_percent == 0 else f"hollow, {body.shell.infill_percent:g} % filled"
        lines.append(SlipLine("hollow", words, of_solid(hollow, density_g_ml).times(-left_out), under=True))
    if seats:
        gone = total(of_solid(solid, density_g_ml) for solid in seats).times(-1.0)
        lines.append(SlipLine("seats", "slots for parts", gone, under=True))
    taken = [b.removed for b in bores] + [b.removed for b in ballast if b.removed is not None]
    if taken:
        gone = total(of_solid(solid, density_g_ml) for solid in taken).times(-1.0)
        lines.append(SlipLine("holes", "holes drilled out", gone, under=True))
    for bore in bores:
        if bore.bore.filler is not None:
            fill = of_solid(bore.removed, bore.bore.filler.density_g_ml)
            lines.append(SlipLine(f"bore:{bore.bore.name}", f"{bore.bore.name}, {bore.bore.filler.material}", fill))
    return lines


def part_lines(parts: tuple[Part, ...], solids: tuple[Mesh, ...]) -> list[SlipLine]:
    return [
        SlipLine(f"part:{number}", f"{part.name}, {part.material}", of_solid(solid, part.density_g_ml))
        for number, (part, solid) in enumerate(zip(parts, solids, strict=True))
    ]


def ballast_lines(ballast: tuple[PlacedBallast, ...]) -> list[SlipLine]:
    lines = []
    for placed in ballast:
        count = f", {placed.ballast.weight.count} shot" if placed.ballast.weight.form == "shot" else ""
        lines.append(SlipLine(f"ballast:{placed.ballast.name}", f"{placed.ballast.name}{count}", placed.weight))
        if placed.plug is not None and placed.ballast.plug is not None:
            words = f"plug, {placed.ballast.plug.material}"
            lines.append(SlipLine(f"plug:{placed.ballast.name}", words, placed.plug, under=True))
    return lines


def hardware_lines(fittings: tuple[Fitting, ...], wires: tuple[Wire, ...]) -> list[SlipLine]:
    lines = [
        SlipLine(
            f"wire:{wire.name}", f"{wire.name}, {wire.diameter_mm:g} × {wire_length_mm(wire):.0f} mm", of_wire(wire)
        )
        for wire in wires
    ]
    lines += [
        SlipLine(f"fitting:{number}", fitting.name, of_point(fitting.mass_g, np.asarray(fitting.at_mm)))
        for number, fitting in enumerate(fittings)
    ]
    return lines


def coat_lines(outer: Mesh, coats: tuple[Coat, ...]) -> list[SlipLine]:
    """The finish: surface x film x density x coats."""
    return [
        SlipLine(
            f"coat:{number}",
            coat.name + (f", {coat.coats} coats" if coat.coats > 1 else ""),
            of_skin(outer, coat.film_mm * coat.coats, coat.density_g_ml),
            stage="to come",
        )
        for number, coat in enumerate(coats)
    ]


def film_mm(coats: tuple[Coat, ...]) -> float:
    """All coats' dry films together."""
    return sum(c.film_mm * c.coats for c in coats)

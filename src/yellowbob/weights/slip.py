"""The weigh slip: every gram of a build, line by line, with its place, and what is still to come."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

import numpy as np

from yellowbob.design.cuts import Cut
from yellowbob.design.model import STAGES, Body, Coat, Fitting, Reading, Stage, aim
from yellowbob.design.parts import Part
from yellowbob.lines.mesh import Mesh
from yellowbob.weights.ballast import PlacedBallast
from yellowbob.weights.finish import of_coat, pools
from yellowbob.weights.holes import DrilledBore
from yellowbob.weights.mass import MassProperties, of_point, of_solid, total
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

    @property
    def stage(self) -> Account:
        return "to come" if self.of == "finished" else "on scale"


@dataclass(frozen=True, eq=False)
class Slip:
    """The running account of a build."""

    lines: tuple[SlipLine, ...]

    def at(self, stage: Account) -> tuple[SlipLine, ...]:
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


def body_lines(
    outer: Mesh, body: Body, bores: tuple[DrilledBore, ...], ballast: tuple[PlacedBallast, ...],
    seats: tuple[Mesh, ...] = (), hollow: Mesh | None = None,
) -> list[SlipLine]:  # fmt: skip
    """The body, what hollow, slots and holes took away, and what fills the bores."""
    material, density_g_ml = body.material, body.density_g_ml
    lines = [SlipLine("body", f"Body, {material} {density_g_ml:.3f}", of_solid(outer, density_g_ml), "bare body")]
    if hollow is not None and body.shell is not None:
        left_out = 1.0 - body.shell.infill_percent / 100.0
        words = "hollow" if body.shell.infill_percent == 0 else f"hollow, {body.shell.infill_percent:g} % filled"
        lines.append(
            SlipLine("hollow", words, of_solid(hollow, density_g_ml).times(-left_out), "bare body", under=True)
        )
    if seats:
        gone = total(of_solid(solid, density_g_ml) for solid in seats).times(-1.0)
        lines.append(SlipLine("seats", "slots for parts", gone, "drilled body", under=True))
    taken = [b.removed for b in bores] + [b.removed for b in ballast if b.removed is not None]
    if taken:
        gone = total(of_solid(solid, density_g_ml) for solid in taken).times(-1.0)
        lines.append(SlipLine("holes", "holes drilled out", gone, "drilled body", under=True))
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
        lines.append(
            SlipLine(f"ballast:{placed.ballast.name}", f"{placed.ballast.name}{count}", placed.weight, "ballasted")
        )
        if placed.plug is not None and placed.ballast.plug is not None:
            words = f"plug, {placed.ballast.plug.material}"
            lines.append(SlipLine(f"plug:{placed.ballast.name}", words, placed.plug, "ballasted", under=True))
    return lines


def of_fitting(fitting: Fitting) -> MassProperties:
    """A fitting at its place with its own inertia: the spread is (Iyy + Izz - Ixx)/2 and so on."""
    own = np.asarray(fitting.inertia_g_mm2, dtype=float)
    spread = np.diag(own.sum() / 2.0 - own)
    return MassProperties(fitting.mass_g, np.asarray(fitting.at_mm, dtype=float), spread)


def hardware_lines(fittings: tuple[Fitting, ...], wires: tuple[Routed, ...], body_density: float) -> list[SlipLine]:
    """Wires with the wood they take the place of, then fittings, then the wood that those sit in."""
    lines = []
    for routed in wires:
        wire = routed.wire
        words = f"{wire.name}, {wire.diameter_mm:g} × {cut_length_mm(wire):.0f} mm"
        lines.append(SlipLine(f"wire:{wire.name}", words, of_wire(wire), "fitted"))
        if routed.closing is not None and wire.filler is not None:
            words = f"{wire.route}, closed with {wire.filler.material}"
            lines.append(SlipLine(f"closing:{wire.name}", words, routed.closing, "fitted", under=True))
    gone = [routed.wood for routed in wires if routed.wood.mass_g > 0]
    if gone:
        wood = total(gone).times(-body_density)
        lines.insert(0, SlipLine("wire wood", "wood the wire takes", wood, "drilled body", under=True))
    lines += [
        SlipLine(f"fitting:{number}", fitting.name, of_fitting(fitting), "fitted")
        for number, fitting in enumerate(fittings)
    ]
    sat = [
        of_point(f.in_wood_ml, np.asarray(f.at_mm) + np.asarray(aim(f)) * f.long_mm / 2)
        for f in fittings
        if f.in_wood_ml
    ]
    if sat:
        wood = total(sat).times(-body_density)
        lines.append(SlipLine("fitting wood", "wood the fittings take", wood, "drilled body", under=True))
    return lines


def coat_lines(outer: Mesh, cuts: tuple[Cut, ...], coats: tuple[Coat, ...]) -> list[SlipLine]:
    """The finish: what each coat lays and soaks in, and what pools in cups."""
    lines = [
        SlipLine(
            f"coat:{number}",
            coat.name + (f", {coat.coats} coats" if coat.coats > 1 else ""),
            of_coat(outer, coat),
            "finished",
        )
        for number, coat in enumerate(coats)
    ]
    pooled = pools(cuts, coats)
    if pooled is not None:
        lines.append(SlipLine("pool", "pools in the cup", pooled, "finished"))
    return lines


def weighed_lines(lines: list[SlipLine], readings: tuple[Reading, ...]) -> list[SlipLine]:
    """The lines with each reading put in the place of what was predicted up to its stage.

    A weighing of the bare body scales the wood and what is drilled out of it alike, for it says how dense the wood is.
    Every later one adds a line with what it found more or less, spread as the build weighed then; the last of a stage
    counts.
    """
    lines = sorted(lines, key=lambda line: line.of not in ("bare body", "drilled body"))
    by_stage = {r.stage: r for r in readings}
    if "bare body" in by_stage:
        predicted = total(line.mass for line in lines if line.of == "bare body").mass_g
        if predicted > 0:
            wood = by_stage["bare body"].mass_g / predicted
            lines = [
                replace(line, mass=line.mass.times(wood)) if line.of in ("bare body", "drilled body") else line
                for line in lines
            ]
    done: list[SlipLine] = []
    for stage in STAGES:
        done += [line for line in lines if line.of == stage]
        if stage in by_stage and stage != "bare body":
            so_far = total(line.mass for line in done)
            more = by_stage[stage].mass_g - so_far.mass_g
            if so_far.mass_g > 0 and abs(more) > 1e-12:
                words = f"weighed {stage}, {'more' if more > 0 else 'less'}"
                done.append(SlipLine(f"reading:{stage}", words, so_far.times(more / so_far.mass_g), stage))
    extra = [line for line in done if line.key.startswith("reading:")]
    return lines + extra

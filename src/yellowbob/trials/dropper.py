"""A dropper: a through-line float that holds a jig up. What it can hold, and how it sits with it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from yellowbob.afloat.line import in_air_g, sinking_load_g, submerged_g, under_load
from yellowbob.afloat.rest import Rest, rest_near
from yellowbob.ground.errors import BadInput
from yellowbob.study import Study, of

JIG_METALS = {"lead": 11.34, "tungsten": 18.0, "tin": 7.29}
"""Densities of jig heads, g/mL: handbook values."""


@dataclass(frozen=True)
class Dropper:
    """What hangs under it, in grams of pull under water, and how it sits. `heaviest_g` in air, by metal.

    spare_g: pull it still bears with the jig on; negative where the jig draws it under, and then there is no rest with it.
    """

    spare_g: float
    holds_g: float
    heaviest_g: dict[str, float]
    bare: Rest
    no_hooks: Rest
    """without its own hooks and what dresses them"""
    with_bait: Rest | None
    """with what hangs on the line, no jig; None where that draws it under"""
    jig_g: float | None
    pull_g: float
    with_jig: Rest | None
    warnings: tuple[str, ...]


def dropper(study: Study, jig_g: float | None = None, material: str = "lead") -> Dropper:
    """Work out a dropper; the jig hangs where the line leaves it. Raises BadInput for an unknown metal, a jig that is no
    mass, or a float that sinks by itself."""
    if material not in JIG_METALS:
        raise BadInput(f"a jig of '{material}': say {', '.join(JIG_METALS)}")
    if jig_g is not None and not (math.isfinite(jig_g) and jig_g > 0.0):
        raise BadInput(f"a jig of {jig_g:g} g: want more than nothing")
    build, water = of.unloaded(study), 1000.0 * of.water_density(study)
    hung = of.line_load_g(study)
    bears = sinking_load_g(build)
    holds = bears - hung
    if bears <= 0.0:
        raise BadInput(f"it sinks by itself, {-bears:.2f} g too heavy: it holds no jig")
    bare = rest_near(build, of.wanted_up(study))
    with_bait = rest_near(under_load(build, hung, of.line_at(study)), bare.up) if 0.0 < hung < bears else None
    plain = study.build.but(fittings=tuple(f for f in study.build.fittings if f.sort != "hook"))
    no_hooks = rest_near(of.unloaded(Study(plain, study)), bare.up)
    pull = submerged_g(jig_g, JIG_METALS[material], water) if jig_g is not None else 0.0
    heaviest = {name: in_air_g(max(holds, 0.0), density, water) for name, density in JIG_METALS.items()}
    with_jig = rest_near(under_load(build, hung + pull, of.line_at(study)), bare.up) if pull < holds else None
    return Dropper(
        holds - pull, holds, heaviest, bare, no_hooks, with_bait, jig_g, pull, with_jig, _warnings(study, holds - pull)
    )


def _warnings(study: Study, spare: float) -> tuple[str, ...]:
    rig, said = study.design.rig, []
    if spare < 0.0:
        said.append(f"the jig draws it under: {-spare:.2f} g too much")
    bored = any(b.fill == "open" for piece in study.design.pieces for b in piece.bores)
    if rig is not None and rig.holds == "through the bore":
        if not bored and not study.design.wires:
            said.append("the line is to run through a bore, and none is drilled open")
        if rig.swivel_in_bore:
            said.append("a swivel in the bore can jam: then the line does not run free, and the float is bound to it")
    return tuple(said)

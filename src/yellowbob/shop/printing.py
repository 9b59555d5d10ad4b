"""How a printed body is set up: which way up, what overhangs, wash, cure inside, drain."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from yellowbob.ground.errors import BadInput
from yellowbob.shop.exports import solid_to_make
from yellowbob.study import Study, of

STEEP_DEG = 45.0
"""What leans out by more than this needs support. Rule."""
WAYS = {
    "tail": (-1.0, 0.0, 0.0), "nose": (1.0, 0.0, 0.0), "belly": (0.0, 0.0, 1.0), "back": (0.0, 0.0, -1.0),
}  # fmt: skip
"""What it stands on, with up in body axes."""
LAYER_MM = 0.3


@dataclass(frozen=True)
class Stood:
    """A way to stand it: how high, how much skin overhangs, how much lies on the plate, mm²."""

    name: str
    high_mm: float
    overhang_mm2: float
    foot_mm2: float


@dataclass(frozen=True)
class Print:
    """Ways to stand it, the one with least overhang first; what to do, in order. volume_ml: of what is printed."""

    poses: tuple[Stood, ...]
    volume_ml: float
    words: tuple[str, ...]


def print_of(study: Study) -> Print:
    """The set-up of a printed body. Raises BadInput for one that is not printed."""
    body = study.design.body
    if body.shell is None and body.material.group != "plastic":
        raise BadInput(f"{study.design.name} is of {body.material.name}, without a print shell: nothing is printed")
    mesh = solid_to_make(study)
    poses = []
    normals = mesh.area_vectors / np.maximum(mesh.areas[:, None], 1e-30)
    for name, up in WAYS.items():
        height = mesh.vertices @ np.array(up)
        low = height[mesh.faces].max(axis=1) < height.min() + LAYER_MM
        under = (normals @ np.array(up) < -np.cos(np.radians(90.0 - STEEP_DEG))) & ~low
        poses.append(Stood(name, float(np.ptp(height)), float(mesh.areas[under].sum()), float(mesh.areas[low].sum())))
    poses.sort(key=lambda p: p.overhang_mm2)
    volume = mesh.volume_mm3 / 1000.0
    words = [
        f"Least overhang standing on its {poses[0].name}. {volume:.1f} mL of plastic, {volume * body.density_g_ml:.1f} g."
    ]
    if body.shell is not None and not any(of.let_in(study)):
        words.append(
            "It is sealed: a resin print keeps liquid inside. Leave a drain hole, wash and cure it inside, then plug it."
        )
    elif body.shell is not None:
        drains = ", ".join(n for names in of.let_in(study) for n in names)
        words.append(
            f"Open by {drains}: drain it there, flush it with solvent, cure it inside with a lamp on a wire, then dry it."
        )
    if body.shell is not None:
        infill = body.shell.infill_percent
        words.append(
            f"Wall {body.shell.wall_mm:g} mm; {'no infill' if infill == 0 else f'{infill:g} % infill'} in the hollow."
        )
    words += [
        "Wash, let the solvent go off, cure; weigh it before anything is glued in: trapped liquid shows as grams too many.",
        "Sand the layers out wet; prime with what its plastic bears.",
    ]
    return Print(tuple(poses), volume, tuple(words))

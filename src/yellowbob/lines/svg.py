"""Outlines from an SVG drawing, true size: a closed side view, and a closed plan when there is one."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.cuts import Cut
from yellowbob.design.model import Piece
from yellowbob.design.shape import Lofted, Turned
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity
from yellowbob.lines.tracing.fit import edges_of, fit_outline
from yellowbob.lines.tracing.trace import not_negative

Array = NDArray[np.float64]

PX_MM = 25.4 / 96.0
"""CSS pixel, for drawings that give no unit."""
SAMPLES = 1200
FIT_SHARE = 0.0004
METADATA = "yellow-bob-body"


def _unit_mm(width: str, box: str) -> float:
    """mm for one user unit, from a drawing's width and viewBox."""
    numbers = [float(n) for n in re.findall(r"-?[\d.]+(?:e-?\d+)?", box)]
    if len(numbers) == 4 and numbers[2] > 0 and width and not width.endswith("%"):
        if re.fullmatch(r"[\d.]+(px)?", width.strip()):
            return float(width.strip().removesuffix("px")) * PX_MM / numbers[2]
        return read_quantity(width, "length") / numbers[2]
    return PX_MM


def _loops(path: Path) -> dict[str, Array]:
    """Closed paths by name, each (n, 2) mm with y up, largest first."""
    from svgpathtools import Document

    try:
        document = Document(str(path))
        unit = _unit_mm(document.root.get("width", ""), document.root.get("viewBox", ""))
        found = {}
        for number, run in enumerate(document.paths()):
            if len(run) == 0:
                continue
            at = run.continuous_subpaths()[0]
            points = np.array([at.point(t) for t in np.linspace(0, 1, SAMPLES, endpoint=False)])
            name = run.element.get("id") or f"path {number + 1}"
            found[name] = np.stack([points.real, -points.imag], axis=1) * unit
    except FileNotFoundError:
        raise BadInput(f"{path}: no such file; check the name") from None
    except BadInput:
        raise
    except Exception as error:  # the readers of XML and of paths raise many kinds
        raise BadInput(f"{path.name}: cannot be read as an SVG drawing ({str(error)[:80]})") from None
    if not found:
        raise BadInput(f"{path.name}: there is no path in it; convert shapes to paths and save it again")
    return dict(sorted(found.items(), key=lambda item: -float(np.ptp(item[1], axis=0).prod())))


def _levelled(loop: Array) -> Array:
    loop = loop - [loop[:, 0].min(), 0.0]
    front = loop[loop[:, 0] < 0.01 * loop[:, 0].max(), 1]
    return np.asarray(loop - [0.0, (front.max() + front.min()) / 2])


def _kept(path: Path) -> dict[str, Any]:
    """What the program wrote beside the outlines: kind, sections and cuts; empty for another program's drawing."""
    try:
        root = ElementTree.parse(path).getroot()
    except (ElementTree.ParseError, OSError):
        return {}
    found = next((e for e in root.iter() if e.get("id") == METADATA), None)
    if found is None or found.text is None:
        return {}
    try:
        kept = json.loads(found.text)
    except ValueError:
        return {}
    return kept if isinstance(kept, dict) else {}


def _from_nose(loop: Array, kept: dict[str, Any]) -> Array:
    """A loop moved so that the nose that was written down lies at the origin."""
    try:
        x, y = (float(v) for v in kept["nose_mm"])
    except (TypeError, ValueError):
        return _levelled(loop)
    return np.asarray(loop - [x, -y])


def read_svg_body(path: Path | str) -> tuple[Lofted | Turned, tuple[Cut, ...]]:
    """Shape and cuts of a body from the closed paths `side` and `plan` (or the largest two) of a drawing.

    Without a plan the body is as wide as it is deep. Sections, cuts and turning come back from a drawing that the program
    wrote itself. Raises BadInput.
    """
    path = Path(path)
    loops, kept = _loops(path), _kept(path)
    names = list(loops)
    side_name = next((n for n in names if n == "side"), names[0])
    others = [n for n in names if n != side_name and not n.endswith("-cut")]
    plan_name = next((n for n in others if n == "plan"), others[0] if others else None)
    side = _from_nose(loops[side_name], kept) if "nose_mm" in kept else _levelled(loops[side_name])
    length = float(side[:, 0].max())
    if length < 1.0:
        raise BadInput(f"{path.name}: the side outline is only {length:.2f} mm long; is its unit right?")
    x, top, bottom = edges_of(side)
    bound = FIT_SHARE * length
    shape: Lofted | Turned
    if kept.get("kind") == "turned":
        shape = Turned(profile=fit_outline(x, (top - bottom) / 2, bound).outline)
    else:
        px, half = x, (top - bottom) / 2
        if plan_name is not None:
            plan = loops[plan_name]
            plan = plan - [plan[:, 0].min(), 0.0]
            px, ptop, pbottom = edges_of(plan * [length / float(plan[:, 0].max()), 1.0])
            half = np.maximum((ptop - pbottom) / 2, 0.0)
        shape = Lofted(
            back=fit_outline(x, top, bound).outline,
            belly=fit_outline(x, bottom, bound).outline,
            plan=not_negative(fit_outline(px, half, bound).outline),
        )
    try:
        if isinstance(shape, Lofted) and kept.get("sections"):
            shape = Lofted.model_validate({**dict(shape), "sections": kept["sections"]})
        body = Piece.model_validate({"material": {"name": "any", "density_g_ml": 1.0}, "shape": shape,
                                     "cuts": kept.get("cuts", [])})  # fmt: skip
        return shape, body.cuts
    except ValueError as error:
        raise BadInput(f"{path.name}: what was kept beside the outlines is spoilt ({str(error)[:60]})") from None

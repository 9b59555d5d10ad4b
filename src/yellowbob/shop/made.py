"""As made: stations and holes measured back on the piece become its shape and places; what an uneven one does.

A reading moves the drawn outline by how far the piece is off there, evenly between two readings: exact readings give the
drawing back, however far apart they are. Rule: what lies between two stations is off as they are.
"""

from __future__ import annotations

import csv
import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.base import replaced
from yellowbob.design.model import Design, Drilling
from yellowbob.design.shape import LEAST_STEP_MM, Lofted, MeshBody, OutlinePoint, Turned
from yellowbob.ground.cells import between
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity
from yellowbob.lines.curves import curve
from yellowbob.study import Study, of
from yellowbob.weights.ballast import DRIVEN_MM, width_mm

Array = NDArray[np.float64]

HELD_MM = 0.004
"""The made outline passes each reading this close."""
MOST_OFF_MM, MOST_OFF = 4.0, 0.4
"""A reading farther off than both, the second a share of the outline's largest, is none of this piece: a slipped point."""
SIDES = {"port", "starboard"}
TURNED_SIZES = {"diameter"}
LOFTED_SIZES = {"back", "belly", "half width", "port", "starboard"}
HOLE_SIZES = {"at", "off", "diameter", "depth"}


@dataclass(frozen=True)
class Measured:
    """What was measured at a place from the nose, mm, by name: diameter; or back, belly (below the axis negative), half
    width, port, starboard."""

    at_mm: float
    sizes_mm: dict[str, float]


@dataclass(frozen=True)
class HoleMeasured:
    """A hole by its name: what was measured of at (from the nose), off (the centre line), diameter, depth; mm."""

    name: str
    sizes_mm: dict[str, float]


def _rows(path: Path, sizes: set[str], key: str) -> list[tuple[int, str, dict[str, float]]]:
    try:
        with path.open(encoding="utf-8-sig", newline="") as file:
            first = file.readline()
            file.seek(0)
            lines = enumerate(csv.reader(file, delimiter=between(first)), 1)
            rows = [(n, row) for n, row in lines if any(cell.strip() for cell in row)]
    except (OSError, UnicodeDecodeError) as error:
        raise BadInput(f"{path.name}: cannot be read ({error})") from None
    if not rows:
        raise BadInput(f"{path.name}: is empty; write a head such as {key},{','.join(sorted(sizes))}")
    head = [cell.strip().lower().removesuffix("_mm").replace("_", " ") for cell in rows[0][1]]
    strange = [h for h in head if h != key and h not in sizes]
    if key not in head or strange or len(set(head)) < len(head):
        raise BadInput(
            f"{path.name}: its head is {', '.join(head)}; want {key} and any of {', '.join(sorted(sizes))}, once each"
        )
    found = []
    for number, row in rows[1:]:
        if len(row) != len(head):
            raise BadInput(f"{path.name}: line {number} has {len(row)} cells for {len(head)} heads")
        cells = dict(zip(head, (cell.strip() for cell in row), strict=True))
        name = cells.pop(key)
        try:
            found.append((number, name, {k: read_quantity(v, "length") for k, v in cells.items() if v}))
        except BadInput as error:
            raise BadInput(f"{path.name}: line {number}: {error}") from None
    return found


def read_stations(path: Path) -> list[Measured]:
    """A CSV with a head: `at` and any of diameter, back, belly, half width, port, starboard. Raises BadInput with its
    line."""
    found = []
    for number, name, sizes in _rows(path, TURNED_SIZES | LOFTED_SIZES, "at"):
        try:
            found.append(Measured(read_quantity(name, "length"), sizes))
        except BadInput as error:
            raise BadInput(f"{path.name}: line {number}: {error}") from None
    return found


def read_holes(path: Path) -> list[HoleMeasured]:
    """A CSV with a head: `name` and any of at, off, diameter, depth. Raises BadInput with its line."""
    return [HoleMeasured(name, sizes) for _, name, sizes in _rows(path, HOLE_SIZES, "name")]


def made(design: Design, readings: Sequence[Measured], holes: Sequence[HoleMeasured] = ()) -> Design:
    """The design as it was made. Raises BadInput for readings out of range or of what the piece does not have."""
    new = design
    if readings:
        new = new.with_body(shape=made_shape(design.shape, readings))
    names = [one.name for one in holes]
    if len(set(names)) < len(names):
        raise BadInput("a hole is measured twice: keep one reading each")
    for one in holes:
        new = _bored(new, one)
    return new


def made_shape(shape: Any, readings: Sequence[Measured]) -> Lofted | Turned:
    """A body's shape with its outlines through the readings. Raises BadInput."""
    if isinstance(shape, MeshBody):
        raise BadInput("a body taken from CAD has no outlines to move; measure it by its volume instead")
    kinds = TURNED_SIZES if isinstance(shape, Turned) else LOFTED_SIZES
    places = [one.at_mm for one in readings]
    if len(set(places)) < len(places):
        raise BadInput("a place is measured twice: keep one reading each")
    for one in readings:
        if not -1e-6 <= one.at_mm <= shape.length_mm + 0.05:
            raise BadInput(f"{one.at_mm:g} mm from the nose lies outside the body of {shape.length_mm:g} mm")
        below = next((name for name in (*SIDES, "half width", "diameter") if one.sizes_mm.get(name, 0.0) < 0.0), None)
        if below is not None:
            raise BadInput(f"at {one.at_mm:g} mm: {below} is {one.sizes_mm[below]:g} mm; a width is never below 0")
        strange = set(one.sizes_mm) - kinds
        if strange or not one.sizes_mm:
            told = ", ".join(sorted(kinds))
            raise BadInput(
                f"at {one.at_mm:g} mm: {', '.join(sorted(strange)) or 'nothing'} was measured; want any of {told}"
            )
    if isinstance(shape, Turned):
        return replaced(
            shape, profile=_through(shape.profile, readings, "diameter", lambda s: s["diameter"] / 2.0, True)
        )
    wide = [_halved(one) for one in readings]
    return replaced(
        shape, back=_through(shape.back, readings, "back", lambda s: s["back"], False),
        belly=_through(shape.belly, readings, "belly", lambda s: s["belly"], False),
        plan=_through(shape.plan, wide, "half width", lambda s: s["half width"], True),
    )  # fmt: skip


def _halved(one: Measured) -> Measured:
    """Port and starboard as their mean half width."""
    there = SIDES & set(one.sizes_mm)
    if there and "half width" in one.sizes_mm:
        raise BadInput(f"at {one.at_mm:g} mm: the half width and a side were measured; keep the sides")
    if len(there) == 1:
        raise BadInput(f"at {one.at_mm:g} mm: only {there.pop()} is measured; measure both sides from the centre line")
    if not there:
        return one
    half = (one.sizes_mm["port"] + one.sizes_mm["starboard"]) / 2.0
    return Measured(one.at_mm, {"half width": half})


def _through(
    outline: tuple[OutlinePoint, ...], readings: Sequence[Measured], name: str, size: Callable[[dict[str, float]], float],
    positive: bool,
) -> tuple[OutlinePoint, ...]:  # fmt: skip
    read = sorted((one.at_mm, size(one.sizes_mm)) for one in readings if name in one.sizes_mm)
    if not read:
        return outline
    x, wanted = np.array([r[0] for r in read]), np.array([r[1] for r in read])
    x = np.clip(x, 0.0, outline[-1].at_mm[0])
    off = wanted - curve(outline).at(x)
    worst = int(np.argmax(np.abs(off)))
    if abs(off[worst]) > max(MOST_OFF_MM, MOST_OFF * max(abs(p.at_mm[1]) for p in outline)):
        signs = ", and below the axis is negative" if name == "belly" and wanted[worst] > 0.0 else ""
        told, by = ((2.0 if name == "diameter" else 1.0) * float(v[worst]) for v in (wanted, off))
        raise BadInput(
            f"{name} at {x[worst]:g} mm: {told:g} mm is {by:+z.1f} mm off the drawing; measure it again{signs}"
        )
    points = [_moved(p, float(np.interp(p.at_mm[0], x, off)), positive) for p in outline]
    for _ in range(len(x)):
        miss = wanted - curve(tuple(points)).at(x)
        at = int(np.argmax(np.abs(miss)))
        if abs(miss[at]) <= HELD_MM:
            break
        near = min(range(len(points)), key=lambda k: abs(points[k].at_mm[0] - x[at]))
        if abs(points[near].at_mm[0] - x[at]) < 2.0 * LEAST_STEP_MM:
            points[near] = replaced(points[near], at_mm=(points[near].at_mm[0], float(wanted[at])))
        else:
            points.append(OutlinePoint(at_mm=(float(x[at]), float(wanted[at]))))
            points.sort(key=lambda p: p.at_mm[0])
    return tuple(points)


def _moved(point: OutlinePoint, by: float, positive: bool) -> OutlinePoint:
    if abs(by) < 1e-9:
        return point
    height = point.at_mm[1] + by
    return replaced(point, at_mm=(point.at_mm[0], max(height, 0.0) if positive else height))


def _bored(design: Design, one: HoleMeasured) -> Design:
    """A hole of the body's bores or of the ballast, as measured."""
    for number, ballast in enumerate(design.ballast):
        if ballast.name == one.name and ballast.drilling is not None:
            wide = width_mm(ballast.weight)
            if one.sizes_mm.get("diameter", wide) < wide - DRIVEN_MM:
                told = one.sizes_mm["diameter"]
                raise BadInput(
                    f"{one.name}: a weight of {wide:.1f} mm is not in a hole of {told:g} mm; measure it again"
                )
            listed = list(design.ballast)
            listed[number] = replaced(ballast, drilling=_drilled(ballast.drilling, one, design.shape.length_mm))
            return design.but(ballast=tuple(listed))
    for number, piece in enumerate(design.pieces):
        for k, bore in enumerate(piece.bores):
            if bore.name == one.name:
                bores = list(piece.bores)
                bores[k] = replaced(bore, drilling=_drilled(bore.drilling, one, design.shape.length_mm))
                return design.with_piece(number, replaced(piece, bores=tuple(bores)))
    raise BadInput(f"the design has no hole called '{one.name}'")


def _drilled(drilling: Drilling, one: HoleMeasured, length_mm: float) -> Drilling:
    sizes, place = one.sizes_mm, list(drilling.place_mm)
    on_side = drilling.side not in ("nose", "tail")
    if "at" in sizes:
        if not on_side:
            raise BadInput(f"{one.name}: it is bored from the {drilling.side}: its place from the nose is that end")
        place[0] = sizes["at"]
    drawn = {"diameter": drilling.diameter_mm, "depth": drilling.depth_mm, "at": drilling.place_mm[0]}
    most = {
        "diameter": max(2.0, MOST_OFF * drilling.diameter_mm), "depth": max(6.0, MOST_OFF * drilling.depth_mm),
        "at": max(8.0, MOST_OFF / 2.0 * length_mm),
    }  # fmt: skip
    for name in drawn:
        by = sizes.get(name, drawn[name]) - drawn[name]
        if abs(by) > most[name]:
            raise BadInput(f"{one.name}: {name} {sizes[name]:g} mm is {by:+z.1f} mm off the drawing; measure it again")
    if "off" in sizes:
        place[1 if on_side and drilling.side in ("belly", "back") else 0] = sizes["off"]
        if drilling.side in ("port", "starboard"):
            raise BadInput(f"{one.name}: bored from the {drilling.side}, it has no distance from the centre line")
    return replaced(
        drilling, place_mm=tuple(place), diameter_mm=sizes.get("diameter", drilling.diameter_mm),
        depth_mm=sizes.get("depth", drilling.depth_mm),
    )  # fmt: skip


@dataclass(frozen=True)
class Uneven:
    """What sides that differ do: most_mm: how far the middle of the piece wanders at most, to starboard positive; the rest
    nearest to the one meant for, as drawn even and as made, degrees; None where it sinks."""

    most_mm: float
    roll_even_deg: float | None
    roll_deg: float | None
    pitch_deg: float | None


def uneven(design: Design, readings: Sequence[Measured]) -> Uneven | None:
    """What the difference of the sides does to the rest of a design that is already as made; None without both sides."""
    told = sorted(
        (r.at_mm, (r.sizes_mm["starboard"] - r.sizes_mm["port"]) / 2.0) for r in readings if set(r.sizes_mm) >= SIDES
    )
    if not told:
        return None
    x, shift = np.array([t[0] for t in told]), np.array([t[1] for t in told])
    mesh = of.outer(Study(design))
    moved = mesh.vertices.copy()
    moved[:, 1] += np.interp(moved[:, 0], x, shift)
    body = MeshBody(vertices_mm=tuple(map(tuple, moved.tolist())), faces=tuple(map(tuple, mesh.faces.tolist())))
    even, made_study = Study(design), Study(design.with_body(shape=body, cuts=()))
    rest, other = of.upright_rest(even), of.upright_rest(made_study)
    worst = float(shift[int(np.argmax(np.abs(shift)))])
    return Uneven(
        worst, None if rest is None else math.degrees(rest.roll_rad), None if other is None else math.degrees(other.roll_rad),
        None if other is None else math.degrees(other.pitch_rad),
    )  # fmt: skip

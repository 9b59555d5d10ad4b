"""A found stem or quill by a few diameters, measured along it: typed, and shown again as they were."""

from __future__ import annotations

from yellowbob.design.base import replaced
from yellowbob.design.shape import OutlinePoint, Turned
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity, show

MOST = 40


def diameters_of(shape: Turned, unit: str) -> str:
    """Diameters at their places from its front, as they are typed: `0: 2.0, 40: 2.6`."""
    return ", ".join(f"{show(p.at_mm[0], unit)}: {show(2.0 * p.at_mm[1], unit, 2)}" for p in shape.profile)


def by_diameters(shape: Turned, typed: str, unit: str) -> Turned:
    """The piece with the diameters typed: `0: 2.0, 40: 2.6` at their places from its front, or `2.0, 2.6` evenly along it.

    Straight between them. Raises BadInput with what cannot be read.
    """
    parts = [part.strip() for part in typed.replace(";", ",").split(",") if part.strip()]
    if not 2 <= len(parts) <= MOST:
        raise BadInput(f"'{typed[:40]}': give 2 to {MOST} diameters, such as 0: 2.0, 40: 2.6, 80: 3.1")
    placed = [":" in part for part in parts]
    if any(placed) and not all(placed):
        raise BadInput("give a place with every diameter, or with none: 0: 2.0, 40: 2.6, or 2.0, 2.6")
    points: list[tuple[float, float]] = []
    for number, part in enumerate(parts):
        place, _, across = part.rpartition(":")
        at = read_quantity(place, "length", unit) if place else shape.length_mm * number / (len(parts) - 1)
        points.append((at, read_quantity(across, "length", unit) / 2.0))
    points.sort()
    if points[0][0] != 0.0:
        raise BadInput(f"the first diameter is at {show(points[0][0], unit)}; the piece begins at 0")
    if any(r < 0.0 for _, r in points):
        raise BadInput("a diameter is negative")
    return replaced(shape, profile=tuple(OutlinePoint(at_mm=p, bend="corner") for p in points))

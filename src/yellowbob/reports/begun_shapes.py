"""Shapes of what the commands that begin something new print: new, family, seek."""

from __future__ import annotations

from typing import Any

from yellowbob.reports.shape import maybe

BALLAST: dict[str, Any] = {
    "name": str,
    "mass_g": float,
    "side": str,
    "at_mm": float,
    "diameter_mm": float,
    "depth_mm": float,
}
BEGUN: dict[str, Any] = {
    "name": str, "kind": str, "length_mm": float, "wood": str, "sound": bool, "reason": str, "failed": [str], "watch": [str],
    "mass_g": float, "reserve_g": float, "floats": bool, "pitch_deg": maybe(float), "draft_mm": maybe(float),
    "hooks": [str], "ballast": [BALLAST], "wrote": maybe(str),
}  # fmt: skip
FAMILY: dict[str, Any] = {
    "name": str, "sizes": [{"length_mm": float, "fault": str, "chosen": [str], "design": maybe(BEGUN)}],
    "smallest_mm": maybe(float), "stops": str,
}  # fmt: skip
SEEK: dict[str, Any] = {
    "points": int, "tried": int, "sound": int, "stopped": bool, "refused": {"*": int},
    "found": [{
        **BEGUN, "hung_by": str, "weight": str, "lead": bool, "ballast_g": float, "gm_mm": float, "comes_right": float,
        "range_m": maybe(float), "odds": maybe(float), "gives_up": [str],
    }],
}  # fmt: skip
BEGUN_COMMANDS: dict[str, Any] = {"new": BEGUN, "family": FAMILY, "seek": SEEK}
"""What `new`, `family` and `seek` print with --json."""

"""Shapes of what the commands for the bench print: stations, holes, blanks, the schedule and the like."""

from __future__ import annotations

from typing import Any

from yellowbob.reports.shape import maybe

PIECE: dict[str, Any] = {
    "volume_ml": float, "mass_g": float, "reserve_g": float, "pitch_deg": maybe(float), "draft_mm": maybe(float),
}  # fmt: skip
SHOP: dict[str, Any] = {
    "stations": {
        "name": str, "turned": bool, "error_mm": float, "misses_mm": float,
        "ends_mm": float, "long_mm": float, "parting_mm": [float], "says": [str],
        "stations": [{"at_mm": float, "sizes_mm": {"*": float}, "cut": int}],
    },
    "holes": {
        "name": str, "holes": [{
            "name": str, "holds": str, "side": str, "at_mm": float, "off_mm": float, "over_mm": float, "diameter_mm": float,
            "depth_mm": float, "lean_deg": float, "bit": str, "bit_mm": float, "both_ends": bool, "meets_mm": float,
            "wall_mm": float, "plug": str, "says": str,
        }],
    },
    "packet": {"wrote": str, "pages": [str]},
    "blank": {
        "blanks": [{
            "name": str, "way": str, "long_mm": float, "wide_mm": float, "high_mm": float, "ends_mm": float,
            "layers": [{"name": str, "thick_mm": float, "from_mm": float}], "feather_mm": float, "splits": bool,
            "glue": [str], "clamps": int, "steps": [str], "says": [str],
        }],
        "cuts": {
            "kerf_mm": float, "proven": bool, "through": bool, "used_mm": [float], "used_ml": float, "waste_percent": float,
            "boards": [{"name": str, "thick_mm": float, "wide_mm": float, "long_mm": float}],
            "pieces": [{
                "name": str, "board": int, "at_mm": float, "off_mm": float, "long_mm": float, "wide_mm": float,
                "thick_mm": float,
            }],
        },
    },
    "made": {
        "name": str, "wrote": maybe(str), "drawn": PIECE, "made": PIECE,
        "uneven": maybe({
            "most_mm": float, "roll_even_deg": maybe(float), "roll_deg": maybe(float), "pitch_deg": maybe(float),
        }),
    },
    "cost": {
        "name": str, "copies": int, "grade": str, "minutes_each": float, "minutes_batch": float, "cost_each": float,
        "cost_batch": float,
        "unpriced": [str], "steps": [{"name": str, "times": int, "minutes": float}],
        "goods": [{"name": str, "amount": float, "unit": str, "cost": maybe(float)}],
    },
    "mould": {
        "name": str, "box_mm": [float], "pose": str, "pour_mm": [float], "vents_mm": [[float]], "cast_ml": float,
        "rubber_ml": float, "rubber_g": float, "resin": str, "powder": str, "percent": float, "mixed_g_ml": float,
        "batches": [{"casts": int, "a_g": float, "b_g": float, "powder_g": float}], "harness": [str], "says": [str],
    },
    "schedule": {
        "name": str, "copies": int, "zone": str, "hands_min": int, "says": [str], "ready": [str], "wrote": maybe(str),
        "tasks": [{
            "copy": int, "layer": int, "name": str, "begins": str, "ends": str, "set_at": str, "next_at": str, "used_at": str,
            "place": maybe(int),
        }],
    },
}  # fmt: skip

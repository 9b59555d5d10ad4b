"""What each command prints with `--json`: its keys and their types, published as JSON Schemas and held by a test. See
`shape`."""

from __future__ import annotations

from typing import Any

from yellowbob.reports.begun_shapes import BEGUN_COMMANDS
from yellowbob.reports.log_shapes import LOG, LOG_SETS
from yellowbob.reports.motion_shapes import MOTION
from yellowbob.reports.shape import Shape, maybe, schema_of
from yellowbob.reports.shop_shapes import SHOP

__all__ = ["CONTRACTS", "Shape", "maybe", "schema_of"]

POINT = [float]
REST = {
    "up": POINT, "pitch_deg": float, "roll_deg": float, "draft_mm": float, "gm_min_mm": float, "gm_max_mm": float,
    "waterplane_mm2": float, "energy_uj": float, "neutral": bool,
}  # fmt: skip
FLOAT = {
    "name": str, "floats": bool, "mass_g": float, "load_g": float, "hull_volume_ml": float,
    "displaced_ml": float, "reserve_g": float,
    "reserve_percent": float, "sinking_weight_g": float, "cg_mm": POINT, "water_density_g_ml": float, "rests": [REST],
}  # fmt: skip
EVIDENCE = {
    "weighings": [{
        "stage": str, "mass_g": float, "u_g": float, "shares": {"*": float}, "forecast_g": float, "expected_g": float,
        "sigmas": float, "surprising": bool, "likely": maybe(str),
    }],
    "believed": [{
        "key": str, "words": str, "unit": str, "forecast": float, "believed": float, "sigma": float,
        "sigma_before": float,
    }],
}  # fmt: skip
SETTLED = {
    "floats?": maybe(bool), "mass_g?": float, "reserve_g?": float, "pitch_deg?": float, "roll_deg?": float,
    "draft_mm?": float, "gm_min_mm?": float, "landing_share?": float,
}  # fmt: skip
SPREAD = {key: maybe(float) for key in ("mean", "sigma", "p05", "p50", "p95")}
PICK = {
    "words": str, "mass_g": float, "masses_g": [float], "positions_mm": [POINT], "holes": [{"*": None}],
    "pitch_deg": float, "roll_deg": float, "draft_mm": float, "gm_min_mm": float, "reserve_g": float,
    "landing_share": float, "lead": bool, "left": maybe(float),
    "drilled": [{"depth_to_diameter": float, "wall_mm": float, "bit": str}], "ballast": [{"*": None}],
}  # fmt: skip
WROTE = {"wrote": str, "name?": str, "length_mm?": float, "factor?": float, "volume_ml?": float, "triangles?": int,
         "lopsided?": float, "unit?": str, "files?": [str], "changed_percent?": float,
         "warnings?": [str]}  # fmt: skip

CONTRACTS: dict[str, Shape] = {
    **BEGUN_COMMANDS,
    "float": FLOAT,
    "rests": {**FLOAT, "rests": [{
        **REST, "capillary_g": float, "capillary_mm": float, "landing_share": float, "knock_energy_uj": maybe(float),
    }]},
    "weigh": {
        "name": str,
        "lines": [{"key": str, "words": str, "mass_g": float, "forecast_g": float, "centre_mm": POINT, "stage": str}],
        "on_scale_g": float, "to_come_g": float, "finished_g": float, "cg_mm": POINT, "inertia_g_mm2": [POINT],
        "line_load_g": float, "water_it_fills_g": float, "reserve_g": float, "reserve_percent": float, "evidence": EVIDENCE,
    },
    "evidence": {"name": str, **EVIDENCE},
    "lines": {
        "name": str, "length_mm": float, "beam_mm": float, "depth_mm": float, "volume_ml": float, "area_mm2": float,
        "centroid_mm": POINT, "triangles": int,
    },
    "ladder": {
        "sizes": [{
            "factor": float, "length_mm": float, "volume_ml": float, "body_g": float, "hardware_g": float,
            "finish_g": float, "ballast_g": float, "reserve_g": float, "floats": bool, "as_briefed": bool,
            "verdict": str,
        }],
        "smallest_percent": maybe(float), "smallest_mm": maybe(float), "sinks": bool,
    },
    "budget": {
        "name": str, "target_from": str,
        **dict.fromkeys(("target_g", "on_scale_g", "to_come_g", "ballast_g", "ballast_in_g", "finished_g", "neutral_g",
                         "spare_g", "sink_g"), float),
    },
    "clearances": {
        "name": str, "wander_deg": float, "clear": bool,
        "clearances": [{
            "kind": str, "one": str, "other": str, "distance_mm": float, "least_mm": float, "clear": bool, "at_mm": POINT,
        }],
    },
    "wire": {"wires": [{
        "name": str, "route": str, "cut_mm": float, "mass_g": float, "centre_mm": POINT, "in_wood_mm": float,
        "legs_mm": [float], "bends": [{"along_mm": float, "at_mm": POINT, "turn_deg": float}],
        "ends": [{"end": str, "loop": maybe(str), "wire_mm": float, "strung": [str], "play_mm": maybe(float)}],
        "steps": [str], "says": [str],
    }]},
    "density": {
        "kind": str, "readings": {"*": {"value": float, "u": float}}, "steps": [str],
        **dict.fromkeys(("density_g_ml?", "density_u_g_ml?", "volume_ml?", "volume_u_ml?", "reserve_g?",
                         "reserve_u_g?"), float),
    },
    "mix": {
        **dict.fromkeys(("a_g", "b_g", "filler_g", "total_g", "add_a_g", "add_b_g", "add_filler_g", "filler_percent",
                         "density_g_ml?", "pot_life_min?"), float),
        "grown": None,
    },
    "reading": {"what": str, "value": float, "unit": str, "port": str},
    "cock": {
        "name": str, "pulls_at_mm": POINT, "hangs_g": float,
        "steps": [{"load_g": float, "pitch_deg": float, "tip_mm": float, "state": str, "draft_mm": float}],
        "cocks_at_g": maybe(float), "jumps": [{"load_g": float, "turns_deg": float}], "stands_pitch_deg": float,
        "sinks_at_g": float, "tip_wanted_mm": float, "capacity_g": maybe(float), "capillary_g": maybe(float),
        "mm_per_cg": maybe(float), "by_shot": [{
            "name": str, "load_g": float, "pitch_deg": float, "tip_mm": float, "state": str,
        }],
        "aslant": maybe({
            "load_g": float, "from_down_deg": float, "speed_m_s": float, "pitch_deg": float, "draft_mm": float,
            "tip_mm": float, "grade": str,
        }),
        "lift_of": str, "lift_mm": maybe(float), "changes": [{"words": str, "mm_per_cg": float, "capacity_g": float}],
        "crooked": [{
            "piece": str, "off_mm": float, "leans_deg": float, "range_share": float, "flies": str, "as_before": bool,
        }],
        "why_none": str, "grade": str,
    },
    "shot": {
        "name": str, "tip_mm": float, "capacity_g": float, "on_line_g": float, "target_g": float,
        "combination": [{"stock": str, "count": int, "mass_g": float, "material": str}], "words": str, "pieces": int,
        "handy": maybe({"words": str, "pieces": int, "total_g": float, "left_g": float}),
        "in_air_g": float, "total_g": float, "left_g": float, "capillary_g": float, "labels": [str], "lead": bool,
    },
    "size": {"wrote": str, "name": str, "vary": str, "value": float, "measure_mm": float, "capacity_g": float},
    "dropper": {
        "name": str, "spare_g": float, "holds_g": float, "heaviest_g": {"*": float}, "bare": REST,
        "no_hooks": REST, "with_bait": maybe(REST), "jig_g": maybe(float),
        "pull_g": float, "with_jig": maybe(REST), "pitch_deg": maybe(float), "warnings": [str],
        "drawn": maybe({
            "speed_m_s": float, "ends": str, "pitch_deg": maybe(float), "draft_mm": maybe(float), "pull_g": maybe(float),
            "grade": str,
        }),
    },
    "shapes": {
        "name": str, "wanted_g": float, "tip_mm": float, "shapes": [{
            "name": str, "wide_mm": float, "mass_g": float, "capacity_g": float, "cocks_at_g": maybe(float),
            "mm_per_cg": float, "fault": str, "wrote": maybe(str),
        }],
    },
    "paint": {
        "name": str, "shows_mm": maybe(float), "bands": [{
            "name": str, "colour": str, "from_mm": float, "to_mm": float, "order": int, "masks_mm": [float], "own_mm": float,
            "shows_mm": float, "wide_mm": float, "seen_m": float,
        }],
        "warnings": [str], "grade": str,
    },
    **MOTION,
    **SHOP,
    "start-float": {"wrote": str, "name": str, "kind": str, "capacity_g": float, "body_mm": float},
    "fit": {"wrote": str, "name": str, "sort": str, "mass_g": float, "volume_ml": float, "in_wood_ml": float},
    "ballast": {
        "name": str, "pitch_deg": float, "draft_mm": float, "total_g": float, "waterline_by": str,
        "ballast_g": float, "lead_g": float,
        "too_heavy_g": float, "feasible": bool, "limit": str, "line": {"point": POINT, "along": POINT},
        "locus": maybe({"from": POINT, "to": POINT}), "slug_radius_mm": float,
        "stretches": [{
            "from": POINT, "to": POINT, "below": str, "above": str, "gm_min_mm": [float], "landing_share": [float],
        }],
        "picks": [PICK], "why_none": str, "remedies": [{"words": str, "ballast_g": float, "feasible": bool, "limit": str}],
        "two_holes?": maybe({"masses_g": [float], "positions_mm": [POINT]}),
    },
    "odds": {
        "name": str, "builds": int, "seed": int, "floats": float, "sits": float, "wanted": str, "comes_right": float,
        "pitch_deg": SPREAD, "roll_deg": SPREAD, "draft_mm": SPREAD, "reserve_g": SPREAD,
        "matters": [{"key": str, "words": str, "sigma": float, "unit": str, "share": float}],
        "sits_if_weighed": maybe(float), "sits_in_a_jig": maybe(float), "grade": str,
    },
    "check": {
        "name": str, "failed": [str],
        "checks": [{
            "key": str, "title": str, "state": str, "figure": str, "why": str, "do": str, "grade": str,
            "set_aside": maybe(str),
        }],
    },
    "drop": {
        "name": str, "drops": int, "height_mm": float, "ends": [{"rest": int, "drops": int}], "not_at_rest": int,
        "grade": str, "seconds?": float, "settled?": bool, "energy_drift?": maybe(float), "end?": maybe(REST),
        "rest?": maybe(int),
    },
    "trim": [{
        "words": str, "pitch_change_deg": float, "draft_change_mm": float, "reserve_change_g": float,
        "mass_change_g": float, **SETTLED,
    }],
    "variants": [{"words": str, "fault": maybe(str), **SETTLED}],
    "sweep": [{"value": float, **SETTLED}],
    "righting": {"angle_deg": [float], "gz_mm": [float], "range_deg": float, "area_mm_rad": float},
    "rescale": WROTE, "redraw": WROTE, "outlines": WROTE, "solid": WROTE, "export": WROTE, "sheet": WROTE,
    "trace": {
        "length_mm": float, "depth_mm": float, "silhouette_mm2": float, "fit_error_mm": float, "points": int,
        "warnings": [str],
    },
}  # fmt: skip
"""By report. `shelf list` prints the entries themselves, `shelf add|import|export` what was done."""


def report_schemas(shapes: dict[str, Shape]) -> dict[str, Any]:
    """The JSON Schema of what each command prints, by the command's name; those of `log` by what they print."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "$comment": "what `yellow-bob COMMAND --json` prints, by command",
        "$defs": {name: schema_of(shape) for name, shape in {**shapes, **LOG, **LOG_SETS}.items()},
    }

"""Results as plain dictionaries, with the key names that the command line publishes."""

from __future__ import annotations

import math
from typing import Any

from yellowbob.afloat.rest import Rest
from yellowbob.study import Study


def _round(value: float, digits: int = 9) -> float:
    """Rounded well beyond what is shown, so that noise in the last bits does not change a file; never -0."""
    return round(value, digits) + 0.0


def rest_report(rest: Rest) -> dict[str, Any]:
    """One rest: angles in degrees, energy in µJ."""
    return {
        "up": [_round(c, 12) for c in rest.up],
        "pitch_deg": _round(math.degrees(rest.pitch_rad)),
        "roll_deg": _round(math.degrees(rest.roll_rad)),
        "draft_mm": _round(rest.draft_mm),
        "gm_min_mm": _round(rest.gm_min_mm),
        "gm_max_mm": _round(rest.gm_max_mm),
        "waterplane_mm2": _round(rest.waterplane_mm2),
        "energy_uj": _round(rest.energy_nj / 1000.0),
        "neutral": rest.neutral,
    }


def float_report(study: Study) -> dict[str, Any]:
    """What `yellow-bob float --json` prints."""
    buoyancy, water = study.buoyancy, study.water
    return {
        "name": study.design.name,
        "floats": buoyancy.floats,
        "mass_g": _round(buoyancy.mass_g),
        "hull_volume_ml": _round(buoyancy.hull_volume_ml),
        "displaced_ml": _round(buoyancy.displaced_ml),
        "reserve_g": _round(buoyancy.reserve_g),
        "reserve_percent": _round(buoyancy.reserve_percent),
        "sinking_weight_g": _round(buoyancy.sinking_weight_g),
        "cg_mm": [_round(c) for c in study.afloat.centre_mm],
        "water_density_g_ml": _round(water.density_g_ml),
        "rests": [rest_report(r) for r in study.rests],
    }


def lines_report(study: Study) -> dict[str, Any]:
    """What `yellow-bob lines --json` prints: the body bare of finish, cuts made, without its parts."""
    outer = study.outer
    length, beam, depth = (float(v) for v in outer.bounds[1] - outer.bounds[0])
    return {
        "name": study.design.name,
        "length_mm": _round(length),
        "beam_mm": _round(beam),
        "depth_mm": _round(depth),
        "volume_ml": _round(outer.volume_mm3 / 1000.0),
        "area_mm2": _round(outer.area_mm2),
        "centroid_mm": [_round(float(c)) for c in outer.moments.centroid_mm],
        "triangles": len(outer.faces),
    }


def weigh_report(study: Study) -> dict[str, Any]:
    """What `yellow-bob weigh --json` prints: the slip with every line's mass (g) and centre (mm)."""
    slip, buoyancy = study.slip, study.buoyancy
    return {
        "name": study.design.name,
        "lines": [
            {
                "key": line.key,
                "words": line.words,
                "mass_g": _round(line.mass.mass_g),
                "centre_mm": [_round(float(c)) for c in line.mass.centre_mm],
                "stage": line.stage,
            }
            for line in slip.lines
        ],
        "on_scale_g": _round(slip.on_scale.mass_g),
        "to_come_g": _round(slip.to_come.mass_g),
        "finished_g": _round(slip.finished.mass_g),
        "cg_mm": [_round(float(c)) for c in slip.finished.centre_mm],
        "inertia_g_mm2": [[_round(float(v)) for v in row] for row in slip.finished.inertia_g_mm2],
        "water_it_fills_g": _round(buoyancy.lift_g),
        "reserve_g": _round(buoyancy.reserve_g),
        "reserve_percent": _round(buoyancy.reserve_percent),
    }

"""Results as plain dictionaries, with the key names that the command line publishes."""

from __future__ import annotations

import math
from typing import Any

from yellowbob.afloat.rest import Rest
from yellowbob.study import Study, of


def rounded(value: float, digits: int = 9) -> float:
    """Rounded well beyond what is shown, so that noise in the last bits does not change a file; never -0."""
    return round(value, digits) + 0.0


def rest_report(rest: Rest) -> dict[str, Any]:
    """One rest: angles in degrees, energy in µJ."""
    return {
        "up": [rounded(c, 12) for c in rest.up],
        "pitch_deg": rounded(math.degrees(rest.pitch_rad)),
        "roll_deg": rounded(math.degrees(rest.roll_rad)),
        "draft_mm": rounded(rest.draft_mm),
        "gm_min_mm": rounded(rest.gm_min_mm),
        "gm_max_mm": rounded(rest.gm_max_mm),
        "waterplane_mm2": rounded(rest.waterplane_mm2),
        "energy_uj": rounded(rest.energy_nj / 1000.0),
        "neutral": rest.neutral,
    }


def float_report(study: Study) -> dict[str, Any]:
    """What `yellow-bob float --json` prints."""
    buoyancy, water = of.buoyancy(study), of.water(study)
    return {
        "name": study.design.name,
        "floats": buoyancy.floats,
        "mass_g": rounded(buoyancy.mass_g),
        "hull_volume_ml": rounded(buoyancy.hull_volume_ml),
        "displaced_ml": rounded(buoyancy.displaced_ml),
        "reserve_g": rounded(buoyancy.reserve_g),
        "reserve_percent": rounded(buoyancy.reserve_percent),
        "sinking_weight_g": rounded(buoyancy.sinking_weight_g),
        "cg_mm": [rounded(c) for c in of.afloat(study).centre_mm],
        "water_density_g_ml": rounded(water.density_g_ml),
        "rests": [rest_report(r) for r in of.rests(study)],
    }


def lines_report(study: Study) -> dict[str, Any]:
    """What `yellow-bob lines --json` prints: the body bare of finish, cuts made, without its parts."""
    outer = of.outer(study)
    length, beam, depth = (float(v) for v in outer.bounds[1] - outer.bounds[0])
    return {
        "name": study.design.name,
        "length_mm": rounded(length),
        "beam_mm": rounded(beam),
        "depth_mm": rounded(depth),
        "volume_ml": rounded(outer.volume_mm3 / 1000.0),
        "area_mm2": rounded(outer.area_mm2),
        "centroid_mm": [rounded(float(c)) for c in outer.moments.centroid_mm],
        "triangles": len(outer.faces),
    }


def weigh_report(study: Study) -> dict[str, Any]:
    """What `yellow-bob weigh --json` prints: the slip with every line's mass (g) and centre (mm)."""
    slip, buoyancy = of.slip(study), of.buoyancy(study)
    return {
        "name": study.design.name,
        "lines": [
            {
                "key": line.key,
                "words": line.words,
                "mass_g": rounded(line.mass.mass_g),
                "centre_mm": [rounded(float(c)) for c in line.mass.centre_mm],
                "stage": line.stage,
            }
            for line in slip.lines
        ],
        "on_scale_g": rounded(slip.on_scale.mass_g),
        "to_come_g": rounded(slip.to_come.mass_g),
        "finished_g": rounded(slip.finished.mass_g),
        "cg_mm": [rounded(float(c)) for c in slip.finished.centre_mm],
        "inertia_g_mm2": [[rounded(float(v)) for v in row] for row in slip.finished.inertia_g_mm2],
        "water_it_fills_g": rounded(buoyancy.lift_g),
        "reserve_g": rounded(buoyancy.reserve_g),
        "reserve_percent": rounded(buoyancy.reserve_percent),
    }

"""Results as plain dictionaries, with the key names that the command line publishes."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from yellowbob.afloat.rest import Rest
from yellowbob.reports.numbers import rounded, vector
from yellowbob.study import Study, of


def rest_report(rest: Rest) -> dict[str, Any]:
    """One rest: angles in degrees, energy in µJ."""
    return {
        "up": vector(rest.up, 12),
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
    """What `yellow-bob float --json` prints; `mass_g` is with what hangs on the line, weighed under water (`load_g`)."""
    buoyancy, water = of.buoyancy(study), of.water(study)
    return {
        "name": study.design.name,
        "floats": buoyancy.floats,
        "mass_g": rounded(buoyancy.mass_g),
        "load_g": rounded(of.line_load_g(study)),
        "hull_volume_ml": rounded(buoyancy.hull_volume_ml),
        "displaced_ml": rounded(buoyancy.displaced_ml),
        "reserve_g": rounded(buoyancy.reserve_g),
        "reserve_percent": rounded(buoyancy.reserve_percent),
        "sinking_weight_g": rounded(buoyancy.sinking_weight_g),
        "cg_mm": vector(of.afloat(study).centre_mm),
        "water_density_g_ml": rounded(water.density_g_ml),
        "rests": [rest_report(r) for r in of.rests(study)],
    }


def lines_report(study: Study) -> dict[str, Any]:
    """What `yellow-bob lines --json` prints: the body bare of finish, cuts made, without its parts."""
    outer = of.outer(study)
    length, beam, depth = of.sizes_mm(study)[0]
    return {
        "name": study.design.name,
        "length_mm": rounded(length),
        "beam_mm": rounded(beam),
        "depth_mm": rounded(depth),
        "volume_ml": rounded(outer.volume_mm3 / 1000.0),
        "area_mm2": rounded(outer.area_mm2),
        "centroid_mm": vector(outer.moments.centroid_mm),
        "triangles": len(outer.faces),
    }


def weigh_report(study: Study) -> dict[str, Any]:
    """What `yellow-bob weigh --json` prints: the slip with every line's mass (g) and centre (mm)."""
    slip, buoyancy = of.slip(study), of.buoyancy(study)
    forecast = {line.key: line.mass.mass_g for line in of.forecast_slip(study).lines}
    return {
        "name": study.design.name,
        "lines": [
            {
                "key": line.key,
                "words": line.words,
                "mass_g": rounded(line.mass.mass_g),
                "forecast_g": rounded(forecast.get(line.key, line.mass.mass_g)),
                "centre_mm": vector(line.mass.centre_mm),
                "stage": line.stage,
            }
            for line in slip.lines
        ],
        "on_scale_g": rounded(slip.on_scale.mass_g),
        "to_come_g": rounded(slip.to_come.mass_g),
        "finished_g": rounded(slip.finished.mass_g),
        "cg_mm": vector(slip.finished.centre_mm),
        "inertia_g_mm2": [vector(row) for row in slip.finished.inertia_g_mm2],
        "line_load_g": rounded(of.line_load_g(study)),
        "water_it_fills_g": rounded(buoyancy.lift_g),
        "reserve_g": rounded(buoyancy.reserve_g),
        "reserve_percent": rounded(buoyancy.reserve_percent),
        "evidence": evidence_report(study),
    }


def evidence_report(study: Study) -> dict[str, Any]:
    """What the weighings say: each against its forecast, and what is now believed of each cause that they moved."""
    found = of.evidence(study)
    return {
        "weighings": [
            {
                "stage": w.weighing.stage, "mass_g": rounded(w.weighing.mass_g), "u_g": rounded(w.u_g),
                "shares": dict(w.weighing.shares), "forecast_g": rounded(w.forecast_g),
                "expected_g": rounded(w.expected_g), "sigmas": rounded(w.sigmas), "surprising": w.surprising,
                "likely": w.likely or None,
            } for w in found.weighed
        ],
        "believed": [
            {
                "key": cause.key, "words": cause.words, "unit": cause.unit, "forecast": rounded(cause.now),
                "believed": rounded(cause.now + float(change)), "sigma": rounded(float(spread) ** 0.5),
                "sigma_before": rounded(cause.sigma),
            }
            for cause, change, spread in zip(found.causes, found.correction, np.diag(found.covariance), strict=True)
            if found.weighed
        ],
    }  # fmt: skip

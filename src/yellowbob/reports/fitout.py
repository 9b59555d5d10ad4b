"""Results of the Fit-out bench as plain dictionaries, with the key names that the command line publishes."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from yellowbob.fitout.budget import Budget
from yellowbob.fitout.clearances import Clearance
from yellowbob.fitout.mix import Mix
from yellowbob.fitout.worksheets import Sheet, Value
from yellowbob.reports.numbers import or_none, rounded, vector
from yellowbob.shop.bending import bendings
from yellowbob.study import Study, of
from yellowbob.trials.painting import out_of_turn, painting, shows_mm
from yellowbob.weights.wires import cut_length_mm, of_wire


def budget_report(name: str, found: Budget, target_from: str) -> dict[str, Any]:
    """What `yellow-bob budget --json` prints; grams."""
    return {
        "name": name, "target_g": found.target_g, "target_from": target_from, "on_scale_g": found.on_scale_g,
        "to_come_g": found.to_come_g, "ballast_g": found.ballast_g, "ballast_in_g": found.ballast_in_g,
        "finished_g": found.finished_g, "neutral_g": found.neutral_g, "spare_g": found.spare_g, "sink_g": found.sink_g,
    }  # fmt: skip


def clearances_report(name: str, found: Sequence[Clearance], wander_deg: float) -> dict[str, Any]:
    """What `yellow-bob clearances --json` prints; mm."""
    return {
        "name": name,
        "wander_deg": wander_deg,
        "clearances": [
            {
                "kind": c.kind, "one": c.one, "other": c.other, "distance_mm": c.distance_mm, "least_mm": c.least_mm,
                "clear": c.clear, "at_mm": list(c.at_mm),
            } for c in found
        ],
        "clear": all(c.clear for c in found),
    }  # fmt: skip


def wires_report(study: Study) -> dict[str, Any]:
    """What `yellow-bob wire --json` prints: cut lengths, masses and centres, and how each is bent."""
    rows = []
    for routed, bent in zip(of.wires(study), bendings(study), strict=True):
        mass = of_wire(routed.wire)
        rows.append({
            "name": routed.wire.name, "route": routed.wire.route, "cut_mm": cut_length_mm(routed.wire),
            "mass_g": mass.mass_g, "centre_mm": vector(mass.centre_mm), "in_wood_mm": routed.inside_mm,
            "legs_mm": list(bent.legs_mm),
            "bends": [{"along_mm": b.along_mm, "at_mm": list(b.at_mm), "turn_deg": b.turn_deg} for b in bent.bends],
            "ends": [
                {"end": e.end, "loop": None if e.loop is None else e.loop.kind, "wire_mm": e.wire_mm,
                    "strung": list(e.strung),
                 "play_mm": e.play_mm} for e in bent.ends
            ],
            "steps": list(bent.steps), "says": list(bent.says),
        })  # fmt: skip
    return {"wires": rows}


def sheet_report(kind: str, sheet: Sheet, readings: dict[str, Value]) -> dict[str, Any]:
    """What `yellow-bob density --json` prints: what was found, its standard uncertainty, and the arithmetic."""
    report: dict[str, Any] = {"kind": kind}
    for name, unit, value in (
        ("density", "g_ml", sheet.density), ("volume", "ml", sheet.volume), ("reserve", "g", sheet.reserve),
    ):  # fmt: skip
        if value is not None:
            report[f"{name}_{unit}"] = value.value
            report[f"{name}_u_{unit}"] = value.u
    report["readings"] = {name: {"value": v.value, "u": v.u} for name, v in readings.items()}
    report["steps"] = list(sheet.steps)
    return report


def mix_report(
    batch: Mix, filler_percent: float, density_g_ml: float | None, pot_life_min: float | None
) -> dict[str, Any]:
    """What `yellow-bob mix --json` prints; grams."""
    report: dict[str, Any] = {
        "a_g": batch.a_g, "b_g": batch.b_g, "filler_g": batch.filler_g, "total_g": batch.total_g,
        "add_a_g": batch.add_a_g, "add_b_g": batch.add_b_g, "add_filler_g": batch.add_filler_g,
        "filler_percent": filler_percent, "grown": batch.grown,
    }  # fmt: skip
    if density_g_ml is not None:
        report["density_g_ml"] = rounded(density_g_ml)
    if pot_life_min is not None:
        report["pot_life_min"] = rounded(pot_life_min)
    return report


def paint_report(study: Study) -> dict[str, Any]:
    """What `yellow-bob paint --json` prints: places from the front end; `shows_mm` what stays visible above the water."""
    return {
        "name": study.design.name, "shows_mm": or_none(shows_mm(study)),
        "bands": [
            {"name": p.band.name, "colour": p.band.colour, "from_mm": rounded(p.band.from_mm), "to_mm": rounded(p.band.to_mm),
             "order": p.order, "masks_mm": [rounded(m) for m in p.masks_mm], "own_mm": rounded(p.left_mm),
             "shows_mm": rounded(p.shows_mm), "wide_mm": rounded(p.wide_mm), "seen_m": rounded(p.seen_m)}
            for p in painting(study)
        ],
        "warnings": list(out_of_turn(study.design.bands)), "grade": "rule",
    }  # fmt: skip

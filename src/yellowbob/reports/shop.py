"""What goes to the bench as plain dictionaries: stations, holes, the schedule."""

from __future__ import annotations

import math
from dataclasses import fields, is_dataclass
from typing import Any
from zoneinfo import ZoneInfo

from yellowbob.reports.numbers import rounded
from yellowbob.shop.blank import Cutting, Ends
from yellowbob.shop.bores import Bored
from yellowbob.shop.cost import Reckoning
from yellowbob.shop.made import Uneven
from yellowbob.shop.mould import Mould
from yellowbob.shop.schedule import Plan
from yellowbob.shop.stations import Stations
from yellowbob.study import Study, of


def stations_report(study: Study, found: Stations, ends: Ends) -> dict[str, Any]:
    """What `yellow-bob stations --json` prints: `cut` counts the order of cutting to size, `long_mm` is with the waste."""
    order, last = found.order, found.stations[-1].at_mm
    return {
        "name": study.design.name, "turned": found.turned, "error_mm": rounded(found.error_mm),
        "misses_mm": rounded(found.misses_mm), "ends_mm": rounded(ends.waste_mm),
        "long_mm": rounded(last + 2.0 * ends.waste_mm), "parting_mm": [0.0, rounded(last)], "says": list(ends.says),
        "stations": [
            {"at_mm": rounded(s.at_mm), "sizes_mm": {k: rounded(v) for k, v in s.sizes_mm.items()}, "cut": order.index(n) + 1}
            for n, s in enumerate(found.stations)
        ],
    }  # fmt: skip


def holes_report(study: Study, found: tuple[Bored, ...]) -> dict[str, Any]:
    """What `yellow-bob holes --json` prints, in the order to drill."""
    return {
        "name": study.design.name,
        "holes": [
            {"name": b.name, "holds": b.holds, "side": b.side, "at_mm": rounded(b.at_mm), "off_mm": rounded(b.off_mm),
             "over_mm": rounded(b.over_mm), "diameter_mm": rounded(b.diameter_mm), "depth_mm": rounded(b.depth_mm),
             "lean_deg": rounded(b.lean_deg), "bit": b.bit, "bit_mm": rounded(b.bit_mm), "both_ends": b.both_ends,
             "meets_mm": rounded(b.meets_mm), "wall_mm": rounded(b.wall_mm), "plug": b.plug, "says": b.says}
            for b in found
        ],
    }  # fmt: skip


def schedule_report(study: Study, plan: Plan, wrote: str | None) -> dict[str, Any]:
    """What `yellow-bob schedule --json` prints: times with their zone's offset; copies and places counted from 1."""
    zone = ZoneInfo(plan.zone)
    return {
        "name": study.design.name, "copies": len(plan.ready), "zone": plan.zone, "hands_min": plan.hands_min,
        "says": list(plan.says), "ready": [at.astimezone(zone).isoformat() for at in plan.ready], "wrote": wrote,
        "tasks": [
            {"copy": t.copy + 1, "layer": t.layer + 1, "name": t.name, "begins": t.begins.astimezone(zone).isoformat(),
             "ends": t.ends.astimezone(zone).isoformat(), "set_at": t.set_at.astimezone(zone).isoformat(),
             "next_at": t.next_at.astimezone(zone).isoformat(), "used_at": t.used_at.astimezone(zone).isoformat(),
             "place": None if t.place is None else t.place + 1}
            for t in plan.tasks
        ],
    }  # fmt: skip


def _rounded(found: Any) -> dict[str, Any]:
    """The fields of a flat record, figures rounded, rows of figures as lists."""
    out: dict[str, Any] = {}
    for field in fields(found):
        value = getattr(found, field.name)
        if isinstance(value, tuple):
            value = [_one(v) for v in value]
        out[field.name] = _one(value)
    return out


def _one(value: Any) -> Any:
    if isinstance(value, float):
        return rounded(value)
    if is_dataclass(value):
        return _rounded(value)
    return [_one(v) for v in value] if isinstance(value, tuple) else value


def blank_report(found: Cutting, kerf_mm: float) -> dict[str, Any]:
    """What `yellow-bob blank --json` prints; boards counted from 1."""
    cuts = found.cuts
    return {
        "blanks": [_rounded(one) for one in found.blanks],
        "cuts": {
            "kerf_mm": rounded(kerf_mm), "proven": cuts.proven, "through": cuts.through,
            "used_mm": [rounded(u) for u in cuts.used_mm], "used_ml": rounded(cuts.used_ml),
            "waste_percent": rounded(cuts.waste_percent),
            "boards": [
                {"name": b.name, "thick_mm": rounded(b.thick_mm), "wide_mm": rounded(b.wide_mm),
                    "long_mm": rounded(b.long_mm)}
                for b in cuts.boards
            ],
            "pieces": [
                {"name": p.piece.name, "board": p.board + 1, "at_mm": rounded(p.at_mm), "off_mm": rounded(p.off_mm),
                 "long_mm": rounded(p.piece.long_mm), "wide_mm": rounded(p.piece.wide_mm),
                 "thick_mm": rounded(p.piece.thick_mm)}
                for p in cuts.placed
            ],
        },
    }  # fmt: skip


def cost_report(study: Study, found: Reckoning) -> dict[str, Any]:
    """What `yellow-bob cost --json` prints."""
    return {"name": study.design.name, "grade": "rule", **_rounded(found)}


def mould_report(study: Study, found: Mould) -> dict[str, Any]:
    """What `yellow-bob mould --json` prints."""
    return {"name": study.design.name, **_rounded(found)}


def _piece(study: Study) -> dict[str, Any]:
    lift, rest = of.buoyancy(study), of.upright_rest(study)
    return {
        "volume_ml": rounded(of.outer(study).volume_mm3 / 1000.0), "mass_g": rounded(lift.mass_g),
        "reserve_g": rounded(lift.reserve_g),
        "pitch_deg": None if rest is None else rounded(math.degrees(rest.pitch_rad)),
        "draft_mm": None if rest is None else rounded(rest.draft_mm),
    }  # fmt: skip


def made_report(drawn: Study, made: Study, uneven: Uneven | None, wrote: str | None) -> dict[str, Any]:
    """What `yellow-bob made --json` prints: as drawn and as made."""
    return {
        "name": made.design.name, "wrote": wrote, "drawn": _piece(drawn), "made": _piece(made),
        "uneven": None if uneven is None else _rounded(uneven),
    }  # fmt: skip

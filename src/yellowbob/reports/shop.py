"""What goes to the bench as plain dictionaries: stations, holes, the schedule."""

from __future__ import annotations

from typing import Any
from zoneinfo import ZoneInfo

from yellowbob.reports.numbers import rounded
from yellowbob.reports.shape import maybe
from yellowbob.shop.bores import Bored
from yellowbob.shop.schedule import Plan
from yellowbob.shop.stations import Stations
from yellowbob.study import Study

SHOP: dict[str, Any] = {
    "stations": {
        "name": str, "turned": bool, "error_mm": float, "misses_mm": float,
        "stations": [{"at_mm": float, "sizes_mm": {"*": float}}],
    },
    "holes": {
        "name": str, "holes": [{
            "name": str, "holds": str, "side": str, "at_mm": float, "off_mm": float, "over_mm": float, "diameter_mm": float,
            "depth_mm": float, "lean_deg": float, "bit": str, "bit_mm": float, "both_ends": bool, "meets_mm": float,
            "wall_mm": float, "plug": str, "says": str,
        }],
    },
    "packet": {"wrote": str, "pages": [str]},
    "schedule": {
        "name": str, "copies": int, "zone": str, "hands_min": int, "says": [str], "ready": [str], "wrote": maybe(str),
        "tasks": [{
            "copy": int, "layer": int, "name": str, "begins": str, "ends": str, "set_at": str, "next_at": str, "used_at": str,
            "place": maybe(int),
        }],
    },
}  # fmt: skip


def stations_report(study: Study, found: Stations) -> dict[str, Any]:
    """What `yellow-bob stations --json` prints."""
    return {
        "name": study.design.name, "turned": found.turned, "error_mm": rounded(found.error_mm),
        "misses_mm": rounded(found.misses_mm),
        "stations": [
            {"at_mm": rounded(s.at_mm), "sizes_mm": {k: rounded(v) for k, v in s.sizes_mm.items()}} for s in found.stations
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

"""Results of floats as plain dictionaries, with the key names that the command line publishes."""

from __future__ import annotations

import math
from typing import Any

from yellowbob.action.running import Run
from yellowbob.afloat.line import Capacity, Cocking, tip_mm
from yellowbob.reports.floating import rest_report
from yellowbob.reports.numbers import or_none, rounded, vector
from yellowbob.study import Study, of
from yellowbob.trials.aslant import Aslant
from yellowbob.trials.crooked import Crooked
from yellowbob.trials.dropper import Dropper
from yellowbob.trials.sensitivity import Sensitivity
from yellowbob.trials.shapes import Shaped
from yellowbob.trials.shotting import Shotted
from yellowbob.trials.sizing import Sized


def cock_report(
    study: Study,
    found: Cocking,
    carried: Capacity | None,
    shown: Sensitivity,
    why: str = "",
    off_axis: tuple[Crooked, ...] = (),
    slanted: Aslant | None = None,
) -> dict[str, Any]:
    """What `yellow-bob cock --json` prints. Loads are pulls under water, g; `tip_mm` is the height of the tip's end above
    the water; `capacity_g` the load that leaves the rig's tip, null with the reason where none does."""
    return {
        "name": study.design.name, "pulls_at_mm": vector(of.line_at(study)), "hangs_g": rounded(of.line_load_g(study)),
        "steps": [
            {"load_g": rounded(s.load_g), "pitch_deg": rounded(s.pitch_deg), "tip_mm": rounded(s.tip_mm), "state": s.state,
             "draft_mm": rounded(s.rest.draft_mm)} for s in found.steps
        ],
        "cocks_at_g": None if found.cocks_at_g is None else rounded(found.cocks_at_g),
        "jumps": [
            {"load_g": rounded(g), "turns_deg": rounded(d)}
            for g, d in zip(found.jumps_at_g, found.jumps_deg, strict=True)
        ],
        "stands_pitch_deg": rounded(found.stands_pitch_deg), "sinks_at_g": rounded(found.sinks_at_g),
        "tip_wanted_mm": rounded(of.tip_wanted_mm(study)),
        "capacity_g": None if carried is None else rounded(carried.load_g),
        "capillary_g": None if carried is None else rounded(carried.capillary_g),
        "mm_per_cg": None if carried is None else rounded(carried.mm_per_cg),
        "by_shot": [
            {"name": r.name, "load_g": rounded(r.load_g), "pitch_deg": rounded(r.pitch_deg), "tip_mm": rounded(r.tip_mm),
             "state": r.state} for r in shown.by_shot
        ],
        "aslant": None if slanted is None else {
            "load_g": rounded(slanted.load_g), "from_down_deg": rounded(slanted.from_down_deg),
            "speed_m_s": rounded(slanted.trim.speed_m_s), "pitch_deg": rounded(math.degrees(slanted.trim.pitch_rad)),
            "draft_mm": rounded(slanted.trim.draft_mm),
            "tip_mm": rounded(tip_mm(of.unloaded(study), slanted.trim.up, slanted.trim.height_mm)), "grade": "rule",
        },
        "lift_of": shown.lift_name, "lift_mm": None if shown.lift_mm is None else rounded(shown.lift_mm),
        "changes": [
            {"words": c.words, "mm_per_cg": rounded(c.mm_per_cg), "capacity_g": rounded(c.capacity_g)} for c in shown.changes
        ],
        "crooked": [
            {"piece": c.piece, "off_mm": rounded(c.off_mm), "leans_deg": rounded(c.leans_deg),
             "range_share": rounded(c.range_share), "flies": c.flies, "as_before": c.as_before} for c in off_axis
        ],
        "why_none": why, "grade": "exact",
    }  # fmt: skip


def shot_report(study: Study, found: Shotted) -> dict[str, Any]:
    """What `yellow-bob shot --json` prints: pulls under water in `capacity_g`, `target_g`, `total_g` and `left_g`; the
    shot's mass in air in `in_air_g`; labels count in air, as the trade does."""
    return {
        "name": study.design.name, "tip_mm": rounded(found.carried.tip_mm), "capacity_g": rounded(found.carried.load_g),
        "on_line_g": rounded(found.on_line_g), "target_g": rounded(found.target_g),
        "combination": [
            {"stock": h.stock, "count": h.count, "mass_g": h.mass_g, "material": s.material}
            for h in found.hung_of(found.shot) for s in found.stock if s.name == h.stock
        ],
        "handy": None if found.handy is None else {
            "words": found.words_of(found.handy), "pieces": found.handy.pieces, "total_g": rounded(found.handy.total_g),
            "left_g": rounded(found.handy.left_g),
        },
        "words": found.words_of(found.shot), "pieces": found.shot.pieces, "in_air_g": rounded(found.in_air_g),
        "total_g": rounded(found.shot.total_g), "left_g": rounded(found.shot.left_g),
        "capillary_g": rounded(found.carried.capillary_g), "labels": list(found.labels),
        "lead": any(s.material == "lead" and n for s, n in zip(found.stock, found.shot.counts, strict=True)),
    }  # fmt: skip


def size_report(found: Sized, vary: str, wrote: str) -> dict[str, Any]:
    """What `yellow-bob size --json` prints."""
    return {
        "wrote": wrote, "name": found.design.name, "vary": vary, "value": rounded(found.value),
        "measure_mm": rounded(found.measure_mm), "capacity_g": rounded(found.capacity_g),
    }  # fmt: skip


def shapes_report(
    name: str, capacity_g: float, tip_mm: float, found: tuple[Shaped, ...], wrote: dict[str, str]
) -> dict[str, Any]:
    """What `yellow-bob shapes --json` prints: `capacity_g` is what each carries by the full solve."""
    return {
        "name": name, "wanted_g": rounded(capacity_g), "tip_mm": rounded(tip_mm),
        "shapes": [
            {"name": s.name, "wide_mm": rounded(s.wide_mm), "mass_g": rounded(s.mass_g), "capacity_g": rounded(s.carries_g),
             "cocks_at_g": or_none(s.cocks_at_g), "mm_per_cg": rounded(s.mm_per_cg), "fault": s.fault,
             "wrote": wrote.get(s.name)} for s in found
        ],
    }  # fmt: skip


def _drawn(run: Run | None) -> dict[str, Any] | None:
    """A dropper drawn along; figures of nothing where it goes under."""
    if run is None:
        return None
    trim = run.trims[-1] if run.trims else None
    return {
        "speed_m_s": rounded(trim.speed_m_s if trim else run.ends_at_m_s or 0.0), "ends": run.ends,
        "pitch_deg": None if trim is None else rounded(math.degrees(trim.pitch_rad)),
        "draft_mm": None if trim is None else rounded(trim.draft_mm),
        "pull_g": None if trim is None else rounded(trim.pull_g),
        "grade": "rule",
    }  # fmt: skip


def dropper_report(study: Study, found: Dropper, run: Run | None = None) -> dict[str, Any]:
    """What `yellow-bob dropper --json` prints: `spare_g` and `holds_g` are pulls under water, `heaviest_g` masses in air."""
    return {
        "name": study.design.name, "spare_g": rounded(found.spare_g), "holds_g": rounded(found.holds_g),
        "heaviest_g": {name: rounded(v) for name, v in found.heaviest_g.items()},
        "bare": rest_report(found.bare), "no_hooks": rest_report(found.no_hooks),
        "with_bait": None if found.with_bait is None else rest_report(found.with_bait),
        "jig_g": found.jig_g, "pull_g": rounded(found.pull_g),
        "with_jig": None if found.with_jig is None else rest_report(found.with_jig),
        "pitch_deg": None if found.with_jig is None else rounded(math.degrees(found.with_jig.pitch_rad)),
        "drawn": _drawn(run), "warnings": list(found.warnings),
    }  # fmt: skip

"""Results of the Tank bench as plain dictionaries, with the key names that the command line publishes."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from yellowbob.action.drop import Drop, tally, which_rest
from yellowbob.afloat.meniscus import capillary
from yellowbob.ballast.odds import Spread
from yellowbob.ballast.picks import Pick
from yellowbob.ballast.settle import Settled
from yellowbob.checks.registry import verdicts
from yellowbob.reports.floating import float_report, rest_report
from yellowbob.reports.numbers import rounded, vector
from yellowbob.study import Study, of
from yellowbob.trials.ballasting import Ballasting, pair_of, settled_at
from yellowbob.trials.odds import Odds
from yellowbob.trials.remedies import Remedy
from yellowbob.trials.trim import Trim
from yellowbob.trials.variants import SweepPoint


def rests_report(study: Study) -> dict[str, Any]:
    """What `yellow-bob rests --json` prints: as `float`, with landing_share and knock_energy_uj for each rest (null for
    the only one: nothing turns it over for good)."""
    report = float_report(study)
    if of.rests(study):
        found = of.landings(study)
        for rest, entry, share, knock in zip(
            of.rests(study), report["rests"], found.shares, found.knocks_nj, strict=True
        ):
            band = capillary(of.afloat(study), rest.up, rest.height_mm)
            entry["capillary_g"], entry["capillary_mm"] = rounded(band.load_g), rounded(band.draft_mm)
            entry["landing_share"] = rounded(share)
            entry["knock_energy_uj"] = rounded(knock / 1000.0) if math.isfinite(knock) else None
    return report


def drop_report(study: Study, thrown: list[Drop], height_mm: float, undamped: bool) -> dict[str, Any]:
    """What `yellow-bob drop --json` prints: how many ended in which rest; of a single throw how it ended."""
    rests = of.rests(study)
    counted = tally([one.end for one in thrown], rests)
    report: dict[str, Any] = {
        "name": study.design.name, "drops": len(thrown), "height_mm": height_mm,
        "ends": [{"rest": number, "drops": count} for number, count in enumerate(counted.counts)],
        "not_at_rest": counted.restless, "grade": "textbook",
    }  # fmt: skip
    if len(thrown) == 1:
        last = thrown[0]
        scale = abs(float(last.energies_nj[0]) - (rests[0].energy_nj if rests else 0.0))
        drift = float(np.ptp(last.energies_nj)) / max(scale, 1e-9)
        report |= {
            "seconds": float(last.times_s[-1]), "settled": last.settled, "energy_drift": drift if undamped else None,
            "end": None if last.end is None else rest_report(last.end),
            "rest": None if last.end is None else which_rest(last.end, rests),
        }  # fmt: skip
    return report


def settled_report(at_rest: Settled) -> dict[str, Any]:
    """How a build settles; just mass and reserve for a sinker."""
    if not at_rest.floats:
        return {"floats": False, "mass_g": rounded(at_rest.mass_g), "reserve_g": rounded(at_rest.reserve_g)}
    report = {
        "floats": True, "mass_g": rounded(at_rest.mass_g), "reserve_g": rounded(at_rest.reserve_g),
        "pitch_deg": rounded(at_rest.pitch_deg), "roll_deg": rounded(at_rest.roll_deg),
        "draft_mm": rounded(at_rest.draft_mm), "gm_min_mm": rounded(at_rest.gm_min_mm),
    }  # fmt: skip
    if at_rest.landing_share is not None:
        report["landing_share"] = rounded(at_rest.landing_share)
    return report


def pick_report(pick: Pick) -> dict[str, Any]:
    """A pick: figures of the full solve, and the very ballast to put into the design."""
    holes = [b.drilling.model_dump() for b in pick.ballast if b.drilling is not None]
    return {
        "words": pick.words, "mass_g": rounded(pick.mass_g), "masses_g": vector(pick.masses_g),
        "positions_mm": [vector(at) for at in pick.centres_mm], "holes": holes,
        "pitch_deg": rounded(pick.at_rest.pitch_deg), "roll_deg": rounded(pick.at_rest.roll_deg),
        "draft_mm": rounded(pick.at_rest.draft_mm), "gm_min_mm": rounded(pick.at_rest.gm_min_mm),
        "reserve_g": rounded(pick.at_rest.reserve_g), "landing_share": rounded(pick.at_rest.landing_share or 0.0),
        "lead": pick.lead, "left": pick.left,
        "drilled": [
            {"depth_to_diameter": rounded(d.times), "wall_mm": rounded(d.wall_mm), "bit": d.bit} for d in pick.drilled
        ],
        "ballast": [b.model_dump(mode="json", exclude_none=True) for b in pick.ballast],
    }  # fmt: skip


def remedy_report(one: Remedy) -> dict[str, Any]:
    """A change that was tried, and what the pose asks then."""
    return {"words": one.words, "ballast_g": rounded(one.ballast_g), "feasible": one.feasible, "limit": one.limit}


def ballast_report(work: Ballasting, picks: list[Pick], remedies: list[Remedy], why: str = "") -> dict[str, Any]:
    """What `yellow-bob ballast --json` prints. `ballast_g` is net: what goes in less the wood it takes the place of;
    `lead_g` is that in lead in a plugged hole. `line` is endless; `locus` the part of it that is free."""
    posed, ends = work.posed, work.locus.ends_mm
    report: dict[str, Any] = {
        "name": work.bare.design.name,
        "pitch_deg": rounded(math.degrees(work.pose.pitch_rad)), "draft_mm": rounded(posed.draft_mm),
        "total_g": rounded(posed.total_g), "waterline_by": work.pose.by,
        "ballast_g": rounded(posed.ballast_g), "lead_g": rounded(work.lead_g),
        "too_heavy_g": rounded(work.too_heavy_g), "feasible": work.locus.feasible, "limit": work.locus.limit,
        "line": {"point": vector(posed.point_mm),
                 "along": vector(posed.water.up, 12)},
        "locus": None if ends is None else {"from": vector(ends[0]),
                                            "to": vector(ends[1])},
        "slug_radius_mm": rounded(work.locus.radius_mm),
        "stretches": [
            {"from": vector(posed.place(s.low_mm)),
             "to": vector(posed.place(s.high_mm)), "below": s.below, "above": s.above,
             "gm_min_mm": [rounded(posed.gm_min_mm(s.low_mm)), rounded(posed.gm_min_mm(s.high_mm))],
             "landing_share": [rounded(settled_at(work, lam).landing_share or 0.0) for lam in (s.low_mm, s.high_mm)]}
            for s in work.locus.stretches
        ],
        "picks": [pick_report(p) for p in picks], "why_none": why, "remedies": [remedy_report(r) for r in remedies],
    }  # fmt: skip
    if posed.ballast_g > 0 and not work.locus.feasible:
        pair = pair_of(work)
        report["two_holes"] = None if pair is None else {
            "masses_g": vector(pair.masses_g),
            "positions_mm": [vector(at) for at in pair.places_mm],
        }  # fmt: skip
    return report


def spread_report(spread: Spread) -> dict[str, Any]:
    """A spread; null where there is none."""
    values = {"mean": spread.mean, "sigma": spread.sigma, "p05": spread.low, "p50": spread.middle, "p95": spread.high}
    return {name: rounded(v) if math.isfinite(v) else None for name, v in values.items()}


def odds_report(name: str, found: Odds) -> dict[str, Any]:
    """What `yellow-bob odds --json` prints: shares 0 to 1, spreads, and each tolerance's share of the pitch's variance."""
    return {
        "name": name, "builds": found.builds, "seed": found.seed, "floats": rounded(found.floats),
        "sits": rounded(found.sits), "wanted": found.wanted, "comes_right": rounded(found.comes_right),
        "pitch_deg": spread_report(found.pitch_deg), "roll_deg": spread_report(found.roll_deg),
        "draft_mm": spread_report(found.draft_mm), "reserve_g": spread_report(found.reserve_g),
        "matters": [
            {"key": m.key, "words": m.words, "sigma": rounded(m.sigma), "unit": m.unit, "share": rounded(m.share)}
            for m in found.matters
        ],
        "sits_if_weighed": found.if_weighed, "sits_in_a_jig": found.if_jig, "grade": "rule",
    }  # fmt: skip


def check_report(study: Study) -> dict[str, Any]:
    """What `yellow-bob check --json` prints."""
    every = verdicts(study)
    return {
        "name": study.design.name,
        "checks": [
            {"key": v.key, "title": v.title, "state": v.state, "figure": v.figure, "why": v.why, "do": v.do,
             "grade": v.grade, "set_aside": v.aside or None} for v in every
        ],
        "failed": [v.key for v in every if v.fails],
    }  # fmt: skip


def trim_report(one: Trim) -> dict[str, Any]:
    """One entry of what `yellow-bob trim --json` prints."""
    return {
        "words": one.words, "pitch_change_deg": rounded(one.pitch_deg), "draft_change_mm": rounded(one.draft_mm),
        "reserve_change_g": rounded(one.reserve_g), "mass_change_g": rounded(one.mass_g), **settled_report(one.after),
    }  # fmt: skip


def sweep_report(points: list[SweepPoint]) -> list[dict[str, Any]]:
    """What `yellow-bob sweep --json` prints."""
    return [
        {"value": rounded(p.value), **(settled_report(p.at_rest) if p.at_rest is not None else {"floats": None})}
        for p in points
    ]  # fmt: skip

"""New designs, families and what was sought, as plain dictionaries."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from yellowbob.design.model import STANDING, Design
from yellowbob.reports.numbers import rounded
from yellowbob.study import Study, of
from yellowbob.trials.answer import Answer
from yellowbob.trials.family import Member
from yellowbob.trials.seek import Found, Sought
from yellowbob.trials.standing import whole_mm


def begun_report(answer: Answer, wrote: str | None) -> dict[str, Any]:
    """A new design: what it promises, and what its checks say."""
    design = answer.design
    study = Study(design)
    length = whole_mm(design) if design.kind in STANDING else design.shape.length_mm
    lift, rest = of.buoyancy(study), of.upright_rest(study)
    return {
        "name": design.name, "kind": design.kind, "length_mm": rounded(length),
        "wood": design.body.material.name, "sound": answer.sound, "reason": answer.reason,
        "failed": [v.key for v in answer.verdicts if v.fails],
        "watch": [v.key for v in answer.verdicts if v.state == "watch"],
        "mass_g": rounded(lift.mass_g), "reserve_g": rounded(lift.reserve_g), "floats": lift.floats,
        "pitch_deg": None if rest is None else rounded(math.degrees(rest.pitch_rad)),
        "draft_mm": None if rest is None else rounded(rest.draft_mm),
        "hooks": [f.stock or f.name for f in design.fittings if f.sort == "hook"], "ballast": _ballast(design, study),
        "wrote": wrote,
    }  # fmt: skip


def _ballast(design: Design, study: Study) -> list[dict[str, Any]]:
    return [
        {"name": one.name, "mass_g": rounded(placed.weight.mass_g), "side": one.drilling.side,
         "at_mm": rounded(one.drilling.place_mm[0]), "diameter_mm": rounded(one.drilling.diameter_mm),
         "depth_mm": rounded(one.drilling.depth_mm)}
        for one, placed in zip(design.ballast, of.holes(study).ballast, strict=True) if one.drilling is not None
    ]  # fmt: skip


def family_report(name: str, members: Sequence[Member], wrote: Sequence[str | None]) -> dict[str, Any]:
    """A run of sizes; what stops the smallest that is not sound."""
    sound = [m.length_mm for m in members if m.sound]
    stopped = [m for m in members if not m.sound and (not sound or m.length_mm < min(sound))]
    last = max(stopped, key=lambda m: m.length_mm, default=None)
    stops = (
        "" if last is None else f"{last.length_mm:g} mm: {last.fault or (last.answer.reason if last.answer else '')}"
    )
    return {
        "name": name,
        "sizes": [
            {"length_mm": rounded(m.length_mm), "fault": m.fault, "chosen": list(m.chosen),
             "design": None if m.answer is None else begun_report(m.answer, path)}
            for m, path in zip(members, wrote, strict=True)
        ],
        "smallest_mm": rounded(min(sound)) if sound else None, "stops": stops,
    }  # fmt: skip


def seek_report(found: Sought, wrote: Sequence[str | None]) -> dict[str, Any]:
    """What was found, side by side."""
    return {
        "points": found.points, "tried": found.tried, "sound": found.sound, "stopped": found.stopped,
        "refused": found.refused, "found": [_found(f, path) for f, path in zip(found.found, wrote, strict=True)],
    }  # fmt: skip


def _found(one: Found, wrote: str | None) -> dict[str, Any]:
    return {
        **begun_report(one.answer, wrote), "hung_by": one.asked.hung_by, "weight": one.asked.weight, "lead": one.asked.lead,
        "ballast_g": rounded(one.ballast_g), "gm_mm": rounded(one.gm_mm), "comes_right": rounded(one.comes_right),
        "range_m": None if one.range_m is None else rounded(one.range_m),
        "odds": None if one.odds is None else rounded(one.odds), "gives_up": list(one.gives_up),
    }  # fmt: skip

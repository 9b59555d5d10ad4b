"""The log as plain dictionaries: builds, entries, what is still to go in, what the tests and all builds taught."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from yellowbob.logbook.lain import Lain
from yellowbob.logbook.records import Build, Entry, now_stage, time_told
from yellowbob.logbook.taught import Errors, Taught
from yellowbob.reports.log_shapes import TAUGHT
from yellowbob.reports.numbers import rounded
from yellowbob.trials.learned import Learned
from yellowbob.trials.mend import Mended
from yellowbob.trials.still import Still


def build_out(one: Build) -> dict[str, Any]:
    """A build."""
    return one.model_dump(mode="json")


def entry_out(one: Entry) -> dict[str, Any]:
    """An entry."""
    return {"number": one.number, "at": time_told(one.at), "what": one.what, "data": one.data.model_dump(mode="json")}


def builds_report(builds: Sequence[Build]) -> dict[str, Any]:
    """What `log new`, `log list` and `log set` print."""
    return {"builds": [build_out(one) for one in builds]}


def still_report(serial: str, found: Still, wrote: str | None) -> dict[str, Any]:
    """What `log next` prints."""
    return {
        "serial": serial, "stage": found.stage, "ballast": found.ballast, "drawn_g": rounded(found.drawn_g),
        "put_in_g": rounded(found.put_in_g), "aft_mm": rounded(found.aft_mm),
        "length_mm": None if found.length_mm is None else rounded(found.length_mm), "count": found.count,
        "pitch_deg": None if found.pitch_deg is None else rounded(found.pitch_deg),
        "draft_mm": None if found.draft_mm is None else rounded(found.draft_mm), "finished_g": rounded(found.finished_g),
        "u_g": rounded(found.u_g), "wanted_deg": None if found.wanted_deg is None else rounded(found.wanted_deg),
        "within": found.within, "why": found.why, "measure": found.measure, "wrote": wrote,
    }  # fmt: skip


def lain_out(found: Lain | None) -> dict[str, Any] | None:
    """What tank tests make a build out to be."""
    if found is None:
        return None
    return {
        "tests": len(found.misses), "mass_g": rounded(found.mass_g), "mass_u_g": rounded(found.mass_u_g),
        "centre_mm": [rounded(v) for v in found.centre_mm], "centre_u_mm": [rounded(v) for v in found.centre_u_mm],
        "forecast_g": rounded(found.forecast_g), "forecast_mm": [rounded(v) for v in found.forecast_mm], "says": found.says,
    }  # fmt: skip


def mended_out(found: Mended | None) -> dict[str, Any]:
    """How a build lies by its tank tests, and the trims that would mend it."""

    def one(value: float | None) -> float | None:
        return None if value is None else rounded(value)

    return {
        "pitch_deg": one(found.pitch_deg if found else None), "wanted_deg": one(found.wanted_deg if found else None),
        "mends": [
            {"words": m.words, "pitch_deg": rounded(m.pitch_deg), "draft_mm": rounded(m.draft_mm),
             "reserve_g": rounded(m.reserve_g)} for m in (found.mends if found else ())
        ],
    }  # fmt: skip


def taught_out(found: Taught) -> dict[str, Any]:
    """What was taught of one thing."""
    told = {k: getattr(found, k) for k in TAUGHT}
    return {k: rounded(v) if isinstance(v, float) else list(v) if isinstance(v, tuple) else v for k, v in told.items()}


def _errors(found: Errors) -> dict[str, Any]:
    def one(value: float | None) -> float | None:
        return None if value is None or not math.isfinite(value) else rounded(value)

    return {"misses": [rounded(m) for m in found.misses], "bias": one(found.bias), "spread": one(found.spread)}


def learned_report(found: Learned, wrote: Sequence[str] = ()) -> dict[str, Any]:
    """What `log learn` prints."""
    return {
        "densities": {name: taught_out(t) for name, t in found.densities.items()},
        "films": {name: taught_out(t) for name, t in found.films.items()}, "mass_g": _errors(found.mass_g),
        "pitch_deg": _errors(found.pitch_deg), "draft_mm": _errors(found.draft_mm),
        "swings": {kind: {"factor": rounded(f), "tests": n} for kind, (f, n) in found.swings.items()},
        "limits": {kind: {"factor": rounded(f), "tests": n} for kind, (f, n) in found.limits.items()},
        "drilling": {size: _errors(e) for size, e in found.drilling.items()},
        "resins": {name: taught_out(t) for name, t in found.pucks.resins.items()},
        "fillers": {name: taught_out(t) for name, t in found.fillings.items()},
        "powders": {name: taught_out(t) for name, t in found.pucks.powders.items()},
        "aside": list(found.aside), "wrote": list(wrote),
    }  # fmt: skip


def build_report(build: Build, entries: Sequence[Entry], weighed: Sequence[Any]) -> dict[str, Any]:
    """What `log report` prints; `weighed` from the evidence."""
    return {
        "build": build_out(build), "stage": now_stage(tuple(entries)), "entries": [entry_out(e) for e in entries],
        "weighed": [
            {"stage": w.weighing.stage, "mass_g": rounded(w.weighing.mass_g), "forecast_g": rounded(w.forecast_g),
             "expected_g": rounded(w.expected_g), "sigmas": rounded(w.sigmas), "likely": w.likely} for w in weighed
        ],
    }  # fmt: skip

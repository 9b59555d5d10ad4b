"""Shapes of what the commands of `log` print."""

from __future__ import annotations

from typing import Any

from yellowbob.reports.shape import maybe

BUILD: dict[str, Any] = {
    "serial": str, "name": str, "kind": str, "batch": str, "experiment": str, "made_on": str, "state": str, "lost_why": str,
    "given_to": str, "notes": str, "hours": maybe(float), "cost": maybe(float), "again": maybe(bool), "aside": str,
    "differs": str, "board": str, "promised": maybe({
        "bare_g": float, "finished_g": float, "length_mm": float, "wood": str, "pitch_deg": maybe(float),
        "draft_mm": maybe(float), "reserve_g": maybe(float),
    }),
}  # fmt: skip
ENTRY: dict[str, Any] = {"number": int, "at": str, "what": str, "data": {"*": None}}
STILL: dict[str, Any] = {
    "serial": str, "stage": maybe(str), "ballast": str, "drawn_g": float, "put_in_g": float, "aft_mm": float,
    "length_mm": maybe(float), "count": maybe(int), "pitch_deg": maybe(float), "draft_mm": maybe(float), "finished_g": float,
    "u_g": float, "wanted_deg": maybe(float), "within": bool, "why": str, "measure": str, "wrote": maybe(str),
}  # fmt: skip
TAUGHT: dict[str, Any] = {
    "count": int, "mean": float, "low": float, "high": float, "scatter": float, "scatter_low": float, "scatter_high": float,
    "next_low": float, "next_high": float, "shelf": float, "trend": maybe(float), "trend_u": maybe(float), "serials": [str],
}  # fmt: skip
ERRORS: dict[str, Any] = {"misses": [float], "bias": maybe(float), "spread": maybe(float)}
FACTOR: dict[str, Any] = {"factor": float, "tests": int}
LOG: dict[str, Any] = {
    "log new": {"builds": [BUILD]}, "log list": {"builds": [BUILD]}, "log set": {"builds": [BUILD]},
    "log entry": {"serial": str, "entry": ENTRY}, "log next": STILL,
    "log tank": {
        "serial": str, "entry": ENTRY, "pitch_miss_deg": maybe(float), "draft_miss_mm": maybe(float),
        "lain": maybe({
            "tests": int, "mass_g": float, "mass_u_g": float, "centre_mm": [float], "centre_u_mm": [float],
                "forecast_g": float,
            "forecast_mm": [float], "says": str,
        }),
        "pitch_deg": maybe(float), "wanted_deg": maybe(float),
        "mends": [{"words": str, "pitch_deg": float, "draft_mm": float, "reserve_g": float}],
    },
    "log report": {"build": BUILD, "stage": maybe(str), "entries": [ENTRY], "weighed": [{
        "stage": str, "mass_g": float, "forecast_g": float, "expected_g": float, "sigmas": float, "likely": str,
    }]},
    "log learn": {
        "densities": {"*": TAUGHT}, "films": {"*": TAUGHT}, "mass_g": ERRORS, "pitch_deg": ERRORS, "draft_mm": ERRORS,
        "swings": {"*": FACTOR}, "limits": {"*": FACTOR}, "drilling": {"*": ERRORS}, "aside": [str], "wrote": [str],
        "resins": {"*": TAUGHT}, "powders": {"*": TAUGHT}, "fillers": {"*": TAUGHT},
    },
    "log taken": {"wrote": maybe(str), "serials": [str], "refused": [str]},
}  # fmt: skip
"""What the commands of `log` print with --json, by what they print."""
PUCKS: dict[str, Any] = {"resins": {"*": TAUGHT}, "powders": {"*": TAUGHT}, "aside": [str]}
LOG_SETS: dict[str, Any] = {
    "log experiment": {"builds": [BUILD]},
    "log compare": {
        "builds": [BUILD], "figures": [{"key": str, "words": str, "unit": str, "values": [maybe(float)]}],
        "differ": [{"where": str, "values": [str]}], "more": int, "words": [[str]],
    },
    "log batch": {
        "batch": str, "builds": int, "lost": [{"serial": str, "why": str}],
        "spread": {"*": {"count": int, "mean": float, "sd": maybe(float), "least": float, "most": float, "unit": str}},
    },
    "log chart": {
        "x": str, "y": str, "points": [{"serial": str, "x": float, "y": float}], "r": maybe(float), "slope": maybe(float),
        "slope_u": maybe(float), "wrote": maybe(str),
    },
    "log puck": PUCKS, "log speed": {"speeds": {"*": float}},
}  # fmt: skip
"""What the commands of `log` over several builds print with --json."""

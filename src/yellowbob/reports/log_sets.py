"""Several builds of the log as plain dictionaries: side by side, a batch's spread, charts, pucks."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from yellowbob.logbook.compared import Compared
from yellowbob.logbook.figures import Charted, Spread, figure_words
from yellowbob.logbook.pucks import FromPucks
from yellowbob.logbook.records import Build
from yellowbob.reports.log import build_out, taught_out
from yellowbob.reports.numbers import rounded


def compared_report(found: Compared) -> dict[str, Any]:
    """What `log compare` prints."""
    return {
        "builds": [build_out(b) for b in found.builds],
        "figures": [
            {"key": r.key, "words": r.words, "unit": r.unit, "values": [None if v is None else rounded(v) for v in r.values]}
            for r in found.rows
        ],
        "differ": [{"where": place, "values": list(values)} for place, values in found.differ],
        "more": found.more, "words": [list(w) for w in found.words],
    }  # fmt: skip


def batch_report(label: str, builds: Sequence[Build], spread: Mapping[str, Spread]) -> dict[str, Any]:
    """What `log batch` prints."""
    return {
        "batch": label, "builds": len(builds),
        "lost": [{"serial": b.serial, "why": b.lost_why} for b in builds if b.state == "lost"],
        "spread": {
            key: {"count": s.count, "mean": rounded(s.mean), "sd": None if s.sd is None else rounded(s.sd),
                  "least": rounded(s.least), "most": rounded(s.most), "unit": figure_words(key)[1]}
            for key, s in spread.items()
        },
    }  # fmt: skip


def chart_report(x: str, y: str, found: Charted, wrote: str | None) -> dict[str, Any]:
    """What `log chart` prints."""

    def one(value: float | None) -> float | None:
        return None if value is None else rounded(value)

    points = zip(found.serials, found.x, found.y, strict=True)
    return {
        "x": x, "y": y, "points": [{"serial": s, "x": rounded(a), "y": rounded(b)} for s, a, b in points],
        "r": one(found.r), "slope": one(found.slope), "slope_u": one(found.slope_u), "wrote": wrote,
    }  # fmt: skip


def pucks_report(found: FromPucks) -> dict[str, Any]:
    """What `log puck` prints."""
    return {
        "resins": {name: taught_out(t) for name, t in found.resins.items()},
        "powders": {name: taught_out(t) for name, t in found.powders.items()}, "aside": list(found.aside),
    }  # fmt: skip

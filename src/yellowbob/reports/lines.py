"""Results of the Lines bench as plain dictionaries, with the key names that the command line publishes."""

from __future__ import annotations

from dataclasses import asdict
from pathlib import Path
from typing import Any

from yellowbob.design.model import Design
from yellowbob.trials.ladder import Ladder


def ladder_report(found: Ladder) -> dict[str, Any]:
    """What `yellow-bob ladder --json` prints: every size asked for, and the smallest that can still work."""
    return {
        "sizes": [asdict(rung) for rung in found.rungs],
        "smallest_percent": found.smallest_factor and found.smallest_factor * 100,
        "smallest_mm": found.smallest_mm,
        "sinks": found.sinks,
    }


def wrote_report(out: Path, **more: Any) -> dict[str, Any]:
    """What a command that writes a file prints with `--json`: where, and what of it."""
    return {"wrote": str(out), **more}


def wrote_design_report(out: Path, design: Design, **more: Any) -> dict[str, Any]:
    """The same for a design file."""
    return wrote_report(out, name=design.name, length_mm=design.shape.length_mm, **more)

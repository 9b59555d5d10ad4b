"""How the command line prints."""

from __future__ import annotations

import json
from typing import TYPE_CHECKING, Any

import typer

if TYPE_CHECKING:
    from yellowbob.weights.evidence import Evidence


def print_json(data: Any) -> None:
    """JSON, indented; figures that are no number are refused rather than written."""
    typer.echo(json.dumps(data, indent=2, ensure_ascii=False, allow_nan=False))


def say_surprises(found: Evidence) -> None:
    """Weighings that what is known to vary does not explain, each with the mistake that would."""
    for one in found.surprising:
        words = f"; {one.likely}?" if one.likely else ""
        typer.echo(f"! {one.weighing.stage}: {one.weighing.mass_g:.2f} g is {abs(one.sigmas):.1f} σ from "
                   f"what the rest leads to expect{words}")  # fmt: skip

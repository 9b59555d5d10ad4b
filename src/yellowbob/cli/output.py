"""How the command line prints."""

from __future__ import annotations

import json
from typing import Any

import typer


def print_json(data: Any) -> None:
    """JSON, indented; figures that are no number are refused rather than written."""
    typer.echo(json.dumps(data, indent=2, ensure_ascii=False, allow_nan=False))

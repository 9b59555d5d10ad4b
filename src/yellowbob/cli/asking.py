"""A brief for something new out of what was typed."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any

import typer
from pydantic import ValidationError

from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity

if TYPE_CHECKING:
    from yellowbob.trials.asked import Asked
    from yellowbob.trials.outlined import Outlines


def outlines_in(file: Path) -> Outlines:
    """The body's outlines in a design or an SVG; what is doubtful is told beside the output. Raises BadInput."""
    from yellowbob.design.shape import MeshBody
    from yellowbob.lines.svg.body import read_svg_body
    from yellowbob.shelf.filling import opened

    if file.suffix.lower() in (".svg", ".svgz"):
        drawn = read_svg_body(file)
        for note in drawn.notes:
            typer.echo(f"yellow-bob: mind: {file.name}: {note}", err=True)
        if drawn.cuts:
            typer.echo(f"yellow-bob: mind: {file.name}: what is cut into it ({len(drawn.cuts)}) is left out", err=True)
        return drawn.shape
    shape = opened(file).shape
    if isinstance(shape, MeshBody):
        raise BadInput(f"{file.name}: its body is a mesh, which has no outlines; trace it, or give an SVG")
    return shape


def asked_of(fields: dict[str, Any]) -> Asked:
    """A brief out of its fields. Raises BadInput with the field and what is wrong with it."""
    from yellowbob.design.faults import describe
    from yellowbob.trials.asked import Asked

    try:
        return Asked.model_validate(fields)
    except ValidationError as error:
        raise BadInput(f"the brief: {describe(error)}") from None


SPREAD, PITCH_ROOM = 0.08, 5.0
"""How far about one figure a mass, and a pitch in degrees, may come out that is asked for by one: rules."""


def span(text: str, dimension: Any) -> dict[str, float] | None:
    """A range: `14..18 g`, or one figure with its usual room. Raises BadInput."""
    if not text.strip():
        return None
    low, dots, high = text.partition("..")
    if not dots:
        value = read_quantity(text, dimension)
        room = PITCH_ROOM if dimension == "angle" else SPREAD * value
        return {"least": value - room, "most": value + room}
    most = read_quantity(high, dimension)
    unit = "".join(c for c in high if not (c.isdigit() or c in "+-−. /")).strip()
    least = read_quantity(low if any(c.isalpha() for c in low) or not unit else f"{low} {unit}", dimension)
    return {"least": least, "most": most}

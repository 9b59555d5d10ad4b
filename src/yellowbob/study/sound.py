"""What of a design can be built where not all of it can: so that it opens, says what is wrong, and can be mended."""

from __future__ import annotations

from collections.abc import Iterator

from yellowbob.design.model import Design
from yellowbob.design.outline_edits import blank
from yellowbob.design.starts import with_shape
from yellowbob.ground.errors import YellowBobError
from yellowbob.study.afloat import afloat
from yellowbob.study.engine import Study

LISTS = ("ballast", "fittings", "wires", "coats")


def _bare(design: Design) -> Design:
    """The body's shape alone; a plain one where even that is none."""
    lone = with_shape(design, design.shape).but(fittings=(), wires=(), coats=(), weighings=())
    if _fault(lone) == "":
        return lone
    long = min(max(design.shape.length_mm, 20.0), 1000.0)
    return with_shape(lone, blank("lofted", long))


def _fault(design: Design, before: Study | None = None) -> str:
    try:
        afloat(Study(design, before))
    except YellowBobError as error:
        return str(error)
    return ""


def _steps(design: Design) -> Iterator[tuple[str, str, object]]:
    """Everything that can be put on a bare body, one thing at a time: its list, its name, itself."""
    for field in ("cuts", "bores"):
        for one in getattr(design.body, field):
            yield field, one.name, one
    for piece in design.parts:
        yield "pieces", piece.name, piece
    for field in LISTS:
        for one in getattr(design, field):
            yield field, one.name, one


def buildable(design: Design) -> tuple[Design, tuple[str, ...]]:
    """As much of a design as can be built, and what is wrong with each thing that cannot.

    A sound design comes back itself, with nothing to say.
    """
    fault = _fault(design)
    if not fault:
        return design, ()
    done, faults = _bare(design), []
    if done.shape != design.shape:
        faults.append(fault)
    study = Study(done)
    if design.body.shell is not None:
        done, faults = _tried(done.with_body(shell=design.body.shell), done, design.body.shell.name, faults, study)
    for field, name, one in _steps(design):
        if field in ("cuts", "bores"):
            more = done.with_body(**{field: (*getattr(done.body, field), one)})
        elif field == "pieces":
            more = done.but(pieces=(*done.pieces, one))
        else:
            more = done.but(**{field: (*getattr(done, field), one)})
        done, faults = _tried(more, done, name, faults, study)
    return done, tuple(faults or [fault])


def _tried(more: Design, done: Design, name: str, faults: list[str], study: Study) -> tuple[Design, list[str]]:
    fault = _fault(more, study)
    if not fault:
        return more, faults
    return done, [*faults, fault if name in fault else f"{name}: {fault}"]

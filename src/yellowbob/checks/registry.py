"""All checks behind the verdict line, run over a study. Importing the modules below enters their checks, in this order."""

from __future__ import annotations

from yellowbob.checks import afloat, care, drawn, floats, hardware, held, likely, motion, surface, wood
from yellowbob.checks.verdict import CHECKS, Verdict, signed
from yellowbob.study import Study

__all__ = ["CHECKS", "FIRST", "Verdict", "signed", "verdicts"]

FIRST = ("floats", "sits", "upright", "casts", "ballast", "wall")
"""The checks that have a cell of their own at the foot of every bench."""
MODULES = (afloat, floats, wood, hardware, held, likely, surface, motion, drawn, care)


def verdicts(study: Study, wait: bool = True) -> tuple[Verdict, ...]:
    """What every check says that has something to say of the design, in order; without `wait`, some may be pending."""
    found = (one.verdict(study, wait) for one in CHECKS.values())
    return tuple(v for v in found if v is not None)

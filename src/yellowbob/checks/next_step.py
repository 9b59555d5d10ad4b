"""The next sensible step of the work for a design, in a line: what is missing in the order that makers do it, then what
fails."""

from __future__ import annotations

from yellowbob.checks.registry import verdicts
from yellowbob.design.model import STANDING, Design
from yellowbob.study import Study


def next_step(study: Study) -> str:
    """What to do next; nothing slow is worked out for it."""
    design = study.design
    return _missing(design) or _failing(study) or _last(design)


def _missing(design: Design) -> str:
    brief = design.brief
    lure = design.kind not in STANDING and design.kind != "dropper"
    if design.kind in STANDING and (design.rig is None or not design.rig.hung):
        return "Put shot on its line: Tank, Load."
    if lure and not design.fittings:
        return "Hang its hooks and rings: Fit-out (2)."
    if lure and not design.ballast and brief.pitch_deg is not None:
        return "Pose it as it should sit, and take a weight from the shelf: P."
    if brief.pitch_deg is None and brief.mass_g is None and brief.tackle_g is None:
        return "Say how it should sit and what throws it: the brief (B)."
    if not design.coats:
        return "Say how it will be finished, for varnish weighs: Fit-out, Finish."
    return ""


def _failing(study: Study) -> str:
    """The first check that fails, with what to do; but a figure that cannot be before all that follows from it."""
    failing = sorted((v for v in verdicts(study, wait=False) if v.fails), key=lambda v: v.key != "likely")
    return f"{failing[0].title}: {failing[0].do}" if failing else ""


def _last(design: Design) -> str:
    if not design.body.material.measured and not design.weighings:
        return "Weigh a squared test block of this very piece: Fit-out, Measure."
    if not design.weighings:
        return "Print what goes to the bench: Shop (5), Packet; begin a build: Log (6)."
    return "Weigh it at every stage: Log (6) tells what is still to go in."

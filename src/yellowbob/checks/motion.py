"""Checks of motion, by estimates: drawn at the speeds of the brief, and thrown."""

from __future__ import annotations

import math

from yellowbob.action.running import Trim
from yellowbob.action.turning import KEPT_DEG
from yellowbob.checks.verdict import NOTHING, Finding, check
from yellowbob.design.model import Span
from yellowbob.design.plates import Lip
from yellowbob.study import Study, of
from yellowbob.study.drawn import Drawn

NEARLY = of.BEYOND
"""A limit less than so many times the fastest speed wanted is said."""


def wanted_speeds(study: Study) -> Span:
    """How fast it is to be drawn: as the brief says, else the usual speeds."""
    least, most = of.USUAL_M_S
    return study.design.brief.speed_m_s or Span(least=least, most=most)


def _drawn(study: Study) -> tuple[Drawn, Span] | None:
    """Drawn, with the speeds wanted; None for floats and what sinks."""
    if of.rig(study) is not None or of.stands_by_kind(study) or not of.buoyancy(study).floats:
        return None
    return of.drawn_usually(study), wanted_speeds(study)


def _span(wanted: Span) -> str:
    return f"{wanted.least:g} to {wanted.most:g} m/s"


@check("steady", "Runs true", "Drawn too fast a build turns aside, swings over or lies on its side.", "rule")
def steady(study: Study) -> Finding | None:
    found = _drawn(study)
    if found is None or found[0].sideways is None:
        return None
    drawn, wanted = found
    sideways = drawn.sideways
    assert sideways is not None
    limit = None if sideways.ends_m_s is None else of.factors(study).limit * sideways.ends_m_s
    if limit is None or limit > NEARLY * wanted.most:
        return Finding(
            "good", f"at {_span(wanted)}" + ("" if limit is None else f"; {sideways.how} from {limit:.1f} m/s")
        )
    figure = f"{sideways.how} from {limit:.2f} m/s on; wanted {_span(wanted)}"
    do = "Lower the ballast, slide it aft, raise the tie, or fit a smaller lip; Action, Change tries each."
    return Finding("failed" if limit < wanted.most else "watch", figure, do)


@check("digs", "Stays up", "A lip, a high tie or a low rod can draw it under at speed.", "rule")
def digs(study: Study) -> Finding | None:
    found = _drawn(study)
    if found is None:
        return None
    drawn, wanted = found
    ends, at = drawn.run.ends, drawn.run.ends_at_m_s
    if "under" not in ends or at is None or at > NEARLY * wanted.most:
        return Finding("good", f"at {_span(wanted)}" + (f"; {ends} at {at:.1f} m/s" if "under" in ends and at else ""))
    do = "Lower the tie, hold the rod higher, or fit a smaller or steeper lip."
    return Finding("failed" if at < wanted.most else "watch", f"{ends} at {at:.2f} m/s; wanted {_span(wanted)}", do)


@check("holds", "Lip holds", "A lip that is too small to hold its nose down lets it skip and run straight.", "rule")
def holds(study: Study) -> Finding | None:
    if not any(isinstance(piece.shape, Lip) for piece in study.design.pieces):
        return None
    found = _drawn(study)
    if found is None:
        return None
    drawn, wanted = found
    trims = [t for t in drawn.run.trims if t.speed_m_s <= wanted.most + 1e-9]
    if len(trims) < 2:
        return None
    first, last = trims[0], trims[-1]
    turned = abs(math.degrees(last.pitch_rad - first.pitch_rad))
    figure = f"nose {_turned(first, last)} by {turned:.0f}° at {last.speed_m_s:g} m/s"
    if last.pitch_rad > first.pitch_rad:
        return Finding("watch", figure, "Fit a longer lip, or tie it higher.")
    return Finding("good", figure)


def _turned(first: Trim, last: Trim) -> str:
    return "up" if last.pitch_rad > first.pitch_rad else "down"


@check(
    "torque",
    "Props",
    "A prop that sticks turns the body with it; a keel weight or a pair of both hands holds it.",
    "rule",
)
def torque(study: Study) -> Finding | None:
    found = _drawn(study)
    if found is None:
        return None
    _, wanted = found
    heels = [h for h in of.heeled_usually(study) if h.speed_m_s <= wanted.most + 1e-9]
    if not heels:
        return None
    last = heels[-1]
    if any(turning.stands_for and turning.wet_share > 0.0 for turning in last.each):
        return Finding("unknown", "its blades have no angle", "Say the angle of the blades on the Fit-out bench.")
    dry = [turning for turning in last.each if turning.stands_for]
    if dry:
        return Finding("watch", f"{dry[0].name}: out of the water at {last.speed_m_s:g} m/s", "Set its blades lower.")
    jammed = "over" if last.jammed_deg is None else f"{last.jammed_deg:.0f}°"
    free = "over" if last.heel_deg is None else f"{last.heel_deg:.0f}°"
    figure = f"heels {free} at {last.speed_m_s:g} m/s, {jammed} with both stuck" if len(last.each) > 1 else (
        f"heels {free} at {last.speed_m_s:g} m/s, {jammed} when it sticks"
    )  # fmt: skip
    if last.heel_deg is None or last.heel_deg > KEPT_DEG:
        return Finding("failed", figure, f"Put {last.keel_g:.1f} g more at the keel, or props of both hands.")
    if last.jammed_deg is None:
        return Finding(
            "watch", figure, f"{last.keel_g:.1f} g more at the keel would hold a stuck one; keep bearings clean."
        )
    return Finding("good", figure, NOTHING)


@check(
    "tumbles", "In the air", "What tumbles flies short and lands anyhow; weight at an end makes it fly true.", "rule"
)
def tumbles(study: Study) -> Finding | None:
    if of.rig(study) is not None or of.stands_by_kind(study):
        return None
    found = of.thrown_usually(study)
    figure = f"{found.flies}, {found.flight.turns:.1f} turns, {100 * found.share:.0f} % of a smooth dart's way"
    if found.flies == "tumbles":
        return Finding("watch", figure, "Slide weight to the end that is to lead; a few millimetres are enough.")
    return Finding("good", figure)

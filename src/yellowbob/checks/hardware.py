"""Checks of hooks, line, props and tickers."""

from __future__ import annotations

import numpy as np

from yellowbob.checks.verdict import Finding, check
from yellowbob.checks.wood import _of_clearance, _worst
from yellowbob.design.hardware import line_tie
from yellowbob.study import Study, of


@check("hooks", "Hooks apart", "Hooks that can meet tangle in the first cast.")
def hooks(study: Study) -> Finding | None:
    return _of_clearance(_worst(study, "hook to hook"), "move a hanger, or fit a smaller hook.")


@check("line", "Hooks and line", "A hook that reaches the line fouls it in the air.")
def line(study: Study) -> Finding | None:
    return _of_clearance(_worst(study, "hook to line"), "move the hanger aft, or fit a smaller hook.")


@check("struck", "Hooks and props", "A prop or ticker that strikes a hook stops, or opens its ring.")
def struck(study: Study) -> Finding | None:
    return _of_clearance(
        _worst(study, "hook to prop", "hook to ticker"), "move the hanger, or fit a smaller hook or prop."
    )


@check("caught", "Hooks and plates", "A hook that reaches a wing or a lip hangs on it; in a turning tail it stops it.")
def caught(study: Study) -> Finding | None:
    stopped, hung = _worst(study, "hook to tail"), _worst(study, "hook to plate")
    do = "move the hanger, or fit a smaller hook."
    if hung is None or (stopped is not None and not stopped.clear):
        return _of_clearance(stopped, do)
    if hung.clear:
        return _of_clearance(hung if stopped is None or hung.distance_mm < stopped.distance_mm else stopped, do)
    return Finding("watch", f"{hung.one} reaches {hung.other}", f"{hung.one} and {hung.other}: {do}")


@check("turns", "Props turn free", "Blades that touch the body, a wing, a tail or each other do not start.")
def turns(study: Study) -> Finding | None:
    worst = _worst(
        study, "prop to body", "prop to part", "prop to prop", "blade to prop", "blade to blade", "blade to part"
    )
    return _of_clearance(worst, "add a bead, or set one further out.")


@check("ticks", "Ticker strikes", "A ticker must just touch the prop.")
def ticks(study: Study) -> Finding | None:
    worst = _worst(study, "ticker to prop")
    if worst is None:
        return None
    if worst.clear:
        return Finding("good", "touches")
    return Finding("watch", f"{worst.distance_mm:.1f} mm short", f"Bend {worst.one} toward {worst.other}.")


@check(
    "hook-up", "Hook-up", "The point should stand clear of the widest part of the body, or it bumps fish off.", "rule"
)
def hook_up(study: Study) -> Finding | None:
    worst = _worst(study, "hook-up")
    if worst is None:
        return None
    figure = f"point {worst.distance_mm:.1f} mm clear"
    if worst.clear:
        return Finding("good", figure)
    return Finding(
        "watch", f"point {-worst.distance_mm:.1f} mm inside", f"{worst.one}: a larger hook, or a lower hanger."
    )


@check("tie", "Line tie", "Below the nose's centre the pull lifts; higher, it catches more water and digs.", "rule")
def tie(study: Study) -> Finding | None:
    if of.rig(study) is not None or of.stands_by_kind(study):
        return None  # a float's line is its rig's
    eye = line_tie(study.build.fittings)
    if eye is None:
        return Finding("watch", "none", "Put a line tie on: Fit-out bench.")
    nose = of.outer(study).vertices[of.outer(study).vertices[:, 0] < 0.12 * study.build.shape.length_mm]
    if not len(nose):
        return None
    middle = float(nose[:, 2].max() + nose[:, 2].min()) / 2
    above = eye.at_mm[2] - middle
    figure = f"{abs(above):.1f} mm {'above' if above > 0 else 'below'} the nose's middle"
    if above > 0.25 * float(np.ptp(nose[:, 2])) and study.build.kind in ("popper", "pencil", "crawler"):
        return Finding("watch", figure, "Lower it, unless it is meant to dig.")
    return Finding("good", figure)


@check("keel", "Keel under the prop", "A big prop needs a keel, or the body turns with it.", "rule")
def keel(study: Study) -> Finding | None:
    props = [f for f in study.build.fittings if f.sort in ("prop", "blade")]
    rest = of.upright_rest(study)
    if not props or rest is None:
        return None
    shaft = max(f.at_mm[2] for f in props)
    below = shaft - of.afloat(study).centre_mm[2]
    figure = f"G {abs(below):.1f} mm {'below' if below > 0 else 'above'} the shaft, GM {rest.gm_min_mm:.1f} mm"
    if below < 0.5 or rest.gm_min_mm < 0.8:
        return Finding("watch", figure, "Put a slug in the belly under the shaft, or fit a smaller prop.")
    return Finding("good", figure)


@check("blades", "Blades in the water", "A prop whose disc is in the air at rest starts late.", "rule")
def blades(study: Study) -> Finding | None:
    props = [f for f in study.build.fittings if f.sort == "prop" and f.span_mm > 0]
    rest = of.upright_rest(study)
    if not props or rest is None:
        return None
    shares = []
    turns = np.linspace(0, 2 * np.pi, 49)[:-1]
    for prop in props:
        rim = np.asarray(prop.at_mm) + prop.span_mm / 2 * np.stack([np.zeros(48), np.cos(turns), np.sin(turns)], axis=1)
        shares.append(float((rim @ np.asarray(rest.up) < rest.height_mm).mean()))
    least = min(shares)
    if least < 0.25:
        return Finding(
            "watch", f"{100 * least:.0f} % of the disc under", "Sit it deeper at that end, or fit a larger prop."
        )
    return Finding("good", f"{100 * least:.0f} % of the disc under")

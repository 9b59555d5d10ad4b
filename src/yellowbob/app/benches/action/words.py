"""What a run says, in a few lines."""

from __future__ import annotations

import math

from yellowbob.action.running import FASTEST_M_S
from yellowbob.action.swing import Swing
from yellowbob.action.walk import TWITCH_M_S
from yellowbob.study import Study, of
from yellowbob.study.drawn import Drawn


def swing_words(swing: Swing) -> str:
    """What it does sideways at a speed."""
    if swing.why:
        return f"it <b>{swing.why}</b>"
    if not math.isfinite(swing.yaw_deg):
        return "it swings, and nothing holds it"
    how = "swings by itself" if swing.by_itself else "is shaken"
    return f"{how} ±{swing.yaw_deg:.0f}° at {swing.hz:.1f} Hz, rolls ±{swing.roll_deg:.0f}°"


def said_of(study: Study, drawn: Drawn) -> list[str]:
    """Where it ends, what out of true does, what its mouth, props and a twitch do; how far that may be believed."""
    found, taught = drawn.run, of.factors(study)
    lines = []
    if drawn.least_m_s is not None:
        lines.append(f"It sinks, and stays up from <b>{drawn.least_m_s:.2f} m/s</b> on.")
    elif not of.buoyancy(study).floats:
        return [f"! It sinks, and no speed up to {FASTEST_M_S:g} m/s holds it up on this line."]
    if drawn.planes_m_s is not None:
        lines.append(f"From <b>{drawn.planes_m_s:.2f} m/s</b> on it planes.")
    if drawn.nose_under_m_s is not None:
        lines.append(f"From <b>{drawn.nose_under_m_s:.2f} m/s</b> on its nose is under.")
    if found.ends:
        lines.append(f"At <b>{found.ends_at_m_s:.2f} m/s</b> it {found.ends}.")
    aside = drawn.sideways
    if aside is not None:
        if aside.swings_from_m_s is not None:
            lines.append(f"It swings by itself from {aside.swings_from_m_s:.2f} m/s on.")
        if aside.ends_m_s is not None:
            worse = (
                f"; {aside.worse_mm:.1f} mm and {aside.worse_deg:.1f}° out of true halve that" if aside.worse_mm else ""
            )
            lines.append(f"From <b>{taught.limit * aside.ends_m_s:.2f} m/s</b> on it {aside.how}{worse}.")
        elif not found.ends:
            lines.append("It runs at every speed looked at.")
    for one in of.mouths(study):
        lines.append(
            f"The {one.name} holds {one.volume_mm3 / 1000.0:.2f} mL, {100.0 * one.air_share:.0f} % of it air at rest."
        )
    for jerk in of.jerked(study):
        way = "digs" if jerk.digs_mm > 0.0 else "lifts"
        lines.append(
            f"Jerked at {TWITCH_M_S:g} m/s it {way} {abs(jerk.digs_mm):.1f} mm and brakes with {jerk.brakes_g:.0f} g."
        )
    walk = of.walked(study)
    if walk is not None and walk.turn_s is not None:
        lines.append(f"A twitch turns it over in {walk.turn_s:.2f} s, {walk.glide_mm:.0f} mm ahead.")
    heels = of.heels(study, drawn)
    if heels and all(t.starts_m_s is not None for t in heels[-1].each):
        jammed = "over" if heels[-1].jammed_deg is None else f"{heels[-1].jammed_deg:.0f}°"
        starts = ", ".join(f"{t.starts_m_s:.2f}" for t in heels[-1].each)
        side = heels[-1].sides_g[1]
        pushes = f" and push {abs(side):.1f} g to {'starboard' if side > 0.0 else 'port'}" if abs(side) >= 0.05 else ""
        lines.append(
            f"Props turn from {starts} m/s on; stuck at {heels[-1].speed_m_s:g} m/s they heel it {jammed}{pushes}."
        )
    own = f"set by {taught.tests} tests" if taught.calibrated else "not yet set by tests"
    lines.append(f"Rules, for comparing; {own}. Sound, sight: not computed.")
    return lines

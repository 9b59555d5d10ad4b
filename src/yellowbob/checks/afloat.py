"""Checks of how it floats, sits, comes right and casts."""

from __future__ import annotations

import math

import numpy as np

from yellowbob.checks.verdict import NOTHING, Finding, check, signed
from yellowbob.design.model import Span
from yellowbob.ground.constants import GRAVITY_MM_S2
from yellowbob.ground.water import named_water
from yellowbob.study import Study, of

LEAST_RESERVE = 8.0
"""Per cent of the displacement that should be spare: a rule."""
STANDING = 0.98
"""Cosine of the body axis to the upright from which a piece stands on an end, and has no back or belly up."""
STANDS_DEG = Span(least=85.0, most=90.0)
"""Pitch of a float that stands."""
SINKS = Finding("failed", "it sinks", "Make it float first.")


@check("floats", "Floats", "Everything counts: hooks, wire, ballast and the finish that is not on yet.")
def floats(study: Study) -> Finding:
    b = of.buoyancy(study)
    if not b.floats:
        return Finding("failed", f"sinks, {b.sinking_weight_g:.1f} g too heavy", _lighter(study))
    if of.rig(study) is not None:
        return Finding("good", f"{b.reserve_g:.2f} g to spare")
    low = b.reserve_percent < LEAST_RESERVE
    do = "A soaked dressing or one larger hook could sink it; leave a little more." if low else NOTHING
    return Finding("watch" if low else "good", f"{b.reserve_g:.1f} g to spare", do)


def _lighter(study: Study) -> str:
    """What there is to take off what sinks."""
    if of.rig(study) is not None and of.unloaded(study).floats:
        return "Take shot off the line; Tip says how much."
    ways = ["take ballast out"] if study.build.ballast else []
    ways += ["fit smaller hooks"] if any(f.sort == "hook" for f in study.build.fittings) else []
    ways.append("use lighter wood" if study.build.body.material.group == "wood" else "use lighter stuff")
    words = ", ".join(ways[:-1]) + (", or " if len(ways) > 2 else " or " if len(ways) > 1 else "") + ways[-1]
    return f"{words[0].upper()}{words[1:]}. Lift grows with the cube of size."


@check("sits", "Sits", "The attitude at rest decides how the face drains and how the first pull starts.")
def sits(study: Study) -> Finding:
    wanted, rest = study.design.brief.pitch_deg, of.upright_rest(study)
    if wanted is None and of.stands_by_kind(study):
        wanted = STANDS_DEG
    if rest is None:
        return Finding("failed", "does not: it sinks", "Make it float first.")
    pitch = math.degrees(rest.pitch_rad)
    if wanted is None:
        return Finding("unknown", f"{signed(pitch, 1)}°", "Say in the brief how it should sit.")
    figure = f"{signed(pitch, 1)}° of {signed(wanted.least)} to {signed(wanted.most)}°"
    if wanted.holds(pitch):
        return Finding("good", figure)
    if of.stands_by_kind(study):
        do = "Put more shot on the line, make the base heavier, or tie the line lower; Cocking says how much."
        return Finding("failed", figure, do)
    way = "aft" if pitch < wanted.least else "forward"
    return Finding("failed", figure, f"Move the ballast {way}, or the heavier hook; Pose it says how much.")


@check("upright", "Comes right", "Where there is a second rest, some landings end in it.")
def upright(study: Study) -> Finding:
    rest = of.upright_rest(study)
    if rest is None:
        return SINKS
    briefed = study.design.brief.pitch_deg is not None or of.stands_by_kind(study)
    standing = abs(rest.up[0]) > STANDING
    if float(np.dot(rest.up, of.wanted_up(study))) < 0.1 and (briefed or not standing):
        words = "never rests as briefed" if briefed else "never rests upright"
        if of.stands_by_kind(study):
            return Finding("failed", "never stands", "Put more shot on the line, or make the base heavier.")
        return Finding("failed", words, "Lower the ballast or add some in the belly.")
    ways = len(of.rests(study))
    if ways == 1 and standing and not briefed:
        end = study.design.ends[1 if rest.up[0] < 0 else 0]
        return Finding("watch", f"stands on its {end}, its only rest", "Say in the brief how it should sit.")
    if ways == 1:
        return Finding("good", "always, its only rest")
    do = "Move ballast lower, or narrow the back, until only one rest is left."
    share = 100.0 * of.share_of(study, rest)
    return Finding("failed" if share < 70.0 else "watch", f"{share:.0f} % of landings", do)


@check("stiff", "Stiffness", "Metacentric height: how stiffly it holds its attitude against a roll.")
def stiff(study: Study) -> Finding:
    rest = of.upright_rest(study)
    if rest is None:
        return SINKS
    figure = f"GM {rest.gm_min_mm:.1f} mm"
    if rest.neutral and not of.stands_by_kind(study):
        return Finding(
            "watch", "any side up", "Put some weight off the axis, in the belly, or it lies with any side up."
        )
    if rest.gm_min_mm < 0.5:
        return Finding("watch", figure, "Lower the ballast; half a millimetre is very tender.")
    return Finding("good", figure)


@check("casts", "Casts", "Too heavy for the rod is common: a splendid thing that cannot be thrown.")
def casts(study: Study) -> Finding:
    mass, span = of.cast_g(study), study.design.brief.tackle_g
    if span is None:
        return Finding("unknown", f"{mass:.1f} g", "Say in the brief what the rod throws.")
    figure = f"{mass:.0f} g of {span.least:.0f} to {span.most:.0f} g"
    if span.holds(mass):
        return Finding("good", figure)
    do = "Lighten it, or throw it on a heavier rod." if mass > span.most else "Add weight, or use a lighter rod."
    return Finding("failed", figure, do)


@check("reserve", "Reserve", "What is spare carries the line, a soaked dressing, and the next size of hook.", "rule")
def reserve(study: Study) -> Finding | None:
    if of.rig(study) is not None:
        return None  # a float is shotted down on purpose: its tip says what is spare
    percent = of.buoyancy(study).reserve_percent
    figure = f"{signed(percent)} % of its mass"
    if percent < 0:
        return Finding("failed", figure, "Lighten it, or make it larger: lift grows with the cube of size.")
    if percent < LEAST_RESERVE:
        return Finding("watch", figure, f"Under {LEAST_RESERVE:.0f} % a larger hook or a wet knot pulls it under.")
    return Finding("good", figure)


@check("draft", "Waterline", "Where the water stands on the body decides what bites the surface and what drains.")
def draft(study: Study) -> Finding | None:
    wanted, rest = study.design.brief.draft_mm, of.upright_rest(study)
    if wanted is None:
        return None
    if rest is None:
        return SINKS
    figure = f"draft {rest.draft_mm:.1f} of {wanted.least:.0f} to {wanted.most:.0f} mm"
    if wanted.holds(rest.draft_mm):
        return Finding("good", figure)
    return Finding("failed", figure, "Take ballast out." if rest.draft_mm > wanted.most else "Put more ballast in.")


@check("mass", "Finished mass", "Primer, paint and varnish take it over when they were never in the sum.")
def mass(study: Study) -> Finding | None:
    wanted, total = study.design.brief.mass_g, of.slip(study).finished.mass_g
    if wanted is None:
        return None
    figure = f"{total:.1f} of {wanted.least:.0f} to {wanted.most:.0f} g"
    if wanted.holds(total):
        return Finding("good", figure)
    return Finding("failed", figure, "Lighten it." if total > wanted.most else "There is room for more ballast.")


@check("lists", "Lists", "A lean at rest shows in the action: even a slight miss of the drill leaves it leaning.")
def lists(study: Study) -> Finding | None:
    rest = of.upright_rest(study)
    if rest is None or rest.neutral:
        return None
    # out of level across the beam: the roll of a level body, and still a figure for one that stands on an end
    lean = math.degrees(math.asin(max(-1.0, min(1.0, -rest.up[1]))))
    roll = lean if rest.up[2] >= 0.0 or abs(rest.up[0]) > STANDING else math.degrees(rest.roll_rad)
    figure = "upright" if abs(roll) < 0.05 else f"{abs(roll):.1f}° to {'starboard' if roll > 0 else 'port'}"
    if abs(roll) > 1.5:
        return Finding(
            "failed", figure, "Bring the ballast onto the centre line, or fit the heavier part on the other side."
        )
    return Finding(
        "watch" if abs(roll) > 0.5 else "good",
        figure,
        "Check the ballast's place across." if abs(roll) > 0.5 else NOTHING,
    )


@check("knock", "Knocked over", "A low pass between two rests: a wave or a fish turns it over and it stays there.")
def knock(study: Study) -> Finding | None:
    rest = of.upright_rest(study)
    if rest is None or len(of.rests(study)) < 2:
        return None
    energy = of.landings(study).knocks_nj[of.rests(study).index(rest)]
    lift = energy / (of.buoyancy(study).mass_g * GRAVITY_MM_S2)
    figure = f"{energy / 1000.0:.0f} µJ, as a lift of {lift:.2f} mm"
    if lift < 0.3:
        return Finding("watch", figure, "Lower the ballast; so little turns it over.")
    return Finding("good", figure)


@check(
    "top",
    "Top-heavy",
    "With G well above B only the beam at the water keeps it upright, and it rolls over once it is pulled.",
    "rule",
)
def top_heavy(study: Study) -> Finding | None:
    rest = of.upright_rest(study)
    if rest is None:
        return None
    above = float((np.asarray(of.afloat(study).centre_mm) - np.asarray(rest.buoyancy_mm)) @ np.asarray(rest.up))
    figure = f"G {abs(above):.1f} mm {'above' if above > 0 else 'below'} B"
    if above > 0.25 * rest.draft_mm and rest.gm_min_mm < 1.0:
        return Finding("watch", figure, "Lower the ballast, or lay it along the belly.")
    return Finding("good", figure)


def more_or_less(mass_g: float) -> str:
    """0.12 g more, or less."""
    return f"{abs(mass_g):.2f} g {'less' if mass_g < -0.005 else 'more'}"


@check("waters", "Other waters", "Salt lifts it by 2.5 % of the displacement; warm fresh water lets it down.")
def waters(study: Study) -> Finding | None:
    rest = of.upright_rest(study)
    if rest is None:
        return None
    afloat = of.afloat(study)
    warm = named_water("fresh", of.WARM_C).density_g_mm3
    if of.rig(study) is not None:
        wet, own = rest.displaced_mm3, afloat.density_g_mm3
        more, less = (named_water("sea", of.SEA_C).density_g_mm3 - own) * wet, (warm - own) * wet
        figure = f"pull it carries: {more_or_less(more)} in the sea, {more_or_less(less)} in warm fresh water"
        return Finding("good", figure, "Shot it again for other water.")
    if warm * afloat.volume_mm3 < afloat.mass_g:
        return Finding("failed", "sinks in warm fresh water", "It floats only in denser water; leave more in reserve.")
    sea = of.rest_in_the_sea(study)
    if sea is None:
        return None
    rise, turn = rest.draft_mm - sea.draft_mm, math.degrees(sea.pitch_rad - rest.pitch_rad)
    figure = f"{abs(rise):.2f} mm {'deeper' if rise < -0.005 else 'higher'} in the sea"
    return Finding("good", figure + (f", pitch {signed(turn, 1)}°" if abs(turn) >= 0.05 else ""), NOTHING)

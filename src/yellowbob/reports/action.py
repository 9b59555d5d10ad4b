"""Results of motion as plain dictionaries, with the key names that the command line publishes."""

from __future__ import annotations

import math
from typing import Any

from yellowbob.action.calibration import Factors
from yellowbob.action.discs import prop_disc
from yellowbob.action.flight import Cast
from yellowbob.action.mouth import SOURCE as MOUTH_SOURCE
from yellowbob.action.mouth import Mouth
from yellowbob.action.pair import GRADE as PAIR_GRADE
from yellowbob.action.pair import Hung, PairFlight
from yellowbob.action.periods import GRADE, SOURCE
from yellowbob.action.running import Trim, froude
from yellowbob.action.stability import Stability
from yellowbob.action.swing import GRADE as SWING_GRADE
from yellowbob.action.swing import SOURCE as SWING_SOURCE
from yellowbob.action.swing import TRUE_DEG, TRUE_MM
from yellowbob.action.turning import GRADE as TURN_GRADE
from yellowbob.action.turning import KEPT_DEG, TICKS, Heel
from yellowbob.action.turning import SOURCE as TURN_SOURCE
from yellowbob.action.wake import GRADE as WAKE_GRADE
from yellowbob.action.wake import SOURCE as WAKE_SOURCE
from yellowbob.action.walk import GRADE as WALK_GRADE
from yellowbob.action.walk import SIDE_DEG, TWITCH_M_S, Walk
from yellowbob.action.walk import SOURCE as WALK_SOURCE
from yellowbob.action.waves import Current, Rough
from yellowbob.reports.numbers import or_none, rounded
from yellowbob.study import Study, of
from yellowbob.study.drawn import Drawn, Jerked
from yellowbob.trials.thrown import Landed


def rough_report(study: Study, rough: Rough, current: Current | None) -> dict[str, Any]:
    """What `yellow-bob rough --json` prints: estimates, graded. `follows` is its bob over the waves' own; `needs_mm` how much
    tip the crests reach over the mean line; `under_m_s` the current that draws it under on a line held below."""
    own = rough.periods
    rest = of.upright_rest(study)
    shows = of.tip_of_rest(study, rest) if rest is not None and of.stands_by_kind(study) else None
    return {
        "name": study.design.name, "wave_mm": rounded(rough.chop.height_mm), "wave_length_mm": rounded(rough.chop.length_mm),
        "wave_s": rounded(rough.chop.period_s),
        "periods_s": {
            "heave": or_none(own.heave_s), "pitch": or_none(own.pitch_s), "roll": or_none(own.roll_s),
        },
        "follows": rounded(rough.follows), "needs_mm": rounded(rough.needs_mm), "shows_mm": or_none(shows),
        "in_step": rough.in_step,
        "current": None if current is None else {
            "drag_g": rounded(current.drag_g), "leans_deg": rounded(current.leans_deg),
            "under_m_s": or_none(current.under_m_s), "grade": "rule",
        },
        "grade": GRADE, "source": SOURCE,
    }  # fmt: skip


CAST_SOURCE = "cross-flow drag, Hoerner 1965, 3-11; Munk 1924; line's pull a rule"


def cast_report(
    study: Study, found: Cast, mass_limit_g: float | None, splash: Landed, pair: tuple[Hung, PairFlight] | None
) -> dict[str, Any]:
    """What `yellow-bob cast --json` prints. `mass_g` is what the rod throws, all on the line in it; `flies_g` what is
    followed through the air, the build by itself. `index`: the centre of gravity ahead of the middle of its side, as a share
    of its length; `share` its range over a smooth dart's; `landing` the attitude it meets the water with, and over
    `throws` throws with a hand's scatter the share that comes right, beside that of landings `evenly` over all attitudes;
    `two_bodies` the float with what hangs on its line."""
    last = found.flight
    mass = of.cast_g(study)
    return {
        "name": study.design.name, "mass_g": rounded(mass), "flies_g": rounded(of.body(study).mass_g),
        "range_m": rounded(of.factors(study).range * last.range_mm / 1000.0),
        "dart_m": rounded(found.dart_mm / 1000.0), "share": rounded(found.share), "seconds": rounded(float(last.times_s[-1])),
        "turns": rounded(last.turns), "index": rounded(found.index), "leads": rounded(last.leads), "flies": found.flies,
        "landing": {
            "pitch_deg": rounded(math.degrees(found.landing_rad)), "speed_m_s": rounded(float(last.speeds_mm_s[-1]) / 1000.0),
            "throws": splash.throws, "comes_right": or_none(splash.comes_right), "evenly": or_none(splash.evenly),
            "comes_right_least": or_none(splash.unheld), "meniscus_share": or_none(splash.carried_share),
        },
        "two_bodies": None if pair is None else {
            "mass_g": rounded(pair[0].mass_g), "leader_mm": rounded(pair[0].leader_mm),
            "range_m": rounded(of.factors(study).range * pair[1].range_mm / 1000.0), "turns": rounded(pair[1].turns),
            "leads": pair[1].leads, "tangles": pair[1].tangles, "grade": PAIR_GRADE,
        },
        "tackle_max_g": mass_limit_g, "too_heavy": mass_limit_g is not None and mass > mass_limit_g,
        "grade": "rule", "source": CAST_SOURCE,
    }  # fmt: skip


RUN_SOURCE = (
    "Newton's sine-squared law, Rayleigh 1876 for plates, Blasius 1908, Hoerner 1965 for hooks; its own waves left out"
)


def action_report(study: Study, found: Drawn) -> dict[str, Any]:
    """What `yellow-bob action --json` prints; `left_over`: shares of weight (forward, up), of weight x length (pitch).

    Every part says its grade and source; `calibrated` whether logged tests set the factors it is multiplied by.
    """
    own, taught = of.own_periods(study), of.factors(study)
    return {
        "name": study.design.name,
        "periods_s": {
            "heave": or_none(own.heave_s) if own else None, "pitch": or_none(own.pitch_s) if own else None,
            "roll": or_none(own.roll_s) if own else None, "grade": GRADE, "source": SOURCE,
        },
        "trim": [_trim(study, t, n, taught) for t, n in zip(found.run.trims, found.noses_mm, strict=True)],
        "ends": found.run.ends, "ends_at_m_s": or_none(found.run.ends_at_m_s), "stays_up_from_m_s": or_none(found.least_m_s),
        "planes_from_m_s": or_none(found.planes_m_s), "nose_under_from_m_s": or_none(found.nose_under_m_s),
        **_sideways(found.sideways, taught),
        "pop": [_mouth(m, next((j for j in of.jerked(study) if j.name == m.name), None)) for m in of.mouths(study)],
        "walk": _walk(of.walked(study)),
        "wake": [
            {"speed_m_s": rounded(w.speed_m_s), "froude": rounded(w.froude), "angle_deg": rounded(w.angle_deg),
             "waves_mm": rounded(w.waves_mm), "beam_mm": rounded(w.beam_mm), "lip_mm2": rounded(w.plates_mm2),
             "lip_deep_mm": or_none(w.plates_deep_mm), "grade": WAKE_GRADE, "source": WAKE_SOURCE}
            for w in of.wakes(study, found.run)
        ],
        "prop": [_heel(h) for h in of.heels(study, found)],
        "props": [
            {"name": f.name, "across_mm": rounded(f.span_mm), "at_rest": rounded(rest.wet_share),
             "runs": [rounded(prop_disc(f.name, f.at_mm, f.span_mm, t.up, t.height_mm).wet_share) for t in found.run.trims]}
            for f, rest in of.prop_discs(study)
        ],
        "grade": "rule", "source": RUN_SOURCE, "calibrated": taught.calibrated, "tests": taught.tests,
        "not_computed": "sound and sight: note them in the log",
    }  # fmt: skip


def _trim(study: Study, trim: Trim, nose_mm: float, taught: Factors) -> dict[str, Any]:
    return {
        "speed_m_s": rounded(trim.speed_m_s), "pitch_deg": rounded(math.degrees(trim.pitch_rad)),
        "draft_mm": rounded(trim.draft_mm), "pull_g": rounded(taught.pull * trim.pull_g),
        "line_deg": rounded(math.degrees(trim.line_rad)), "wet_share": rounded(trim.wet_share),
        "nose_over_mm": rounded(nose_mm),
        "froude": rounded(froude(trim.speed_m_s, of.pulled(study).length_mm)),
        "left_over": [rounded(v) for v in trim.left_over],
    }  # fmt: skip


def _sideways(found: Stability | None, taught: Factors) -> dict[str, Any]:
    """What it does sideways; half-swings are null where nothing holds them."""
    if found is None:
        return {"swings": [], "rollover_m_s": None, "rolls_over_by": "", "swing_hz": None, "swings_from_m_s": None,
                "out_of_true": None}  # fmt: skip
    limit = None if found.ends_m_s is None else taught.limit * found.ends_m_s
    own = next((s for s in found.swings if s.by_itself), None)
    wide = taught.swing_width

    def finite(value: float) -> float | None:
        return rounded(wide * value) if math.isfinite(value) else None

    return {
        "swings": [
            {"speed_m_s": rounded(s.speed_m_s), "hz": rounded(taught.swing_rate * s.hz), "by_itself": s.by_itself,
             "yaw_deg": finite(s.yaw_deg), "roll_deg": finite(s.roll_deg), "wide_mm": finite(s.wide_mm),
             "heel_deg": rounded(s.heel_deg), "drifts_mm": rounded(s.drifts_mm), "why": s.why}
            for s in found.swings
        ],
        "rollover_m_s": or_none(limit), "rolls_over_by": found.how,
        "swing_hz": None if own is None else rounded(taught.swing_rate * own.hz),
        "swings_from_m_s": or_none(found.swings_from_m_s),
        "out_of_true": {
            "told_for_mm": TRUE_MM, "told_for_deg": TRUE_DEG, "halves_mm": or_none(found.worse_mm),
            "halves_deg": or_none(found.worse_deg), "grade": SWING_GRADE, "source": SWING_SOURCE,
        },
    }  # fmt: skip


def _mouth(mouth: Mouth, jerked: Jerked | None) -> dict[str, Any]:
    return {
        "name": mouth.name, "area_mm2": rounded(mouth.area_mm2), "volume_ml": rounded(mouth.volume_mm3 / 1000.0),
        "air_share": rounded(mouth.air_share), "wet_rim_share": rounded(mouth.wet_rim_share),
        "looks_deg": rounded(mouth.looks_deg), "tie_over_mm": rounded(mouth.tie_over_mm),
        "scoops_ml": rounded(mouth.scoops_mm3 / 1000.0), "grade": "exact", "source": MOUTH_SOURCE,
        "jerked": None if jerked is None else {
            "twitch_m_s": TWITCH_M_S, "air_share": rounded(jerked.air_share), "digs_mm": rounded(jerked.digs_mm),
            "brakes_g": rounded(jerked.brakes_g), "grade": "rule",
        },
    }  # fmt: skip


def _walk(found: Walk | None) -> dict[str, Any] | None:
    if found is None:
        return None
    return {
        "turn_s": or_none(found.turn_s), "turns_deg": rounded(found.turns_deg), "glide_mm": rounded(found.glide_mm),
        "aside_mm": rounded(found.aside_mm), "from_deg": SIDE_DEG, "twitch_m_s": TWITCH_M_S, "grade": WALK_GRADE,
        "source": WALK_SOURCE,
    }  # fmt: skip


def _heel(found: Heel) -> dict[str, Any]:
    """Torques in mN·mm, positive with its left side up; heels null where it would be turned over. Pushes to a side, and how
    far it runs there, positive to starboard; the latter null where nothing brings it back."""
    return {
        "speed_m_s": rounded(found.speed_m_s), "heel_deg": or_none(found.heel_deg), "jammed_deg": or_none(found.jammed_deg),
        "keel_g": rounded(found.keel_g), "kept_deg": KEPT_DEG, "grade": TURN_GRADE, "source": TURN_SOURCE,
        "side_g": rounded(found.sides_g[0]), "jammed_side_g": rounded(found.sides_g[1]),
        "aside_mm": or_none(found.asides_mm[0]), "jammed_aside_mm": or_none(found.asides_mm[1]),
        "each": [
            {"name": t.name, "stands_for": t.stands_for, "wet_share": rounded(t.wet_share),
             "starts_m_s": or_none(t.starts_m_s), "rate_hz": rounded(t.rate_hz), "ticks_hz": rounded(TICKS * t.rate_hz),
             "free_mn_mm": rounded(t.free), "jammed_mn_mm": rounded(t.jammed)}
            for t in found.each
        ],
    }  # fmt: skip

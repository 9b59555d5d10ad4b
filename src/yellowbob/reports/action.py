"""Results of motion as plain dictionaries, with the key names that the command line publishes."""

from __future__ import annotations

import math
from typing import Any

from yellowbob.action.discs import prop_disc
from yellowbob.action.flight import Cast
from yellowbob.action.mouth import SOURCE as MOUTH_SOURCE
from yellowbob.action.periods import GRADE, SOURCE
from yellowbob.action.running import Run, froude
from yellowbob.action.waves import Current, Rough
from yellowbob.reports.numbers import or_none, rounded
from yellowbob.study import Study, of


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


def cast_report(study: Study, found: Cast, mass_limit_g: float | None) -> dict[str, Any]:
    """What `yellow-bob cast --json` prints. `mass_g` is what the rod throws, all on the line in it; `flies_g` what is
    followed through the air, the build by itself. `index`: the centre of gravity ahead of the middle of its side, as a share
    of its length; `share` its range over a smooth dart's; `landing` the attitude it meets the water with."""
    last = found.flight
    mass = of.cast_g(study)
    return {
        "name": study.design.name, "mass_g": rounded(mass), "flies_g": rounded(of.body(study).mass_g),
        "range_m": rounded(last.range_mm / 1000.0),
        "dart_m": rounded(found.dart_mm / 1000.0), "share": rounded(found.share), "seconds": rounded(float(last.times_s[-1])),
        "turns": rounded(last.turns), "index": rounded(found.index), "leads": rounded(last.leads), "flies": found.flies,
        "landing": {
            "pitch_deg": rounded(math.degrees(found.landing_rad)), "speed_m_s": rounded(float(last.speeds_mm_s[-1]) / 1000.0),
        },
        "tackle_max_g": mass_limit_g, "too_heavy": mass_limit_g is not None and mass > mass_limit_g,
        "grade": "rule", "source": CAST_SOURCE,
    }  # fmt: skip


RUN_SOURCE = "Newton's sine-squared law, Rayleigh 1876 for plates, Blasius 1908; waves, hooks' and props' drag left out"


def action_report(study: Study, found: Run) -> dict[str, Any]:
    """What `yellow-bob action --json` prints; `left_over`: shares of weight (forward, up), of weight x length (pitch)."""
    own = of.own_periods(study)
    return {
        "name": study.design.name,
        "periods_s": {
            "heave": or_none(own.heave_s) if own else None, "pitch": or_none(own.pitch_s) if own else None,
            "roll": or_none(own.roll_s) if own else None, "grade": GRADE, "source": SOURCE,
        },
        "trim": [
            {"speed_m_s": rounded(t.speed_m_s), "pitch_deg": rounded(math.degrees(t.pitch_rad)),
             "draft_mm": rounded(t.draft_mm), "pull_g": rounded(t.pull_g),
             "line_deg": rounded(math.degrees(t.line_rad)),
             "wet_share": rounded(t.wet_share), "froude": rounded(froude(t.speed_m_s, of.pulled(study).length_mm)),
             "left_over": [rounded(v) for v in t.left_over]}
            for t in found.trims
        ],
        "pop": [
            {"name": m.name, "area_mm2": rounded(m.area_mm2), "volume_ml": rounded(m.volume_mm3 / 1000.0),
             "air_share": rounded(m.air_share), "wet_rim_share": rounded(m.wet_rim_share), "looks_deg": rounded(m.looks_deg),
             "tie_over_mm": rounded(m.tie_over_mm), "scoops_ml": rounded(m.scoops_mm3 / 1000.0), "grade": "exact",
             "source": MOUTH_SOURCE}
            for m in of.mouths(study)
        ],
        "props": [
            {"name": f.name, "across_mm": rounded(f.span_mm), "at_rest": rounded(rest.wet_share),
             "runs": [rounded(prop_disc(f.name, f.at_mm, f.span_mm, t.up, t.height_mm).wet_share) for t in found.trims]}
            for f, rest in of.prop_discs(study)
        ],
        "ends": found.ends, "ends_at_m_s": or_none(found.ends_at_m_s), "grade": "rule", "source": RUN_SOURCE,
        "calibrated": False,
    }  # fmt: skip

"""What a design promises of a build, kept with it on the day it is begun: judged later against what it became."""

from __future__ import annotations

import math

from yellowbob.logbook.records import Promised
from yellowbob.study import Study, of


def promised(study: Study) -> Promised:
    """Masses from the drawing alone, and how it rests; nothing of the rest for what sinks."""
    forecast = study.forecast
    slip, rest = of.slip(forecast), of.upright_rest(forecast)
    bare = sum(line.mass.mass_g for line in slip.lines if line.of == "bare body")
    return Promised(
        bare_g=round(bare, 4), finished_g=round(slip.finished.mass_g, 4),
        length_mm=round(study.design.shape.length_mm, 3), wood=study.design.body.material.name,
        pitch_deg=None if rest is None else round(math.degrees(rest.pitch_rad), 3),
        draft_mm=None if rest is None else round(rest.draft_mm, 3),
        reserve_g=round(of.buoyancy(forecast).reserve_g, 3),
    )  # fmt: skip

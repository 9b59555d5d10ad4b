"""A design as it is first seen, worked out wherever there is time: on another thread, mostly."""

from __future__ import annotations

from dataclasses import dataclass

from yellowbob.afloat.rest import Rest
from yellowbob.design.model import Design
from yellowbob.ground.errors import YellowBobError
from yellowbob.study import Study, of
from yellowbob.study.sound import buildable


@dataclass(frozen=True, eq=False)
class Sight:
    """The design; its study, of what can be built where not all of it can; the rest it is meant for; what is wrong."""

    design: Design
    study: Study
    rest: Rest | None
    fault: str = ""


def first_sight(design: Design, study: Study | None = None) -> Sight:
    """First sight of a design; `study` may hold what was worked out already."""
    study = study or Study(design)
    try:
        return Sight(design, study, of.upright_rest(study))
    except YellowBobError as error:
        stand_in, faults = buildable(design)
        return Sight(design, Study(stand_in), None, "; ".join(faults) or str(error))

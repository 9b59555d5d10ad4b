"""A design as it is first seen, worked out wherever there is time: on another thread, mostly."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import dataclass

from yellowbob.afloat.rest import Rest
from yellowbob.app.session.warm import Warm
from yellowbob.design.model import Design
from yellowbob.ground.errors import YellowBobError
from yellowbob.lines.picture import make_ready
from yellowbob.study import Study, of
from yellowbob.study.sound import buildable


def ready_to_draw(study: Study) -> None:
    """Make what drawing its solid needs, so that drawing it takes no time: off the interface's thread."""
    with suppress(YellowBobError):
        make_ready(of.whole(study), to_shade=Warm.ready)


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
        sight = Sight(design, study, of.upright_rest(study))
        ready_to_draw(study)
        return sight
    except YellowBobError as error:
        stand_in, faults = buildable(design)
        return Sight(design, Study(stand_in), None, "; ".join(faults) or str(error))

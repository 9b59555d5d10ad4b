"""Results of evidence: what weighings say of this piece, and the build they make it out to be."""

from __future__ import annotations

from yellowbob.design.base import made
from yellowbob.design.model import Design, Stage, Weighing, replaced
from yellowbob.design.record import STAGES
from yellowbob.fitout.budget import read_weighing, with_fitting_mass
from yellowbob.ground.errors import BadInput
from yellowbob.study.engine import Result, Study, result
from yellowbob.study.weights import slip
from yellowbob.weights.corrected import corrected
from yellowbob.weights.evidence import Evidence, evidence_of, things_of
from yellowbob.weights.slip import Slip

MOST_WEIGHINGS = 60


def _drawing(study: Study) -> Design:
    return study.design


def _forecast_slip(study: Study) -> Slip:
    return slip(study.forecast)


drawing: Result[Design] = Result(_drawing, leaf=True)
"""The design as drawn, with its weighings."""
forecast_slip: Result[Slip] = Result(_forecast_slip, leaf=True)
"""The slip of the drawing, before any weighing is heeded."""


@result
def evidence(study: Study) -> Evidence:
    """What the weighings say: corrections and what remains unsure. Without any, the causes as they are forecast."""
    return evidence_of(drawing(study), forecast_slip(study))


def believed(study: Study) -> Design:
    """The build a study's drawing is made out to be by its weighings."""
    return corrected(study.design, evidence_of(study.design, slip(study.forecast)))


Study.believes = staticmethod(believed)


def weighed(
    study: Study, stage: Stage, mass_g: float, u_g: float | None = None, shares: dict[str, float] | None = None,
    note: str = "",
) -> Design:  # fmt: skip
    """The design with a weighing of what a stage has by then, but for `shares` (slip key to 0 … 1), put down.

    It keeps what each thing was forecast to weigh, so that what is exchanged later does not change what it says.
    Raises BadInput for a mass of nothing, an unknown stage or key.
    """
    if not mass_g > 0.0:
        raise BadInput(f"{stage} at {mass_g:g} g cannot be; tare the scale and weigh again")
    if stage not in STAGES:
        raise BadInput(f"'{stage}' is no stage; say one of: {', '.join(STAGES)}")
    things = things_of(forecast_slip(study))
    for key in shares or {}:
        if key not in things:
            raise BadInput(f"nothing on the slip has the key '{key}'; there are {', '.join(things)}")
    one = made(
        Weighing, stage=stage, mass_g=mass_g, u_g=u_g, shares=dict(shares or {}), note=note, then=things,
        densities={p.name: p.density_g_ml for p in study.design.pieces},
    )  # fmt: skip
    return study.design.but(weighings=(*study.design.weighings[-(MOST_WEIGHINGS - 1) :], one))


def with_memory(before: Study, after: Design) -> Design:
    """An edited design whose weighings remember what things were forecast to weigh before the edit.

    A weighing that was read without that memory speaks of the design as it is when it is read; an edit must not change
    what it says.
    """
    if all(w.then for w in after.weighings):
        return after
    things = things_of(forecast_slip(before))
    densities = {p.name: p.density_g_ml for p in before.design.pieces}
    kept = tuple(w if w.then else replaced(w, then=things, densities=densities) for w in after.weighings)
    return after.but(weighings=kept)


def with_reading(study: Study, text: str) -> Design:
    """The design with a weighing as typed: `bare body=31.2 g`, or a fitting by its name. Raises BadInput."""
    read = read_weighing(study.design, text)
    if read.fitting is not None:
        return with_fitting_mass(study.design, read.fitting, read.mass_g)
    assert read.stage is not None
    return weighed(study, read.stage, read.mass_g)


def ticked(design: Design, number: int, key: str, share: float) -> Design:
    """The design with one thing of a weighing ticked off (0), on (1), or in part."""
    one = design.weighings[number]
    return rewritten(design, number, one.model_copy(update={"shares": {**one.shares, key: share}}))


def rewritten(design: Design, number: int, weighing: Weighing | None) -> Design:
    """The design with a weighing exchanged, or taken off when None."""
    kept = () if weighing is None else (weighing,)
    return design.but(weighings=(*design.weighings[:number], *kept, *design.weighings[number + 1 :]))

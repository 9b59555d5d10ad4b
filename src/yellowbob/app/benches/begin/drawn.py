"""A design as it is drawn beside others: afloat, with its figures."""

from __future__ import annotations

from yellowbob.ballast.settle import settled
from yellowbob.design.model import Design
from yellowbob.ground.errors import YellowBobError
from yellowbob.study import Study, of
from yellowbob.trials.change import Change
from yellowbob.trials.variants import Variant


def afloat(words: str, design: Design) -> Variant:
    """A design as it lies in the water, under what hangs on its line."""
    study = Study(design)
    change = Change(words, lambda one: one)
    try:
        rest = of.upright_rest(study)
        return Variant(change, study, settled(of.afloat(study), rest.up if rest is not None else None))
    except YellowBobError as error:
        return Variant(change, study, None, str(error))

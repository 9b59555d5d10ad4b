"""Long work that nobody waits for any more is left off anywhere, and leaves no wrong figure behind."""

from __future__ import annotations

import dataclasses
from typing import Any

import numpy as np
import pytest

from tests.conftest import DEMO
from yellowbob.design.files import read_design
from yellowbob.ground.errors import YellowBobError
from yellowbob.ground.progress import LeftOff, go_on, while_wanted
from yellowbob.study import Study, of

SLOW = {
    "creek-dropper-52": (of.rests, of.landings, of.wood_clear, of.clearances, of.thin),
    "reed-waggler-217": (of.cocked, of.carried),
    "osier-96": (of.free_arcs, of.drawn_usually),
}


def flat(value: Any) -> list[float]:
    """All figures of a result, in order."""
    if isinstance(value, bool | int | float | np.number):
        return [float(value)]
    if isinstance(value, np.ndarray):
        return [float(v) for v in value.ravel()] if value.dtype.kind in "fiub" else []
    if isinstance(value, dict):
        return [v for key in value for v in flat(value[key])]
    if isinstance(value, tuple | list):
        return [v for one in value for v in flat(one)]
    if dataclasses.is_dataclass(value):
        return [v for field in dataclasses.fields(value) for v in flat(getattr(value, field.name))]
    return []


@pytest.mark.parametrize(("name", "asked"), [(n, a) for n, every in SLOW.items() for a in every], ids=lambda a: str(
    getattr(a, "name", a)))  # fmt: skip
def test_left_off_anywhere_it_is_the_same_the_next_time(name: str, asked: Any) -> None:
    design, looks = read_design(DEMO / f"{name}.ybob"), [0]

    def counted() -> bool:
        looks[0] += 1
        return True

    with while_wanted(counted):
        expected = flat(asked(Study(design)))
    assert looks[0] > 1
    rng = np.random.default_rng(looks[0])
    for last in {1, looks[0], *rng.integers(1, looks[0] + 1, 1).tolist()}:
        study, left = Study(design), [last]

        def wanted(left: list[int] = left) -> bool:
            left[0] -= 1
            return left[0] > 0

        with pytest.raises(LeftOff), while_wanted(wanted):
            asked(study)
        assert flat(asked(study)) == pytest.approx(expected, rel=1e-9, abs=1e-9), last


def test_it_is_no_refusal_and_no_error() -> None:
    """What takes a refusal for an answer, and what survives any error, must not survive this."""
    with pytest.raises(LeftOff), while_wanted(lambda: False):
        try:
            go_on()
        except (YellowBobError, Exception) as error:  # pragma: no cover
            raise AssertionError from error


def test_outside_and_within_another_it_is_as_it_was() -> None:
    go_on()
    with while_wanted(lambda: True):
        with pytest.raises(LeftOff), while_wanted(lambda: False):
            go_on()
        go_on()
    go_on()

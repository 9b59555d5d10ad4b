"""Two hundred random briefs over all kinds, woods and sizes; twelve demo families: sound, or with the reason."""

from __future__ import annotations

import json
import random
import time
from pathlib import Path

import pytest

from tests.conftest import DEMO
from tests.core.test_begin import holds, random_brief
from yellowbob.design.files import read_design
from yellowbob.trials.answer import answered
from yellowbob.trials.asked import Asked
from yellowbob.trials.family import family

BUILD = Path(__file__).parents[2] / "build"
pytestmark = pytest.mark.soak


def test_two_hundred_briefs() -> None:
    dice = random.Random(2)
    took, sound, why = [], 0, dict[str, int]()
    for _ in range(200):
        asked = Asked.model_validate(random_brief(dice))
        begun = time.perf_counter()
        found = answered(asked)
        took.append(time.perf_counter() - begun)
        holds(found)
        sound += found.sound
        if not found.sound:
            why[found.reason.partition(":")[0]] = why.get(found.reason.partition(":")[0], 0) + 1
    BUILD.mkdir(exist_ok=True)
    took.sort()
    told = {"sound": sound, "why": why, "median_s": took[100], "nine_of_ten_s": took[180], "longest_s": took[-1]}
    (BUILD / "soak-begin.json").write_text(json.dumps(told, indent=1), encoding="utf-8")
    assert sound >= 140


def test_families_of_every_demo() -> None:
    for file in sorted(DEMO.glob("*.ybob")):
        design = read_design(file)
        for member in family(design, [design.shape.length_mm * f for f in (0.7, 1.0, 1.5)]):
            assert member.fault or member.answer is not None
            if member.answer is not None:
                holds(member.answer)

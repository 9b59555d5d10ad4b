"""Long campaigns over the log: five hundred kills, two hundred simulated shops of one to forty builds."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from tests.core.test_logbook import killed_while_writing
from tests.core.test_taught import coverage

BUILD = Path(__file__).parents[2] / "build"
pytestmark = pytest.mark.soak


def test_five_hundred_kills_lose_nothing(tmp_path: Path) -> None:
    killed_while_writing(tmp_path, 500)


def test_two_hundred_shops_of_every_size_are_learnt_as_surely_as_is_said() -> None:
    found = {f"{n}": coverage(200, n, 100 + n) for n in (1, 2, 3, 5, 8, 13, 20, 40)}
    BUILD.mkdir(exist_ok=True)
    (BUILD / "soak-log.json").write_text(json.dumps(found, indent=1), encoding="utf-8")
    for n, (mean, scatter) in found.items():
        assert mean >= 0.85 and scatter >= 0.85, n  # 0.9 is told; 200 shops leave two hundredths

"""What tests on the water have taught of the action model: a factor for each estimate, by kind of build.

The model works without; then every figure is said to be uncalibrated. The file is written by the log.
"""

from __future__ import annotations

import json
import os
from pathlib import Path
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from yellowbob.ground.errors import BadInput

FILE = "action-factors.json"
_TAUGHT = {"swing_rate": "swings", "limit": "highest speed"}


class Factors(BaseModel):
    """What an estimate is multiplied by. tests: how many logged tests each kind's factors rest on."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    swing_rate: float = Field(default=1.0, gt=0.1, lt=10.0)
    swing_width: float = Field(default=1.0, gt=0.1, lt=10.0)
    limit: float = Field(default=1.0, gt=0.1, lt=10.0, description="of the speed at which it rolls over")
    pull: float = Field(default=1.0, gt=0.1, lt=10.0)
    range: float = Field(default=1.0, gt=0.1, lt=10.0, description="of a throw")
    tests: int = Field(default=0, ge=0)

    @property
    def calibrated(self) -> bool:
        """Whether any test stands behind them."""
        return self.tests > 0


def factors_file() -> Path:
    """Beside the workshop's database."""
    named = os.environ.get("YELLOW_BOB_WORKSHOP")
    if named:
        return Path(named).with_name(FILE)
    import platformdirs

    return Path(platformdirs.user_data_dir("yellow-bob")) / FILE


def factors_of(kind: str) -> Factors:
    """Those of a kind of build; all 1 where nothing was taught. Raises BadInput for a file that cannot be understood."""
    file = factors_file()
    if not file.is_file():
        return Factors()
    try:
        every = json.loads(file.read_text(encoding="utf-8"))
        return Factors.model_validate(every.get(kind, {}))
    except (OSError, ValueError, AttributeError, ValidationError) as error:
        raise BadInput(f"{file}: the factors of {kind} cannot be read ({error}); mend or delete the file") from None


def put_taught(field: Literal["swing_rate", "limit"], found: dict[str, tuple[float, int]]) -> Path:
    """Write what tests taught of one factor, by kind, beside what others taught: factor and number of tests, the most that
    any factor of the kind rests on; returns the file.

    Raises BadInput for a factor out of range, or a place that cannot be written.
    """
    from yellowbob.design.files import write_text_whole

    file = factors_file()
    every = {}
    if file.is_file():
        every = {kind: factors_of(kind).model_dump() for kind in json.loads(file.read_text(encoding="utf-8"))}
    for kind, (factor, tests) in found.items():
        try:
            old = every.get(kind, {})
            told = {**old, field: factor, "tests": max(tests, int(old.get("tests", 0)))}
            every[kind] = Factors(**told).model_dump()
        except ValidationError:
            raise BadInput(
                f"{kind}: a factor of {factor:.2f} for its {_TAUGHT[field]} is out of range; look at the tests"
            ) from None
    file.parent.mkdir(parents=True, exist_ok=True)
    write_text_whole(file, json.dumps(every, indent=1) + "\n")
    return file

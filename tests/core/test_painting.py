"""The painting plan: order, masks, what shows, what is refused."""

from __future__ import annotations

import json
import math
from pathlib import Path

import pytest
from pydantic import ValidationError

from tests.conftest import DEMO
from tests.core.test_cli import run
from yellowbob.design.bands import COLOURS, Band
from yellowbob.design.files import read_design, write_design
from yellowbob.design.model import Design
from yellowbob.design.rescale import rescaled
from yellowbob.ground.errors import BadInput
from yellowbob.study import Study, of
from yellowbob.trials.painting import out_of_turn, painting, proposed, shows_mm


def waggler(*bands: tuple[str, float, float]) -> Study:
    design = read_design(DEMO / "reed-waggler-217.ybob")
    made = tuple(Band(name=n, colour=COLOURS[n], from_mm=a, to_mm=b) for n, a, b in bands)
    return Study(design.but(bands=made))


def test_light_colours_come_first_and_what_is_painted_over_does_not_show() -> None:
    study = waggler(("white", 0.0, 40.0), ("black", 10.0, 14.0), ("signal orange", 0.0, 10.0))
    plan = painting(study)
    assert [p.band.name for p in plan] == ["white", "signal orange", "black"]
    assert [p.order for p in plan] == [1, 2, 3]
    shown = shows_mm(study)
    assert shown is not None and shown == pytest.approx(of.tip_of_rest(study, of.upright_rest(study)), rel=1e-3)
    white, orange, black = plan
    assert (white.left_mm, orange.left_mm, black.left_mm) == pytest.approx((26.0, 10.0, 4.0))
    assert white.shows_mm == pytest.approx(shown - 14.0) and orange.shows_mm == pytest.approx(10.0)
    assert orange.masks_mm == (10.0,) and black.masks_mm == (10.0, 14.0) and white.masks_mm == (40.0,)
    # 4 mm across, finish and all: told apart at two minutes of arc
    assert orange.seen_m == pytest.approx(math.sqrt(10.0 * orange.wide_mm) / 1000 / math.tan(math.radians(2 / 60)))
    assert orange.wide_mm == pytest.approx(4.0, abs=0.3)


def test_light_over_dark_is_said_and_a_band_beyond_the_end_refused() -> None:
    study = waggler(("black", 0.0, 30.0), ("signal yellow", 10.0, 20.0))
    assert "does not cover" in out_of_turn(study.design.bands)[0]
    assert not out_of_turn(waggler(("black", 0.0, 10.0), ("signal yellow", 10.0, 20.0)).design.bands)
    with pytest.raises(BadInput, match="ends at 400"):
        painting(waggler(("black", 0.0, 400.0)))
    for wrong in ((5.0, 5.05), (9.0, 3.0), (-1.0, 3.0), (0.0, math.nan)):
        with pytest.raises(ValidationError):
            Band(from_mm=wrong[0], to_mm=wrong[1])
    with pytest.raises(ValidationError):
        Band(colour="orange", from_mm=0.0, to_mm=3.0)


def test_bands_are_proposed_by_the_tip_that_is_to_show_for_standing_floats_alone() -> None:
    study = waggler()
    made = proposed(study)
    tip = of.tip_wanted_mm(study)
    assert made[-1].to_mm == pytest.approx(tip) and made[0].to_mm > tip and not out_of_turn(made)
    with pytest.raises(BadInput, match="floats that stand"):
        proposed(Study(read_design(DEMO / "sallow-74.ybob")))


def test_bands_are_kept_in_the_file_and_grow_with_the_float(tmp_path: Path) -> None:
    design = waggler(("white", 0.0, 30.0), ("red", 2.0, 12.0)).design
    write_design(design, tmp_path / "w.ybob")
    assert read_design(tmp_path / "w.ybob").bands == design.bands
    larger = rescaled(design, 1.5)
    assert [(b.from_mm, b.to_mm) for b in larger.bands] == [(0.0, 45.0), (3.0, 18.0)]
    small: Design = rescaled(design.but(bands=(Band(from_mm=1.0, to_mm=1.2),)), 0.2)
    assert small.bands[0].to_mm - small.bands[0].from_mm == pytest.approx(0.1)


def test_the_command_and_the_sheet_carry_the_plan(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out, sheet = tmp_path / "p.ybob", tmp_path / "p.pdf"
    code, said, _ = run(capsys, "paint", str(DEMO / "withy-stick-150.ybob"), "--propose", "-o", str(out), "--json")
    told = json.loads(said)
    assert code == 0
    assert [b["order"] for b in told["bands"]] == [1, 2, 3] and read_design(out).bands
    run(capsys, "sheet", str(out), "-o", str(sheet))
    pages = sheet.read_bytes().count(b"/Type /Page\n")
    plain = tmp_path / "plain.pdf"
    write_design(read_design(out).but(bands=()), out)
    run(capsys, "sheet", str(out), "-o", str(plain))
    assert pages == plain.read_bytes().count(b"/Type /Page\n") + 1

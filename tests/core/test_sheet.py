"""The sheet: everything that is set out is on it, and a slip of any length keeps its totals."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.conftest import DEMO
from yellowbob.design.cuts import Cup, Sockets
from yellowbob.design.files import read_design
from yellowbob.design.model import Design, Fitting, replaced
from yellowbob.shop.marks import gone_by_cuts, marks_of
from yellowbob.shop.sheet import write_sheet
from yellowbob.shop.slip_page import slip_rows
from yellowbob.study import Study, of


def pages(file: Path) -> int:
    data = file.read_bytes()
    return data.count(b"/Type /Page\n") + data.count(b"/Type /Page ")


def rigged() -> Design:
    design = read_design(DEMO / "weir-cup-62.ybob")
    more = [
        Fitting(name="Back eye", sort="screw eye", at_mm=(30.0, 0.0, 7.0), mass_g=0.2, long_mm=9.0, aim_deg=-90.0),
        Fitting(name="Nose tie", sort="tie", at_mm=(-2.0, 0.0, 0.0), mass_g=0.0),
        Fitting(name="Fore prop", sort="prop", at_mm=(-3.0, 0.0, 0.0), mass_g=0.4, span_mm=22.0, long_mm=3.0),
        Fitting(name="Ticker", sort="ticker", at_mm=(50.0, 0.0, 5.0), mass_g=0.1, reach_mm=12.0),
    ]
    eyes = Sockets(x_mm=9.0, z_mm=3.0, diameter_mm=5.0, depth_mm=1.2)
    body = replaced(design.body, cuts=(*design.body.cuts, eyes))
    return design.but(fittings=(*design.fittings, *more)).with_piece(0, body)


def test_ties_eyes_cups_sockets_lips_wings_and_tails_are_set_out() -> None:
    study = Study(rigged())
    marks = marks_of(study)
    words = " | ".join(m.words for m in marks)
    for wanted in (
        "Back eye",
        "Nose tie",
        "Fore prop",
        "Ø 22",
        "Ticker",
        "cup",
        "Ø 14.6",
        "eye sockets: Ø 5, 1.2 deep",
    ):
        assert wanted in words
    assert [m.at_mm for m in marks] == sorted(m.at_mm for m in marks)
    assert next(m.at_mm for m in marks if m.words.startswith("Back eye")) == 30.0
    for name in ("moth-crawler-64", "mill-tail-88", "print-wake-92", "sill-darter-98"):
        design = read_design(DEMO / f"{name}.ybob")
        told = " | ".join(m.words for m in marks_of(Study(design)))
        assert all(piece.name in told for piece in design.parts)
        assert all(cut.name in told for cut in design.body.cuts)


def test_what_a_cut_takes_is_drawn_where_it_is() -> None:
    found = {type(g.cut): g for g in gone_by_cuts(Study(rigged()))}
    slim = read_design(DEMO / "osier-96.ybob")
    eyes = Sockets(x_mm=36.0, z_mm=2.0, diameter_mm=5.0, depth_mm=1.2)
    slim = slim.with_piece(0, replaced(slim.body, cuts=(eyes,)))
    loops = gone_by_cuts(Study(slim))[0].loops
    across = max(float(loop[:, 0].max() - loop[:, 0].min()) for loop in loops)
    assert across == pytest.approx(5.0, abs=0.1)
    assert sum(float(loop[:, 0].mean()) for loop in loops) / len(loops) == pytest.approx(36.0, abs=0.3)
    deep = max(float(loop[:, 0].max()) for loop in found[Cup].loops)
    cup = found[Cup].cut
    assert isinstance(cup, Cup)
    assert deep == pytest.approx(cup.rim_x_mm + cup.depth_mm + cup.pool_mm, abs=0.1)


@pytest.mark.parametrize(("hooks", "wanted"), [(0, 1), (60, 2), (90, 2)])
def test_a_long_slip_goes_on_over_the_page_with_its_totals(tmp_path: Path, hooks: int, wanted: int) -> None:
    design = read_design(DEMO / "weir-cup-62.ybob")
    hung = tuple(
        Fitting(name=f"hook {n}", sort="hook", at_mm=(30.0, 0.0, -9.0), mass_g=0.01, hanging=True) for n in range(hooks)
    )
    study = Study(design.but(fittings=(*design.fittings, *hung)))
    rows = slip_rows(study)
    assert [r.words for r in rows[-3:]] == ["Finished", "Water it fills", "To spare"]
    assert rows[-3].mass_g == of.slip(study).finished.mass_g
    write_sheet(study, tmp_path / "s.pdf")
    assert pages(tmp_path / "s.pdf") == wanted

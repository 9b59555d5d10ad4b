"""`stock` in a file or on the command line fills in what the shelf knows; hooks swapped keep what is on them."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from tests.conftest import DEMO
from yellowbob.__main__ import main
from yellowbob.design.files import read_design
from yellowbob.design.model import Fitting, replaced
from yellowbob.ground.errors import BadDesign
from yellowbob.shelf.filling import opened
from yellowbob.shelf.fitting import hook_like
from yellowbob.shelf.shipped import ballast_stock, coats, hardware, hooks
from yellowbob.study import Study
from yellowbob.trials.hook_sizes import resized
from yellowbob.trials.trim import trims

SALLOW = DEMO / "sallow-74.ybob"


def changed(tmp_path: Path, **rows: list[dict[str, object]]) -> Path:
    data = json.loads(SALLOW.read_text(encoding="utf-8")) | rows
    file = tmp_path / "named.ybob"
    file.write_text(json.dumps(data), encoding="utf-8")
    return file


def test_a_named_stock_gives_the_masses_that_are_left_out(tmp_path: Path) -> None:
    hook, ring, shot, coat = "treble, size 4", "split ring, 3.8 mm inside", "split shot BB, lead", "spar varnish"
    file = changed(
        tmp_path,
        fittings=[
            {"name": "H", "stock": hook, "at_mm": [40, 0, -9]}, {"name": "R", "stock": ring, "at_mm": [40, 0, -7]},
            {"name": "own", "sort": "hook", "stock": hook, "at_mm": [60, 0, -8], "mass_g": 1.6},
        ],
        ballast=[{"name": "S", "stock": shot, "weight": {"form": "shot", "count": 3}, "at_mm": [30, 0, -3]}],
        coats=[{"name": "V", "stock": coat, "coats": 2}],
    )  # fmt: skip
    design = opened(file)
    assert design.fittings[0].mass_g == hooks()[hook].mass_g and design.fittings[0].hanging
    assert design.fittings[0].reach_mm == hooks()[hook].shank_mm
    assert design.fittings[1].mass_g == pytest.approx(hardware()[ring].weight_g)
    assert design.fittings[2].mass_g == 1.6 and design.fittings[2].reach_mm == 0.0
    assert design.ballast[0].weight.mass_g == ballast_stock()[shot].mass_g
    assert design.ballast[0].weight.count == 3
    assert design.coats[0].film_mm == coats()[coat].film_mm
    with pytest.raises(BadDesign, match="mass_g"):
        read_design(file)


@pytest.mark.parametrize(("rows", "wanted"), [
    ({"fittings": [{"name": "H", "stock": "treble, size six", "at_mm": [1, 0, 0]}]}, r"fittings\[0\].stock.*not on the"),
    ({"fittings": [{"name": "H", "stock": "treble, size 6"}]}, "at_mm"),
    ({"ballast": [{"name": "S", "stock": "lead rod 4 mm", "weight": {"form": "shot"}, "at_mm": [1, 0, 0]}]}, "is slug"),
    ({"coats": [{"name": "V", "stock": "tar"}]}, r"coats\[0\].stock"),
    ({"coats": [{"name": "V"}]}, "film_mm")])  # fmt: skip
def test_a_stock_that_is_none_is_refused_by_name(
    tmp_path: Path, rows: dict[str, list[dict[str, object]]], wanted: str
) -> None:
    with pytest.raises(BadDesign, match=wanted):
        opened(changed(tmp_path, **rows))


def test_fit_puts_it_on_from_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out = tmp_path / "o.ybob"
    with pytest.raises(SystemExit) as ended:
        main(["fit", str(SALLOW), "snap swivel, size 12", "--at", "1/8 in,0,-2 mm", "--name", "Snap", "-o", str(out)])
    assert ended.value.code == 0
    made = opened(out).fittings[-1]
    assert (made.name, made.sort, made.at_mm) == ("Snap", "swivel", (3.175, 0.0, -2.0))
    assert made.mass_g == hardware()["snap swivel, size 12"].mass_g
    capsys.readouterr()
    for wrong in (["--at", "1,2"], ["--at", "a,b,c"]):
        with pytest.raises(SystemExit) as ended:
            main(["fit", str(SALLOW), "treble, size 6", *wrong, "-o", str(out)])
        assert ended.value.code == 2
        assert capsys.readouterr().err.count("\n") == 1


def test_a_swapped_hook_keeps_its_dressing() -> None:
    stock = hooks()["treble, size 6"]
    dressed = Fitting(name="H", sort="hook", stock=stock.name, at_mm=(60.0, 0.0, -5.0), mass_g=stock.mass_g + 0.17,
                      volume_ml=stock.volume_ml + 0.13, hanging=True)  # fmt: skip
    for step in (-1, 1):
        found = resized(dressed, step)
        assert found is not None
        new, other = found
        assert not other.dressed
        assert new.mass_g == pytest.approx(other.mass_g + 0.17) and new.volume_ml == pytest.approx(
            other.volume_ml + 0.13
        )
    feathered = hooks()["treble, size 6, feather-dressed"]
    found = resized(replaced(dressed, stock=feathered.name, mass_g=feathered.mass_g), 1)
    assert found is not None and found[1].name == "treble, size 4, feather-dressed"


def test_trims_of_a_dressed_hook_count_the_dressing() -> None:
    design = read_design(SALLOW)
    number, hook = next((n, f) for n, f in enumerate(design.fittings) if f.sort == "hook")
    stock = hook_like(hook, hooks())
    assert stock is not None
    listed = replaced(hook, stock=stock.name, mass_g=stock.mass_g, volume_ml=stock.volume_ml)
    dressed_up = replaced(hook, stock=stock.name, mass_g=stock.mass_g + 0.2, volume_ml=stock.volume_ml + 0.15)
    bare, dressed = (
        {
            t.words: t.after.mass_g
            for t in trims(Study(design.but(fittings=(*design.fittings[:number], one, *design.fittings[number + 1 :]))))
            if "one size" in t.words
        }
        for one in (listed, dressed_up)
    )
    same = set(bare) & set(dressed)
    assert same
    for words in same:
        assert dressed[words] - bare[words] == pytest.approx(0.2, abs=1e-6)

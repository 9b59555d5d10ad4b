"""The packet as it is printed: true lengths, sheets that meet, everything on the page that needs it."""

from __future__ import annotations

import base64
import itertools
import re
import zlib
from pathlib import Path

import pytest
from reportlab.lib.units import mm

from tests.conftest import DEMO
from yellowbob.design.files import read_design
from yellowbob.design.rescale import rescaled
from yellowbob.ground.errors import BadInput
from yellowbob.shop.packet import PAGES, cautions, pages_for, write_packet
from yellowbob.shop.templates import OVERLAP_MM, blank_of
from yellowbob.study import Study

DEMOS = ("bar-antenna-234", "creek-dropper-52", "mill-tail-88", "moth-crawler-64", "print-wake-92")


def study_of(name: str) -> Study:
    return Study(read_design(DEMO / f"{name}.ybob"))


STREAM = re.compile(rb"/Filter \[ ([^\]]*)\] /Length \d+\n>>\nstream\n(.*?)endstream", re.S)
NUMBER = r"([-\d.]+)"


def streams(file: Path) -> list[str]:
    """What each page draws, in PDF's own words."""
    texts = []
    for filters, raw in STREAM.findall(file.read_bytes()):
        packed = base64.a85decode(raw.strip().removesuffix(b"~>")) if b"ASCII85" in filters else raw
        texts.append(zlib.decompressobj().decompress(packed))
    return [text.decode("latin-1") for text in texts if b" re" in text or b" l S" in text or b"Tj" in text]


def boxes(page: str) -> list[tuple[float, ...]]:
    """(x, y, wide, high) mm of its rectangles that are drawn as lines."""
    found = re.findall(rf"{NUMBER} {NUMBER} {NUMBER} {NUMBER} re S", page)
    return [tuple(float(v) / mm for v in m) for m in found]


def lines(page: str) -> list[tuple[float, ...]]:
    """(x1, y1, x2, y2) mm of its straight lines."""
    found = re.findall(rf"n {NUMBER} {NUMBER} m {NUMBER} {NUMBER} l S", page)
    return [tuple(float(v) / mm for v in m) for m in found]


def crosses(page: str) -> set[tuple[float, float]]:
    """Middles of crosses of 6 mm."""
    level, upright = set(), set()
    for a, b, c, d in lines(page):
        if abs(b - d) < 1e-6 and abs(c - a - 6.0) < 0.01:
            level.add((round((a + c) / 2, 1), round(b, 1)))
        if abs(a - c) < 1e-6 and abs(d - b - 6.0) < 0.01:
            upright.add((round(a, 1), round((b + d) / 2, 1)))
    return level & upright


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_a_template_has_true_lengths_and_its_rule_a_hundred_mm(tmp_path: Path, paper: str) -> None:
    study = study_of("sallow-74")
    write_packet(study, tmp_path / "t.pdf", ["templates"], paper)
    pages = streams(tmp_path / "t.pdf")
    assert len(pages) == 2
    for page, view in zip(pages, ("side", "plan"), strict=True):
        low, high = blank_of(study, view)
        wide = [b for b in boxes(page) if abs(b[2] - (high[0] - low[0])) < 0.05]
        assert any(abs(b[3] - (high[1] - low[1])) < 0.05 for b in wide)
        assert any(abs(c - a - 100.0) < 0.005 and b == d for a, b, c, d in lines(page))


@pytest.mark.parametrize("long_mm", [300.0, 640.0])
def test_sheets_of_a_long_body_meet_and_lose_nothing(tmp_path: Path, long_mm: float) -> None:
    design = rescaled(read_design(DEMO / "spit-pencil-118.ybob"), long_mm / 118.0)
    study = Study(design)
    write_packet(study, tmp_path / "t.pdf", ["templates"])
    low, high = blank_of(study, "side")
    tall = high[1] - low[1]
    pages = [p for p in streams(tmp_path / "t.pdf") if any(abs(b[3] - tall) < 0.02 for b in boxes(p))]
    pages = pages[: 2 if long_mm == 300.0 else 3]
    step = 297.0 - 20.0 - OVERLAP_MM
    # the blank is drawn whole on each sheet, each time one step further to the left
    lefts = [next(b[0] for b in boxes(p) if abs(b[2] - (high[0] - low[0])) < 0.05) for p in pages]
    for one, two in itertools.pairwise(lefts):
        assert one - two == pytest.approx(step, abs=0.02)
    for one, two in itertools.pairwise(pages):
        there = {(round(x - step, 1), round(y, 1)) for x, y in crosses(one)}
        assert len(there & {(round(x, 1), round(y, 1)) for x, y in crosses(two)}) >= 2
    assert lefts[0] + (high[0] - low[0]) - (len(pages) - 1) * step <= 287.0 + 0.01


@pytest.mark.parametrize("name", DEMOS)
def test_a_packet_has_all_that_is_bored_bent_and_coated(tmp_path: Path, name: str) -> None:
    study = study_of(name)
    wrote = write_packet(study, tmp_path / "p.pdf")
    assert wrote == pages_for(study) and "templates" in wrote and wrote[-1] == "cautions"
    design = study.design
    assert ("holes" in wrote) == bool(any(b.drilling for b in design.ballast) or any(p.bores for p in design.pieces))
    assert ("wire" in wrote) == bool(design.wires or design.fittings) and ("paint" in wrote) == bool(design.bands)
    assert len(streams(tmp_path / "p.pdf")) >= len(wrote)


def test_cautions_are_for_just_these_steps() -> None:
    popper, print_, float_ = (
        " ".join(cautions(study_of(n))) for n in ("sallow-74", "print-wake-92", "withy-stick-150")
    )
    assert "Lead" in popper and "Wood dust" in popper and "Drilling" in popper and "Hooks" in popper
    assert "Lead" not in print_ and "print" in print_.lower() and "Drilling" not in print_
    assert "Hooks" not in float_
    for said in (popper, print_, float_):
        assert "data sheet" in said and "local rules" in said


def test_pages_and_papers_that_do_not_exist_are_refused(tmp_path: Path) -> None:
    study = study_of("sallow-74")
    for pages, paper, words in (
        (["cover"], "a4", "no page is called"),
        (None, "a5", "a4 or letter"),
        (["paint"], "a4", "none of"),
    ):
        with pytest.raises(BadInput, match=words):
            write_packet(study, tmp_path / "x.pdf", pages, paper)
    with pytest.raises(BadInput, match="cannot be written"):
        write_packet(study, tmp_path / "nowhere" / "x.pdf")
    assert write_packet(study, tmp_path / "y.pdf", list(reversed(PAGES))) == pages_for(study)

"""The packet as it is printed: true lengths, sheets that meet, everything on the page that needs it."""

from __future__ import annotations

import base64
import itertools
import re
import zlib
from datetime import datetime
from pathlib import Path
from zoneinfo import ZoneInfo

import numpy as np
import pypdfium2
import pytest
from reportlab.lib.units import mm

from tests.conftest import DEMO
from yellowbob.design.files import read_design
from yellowbob.design.record import STAGES
from yellowbob.design.rescale import rescaled
from yellowbob.ground.errors import BadInput
from yellowbob.shop.boards import read_board
from yellowbob.shop.cautions import cautions
from yellowbob.shop.packet import PAGES, pages_for, write_packet
from yellowbob.shop.pages.cover import expected_g
from yellowbob.shop.templates import OVERLAP_MM, blank_of
from yellowbob.study import Study, of

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
    (page,) = streams(tmp_path / "t.pdf")  # both views have room on one sheet
    for view in ("side", "plan"):
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
        (["covers"], "a4", "no page is called"),
        (None, "a5", "a4 or letter"),
        (["paint"], "a4", "none of"),
    ):
        with pytest.raises(BadInput, match=words):
            write_packet(study, tmp_path / "x.pdf", pages, paper)
    with pytest.raises(BadInput, match="cannot be written"):
        write_packet(study, tmp_path / "nowhere" / "x.pdf")
    wanted = [
        name for name in PAGES if name in pages_for(study) or name == "mould"
    ]  # of any master, where it is asked for
    assert write_packet(study, tmp_path / "y.pdf", list(reversed(PAGES))) == wanted


def laid(file: Path) -> list[tuple[tuple[float, float], str, list[tuple[float, float, float, float]]]]:
    """For each page of a PDF: its size, mm, its words, and the boxes of its runs of words (left, low, right, top), mm."""
    found = []
    document = pypdfium2.PdfDocument(file)
    for page in document:
        text = page.get_textpage()
        boxes = [tuple(v / mm for v in text.get_rect(k)) for k in range(text.count_rects())]
        found.append(((page.get_width() / mm, page.get_height() / mm), text.get_text_range(), boxes))
    document.close()
    return found  # type: ignore[return-value]


BOARDS = [read_board("18x90x900 mm"), read_board("28x90x600 mm")]
START = datetime(2026, 3, 27, 18, tzinfo=ZoneInfo("Europe/Vienna"))


EVERY = [(f.stem, "a4") for f in sorted(DEMO.glob("*.ybob"))] + [
    ("moth-crawler-64", "letter"),
    ("bar-antenna-234", "letter"),
]


@pytest.mark.parametrize("name, paper", EVERY)
def test_no_word_leaves_its_page_or_lies_on_another(tmp_path: Path, name: str, paper: str) -> None:
    study = study_of(name)
    write_packet(study, tmp_path / "p.pdf", None, paper, 3, BOARDS, START)
    pages = laid(tmp_path / "p.pdf")
    for (wide, high), words, boxes in pages:
        for left, low, right, top in boxes:
            assert left > 3.0 and low > 2.0 and right < wide - 3.0 and top < high - 3.0, (words[:40], left, right)
        if "true size" in words.splitlines()[0]:
            continue  # labels of a drawing may touch
        for (a, b, c, d), (e, f, g, h) in itertools.combinations(boxes, 2):
            across, up = min(c, g) - max(a, e), min(d, h) - max(b, f)
            assert not (across > 0.4 and up > 0.8), (name, words[:60], (a, b, c, d), (e, f, g, h))
    said = " ".join(words for _, words, _ in pages)
    design = study.design
    names = [c.name for c in design.body.cuts] + [w.name for w in design.wires] + [f.name for f in design.fittings]
    names += (
        [b.name for b in design.ballast]
        + [b.name for p in design.pieces for b in p.bores]
        + [c.name for c in design.coats]
    )
    names += [p.name for p in design.parts]
    flat = "".join(said.split())
    for one in names:
        assert "".join(one.split()) in flat, one


def test_a_schedule_and_a_blank_are_for_the_copies(tmp_path: Path) -> None:
    study = study_of("sallow-74")
    wrote = write_packet(study, tmp_path / "p.pdf", ["blank", "schedule", "cover", "cost"], "a4", 3, BOARDS, START)
    assert wrote == ["cover", "blank", "schedule", "cost"]
    said = [words for _, words, _ in laid(tmp_path / "p.pdf")]
    assert any("Sallow 74 3, half 2" in w for w in said) and any("No. 3 may be used from" in w for w in said)
    assert "no. 3" in said[0] and "rules of thumb" in " ".join(said)
    for stage in STAGES:
        assert f"{expected_g(study, stage):.2f}" in said[0]
    # the last stage is the finished mass, the first the bare body
    assert expected_g(study, "finished") == pytest.approx(of.slip(study).finished.mass_g)
    assert expected_g(study, "bare body") == pytest.approx(of.slip(study).lines[0].mass.mass_g)
    assert "schedule" not in pages_for(study) and "blank" not in pages_for(study)
    with pytest.raises(BadInput, match="copies"):
        write_packet(study, tmp_path / "x.pdf", copies=0)
    with pytest.raises(BadInput, match="printed"):
        write_packet(study_of("print-wake-92"), tmp_path / "x.pdf", ["blank"], stock=BOARDS)


def test_a_half_template_is_the_upper_half_of_the_plan(tmp_path: Path) -> None:
    study = study_of("osier-96")
    write_packet(study, tmp_path / "h.pdf", ["half"])
    (page,) = streams(tmp_path / "h.pdf")
    body = of.outer(study)
    paths = re.findall(r"n ((?:[-\d.]+ [-\d.]+ [ml] )+)h", page)
    outline = max((np.array(re.findall(rf"{NUMBER} {NUMBER} [ml]", p), dtype=float) / mm for p in paths), key=len)
    assert np.ptp(outline[:, 0]) == pytest.approx(body.bounds[1, 0] - body.bounds[0, 0], abs=0.05)
    assert np.ptp(outline[:, 1]) == pytest.approx(body.bounds[1, 1], abs=0.05)


def test_the_grid_is_in_the_makers_unit(tmp_path: Path) -> None:
    for inches, step in ((False, 10.0), (True, 6.35)):
        write_packet(study_of("sallow-74"), tmp_path / "g.pdf", ["templates"], inches=inches)
        (page,) = streams(tmp_path / "g.pdf")
        upright = sorted({round(a, 3) for a, b, c, d in lines(page) if abs(a - c) < 1e-6 and abs(d - b) > 25.0})
        assert any(two - one == pytest.approx(step, abs=0.01) for one, two in itertools.pairwise(upright))

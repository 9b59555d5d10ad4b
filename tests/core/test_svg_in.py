"""SVG drawings in: true size through every unit and nesting, what is beside the body left out, what is unclear refused."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np
import pytest

from yellowbob.design.shape import Lofted
from yellowbob.ground.errors import BadInput
from yellowbob.lines.sections import outline_curves
from yellowbob.lines.svg.body import Drawn, read_svg_body

NS = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'
LONG, DEEP, WIDE = 84.0, 17.0, 13.0
"""The body that is drawn in every test: ellipses in side and plan, mm."""


def ellipse(cx: float, cy: float, long: float, high: float, more: str = "") -> str:
    """Four cubic quarters, as drawing programs write an ellipse."""
    a, b, k = long / 2, high / 2, 0.5522847498
    return (
        f'<path {more} d="M {cx - a} {cy} C {cx - a} {cy - k * b} {cx - k * a} {cy - b} {cx} {cy - b} '
        f"S {cx + a} {cy - k * b} {cx + a} {cy} S {cx + k * a} {cy + b} {cx} {cy + b} "
        f'S {cx - a} {cy + k * b} {cx - a} {cy} Z"/>'
    )


BODY = ellipse(60, 30, LONG, DEEP, 'id="side"') + ellipse(60, 70, LONG, WIDE, 'id="plan"')
UNNAMED = ellipse(60, 30, LONG, DEEP) + ellipse(60, 70, LONG, WIDE)
PAGE = 'width="120mm" height="100mm" viewBox="0 0 120 100"'


def drawing(tmp_path: Path, inner: str, page: str = PAGE) -> Path:
    file = tmp_path / "d.svg"
    file.write_text(f"<svg {NS} {page}>{inner}</svg>", encoding="utf-8")
    return file


def read(tmp_path: Path, inner: str, page: str = PAGE) -> Drawn:
    return read_svg_body(drawing(tmp_path, inner, page))


def areas(found: Drawn) -> tuple[float, float, float]:
    """Length, side's area and plan's area of what was read."""
    shape = found.shape
    assert isinstance(shape, Lofted)
    x = np.linspace(0, shape.length_mm, 4001)
    back, belly, plan = (c.at(x) for c in outline_curves(shape))
    return shape.length_mm, float(np.trapezoid(back - belly, x)), float(np.trapezoid(2 * plan, x))


def is_the_body(found: Drawn, factor: float = 1.0) -> None:
    long, side, plan = areas(found)
    assert long == pytest.approx(LONG * factor, rel=2e-3)
    assert side == pytest.approx(math.pi / 4 * LONG * DEEP * factor**2, rel=2e-3)
    assert plan == pytest.approx(math.pi / 4 * LONG * WIDE * factor**2, rel=2e-3)


PAGES = {
    "mm": PAGE,
    "cm": 'width="12cm" height="10cm" viewBox="0 0 120 100"',
    "in": f'width="{120 / 25.4}in" height="{100 / 25.4}in" viewBox="0 0 120 100"',
    "pt": f'width="{120 / 25.4 * 72}pt" height="{100 / 25.4 * 72}pt" viewBox="0 0 120 100"',
    "pc": f'width="{120 / 25.4 * 6}pc" height="{100 / 25.4 * 6}pc" viewBox="0 0 120 100"',
    "px": f'width="{120 / 25.4 * 96}px" height="{100 / 25.4 * 96}px" viewBox="0 0 120 100"',
    "bare": f'width="{120 / 25.4 * 96}" height="{100 / 25.4 * 96}" viewBox="0 0 120 100"',
    "Q": 'width="480Q" height="400Q" viewBox="0 0 120 100"',
    "height only": 'height="100mm" viewBox="0 0 120 100"',
    "width only": 'width="120mm" viewBox="0 0 120 100"',
    "exponents": 'width="1.2e2mm" height="1e+2mm" viewBox="0 0 1.2e2 1.0E2"',
    "commas": 'width="120mm" height="100mm" viewBox="0,0,120,100"',
    "a wide page": 'width="400mm" height="100mm" viewBox="0 0 120 100"',
    "a tall page": 'width="120mm" height="380mm" viewBox="0 0 120 100" preserveAspectRatio="xMinYMax"',
    "shifted": 'width="120mm" height="100mm" viewBox="-30 20 120 100"',
}


@pytest.mark.parametrize("page", sorted(PAGES))
def test_true_size_in_every_unit(page: str, tmp_path: Path) -> None:
    is_the_body(read(tmp_path, BODY, PAGES[page]))


def test_a_stretched_page_stretches_the_body(tmp_path: Path) -> None:
    page = 'width="240mm" height="100mm" viewBox="0 0 120 100" preserveAspectRatio="none"'
    long, side, _ = areas(read(tmp_path, BODY, page))
    assert (long, side) == pytest.approx((2 * LONG, math.pi / 2 * LONG * DEEP), rel=2e-3)


NESTS = {
    "group": f'<g transform="translate(4 -7) scale(1.5)">{BODY}</g>',
    "groups": f'<g transform="scale(3)"><g transform="matrix(.5 0 0 .5 9 9)"><a>{BODY}</a></g></g>',
    "use": f'<defs><g id="lure">{BODY}</g></defs><use href="#lure" x="3" y="4" transform="scale(1.5)"/>',
    "old use": f'<defs><g id="lure">{BODY}</g></defs><g transform="scale(1.5)"><use xlink:href="#lure"/></g>',
    "symbol": f'<symbol id="s" viewBox="0 0 120 100">{BODY}</symbol><use href="#s" width="180" height="150"/>',
    "nested": f'<svg x="5" y="5" width="180" height="150" viewBox="0 0 120 100">{BODY}</svg>',
    "nested twice": f'<svg width="360" height="300" viewBox="0 0 240 200"><svg width="120">{BODY}</svg></svg>',
    "turned round": f'<g transform="rotate(180 60 50) scale(1.5)">{BODY}</g>',
    "in css": f'<g style="fill:none;stroke:#000" transform="scale(1.5)">{BODY}</g>',
}


@pytest.mark.parametrize("nest", sorted(NESTS))
def test_groups_uses_symbols_and_nested_drawings(nest: str, tmp_path: Path) -> None:
    is_the_body(read(tmp_path, NESTS[nest]), 1.5)


BESIDE = {
    "an eye": '<circle cx="30" cy="28" r="3"/>',
    "a frame": '<rect x="1" y="1" width="118" height="98"/>',
    "a frame about the body alone": '<rect x="10" y="15" width="100" height="65"/>',
    "a hidden layer": f'<g style="display:none">{ellipse(60, 50, 110, 60)}</g>',
    "an invisible one": f'<g visibility="hidden">{ellipse(60, 50, 110, 60)}</g>',
    "one of no opacity": f'<g opacity="0">{ellipse(60, 50, 110, 60)}</g>',
    "a hidden class": f"<style>.guide {{ display: none }}</style><g class='guide'>{ellipse(60, 50, 110, 60)}</g>",
    "what is only defined": f"<defs>{ellipse(60, 50, 110, 60)}</defs>",
    "a clip": f'<clipPath id="c">{ellipse(60, 50, 110, 60)}</clipPath>',
    "words": '<text x="3" y="9">side, 84 mm</text>',
    "a small fin": '<path d="M 5 90 l 20 0 l -4 8 z"/>',
    "hook marks": '<line x1="40" y1="38" x2="40" y2="44"/><line x1="70" y1="38" x2="70" y2="44"/>',
}


@pytest.mark.parametrize("first", [True, False])
@pytest.mark.parametrize("beside", sorted(BESIDE))
def test_what_is_beside_the_body_is_left_out(beside: str, first: bool, tmp_path: Path) -> None:
    for body in (BODY, UNNAMED):
        is_the_body(read(tmp_path, BESIDE[beside] + body if first else body + BESIDE[beside]))


@pytest.mark.parametrize(("side", "plan"), [("Side", "Plan"), ("SIDE", "plan"), ("side", "PLAN")])
def test_names_in_any_case_and_by_label(side: str, plan: str, tmp_path: Path) -> None:
    smaller = ellipse(60, 30, LONG, DEEP, f'id="{side}"') + ellipse(60, 70, LONG, WIDE, f'id="{plan}"')
    is_the_body(read(tmp_path, smaller))
    # the wider outline is the plan here: only the names tell
    wide = ellipse(60, 30, LONG, WIDE, 'label="plan"') + ellipse(60, 70, LONG, DEEP, 'label="side"')
    is_the_body(read(tmp_path, wide))


def test_an_eye_in_the_sides_own_path_is_left_out(tmp_path: Path) -> None:
    eye = "M 27 28 a 3 3 0 1 0 6 0 a 3 3 0 1 0 -6 0 Z"
    for d in (f"{eye} ", ""):
        body = ellipse(60, 30, LONG, DEEP, 'id="side"').replace(' d="', f' d="{d}')
        if not d:
            body = body.replace('Z"/>', f'Z {eye}"/>')
        is_the_body(read(tmp_path, body + ellipse(60, 70, LONG, WIDE, 'id="plan"')))


def test_a_body_drawn_nose_up_is_laid_down(tmp_path: Path) -> None:
    found = read(
        tmp_path,
        f'<g transform="translate(100 0) rotate(90)">{BODY}</g>',
        'width="200mm" height="200mm" viewBox="0 0 200 200"',
    )
    is_the_body(found)
    assert any("nose up" in note for note in found.notes)
    egg = '<path id="side" d="M 40 10 C 55 20 55 60 40 94 C 25 60 25 20 40 10 Z"/>'
    shape = read(tmp_path, egg).shape
    x = np.linspace(0, shape.length_mm, 400)
    back, belly, _ = outline_curves(shape)
    assert x[np.argmax(back.at(x) - belly.at(x))] < 0.45 * shape.length_mm, "the thick end is up, so it is the nose"


def test_corners_stay_corners(tmp_path: Path) -> None:
    """A coffin with a step: straight sides and sharp corners come back as they are."""
    points = [(10, 40), (20, 30), (50, 28), (50.5, 33), (90, 36), (94, 40), (90, 45), (20, 50)]
    outline = " ".join(f"{x},{y}" for x, y in points)
    shape = read(tmp_path, f'<polygon id="side" points="{outline}"/>').shape
    x = np.linspace(0, 84, 3001)
    back, belly, _ = outline_curves(shape)
    top, bottom = np.array(points[:6]), np.array([points[0], points[7], points[6], points[5]])
    truth = np.interp(x + 10, bottom[:, 0], bottom[:, 1]) - np.interp(x + 10, top[:, 0], top[:, 1])
    assert np.trapezoid(back.at(x) - belly.at(x), x) == pytest.approx(np.trapezoid(truth, x), rel=1e-3)
    assert np.abs(back.at(x) - belly.at(x) - truth).max() < 0.1


REFUSED = {
    "open": ('<path id="side" d="M 10 30 C 30 10 90 10 110 30"/>', r"open: its ends lie 100\.00 mm apart"),
    "half an outline": ('<path d="M 10 30 C 30 10 90 10 110 30"/>', "open"),
    "a crossing": ('<path id="side" d="M 10 20 L 110 40 L 110 20 L 10 40 Z"/>',
        r"crosses or touches itself near x 60\.0, y 30\.0"),
    "a straight line": ('<path id="side" d="M 10 30 L 110 30 Z"/>', "a line, and encloses nothing"),
    "an upright line": ('<path id="side" d="M 10 30 V 90 Z"/>', "a line, and encloses nothing"),
    "over 3 m": (f'<g transform="scale(40)">{BODY}</g>', "is its unit right"),
    "of no size": (f'<g transform="scale(.001)">{BODY}</g>', "is its unit right"),
    "three of one size": (UNNAMED + ellipse(60, 50, LONG, 8), "name two of them"),
    "a plan of another length": (
        ellipse(60, 30, LONG, DEEP, 'id="side"') + ellipse(60, 70, 70, WIDE, 'id="plan"'),
        "84.0 mm long and the plan 70.0"),
    "a plan alone": (ellipse(60, 30, LONG, DEEP, 'id="plan"'), "no 'side'"),
    "two sides": (ellipse(30, 30, 40, 9, 'id="side"') + ellipse(90, 30, 40, 9, 'id="side"'), "beside each other"),
    "a forked tail": ('<path id="side" d="M 10 30 L 60 20 L 110 10 L 80 30 L 110 50 L 60 40 Z"/>', "doubles back"),
    "nothing": ("", "no path in it"),
    "a picture": ('<image href="x.png" width="9" height="9"/>', "trace that"),
    "a use of nothing": ('<use href="#none"/>', "uses '#none'"),
    "uses in a circle": ('<g id="a"><use href="#a"/></g>', "circles"),
    "a bad transform": (f'<g transform="spin(4)">{BODY}</g>', "not understood"),
    "a bad path": ('<path id="side" d="M 10 30 Q"/>', "cannot be understood|no path"),
}  # fmt: skip


@pytest.mark.parametrize("case", sorted(REFUSED))
def test_what_is_unclear_is_refused_with_the_reason(case: str, tmp_path: Path) -> None:
    inner, words = REFUSED[case]
    with pytest.raises(BadInput, match=words):
        read(tmp_path, inner)


@pytest.mark.parametrize(
    "page",
    ['width="12em" height="10em" viewBox="0 0 120 100"', 'width="wide" viewBox="0 0 120 100"', 'viewBox="0 0 120"',
     'viewBox="0 0 -120 100"', 'width="0mm" height="0mm" viewBox="0 0 120 100"', 'viewBox="0 0 nan 100"',
     'width="1e999mm" viewBox="0 0 120 100"'],
)  # fmt: skip
def test_a_page_of_no_size_is_refused(page: str, tmp_path: Path) -> None:
    with pytest.raises(BadInput):
        read(tmp_path, BODY, page)


def test_guesses_are_said(tmp_path: Path) -> None:
    told = read(tmp_path, UNNAMED, 'viewBox="0 0 120 100"').notes
    assert any("1/96 inch" in note for note in told)
    assert any("name them" in note for note in told)
    assert any("as wide as it is deep" in n for n in read(tmp_path, ellipse(60, 30, LONG, DEEP, 'id="side"')).notes)
    assert read(tmp_path, BODY).notes == ()


def test_files_that_are_none(tmp_path: Path) -> None:
    file = tmp_path / "d.svg"
    for content in ("<svg", "<html></html>", "", '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "a">]><svg>&b;</svg>'):
        file.write_text(content)
        with pytest.raises(BadInput, match=r"SVG"):
            read_svg_body(file)
    file.write_bytes(b"\xff\xfe\x00rubbish")
    with pytest.raises(BadInput, match="SVG"):
        read_svg_body(file)
    with pytest.raises(BadInput, match="no such file"):
        read_svg_body(tmp_path / "none.svg")


def test_lines_may_run_out_of_a_frame_about_the_drawing(tmp_path: Path) -> None:
    """On a page so much wider that the frame is not the page's edge."""
    page = 'width="400mm" height="100mm" viewBox="0 0 120 100"'
    out = '<line x1="-5" y1="50" x2="125" y2="50" stroke="black"/><path d="M 60 -9 l 3 20 l 9 9" fill="none" stroke="red"/>'
    found = read(tmp_path, f'{UNNAMED}{out}<rect x="1" y="1" width="118" height="98" fill="none" stroke="red"/>', page)
    is_the_body(found)
    assert any("frame" in note for note in found.notes)

"""SVG drawings as a viewer would show them: style sheets under conditions, nests that clip, packed files, slanted bodies."""

from __future__ import annotations

import gzip
import re
from pathlib import Path

import pytest

from tests.core.test_svg_in import BODY, DEEP, LONG, drawing, ellipse, is_the_body, read
from yellowbob.ground.errors import BadInput
from yellowbob.lines.svg.body import read_svg_body

HALF = "g { transform: scale(0.5) }"
PAINT = "path { fill: white }"


@pytest.mark.parametrize(
    ("sheet", "factor"),
    [
        (f"<style>@media screen {{ {HALF} }}</style>", 0.5),
        (f"<style>@media all, print {{ {HALF} }}</style>", 0.5),
        (f"<style>@media print {{ {HALF} }}</style>", 1.0),
        (f"<style media='print'>{HALF}</style>", 1.0),
        (f"<style media='screen'>{HALF}</style>", 0.5),
        (f"<style type='text/less'>{HALF}</style>", 1.0),
        (f"<style type='text/css; charset=utf-8'>{HALF}</style>", 0.5),
        (f"<style>@keyframes x {{ from {{ transform: scale(2) }} }} {HALF}</style>", 0.5),
        (f"<style>@media (prefers-color-scheme: dark) {{ {PAINT} }}</style>", 1.0),
        (f"<style>@supports (display: grid) {{ {PAINT} }}</style>", 1.0),
    ],
)
def test_a_style_sheet_is_followed_where_it_holds(sheet: str, factor: float, tmp_path: Path) -> None:
    is_the_body(read(tmp_path, f"{sheet}<g>{BODY}</g>"), factor)


@pytest.mark.parametrize(
    "sheet",
    [
        f"<style>@media (max-width: 10px) {{ {HALF} }}</style>",
        f"<style>@media screen and (min-width: 1px) {{ {HALF} }}</style>",
        f"<style>@supports (display: grid) {{ {HALF} }}</style>",
        f"<style>@layer low {{ {HALF} }}</style>",
        f"<style media='(orientation: portrait)'>{HALF}</style>",
        f"<style>@media (width) {{ @supports (x: y) {{ {HALF} }} }}</style>",
        "<style>svg { g { transform: scale(0.5) } }</style>",
        "<style>@layer a { g:hover { display: none } }</style>",
    ],
)
def test_what_may_or_may_not_hold_and_shapes_the_drawing_is_refused(sheet: str, tmp_path: Path) -> None:
    with pytest.raises(
        BadInput, match=r"shapes what is drawn under .* which may not hold everywhere; save it as a plain"
    ):
        read(tmp_path, f"{sheet}<g>{BODY}</g>")


def test_a_style_sheet_outside_the_drawing_is_said(tmp_path: Path) -> None:
    found = read(tmp_path, f"<style>@import url('x.css');</style>{BODY}")
    is_the_body(found)
    assert any("style sheet that is not in it" in note for note in found.notes)
    file = drawing(tmp_path, BODY)
    file.write_text(f'<?xml-stylesheet href="x.css" type="text/css"?>{file.read_text()}')
    assert any("style sheet that is not in it" in note for note in read_svg_body(file).notes)
    assert not any("style sheet" in note for note in read(tmp_path, BODY).notes)


@pytest.mark.parametrize(
    ("inner", "factor"),
    [
        ('<svg x="5" width="60" height="50" viewBox="0 0 120 100">{}</svg>', 0.5),
        ('<svg width="40" height="100" overflow="visible">{}</svg>', 1.0),
        ('<defs><svg id="q" viewBox="0 0 120 100" width="9" height="9">{}</svg></defs>'
         '<use href="#q" width="60" height="50"/>', 0.5),
        ('<symbol id="q" viewBox="0 0 120 100">{}</symbol><use href="#q" width="60" height="50"/>', 0.5),
        ('<symbol id="q" style="overflow: visible">{}</symbol><use href="#q" width="50" height="50"/>', 1.0),
    ],
)  # fmt: skip
def test_a_nest_is_as_large_as_who_uses_it_says(inner: str, factor: float, tmp_path: Path) -> None:
    is_the_body(read(tmp_path, inner.format(BODY)), factor)


@pytest.mark.parametrize(
    "inner",
    [
        '<svg width="40" height="100">{}</svg>',
        '<symbol id="q">{}</symbol><use href="#q" width="50" height="50"/>',
        '<symbol id="q" viewBox="0 0 120 100" preserveAspectRatio="xMidYMid slice">{}</symbol>'
        '<use href="#q" width="60" height="20"/>',
    ],
)
def test_a_body_that_a_nest_cuts_off_is_refused(inner: str, tmp_path: Path) -> None:
    with pytest.raises(BadInput, match="only part of it shows"):
        read(tmp_path, inner.format(BODY))


def test_a_packed_drawing_is_unpacked_and_one_cut_short_is_refused(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    file = drawing(tmp_path, BODY)
    packed = gzip.compress(file.read_bytes())
    file.write_bytes(packed)
    is_the_body(read_svg_body(file))
    file.write_bytes(packed[:-20])
    with pytest.raises(BadInput, match="cut short"):
        read_svg_body(file)
    file.write_bytes(packed[:40] + bytes(20) + packed[60:])
    with pytest.raises(BadInput, match="cannot be read as an SVG drawing"):
        read_svg_body(file)
    file.write_bytes(packed)
    monkeypatch.setattr("yellowbob.lines.svg.file.MOST_UNPACKED", 100)
    with pytest.raises(BadInput, match="too large"):
        read_svg_body(file)


WIDE_PAGE = 'width="400mm" height="400mm" viewBox="-200 -200 400 400"'


def turned(deg: float, inner: str) -> str:
    return f'<g transform="rotate({deg})">{inner}</g>'


@pytest.mark.parametrize("deg", [-7.0, -3.0, 4.0, 8.5, 94.0])
def test_a_slant_is_said(deg: float, tmp_path: Path) -> None:
    found = read(tmp_path, turned(deg, ellipse(0, 0, LONG, DEEP, 'id="side"')), WIDE_PAGE)
    slant = abs((deg + 45.0) % 90.0 - 45.0)
    told = [float(said[1]) for note in found.notes if (said := re.search(r"on a slant of ([\d.]+)°", note))]
    assert told == [pytest.approx(slant, abs=0.15)]


@pytest.mark.parametrize("deg", [-40.0, 13.0, 36.0, 75.0])
def test_a_body_drawn_askew_is_refused(deg: float, tmp_path: Path) -> None:
    with pytest.raises(BadInput, match=r"on a slant of .*; turn it level"):
        read(tmp_path, turned(deg, ellipse(0, 0, LONG, DEEP, 'id="side"')), WIDE_PAGE)


@pytest.mark.parametrize("data", ["M0 0L40 0L0 20Z", "M0 12L30 0C60 0 80 4 100 10C80 18 40 22 0 12Z", "M0 0H50V40H0Z"])
def test_a_level_wedge_or_a_cut_face_is_no_slant(data: str, tmp_path: Path) -> None:
    assert not any("slant" in note for note in read(tmp_path, f'<path id="side" d="{data}"/>').notes)


def test_a_plan_whose_halves_differ_much_is_refused(tmp_path: Path) -> None:
    side, plan = ellipse(60, 30, LONG, DEEP, 'id="side"'), ellipse(0, 0, LONG, DEEP, 'id="plan"')
    with pytest.raises(BadInput, match=r"the plan's halves differ by .* draw it level"):
        read(tmp_path, side + f'<g transform="translate(60 70) rotate(6)">{plan}</g>')
    said = read(tmp_path, side + f'<g transform="translate(60 70) rotate(1)">{plan}</g>').notes
    assert any("the plan's halves differ" in note for note in said)


GOES = "it moves, or is filtered, where it is looked at"


@pytest.mark.parametrize(
    ("said", "inner"),
    [
        (True, f'<g><animateTransform attributeName="transform" type="scale" to="2" dur="1s"/>{BODY}</g>'),
        (True, f'<defs><animate href="#side" attributeName="d" to="M0 0L9 0L9 9Z"/></defs>{BODY}'),
        (True, f'<g><animateMotion path="M0 0L9 9" dur="1s"/>{BODY}</g>'),
        (True, f'<g><set attributeName="display" to="none"/>{BODY}</g>'),
        (True, f"<style>@keyframes x {{ to {{ transform: scale(2) }} }} g {{ animation: x 2s }}</style><g>{BODY}</g>"),
        (True, f'<defs><filter id="f"><feOffset dx="9"/></filter></defs><g filter="url(#f)">{BODY}</g>'),
        (True, f'<g style="filter: blur(2px)">{BODY}</g>'),
        (False, f'<g><animate attributeName="fill" to="red" dur="1s"/>{BODY}</g>'),
        (False, f'<g style="filter: none; animation: none 0s">{BODY}</g>'),
        (False, f'<g style="transform-box: fill-box">{BODY}</g>'),
    ],
)
def test_what_moves_or_is_filtered_in_a_viewer_is_taken_as_drawn_and_said(
    said: bool, inner: str, tmp_path: Path
) -> None:
    found = read(tmp_path, inner)
    is_the_body(found)
    assert any(note.startswith(GOES) for note in found.notes) is said


@pytest.mark.parametrize("about", ["fill-box", "stroke-box", "content-box"])
def test_a_transform_about_the_box_of_what_it_moves_is_refused(about: str, tmp_path: Path) -> None:
    with pytest.raises(BadInput, match=f"a transform is about the '{about}' of what it moves"):
        read(tmp_path, f'<g style="transform: scale(0.5); transform-box: {about}">{BODY}</g>')

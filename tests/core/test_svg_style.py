"""Styles in SVG drawings: what they hide, move, size and clip, as a viewer shows it; and the program's own, edited."""

from __future__ import annotations

import math
import random
import re
from contextlib import suppress
from pathlib import Path

import pytest

from tests.conftest import DEMO
from tests.core.test_svg_in import BODY, DEEP, LONG, NS, UNNAMED, WIDE, drawing, ellipse, is_the_body, read
from yellowbob.design.cuts import Cup, Sockets
from yellowbob.design.files import read_design
from yellowbob.design.rescale import rescaled
from yellowbob.design.shape import Lofted, Turned
from yellowbob.ground.errors import BadInput
from yellowbob.ground.progress import Stopped
from yellowbob.lines.svg.body import Drawn, read_svg_body
from yellowbob.lines.svg.paths import read_shown
from yellowbob.shop.exports import svg_of
from yellowbob.study import Study

BOX = 'viewBox="0 0 120 100"'
MM = "width:120mm;height:100mm"
BIG = ellipse(60, 50, 118, 96, "{}")
"""Twice as large as the body: it would be taken as the side if it showed."""


@pytest.mark.parametrize(
    ("page", "sheet"),
    [(f'style="{MM}" {BOX}', ""), (f'width="500mm" height="90px" style="{MM}" {BOX}', ""), (BOX, f"svg {{{MM}}}"),
     (f'width="3in" {BOX}', f"@media screen {{ svg {{{MM}}} }}"),
     (f'style="{MM}" {BOX}', "svg { width: 7px; height: 3px }"),
     (f'width="120mm" height="100mm" style="width:100%;height:auto" {BOX}', ""),
     (f'width="12cm" {BOX}', "svg { width: 100%; max-width: 30em; height: auto }"),
     (f'style="width:1px;height:1px" {BOX}', "svg { width: 120mm !important; height: 10cm !important }")],
)  # fmt: skip
def test_a_page_is_as_large_as_its_styles_say(tmp_path: Path, page: str, sheet: str) -> None:
    is_the_body(read(tmp_path, f"<style>{sheet}</style>{BODY}", page))


@pytest.mark.parametrize(
    ("around", "factor"),
    [('style="transform: scale(0.5)"', 0.5), ('class="t"', 0.8), ('transform="scale(3)" style="transform:scale(0.4)"', 0.4),
     ('transform="translate(3-4)scale(1.25)"', 1.25), ('style="transform:translate(9mm,2px) scale(.7)"', 0.7),
     ('style="transform:rotate(0.5turn) rotate(180deg)"', 1.0), ('transform="scale(.5.5)"', 0.5),
     ('transform="scale(0.6)" transform-origin="30 40"', 0.6), ('style="transform:scaleX(0.9) scaleY(0.9)"', 0.9),
     ('style="rotate:none;zoom:1"', 1.0)],
)  # fmt: skip
def test_styles_move_and_scale_as_a_viewer_does(tmp_path: Path, around: str, factor: float) -> None:
    is_the_body(read(tmp_path, f"<style>.t {{ transform: scale(0.8) }}</style><g {around}>{BODY}</g>"), factor)


def test_a_shape_is_as_large_as_its_style_says(tmp_path: Path) -> None:
    found = read(
        tmp_path,
        f'<style>#plan {{ rx: {LONG / 2}; ry: {WIDE / 2}px }}</style><ellipse id="side" cx="60" cy="30" rx="1" ry="2" '
        f'style="rx:{LONG / 2}; ry:{DEEP / 2}"/><ellipse id="plan" cx="60" cy="70" rx="50" ry="3"/>',
    )
    is_the_body(found)


@pytest.mark.parametrize(
    "hiding",
    [("#big { display: none }", 'id="big"'), ("g > .big { visibility: hidden }", 'class="big"'),
     ("path[data-layer=guide] { opacity: 0 }", 'data-layer="guide"'), (".a.b { display: none }", 'class="b c a"'),
     ("path { stroke: black } .big { fill: none; stroke: none }", 'class="big"'),
     ("", 'fill="none"'), ("", 'style="fill:none;stroke:#123;stroke-width:0"'), ("", 'fill-opacity="0"'),
     ("", 'style="display: none !important"'), ("@media not print { .big { display: none } }", 'class="big"')],
)  # fmt: skip
def test_what_a_style_hides_is_not_the_body(tmp_path: Path, hiding: tuple[str, str]) -> None:
    sheet, attributes = hiding
    found = read(tmp_path, f"<style>{sheet}</style><g>{UNNAMED}{BIG.format(attributes)}</g>")
    is_the_body(found)


def test_what_a_style_shows_again_is_seen(tmp_path: Path) -> None:
    shown = UNNAMED.replace("<path", '<path visibility="visible"')
    is_the_body(read(tmp_path, f'<g visibility="hidden">{shown}{BIG.format("")}</g>'))
    paper = "<style>@media print { path { display: none } } path { nonsense } ::: { } path { fill: url(#f) }</style>"
    is_the_body(read(tmp_path, paper + BODY))


def test_what_nothing_paints_is_left_out_with_a_word_or_taken_with_one(tmp_path: Path) -> None:
    found = read(tmp_path, UNNAMED + BIG.format('fill="none"'))
    assert any("left out for want of a fill or a stroke: 1" in note for note in found.notes)
    alone = read(tmp_path, f'<g fill="none">{UNNAMED}</g>')
    is_the_body(alone)
    assert any("nothing in it is filled or stroked" in note for note in alone.notes)
    is_the_body(read(tmp_path, f'<g fill="none">{BODY}</g>{BIG.format("")}'))  # by its name


THICK_MM = 4.0
THICK = [
    ('fill="none" stroke="#123" stroke-width="4"', ""), ('stroke="#123"', "path { stroke-width: 4px }"),
    ('stroke="#123" style="stroke-width: 4"', "g { transform: scale(4) } path { transform: scale(0.25); stroke-width: 1 }"),
    ('stroke="#123" style="stroke-width: 2; transform: scale(2) scale(0.5)"', "path { stroke-width: 4 !important }"),
    ('vector-effect="non-scaling-stroke" stroke="#123" stroke-width="4mm"', ""),
    (f'stroke="#123" stroke-width="{400 * math.sqrt(2) / math.hypot(120, 100)}%"', ""),
]  # fmt: skip


@pytest.mark.parametrize("line", THICK)
def test_how_thick_the_line_is_that_an_outline_is_the_middle_of_is_said(tmp_path: Path, line: tuple[str, str]) -> None:
    attributes, sheet = line
    found = read(tmp_path, f"<style>{sheet}</style><g>{UNNAMED.replace('<path', f'<path {attributes}')}</g>")
    is_the_body(found)
    assert any(f"line of the side is {THICK_MM:.2g} mm thick" in note for note in found.notes), found.notes


@pytest.mark.parametrize(
    "line", ['stroke="none" stroke-width="9"', 'stroke="#123" stroke-opacity="0" stroke-width="9"', 'stroke="red" '
             'stroke-width="0.1"', 'stroke-width="9"']
)  # fmt: skip
def test_a_fine_line_and_one_that_is_not_there_need_no_word(tmp_path: Path, line: str) -> None:
    found = read(tmp_path, UNNAMED.replace("<path", f"<path {line}"))
    is_the_body(found)
    assert not any("thick" in note for note in found.notes)


def test_a_line_whose_thickness_cannot_be_told_says_so(tmp_path: Path) -> None:
    found = read(tmp_path, UNNAMED.replace("<path", '<path stroke="red" stroke-width="calc(1em + 2px)"'))
    is_the_body(found)
    assert any("how thick the line of the side is cannot be told" in note for note in found.notes)


def clip(inner: str, more: str = "") -> str:
    return f'<defs><clipPath id="c" {more}>{inner}</clipPath></defs><g clip-path="url(#c)">{BODY}</g>'


TWO = '<rect x="1" y="1" width="118" height="48"/><rect y="48" width="120" height="50"/>'


@pytest.mark.parametrize(
    "inner", ['<rect width="120" height="100"/>', TWO, '<use href="#page"/>', '<circle cx="60" cy="50" r="60"/>']
)
def test_a_clip_that_takes_nothing_off_does_no_harm(tmp_path: Path, inner: str) -> None:
    is_the_body(read(tmp_path, '<defs><rect id="page" width="120" height="100"/></defs>' + clip(inner)))


@pytest.mark.parametrize(
    ("inner", "more"),
    [('<rect width="90" height="100"/>', ""), ('<ellipse cx="60" cy="30" rx="41.5" ry="9"/>', ""),
     ('<rect width="1" height="1"/>', 'clipPathUnits="objectBoundingBox"'), ('<text y="50">side</text>', ""),
     ('<rect width="120" height="100"/>', 'transform="scale(0.8)"')],
)  # fmt: skip
def test_a_body_of_which_part_is_clipped_is_refused(tmp_path: Path, inner: str, more: str) -> None:
    with pytest.raises(BadInput, match="clipped or masked"):
        read(tmp_path, clip(inner, more))


@pytest.mark.parametrize(
    "says", ["mask-image: linear-gradient(black, transparent)", "-webkit-mask: url(m.png)", "mask-border: url(m.png) 30",
             "-webkit-clip-path: inset(0 9px)"]
)  # fmt: skip
def test_a_body_of_which_a_style_shows_a_part_only_is_refused(tmp_path: Path, says: str) -> None:
    with pytest.raises(BadInput, match="clipped or masked"):
        read(tmp_path, f'<g style="{says}">{BODY}</g>')


@pytest.mark.parametrize(
    "inner", [f"<script>document.title = 1</script>{BODY}", f'<g onclick="this.remove()">{BODY}</g>',
              f'<g><script href="far.js"/></g>{BODY}']
)  # fmt: skip
def test_a_script_is_not_run_which_is_said(tmp_path: Path, inner: str) -> None:
    found = read(tmp_path, inner)
    is_the_body(found)
    assert any("script" in note and "compare its length" in note for note in found.notes)
    assert not any("script" in note for note in read(tmp_path, BODY).notes)


@pytest.mark.parametrize(
    "says", ["scale(2,,2)", "scale(2,)", "scale(,2)", "scale(2),,scale(1)", ",scale(2)", "scale(2) x", "scale(2) #"]
)
def test_a_transform_whose_commas_a_viewer_does_not_follow_is_refused(tmp_path: Path, says: str) -> None:
    with pytest.raises(BadInput, match="not understood"):
        read(tmp_path, f'<g transform="{says}">{BODY}</g>')
    is_the_body(read(tmp_path, f'<g transform=" scale(2 , 2),scale(.5.5) translate(3-3)translate(-3\t3)\n">{BODY}</g>'))


def test_a_body_that_is_masked_is_refused_and_one_beside_it_is_not(tmp_path: Path) -> None:
    mask = '<mask id="m"><rect width="30" height="100" fill="white"/></mask>'
    with pytest.raises(BadInput, match="clipped or masked"):
        read(tmp_path, mask + f'<g style="mask: url(#m)">{BODY}</g>')
    is_the_body(read(tmp_path, mask + BODY + ellipse(60, 10, 20, 5, 'mask="url(#m)"')))
    is_the_body(read(tmp_path, f'<g mask="url(#gone)" clip-path="none">{BODY}</g>'))


def test_of_several_a_viewer_takes_the_first_that_is_meant_for_it(tmp_path: Path) -> None:
    others = f'<foreignObject requiredExtensions="x"/><g systemLanguage="xx">{BIG.format("")}</g>'
    is_the_body(
        read(tmp_path, f'<switch>{others}<g systemLanguage="de, en-GB">{UNNAMED}</g><g>{BIG.format("")}</g></switch>')
    )


def test_what_belongs_to_another_language_is_not_drawn(tmp_path: Path) -> None:
    is_the_body(read(tmp_path, UNNAMED + '<x:path xmlns:x="urn:x" d="M 0 0 H 120 V 100 H 0 Z M 9 9 H 99 V 99 H 9 Z"/>'))


@pytest.mark.parametrize(
    "broken",
    [clip('<rect width="120" height="100" clip-path="url(#c)"/>'), '<use id="u" href="#u"/>' + BODY,
     '<path id="side" d="M 10 20 L 50 10 L 90 20 foo L 50 30 Z"/>', '<path id="side" d="M 10 20 L 50 10 90 20 50 30 Z X"/>',
     '<path id="side" d="L 10 20 L 50 10 L 90 20 Z"/>', '<path id="side" d="M 10 20 L 50 10 90 20 7 Z"/>',
     '<polygon id="side" points="10,20 50,10 90,20 50,30 7"/>', '<polygon id="side" points="10,20 50,1O 90,20 50,30"/>',
     f'<g style="zoom: 2">{BODY}</g>', f'<g style="scale: 0.5">{BODY}</g>', f'<g transform="scale(2px)">{BODY}</g>',
     f'<g transform="scale(50%)">{BODY}</g>', f'<g style="transform: rotate3d(1,1,1,45deg)">{BODY}</g>',
     f'<g transform="scale(0.5)" transform-origin="50% 50%">{BODY}</g>', f'<g transform="translate(1,2,3)">{BODY}</g>',
     '<path id="side" style="d: path(\'M 0 0 H 9 V 9 Z\')" d="M 10 20 L 50 10 L 90 20 Z"/>'],
)  # fmt: skip
def test_what_is_not_understood_is_refused(tmp_path: Path, broken: str) -> None:
    with pytest.raises(BadInput, match=r"d\.svg: "):
        read(tmp_path, broken)


@pytest.mark.parametrize(
    "deep", ["<style>" + "g " * 5000 + "{ fill: red }</style>" + BODY, "<g>" * 3000 + BODY + "</g>" * 3000,
             "<style>" + ":not(" * 3000 + "a" + ")" * 3000 + "{ fill: red }</style>" + BODY,
             f'<g style="fill: {"(" * 20_000}">{BODY}</g>'],
)  # fmt: skip
def test_what_is_nested_too_deep_is_refused(tmp_path: Path, deep: str) -> None:
    with pytest.raises(BadInput, match=r"nested too deep|round in circles"):
        read(tmp_path, deep)


def test_any_style_sheet_is_read_past_or_refused(tmp_path: Path) -> None:
    bits = ["path", "#side", ".a", "*", "g>", "+", "~", " ", ",", "{", "}", ":", ";", "display:none", "transform:scale(2)",
            "@media", "print", "(min-width:3px)", "@import url(x.css);", "url(#q)", "/*", "*/", '"', "'", "\\", "!important",
            ":hover", ":nth-child(2n+1)", ":not(.a)", "[id=side]", "svg|path", "::before", "&amp;", "calc(1px)", "var(--x)",
            "-", "1e9", "zoom:1", "clip-path:url(#c)", "mask:none", "@layer a{"]  # fmt: skip
    dice, read_in = random.Random(31), 0
    for _ in range(300):
        sheet = "".join(dice.choice(bits) for _ in range(dice.randint(1, 25)))
        with suppress(BadInput):
            read_in += bool(read_shown(drawing(tmp_path, f"<style>{sheet}</style>{BODY}"))[0].outlines)
    assert read_in > 150


def test_a_large_drawing_tells_how_far_it_is_and_can_be_stopped(tmp_path: Path) -> None:
    file = drawing(tmp_path, '<path d="M 0 0 h 1 v 1 z"/>' * 950 + BODY)
    shares: list[float] = []

    def told(share: float) -> bool:
        shares.append(share)
        return len(shares) < 5

    with pytest.raises(Stopped):
        read_svg_body(file, told)
    assert shares == sorted(shares) and 0.0 < shares[0] < shares[-1] < 0.7
    is_the_body(read_svg_body(file))


def test_a_page_that_is_transformed_itself_says_so(tmp_path: Path) -> None:
    file = tmp_path / "d.svg"
    file.write_text(
        f'<svg {NS} width="120mm" height="100mm" {BOX} transform="scale(0.5)">{BODY}</svg>', encoding="utf-8"
    )
    found = read_svg_body(file)
    is_the_body(found, 0.5)
    assert any("not every program follows" in note for note in found.notes)


# ---- the program's own drawings, moved about, scaled and edited


def own(tmp_path: Path, name: str, around: str = "", edit: tuple[str, str] = ("", "")) -> Drawn:
    text = svg_of(Study(read_design(DEMO / f"{name}.ybob")))
    text = re.sub(r"(<svg[^>]*>)(.*)(</svg>)", rf"\1<g {around}>\2</g>\3", text, flags=re.DOTALL).replace(*edit)
    file = tmp_path / "own.svg"
    file.write_text(text, encoding="utf-8")
    return read_svg_body(file)


@pytest.mark.parametrize("name", ["weir-cup-62", "spit-pencil-118", "osier-96"])
@pytest.mark.parametrize("around", ['transform="translate(7 -31)"', 'transform="rotate(90 20 20)"', ""])
def test_a_drawing_of_its_own_comes_back_exactly_from_anywhere_on_the_page(
    tmp_path: Path, name: str, around: str
) -> None:
    body = read_design(DEMO / f"{name}.ybob").body
    found = own(tmp_path, name, around)
    assert found.shape == body.shape and found.cuts == body.cuts


@pytest.mark.parametrize("name", ["weir-cup-62", "spit-pencil-118", "mill-tail-88"])
def test_a_drawing_of_its_own_is_scaled_with_its_cuts_and_says_so(tmp_path: Path, name: str) -> None:
    found = own(tmp_path, name, 'transform="scale(1.3) translate(3 5)"')
    design = read_design(DEMO / f"{name}.ybob")
    assert isinstance(design.shape, Lofted | Turned) and isinstance(found.shape, Lofted | Turned)
    wanted = rescaled(design, 1.3)
    assert isinstance(wanted.shape, Lofted | Turned)
    assert found.shape.length_mm == pytest.approx(wanted.shape.length_mm, rel=1e-5)
    for cut, other in zip(found.cuts, wanted.body.cuts, strict=True):
        assert isinstance(cut, Cup | Sockets) and isinstance(other, Cup | Sockets)
        assert cut.diameter_mm == pytest.approx(other.diameter_mm, rel=1e-5)
    assert any("1.3 times as large" in note for note in found.notes)


def test_a_drawing_of_its_own_that_was_edited_keeps_its_axis_and_says_so(tmp_path: Path) -> None:
    """Its back is drawn a little higher, and the whole moved: the sockets stay where they were in the body."""
    path = re.search(r'id="side"[^>]* d="(.*?)"', svg_of(Study(read_design(DEMO / "spit-pencil-118.ybob"))), re.DOTALL)
    assert path is not None
    raised = re.sub(r"-(\d+\.\d+)(?=[ \"])", lambda m: f"-{1.04 * float(m[1]):.5f}", path[1])
    still = own(tmp_path, "spit-pencil-118", edit=(path[1], raised))
    moved = own(tmp_path, "spit-pencil-118", 'transform="translate(4 40)"', (path[1], raised))
    was = read_design(DEMO / "spit-pencil-118.ybob").body
    for found in (still, moved):
        assert isinstance(found.shape, Lofted) and isinstance(was.shape, Lofted)
        assert found.cuts == was.cuts and found.shape != was.shape
        assert found.shape.back[0].at_mm[1] == pytest.approx(was.shape.back[0].at_mm[1], abs=0.2)
        assert max(p.at_mm[1] for p in found.shape.back) == pytest.approx(
            1.04 * max(p.at_mm[1] for p in was.shape.back), rel=0.01
        )
        assert any("were changed since" in note and "cut into it (1) stayed" in note for note in found.notes)
        assert math.isclose(found.shape.length_mm, was.shape.length_mm, rel_tol=2e-3)

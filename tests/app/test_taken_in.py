"""Bodies taken in: from a picture, from CAD."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
import trimesh
from PIL import Image
from PySide6.QtCore import QPoint, QPointF, Qt
from pytestqt.qtbot import QtBot

from tests.app.conftest import grabbed
from tests.app.test_tank import type_into
from tests.painted_bodies import scene
from yellowbob.app.frame.window import Window
from yellowbob.design.shape import MeshBody
from yellowbob.study import of

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def bench(qtbot: QtBot, window: Window) -> Window:
    qtbot.keyClick(window, Qt.Key.Key_1)
    assert window.benches.currentWidget() is window.lines
    return window


def test_trace_from_picture_to_body(qtbot: QtBot, bench: Window, tmp_path: Path) -> None:
    page, session = bench.lines.trace, bench.session
    page.open(tmp_path / "none.png")
    qtbot.waitUntil(lambda: page.words.text().startswith("!"), timeout=60_000)
    bench.lines.trace_demo()
    qtbot.waitUntil(lambda: page.picture.picture is not None, timeout=60_000)
    assert not page.seek.isEnabled()
    for mark in ((197.2, 398.8), (1202.8, 469.2)):
        qtbot.mouseClick(page.picture, LEFT, pos=page.picture.to_widget(mark).toPoint())
    assert page.seek.isEnabled()
    type_into(qtbot, page.known, "4 in")
    qtbot.mouseClick(page.seek, LEFT)
    qtbot.waitUntil(lambda: page.trace is not None, timeout=60_000)
    assert page.trace.length_mm == pytest.approx(101.6, rel=0.01)
    grabbed(page)
    qtbot.mouseClick(page.use, LEFT)
    assert session.design.shape.length_mm == pytest.approx(101.6, rel=0.01)
    assert bench.lines.page is bench.lines.view
    image = grabbed(bench.lines.view)
    middle = bench.lines.view.to_px("back", 50.0, 0.0)
    shown = image.pixelColor(QPointF(middle).toPoint())
    assert shown.red() > shown.blue()  # the brown body of the picture, under the drawing
    session.undo.undo()
    assert session.design.name == "Sallow 74"
    assert session.design.body.cuts


def test_beside_a_ruler_the_bodys_own_ends_are_clicked_after_it(qtbot: QtBot, bench: Window, tmp_path: Path) -> None:
    made = scene("pointed", "plain red", "paper", px=900, noise=1.0, ruler=True)
    Image.fromarray((made.known.pixels[..., :3] * 255).astype("uint8")).save(tmp_path / "p.png")
    page = bench.lines.trace
    bench.lines.show_trace()
    page.open(tmp_path / "p.png")
    qtbot.waitUntil(lambda: page.picture.picture is not None, timeout=60_000)
    qtbot.mouseClick(page.beside, LEFT)
    y = 0.46 * 675 + 0.335 * 0.9 * 900
    for mark in ((126.0, y), (774.0, y), made.known.nose, made.known.tail):
        if len(page.picture.marks) == 2:
            assert "ends of the body as well" in page.words.text()
        qtbot.mouseClick(page.picture, LEFT, pos=page.picture.to_widget(mark).toPoint())
    assert len(page.picture.marks) == len(page.picture.own) == 2
    page.picture.own = [made.known.nose, made.known.tail]  # finer than a pixel of the screen
    type_into(qtbot, page.known, "64.8 mm")
    qtbot.mouseClick(page.seek, LEFT)
    qtbot.waitUntil(lambda: page.trace is not None, timeout=60_000)
    assert page.trace.length_mm == pytest.approx(made.known.length_px / 10, rel=0.01)
    assert "own ends" not in page.words.text()
    qtbot.mouseClick(page.beside, LEFT)
    assert page.picture.own == []


def test_a_picture_is_shown_as_it_is_read(qtbot: QtBot, bench: Window, tmp_path: Path) -> None:
    """Upright where it was held upright, however many pixels it has: what is clicked is what is traced."""
    page = bench.lines.trace
    bench.lines.show_trace()
    held = Image.new("L", (12_000, 6_000), 230)
    held.paste(40, (0, 0, 3_000, 6_000))
    told = Image.Exif()
    told[0x0112] = 6  # held a quarter turn to the right: what is left in the file is at the top
    held.save(tmp_path / "held.png", exif=told, compress_level=1)
    page.open(tmp_path / "held.png")
    qtbot.waitUntil(lambda: page.picture.picture is not None, timeout=60_000)
    shown = page.picture.picture
    assert shown is not None and (shown.width, shown.height) == (6_000, 12_000)
    image = grabbed(page.picture)
    for at, dark in (((3_000.0, 1_500.0), True), ((3_000.0, 4_500.0), False)):
        assert (image.pixelColor(page.picture.to_widget(at).toPoint()).lightness() < 100) is dark
        back = page.picture.to_picture(page.picture.to_widget(at))
        assert back == pytest.approx(at)
        column, row = shown.working(at)
        one = shown.pixels[round(row), round(column), 0]
        assert bool(one < 0.5) is dark
    to_px = np.array([[30.0, 0.0, 100.0], [0.0, -30.0, 6_000.0]])
    small = page.picture.in_shown(to_px)
    assert page.picture.image is not None
    share = page.picture.image.width() / 6_000
    assert small @ [10.0, 4.0, 1.0] == pytest.approx((to_px @ [10.0, 4.0, 1.0] + 0.5) * share - 0.5)


def test_a_hollow_solid_asks_what_is_inside(qtbot: QtBot, bench: Window, tmp_path: Path) -> None:
    page = bench.lines.mesh
    outer, inner = (trimesh.creation.icosphere(subdivisions=3, radius=r) for r in (12.0, 9.0))
    inner.invert()
    trimesh.util.concatenate([outer, inner]).export(tmp_path / "hollow.stl")
    bench.lines.show_mesh()
    page.open(tmp_path / "hollow.stl")
    qtbot.waitUntil(lambda: "'air' above" in page.words.text(), timeout=60_000)
    assert not page.use.isEnabled()
    page.inside.setCurrentText("air")
    page.inside.textActivated.emit("air")
    qtbot.waitUntil(page.use.isEnabled, timeout=60_000)
    assert "holds air" in page.words.text()
    qtbot.mouseClick(page.use, LEFT)
    study = bench.session.study
    assert of.hull(study).volume_mm3 > outer.volume
    assert "hollow" in [line.key for line in of.slip(study).lines]


def test_a_solid_from_cad_is_turned_checked_and_used(qtbot: QtBot, bench: Window, tmp_path: Path) -> None:
    page = bench.lines.mesh
    ball = trimesh.creation.icosphere(subdivisions=3, radius=10.0)
    ball.vertices *= [1, 1, 4]
    ball.export(tmp_path / "ball.stl")
    opened = ball.copy()
    opened.faces = opened.faces[:-2]
    opened.export(tmp_path / "open.stl")
    bench.lines.show_mesh()
    page.open(tmp_path / "open.stl")
    qtbot.waitUntil(lambda: "open edges" in page.words.text(), timeout=60_000)
    assert not page.use.isEnabled()
    page.open(tmp_path / "ball.stl")
    qtbot.waitUntil(page.use.isEnabled, timeout=60_000)
    qtbot.mousePress(page.view, LEFT, pos=QPoint(100, 20))
    qtbot.mouseMove(page.view, QPoint(130, 20))
    qtbot.mouseRelease(page.view, LEFT)
    page.open(tmp_path / "ball.stl")
    qtbot.waitUntil(page.use.isEnabled, timeout=60_000)
    page._quarter("y")
    assert "match" in page.words.text()
    grabbed(page)
    qtbot.mouseClick(page.use, LEFT)
    shape = bench.session.design.shape
    assert isinstance(shape, MeshBody)
    assert shape.length_mm == pytest.approx(80.0, rel=1e-3)
    grabbed(bench.lines.view)
    qtbot.keyClick(bench, Qt.Key.Key_3)
    grabbed(bench.tank.view)

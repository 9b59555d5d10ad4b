"""The Tank bench by hand: drag, nudge, type, add, remove, change wood and water; everything undone again."""

from __future__ import annotations

import math

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QColor
from pytestqt.qtbot import QtBot

from tests.app.conftest import OpenWindow, grabbed
from yellowbob.app.frame.window import Window
from yellowbob.app.widgets.fields import QuantityField
from yellowbob.design.edits import Grip
from yellowbob.design.model import Slug
from yellowbob.study import Study, of

LEFT = Qt.MouseButton.LeftButton


def spot(window: Window, piece: Grip) -> QPoint:
    view = window.tank.view
    place = view.place_of(piece)
    assert place is not None
    return QPointF(*view.camera().pixels(place)).toPoint()


def drag(qtbot: QtBot, window: Window, piece: Grip, by: QPoint, steps: int = 5) -> None:
    view, start = window.tank.view, spot(window, piece)
    qtbot.mousePress(view, LEFT, pos=start)
    for step in range(1, steps + 1):
        qtbot.mouseMove(view, start + by * step / steps)
    qtbot.mouseRelease(view, LEFT, pos=start + by)


def type_into(qtbot: QtBot, field: QuantityField, text: str) -> None:
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, text)
    qtbot.keyClick(field, Qt.Key.Key_Return)


def pitch(window: Window) -> float:
    assert window.session.rest is not None
    return math.degrees(window.session.rest.pitch_rad)


def settled(window: Window) -> None:
    window.session.settle()


def test_opens_at_its_computed_rest(window: Window) -> None:
    rest = of.upright_rest(Study(window.session.design))
    assert rest is not None
    assert window.session.rest == rest
    assert window.tank.view.frames > 0


def test_the_drawing_is_where_the_figures_say(window: Window) -> None:
    """The water row, the body above it and the pixels agree with the rest."""
    view, rest = window.tank.view, window.session.rest
    assert rest is not None
    camera = view.camera()
    up = np.asarray(rest.up)
    vertices = of.outer(window.session.study).vertices
    rows = camera.pixels(vertices)[:, 1]
    above = (camera.origin[1] - rows.min()) / camera.scale
    assert above == pytest.approx(float((vertices @ up).max()) - rest.height_mm, abs=0.02)
    image = grabbed(view)
    surface = int(camera.origin[1])
    sky, deep = QColor(image.pixel(6, surface - 40)), QColor(image.pixel(6, image.height() - 8))
    assert sky.lightness() > deep.lightness()
    g, b = (
        camera.pixels(np.asarray(of.afloat(window.session.study).centre_mm)),
        camera.pixels(np.asarray(rest.buoyancy_mm)),
    )
    assert g[0] == pytest.approx(b[0], abs=0.05)  # at rest they stand on one vertical


def test_dragging_ballast_aft_lifts_the_nose_and_is_one_undo(qtbot: QtBot, window: Window) -> None:
    before, design = pitch(window), window.session.design
    drag(qtbot, window, Grip("ballast", 0), QPoint(24, 10))
    assert pitch(window) > before + 3
    drilled = window.session.design.ballast[0].drilling
    assert drilled is not None and design.ballast[0].drilling is not None
    assert drilled.place_mm[0] > design.ballast[0].drilling.place_mm[0] + 1
    assert window.session.undo.count() == 1
    followed = window.session.rest
    settled(window)
    assert followed is not None
    again = of.upright_rest(Study(window.session.design))
    assert again is not None
    assert followed.up == pytest.approx(again.up, abs=1e-6)
    window.session.undo.undo()
    assert window.session.design == design
    assert pitch(window) == pytest.approx(before, abs=1e-6)
    window.session.undo.redo()
    assert pitch(window) > before + 3


def test_dragging_an_eye_takes_the_hook_along(qtbot: QtBot, window: Window) -> None:
    number = next(i for i, f in enumerate(window.session.design.fittings) if f.name == "Belly ring")
    hook = next(i for i, f in enumerate(window.session.design.fittings) if f.name.startswith("Belly treble"))
    before = window.session.design.fittings[hook].at_mm
    drag(qtbot, window, Grip("fitting", number), QPoint(-20, 0))
    assert window.session.design.fittings[hook].at_mm[0] < before[0] - 1


def test_arrow_keys_nudge_and_shift_goes_ten_times_as_far(qtbot: QtBot, window: Window) -> None:
    view = window.tank.view
    view.setFocus()
    window.session.pick(Grip("ballast", 0))

    def x() -> float:
        drilling = window.session.design.ballast[0].drilling
        assert drilling is not None
        return drilling.place_mm[0]

    start = x()
    qtbot.keyClick(view, Qt.Key.Key_Right)
    assert x() == pytest.approx(start + 0.1)
    qtbot.keyClick(view, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    assert x() == pytest.approx(start - 0.9)


def test_keys_select_every_piece_in_turn(qtbot: QtBot, window: Window) -> None:
    view = window.tank.view
    first = window.session.piece
    seen = set()
    for _ in range(1 + len(window.session.design.fittings)):
        qtbot.keyClicks(view, ".")
        assert window.session.piece is not None
        seen.add(window.session.piece)
    assert len(seen) == 1 + len(window.session.design.fittings)
    assert window.session.piece == first
    qtbot.keyClicks(view, ",")
    assert window.session.piece != first


def test_clicking_water_selects_nothing(qtbot: QtBot, window: Window) -> None:
    qtbot.mouseClick(window.tank.view, LEFT, pos=QPoint(8, window.tank.view.height() - 8))
    assert window.session.piece is None
    assert not window.tank.piece.remove.isEnabled()


def test_fields_take_any_unit_and_show_exact_values(qtbot: QtBot, window: Window) -> None:
    card = window.tank.piece
    type_into(qtbot, card.at_x, "1 1/4 in")
    drilling = window.session.design.ballast[0].drilling
    assert drilling is not None
    assert drilling.place_mm[0] == pytest.approx(31.75)
    assert card.at_x.text() == "31.75 mm"
    type_into(qtbot, card.long, "1 cm")
    weight = window.session.design.ballast[0].weight
    assert isinstance(weight, Slug)
    assert weight.length_mm == pytest.approx(10.0)
    assert card.mass.text().endswith(" g")


def test_unreadable_text_stays_in_place_and_says_why(qtbot: QtBot, window: Window) -> None:
    card, before = window.tank.piece, window.session.design
    type_into(qtbot, card.deep, "quite deep")
    assert card.deep.text() == "quite deep"
    assert card.deep.property("wrong") is True
    assert "for example" in card.wrong.text()
    assert window.session.design == before
    qtbot.keyClick(card.deep, Qt.Key.Key_Escape)
    assert card.deep.text() == "11.20 mm"
    assert not card.wrong.isVisible()


def test_a_value_the_design_cannot_take_stays_and_says_why(qtbot: QtBot, window: Window) -> None:
    card, before = window.tank.piece, window.session.design
    type_into(qtbot, card.deep, "-4")
    assert card.deep.text() == "-4"
    assert card.wrong.isVisible()
    assert window.session.design == before


def test_a_hole_off_the_body_is_said_and_nothing_is_lost(qtbot: QtBot, window: Window) -> None:
    card, rest = window.tank.piece, window.session.rest
    type_into(qtbot, card.at_x, "200")
    assert "misses the body" in window.session.fault
    assert window.session.rest == rest
    assert window.session.design.ballast[0].drilling is not None
    assert window.session.design.ballast[0].drilling.place_mm[0] == 200
    grabbed(window.tank.view)
    window.session.undo.undo()
    assert window.session.fault == ""


def test_what_is_typed_counts_after_a_pause(qtbot: QtBot, window: Window) -> None:
    field = window.tank.water.density
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, "0.5")
    qtbot.waitUntil(lambda: window.session.design.body.density_g_ml == 0.5, timeout=60_000)
    assert field.text() == "0.5"


def test_add_resize_and_remove_ballast_from_the_shelf(qtbot: QtBot, window: Window) -> None:
    card, start = window.tank.piece, window.session.design
    card.add_ballast("lead rod 4 mm")
    assert len(window.session.design.ballast) == 2
    assert card.heading.text() == "Belly slug 2"
    settled(window)
    card._stock("egg weight 5 g, lead")
    assert window.session.design.ballast[1].weight.form == "shot"
    type_into(qtbot, card.amount, "2")
    assert of.slip(window.session.study).lines[-4].mass.mass_g != 0
    assert (
        next(x for x in of.holes(window.session.study).ballast if x.ballast.name == "Belly slug 2").weight.mass_g
        == 10.0
    )
    qtbot.mouseClick(card.remove, LEFT)
    assert window.session.design == start


def test_change_hook_wood_and_water(qtbot: QtBot, window: Window) -> None:
    session, card = window.session, window.tank.piece
    number = next(i for i, f in enumerate(session.design.fittings) if f.name.startswith("Tail treble"))
    session.pick(Grip("fitting", number))
    before = pitch(window)
    card._stock("treble, size 2")
    assert session.design.fittings[number].mass_g == pytest.approx(2.15)
    assert pitch(window) > before  # a bigger tail hook pulls the tail down
    window.tank.water._material("balsa, hard")
    assert session.design.body.density_g_ml == pytest.approx(0.23)
    lighter = of.buoyancy(session.study).reserve_g
    window.tank.water._water("sea")
    assert of.buoyancy(session.study).reserve_g > lighter
    type_into(qtbot, window.tank.water.temperature, "50 °F")
    assert session.design.water.temperature_c == pytest.approx(10.0)


def test_plug_side_and_lean(qtbot: QtBot, window: Window) -> None:
    card = window.tank.piece
    card._plug("no plug")
    assert window.session.design.ballast[0].plug is None
    assert len(of.holes(window.session.study).voids) == 1
    card._plug("epoxy")
    type_into(qtbot, card.lean_field, "12")
    assert window.session.design.ballast[0].drilling.lean_deg == 12
    card._side("tail")
    assert window.session.design.ballast[0].drilling.side == "tail"
    assert window.session.fault == ""
    assert card.at_x.isReadOnly()


def test_a_sinker_is_shown_sunk(window: Window) -> None:
    window.tank.water._density(1.3)
    settled(window)
    assert window.session.rest is None
    grabbed(window.tank.view)
    grabbed(window.slip)
    assert window.tank.rests.list.item(0).text() == "None: it sinks."
    assert any(key == "reserve" and "heavy" in words for key, words, *_ in window.slip.rows())


def test_choosing_another_rest_shows_it(qtbot: QtBot, window: Window) -> None:
    # light ballast high in the back: it can lie belly up as well as down
    session = window.session
    window.tank.piece._drill("hole depth", depth_mm=1.0)
    settled(window)
    rests = of.rests(session.study)
    window.tank.rests._show(window.tank.rests.list.item(len(rests) - 1))
    assert session.rest == rests[-1]


@pytest.mark.parametrize("name", ["osier-96", "mill-tail-88"])
def test_other_kinds_draw_and_drag(qtbot: QtBot, open_window: OpenWindow, name: str) -> None:
    window = open_window(name)
    before = pitch(window)
    drag(qtbot, window, Grip("ballast", 0), QPoint(-30, 0))
    assert pitch(window) < before

"""The through-wire: its route, hole and loops, how long to cut it; or screw eyes in its place."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from PySide6.QtWidgets import QHBoxLayout, QMenu

from yellowbob.app.benches.fitout.page import Page
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button, drop
from yellowbob.app.widgets.fields import Choice
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.rows import soft
from yellowbob.app.widgets.tables import fill, table
from yellowbob.design.model import Design, Filler, Wire
from yellowbob.design.names import told_apart
from yellowbob.design.wire_edits import (
    with_bend,
    with_bend_at,
    with_frame,
    with_loop,
    with_new_wire,
    with_screw_eyes,
    with_wire,
    without_bend,
    without_wire,
)
from yellowbob.ground.quantities import show
from yellowbob.shelf.fitting import fitting_from
from yellowbob.shelf.shipped import fillers, hardware, wires
from yellowbob.study import of
from yellowbob.weights.wires import cut_length_mm, of_wire

BLADE_SHARE, BLADE_AT, CLEAR_MM = 0.3, 0.7, 2.0
"""A new frame's blade: its diameter and where it sits, of the body's length; how far clear of the back."""


class WirePage(Page):
    """The through-wire: stock, route, hole, loops; its cut length, mass and centre; or screw eyes in its place."""

    def __init__(self, session: Session) -> None:
        super().__init__("Wire", session)
        self.at = 0
        self.which = Choice("Which wire", [], self._choose)
        self.which.setMinimumWidth(130)
        self.line.addWidget(self.which)
        self.line.addWidget(drop("Add or exchange", self._fill_menu, "Add a wire, or exchange it"))
        self.stock = Choice("Wire from the shelf", list(wires()), self._stock)
        self.route = Choice("Route", ["bored", "grooved", "split"], lambda t: self._set(route=t))
        self.hole = self.field("Hole or groove width", "length", lambda v: self._set(hole_mm=v), 2)
        self.filler = Choice("Closed with", ["air", *fillers()], self._filler)
        self.stock.setMinimumWidth(160)
        self.put(0, 0, "Wire", self.stock)
        self.put(1, 0, "Route", self.route)
        self.put(0, 1, "Hole", self.hole)
        self.put(1, 1, "Closed with", self.filler)
        self.loops: dict[str, tuple[Choice, Any, Any]] = {}
        for number, end in enumerate(("fore", "aft")):
            kind = Choice(f"Loop, {end}", ["none", "wraps", "bound", "welded"], partial(self._loop, end, "kind"))
            inner = self.field(f"Inside of the {end} loop", "length", partial(self._loop, end, "inner_mm"), 1)
            turns = self.field(f"Turns of the {end} loop", "number", partial(self._loop, end, "turns"), 1)
            self.loops[end] = (kind, inner, turns)
            keys = QHBoxLayout()
            keys.setSpacing(8)
            for words, one in (("", kind), ("inside", inner), ("turns", turns)):
                if words:
                    keys.addWidget(soft(words, one))
                keys.addWidget(one)
            self.grid.addWidget(soft(f"Loop, {end}", kind), 2 + number, 0)
            self.grid.addLayout(keys, 2 + number, 1, 1, 3)
        self.grid.setColumnStretch(4, 1)
        self.bend = button("Add a bend", lambda: self.attempt(self.add_bend), "Add a bend to the middle of the wire")
        self.column.addWidget(self.said)
        self.table = table("Path of the wire", ("bend", "from nose", "starboard", "height"))
        self.column.addStretch(1)
        self.table.itemSelectionChanged.connect(self._show_bend)
        self.beside.addWidget(self.table, 1)
        self._make_places()
        session.changed.connect(self.refresh)
        self.refresh()

    def _make_places(self) -> None:
        """Under the table: where the bend that is chosen lies; bends put in and taken out."""
        places = QHBoxLayout()
        self.places = [self.field(f"Bend, {words}", "length", partial(self._place, axis), 1)
                       for axis, words in enumerate(("from nose", "starboard", "height"))]  # fmt: skip
        for one in self.places:
            one.setMaximumWidth(96)
            places.addWidget(one)
        self.unbend = button("Take it out", lambda: self.attempt(self.take_bend_out), "Take the chosen bend out")
        places.addWidget(self.bend)
        places.addWidget(self.unbend)
        self.beside.addLayout(places)

    def _fill_menu(self, menu: QMenu) -> None:
        menu.addAction("Add a wire").triggered.connect(self.add_wire)
        menu.addAction("Add a frame with a blade").triggered.connect(lambda: self.attempt(self.add_frame))
        if self.wire() is not None:
            menu.addAction("Screw eyes instead").triggered.connect(lambda: self.attempt(self.screw_eyes))
            menu.addAction("Take the wire out").triggered.connect(lambda: self.attempt(self.take_out))

    def wire(self) -> Wire | None:
        listed = self.session.design.wires
        return listed[self.at] if self.at < len(listed) else None

    def _choose(self, name: str) -> None:
        self.at = self._names().index(name)
        self.refresh()

    def _names(self) -> list[str]:
        return list(told_apart(w.name for w in self.session.design.wires))

    def refresh(self) -> None:
        names = self._names()
        self.at = min(self.at, max(len(names) - 1, 0))
        wire = self.wire()
        self.which.setVisible(len(names) > 1)
        if [self.which.itemText(n) for n in range(self.which.count())] != names:
            self.which.clear()
            self.which.addItems(names)
        self.which.setCurrentIndex(self.at if names else -1)
        length, mass = Units.of("length"), Units.of("mass")
        for widget in (self.stock, self.route, self.hole, self.filler, self.bend):
            widget.setEnabled(wire is not None)
        if wire is None:
            self.say("No wire in this design.")
            fill(self.table, [])
            self._show_bend()
            return
        self.stock.show_text(next((n for n, s in wires().items() if abs(s.diameter_mm - wire.diameter_mm) < 1e-3), ""))
        self.route.show_text(wire.route)
        self.hole.show_value(wire.bore_mm)
        self.filler.show_text(wire.filler.material if wire.filler else "air")
        for end, (kind, inner, turns) in self.loops.items():
            loop = next((one for one in wire.loops if one.end == end), None)
            kind.show_text(loop.kind if loop else "none")
            inner.show_value(loop.inner_mm if loop else None)
            turns.show_value(loop.turns if loop else None)
            inner.setEnabled(loop is not None)
            turns.setEnabled(loop is not None)
        whole = of_wire(wire)
        self.say(
            f"Cut {show(cut_length_mm(wire), length)} {length}; {show(whole.mass_g, mass)} {mass}, "
            f"centre {show(float(whole.centre_mm[0]), length)} {length} from the nose. Wear glasses when clipping wire."
        )
        row = min(max(self.table.currentRow(), 0), len(wire.path_mm) - 1)
        fill(
            self.table, [[str(n + 1), *(f"{show(c, length)} {length}" for c in p)] for n, p in enumerate(wire.path_mm)]
        )
        self.table.selectRow(row)
        self._show_bend()

    def _show_bend(self) -> None:
        wire, row = self.wire(), self.table.currentRow()
        known = wire is not None and 0 <= row < len(wire.path_mm)
        for axis, field in enumerate(self.places):
            field.setEnabled(known)
            field.show_value(wire.path_mm[row][axis] if wire is not None and known else None)
        self.unbend.setEnabled(wire is not None and known and len(wire.path_mm) > 2)

    def _place(self, axis: int, value: float) -> None:
        wire, row = self.wire(), self.table.currentRow()
        if wire is not None and row >= 0:
            x, y, z = (value if n == axis else c for n, c in enumerate(wire.path_mm[row]))
            self._edit(f"bend {row + 1} moved", lambda d, at: with_bend_at(d, at, row, (x, y, z)))

    def take_bend_out(self) -> None:
        """The chosen bend out of the path."""
        row = self.table.currentRow()
        self._edit(f"bend {row + 1} taken out", lambda d, at: without_bend(d, at, row))

    def take_out(self) -> None:
        """The wire that is shown out of the design."""
        self._edit("wire taken out", without_wire)

    def _edit(self, words: str, make: Callable[[Design, int], Design]) -> None:
        if self.wire() is not None:
            self.session.edit(make(self.session.design, self.at), words)

    def _set(self, **changes: Any) -> None:
        self._edit(f"wire: {', '.join(changes)}", lambda d, at: with_wire(d, at, **changes))

    def _stock(self, name: str) -> None:
        stock = wires()[name]
        self._set(diameter_mm=stock.diameter_mm, material=stock.material, density_g_ml=stock.density_g_ml)

    def _filler(self, name: str) -> None:
        stock = fillers().get(name)
        self._set(filler=Filler(material=stock.name, density_g_ml=stock.density_g_ml) if stock else None)

    def _loop(self, end: str, field: str, value: Any) -> None:
        self._edit(f"wire: {end} loop", lambda d, at: with_loop(d, at, end, **{field: value}))

    def add_wire(self) -> None:
        """A straight wire along the axis, from the tie to past the tail."""
        low, high = of.outer(self.session.study).bounds[:, 0]
        self.at = len(self.session.design.wires)
        self.session.edit(with_new_wire(self.session.design, float(low), float(high)), "add a wire")

    def add_frame(self) -> None:
        """A blade on a frame over the back, aft of the middle and clear of it; the frame is the wire that is shown."""
        low, high = of.outer(self.session.study).bounds
        long, wanted = float(high[0] - low[0]), BLADE_SHARE * float(high[0] - low[0])
        props = [h for h in hardware().values() if h.sort == "prop"]
        item = min(props, key=lambda h: abs((h.diameter_mm or 0.0) - wanted))
        at = (float(low[0]) + BLADE_AT * long, 0.0, float(high[2]) + (item.diameter_mm or 0.0) / 2.0 + CLEAR_MM)
        blade = fitting_from(item, at, item.name)
        new = with_frame(self.session.design, blade, float(low[0]), float(high[0]))
        self.at = len(new.wires) - 1
        self.session.edit(new, "a blade on a frame")

    def add_bend(self) -> None:
        """A bend half-way along the longest stretch."""
        self._edit("add a bend", with_bend)

    def screw_eyes(self) -> None:
        """Take the wire out and put a screw eye where each end of it was."""
        wire = self.wire()
        if wire is None:
            return
        item = next(h for h in hardware().values() if h.sort == "screw eye" and (h.wire_mm or 0) >= wire.diameter_mm)
        eye = fitting_from(item, wire.path_mm[0], "Screw eye")
        self._edit("screw eyes instead of the wire", lambda d, at: with_screw_eyes(d, at, eye))

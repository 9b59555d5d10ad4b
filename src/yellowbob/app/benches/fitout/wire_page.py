"""The through-wire: its route, hole and loops, how long to cut it; or screw eyes in its place."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from PySide6.QtWidgets import QHBoxLayout

from yellowbob.app.benches.fitout.page import Page
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.fields import Choice
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.rows import soft
from yellowbob.app.widgets.tables import fill, table
from yellowbob.design.model import Design, Filler, Wire
from yellowbob.design.wire_edits import with_bend, with_loop, with_new_wire, with_screw_eyes, with_wire
from yellowbob.ground.quantities import show
from yellowbob.shelf.fitting import fitting_from
from yellowbob.shelf.shipped import fillers, hardware, wires
from yellowbob.study import of
from yellowbob.weights.wires import cut_length_mm, of_wire


class WirePage(Page):
    """The through-wire: stock, route, hole, loops; its cut length, mass and centre; or screw eyes in its place."""

    def __init__(self, session: Session) -> None:
        super().__init__(
            "Wire", session, "The path follows the eyes on the drawing; bends along it keep it from turning."
        )
        self.at = 0
        self.line.addWidget(button("Add a wire", self.add_wire))
        self.line.addWidget(button("Screw eyes instead", lambda: self.attempt(self.screw_eyes)))
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
        self.line.addWidget(self.bend)
        self.column.addWidget(self.said)
        self.table = table("Path of the wire", ("bend", "from nose", "starboard", "height"))
        self.column.addStretch(1)
        self.beside.addWidget(self.table)
        session.changed.connect(self.refresh)
        self.refresh()

    def wire(self) -> Wire | None:
        listed = self.session.design.wires
        return listed[self.at] if self.at < len(listed) else None

    def refresh(self) -> None:
        wire = self.wire()
        length, mass = Units.of("length"), Units.of("mass")
        for widget in (self.stock, self.route, self.hole, self.filler, self.bend):
            widget.setEnabled(wire is not None)
        if wire is None:
            self.say("No wire in this design.")
            fill(self.table, [])
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
        fill(
            self.table, [[str(n + 1), *(f"{show(c, length)} {length}" for c in p)] for n, p in enumerate(wire.path_mm)]
        )

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

"""The through-wire: its route, hole and loops, how long to cut it; or screw eyes in its place."""

from __future__ import annotations

from functools import partial
from typing import Any

from PySide6.QtWidgets import QHBoxLayout

from yellowbob.app.benches.fitout.page import Page, fill, table
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.cards import button
from yellowbob.app.widgets.fields import Choice, Units
from yellowbob.design.hardware import Loop
from yellowbob.design.model import Filler, Fitting, Wire, replaced
from yellowbob.ground.quantities import show
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
            for one in (kind, inner, turns):
                keys.addWidget(one)
            from PySide6.QtWidgets import QLabel

            words = QLabel(f"Loop, {end}: kind, inside, turns")
            words.setObjectName("soft")
            self.grid.addWidget(words, 2 + number, 0)
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

    def _put(self, wire: Wire, words: str) -> None:
        listed = list(self.session.design.wires)
        listed[self.at] = wire
        self.session.edit(self.session.design.but(wires=tuple(listed)), words)

    def _set(self, **changes: Any) -> None:
        wire = self.wire()
        if wire is not None:
            self._put(replaced(wire, **changes), f"wire: {', '.join(changes)}")

    def _stock(self, name: str) -> None:
        stock = wires()[name]
        self._set(diameter_mm=stock.diameter_mm, material=stock.material, density_g_ml=stock.density_g_ml)

    def _filler(self, name: str) -> None:
        stock = fillers().get(name)
        self._set(filler=Filler(material=stock.name, density_g_ml=stock.density_g_ml) if stock else None)

    def _loop(self, end: str, field: str, value: Any) -> None:
        changes = {field: value}
        wire = self.wire()
        if wire is None:
            return
        others = tuple(one for one in wire.loops if one.end != end)
        if changes.get("kind") == "none":
            self._set(loops=others)
            return
        old = next((one for one in wire.loops if one.end == end), None)
        base = old.model_dump() if old else {"end": end}
        self._set(loops=(*others, Loop.model_validate(base | changes)))

    def add_wire(self) -> None:
        """A straight wire along the axis, from the tie to past the tail."""
        low, high = of.outer(self.session.study).bounds[:, 0]
        wire = Wire(name=f"Wire {len(self.session.design.wires) + 1}", diameter_mm=1.0,
                    path_mm=((float(low) - 5, 0.0, 0.0), (float(high) + 5, 0.0, 0.0)))  # fmt: skip
        self.at = len(self.session.design.wires)
        self.session.edit(self.session.design.but(wires=(*self.session.design.wires, wire)), "add a wire")

    def add_bend(self) -> None:
        """A bend half-way along the longest stretch."""
        wire = self.wire()
        if wire is None:
            return
        path = list(wire.path_mm)
        longest = max(
            range(len(path) - 1), key=lambda i: sum((a - b) ** 2 for a, b in zip(path[i], path[i + 1], strict=True))
        )
        a, b = path[longest], path[longest + 1]
        middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2 - 2.0)
        self._set(path_mm=(*path[: longest + 1], middle, *path[longest + 1 :]))

    def screw_eyes(self) -> None:
        """Take the wire out and put a screw eye where each end of it was."""
        from yellowbob.shelf.fitting import fitting_from

        wire, design = self.wire(), self.session.design
        if wire is None:
            return
        item = next(h for h in hardware().values() if h.sort == "screw eye" and (h.wire_mm or 0) >= wire.diameter_mm)
        eyes: list[Fitting] = []
        for name, at, aim in (("Screw eye, fore", wire.path_mm[0], 0.0), ("Screw eye, aft", wire.path_mm[-1], 180.0)):
            eyes.append(replaced(fitting_from(item, at, name), aim_deg=aim))
        listed = tuple(w for n, w in enumerate(design.wires) if n != self.at)
        self.session.edit(
            design.but(wires=listed, fittings=(*design.fittings, *eyes)), "screw eyes instead of the wire"
        )
        self.at = 0

"""The card of the selected piece: exact values in any unit, from the shelf or by hand."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QMenu, QWidget

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button, drop
from yellowbob.app.widgets.cards import Card
from yellowbob.app.widgets.fields import Choice
from yellowbob.app.widgets.words import Words
from yellowbob.design.edits import grips, with_added, with_grip, without_grip
from yellowbob.design.model import Ballast, Filler, Fitting, Shot, replaced
from yellowbob.lines.drill import FREE_AXES
from yellowbob.shelf.fitting import ball_mm, ballast_from, hook_from, hook_like, swapped, weight_from
from yellowbob.shelf.shipped import ballast_stock, fillers, hooks
from yellowbob.study import of

PLUG = "epoxy and micro-balloons"

UNPLUGGED = {
    "plug": "no plug", "hammered": "hammered in, no plug", "undercut": "undercut, no plug", "glued": "glued in, no plug",
}  # fmt: skip
"""What keeps a weight in where there is no plug, as it is shown."""


class PieceCard(Card):
    """Fields for the selected ballast or fitting; adding and removing."""

    def __init__(self, session: Session) -> None:
        super().__init__("Nothing selected", session)
        self.choose = drop("Select", self._fill_select, "Select a piece")
        self.add = drop("Add a piece", self._fill_add, "Add a piece")
        self.remove = button("Remove", self._remove, "Remove the selected piece")
        for one in (self.choose, self.add, self.remove):
            self.head.addWidget(one)
        self.stock = Choice("From the shelf", [], self._stock)
        self.amount = self.quantity("Amount", "number", self._amount, 0)
        self.long = self.quantity("Length of the slug", "length", self._long, 2)
        self.mass = self.quantity("Mass", "mass", self._mass, 3)
        self.side = Choice("Drilled from", list(FREE_AXES), self._side)
        self.at_x = self.quantity("From the nose", "length", lambda v: self._place(0, v), 2)
        self.at_y = self.quantity("To starboard", "length", lambda v: self._place(1, v), 2)
        self.at_z = self.quantity("Above the axis", "length", lambda v: self._place(2, v), 2)
        self.diameter = self.quantity(
            "Hole diameter", "length", lambda v: self._drill("hole diameter", diameter_mm=v), 2
        )
        self.deep = self.quantity("Hole depth", "length", lambda v: self._drill("hole depth", depth_mm=v), 2)
        self.lean_field = self.quantity("Lean of the bit", "angle", lambda v: self._drill("lean", lean_deg=v), 1)
        self.plug = Choice("Plug", [*UNPLUGGED.values(), *fillers()], self._plug)
        self._labels: dict[QWidget, QWidget] = {
            self.stock: self.put(0, 0, "Shelf", self.stock),
            self.amount: self.put(1, 0, "Count", self.amount),
            self.long: self.put(1, 0, "Length", self.long),
            self.mass: self.put(2, 0, "Mass", self.mass),
            self.plug: self.put(3, 0, "Plug", self.plug),
            self.side: self.put(0, 1, "From", self.side),
            self.at_x: self.put(1, 1, "From nose", self.at_x),
            self.at_y: self.put(2, 1, "Starboard", self.at_y),
            self.at_z: self.put(3, 1, "Height", self.at_z),
            self.diameter: self.put(1, 2, "Hole Ø", self.diameter),
            self.deep: self.put(2, 2, "Depth", self.deep),
            self.lean_field: self.put(3, 2, "Lean", self.lean_field),
        }
        self.hint = Words("Grab something yellow in the drawing, or choose it by its name: Select.")
        self.grid.addWidget(self.hint, 0, 0, 1, 4)
        self.grid.setColumnStretch(1, 1)
        self.close_up()
        session.changed.connect(self.follow)
        session.picked.connect(self.refresh)
        self.refresh()

    # ---- showing

    def thing(self) -> Ballast | Fitting | None:
        return self.session.piece.of(self.session.design) if self.session.piece else None

    def _show_only(self, *widgets: QWidget) -> None:
        for widget, label in self._labels.items():
            widget.setVisible(widget in widgets)
            label.setVisible(widget in widgets)

    def refresh(self) -> None:
        super().refresh()
        thing = self.thing()
        self.remove.setEnabled(thing is not None)
        self.hint.setVisible(thing is None)
        if thing is None:
            self.heading.setText("Nothing selected")
            self._show_only()
            return
        self.heading.setText(thing.name)
        if isinstance(thing, Ballast):
            self._show_ballast(thing)
        else:
            self._show_fitting(thing)

    def _fill_stock(self, names: list[str], now: str) -> None:
        if [self.stock.itemText(i) for i in range(self.stock.count())] != names:
            self.stock.clear()
            self.stock.addItems(names)
        self.stock.show_text(now or "own")

    def _show_ballast(self, thing: Ballast) -> None:
        shot = isinstance(thing.weight, Shot)
        self._fill_stock(list(ballast_stock()), thing.stock)
        amount = self.amount if shot else self.long
        placed = [self.at_x, self.at_y, self.at_z]
        drilled: list[QWidget] = (
            [self.side, self.plug, self.diameter, self.deep, self.lean_field] if thing.drilling else []
        )
        self._show_only(self.stock, amount, self.mass, *placed, *drilled)
        if isinstance(thing.weight, Shot):
            self.amount.show_value(float(thing.weight.count))
        else:
            self.long.show_value(thing.weight.length_mm)
        holes = of.holes(self.session.study).ballast
        number = self.session.piece.index if self.session.piece else 0
        if number < len(holes):
            self.mass.show_value(holes[number].weight.mass_g)
            hole = holes[number].hole
            place = holes[number].weight.centre_mm if hole is None else hole.mouth_mm
            for field, value in zip(placed, place, strict=True):
                field.show_value(float(value))
        self.mass.setReadOnly(True)
        if thing.drilling is not None:
            for axis, field in enumerate(placed):
                field.setReadOnly(axis not in FREE_AXES[thing.drilling.side])
            self.side.show_text(thing.drilling.side)
            self.diameter.show_value(thing.drilling.diameter_mm)
            self.deep.show_value(thing.drilling.depth_mm)
            self.lean_field.show_value(thing.drilling.lean_deg)
            self.plug.show_text(thing.plug.material if thing.plug else UNPLUGGED[thing.held])

    def _show_fitting(self, thing: Fitting) -> None:
        hook = thing.sort == "hook"
        if hook:
            self._fill_stock(list(hooks()), thing.stock)
        self._show_only(*([self.stock] if hook else []), self.mass, self.at_x, self.at_y, self.at_z)
        self.mass.setReadOnly(False)
        self.mass.show_value(thing.mass_g)
        for field, value in zip((self.at_x, self.at_y, self.at_z), thing.at_mm, strict=True):
            field.setReadOnly(False)
            field.show_value(value)

    # ---- edits

    def _exchange(self, words: str, new: Ballast | Fitting) -> None:
        if self.session.piece is not None:
            self.session.edit(with_grip(self.session.design, self.session.piece, new), words)

    def _stock(self, name: str) -> None:
        thing = self.thing()
        if isinstance(thing, Ballast) and name in ballast_stock():
            stock = ballast_stock()[name]
            was = thing.weight
            amount = 1.0 if stock.form == "shot" else (was.length_mm if not isinstance(was, Shot) else ball_mm(stock))
            weight = weight_from(stock, was.count if isinstance(was, Shot) and stock.form == "shot" else amount)
            changes: dict[str, Any] = {"weight": weight, "stock": name}
            if thing.drilling is not None:
                changes["drilling"] = replaced(thing.drilling, diameter_mm=round(ball_mm(stock) + 0.2, 1))
            self._exchange(f"{thing.name}: {name}", replaced(thing, **changes))
        elif isinstance(thing, Fitting) and name in hooks():
            self._exchange(f"{thing.name}: {name}", swapped(thing, hooks()[name], hook_like(thing, hooks())))

    def _amount(self, value: float) -> None:
        thing = self.thing()
        if isinstance(thing, Ballast) and isinstance(thing.weight, Shot):
            self._exchange(f"{thing.name}: count", replaced(thing, weight=replaced(thing.weight, count=round(value))))

    def _long(self, value: float) -> None:
        thing = self.thing()
        if isinstance(thing, Ballast) and not isinstance(thing.weight, Shot):
            self._exchange(f"{thing.name}: length", replaced(thing, weight=replaced(thing.weight, length_mm=value)))

    def _mass(self, value: float) -> None:
        thing = self.thing()
        if isinstance(thing, Fitting):
            per_gram = thing.volume_ml / thing.mass_g if thing.mass_g else 0.0
            self._exchange(f"{thing.name}: mass", replaced(thing, mass_g=value, volume_ml=per_gram * value))

    def _drill(self, words: str, **changes: float) -> None:
        thing = self.thing()
        if isinstance(thing, Ballast) and thing.drilling is not None:
            self._exchange(f"{thing.name}: {words}", replaced(thing, drilling=replaced(thing.drilling, **changes)))

    def _side(self, side: str) -> None:
        thing = self.thing()
        if not isinstance(thing, Ballast) or thing.drilling is None or self.session.piece is None:
            return
        centre = of.holes(self.session.study).ballast[self.session.piece.index].weight.centre_mm
        place = tuple(float(centre[axis]) for axis in FREE_AXES[side])
        changed = replaced(thing.drilling, side=side, place_mm=place)
        self._exchange(f"{thing.name}: from the {side}", replaced(thing, drilling=changed))

    def _plug(self, name: str) -> None:
        thing = self.thing()
        if isinstance(thing, Ballast):
            stock = fillers().get(name)
            plug = Filler(material=stock.name, density_g_ml=stock.density_g_ml) if stock else None
            held = next((key for key, words in UNPLUGGED.items() if words == name), "plug")
            self._exchange(f"{thing.name}: {name}", replaced(thing, plug=plug, held=held))

    def _place(self, axis: int, value: float) -> None:
        thing, piece = self.thing(), self.session.piece
        if thing is None or piece is None:
            return
        if isinstance(thing, Fitting):
            at = list(thing.at_mm)
            at[axis] = value
            self._exchange(f"place of {thing.name}", replaced(thing, at_mm=tuple(at)))
        elif thing.drilling is not None:
            axes = FREE_AXES[thing.drilling.side]
            if axis in axes:
                place = list(thing.drilling.place_mm)
                place[axes.index(axis)] = value
                self._exchange(
                    f"place of {thing.name}",
                    replaced(thing, drilling=replaced(thing.drilling, place_mm=tuple(place))),
                )
        elif thing.at_mm is not None:
            at = list(thing.at_mm)
            at[axis] = value
            self._exchange(f"place of {thing.name}", replaced(thing, at_mm=tuple(at)))

    def _remove(self) -> None:
        piece, thing = self.session.piece, self.thing()
        if piece is not None and thing is not None:
            self.session.edit(without_grip(self.session.design, piece), f"remove {thing.name}")

    # ---- menus

    def _fill_select(self, menu: QMenu) -> None:
        for piece in grips(self.session.design):
            thing = piece.of(self.session.design)
            if thing is not None:
                menu.addAction(thing.name).triggered.connect(lambda _=False, p=piece: self.session.pick(p))

    def _fill_add(self, menu: QMenu) -> None:
        for group, words in (("shot", "Ballast: shot"), ("slug", "Ballast: rod or wire")):
            sub = menu.addMenu(words)
            for name, stock in ballast_stock().items():
                if stock.form == group:
                    sub.addAction(name).triggered.connect(lambda _=False, n=name: self.add_ballast(n))
        for sort in ("treble", "double", "single", "weedless single"):
            sub = menu.addMenu(f"Hook: {sort}")
            for name, hook in hooks().items():
                if hook.sort == sort:
                    sub.addAction(name).triggered.connect(lambda _=False, n=name: self.add_hook(n))

    def add_ballast(self, name: str) -> None:
        """A weight from the shelf, in the belly at the middle of the body."""
        outer = of.outer(self.session.study)
        x = round(float(outer.moments.centroid_mm[0]), 1)
        self._add(ballast_from(ballast_stock()[name], x, fillers()[PLUG]), name)

    def add_hook(self, name: str) -> None:
        """A hook on the lowest belly point amidships; drag it where it belongs."""
        outer = of.outer(self.session.study)
        x = round(float(outer.moments.centroid_mm[0]), 1)
        z = round(float(outer.bounds[0, 2]) - 2.0, 1)
        self._add(hook_from(hooks()[name], (x, 0.0, z), f"Hook, {name}"), name)

    def _add(self, new: Ballast | Fitting, words: str) -> None:
        design, piece = with_added(self.session.design, new)
        self.session.edit(design, f"add {words}")
        self.session.pick(piece)

"""The card of every cut and piece: a field for each of its figures."""

from __future__ import annotations

from functools import partial
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QMenu,
    QScrollArea,
    QWidget,
)

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button, drop
from yellowbob.app.widgets.cards import Card, explain
from yellowbob.app.widgets.fields import Choice, QuantityField
from yellowbob.app.widgets.measures import Units
from yellowbob.design.corner_edits import own_plan
from yellowbob.design.cut_edits import KINDS, Which, added, exchanged, get, listed, removed
from yellowbob.design.figures import figures_of, kind_of, with_figure
from yellowbob.design.found_stem import by_diameters, diameters_of
from yellowbob.design.model import Piece, replaced
from yellowbob.design.plates import Lip
from yellowbob.design.shape import Turned
from yellowbob.ground.errors import YellowBobError
from yellowbob.lines.plates import lip_plan
from yellowbob.shelf.fitting import of_wood
from yellowbob.shelf.shipped import every_material
from yellowbob.study import of


class CutsCard(Card):
    """Every cut and part by name, with a field for each of its figures."""

    def __init__(self, session: Session) -> None:
        super().__init__("Cuts and parts", session)
        self.which: Which | None = None
        self.add = drop("Add", self._fill_add, "Add a cut or part")
        self.remove = button("Remove", self._remove, "Remove the selected cut or part")
        self.head.addWidget(self.add)
        self.head.addWidget(self.remove)
        line = QHBoxLayout()
        self.list = QListWidget()
        self.list.setAccessibleName("Cuts and parts of the body")
        self.list.setMaximumWidth(88)
        self.list.currentRowChanged.connect(self._choose)
        line.addWidget(self.list)
        self.room = QScrollArea()
        self.room.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.room.setWidgetResizable(True)
        self.room.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        line.addWidget(self.room, 1)
        self.column.addLayout(line, 1)
        self.column.addWidget(self.wrong)
        self._fields: dict[str, QuantityField] = {}
        self._built: tuple[Any, ...] | None = None
        self._along: QLineEdit | None = None
        session.changed.connect(self.follow)
        self.refresh()

    def refresh(self) -> None:
        super().refresh()
        every = listed(self.session.design)
        names = [one.name for _, one in every]
        if [self.list.item(i).text() for i in range(self.list.count())] != names:
            self.list.blockSignals(True)
            self.list.clear()
            self.list.addItems(names)
            self.list.blockSignals(False)
        if self.which is None or self.which not in [which for which, _ in every]:
            self.which = every[0][0] if every else None
        self.remove.setEnabled(self.which is not None)
        if self.which is None:
            self.room.setWidget(QLabel("None yet. Add one:\na face, cup, flat, notch, slot, lip, wing, lump."))
            self._built = None
            return
        self.list.blockSignals(True)
        self.list.setCurrentRow([which for which, _ in every].index(self.which))
        self.list.blockSignals(False)
        one = get(self.session.design, self.which)
        if self._built != self._shown(one):
            self._build(one)
        turned = one.shape if isinstance(one, Piece) and isinstance(one.shape, Turned) else None
        if self._along is not None and turned is not None and not self._along.hasFocus():
            self._along.setText(diameters_of(turned, Units.of("length")))
            self._along.setCursorPosition(0)
        for figure in figures_of(one):
            self._fields[figure.way].show_value(figure.value)

    def _build(self, one: Any) -> None:
        assert self.which is not None
        ground = QWidget()
        grid = QGridLayout(ground)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setVerticalSpacing(3)
        grid.setHorizontalSpacing(4)
        self._fields, self._along = {}, None
        place = 0
        for figure in figures_of(one):
            given = partial(self._set, figure.way, figure.words)
            field = self.quantity(f"{one.name}: {figure.words}", figure.dimension, given, 2)
            field.setMinimumWidth(62)
            field.setMaximumWidth(86)
            label = QLabel(figure.words)
            label.setObjectName("soft")
            grid.addWidget(label, place // 2, 2 * (place % 2))
            grid.addWidget(field, place // 2, 2 * (place % 2) + 1)
            self._fields[figure.way] = field
            place += 1
        place = self._build_more(one, grid, place)
        grid.setRowStretch(place // 2 + 1, 1)
        self.room.setWidget(ground)
        self._built = self._shown(one)

    def _shown(self, one: Any) -> tuple[Any, ...]:
        """What the fields are built for: another one, or one of other figures, needs other fields."""
        return self.which, kind_of(one), tuple(f.way for f in figures_of(one))

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.list.doItemsLayout()  # what was filled before the style sheet came is laid out too close

    def _choose(self, row: int) -> None:
        every = listed(self.session.design)
        if 0 <= row < len(every):
            self.which = every[row][0]
            self.refresh()

    def _build_more(self, one: Any, grid: QGridLayout, place: int) -> int:
        """What is no figure: whether a hollow drains, a lip's plan, a piece's material, whether it stands on both sides."""

        def put(field: QWidget, words: str = "", long: bool = False) -> None:
            """In the next place; a long one in a row of its own."""
            nonlocal place
            place += place % 2 if long else 0
            if words:
                label = QLabel(words)
                label.setObjectName("soft")
                grid.addWidget(label, place // 2, 2 * (place % 2))
            grid.addWidget(field, place // 2, 2 * (place % 2) + 1, 1, 3 if long else 1)
            place += 2 if long else 1

        if kind_of(one) == "shell":
            put(self._tick("drains", "The hollow fills with water", one.drain, "drain"))
        if isinstance(one, Piece):
            if isinstance(one.shape, Lip):
                plan = Choice("Lip plan", ["round", "square", "coffin", "own"], self._lip_plan)
                plan.show_text(one.shape.plan)
                put(plan, "plan", long=True)
            if isinstance(one.shape, Turned):
                self._along = self._diameters(one)
                put(self._along, "Ø along", long=True)
            material = Choice(f"{one.name}: material", sorted(every_material()), self._material)
            material.show_text(one.material.name)
            put(material, "material", long=True)
            tick = self._tick("both sides", "It stands on both sides of the centre plane", one.mirrored, "mirrored")
            put(tick, long=True)
        return place

    def _diameters(self, one: Piece) -> QLineEdit:
        """A found stem by a few diameters."""
        assert isinstance(one.shape, Turned)
        unit = Units.of("length")
        field = QLineEdit(diameters_of(one.shape, unit))
        field.setAccessibleName(f"{one.name}: diameters along it")
        field.setToolTip(
            "place: diameter, from its front, such as 0: 2.0, 40: 2.6; or diameters alone, evenly along it"
        )
        field.setCursorPosition(0)
        field.editingFinished.connect(lambda: self._measured_along(field))
        return field

    def _measured_along(self, field: QLineEdit) -> None:
        piece = get(self.session.design, self.which) if self.which is not None else None
        if self.which is None or not isinstance(piece, Piece) or not isinstance(piece.shape, Turned):
            return
        if field.text() == diameters_of(piece.shape, Units.of("length")):
            return
        try:
            new = replaced(piece, shape=by_diameters(piece.shape, field.text(), Units.of("length")))
            self.session.edit(exchanged(self.session.design, self.which, new), f"{piece.name}: diameters")
            self.complain("")
        except (YellowBobError, ValueError) as error:
            self.complain(explain(error))

    def _tick(self, words: str, name: str, on: bool, way: str) -> QCheckBox:
        made = QCheckBox(words)
        made.setAccessibleName(name)
        made.setChecked(on)
        made.toggled.connect(lambda value: self._set(way, words, value))
        return made

    def _set(self, way: str, words: str, value: float | str | bool) -> None:
        one = get(self.session.design, self.which) if self.which is not None else None
        if self.which is not None and one is not None:
            new = exchanged(self.session.design, self.which, with_figure(one, way, value))
            self.session.edit(new, f"{one.name}: {words}")

    def _material(self, name: str) -> None:
        if self.which is not None and self.which[0] == "part" and get(self.session.design, self.which) is not None:
            number = self.which[1] + 1
            made = of_wood(self.session.design, every_material()[name], number)
            self.session.edit(made, f"{made.pieces[number].name}: {name}")

    def _lip_plan(self, plan: str) -> None:
        """Another plan for the lip; an own one starts from the plan it has and gets corners to drag."""
        if self.which is None:
            return
        piece = get(self.session.design, self.which)
        if piece is None:
            return
        lip = piece.shape
        if plan != "own":
            self._set("shape.plan", "plan", plan)
        elif lip.plan != "own":
            side = [(float(x), float(y)) for x, y in lip_plan(lip) if x >= 0 and y >= 0]
            new = replaced(piece, shape=own_plan(lip, side[:: max(1, len(side) // 6)] + side[-1:]))
            self.session.edit(exchanged(self.session.design, self.which, new), f"{piece.name}: own plan")

    def _fill_add(self, menu: QMenu) -> None:
        for kind, _ in KINDS:
            menu.addAction(kind).triggered.connect(lambda _=False, k=kind: self.add_kind(k))

    def add_kind(self, kind: str) -> None:
        _, beam, depth = of.sizes_mm(self.session.study)[0]
        design, self.which = added(self.session.design, kind, depth, beam)
        self.session.edit(design, f"add a {kind}")

    def _remove(self) -> None:
        one = get(self.session.design, self.which) if self.which is not None else None
        if self.which is not None and one is not None:
            self.session.edit(removed(self.session.design, self.which), f"remove {one.name}")

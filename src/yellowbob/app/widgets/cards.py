"""The cards under the tank: the selected piece, wood and water, and the rests it can take."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.fields import Choice, QuantityField
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.spaced import Spaced
from yellowbob.app.widgets.words import Words
from yellowbob.checks.registry import signed
from yellowbob.design.model import replaced
from yellowbob.ground.errors import YellowBobError
from yellowbob.ground.quantities import show
from yellowbob.ground.units import Dimension
from yellowbob.ground.water import SALINITY_G_KG
from yellowbob.shelf.fitting import of_wood
from yellowbob.shelf.shipped import materials
from yellowbob.study import of

FOLLOW_MS = 60


class Card(QFrame):
    """A titled box; `grid` takes its fields."""

    def __init__(self, title: str, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("card")
        self.setAccessibleName(title)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 8, 14, 8)
        column.setSpacing(5)
        self.heading = QLabel(title)
        self.heading.setObjectName("title")
        self.head = QHBoxLayout()
        self.head.addWidget(self.heading)
        self.head.addStretch(1)
        column.addLayout(self.head)
        self.column = column
        self.grid = QGridLayout()
        self.grid.setHorizontalSpacing(8)
        self.grid.setVerticalSpacing(4)
        column.addLayout(self.grid)
        self.wrong = Words()
        self.wrong.setObjectName("wrong")
        self.wrong.hide()
        self._stale = False
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(FOLLOW_MS)
        self._soon.timeout.connect(self.refresh)

    def follow(self) -> None:
        """Refresh after a change: a hidden card when it is next seen, a seen one a few times a second in a drag."""
        if not self.isVisible():
            self._stale = True
        elif not self.session.dragging:
            self.refresh()
        elif not self._soon.isActive():
            self._soon.start()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if self._stale:
            self.refresh()

    def refresh(self) -> None:
        """Show the design as it is."""
        self._stale = False

    def close_up(self) -> None:
        """Finish the layout: the complaint line and the rest of the room at the bottom."""
        self.column.addWidget(self.wrong)
        self.column.addStretch(1)

    def complain(self, words: str) -> None:
        self.wrong.setText(f"! {words}" if words else "")
        self.wrong.setVisible(bool(words))

    def put(self, row: int, column: int, label: str, widget: QWidget) -> QLabel:
        words = QLabel(label)
        words.setObjectName("soft")
        words.setBuddy(widget)
        self.grid.addWidget(words, row, 2 * column)
        self.grid.addWidget(widget, row, 2 * column + 1)
        return words

    def quantity(
        self, name: str, dimension: Dimension, given: Callable[[float], Any], decimals: int | None = None
    ) -> QuantityField:
        """A field whose accepted value goes to `given`; an edit the design refuses is said in the card."""
        field = QuantityField(name, dimension, decimals)
        field.refused.connect(self.complain)

        def take(value: float) -> None:
            try:
                given(value)
            except (YellowBobError, ValueError) as error:
                field.reject(explain(error))

        field.given.connect(take)
        return field


def explain(error: Exception) -> str:
    """One line of an error, pydantic's included."""
    from pydantic import ValidationError

    from yellowbob.design.files import describe

    if isinstance(error, ValidationError):
        return describe(error, most=1)
    return str(error)


class RestsCard(Card):
    """Every rest it can take; choosing one shows it in the tank."""

    def __init__(self, session: Session) -> None:
        super().__init__("Where it can rest", session)
        self.list = QListWidget()
        self.list.setAccessibleName("Rests")
        self.list.setMinimumHeight(60)
        self.list.setItemDelegate(Spaced(self.list))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.column.addWidget(self.list, 1)
        self.list.itemActivated.connect(self._show)
        self.list.itemClicked.connect(self._show)
        session.arrived.connect(self.refresh)

    def refresh(self) -> None:
        super().refresh()
        self.list.clear()
        unit = Units.of("length")
        rests = self.session.ask(of.rests)
        if not rests:
            self.list.addItem("Looking for its rests …" if rests is None else "None: it sinks.")
            return
        shares, shown = self.session.ask(of.landings), self.session.rest
        for number, rest in enumerate(rests):
            pitch, roll = math.degrees(rest.pitch_rad), math.degrees(rest.roll_rad)
            way = "any side up" if rest.neutral else "belly up" if rest.up[2] < -0.3 else (
                "upright" if abs(roll) < 1 else f"rolled {signed(roll)}°"
            )  # fmt: skip
            draft, gm = show(rest.draft_mm, unit), show(rest.gm_min_mm, unit)
            words = f"{signed(pitch, 1)}°, {way}\ndraft {draft} {unit}\nGM {gm} {unit}"
            if shares is not None:
                words += f"\n{100 * shares.shares[number]:.0f} % land so"
            item = QListWidgetItem(words)
            item.setData(Qt.ItemDataRole.UserRole, number)
            self.list.addItem(item)
            if shown is not None and sum(a * b for a, b in zip(rest.up, shown.up, strict=True)) > 0.9998:
                self.list.setCurrentItem(item)

    def _show(self, item: QListWidgetItem) -> None:
        number = item.data(Qt.ItemDataRole.UserRole)
        if number is not None and self.session.study.knows(of.rests):
            self.session.show_rest(of.rests(self.session.study)[number])


class WoodWaterCard(Card):
    """Material and density of this piece, and the water."""

    def __init__(self, session: Session) -> None:
        super().__init__("Wood and water", session)
        self._thread = ""
        self.material = Choice("Material", sorted(materials()), self._material)
        self.density = self.quantity("Density of this piece", "density", self._density, 3)
        self.water = Choice("Water", list(SALINITY_G_KG), self._water)
        self.temperature = self.quantity("Water temperature", "temperature", self._temperature, 1)
        self.salinity = self.quantity("Salinity, g/kg", "number", self._salinity, 1)
        self.put(0, 0, "Wood", self.material)
        self.put(1, 0, "Density", self.density)
        self.put(2, 0, "Water", self.water)
        pair = QHBoxLayout()
        pair.setSpacing(6)
        pair.addWidget(self.temperature)
        pair.addWidget(self.salinity)
        label = QLabel("°C, salt g/kg")
        label.setObjectName("soft")
        self.grid.addWidget(label, 3, 0)
        self.grid.addLayout(pair, 3, 1)
        self.warmth = self._slider("Cold to warm", (0, 30), lambda v: self._temperature(float(v)), "slide temperature")
        self.salt = self._slider("Fresh to sea", (0, 36), lambda v: self._salinity(float(v)), "slide salt")
        words = QLabel("warm, salt")
        words.setObjectName("soft")
        self.grid.addWidget(words, 4, 0)
        slides = QHBoxLayout()
        slides.setSpacing(14)
        slides.addWidget(self.warmth)
        slides.addWidget(self.salt)
        self.grid.addLayout(slides, 4, 1)
        self.grid.setColumnStretch(1, 1)
        self.close_up()
        session.changed.connect(self.follow)
        self.refresh()

    def refresh(self) -> None:
        super().refresh()
        design = self.session.design
        self.material.show_text(design.body.material.name)
        self.density.show_value(design.body.density_g_ml)
        self.water.show_text(design.water.name)
        self.temperature.show_value(design.water.temperature_c)
        own = design.water.salinity_g_kg
        salt = SALINITY_G_KG[design.water.name] if own is None else own
        for slider, value in ((self.warmth, design.water.temperature_c), (self.salt, salt)):
            slider.blockSignals(True)
            slider.setValue(round(value))
            slider.blockSignals(False)
        self.salinity.show_value(salt)

    def _slider(self, name: str, span: tuple[int, int], given: Callable[[int], None], thread: str) -> QSlider:
        made = QSlider(Qt.Orientation.Horizontal)
        made.setRange(*span)
        made.setFixedHeight(24)
        made.setAccessibleName(name)
        made.setToolTip(name)

        def slid(value: int) -> None:
            self._thread = thread
            self.session.dragging = made.isSliderDown()
            given(value)
            self._thread = ""

        def let_go() -> None:
            self.session.dragging = False
            self.session.end_thread()
            self.follow()

        made.valueChanged.connect(slid)
        made.sliderReleased.connect(let_go)
        return made

    def _set_water(self, words: str, **changes: Any) -> None:
        design = self.session.design
        self.session.edit(design.but(water=replaced(design.water, **changes)), words, self._thread)

    def _material(self, name: str) -> None:
        known = materials().get(name)
        if known is not None:
            self.session.edit(of_wood(self.session.design, known), name)

    def _density(self, value: float) -> None:
        design = self.session.design
        self.session.edit(design.of_material(density_g_ml=value, measured=False, density_u_g_ml=None), "density")

    def _water(self, name: str) -> None:
        self._set_water(f"{name} water", name=name, salinity_g_kg=None)

    def _temperature(self, value: float) -> None:
        self._set_water("water temperature", temperature_c=value)

    def _salinity(self, value: float) -> None:
        self._set_water("salinity", salinity_g_kg=value)

"""Fields that read what a maker types, in any unit, and keep it in place when it cannot be read."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QContextMenuEvent, QEnterEvent, QKeyEvent, QPaintEvent
from PySide6.QtWidgets import (
    QComboBox,
    QLineEdit,
    QStyleOptionComboBox,
    QStylePainter,
)

from yellowbob.app.session.instruments import Instruments
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.usual import hover_of
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import READ_UNITS, read_quantity, show
from yellowbob.ground.units import CORE_UNIT, Dimension

TYPED_PAUSE_MS = 900
"""What is typed counts after this pause, or on Enter or leaving the field."""


class QuantityField(QLineEdit):
    """A number with its unit. Emits `given` with the core's value (mm, g, g/mL, degrees, °C) once it is readable."""

    given = Signal(float)
    refused = Signal(str)
    cleared = Signal()

    def __init__(self, name: str, dimension: Dimension, decimals: int | None = None) -> None:
        super().__init__()
        self.dimension, self.decimals = dimension, decimals
        self.setAccessibleName(name)
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.setMinimumWidth(80)
        self._value: float | None = None
        self._hover = hover_of(name)
        self.setToolTip(self._hover)
        self.may_be_empty = False
        """whether no value is a value: then `cleared` says that it was taken out"""
        self._touched = False
        self._instruments: Instruments | None = None
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._pause.setInterval(TYPED_PAUSE_MS)
        self._pause.timeout.connect(lambda: self.take(final=False))
        self.textEdited.connect(self._typed)
        self.editingFinished.connect(self.take)

    @property
    def value(self) -> float | None:
        """The value last accepted, in the core's unit."""
        return self._value

    def show_value(self, value: float | None) -> None:
        """Show a value, unless the maker is typing here."""
        if self._touched and self.hasFocus():
            return
        self._value, self._touched = value, False
        self._mark(False)
        text = "" if value is None else self._text(value)
        if text != self.text():
            self.setText(text)

    def _text(self, value: float) -> str:
        unit = Units.of(self.dimension)
        if self.dimension in READ_UNITS:
            decimals = self.decimals if unit in ("mm", "g") else None
            return f"{show(value, unit, decimals)} {unit}"
        number = f"{value:.{2 if self.decimals is None else self.decimals}f}".replace("-", "−")
        shown = {"deg": "°", "degC": " °C", "": ""}.get(unit, f" {unit}")
        return number + shown

    def _typed(self) -> None:
        self._touched = True
        self._pause.start()

    def take(self, final: bool = True) -> None:
        """Read the text now. What cannot be read stays, marked; `refused` says why when the maker has finished."""
        self._pause.stop()
        if not self._touched:
            return
        if self.may_be_empty and not self.text().strip():
            self._touched = not final
            self._mark(False)
            self.refused.emit("")
            if self._value is not None:
                self._value = None
                self.cleared.emit()
            return
        try:
            value = read_quantity(self.text().replace("−", "-"), self.dimension, Units.of(self.dimension))
        except BadInput as error:
            if final:
                self._mark(True)
                self.refused.emit(str(error))
            return
        self._mark(False)
        if final:
            self._touched = False
        self.refused.emit("")
        before = self._value
        if before is None or abs(value - before) > 1e-9:
            self._value = value
            self.given.emit(value)
            if self.property("wrong"):  # whoever took it has refused it
                self._value = before
                return
        if final and self._value is not None:
            self.setText(self._text(self._value))

    def reject(self, why: str) -> None:
        """Mark a readable value that the design cannot take; the text stays."""
        self._touched = True
        self._mark(True)
        self.refused.emit(why)

    @property
    def can_read(self) -> bool:
        """Whether a scale or callipers can fill this field."""
        return self.dimension in ("mass", "length") and not self.isReadOnly()

    def take_reading(self) -> None:
        """Ask the scale or the callipers; a failed reading is said and the field keeps its value."""
        if not self.can_read:
            return
        if self._instruments is None:
            self._instruments = Instruments(self)
            self._instruments.taken.connect(self._read)
            self._instruments.failed.connect(self.refused)
        self.refused.emit("")
        self._instruments.ask("mass" if self.dimension == "mass" else "length")

    def _read(self, value: float) -> None:
        self.setText(f"{value:.3f} {CORE_UNIT[self.dimension]}")
        self._touched = True
        self.take()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = self.createStandardContextMenu()
        if self.can_read:
            menu.addSeparator()
            menu.addAction("Take reading\tF2").triggered.connect(self.take_reading)
        menu.popup(event.globalPos())

    def _mark(self, wrong: bool) -> None:
        if self.property("wrong") != wrong:
            self.setProperty("wrong", wrong)
            self.style().polish(self)
        name = self.accessibleName()
        self.setAccessibleDescription(f"{name}: cannot be read" if wrong else "")

    def enterEvent(self, event: QEnterEvent) -> None:
        """What it is and what is usual, in the units read now; a tip of its own stays."""
        if not self.toolTip() or self.toolTip() == self._hover:
            self._hover = hover_of(self.accessibleName())
            self.setToolTip(self._hover)
        super().enterEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self._touched:
            self._touched = False
            self.show_value(self._value)
            self.refused.emit("")
            return
        if event.key() == Qt.Key.Key_F2 and self.can_read:
            self.take_reading()
            return
        super().keyPressEvent(event)


class Choice(QComboBox):
    """A list to choose from; tells `chosen` only for what the maker picks."""

    def __init__(self, name: str, items: list[str], chosen: Callable[[str], None]) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setToolTip(name)
        self.addItems(items)
        self.setMinimumWidth(104)
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.textActivated.connect(chosen)

    def paintEvent(self, _: QPaintEvent) -> None:
        """Text that is wider than the field ends in dots; the whole of it is its tip then."""
        option = QStyleOptionComboBox()
        self.initStyleOption(option)
        style = self.style()
        box = style.subControlRect(
            style.ComplexControl.CC_ComboBox, option, style.SubControl.SC_ComboBoxEditField, self
        )
        text = self.fontMetrics().elidedText(option.currentText, Qt.TextElideMode.ElideRight, box.width() - 4)
        tip = self.accessibleName() if text == option.currentText else f"{self.accessibleName()}: {option.currentText}"
        if tip != self.toolTip():
            self.setToolTip(tip)
        option.currentText = text
        painter = QStylePainter(self)
        painter.drawComplexControl(style.ComplexControl.CC_ComboBox, option)
        painter.drawControl(style.ControlElement.CE_ComboBoxLabel, option)

    def show_text(self, text: str) -> None:
        at = self.findText(text)
        if at < 0 and text:
            self.insertItem(0, text)
            at = 0
        self.setCurrentIndex(at)


class NumberField(QLineEdit):
    """A plain number with its one unit, for what no maker writes in several: a speed, an angle, a count."""

    valueChanged = Signal(float)

    def __init__(
        self, name: str, span: tuple[float, float], value: float, unit: str = "", decimals: int = 0, blank: str = ""
    ) -> None:
        """`blank`: what stands there for the least of the span, and is understood as that."""
        super().__init__()
        self.span, self.unit, self.decimals, self.blank = span, unit, decimals, blank
        self._value = value
        self.setAccessibleName(name)
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.setMinimumWidth(80)
        self.editingFinished.connect(self._take)
        self._show()

    def value(self) -> float:
        """The number last accepted."""
        return self._value

    def setValue(self, value: float) -> None:
        """Take a number within the span, and say so where it differs."""
        changed = value != self._value
        self._value = value
        self._show()
        if changed:
            self.valueChanged.emit(value)

    def _show(self) -> None:
        self._mark("")
        plain = f"{self._value:.{self.decimals}f} {self.unit}".strip()
        self.setText(self.blank if self.blank and self._value == self.span[0] else plain)

    def _take(self) -> None:
        if self.blank and self.text().strip() in (self.blank, ""):
            self.setValue(self.span[0])
            return
        typed = self.text().removesuffix(self.unit).strip().replace(",", ".").replace("−", "-")
        try:
            value = float(typed)
        except ValueError:
            self._mark(f"'{typed}' is no number")
            return
        if not self.span[0] <= value <= self.span[1]:
            self._mark(f"{value:g}: give {self.span[0]:g} to {self.span[1]:g} {self.unit}".strip())
            return
        self.setValue(value)

    def _mark(self, why: str) -> None:
        self.setToolTip(why or hover_of(self.accessibleName()))
        self.setProperty("wrong", "true" if why else "false")
        self.style().unpolish(self)
        self.style().polish(self)

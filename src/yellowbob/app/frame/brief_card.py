"""The brief: what it is for and how it should sit. A card that can be turned over from any bench."""

from __future__ import annotations

from functools import partial
from typing import Any, get_args

from PySide6.QtWidgets import QLineEdit, QWidget

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.cards import Card
from yellowbob.app.widgets.fields import Choice, NumberField, QuantityField
from yellowbob.app.widgets.rows import row
from yellowbob.app.widgets.usual import hover_of
from yellowbob.design.model import Kind, Span, replaced
from yellowbob.ground.errors import BadInput
from yellowbob.ground.units import Dimension

SPANS: tuple[tuple[str, str, Dimension], ...] = (
    ("pitch_deg", "Sits, nose up", "angle"),
    ("draft_mm", "Draft", "length"),
    ("mass_g", "Finished mass", "mass"),
    ("tackle_g", "The rod throws", "mass"),
)


class BriefCard(Card):
    """Words and wanted ranges; an empty pair asks nothing."""

    def __init__(self, session: Session) -> None:
        super().__init__("Brief", session)
        self.name = self._words("Name", lambda t: self._design("name", name=t))
        self.kind = Choice("Kind", list(get_args(Kind)), lambda t: self._design("kind", kind=t))
        self.purpose = self._words("Purpose", lambda t: self._brief("purpose", purpose=t))
        self.fish = self._words("Fish", lambda t: self._brief("fish", fish=t))
        self.put(0, 0, "Name", self.name)
        self.put(0, 1, "Kind", self.kind)
        self.put(1, 0, "For", self.purpose)
        self.put(1, 1, "Fish", self.fish)
        self.setMaximumHeight(236)
        self.spans: dict[str, tuple[QuantityField, QuantityField]] = {}
        for number, (key, words, dimension) in enumerate(SPANS):
            pair = (
                self.quantity(f"{words}, least", dimension, partial(self._span, key, 0), 1),
                self.quantity(f"{words}, most", dimension, partial(self._span, key, 1), 1),
            )
            self.spans[key] = pair
            between = QWidget()
            line = row(pair[0], "to", pair[1])
            line.setContentsMargins(0, 0, 0, 0)
            between.setLayout(line)
            self.put(2 + number // 2, number % 2, words, between)
        self.speeds = [
            NumberField(f"Drawn, {end}; 0 for the usual speeds", (0.0, 6.0), 0.0, "m/s", 2, "usual")
            for end in ("least", "most")
        ]
        between = QWidget()
        line = row(self.speeds[0], "to", self.speeds[1])
        line.setContentsMargins(0, 0, 0, 0)
        between.setLayout(line)
        self.put(2 + (len(SPANS) + 1) // 2, 0, "Drawn at", between)
        for field in self.speeds:
            field.valueChanged.connect(lambda _: self._speeds())
        self.grid.setColumnStretch(1, 1)
        self.grid.setColumnStretch(3, 1)
        self.close_up()
        session.changed.connect(self.follow)
        self.refresh()

    def _words(self, name: str, given: Any) -> QLineEdit:
        field = QLineEdit()
        field.setAccessibleName(name)
        field.setToolTip(hover_of(name))
        field.setMaxLength(80)

        def take() -> None:
            try:
                given(field.text().strip())
                self.complain("")
            except ValueError:
                self.complain(f"{name}: type at least one letter")

        field.editingFinished.connect(take)
        return field

    def refresh(self) -> None:
        super().refresh()
        design = self.session.design
        for field, text in (
            (self.name, design.name),
            (self.purpose, design.brief.purpose),
            (self.fish, design.brief.fish),
        ):
            if not field.hasFocus():
                field.setText(text)
        self.kind.show_text(design.kind)
        for key, (least, most) in self.spans.items():
            span: Span | None = getattr(design.brief, key)
            least.show_value(span.least if span else None)
            most.show_value(span.most if span else None)
        wanted = design.brief.speed_m_s
        for field, value in zip(self.speeds, (wanted.least, wanted.most) if wanted else (0.0, 0.0), strict=True):
            if not field.hasFocus():
                field.blockSignals(True)
                field.setValue(value)
                field.blockSignals(False)

    def _speeds(self) -> None:
        """Both ends typed make a range; both 0 the usual speeds."""
        least, most = (field.value() for field in self.speeds)
        now = self.session.design.brief.speed_m_s
        if most < least:
            if most > 0.0:
                self.complain(f"from {least:g} to {most:g} m/s: put the smaller figure first")
            return
        span = Span(least=least, most=most) if most > 0.0 else None
        if span != now:
            self.complain("")
            self._brief("speeds", speed_m_s=span)

    def _design(self, words: str, **changes: Any) -> None:
        self.session.edit(self.session.design.but(**changes), words)

    def _brief(self, words: str, **changes: Any) -> None:
        design = self.session.design
        self.session.edit(design.but(brief=replaced(design.brief, **changes)), f"brief: {words}")

    def _span(self, key: str, end: int, value: float) -> None:
        span: Span | None = getattr(self.session.design.brief, key)
        ends = [span.least, span.most] if span else [value, value]
        ends[end] = value
        if ends[0] > ends[1]:
            raise BadInput(f"from {ends[0]:g} to {ends[1]:g}: put the smaller figure first")
        self._brief(key, **{key: Span(least=ends[0], most=ends[1])})

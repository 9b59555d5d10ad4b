"""The cards under the Fit-out drawing: how a piece hangs, what comes too close."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QMenu, QWidget

from yellowbob.app.benches.fitout.view import FitoutView
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import drop
from yellowbob.app.widgets.cards import Card
from yellowbob.app.widgets.fields import Choice
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.theme import Look
from yellowbob.design.edits import Grip, with_added, with_grip
from yellowbob.design.model import Fitting, replaced
from yellowbob.fitout.clearances import Clearance
from yellowbob.ground.quantities import show
from yellowbob.shelf.fitting import dressed, fitting_from
from yellowbob.shelf.shipped import dressings, hardware
from yellowbob.study import of

HANGS = ("hanging", "fixed")
BARE = "none"


class HangCard(Card):
    """How the selected fitting is set: hanging or fixed, its aim, sizes, blades; hardware added from the shelf."""

    def __init__(self, session: Session) -> None:
        super().__init__("How it is set", session)
        self.add = drop("Add hardware", self._fill_add, "Add hardware")
        self.head.addWidget(self.add)
        self.hangs = Choice("Hanging or fixed", list(HANGS), self._hangs)
        self.aim = self.quantity("Points along, 0 aft, 90 up", "angle", lambda v: self._set("aim", aim_deg=v), 1)
        self.point = Choice("Point of a fixed hook", ["down", "up"], lambda t: self._set("point", point=t))
        self.long = self.quantity(
            "Length along the wire or into the wood", "length", lambda v: self._set("length", long_mm=v)
        )
        self.leader = self.quantity("Length of the leader", "length", lambda v: self._set("leader", reach_mm=v), 0)
        self.span = self.quantity("Gape, diameter or width", "length", lambda v: self._set("span", span_mm=v))
        self.play = self.quantity("Play on the wire", "length", lambda v: self._set("play", play_mm=v))
        self.blade = self.quantity("Blade angle", "angle", lambda v: self._set("blade angle", blade_deg=v), 0)
        self.hand = Choice("Hand of the blades", ["right", "left"], lambda t: self._set("hand", hand=t))
        self.dressing = Choice("Dressing tied on the hook", [BARE, *dressings()], self._dress)
        self._rows: tuple[tuple[str, QWidget, tuple[str, ...]], ...] = (
            ("Set", self.hangs, ("hook", "ring", "swivel")),
            ("Aim", self.aim, ("hook", "ticker", "screw eye", "grommet", "sleeve", "lip")),
            ("Point", self.point, ("hook",)),
            ("Dressing", self.dressing, ("hook",)),
            ("Length", self.long, ("prop", "bead", "washer", "screw eye", "sleeve", "grommet")),
            ("Leader", self.leader, ("jig",)),
            ("Span", self.span, ("hook", "ring", "prop", "blade", "ticker", "bead", "washer")),
            ("Play", self.play, ("prop",)),
            ("Blades", self.blade, ("prop", "blade")),
            ("Hand", self.hand, ("prop", "blade")),
        )
        self._labels = [self.put(n % 4, n // 4, words, field) for n, (words, field, _) in enumerate(self._rows)]
        self.grid.setColumnStretch(1, 1)
        self.grid.setColumnStretch(3, 1)
        self.close_up()
        session.changed.connect(self.follow)
        session.picked.connect(self.refresh)
        self.refresh()

    def thing(self) -> Fitting | None:
        piece = self.session.piece
        found = piece.of(self.session.design) if piece is not None else None
        return found if isinstance(found, Fitting) else None

    def refresh(self) -> None:
        super().refresh()
        thing = self.thing()
        for label, (_, field, sorts) in zip(self._labels, self._rows, strict=True):
            seen = thing is not None and thing.sort in sorts
            label.setVisible(seen)
            field.setVisible(seen)
        self.heading.setText("How it is set" if thing is not None else "No fitting selected")
        if thing is None:
            return
        self.hangs.show_text(HANGS[0] if thing.hanging else HANGS[1])
        self.aim.setEnabled(not thing.hanging)
        self.point.setEnabled(not thing.hanging)
        self.aim.show_value(thing.aim_deg)
        self.point.show_text(thing.point)
        self.dressing.show_text(thing.dressing.stuff if thing.dressing is not None else BARE)
        self.long.show_value(thing.long_mm)
        self.span.show_value(thing.span_mm)
        self.leader.show_value(thing.reach_mm)
        self.play.show_value(thing.play_mm)
        self.blade.show_value(thing.blade_deg)
        self.hand.show_text(thing.hand)

    def _hangs(self, text: str) -> None:
        self._set("hanging or fixed", hanging=text == HANGS[0])

    def _dress(self, name: str) -> None:
        thing = self.thing()
        if thing is not None and name != (thing.dressing.stuff if thing.dressing is not None else BARE):
            self._set("dressing", dressing=dressed(thing, dressings().get(name)).dressing)

    def _set(self, words: str, **changes: Any) -> None:
        thing, piece = self.thing(), self.session.piece
        if thing is not None and piece is not None:
            new = replaced(thing, **changes)
            self.session.edit(with_grip(self.session.design, piece, new), f"{thing.name}: {words}")

    def _fill_add(self, menu: QMenu) -> None:
        tie = menu.addAction("Line tie")
        tie.triggered.connect(lambda: self.add_plain("tie", "Line tie"))
        menu.addAction("Jig on a leader").triggered.connect(self.add_jig)
        menu.addAction("Hanger").triggered.connect(lambda: self.add_plain("eye", "Hanger"))
        groups: dict[str, QMenu] = {}
        for name, item in hardware().items():
            sub = groups.setdefault(
                item.sort, menu.addMenu(item.sort) if item.sort not in groups else groups[item.sort]
            )
            sub.addAction(name).triggered.connect(lambda _=False, n=name: self.add_hardware(n))

    def _place(self) -> tuple[float, float, float]:
        """Where a new piece goes: the selected one's place, else the lowest belly amidships."""
        thing = self.thing()
        if thing is not None:
            return thing.at_mm
        outer = of.outer(self.session.study)
        return (round(float(outer.moments.centroid_mm[0]), 1), 0.0, round(float(outer.bounds[0, 2]) - 2.0, 1))

    def add_plain(self, sort: str, name: str) -> None:
        """A line tie at the nose, or a hanger, as a place alone: the wire or a screw eye carries the mass."""
        nose = float(of.outer(self.session.study).bounds[0, 0])
        at = (round(nose - 4.0, 1), 0.0, 0.0) if sort == "tie" else self._place()
        self._add(Fitting.model_validate({"name": name, "sort": sort, "at_mm": at, "mass_g": 0.0, "span_mm": 3.0}))

    def add_jig(self) -> None:
        """A jig of 3 g of lead on a leader: it pulls at its eye, and swings clear of what is on the body."""
        self._add(
            Fitting(
                name="Jig",
                sort="jig",
                at_mm=self._place(),
                mass_g=3.0,
                volume_ml=3.0 / 11.34,
                hanging=True,
                reach_mm=300.0,
            )
        )

    def add_hardware(self, name: str) -> None:
        self._add(fitting_from(hardware()[name], self._place(), name))

    def _add(self, new: Fitting) -> None:
        design, piece = with_added(self.session.design, new)
        self.session.edit(design, f"add {new.name}")
        self.session.pick(piece)


class ClearanceCard(Card):
    """Everything that can touch something else, worst first; choosing one shows it."""

    chosen = Signal()

    def __init__(self, session: Session, view: FitoutView) -> None:
        super().__init__("Clearances", session)
        self.view = view
        self.list = QListWidget()
        self.list.setAccessibleName("Clearances, worst first")
        self.list.setMinimumHeight(60)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.column.addWidget(self.list, 1)
        self.list.currentRowChanged.connect(self._show)
        self._rows: list[Clearance] = []
        session.changed.connect(self.follow)
        session.arrived.connect(self._arrived)
        self.refresh()

    def _arrived(self, asked: object) -> None:
        if asked is of.clearances:
            self.refresh()

    def refresh(self) -> None:
        super().refresh()
        if self.session.fault or not self.isVisible():
            self._stale = True
            return
        unit = Units.of("length")
        found = self.session.ask(of.clearances)
        if found is None:
            self.heading.setText("Clearances …")
            return
        self._rows = sorted(found, key=lambda c: (c.clear, c.distance_mm))
        wrong = sum(not c.clear for c in self._rows)
        self.heading.setText(f"Clearances: {wrong} too close" if wrong else "Clearances: all clear")
        self.list.blockSignals(True)
        self.list.clear()
        for c in self._rows:
            item = QListWidgetItem(
                f"{'' if c.clear else '! '}{c.kind}  {show(c.distance_mm, unit)} {unit}\n{c.one} – {c.other}"
            )
            if not c.clear:
                item.setForeground(QColor(Look.now.bad))
            self.list.addItem(item)
        self.list.blockSignals(False)

    def _show(self, at: int) -> None:
        if 0 <= at < len(self._rows):
            self.view.shown = self._rows[at]
            names = [f.name for f in self.session.design.fittings]
            if self._rows[at].one in names:
                self.session.pick(Grip("fitting", names.index(self._rows[at].one)))
            self.view.look_again()

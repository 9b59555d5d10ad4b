"""Load: where the line holds, what hangs on it, the shot that brings the tip to its mark; what jig a dropper holds up."""

from __future__ import annotations

import math
from typing import Any, get_args

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QLabel, QListWidget, QListWidgetItem, QMenu, QVBoxLayout

from yellowbob.afloat.line import submerged_g
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button, drop
from yellowbob.app.widgets.fields import Choice, NumberField, QuantityField
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.paged import CardPage
from yellowbob.app.widgets.rows import labelled, row
from yellowbob.app.widgets.words import Words
from yellowbob.design.base import replaced
from yellowbob.design.rig import Hung, Rig
from yellowbob.ground.errors import YellowBobError
from yellowbob.ground.quantities import show
from yellowbob.shelf.shipped import ballast_stock, hooks
from yellowbob.study import of
from yellowbob.trials.dropper import dropper
from yellowbob.trials.shotting import Shotted, shotted, with_shot

HOLDS: tuple[str, ...] = get_args(Rig.model_fields["holds"].annotation)
BAITS = {"maggot": 0.03, "worm": 0.6, "bread": 0.5, "corn": 0.35, "prawn": 2.5}
"""Baits by mass in air, g, at a little over the density of water: rules."""
BAIT_G_ML = 1.08


class LoadPage(CardPage):
    """The line and what hangs on it."""

    def __init__(self, session: Session) -> None:
        super().__init__("Load", session)
        self.holds = Choice("The line holds", list(HOLDS), lambda t: self._set("line", holds=t))
        self.tip = self._field("Tip to show", "length", lambda v: self._set("tip", tip_mm=v))
        self.pull = self._field("Line pulls at, from the body's front", "length", self._pull)
        self.list = QListWidget()
        self.list.setAccessibleName("What hangs on the line, in the order it registers")
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setWordWrap(True)
        self.add = drop("Add", self._fill_add, "Add to the line")
        self.one_less = button("One less", self._one_less, "One less of the selected, or none of it")
        self.shot = button("Shot it to its tip", self.find_shot, "Find the shot that brings the tip to its mark")
        self.says = Words()
        self.says.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.says.setAccessibleName("What it carries")
        self.words = self.aside = ""
        self.lean = NumberField("How far the line pulls from straight down", (0.0, 90.0), 0.0, "°", 0, "straight down")
        self.speed = NumberField("Drawn along by its front end", (0.0, 6.0), 0.0, "m/s", 2, "not drawn")
        for one in (self.lean, self.speed):
            one.valueChanged.connect(lambda _: self.pull_aside())
        self._lay_out()
        session.changed.connect(self._changed)
        session.arrived.connect(self._arrived)

    def _field(self, name: str, dimension: Any, given: Any) -> QuantityField:
        field = QuantityField(name, dimension, None)
        field.given.connect(given)
        field.refused.connect(self._refuse)
        return field

    def _lay_out(self) -> None:
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 8, 12, 8)
        line.setSpacing(18)
        left = QVBoxLayout()
        title = QLabel("The line")
        title.setObjectName("title")
        left.addWidget(title)
        self.holds.setMinimumWidth(150)
        left.addLayout(labelled(("Holds", self.holds), ("Pulls at", self.pull), ("Tip to show", self.tip)))
        left.addStretch(1)
        line.addLayout(left, 3)
        middle = QVBoxLayout()
        keys = QHBoxLayout()
        for one in (self.add, self.one_less, self.shot):
            keys.addWidget(one)
        keys.addStretch(1)
        middle.addLayout(keys)
        middle.addWidget(self.list, 1)
        line.addLayout(middle, 5)
        right = QVBoxLayout()
        right.addLayout(row("It leans", self.lean, "drawn at", self.speed))
        right.addWidget(self.says, 1)
        line.addLayout(right, 5)

    # ---- showing

    def rig(self) -> Rig:
        """The line as it is; an empty one where the design has none."""
        return self.session.design.rig or Rig()

    def _arrived(self, asked: object) -> None:
        if asked is of.carried and self.isVisible():
            self.refresh()

    def _changed(self) -> None:
        self.words = self.aside = ""
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Show the line of the design as it is."""
        session, rig, mass = self.session, self.rig(), Units.of("mass")
        self.holds.show_text(rig.holds)
        self.tip.show_value(rig.tip_mm)
        self.list.clear()
        if session.fault:
            self.says.setText(session.fault)
            return
        self.pull.show_value(of.line_at(session.study)[0])
        water = 1000.0 * of.water_density(session.study)
        for one in rig.hung:
            pull = one.count * submerged_g(one.mass_g, one.density_g_ml, water)
            self.list.addItem(
                QListWidgetItem(
                    f"{one.count} × {one.name}: {show(one.count * one.mass_g, mass)} {mass}, "
                    f"in water {show(pull, mass)} {mass}"
                )
            )
        self.one_less.setEnabled(bool(rig.hung))
        self._say()

    def _say(self) -> None:
        session, mass, unit = self.session, Units.of("mass"), Units.of("length")
        load = of.line_load_g(session.study)
        lines = [f"<b>{show(load, mass, 3)} {mass}</b> hang on it, weighed under water"]
        carried = session.ask(of.carried)
        if carried is not None:
            off = carried.load_g - load
            way = "more would bring" if off >= 0 else "too much to leave"
            lines.append(
                f"{show(abs(off), mass, 3)} {mass} {way} the tip {'to' if off >= 0 else 'at'} "
                f"{show(carried.tip_mm, unit)} {unit}"
            )
        if session.design.kind == "dropper":
            lines += self._dropper_lines()
        lines += [words for words in (self.aside, self.words) if words]
        self.says.setText("<br>".join(lines))

    def _dropper_lines(self) -> list[str]:
        mass = Units.of("mass")
        try:
            found = dropper(self.session.study)
        except YellowBobError as error:
            return [str(error)]
        held = ", ".join(f"{show(g, mass)} {mass} of {name}" for name, g in found.heaviest_g.items())
        return [f"holds up a jig of {held}", *(f"! {words}" for words in found.warnings)]

    def pull_aside(self) -> None:
        """What it does where its line leans, or where it is drawn along, under what hangs on it: off the interface's
        thread."""
        lean, speed, unit = self.lean.value(), self.speed.value(), Units.of("length")
        self.aside = ""
        self._say()
        if self.session.fault or (lean == 0.0 and speed == 0.0):
            return
        study = self.session.apart()

        def work(_: Told) -> str:
            from yellowbob.trials.aslant import aslant, drawn_home

            load, told = of.line_load_g(study), []
            if lean > 0.0:
                trim = aslant(study, load, lean).trim
                pitch = math.degrees(trim.pitch_rad)
                told.append(f"leaning {lean:.0f}° it sits {pitch:z.0f}°, with {trim.speed_m_s:.2f} m/s past it")
            if speed > 0.0:
                found = drawn_home(study, max(load, 0.0), speed)[1]
                how = found.ends
                if found.trims:
                    sits = found.trims[0]
                    how = f"sits {math.degrees(sits.pitch_rad):z.0f}°, draft {show(sits.draft_mm, unit)} {unit}"
                told.append(f"drawn at {speed:.2f} m/s it {how}")
            return "<br>".join(told) + " (an estimate)"

        def take(words: str) -> None:
            self.aside = words
            self._say()

        self.session.tasks.start("aslant", work, take, lambda w: take(f"! {w}"), words="pulling it aslant")

    def _refuse(self, words: str) -> None:
        self.says.setText(f"! {words}" if words else "")
        if not words:
            self.refresh()

    # ---- edits

    def _set(self, words: str, **changes: Any) -> None:
        try:
            self.session.edit(self.session.design.but(rig=replaced(self.rig(), **changes)), f"line: {words}")
        except YellowBobError as error:
            self._refuse(str(error))

    def _pull(self, x_mm: float) -> None:
        _, y, z = of.line_at(self.session.study)
        self._set("where it pulls", at_mm=(x_mm, y, z))

    def _hang(self, one: Hung) -> None:
        hung = self.rig().hung
        same = next((k for k, h in enumerate(hung) if replaced(h, count=1) == replaced(one, count=1)), None)
        if same is None:
            self._set(one.name, hung=(*hung, one))
        else:
            more = replaced(hung[same], count=hung[same].count + one.count)
            self._set(one.name, hung=(*hung[:same], more, *hung[same + 1 :]))

    def _one_less(self) -> None:
        hung, at = self.rig().hung, max(self.list.currentRow(), 0)
        if not hung:
            return
        at = min(at, len(hung) - 1)
        left = (replaced(hung[at], count=hung[at].count - 1),) if hung[at].count > 1 else ()
        self._set(f"less {hung[at].name}", hung=(*hung[:at], *left, *hung[at + 1 :]))

    def _fill_add(self, menu: QMenu) -> None:
        shot: QMenu = menu.addMenu("Shot")
        for item in (i for i in ballast_stock().values() if i.form == "shot" and i.name.startswith("split shot")):
            one = Hung(name=item.name, stock=item.name, mass_g=item.mass_g or 1.0, density_g_ml=item.density_g_ml)
            shot.addAction(item.name).triggered.connect(lambda _=False, h=one: self._hang(h))
        hook: QMenu = menu.addMenu("Hook")
        for fish in (h for h in hooks().values() if h.sort == "single" and not h.dressed):
            one = Hung(name=fish.name, stock=fish.name, role="hook", mass_g=fish.mass_g, density_g_ml=fish.density_g_ml)
            hook.addAction(fish.name).triggered.connect(lambda _=False, h=one: self._hang(h))
        bait: QMenu = menu.addMenu("Bait")
        for name, grams in BAITS.items():
            one = Hung(name=name, role="bait", mass_g=grams, density_g_ml=BAIT_G_ML)
            bait.addAction(f"{name}, {grams:g} g").triggered.connect(lambda _=False, h=one: self._hang(h))

    def find_shot(self) -> None:
        """Look for the shot off the interface's thread, and put it on the line."""
        study = self.session.apart()

        def look(_: Told) -> Shotted:
            return shotted(study)

        self.says.setText("Trying every combination of the shot …")
        self.session.tasks.start("shot", look, self._take_shot, self._refuse, words="trying shot")

    def _take_shot(self, found: Shotted) -> None:
        mass = Units.of("mass")
        chosen = found.handy or found.shot
        self.session.edit(with_shot(self.session.design, found), "shot it to its tip")
        self.words = f"{found.words_of(chosen)}: {show(chosen.left_g, mass, 3)} {mass} left to trim."
        if found.labels:
            self.words += f" Write on it: {found.labels[0]}."
        if any(s.material == "lead" and n for s, n in zip(found.stock, chosen.counts, strict=True)):
            self.words += " Lead: look up the local rule."
        self.refresh()

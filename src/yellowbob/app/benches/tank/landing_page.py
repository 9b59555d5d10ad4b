"""Landings: the rest map, the righting arm beside it, and the throws."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QGridLayout, QHBoxLayout, QLabel, QVBoxLayout

from yellowbob.afloat.immersion import height_for_mass
from yellowbob.afloat.rest import up_from
from yellowbob.afloat.righting import Righting, level_axis, righting
from yellowbob.app.benches.tank.player import Player
from yellowbob.app.benches.tank.poser import Poser
from yellowbob.app.benches.tank.rest_map import RestMapView
from yellowbob.app.session import follower
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.charts import Chart
from yellowbob.app.widgets.fields import Choice, QuantityField
from yellowbob.app.widgets.paged import CardPage
from yellowbob.app.widgets.theme import Look
from yellowbob.app.widgets.words import Words
from yellowbob.ballast.pose import Pose
from yellowbob.ground.units import Dimension
from yellowbob.study import of

Array = NDArray[np.float64]

AXES = {"roll": 0.0, "pitch": 90.0, "askew, 45°": 45.0}


class RightingCurve(Chart):
    """GZ against angle about a level axis, from the rest shown."""

    told = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__("Righting arm", "no rest to right to")
        self.session = session
        self.setMinimumSize(190, 120)
        self.bearing_rad = 0.0
        self.curve: Righting | None = None
        self._asked: tuple[object, ...] = ()

    def refresh(self) -> None:
        """Have it for the rest shown, worked out off the interface's thread; `told` says when."""
        rest, study = self.session.rest, self.session.study
        asked = (study, rest, self.bearing_rad, self.session.fault, Look.now)
        if asked == self._asked:
            return
        self.curve, self._asked = None, asked
        if rest is None or self.session.fault:
            self.say_empty()
            self.told.emit()
            return
        afloat, up, bearing = of.afloat(study), rest.up, self.bearing_rad

        def work(_: Told) -> Righting:
            return righting(afloat, up, level_axis(up, bearing))

        self.session.tasks.start(
            "righting",
            work,
            self._draw,
            lambda _: self.say_empty(),
            words="righting it",
            patience_s=follower.PATIENCE_S,
        )

    def _draw(self, found: Righting) -> None:
        self.curve = found
        self.told.emit()
        self.begin("heel °", "GZ mm")
        degrees = np.degrees(found.angles_rad)
        inside = found.angles_rad <= found.range_rad
        self.filled(degrees[inside], found.arms_mm[inside], Look.now.water_top)
        self.line(degrees, found.arms_mm, Look.now.water_ink)
        self.line([0.0, 180.0], [0.0, 0.0], Look.now.line)
        self.getPlotItem().getAxis("bottom").setTicks([[(d, f"{d:.0f}") for d in (0, 60, 120, 180)]])

    def words(self) -> str:
        if self.curve is None:
            return ""
        return (
            f"comes back from up to {math.degrees(self.curve.range_rad):.0f}°, "
            f"most {float(self.curve.arms_mm.max()):.1f} mm, area {self.curve.area_mm_rad:.1f} mm·rad"
        )


class LandingPage(CardPage):
    """Where a landing ends, what rights it, and trying it by throwing."""

    def __init__(self, session: Session, poser: Poser) -> None:
        super().__init__("Landings", session)
        self.poser = poser
        self.map = RestMapView(session)
        self.curve = RightingCurve(session)
        self.player = Player(session)
        self.axis = Choice("Axis of the righting arm", list(AXES), self._turn)
        self.says = Words()
        self.says.setObjectName("soft")
        self.tallied = QLabel()
        self.tallied.setAccessibleName("Tally of throws")
        self.bearing = QuantityField("Bearing of the axis, 0 along the body, 90 across", "angle", 0)
        self.bearing.setMinimumWidth(52)
        self.bearing.setMaximumWidth(64)
        self.bearing.show_value(0.0)
        self.bearing.given.connect(self._bear)
        self.height_field = self._field("Height of the throw", "length", self.player.height_mm, self._height)
        self.pitch = self._field("Pitch of the throw", "angle", 60.0, lambda _: None)
        self.roll = self._field("Roll of the throw", "angle", 170.0, lambda _: None)
        self.as_set = button("Throw it so", self._throw_as_set)
        self.once = button("At random", self._throw)
        self.over = button("Again and again", self._over)
        self.over.setCheckable(True)
        self.turn = button("Turn it over by hand", self._turn_over)
        self.hold = button("Pause", self._hold)
        self.hold.setCheckable(True)
        self.halt = button("Stop", self._stop)
        self.slow = QCheckBox("slow")
        self.slow.toggled.connect(self._slow)
        self.curve.told.connect(lambda: self.says.setText(self.curve.words()))
        self._lay_out()
        self.map.pointed.connect(self._point)
        self.map.left.connect(lambda: self.session.show_posture(None) if not self.poser.posing else None)
        self.map.posed.connect(self._pose)
        self.player.tallied.connect(self._tell_tally)
        self.player.failed.connect(lambda words: self.tallied.setText(f"! {words}"))
        session.arrived.connect(self._follow)

    def _field(self, name: str, dimension: Dimension, value: float, given: Callable[[float], None]) -> QuantityField:
        made = QuantityField(name, dimension, 0)
        made.show_value(value)
        made.given.connect(given)
        made.refused.connect(lambda text: self.tallied.setText(f"! {text}" if text else ""))
        return made

    def _lay_out(self) -> None:
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 8, 12, 8)
        line.setSpacing(14)
        one = QVBoxLayout()
        one.setSpacing(2)
        title = QLabel("Where a landing ends")
        title.setObjectName("title")
        top = QHBoxLayout()
        top.addWidget(title)
        top.addStretch(1)
        top.addWidget(self.tallied)
        one.addLayout(top)
        one.addWidget(self.map, 1)
        line.addLayout(one, 9)
        two = QVBoxLayout()
        two.setSpacing(2)
        head = QHBoxLayout()
        words = QLabel("Righting arm")
        words.setObjectName("title")
        head.addWidget(words)
        head.addStretch(1)
        head.addWidget(self.axis)
        head.addWidget(self.bearing)
        two.addLayout(head)
        two.addWidget(self.curve, 1)
        two.addWidget(self.says)
        line.addLayout(two, 3)
        three = QVBoxLayout()
        three.setSpacing(4)
        name = QLabel("Throw it in")
        name.setObjectName("title")
        three.addWidget(name)
        grid = QGridLayout()
        grid.setHorizontalSpacing(6)
        grid.setVerticalSpacing(4)
        for row, (text, field) in enumerate((("From", self.height_field), ("Pitch", self.pitch), ("Roll", self.roll))):
            label = QLabel(text)
            label.setObjectName("soft")
            label.setBuddy(field)
            grid.addWidget(label, row, 0)
            grid.addWidget(field, row, 1)
            field.setMinimumWidth(64)
            field.setMaximumWidth(78)
        grid.addWidget(self.slow, 3, 1)
        for row, key in enumerate((self.as_set, self.once, self.over, self.turn)):
            grid.addWidget(key, row, 2)
        foot = QHBoxLayout()
        foot.addWidget(self.hold)
        foot.addWidget(self.halt)
        grid.addLayout(foot, 4, 2)
        three.addLayout(grid)
        three.addStretch(1)
        line.addLayout(three, 0)

    # ---- what it shows

    def refresh(self) -> None:
        self.curve.refresh()
        self.map.update()

    def _follow(self) -> None:
        if self.isVisible():
            self.refresh()

    def _turn(self, name: str) -> None:
        self.bearing.show_value(AXES[name])
        self._bear(AXES[name])

    def _bear(self, degrees: float) -> None:
        self.curve.bearing_rad = math.radians(degrees)
        self.refresh()

    def _point(self, pitch: float, roll: float) -> None:
        """The lure shows the attitude pointed at, afloat there."""
        if self.poser.posing or self.player.playing or self.session.rest is None:
            return
        up = up_from(pitch, roll)
        afloat = of.afloat(self.session.study)
        self.session.hold_at(up, height_for_mass(afloat, up, afloat.mass_g))

    def _pose(self, pitch: float, roll: float) -> None:
        mass = of.slip(self.session.study).finished.mass_g
        if self.poser.posing:
            self.poser.take(Pose(pitch, roll, mass_g=mass))
        else:
            self.poser.begin(Pose(pitch, roll, mass_g=mass))

    # ---- throws

    def _height(self, value: float) -> None:
        if not 0.0 <= value <= 5000.0:
            self.height_field.reject("between 0 and 5 m; a rod's tip is 2 m up")
            return
        self.player.height_mm = value

    def _throw_as_set(self) -> None:
        """From the height and at the attitude in the fields."""
        self._stop()
        self.poser.end()
        self.player.throw(math.radians(self.pitch.value or 0.0), math.radians(self.roll.value or 0.0))

    def _throw(self) -> None:
        """At random."""
        self.poser.end()
        self.player.again = False
        self.over.setChecked(False)
        self.hold.setChecked(False)
        self.player.throw_at_random()

    def _turn_over(self) -> None:
        """The commonest bench test: laid on its back and let go, it must come back."""
        self._stop()
        self.poser.end()
        self.player.throw(0.05, math.pi - 0.05, by_hand=True)

    def _over(self) -> None:
        self.poser.end()
        self.player.again = self.over.isChecked()
        if self.player.again and not self.player.playing:
            self.player.throw_at_random()

    def _hold(self) -> None:
        self.player.pause(self.hold.isChecked())

    def _stop(self) -> None:
        self.over.setChecked(False)
        self.hold.setChecked(False)
        self.player.stop()

    def _slow(self, slow: bool) -> None:
        self.player.slow = slow

    def _tell_tally(self) -> None:
        counts, rests = self.player.counts, of.rests(self.session.study)
        total = sum(counts.values()) + self.player.restless
        lines = [
            f"{count} of {total} at {math.degrees(rests[k].pitch_rad):z.0f}°, roll {math.degrees(rests[k].roll_rad):z.0f}°"
            for k, count in sorted(counts.items()) if k < len(rests)
        ]  # fmt: skip
        if self.player.restless:
            lines.append(f"{self.player.restless} not at rest")
        self.tallied.setText("; ".join(lines))

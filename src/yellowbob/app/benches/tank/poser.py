"""Pose it: the lure itself dragged to how it should sit, and what that asks of the ballast drawn where it must lie."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QObject, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPen

from yellowbob.app.session import follower
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.theme import Look, colour, font
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.lines.picture import View
from yellowbob.study import of

if TYPE_CHECKING:
    from yellowbob.ballast.pose import Pose
    from yellowbob.trials.ballasting import Ballasting

Array = NDArray[np.float64]

END_SHARE = 0.3
"""Dragging the outer so much of its length tilts it; the middle raises and lowers it."""
STEEPEST_RAD = math.radians(88.0)
NOTHING_G = 1e-6
NUDGE_DEG, NUDGE_MM = 0.1, 0.1


class Poser(QObject):
    """The pose in hand, if any. `changed` when it, or what it asks, is another; `refused` with the reason it cannot be."""

    changed = Signal()
    refused = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.work: Ballasting | None = None
        self._design = session.design
        self._grab: tuple[str, QPointF] | None = None
        self._by_hand = False
        session.changed.connect(self._follow)

    @property
    def posing(self) -> bool:
        return self.work is not None

    def begin(self, pose: Pose | None = None, then: Callable[[], object] = lambda: None) -> None:
        """Start from how it sits now, or from a pose, off the interface's thread; `then` is called when it has begun. Why it
        cannot be is said."""
        from yellowbob.ballast.pose import Pose
        from yellowbob.trials.ballasting import ballasting

        session, rest = self.session, self.session.rest
        if session.fault:
            return
        if pose is None:
            if rest is not None and rest.up[2] > 0.05 and abs(rest.roll_rad) < 0.3:
                pose = Pose(rest.pitch_rad, mass_g=of.slip(session.study).finished.mass_g)
            else:
                pose = Pose(0.0, mass_g=0.6 * of.buoyancy(session.study).lift_g)
        design, before, asked = session.design, session.apart(), pose

        def taken(found: Ballasting) -> None:
            if session.design is design:
                self.work, self._design = found, design
                self._show()
                then()

        self._ask(lambda: ballasting(design, asked, before=before), taken)

    def once_posing(self, then: Callable[[], object]) -> None:
        """Do something while posing; where nothing is posed yet, it is begun first."""
        if self.posing:
            then()
        else:
            self.begin(then=then)

    def _ask(self, work: Callable[[], Ballasting], taken: Callable[[Ballasting], None]) -> None:
        """At once under a hand that drags or holds a key, which would be ahead of it before it came; else soon."""

        def done() -> Ballasting:
            try:
                return work()
            except ValueError as error:
                raise BadInput(str(error)) from None

        if not (self.session.dragging or self._by_hand):
            self.session.tasks.start(
                "pose", lambda _: done(), taken, self.refused.emit, words="posing it", patience_s=follower.PATIENCE_S
            )
            return
        try:
            taken(done())
        except YellowBobError as error:
            self.refused.emit(str(error))

    def end(self) -> None:
        """Leave posing; the tank shows the rest again."""
        self.session.tasks.stop("pose")
        if self.work is not None:
            self.work = None
            self._grab = None
            self.session.show_posture(None)
            self.changed.emit()

    def _follow(self) -> None:
        """Another design under the pose: the pose is asked of that one."""
        if self.work is None or self.session.design is self._design or self.session.fault:
            return
        self.begin(self.work.pose)

    def take(self, pose: Pose) -> None:
        """Ask another pose of the same build; a refused one leaves the last."""
        from yellowbob.trials.ballasting import followed

        before = self.work
        if before is None:
            self.begin(pose)
            return

        def taken(found: Ballasting) -> None:
            if self.work is before:
                self.work = found
                self.refused.emit("")
                self._show()

        self._ask(lambda: followed(before, pose), taken)

    def _show(self) -> None:
        assert self.work is not None
        water = self.work.posed.water
        self.session.hold_at(water.up, water.height_mm)
        self.changed.emit()

    # ---- what is wanted, one at a time

    def tilt(self, pitch_rad: float) -> None:
        """Another tilt, the finished mass kept; a build with nothing in it yet gets the lightest mass that holds it."""
        from yellowbob.ballast.pose import Pose
        from yellowbob.trials.ballasting import lightest_that_holds

        assert self.work is not None
        pitch = max(-STEEPEST_RAD, min(STEEPEST_RAD, pitch_rad))
        mass = self.work.posed.total_g
        if abs(self.work.posed.ballast_g) < NOTHING_G:
            mass = lightest_that_holds(self.work.bare, pitch)
        self.take(Pose(pitch, self.work.pose.roll_rad, mass_g=mass))

    def sink_to(self, draft_mm: float) -> None:
        """Another waterline, the tilt kept."""
        from yellowbob.ballast.pose import Pose

        assert self.work is not None
        self.take(Pose(self.work.pose.pitch_rad, self.work.pose.roll_rad, draft_mm=draft_mm))

    def weigh(self, mass_g: float) -> None:
        """Another finished mass, the tilt kept."""
        from yellowbob.ballast.pose import Pose

        assert self.work is not None
        self.take(Pose(self.work.pose.pitch_rad, self.work.pose.roll_rad, mass_g=mass_g))

    def nudge(self, right: float, up: float) -> bool:
        """Arrow keys: right and left tilt by 0.1°, up and down by 0.1 mm of draft. False when nothing is posed."""
        if self.work is None:
            return False
        self._by_hand = True
        if right:
            self.tilt(self.work.pose.pitch_rad + math.radians(NUDGE_DEG * right))
        if up:
            self.sink_to(self.work.posed.draft_mm - NUDGE_MM * up)
        self._by_hand = False
        return True

    # ---- hands

    def press(self, at: QPointF, view: View) -> bool:
        """Grab the lure: by an end to tilt it, by the middle to raise it. False when not posing or beside it."""
        if self.work is None:
            return False
        mesh = of.whole(self.session.study)
        across = (mesh.vertices - view.place) @ view.right
        high = (mesh.vertices - view.place) @ view.up
        x, y = (at.x() - view.origin[0]) / view.scale, (view.origin[1] - at.y()) / view.scale
        slack = 8.0 / view.scale
        if not (across.min() - slack < x < across.max() + slack and high.min() - slack < y < high.max() + slack):
            return False
        share = (x - across.min()) / max(float(np.ptp(across)), 1e-6)
        way = "tilt" if share < END_SHARE or share > 1 - END_SHARE else "sink"
        self._grab = (way, at)
        self.session.dragging = True
        return True

    def move(self, at: QPointF, view: View) -> bool:
        """Follow the hand; False when nothing is grabbed."""
        if self._grab is None or self.work is None:
            return False
        way, last = self._grab
        self._grab = (way, at)
        if way == "sink":
            self.sink_to(self.work.posed.draft_mm + (at.y() - last.y()) / view.scale)
            return True
        middle = QPointF(*view.pixels(self.work.posed.water.centre_mm))
        one = math.atan2(last.y() - middle.y(), last.x() - middle.x())
        two = math.atan2(at.y() - middle.y(), at.x() - middle.x())
        turn = (two - one + math.pi) % (2 * math.pi) - math.pi
        # the bow lies to the left: a turn clockwise on the screen brings it up
        self.tilt(self.work.pose.pitch_rad + turn)
        return True

    def release(self) -> None:
        if self._grab is not None:
            self._grab = None
            self.session.dragging = False

    # ---- painting

    def paint(self, painter: QPainter, view: View) -> None:
        """The line on which the ballast's centre must lie: dashed in the body, in the grab colour where it is free."""
        work = self.work
        if work is None or work.posed.ballast_g <= 0:
            return
        now, posed = Look.now, work.posed
        for low, high in work.locus.in_body:
            painter.setPen(QPen(colour(now.ink), 1.4, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(*view.pixels(posed.place(low))), QPointF(*view.pixels(posed.place(high))))
        for stretch in work.locus.stretches:
            ends = (
                QPointF(*view.pixels(posed.place(stretch.low_mm))),
                QPointF(*view.pixels(posed.place(stretch.high_mm))),
            )
            for tone, wide in ((now.grab_edge, 8.0), (now.grab, 5.0)):
                pen = QPen(colour(tone), wide)
                pen.setCapStyle(Qt.PenCapStyle.RoundCap)
                painter.setPen(pen)
                painter.drawLine(*ends)
        best = work.locus.best
        if best is not None:
            at = QPointF(*view.pixels(posed.place(best.low_mm)))
            size = max(4.0, work.locus.radius_mm * view.scale)
            painter.setPen(QPen(colour(now.grab_edge), 1.6))
            painter.setBrush(colour(now.grab, 150))
            painter.drawEllipse(at, size, size)
        b = QPointF(*view.pixels(posed.water.centre_mm))
        painter.setPen(QPen(colour(now.water_ink), 2))
        painter.setBrush(colour(now.card))
        painter.drawEllipse(b, 4, 4)
        painter.setFont(font(8.5, True))
        painter.drawText(QRectF(b.x() + 7, b.y() - 8, 16, 16), Qt.AlignmentFlag.AlignCenter, "B")

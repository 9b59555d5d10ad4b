"""How the window looks and reads: colours, units, whether the next step is told."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QStackedWidget, QWidget

from yellowbob.app.frame.header import Header
from yellowbob.app.frame.slip_panel import SlipPanel
from yellowbob.app.frame.taken_in import TakesFiles
from yellowbob.app.frame.verdict_line import VerdictLine
from yellowbob.app.session.session import Session
from yellowbob.app.session.settings import Settings
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.theme import DAY, EVENING, Look, apply_theme
from yellowbob.app.widgets.turns import hold, in_a_turn, let_paint, painted_apart
from yellowbob.study import of

UNIT_SETS = {"mm and g": ("mm", "g"), "inches and ounces": ("in", "oz"), "mm and grains": ("mm", "gr")}


class HasLooks(TakesFiles):
    """A window whose looks can be turned, and are remembered."""

    session: Session
    settings: Settings
    benches: QStackedWidget
    header: Header
    slip: SlipPanel
    verdict: VerdictLine

    def parts(self) -> list[QWidget]:
        """What the window is made of as it is now, each painted by itself."""
        return [self.header, self.slip, self.verdict, *self.bench_parts()]

    def bench_parts(self) -> list[QWidget]:
        """Those of the bench that is shown."""
        direct = Qt.FindChildOption.FindDirectChildrenOnly
        bench = self.benches.currentWidget()
        inner = [] if bench is None else bench.findChildren(QWidget, options=direct)
        return [part for part in inner if not part.isHidden()]

    def turn_steps(self) -> None:
        """Tell the next step on the slip, or not."""
        on = not self.slip.steps
        self.slip.show_steps(on)
        self.settings.put("steps", "on" if on else "off")

    def turn_colours(self) -> None:
        """Day or evening."""
        theme = EVENING if Look.now is DAY else DAY
        parts = hold(self.parts())  # or the largest would be painted with each of the next turns
        app = QApplication.instance()
        if isinstance(app, QApplication):
            apply_theme(app, theme)
        self._dress_message()
        self.settings.put("theme", "evening" if theme is EVENING else "day")
        self.update()
        in_a_turn(self, partial(self._draw_anew, parts))

    def _draw_anew(self, parts: list[QWidget]) -> None:
        """Charts and marked rows take their colours when they are drawn."""
        self.session.changed.emit()
        in_a_turn(self, partial(self._freshen, parts))

    def _freshen(self, parts: list[QWidget]) -> None:
        """The page that is seen, in the colours of now."""
        paged = getattr(self.benches.currentWidget(), "paged", None)
        let_paint(self, parts)
        if paged is not None:
            paged.freshen()

    def next_units(self) -> None:
        """The next set of units."""
        names = list(UNIT_SETS)
        now = (Units.chosen["length"], Units.chosen["mass"])
        at = next((i for i, name in enumerate(names) if UNIT_SETS[name] == now), -1)
        self.use_units(names[(at + 1) % len(names)])

    def use_units(self, name: str) -> None:
        """Read everything in another set of units."""
        Units.chosen["length"], Units.chosen["mass"] = UNIT_SETS[name]
        self.settings.put("units", name)
        with painted_apart(self, self.parts()):
            self.session.changed.emit()
        self.session.want(of.rests)
        self.say(f"Reading in {name}.")

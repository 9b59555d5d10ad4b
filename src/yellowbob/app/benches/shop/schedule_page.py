"""Schedule: when each coat goes on, over the hours there are; as a calendar."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from pathlib import Path
from zoneinfo import ZoneInfo

from PySide6.QtCore import QTimeZone
from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QLineEdit, QMenu, QVBoxLayout

from yellowbob.app.benches.shop.list_pages import ShopPage
from yellowbob.app.benches.shop.stock import Stock
from yellowbob.app.benches.shop.timeline import Timeline
from yellowbob.app.benches.shop.view import ShopView
from yellowbob.app.session.session import Session
from yellowbob.app.session.timers import told
from yellowbob.app.widgets.buttons import button, drop
from yellowbob.app.widgets.fields import NumberField
from yellowbob.app.widgets.rows import labelled, row
from yellowbob.app.widgets.tables import fill, table
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.shop.schedule import Plan, calendar_of, hours_of, layers_of, schedule, zoned


def own_zone() -> str:
    """The zone of this desk, by name; UTC where it has none that is known."""
    name = bytes(QTimeZone.systemTimeZoneId().data()).decode()
    try:
        ZoneInfo(name)
    except (ValueError, OSError, KeyError):
        return "UTC"
    return name


class SchedulePage(ShopPage):
    """Start, hours, copies, turning places, warmth; every coat in order of time."""

    def __init__(self, session: Session, view: ShopView, drawn: Timeline, stock: Stock) -> None:
        super().__init__("Schedule", session, view, "When it is ready")
        self.plan: Plan | None = None
        self.drawn, self.stock = drawn, stock
        self.zone = own_zone()
        evening = datetime.now(ZoneInfo(self.zone)) + timedelta(days=1)
        self.start = self._line("Start, such as 2026-03-27T18:00", f"{evening:%Y-%m-%d}T18:00")
        self.hours = self._line("Working hours of each day, such as 18:00-22:00", "18:00-22:00")
        self.copies = NumberField("Copies", (1.0, 200.0), 1.0)
        self.places = NumberField("Places on the turner", (1.0, 50.0), 2.0)
        self.warm = NumberField("Temperature of the shop or warm box", (5.0, 60.0), 20.0, "°C")
        self.damp = NumberField("Humidity of its air", (5.0, 95.0), 50.0, "%")
        for one in (self.copies, self.places, self.warm, self.damp):
            one.setMinimumWidth(48)
            one.valueChanged.connect(lambda _: self.refresh())
        self.save = button("Save calendar …", self.ask_calendar, "Save the plan as an .ics calendar")
        self.table = table("Coats in order of time", ("when", "no.", "coat", "turner"))
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addLayout(labelled(("Start", self.start), ("Hours", self.hours)))
        left.addSpacing(6)
        left.addLayout(row("Copies", self.copies, "turner", self.places, "shop", self.warm, self.damp))
        left.addSpacing(6)
        keys = QHBoxLayout()
        keys.addWidget(self.save)
        keys.addWidget(button("Start timer", self.start_timer, "Start a timer for the selected coat: until it has set"))
        keys.addWidget(drop("Timers", self._fill_timers, "Timers that run"))
        left.addLayout(keys)
        self.lay_out(left, self.table, 5)

    def _line(self, name: str, text: str) -> QLineEdit:
        field = QLineEdit(text)
        field.setAccessibleName(name)
        field.setToolTip(name)
        field.editingFinished.connect(self.refresh)
        return field

    def refresh(self) -> None:
        """Lay every coat anew."""
        self.plan = None
        fill(self.table, [])
        self.save.setEnabled(False)
        self.view.show_things(None, ())
        try:
            layers, says = layers_of(self.session.design, self.warm.value(), self.damp.value())
            start, hours = zoned(self.start.text(), self.zone), hours_of(self.hours.text())
            self.stock.put_start(start, hours)
            self.plan = schedule(layers, int(self.copies.value()), int(self.places.value()), start, hours, says)
        except YellowBobError as error:
            self.says.setText(f"! {error}")
            self.drawn.show_plan(None, str(error))
            return
        self.drawn.show_plan(self.plan)
        zone = ZoneInfo(self.zone)
        rows = []
        for task in self.plan.tasks:
            turner = "" if task.place is None else f"place {task.place + 1} until {task.set_at.astimezone(zone):%H:%M}"
            rows.append([f"{task.begins.astimezone(zone):%a %d %b %H:%M}", f"{task.copy + 1}", task.name, turner])
        fill(self.table, rows)
        last = max(self.plan.ready).astimezone(zone)
        guessed = f" ! {self.plan.says[0]}." if self.plan.says else ""
        self.says.setText(
            f"All cured {last:%a %d %b %H:%M}; {self.plan.hands_min / 60:.1f} h of hands. Data sheets decide.{guessed}"
        )
        self.save.setEnabled(True)

    def start_timer(self) -> None:
        """A timer for the selected coat from now on, until it has set."""
        if self.plan is None:
            return
        task = self.plan.tasks[max(self.table.currentRow(), 0)]
        name = f"{self.session.design.name} {task.copy + 1}, {task.name}"
        self.session.timers.start(name, task.set_at - task.ends)
        self.session.said.emit(f"Timer: {self.session.timers.words()}.")

    def _fill_timers(self, menu: QMenu) -> None:
        running = self.session.timers.running
        for name, ends in running:
            words = f"Stop: {told(name, ends, datetime.now(UTC))}"
            menu.addAction(words).triggered.connect(lambda _=False, n=name: self.session.timers.stop(n))
        if not running:
            menu.addAction("None runs").setEnabled(False)

    def ask_calendar(self) -> None:
        start = f"{self.session.design.name}.ics"
        name, _ = QFileDialog.getSaveFileName(self, "Save the calendar", start, "Calendars (*.ics)")
        if name:
            self.save_calendar(Path(name))

    def save_calendar(self, path: Path) -> None:
        """Write the plan as a calendar."""
        if self.plan is None:
            return
        plan, name = self.plan, self.session.design.name

        def work() -> None:
            try:
                path.write_bytes(calendar_of(plan, name))
            except OSError as error:
                raise BadInput(f"{path}: cannot be written ({error.strerror or error})") from None

        self.session.aside(f"writing {path.name}", work, lambda _: self.session.said.emit(f"Wrote {path.name}."))

"""The schedule as a timeline: a row a copy; hands, what turns until it has set, what waits, and when each may be used."""

from __future__ import annotations

from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from yellowbob.app.widgets.painted import Painted
from yellowbob.app.widgets.theme import Look, colour, font, width_of
from yellowbob.shop.schedule import Plan

LEFT_PX, TOP_PX, FOOT_PX = 64.0, 46.0, 20.0
ROW_PX, LEAST_ROW_PX = 44.0, 9.0
LEAST_PX = 2.5


class Timeline(Painted):
    """A plan drawn over its days."""

    def __init__(self) -> None:
        super().__init__("Shop: the coats over the days")
        self.plan: Plan | None = None
        self.says = ""

    def show_plan(self, plan: Plan | None, says: str = "") -> None:
        """Draw a plan; `says` where there is none."""
        self.plan, self.says = plan, says
        self.update()

    def paint(self, painter: QPainter, area: QRectF) -> None:
        if self.plan is None:
            self.say(painter, area, self.says, Look.now.ink)
        else:
            self._paint(painter, area, self.plan)

    def _paint(self, painter: QPainter, area: QRectF, plan: Plan) -> None:
        first, last = plan.tasks[0].begins, max(plan.ready)
        seconds = max((last - first).total_seconds(), 1.0)
        wide = area.width() - LEFT_PX - 24.0
        copies = len(plan.ready)
        high = min(max((area.height() - TOP_PX - FOOT_PX) / copies, LEAST_ROW_PX), ROW_PX)

        def at(moment: datetime) -> float:
            return LEFT_PX + wide * (moment - first).total_seconds() / seconds

        self._days(painter, area, plan, at(first), at(last))
        shown = int((area.height() - TOP_PX - FOOT_PX) // high)
        for copy in range(min(copies, shown)):
            y = TOP_PX + copy * high
            painter.setFont(font(9 if high > 14 else 7))
            painter.setPen(colour(Look.now.ink))
            painter.drawText(QRectF(8, y, LEFT_PX - 16, high), Qt.AlignmentFlag.AlignVCenter, f"no. {copy + 1}")
            bar = QRectF(0, y + 0.2 * high, 1, 0.6 * high)
            painter.setPen(Qt.PenStyle.NoPen)
            for task in (t for t in plan.tasks if t.copy == copy):
                for begin, end, tone in (
                    (task.ends, task.next_at, Look.now.wood), (task.ends, task.set_at,
                        Look.now.water_ink if task.place is not None else Look.now.line),
                    (task.begins, task.ends, Look.now.ink),
                ):  # fmt: skip
                    painter.setBrush(colour(tone))
                    long = max(at(end) - at(begin), LEAST_PX)
                    painter.drawRect(QRectF(at(begin), bar.top(), long, bar.height()))
            painter.setPen(QPen(colour(Look.now.soft), 2))
            x = at(plan.ready[copy])
            painter.drawLine(QPointF(x, y + 2), QPointF(x, y + high - 2))
        if shown < copies:
            painter.setPen(colour(Look.now.soft))
            painter.drawText(QPointF(LEFT_PX, area.height() - 6), f"and {copies - shown} more: make the window taller")

    def _days(self, painter: QPainter, area: QRectF, plan: Plan, left: float, right: float) -> None:
        """A line at each midnight, the date where there is room for it; what the tones mean above."""
        zone = ZoneInfo(plan.zone)
        first, last = plan.tasks[0].begins, max(plan.ready)
        painter.setFont(font(9))
        x = LEFT_PX
        for tone, words in ((Look.now.ink, "hands"), (Look.now.water_ink, "turns until set"), (Look.now.line, "sets"),
            (Look.now.wood, "waits"),
                            (Look.now.soft, "may be used")):  # fmt: skip
            painter.fillRect(QRectF(x, 10, 12, 10), colour(tone))
            painter.setPen(colour(Look.now.soft))
            painter.drawText(QPointF(x + 17, 19), words)
            x += 34 + width_of(words, 9)
        local = first.astimezone(zone)
        day = (local + timedelta(days=1)).replace(hour=0, minute=0, second=0, microsecond=0)
        span, free = (last - first).total_seconds(), left
        while day < last:
            x = left + (right - left) * (day - first).total_seconds() / span
            painter.setPen(QPen(colour(Look.now.line), 1, Qt.PenStyle.DotLine))
            painter.drawLine(QPointF(x, TOP_PX - 6), QPointF(x, area.height() - FOOT_PX))
            words = f"{day:%a %d %b}"
            if x + 2 >= free and x + width_of(words, 9) < area.width():
                painter.setPen(colour(Look.now.soft))
                painter.drawText(QPointF(x + 2, TOP_PX - 8), words)
                free = x + 10 + width_of(words, 9)
            day = (day + timedelta(hours=30)).replace(hour=0)

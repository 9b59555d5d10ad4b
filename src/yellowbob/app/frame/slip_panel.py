"""The weigh slip on the right: one line a thing, subtotal, still to come, total; changes marked for a moment."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.theme import Look, colour, elided, font, width_of
from yellowbob.checks.next_step import next_step
from yellowbob.ground.errors import YellowBobError
from yellowbob.ground.quantities import show
from yellowbob.study import of
from yellowbob.weights.slip import SlipLine

MARK_MS = 1600
FOLLOW_MS = 60
ROW_PX = 22.0
WIDE_PX, NARROW_PX = 284, 236


class SlipPanel(QWidget):
    """Paints the slip of the session's study."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("slip")
        self.setAccessibleName("Weigh slip")
        self.make_narrow(False)
        self._last: dict[str, float] = {}
        self._marked: set[str] = set()
        self._shown: dict[str, tuple[str, str, bool]] = {}
        self._places: dict[str, QRectF] = {}
        self._water = ""
        self.next_words = ""
        """the next sensible step, quietly; empty where it is turned off"""
        self.steps = True
        self._unmark = QTimer(self)
        self._unmark.setSingleShot(True)
        self._unmark.setInterval(MARK_MS)
        self._unmark.timeout.connect(self._clear_marks)
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(FOLLOW_MS)
        self._soon.timeout.connect(self.refresh)
        session.changed.connect(self._follow)
        session.arrived.connect(self._arrived)
        self.refresh(first=True)

    def sizeHint(self) -> QSize:
        return QSize(self.width(), 560)

    def make_narrow(self, narrow: bool) -> None:
        """Leave more of a small window to the bench."""
        self.setFixedWidth(NARROW_PX if narrow else WIDE_PX)

    def rows(self) -> list[tuple[str, str, float, str]]:
        """(key, words, grams, style): style is plain, under, sum, head or total."""
        slip, buoyancy = of.slip(self.session.study), of.buoyancy(self.session.study)
        rows = [(line.key, self._words(line), line.mass.mass_g, "under" if line.under else "plain")
                for line in slip.at("on scale") if abs(line.mass.mass_g) >= 0.005]  # fmt: skip
        rows.append(("on scale", "On the scale now", slip.on_scale.mass_g, "sum"))
        if slip.at("to come"):
            rows.append(("", "Still to come", 0.0, "head"))
            rows += [(line.key, self._words(line), line.mass.mass_g, "plain") for line in slip.at("to come")]
        rows.append(("finished", "Finished", slip.finished.mass_g, "total"))
        if load := of.line_load_g(self.session.study):
            rows.append(("line", "On the line, under water", load, "plain"))
        rows.append(("lift", "Water it fills", buoyancy.lift_g, "plain"))
        rows.append(("reserve", "To spare" if buoyancy.floats else "Too heavy by", abs(buoyancy.reserve_g), "plain"))
        return rows + self._weighed()

    def _words(self, line: SlipLine) -> str:
        """A line's words; where weighings have moved it, with what was forecast."""
        if not self.session.study.design.weighings:
            return line.words
        forecast = {one.key: one.mass.mass_g for one in of.forecast_slip(self.session.study).lines}
        before = forecast.get(line.key, line.mass.mass_g)
        if abs(before - line.mass.mass_g) < 0.005:
            return line.words
        return f"{line.words}, was {show(before, Units.of('mass'))}"

    def _weighed(self) -> list[tuple[str, str, float, str]]:
        """What the scale said, each reading with its forecast; a mark where it cannot be explained."""
        solved = of.evidence(self.session.study).weighed
        if not solved:
            return []
        unit = Units.of("mass")
        rows = [("", "What the scale said", 0.0, "head")]
        for number, one in enumerate(solved):
            mark = "! " if one.surprising else ""
            words = f"{mark}{one.weighing.stage}, forecast {show(one.forecast_g, unit)}"
            rows.append((f"weighing:{number}", words, one.weighing.mass_g, "plain"))
        return rows

    def refresh(self, first: bool = False) -> None:
        """Take the slip as it is now; only the rows that read differently are painted again."""
        if self.session.fault:
            return
        rows = self.rows()
        now = {key: mass for key, _, mass, _ in rows if key}
        moved = {key for key, mass in now.items() if abs(mass - self._last.get(key, mass)) > 5e-4}
        if not first and self._last:
            self._marked |= moved | (now.keys() - self._last.keys())
        if self._marked:
            self._unmark.start()
        self._last = now
        unit = Units.of("mass")
        shown = {key: (words, show(mass, unit), key in self._marked) for key, words, mass, _ in rows}
        if shown.keys() == self._shown.keys() and self._water == self._water_words():
            for key, figures in shown.items():
                if figures != self._shown[key] and key in self._places:
                    self.update(self._places[key].toAlignedRect())
        else:
            self.update()
        if "reserve" in self._places and shown.get("reserve") != self._shown.get("reserve"):
            self.update(self._places["reserve"].translated(0, self._places["reserve"].height()).toAlignedRect())
        self._shown, self._water = shown, self._water_words()
        words = next_step(self.session.study) if self.steps else ""
        if words != self.next_words and not self.session.dragging:
            self.next_words = words
            self.setAccessibleDescription(f"Next: {words}" if words else "")
            self.update()

    def show_steps(self, on: bool) -> None:
        """Whether the next step is told."""
        self.steps = on
        self.refresh()

    def _follow(self) -> None:
        """At once after an edit; a few times a second while something is dragged."""
        if not self.session.dragging:
            self.refresh()
        elif not self._soon.isActive():
            self._soon.start()

    def _arrived(self, _: object) -> None:
        """A slow result may have settled a check: the next step is another one."""
        self._follow()

    def _water_words(self) -> str:
        water = self.session.study.design.water
        return f"{Units.of('mass')} · {water.name}, {water.temperature_c:g} °C"

    def _clear_marks(self) -> None:
        self._marked.clear()
        self.refresh()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        painter.setPen(QPen(colour(Look.now.line), 1))
        painter.setBrush(colour(Look.now.card))
        painter.drawRoundedRect(area, 3, 3)
        left, right, y = 16.0, area.right() - 16.0, 14.0
        painter.setPen(colour(Look.now.ink))
        painter.setFont(font(12.5, bold=True))
        painter.drawText(QRectF(left, y, 150, 22), Qt.AlignmentFlag.AlignVCenter, "Weigh slip")
        painter.setFont(font(9))
        painter.setPen(colour(Look.now.soft))
        unit = Units.of("mass")
        right_middle = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(QRectF(left, y, right - left, 22), right_middle, self._water_words())
        y += 32
        try:
            rows = self.rows()
        except YellowBobError:
            painter.drawText(QRectF(left, y, right - left, 40), Qt.TextFlag.TextWordWrap, "Waiting for a sound shape.")
            return
        height = min(ROW_PX, (area.height() - y - 46) / max(1, len(rows)))
        for key, words, mass, style in rows:
            drop = {"sum": (6.0, 1.1), "total": (6.0, 1.5), "head": (3.0, 1.0)}.get(style, (0.0, 1.0))
            box = QRectF(left - 8, y, right - left + 16, drop[0] + height * drop[1])
            self._places[key] = box
            if box.intersects(QRectF(event.rect())):
                self._paint_row(painter, left, right, y, height, key, words, show(mass, unit), style)
            y += box.height()
            if key == "reserve" and of.buoyancy(self.session.study).floats:
                share = f"{of.buoyancy(self.session.study).reserve_percent:.0f} %"
                self._paint_row(painter, left, right, y, height, "", "that is", share, "plain")
                y += height
        self._paint_budget(painter, left, right, y + 10.0, area.bottom() - 10.0)

    def _paint_budget(self, painter: QPainter, left: float, right: float, y: float, bottom: float) -> None:
        """What is wanted, what may still go in, and the next step, where there is room."""
        wanted, mass = self.session.design.brief.mass_g, Units.of("mass")
        if wanted is not None and bottom - y > 2.0 * ROW_PX:
            finished = of.slip(self.session.study).finished.mass_g
            span = f"{show(wanted.least, mass, 1)} to {show(wanted.most, mass, 1)}"
            self._paint_row(painter, left, right, y, ROW_PX, "", "Wanted finished", span, "plain")
            off = wanted.middle - finished
            words = "May still go in" if off >= 0.0 else "Over the middle by"
            self._paint_row(painter, left, right, y + ROW_PX, ROW_PX, "", words, show(abs(off), mass, 2), "plain")
            y += 2.0 * ROW_PX + 8.0
        if self.next_words and bottom - y > 2.5 * ROW_PX:
            self._paint_row(painter, left, right, y, ROW_PX, "", "Next", "", "head")
            painter.setFont(font(10))
            painter.setPen(colour(Look.now.ink))
            box = QRectF(left, y + ROW_PX + 2.0, right - left, bottom - y - ROW_PX)
            painter.drawText(box, Qt.TextFlag.TextWordWrap, self.next_words)

    def _paint_row(
        self, painter: QPainter, left: float, right: float, y: float, height: float, key: str, words: str,
        figure: str, style: str,
    ) -> None:  # fmt: skip
        if style in ("sum", "total"):
            painter.setPen(
                QPen(colour(Look.now.ink if style == "total" else Look.now.line), 1.5 if style == "total" else 1)
            )
            painter.drawLine(int(left), int(y + 3), int(right), int(y + 3))
            y += 6
            height *= 1.5 if style == "total" else 1.1
        elif style == "head":
            y += 3
        if key in self._marked:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour(Look.now.marked))
            painter.drawRoundedRect(QRectF(left - 8, y, right - left + 16, height), 3, 3)
        bold = style in ("sum", "total")
        size = 17.0 if style == "total" else 10.5
        painter.setFont(font(size, bold))
        wide = width_of(figure, size, bold)
        box = QRectF(left, y, right - left, height)
        painter.setPen(colour(Look.now.ink))
        if style != "head":
            painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, figure)
        size = 9.5 if style in ("under", "head") else 10.0
        painter.setFont(font(size, bold))
        painter.setPen(colour(Look.now.soft if style in ("under", "head") else Look.now.ink))
        indent = 10.0 if style == "under" else 0.0
        room = right - left - indent - wide - 10
        words = elided(words, size, bold, int(room))
        painter.drawText(
            box.adjusted(indent, 0, 0, 0), Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, words
        )

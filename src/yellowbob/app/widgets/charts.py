"""Charts, drawn by pyqtgraph in the bench's own colours: a curve with axes, two curves on two scales, shares as bars."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import pyqtgraph as pg
from numpy.typing import NDArray
from PySide6.QtCore import Qt
from PySide6.QtGui import QFont, QPainter, QPaintEvent

from yellowbob.app.widgets.theme import Look, colour, font
from yellowbob.app.widgets.turns import hold, let_paint

Array = NDArray[np.float64]
SMALL = 8.0
NEVER = ((-2.0, -1.0),)
"""A range that no axis has: nowhere does it count in thousands or thousandths."""


def _small() -> QFont:
    return font(SMALL)


class Chart(pg.PlotWidget):
    """A plot to be looked at: no menus, no dragging; it takes the colours of the day or of the evening when it is drawn."""

    def __init__(self, name: str, empty: str) -> None:
        super().__init__(enableMenu=False)
        self.setAccessibleName(name)
        self._empty = empty
        self._dressed: dict[pg.AxisItem, tuple[str, str, str]] = {}
        self._last: tuple[Array, Array] | None = None
        self._blank: str | None = ""
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setMouseEnabled(False, False)
        self.hideButtons()
        self.setFrameShape(pg.PlotWidget.Shape.NoFrame)

    def begin(self, bottom: str, left: str) -> None:
        """Clear it, and name its axes (with their units)."""
        item = self.getPlotItem()
        self._clear(None)
        let_paint(self, hold([self]))  # to lay out what it is to show is long enough for one turn
        self.setBackground(colour(Look.now.card))
        for side, words in (("bottom", bottom), ("left", left)):
            self._dress(item.getAxis(side), words, Look.now.soft)

    def _dress(self, axis: pg.AxisItem, words: str, tone: str) -> None:
        if self._dressed.get(axis) == (
            words,
            tone,
            Look.now.line,
        ):  # its words are laid out anew each time they are set
            return
        self._dressed[axis] = words, tone, Look.now.line
        axis.setStyle(tickFont=_small(), tickTextOffset=3)
        axis.setPen(pg.mkPen(colour(Look.now.line)))
        axis.setTextPen(pg.mkPen(colour(tone)))
        # switched off alone it keeps the factor of the range it had just then: figures a thousand times too large
        axis.setSIPrefixEnableRanges(NEVER)
        axis.enableAutoSIPrefix(False)
        axis.setLabel(words, color=tone, **{"font-size": f"{SMALL}pt"})

    def say_empty(self) -> None:
        """Say why there is nothing to draw."""
        self._clear(self._empty)

    def _clear(self, blank: str | None) -> None:
        """Take the curves away; `blank` is what stands in their place, None where others follow."""
        self.getPlotItem().clear()
        self._last, self._blank = None, blank
        self.viewport().update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Words in place of curves have no axes: those would show a range that nothing has, and take most of the time."""
        if self._blank is None:
            super().paintEvent(event)
            return
        painter = QPainter(self.viewport())
        painter.fillRect(self.viewport().rect(), colour(Look.now.card))
        painter.setPen(colour(Look.now.soft))
        painter.setFont(_small())
        painter.drawText(self.viewport().rect(), Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, self._blank)
        painter.end()

    def line(self, x: Sequence[float] | Array, y: Sequence[float] | Array, tone: str, dashed: bool = False) -> None:
        """A curve."""
        style = Qt.PenStyle.DashLine if dashed else Qt.PenStyle.SolidLine
        self._last = np.asarray(x, dtype=float), np.asarray(y, dtype=float)
        self.addItem(pg.PlotCurveItem(*self._last, pen=pg.mkPen(colour(tone), width=2, style=style), antialias=True))

    def name_last(self, words: str, tone: str, share: float = 1.0) -> None:
        """Words beside the curve drawn last, at a share of the way along it."""
        x, y = self._last if self._last is not None else ((), ())
        if not len(x):
            return
        at = min(int(share * len(x)), len(x) - 1)
        named = pg.TextItem(words, color=colour(tone), anchor=(0.5, 1.1), fill=pg.mkBrush(colour(Look.now.card, 215)))
        named.setFont(_small())
        named.setPos(float(x[at]), float(y[at]))
        self.addItem(named, ignoreBounds=True)

    def filled(self, x: Sequence[float] | Array, y: Sequence[float] | Array, tone: str) -> None:
        """The area between a curve and zero."""
        self._last = np.asarray(x, dtype=float), np.asarray(y, dtype=float)
        self.addItem(pg.PlotCurveItem(*self._last, pen=None, fillLevel=0.0, brush=pg.mkBrush(colour(tone))))


class TwoScales(Chart):
    """Two curves over one quantity, the second on a scale of its own at the right; a mark where the slider stands."""

    def __init__(self, name: str, empty: str) -> None:
        super().__init__(name, empty)
        item = self.getPlotItem()
        self._right = pg.ViewBox(enableMenu=False)
        self._right.setMouseEnabled(False, False)
        item.showAxis("right")
        item.scene().addItem(self._right)
        item.getAxis("right").linkToView(self._right)
        self._right.setXLink(item)
        item.vb.sigResized.connect(self._follow)
        self._mark: pg.InfiniteLine | None = None
        item.layout.setContentsMargins(0, 8, 0, 0)  # half a figure at the top of the axes

    def _follow(self) -> None:
        self._right.setGeometry(self.getPlotItem().vb.sceneBoundingRect())
        self._right.linkedViewChanged(self.getPlotItem().vb, self._right.XAxis)

    def show_both(
        self, x: Sequence[float], one: tuple[str, Sequence[float]], two: tuple[str, Sequence[float]], bottom: str
    ) -> None:
        """Draw both, each with its words and unit."""
        self.begin(bottom, one[0])
        self._mark = None
        self._right.clear()
        self.line(x, one[1], Look.now.water_ink)
        self._dress(self.getPlotItem().getAxis("left"), one[0], Look.now.water_ink)
        pen = pg.mkPen(colour(Look.now.ink), width=2, style=Qt.PenStyle.DashLine)
        self._right.addItem(
            pg.PlotCurveItem(np.asarray(x, dtype=float), np.asarray(two[1], dtype=float), pen=pen, antialias=True)
        )
        self._dress(self.getPlotItem().getAxis("right"), two[0], Look.now.ink)
        self._follow()
        self._right.autoRange()

    def mark(self, at: float | None) -> None:
        """A line where the quantity stands now."""
        if self._mark is not None:
            self.removeItem(self._mark)
            self._mark = None
        if at is not None:
            self._mark = pg.InfiniteLine(at, pen=pg.mkPen(colour(Look.now.grab_edge), width=1.5))
            self.addItem(self._mark)


class Spread(Chart):
    """How many of many fall where: bars over a quantity, the middle nine of ten in full colour, what is wanted marked."""

    BARS = 24

    def __init__(self, name: str) -> None:
        super().__init__(name, "")
        self.setMinimumSize(110, 92)
        self.getPlotItem().hideAxis("left")
        self.clear_all()

    def clear_all(self) -> None:
        """Nothing is known yet."""
        self._clear("")
        self.setAccessibleDescription("")

    def show_values(self, values: Array, words: str, wanted: tuple[float, float] | None = None) -> None:
        """Values as bars; `words` name them with their unit; between the two wanted figures the ground is marked."""
        self.begin(words, "")
        item = self.getPlotItem()
        low, high = (float(v) for v in np.percentile(values, [0.5, 99.5]))
        counts, edges = np.histogram(values, bins=self.BARS, range=(low, max(high, low + 1e-6)))
        five, ninety_five = np.percentile(values, [5.0, 95.0])
        middles, step = (edges[1:] + edges[:-1]) / 2.0, float(edges[1] - edges[0])
        if wanted is not None:
            ground = pg.LinearRegionItem(wanted, movable=False, brush=colour(Look.now.marked, 150), pen=pg.mkPen(None))
            ground.setZValue(-10)
            self.addItem(ground, ignoreBounds=True)
        inside = (middles >= five) & (middles <= ninety_five)
        for kept, tone in ((~inside, Look.now.wood), (inside, Look.now.water_deep)):
            self.addItem(
                pg.BarGraphItem(x=middles[kept], height=counts[kept], width=0.92 * step, brush=colour(tone), pen=None)
            )
        spare = 0.06 * (edges[-1] - edges[0])
        self.setXRange(float(edges[0] - spare), float(edges[-1] + spare), padding=0)
        self.setYRange(0.0, 1.08 * float(counts.max(initial=1)), padding=0)
        item.getAxis("bottom").setTickDensity(0.5)
        self.setAccessibleDescription(f"{words}: nine of ten from {five:.2f} to {ninety_five:.2f}")


class ShareBars(Chart):
    """Shares, 0 to 1, as bars one under the other, each with its words and figure."""

    def __init__(self, name: str) -> None:
        super().__init__(name, "")
        self.setMinimumSize(280, 92)
        self.rows: list[tuple[str, float]] = []
        self.show_rows([])

    def show_rows(self, rows: list[tuple[str, float]]) -> None:
        """(words, share) from the top down."""
        self.rows = rows
        self.setAccessibleDescription("; ".join(f"{words}: {100 * share:.1f} %" for words, share in rows))
        if not rows:
            self._clear("")
            return
        self.begin("", "")
        item = self.getPlotItem()
        item.hideAxis("bottom")
        item.getAxis("left").setTicks([[(-k, words) for k, (words, _) in enumerate(rows)]])
        item.getAxis("left").setTextPen(pg.mkPen(colour(Look.now.ink)))
        item.getAxis("left").setStyle(tickFont=font(10), tickLength=0)
        places = [-float(k) for k in range(len(rows))]
        self.addItem(pg.BarGraphItem(x0=0, y=places, width=1.0, height=0.5, brush=colour(Look.now.wood), pen=None))
        self.addItem(pg.BarGraphItem(x0=0, y=places, width=[share for _, share in rows], height=0.5,
                                     brush=colour(Look.now.water_deep), pen=None))  # fmt: skip
        for place, (_, share) in zip(places, rows, strict=True):
            figure = pg.TextItem(f"{100 * share:.1f} %", color=colour(Look.now.ink), anchor=(0.0, 0.5))
            figure.setFont(font(11, True))
            figure.setPos(1.02, place)
            self.addItem(figure)
        self.setXRange(0, 1.6, padding=0)
        self.setYRange(-len(rows) + 0.5, 0.5, padding=0)

"""Pages of the Log bench over several builds: side by side, and any two figures charted."""

from __future__ import annotations

import numpy as np
import pyqtgraph as pg
from PySide6.QtWidgets import QVBoxLayout

from yellowbob.app.benches.log.book import Book
from yellowbob.app.benches.log.pages import LogPage, line_of
from yellowbob.app.benches.log.sets_view import CompareView
from yellowbob.app.session.background import Told
from yellowbob.app.session.sight import ready_to_draw
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.charts import Chart
from yellowbob.app.widgets.fields import Choice
from yellowbob.app.widgets.rows import labelled, row
from yellowbob.app.widgets.theme import Look, colour
from yellowbob.ballast.settle import settled
from yellowbob.design.model import Design
from yellowbob.ground.errors import YellowBobError
from yellowbob.logbook.compared import MOST, Compared, compared_builds
from yellowbob.logbook.figures import FIGURES, OFF, Charted, batch_spread, charted, figure_words
from yellowbob.study import Study, of
from yellowbob.trials.change import Change
from yellowbob.trials.variants import Variant
from yellowbob.workshop.database import workshop_file


class ComparePage(LogPage):
    """Up to six builds: chosen in the list with Ctrl or Shift, or their serials typed."""

    def __init__(self, book: Book, view: CompareView) -> None:
        super().__init__("Compare", book, "What they differ in")
        self.view = view
        self.serials = line_of("Serials of the builds to compare", "two to six serials, or a batch's label")
        self.serials.returnPressed.connect(self.compare)
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addLayout(labelled(("Builds", self.serials)))
        left.addLayout(row(button("Set side by side", self.compare), button("Make again", lambda: self.again(True)),
                           button("Not again", lambda: self.again(False))))  # fmt: skip
        self.lay_out(left)

    def refresh(self) -> None:
        """The builds marked in the list; else the batch of the one on the bench."""
        marked = self.book.marked
        if len(marked) < 2 and not self.serials.text():
            build = self.book.build()
            marked = [b.serial for b in self.book.log.builds(batch=build.batch)][:MOST] if build and build.batch else []
        if len(marked) >= 2:
            self.serials.setText(" ".join(sorted(marked[:MOST])))
        if self.serials.text():
            self.compare()
        else:
            self.view.show_nothing()
            self.says.setText("Mark two to six builds in the list (with Ctrl), or write their serials here.")

    def named(self, written: str) -> list[str]:
        """The serials written; a batch's label stands for its builds. Raises BadInput."""
        found: list[str] = []
        for word in written.replace(",", " ").split():
            batch = [b.serial for b in self.book.log.builds(batch=word)]
            found += sorted(batch) if batch else [word]
        return list(dict.fromkeys(found))

    def compare(self) -> None:
        written = self.serials.text()

        def look() -> tuple[Compared, str, dict[str, Design]]:
            found = compared_builds(self.book.log, self.named(written))
            return found, self._words(found), {b.serial: self.book.log.design(b.serial) for b in found.builds}

        def tell(all_: tuple[Compared, str, dict[str, Design]]) -> None:
            found, words, designs = all_
            self.says.setText(words)
            self.view.show_figures(found)

            def settle(_: Told) -> list[Variant]:
                return [_afloat(serial, Study(design)) for serial, design in designs.items()]

            self.session.tasks.start("side by side", settle, self.view.show_afloat, lambda w: self.says.setText(f"! {w}"),
                                     words="floating the builds")  # fmt: skip

        self.aside("setting builds side by side", look, tell)

    def again(self, whether: bool) -> None:
        """Whether the one on the bench would be made again."""
        log, serial = self.book.log, self.book.serial

        def work() -> None:
            log.change(serial, again=whether)

        def done(_: None) -> None:
            self.book.changed.emit()
            if self.serials.text():
                self.compare()

        if self.ready():
            self.aside("writing down whether it would be made again", work, done)

    def _words(self, found: Compared) -> str:
        said = []
        batches = {b.batch for b in found.builds}
        batch = batches.pop() if len(batches) == 1 else ""
        if batch:
            builds = self.book.log.builds(batch=batch)
            told = [f"{figure_words(k)[0]} {s.mean:.2f} ± {s.sd:.2f} {figure_words(k)[1]}"
                    for k, s in batch_spread(self.book.log, batch).items() if s.sd is not None]  # fmt: skip
            lost = sum(b.state == "lost" for b in builds)
            said.append(f"<b>Batch {batch}</b>, {len(builds)} builds, {lost} lost. " + "; ".join(told))
        if found.builds[0].experiment:
            said.append(
                f"Experiment in {found.builds[0].experiment}: "
                + "; ".join(f"{b.serial} {b.differs}" for b in found.builds)
            )
        said += [f"{place}: " + " · ".join(v or "none" for v in values) for place, values in found.differ[:4]]
        left = len(found.differ) - 4 + found.more
        if left > 0:
            said.append(f"and {left} other places of their designs (`log compare` lists them)")
        return "<br>".join(said) or "Their designs are the same."


def _afloat(serial: str, study: Study) -> Variant:
    change = Change(serial, lambda design: design)
    ready_to_draw(study)
    try:
        return Variant(change, study, settled(of.afloat(study)))
    except YellowBobError as error:
        return Variant(change, study, None, str(error))


class ChartPage(LogPage):
    """Two figures of every build that has them, found by the same words as the list."""

    def __init__(self, book: Book, chart: Chart) -> None:
        super().__init__("Chart", book, "What the chart says")
        self.chart = chart
        self.keys = [*FIGURES, *OFF]
        names = [self._name(key) for key in self.keys]
        self.across = Choice("Across", names, lambda _: self.draw())
        self.up = Choice("Up", names, lambda _: self.draw())
        self.across.show_text(self._name("finished promised"))
        self.up.show_text(self._name("finished off"))
        self.words = line_of("Only builds that have all these words", "all builds")
        self.words.setText(book.words)
        self.words.returnPressed.connect(self.draw)
        self.found: Charted | None = None
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addLayout(labelled(("Across", self.across), ("Up", self.up), ("Found by", self.words)))
        self.lay_out(left)

    @staticmethod
    def _name(key: str) -> str:
        words, unit = figure_words(key)
        return f"{words}, {unit}" if unit and unit != "day" else words

    def refresh(self) -> None:
        self.draw()

    def draw(self) -> None:
        """Draw the points, and the line through them where there is one."""

        x, y = (self.keys[c.currentIndex()] for c in (self.across, self.up))
        book, words = self.book, self.words.text()

        def look() -> Charted | None:
            return charted(book.log, x, y, words) if workshop_file().exists() else None  # looking makes no log

        def take(found: Charted | None) -> None:
            self.found = found
            if found is None or not found.x:
                self.chart.say_empty()
                self.says.setText("No build has both.")
                return
            _draw(self.chart, found, x, y, self._name(x), self._name(y))
            self.says.setText(self._told(found, x, y))

        self.soon("chart", look, take, "charting builds")

    def _told(self, found: Charted, x: str, y: str) -> str:
        if found.r is None or found.slope is None or found.slope_u is None:
            return f"{len(found.x)} builds; too few, or all alike: no line is drawn through them."
        sure = (
            "no more than chance would give"
            if abs(found.slope) < 2.0 * found.slope_u
            else "more than chance would give"
        )
        per = f"{figure_words(y)[1] or 'step'} a {figure_words(x)[1] or 'step'}"
        return (
            f"{len(found.x)} builds. The line: <b>{found.slope:+.3g} ± {found.slope_u:.2g}</b> {per}, {sure}; "
            f"correlation {found.r:+z.2f}.".replace("-", "−")
        )


def _draw(chart: Chart, found: Charted, x: str, y: str, of_x: str, of_y: str) -> None:
    axis = pg.DateAxisItem("bottom") if x == "begun" else pg.AxisItem("bottom")
    chart.setAxisItems({"bottom": axis})
    day = 86400.0 if x == "begun" else 1.0
    chart.begin(of_x, of_y)
    xs = np.array(found.x) * day
    chart.addItem(pg.ScatterPlotItem(
        xs, np.array(found.y), size=8, pen=pg.mkPen(colour(Look.now.ink)), brush=pg.mkBrush(colour(Look.now.water_deep)),
        data=list(found.serials), hoverable=True, tip=lambda x, y, data: data,
    ))  # fmt: skip
    if found.slope is not None:
        ends = np.array([xs.min(), xs.max()])
        middle = (float(np.mean(xs)), float(np.mean(found.y)))
        chart.line(ends, middle[1] + found.slope / day * (ends - middle[0]), Look.now.water_ink, dashed=True)

"""The Lines bench: the drawing, its cards, and the pages for tracing and rescaling."""

from __future__ import annotations

from pathlib import Path
from typing import cast

from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QMenu, QStackedWidget, QVBoxLayout, QWidget

from yellowbob.app.benches.lines.cards import MeasuresCard, PointCard
from yellowbob.app.benches.lines.cuts_card import CutsCard
from yellowbob.app.benches.lines.ladder_page import LadderPage
from yellowbob.app.benches.lines.mesh_page import MeshPage
from yellowbob.app.benches.lines.trace_page import TracePage
from yellowbob.app.benches.lines.view import LinesView
from yellowbob.app.session.demo_designs import DEMO_PICTURE, demo_files
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button, drop
from yellowbob.app.widgets.roomy import Roomy
from yellowbob.app.widgets.theme import wear
from yellowbob.design.model import Design
from yellowbob.design.outline_edits import arcs, blank, held_to_points
from yellowbob.design.starts import with_shape
from yellowbob.ground.errors import YellowBobError
from yellowbob.shelf.filling import opened

InPlace = TracePage | LadderPage | MeshPage
"""What stands in the drawing's place."""


class LinesBench(QWidget):
    """From a picture with one known length, or from nothing, to a closed solid."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.view = LinesView(session)
        self.pages = QStackedWidget()
        self.pages.addWidget(self.view)
        self._roomy: dict[type[InPlace], Roomy] = {}
        self.pages.currentChanged.connect(self._turned)
        drawing = QWidget()
        line = QHBoxLayout(drawing)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(10)
        self.point = PointCard(session, self.view)
        self.cuts = CutsCard(session)
        self.measures = MeasuresCard(session)
        for card, share in ((self.point, 4), (self.cuts, 6), (self.measures, 2)):
            card.setMinimumHeight(186)
            card.setMaximumHeight(200)
            line.addWidget(card, share)
        self.cards = QWidget()
        below = QVBoxLayout(self.cards)
        below.setContentsMargins(0, 0, 0, 0)
        self.below = Roomy(drawing)
        self.below.setFixedHeight(212)
        below.addWidget(self.below)
        tools = QHBoxLayout()
        tools.setSpacing(6)
        tools.addWidget(drop("Start", self._fill_start, "Start a body"))
        tools.addWidget(drop("Ghost", self._fill_ghost, "Compare with another design"))
        self.measures.buttons.addLayout(tools)
        more = QHBoxLayout()
        more.setSpacing(6)
        more.addWidget(button("Rescale", self.show_ladder))
        more.addWidget(drop("Out", self._fill_out, "Export the body"))
        self.measures.buttons.addLayout(more)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(10)
        column.addWidget(self.pages, 1)
        column.addWidget(self.cards)

    def remove_selected(self) -> None:
        """Take the selected point out."""
        self.view.remove_point()

    # ---- pages in the drawing's place, made when they are first asked for

    def _in_place(self, kind: type[InPlace]) -> Roomy:
        if kind not in self._roomy:
            page = kind(self.session)
            page.finished.connect(self.show_drawing)
            if isinstance(page, TracePage):
                page.traced_over.connect(self.view.lay_under)
            self._roomy[kind] = Roomy(page)
            self.pages.addWidget(self._roomy[kind])
            wear(self._roomy[kind])
        return self._roomy[kind]

    @property
    def trace(self) -> TracePage:
        return cast(TracePage, self._in_place(TracePage).page)

    @property
    def ladder(self) -> LadderPage:
        return cast(LadderPage, self._in_place(LadderPage).page)

    @property
    def mesh(self) -> MeshPage:
        return cast(MeshPage, self._in_place(MeshPage).page)

    def make_one_more(self) -> bool:
        """Make a page that is not there yet; False when all are."""
        kind = next((k for k in (TracePage, LadderPage, MeshPage) if k not in self._roomy), None)
        if kind is not None:
            self._in_place(kind)
        return kind is not None

    @property
    def page(self) -> QWidget:
        """What is shown: the drawing, or a page in its place."""
        now = self.pages.currentWidget()
        return now.page if isinstance(now, Roomy) else self.view

    def _turn_to(self, kind: type[InPlace]) -> None:
        self.pages.setCurrentWidget(self._in_place(kind))

    def _turned(self, _: int) -> None:
        """The drawing's cards are there with the drawing only; a page in its place has their room."""
        self.below.setVisible(self.page is self.view)

    def show_drawing(self) -> None:
        self.pages.setCurrentWidget(self.view)
        self.view.setFocus()

    def show_trace(self) -> None:
        self._turn_to(TracePage)

    def trace_demo(self) -> None:
        self.trace.open(DEMO_PICTURE)
        self.show_trace()

    def show_mesh(self) -> None:
        self._turn_to(MeshPage)

    def show_ladder(self) -> None:
        self.ladder.refresh()
        self._turn_to(LadderPage)

    def _fill_start(self, menu: QMenu) -> None:
        menu.addAction("Trace a picture").triggered.connect(self.show_trace)
        menu.addAction("Trace the demo picture").triggered.connect(self.trace_demo)
        menu.addAction("Solid from CAD").triggered.connect(self.show_mesh)
        menu.addAction("Outlines from SVG").triggered.connect(self._ask_svg)
        menu.addAction("A plain carved body").triggered.connect(lambda: self.start("lofted"))
        menu.addAction("A plain turned body").triggered.connect(lambda: self.start("turned"))
        hold = menu.addAction("Hold curves to their points")
        hold.setEnabled(bool(arcs(self.session.design)))
        hold.triggered.connect(self.hold)

    def start(self, kind: str) -> None:
        """A plain body in place of this one; fittings stay, holes and cuts go."""
        design = self.session.design
        shape = blank("turned" if kind == "turned" else "lofted", design.shape.length_mm)
        self.session.edit(with_shape(design, shape), f"plain {kind} body")

    def hold(self) -> None:
        """Every arc point made smooth: no curve rises above its points any more."""
        self.session.edit(held_to_points(self.session.design), "curves held to their points")

    def _ask_svg(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Outlines from SVG", "", "Drawings (*.svg *.svgz)")
        if name:
            self.take_svg(Path(name))

    def take_svg(self, path: Path) -> None:
        from yellowbob.lines.svg.body import Drawn, read_svg_body

        def take(found: Drawn) -> None:
            try:
                design = with_shape(self.session.design, found.shape, found.cuts)
            except YellowBobError as error:
                self.session.said.emit(f"! {path.name}: {error}")
                return
            self.session.edit(design, f"outlines from {path.name}")
            if found.notes:
                self.session.said.emit(f"{path.name}: {'; '.join(found.notes)}.")

        self.session.aside(f"reading {path.name}", lambda: read_svg_body(path), take)

    def _fill_ghost(self, menu: QMenu) -> None:
        menu.addAction("None").triggered.connect(lambda: self.show_ghost(None))
        for file in demo_files():
            menu.addAction(file.stem).triggered.connect(lambda _=False, f=file: self.show_ghost(f))
        menu.addAction("Hide the traced picture").triggered.connect(lambda: self.view.lay_under(None, None))

    def show_ghost(self, file: Path | None) -> None:
        """Another design's outlines, faint, behind this one's."""

        def take(design: Design | None) -> None:
            self.view.ghost = design
            self.view.update()

        if file is None:
            take(None)
        else:
            self.session.aside(f"opening {file.name}", lambda: opened(file), take)

    def _fill_out(self, menu: QMenu) -> None:
        for suffix, words in ((".stl", "Solid, STL"), (".3mf", "Solid, 3MF"), (".svg", "Outlines, SVG")):
            menu.addAction(words).triggered.connect(lambda _=False, s=suffix: self._ask_out(s))

    def _ask_out(self, suffix: str) -> None:
        name, _ = QFileDialog.getSaveFileName(self, "Export", f"{self.session.design.name}{suffix}", f"*{suffix}")
        if name:
            self.write_out(Path(name))

    def write_out(self, path: Path) -> None:
        from yellowbob.shop.exports import export

        told = f"Wrote {path.name}, in mm."
        self.session.write(path, lambda study: export(study, path), lambda _: self.session.said.emit(told))

"""Packet: which pages go to the bench on paper, seen as they will be printed; and what else is written for other programs."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QTimer
from PySide6.QtPrintSupport import QPrintDialog, QPrinter
from PySide6.QtWidgets import QCheckBox, QFileDialog, QGridLayout, QHBoxLayout, QMenu, QVBoxLayout, QWidget

from yellowbob.app.benches.shop.list_pages import ShopPage
from yellowbob.app.benches.shop.preview import Preview, pages_in, print_pages
from yellowbob.app.benches.shop.stock import Stock
from yellowbob.app.benches.shop.view import ShopView
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button, drop
from yellowbob.app.widgets.fields import Choice, NumberField
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.rows import row
from yellowbob.study import of

WORDS = {
    "cover": "Cover, weighing boxes", "sheet": "Sheet, marks, slip", "blank": "Blank, cut list", "templates": "Templates",
    "half": "Half template", "turning": "Stations", "holes": "Holes", "wire": "Wire, hardware", "flat": "Lip, wings, blades",
    "mould": "Mould, mix", "print": "Print", "paint": "Bands, masks", "colour": "To colour, foil", "finish": "Coats",
    "schedule": "Schedule", "cost": "Hours, cost", "cautions": "Cautions",
}  # fmt: skip
EXPORTS = (
    ("Body as solid …", "body", "Solids (*.stl *.3mf)"), ("Templates as drawing …", "body", "Drawings (*.dxf *.svg)"),
    ("Mould halves …", "mould", "Solids (*.stl *.3mf)"), ("Drill jigs …", "jig", "Solids (*.stl *.3mf)"),
    ("Stations as table …", "stations", "Tables (*.csv)"), ("Holes as table …", "holes", "Tables (*.csv)"),
    ("Weigh slip as table …", "slip", "Tables (*.csv)"), ("Hardware as table …", "hardware", "Tables (*.csv)"),
    ("Coats as table …", "coats", "Tables (*.csv)"),
)  # fmt: skip
SOON_MS = 250


class PacketPage(ShopPage):
    """Pages ticked, paper chosen, seen above at true size, printed or written as PDF."""

    def __init__(self, session: Session, view: ShopView, preview: Preview, stock: Stock) -> None:
        super().__init__("Packet", session, view, "What is shown and written")
        self.preview, self.stock = preview, stock
        self.paper = Choice("Paper", ["a4", "letter"], lambda _: self.draw_soon())
        self.copies = NumberField("Copies", (1.0, 200.0), 1.0)
        self.copies.setMinimumWidth(44)
        self.copies.valueChanged.connect(lambda _: self.draw_soon())
        self.ticks: dict[str, QCheckBox] = {}
        pages, grid = QWidget(), QGridLayout()
        grid.setVerticalSpacing(2)
        for number, (name, words) in enumerate(WORDS.items()):
            tick = QCheckBox(words)
            tick.setAccessibleName(words)
            tick.setChecked(True)
            tick.toggled.connect(lambda _: self.draw_soon())
            self.ticks[name] = tick
            grid.addWidget(tick, number % 6, number // 6)
        pages.setLayout(grid)
        self.soon = QTimer(self)
        self.soon.setSingleShot(True)
        self.soon.setInterval(SOON_MS)
        self.soon.timeout.connect(self.draw)
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addLayout(row("Paper", self.paper, "copies", self.copies))
        left.addLayout(self._turning())
        left.addLayout(self._writing())
        self.lay_out(left, pages, 7)
        preview.turned.connect(self._say_page)

    def _turning(self) -> QHBoxLayout:
        line = QHBoxLayout()
        for words, done, name in (
            ("◀", lambda: self.preview.turn(-1), "Page before"), ("▶", lambda: self.preview.turn(1), "Next page"),
            ("−", lambda: self.preview.set_zoom(self.preview.zoom / 1.25), "Smaller"),
            ("+", lambda: self.preview.set_zoom(self.preview.zoom * 1.25), "Larger"),
            ("Whole page", self.preview.whole_page, "Show the whole page"),
            ("True size", lambda: self.preview.set_zoom(1.0), "Show the page at its true size"),
        ):  # fmt: skip
            key = button(words, done, name)
            if len(words) == 1:
                key.setFixedWidth(36)
            line.addWidget(key)
        line.addStretch(1)
        return line

    def _writing(self) -> QHBoxLayout:
        self.write = button("Write PDF …", self.ask_packet, "Write the packet as PDF")
        self.print = button("Print …", self.ask_print, "Print the packet")
        self.export = drop("Export", self._fill_exports, "Write for other programs")
        line = QHBoxLayout()
        for one in (self.write, self.print, self.export):
            line.addWidget(one)
        line.addStretch(1)
        return line

    def refresh(self) -> None:
        """Pages that have nothing to say of the design cannot be ticked."""
        self.view.show_things(None, ())
        for one in (self.write, self.print, self.export):
            one.setEnabled(not self.session.fault)
        if self.session.fault:
            self.says.setText(f"! {self.session.fault}")
            return
        from yellowbob.shop.packet import pages_for

        told = pages_for(self.session.study, self.stock.boards(), self.stock.start())
        for name, tick in self.ticks.items():
            tick.setEnabled(name in told)
        self.draw_soon()

    def chosen(self) -> list[str]:
        """The pages ticked that have something to say."""
        return [name for name, tick in self.ticks.items() if tick.isChecked() and tick.isEnabled()]

    def draw_soon(self) -> None:
        """Show it anew once the hand rests."""
        self.soon.start()

    def draw(self) -> None:
        """Lay the packet out off the interface's thread, and show it."""
        if self.session.fault or not self.chosen():
            self.preview.sheet.clear()
            self.says.setText("! No page is ticked." if not self.session.fault else f"! {self.session.fault}")
            return

        def work(_: Told) -> tuple[bytes, list[tuple[float, float]]]:
            with tempfile.TemporaryDirectory() as folder:
                file = Path(folder) / "packet.pdf"
                write(file)
                pdf = file.read_bytes()
                return pdf, pages_in(pdf)

        write = self._writer()
        self.session.tasks.start(
            "preview",
            work,
            self.preview.show_packet,
            lambda w: self.says.setText(f"! {w}"),
            words="laying out the packet",
        )

    def _writer(self) -> Callable[[Path], list[str]]:
        """What writes the packet as it is chosen now, on whatever thread."""
        study, pages, paper = self.session.apart(), self.chosen(), self.paper.currentText()
        copies, boards, start, hours = (
            int(self.copies.value()),
            self.stock.boards(),
            self.stock.start(),
            self.stock.hours(),
        )
        inches, bed = Units.of("length") == "in", self.stock.bed_mm

        def write(path: Path) -> list[str]:
            from yellowbob.shop.packet import write_packet

            of.rests(study)
            return write_packet(study, path, pages, paper, copies, boards, start, hours, inches, bed)

        return write

    def _say_page(self) -> None:
        zoom = f"{100 * self.preview.zoom:.0f} % of true size" if abs(self.preview.zoom - 1.0) > 0.005 else "true size"
        self.says.setText(
            f"Page {self.preview.number + 1} of {len(self.preview.sizes)}, {zoom} on this screen. Print at 100 %, and "
            f"check the rule "
            "on each sheet."
        )

    def ask_packet(self) -> None:
        start = f"{self.session.design.name}.pdf"
        name, _ = QFileDialog.getSaveFileName(self, "Write the packet", start, "PDF (*.pdf)")
        if name:
            self.write_to(Path(name))

    def write_to(self, path: Path) -> None:
        """Write it, off the interface's thread."""
        write = self._writer()

        def take(wrote: list[str]) -> None:
            self.says.setText(f"Wrote {path.name}: {', '.join(wrote)}. Print at 100 %, and check the rule.")

        self.says.setText("Writing …")
        self.session.tasks.start(
            "packet", lambda _: write(path), take, lambda w: self.says.setText(f"! {w}"), words="writing the packet"
        )

    def ask_print(self) -> None:
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        dialog = QPrintDialog(printer, self)
        if dialog.exec():
            self.print_on(printer)

    def print_on(self, printer: QPrinter) -> None:
        """Print what is shown."""
        pdf, sizes = self.preview.pdf, self.preview.sizes

        def done(count: int) -> None:
            self.says.setText(f"Sent {count} pages to the printer. Check the 100 mm rule before you cut.")

        self.says.setText("Printing …")
        self.session.aside("printing", lambda: print_pages(printer, pdf, sizes), done)

    def _fill_exports(self, menu: QMenu) -> None:
        for words, what, kinds in EXPORTS:
            menu.addAction(words).triggered.connect(lambda _=False, w=what, k=kinds: self.ask_export(w, k))

    def ask_export(self, what: str, kinds: str) -> None:
        suffix = kinds.partition("*")[2].partition(" ")[0].strip(")")
        name, _ = QFileDialog.getSaveFileName(
            self, "Write for other programs", f"{self.session.design.name}{suffix}", kinds
        )
        if name:
            self.export_to(Path(name), what)

    def export_to(self, path: Path, what: str) -> None:
        """Write a solid, a drawing or a table, off the interface's thread."""
        study = self.session.apart()

        def work(_: Told) -> list[Path]:
            from yellowbob.shop.exports import export

            return export(study, path, what)

        def take(wrote: list[Path]) -> None:
            self.says.setText(f"Wrote {', '.join(one.name for one in wrote)}, in mm.")

        self.session.tasks.start(
            "export", work, take, lambda w: self.says.setText(f"! {w}"), words="writing for other programs"
        )

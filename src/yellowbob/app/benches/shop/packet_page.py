"""Packet: which pages go to the bench on paper."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QCheckBox, QFileDialog, QGridLayout, QVBoxLayout, QWidget

from yellowbob.app.benches.shop.list_pages import ShopPage
from yellowbob.app.benches.shop.view import ShopView
from yellowbob.app.session.background import Told
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.cards import button
from yellowbob.app.widgets.fields import Choice, labelled
from yellowbob.study import of

WORDS = {
    "sheet": "Sheet: side and plan, marks, weigh slip", "templates": "Templates at true size, tiled",
    "turning": "Test stations with boxes to fill in", "holes": "Holes with bits, in their order",
    "wire": "Wire and hardware in stringing order", "paint": "Painting plan", "finish": "Coats with their times",
    "cautions": "Cautions for these steps",
}  # fmt: skip


class PacketPage(ShopPage):
    """Pages ticked, paper chosen, written as PDF."""

    def __init__(self, session: Session, view: ShopView) -> None:
        super().__init__("Packet", session, view, "What was written")
        self.paper = Choice("Paper", ["a4", "letter"], lambda _: None)
        self.write = button("Write packet …", self.ask_packet, "Write the packet as PDF")
        self.ticks: dict[str, QCheckBox] = {}
        pages, grid = QWidget(), QGridLayout()
        for number, (name, words) in enumerate(WORDS.items()):
            tick = QCheckBox(words)
            tick.setAccessibleName(words)
            tick.setChecked(True)
            self.ticks[name] = tick
            grid.addWidget(tick, number % 4, number // 4)
        pages.setLayout(grid)
        left = QVBoxLayout()
        left.addLayout(labelled(("Paper", self.paper)))
        left.addWidget(self.write)
        self.lay_out(left, pages)

    def refresh(self) -> None:
        """Pages that have nothing to say of the design cannot be ticked."""
        self.view.show_things(None, ())
        if self.session.fault:
            self.says.setText(f"! {self.session.fault}")
            self.write.setEnabled(False)
            return
        from yellowbob.shop.packet import pages_for

        told = pages_for(self.session.study)
        for name, tick in self.ticks.items():
            tick.setEnabled(name in told)
        self.write.setEnabled(True)
        self.says.setText("Print at 100 %, and check the 100 mm rule on each sheet.")

    def chosen(self) -> list[str]:
        """The pages ticked that have something to say."""
        return [name for name, tick in self.ticks.items() if tick.isChecked() and tick.isEnabled()]

    def ask_packet(self) -> None:
        start = f"{self.session.design.name}.pdf"
        name, _ = QFileDialog.getSaveFileName(self, "Write the packet", start, "PDF (*.pdf)")
        if name:
            self.write_to(Path(name))

    def write_to(self, path: Path) -> None:
        """Write it, off the interface's thread."""
        study, pages, paper = self.session.study.apart(), self.chosen(), self.paper.currentText()

        def work(_: Told) -> list[str]:
            from yellowbob.shop.packet import write_packet

            of.rests(study)
            return write_packet(study, path, pages, paper)

        def take(wrote: list[str]) -> None:
            self.says.setText(f"Wrote {path.name}: {', '.join(wrote)}. Print at 100 %, and check the rule.")

        self.says.setText("Writing …")
        self.session.tasks.start(
            "packet", work, take, lambda w: self.says.setText(f"! {w}"), words="writing the packet"
        )

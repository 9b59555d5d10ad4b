"""A tank test read in a picture: two clicks at the body's ends and two along the waterline give pitch and draft."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QVBoxLayout

from yellowbob.app.benches.log.book import Book
from yellowbob.app.benches.log.found_pages import ALL_ON, fill_off, off_of
from yellowbob.app.benches.log.pages import LogPage, line_of
from yellowbob.app.session.background import Told
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.fields import Choice
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.picture_view import PictureView
from yellowbob.app.widgets.rows import labelled
from yellowbob.design.base import made
from yellowbob.design.model import Design
from yellowbob.ground.quantities import show
from yellowbob.ground.water import SALINITY_G_KG
from yellowbob.lines.tracing.picture_file import Picture, read_picture
from yellowbob.logbook.photos import copied, keep_photo
from yellowbob.logbook.records import TankTest
from yellowbob.study import Study
from yellowbob.trials.lain_of import lies_in_picture

STEPS = ("Click the nose, where its end meets the axis.", "Click the tail likewise.",
         "Click the water's edge at one side of it.", "Click the water's edge at the other side.")  # fmt: skip


class PicturePage(LogPage):
    """The picture stands in the drawing's place; what it says stands here."""

    def __init__(self, book: Book, view: PictureView) -> None:
        super().__init__("Picture", book, "What the picture says")
        self.view = view
        self.path: Path | None = None
        self.read: dict[str, float] | None = None
        self.off = Choice("What was off in the picture", [ALL_ON], lambda _: self.measure())
        self.water = Choice("Water in the picture", list(SALINITY_G_KG), lambda _: None)
        self.words = line_of("What the picture shows", "what it shows")
        view.changed.connect(self.clicked)
        view.dropped.connect(lambda name: self.open(Path(name)))
        left = QVBoxLayout()
        left.setSpacing(4)
        keys = QHBoxLayout()
        keys.addWidget(button("Open picture …", self.ask, "Open a picture of the build in the water"))
        keys.addWidget(button("Click anew", self.anew, "Forget the places clicked"))
        keys.addStretch(1)
        left.addLayout(keys)
        left.addLayout(labelled(("On it", self.off), ("Water", self.water), ("Words", self.words)))
        keep = QHBoxLayout()
        keep.addWidget(button("Keep as tank test", self.keep, "Keep pitch and draft as a tank test, with the picture"))
        keep.addWidget(button("Keep picture", self.keep_picture, "Keep the picture alone"))
        keep.addStretch(1)
        left.addLayout(keep)
        self.lay_out(left)

    def refresh(self) -> None:
        if self.ready():
            self.of_build(self._take)

    def _take(self, design: Design) -> None:
        fill_off(self.off, design)
        self.water.show_text(design.water.name)
        self.clicked()

    def ask(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self, "A picture of it in the water", "", "Pictures (*.png *.jpg *.jpeg *.tif *.tiff)"
        )
        if name:
            self.open(Path(name))

    def open(self, path: Path) -> None:
        """Show a picture to click in."""

        def opened(read: Picture) -> None:
            self.path = path
            self.view.show_picture(read)

        def refused(words: str) -> None:
            self.path = None
            self.view.show_picture(None)
            self.says.setText(f"! {words}")

        self.says.setText(f"Opening {path.name}.")
        self.session.tasks.start(
            "picture file",
            lambda _: read_picture(path, patient=True, to_show=True),
            opened,
            refused,
            words="opening the picture",
        )

    def anew(self) -> None:
        self.view.marks.clear()
        self.view.level.clear()
        self.view.update()
        self.clicked()

    def clicked(self) -> None:
        """What is to be clicked next; with all four places, what they say."""
        self.read = None
        self.view.levelling = len(self.view.marks) == 2
        count = len(self.view.marks) + len(self.view.level)
        if not self.ready():
            return
        if self.view.image is None:
            self.says.setText("A picture from the side, the camera level with the water, shows how it lies.")
        elif count < len(STEPS):
            self.says.setText(f"{count + 1} of {len(STEPS)}: {STEPS[count]}")
        else:
            self.measure()

    def measure(self) -> None:
        """Pitch and draft from the places clicked, in the background."""
        self.read = None
        if not self.ready() or len(self.view.marks) + len(self.view.level) < len(STEPS):
            return
        log, serial, off = self.book.log, self.book.serial, off_of(self.off)
        nose, tail = self.view.marks
        left, right = self.view.level

        def work(_: Told) -> dict[str, float]:
            return lies_in_picture(Study(log.design(serial)), off, (left, right), (nose, tail))

        self.session.tasks.start(
            "picture", work, self._tell, lambda w: self.says.setText(f"! {w}"), words="reading the picture"
        )

    def _tell(self, read: dict[str, float]) -> None:
        self.read = read
        unit = Units.of("length")
        draft, sure = show(read["draft_mm"], unit, 1), show(read["draft_u_mm"], unit, 1)
        said = (
            f"Pitch <b>{read['pitch_deg']:+z.1f} ± {read['pitch_u_deg']:.1f}°</b>, draft <b>{draft} ± {sure} {unit}</b>.<br>"
            "An estimate: the camera is taken to look level and square at it; what is unsure is the clicks alone. "
            "Drag a mark to set it better."
        )
        self.says.setText(said.replace("-", "−"))

    def keep(self) -> None:
        """Keep what the picture says as a tank test."""

        if not self.ready():
            return
        if self.read is None or self.path is None:
            self.says.setText("! four places are to be clicked first")
            return
        book, serial, path, read = self.book, self.book.serial, self.path, self.read
        water, off, note = self.water.currentText(), off_of(self.off), self.words.text().strip()

        def work() -> str:
            name = copied(book.log, serial, path)
            book.log.add(serial, "tank", made(TankTest, water=water, off=off, note=note, photo=name, **read))
            return name

        self.aside(
            "keeping the picture",
            work,
            self._kept("with the picture as {}. Two tests with other hooks tell where its weight lies"),
        )

    def keep_picture(self) -> None:
        """Keep the picture with its words."""

        if not self.ready():
            return
        if self.path is None:
            self.says.setText("! open a picture first")
            return
        book, serial, path, words = self.book, self.book.serial, self.path, self.words.text().strip()
        self.aside("keeping the picture", lambda: keep_photo(book.log, serial, path, words), self._kept("as {}"))

    def _kept(self, told: str) -> Callable[[str], None]:
        """What is done when a picture has been kept, under a name that stands in what is told."""
        words = self.words.text()

        def done(name: str) -> None:
            self.book.changed.emit()
            if self.words.text() == words:
                self.words.clear()
            self.says.setText(f"Kept {told.format(name)}.")

        return done

"""The packet's pages as they will be printed: at true size or any zoom, one after the other."""

from __future__ import annotations

import threading

import pypdfium2
from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QImage, QPixmap
from PySide6.QtPrintSupport import QPrinter
from PySide6.QtWidgets import QLabel, QScrollArea, QVBoxLayout, QWidget

from yellowbob.app.session.session import Session
from yellowbob.app.widgets.theme import Look

PER_INCH = 72.0
LEAST, MOST = 0.25, 4.0
PRINT_DPI = 300
_READER = threading.Lock()
"""The reader of PDF takes one caller at a time."""


def picture_of(pdf: bytes, number: int, scale: float) -> QImage:
    """A page as a picture, `scale` pixels a point."""
    with _READER:
        document = pypdfium2.PdfDocument(pdf)
        try:
            image = document[number].render(scale=scale).to_pil().convert("RGB")
        finally:
            document.close()
    return QImage(image.tobytes(), image.width, image.height, 3 * image.width, QImage.Format.Format_RGB888).copy()


def pages_in(pdf: bytes) -> list[tuple[float, float]]:
    """Width and height of each page, points."""
    with _READER:
        document = pypdfium2.PdfDocument(pdf)
        try:
            return [document.get_page_size(k) for k in range(len(document))]
        finally:
            document.close()


def print_pages(printer: QPrinter, pdf: bytes, sizes: list[tuple[float, float]]) -> int:
    """Print every page at its true size, on whatever thread; returns how many."""
    from PySide6.QtCore import QMarginsF, QRectF, QSizeF
    from PySide6.QtGui import QPageLayout, QPageSize, QPainter

    printer.setFullPage(True)
    printer.setResolution(PRINT_DPI)
    painter: QPainter | None = None
    for number, (wide, high) in enumerate(sizes):
        size = QPageSize(QSizeF(min(wide, high), max(wide, high)), QPageSize.Unit.Point)
        lying = QPageLayout.Orientation.Landscape if wide > high else QPageLayout.Orientation.Portrait
        printer.setPageLayout(QPageLayout(size, lying, QMarginsF(0, 0, 0, 0)))
        if painter is None:
            painter = QPainter(printer)
        else:
            printer.newPage()
        picture = picture_of(pdf, number, PRINT_DPI / PER_INCH)
        dots = printer.resolution() / PER_INCH
        painter.drawImage(QRectF(0, 0, wide * dots, high * dots), picture)
    if painter is not None:
        painter.end()
    return len(sizes)


class Preview(QScrollArea):
    """One page of a packet; `turned` when another is shown."""

    turned = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setAccessibleName("The packet as it will be printed")
        self.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.setMinimumSize(420, 240)
        self.pdf = b""
        self.sizes: list[tuple[float, float]] = []
        self.number = 0
        self.zoom = 1.0
        """1 is true size on this screen"""
        self.sheet = QLabel()
        self.sheet.setAccessibleName("Page")
        ground = QWidget()
        line = QVBoxLayout(ground)
        line.setAlignment(Qt.AlignmentFlag.AlignCenter)
        line.addWidget(self.sheet)
        self.setWidget(ground)
        self.setWidgetResizable(True)

    def show_packet(self, packet: tuple[bytes, list[tuple[float, float]]]) -> None:
        """Show a packet and its pages' sizes from the page that was shown before, if it has so many."""
        self.pdf, self.sizes = packet
        self.number = min(self.number, len(self.sizes) - 1)
        self.draw()

    def true_scale(self) -> float:
        """Pixels of this screen for one point of paper at its true size."""
        screen = self.screen()
        inch = screen.physicalDotsPerInchX() if screen is not None else 96.0
        # a screen that does not know its size says nonsense
        return (inch if 50.0 <= inch <= 400.0 else 96.0) / PER_INCH

    def set_zoom(self, zoom: float) -> None:
        """Times true size."""
        self.zoom = min(max(zoom, LEAST), MOST)
        self.draw()

    def whole_page(self) -> None:
        """As large as the page fits."""
        if self.sizes:
            wide, high = self.sizes[self.number]
            room = self.viewport().size()
            fits = min((room.width() - 24) / wide, (room.height() - 24) / high)
            self.set_zoom(fits / self.true_scale())

    def turn(self, by: int) -> None:
        """To another page."""
        if self.sizes:
            self.number = min(max(self.number + by, 0), len(self.sizes) - 1)
            self.draw()

    def draw(self) -> None:
        """The page as it is, as soon as it is drawn."""
        if not self.sizes:
            self.sheet.clear()
            return
        ratio = self.devicePixelRatioF()
        pdf, number, scale = self.pdf, self.number, self.true_scale() * self.zoom * ratio

        def show(picture: QImage) -> None:
            picture.setDevicePixelRatio(ratio)
            self.sheet.setPixmap(QPixmap.fromImage(picture))
            self.sheet.setStyleSheet(f"border: 1px solid {Look.now.line};")
            self.turned.emit()

        self.session.soon(
            "page", lambda: picture_of(pdf, number, scale), show, self.session.said.emit, "drawing the page"
        )

"""Files dropped on the window: a design opens, a picture goes to be traced."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtGui import QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import QMainWindow

from yellowbob.app.frame.message import Says
from yellowbob.design.files import SUFFIX

PICTURES = (".png", ".jpg", ".jpeg", ".tif", ".tiff")


class TakesFiles(QMainWindow, Says):
    """A window that files may be dropped on; what it does with them is its own."""

    def __init__(self) -> None:
        super().__init__()
        self.setAcceptDrops(True)

    def open(self, path: Path) -> None:
        """Open a design."""
        raise NotImplementedError

    def trace_picture(self, path: Path) -> None:
        """Trace a picture."""
        raise NotImplementedError

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Files may be dropped on the window."""
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """The first file dropped is taken in."""
        self.take_in(Path(event.mimeData().urls()[0].toLocalFile()))

    def take_in(self, path: Path) -> None:
        """Open a design; a picture goes to be traced."""
        if path.suffix.lower() == SUFFIX:
            self.open(path)
        elif path.suffix.lower() in PICTURES:
            self.trace_picture(path)
        else:
            kinds = f"a design ({SUFFIX}) or a picture ({', '.join(PICTURES)})"
            self.say(f"{path.name}: drop {kinds}; Start on the Lines bench reads SVG and solids", wrong=True)

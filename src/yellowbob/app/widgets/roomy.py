"""A page where there may be less room than it needs: then, and only then, it is scrolled."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, QSize, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QFrame, QScrollArea, QWidget


class Roomy(QScrollArea):
    """Holds one page: as large as the room, but never smaller than the page's own least.

    It takes no focus itself; a field that has it is brought into sight.
    """

    def __init__(self, page: QWidget) -> None:
        super().__init__()
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.page = page
        self.setWidget(page)
        page.installEventFilter(self)

    def minimumSizeHint(self) -> QSize:
        """Narrower than the page may be."""
        return QSize(200, 60)

    def sizeHint(self) -> QSize:
        """As much as the page would like."""
        return self.page.sizeHint()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """The page has what room there is."""
        super().resizeEvent(event)
        self._fit()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """What the page needs has changed."""
        if watched is self.page and event.type() == QEvent.Type.LayoutRequest:
            self._fit()
        return super().eventFilter(watched, event)

    def _fit(self) -> None:
        # before the scroll bars: what one takes off must not bring the other
        room, least = self.maximumViewportSize(), self.page.minimumSizeHint().expandedTo(self.page.minimumSize())
        wide = room.width() < least.width()
        high = room.height() < least.height()
        bar = self.horizontalScrollBar().sizeHint().height()
        if wide and not high:
            high = room.height() - bar < least.height()
        room -= QSize(bar if high else 0, bar if wide else 0)
        self.page.resize(room.expandedTo(least))

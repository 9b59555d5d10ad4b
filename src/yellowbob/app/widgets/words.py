"""Words that wrap, with what a layout asks of them again and again kept: how high they are at a width."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QSize
from PySide6.QtWidgets import QLabel


class Words(QLabel):
    """A label that wraps its words. A layout asks every page of a stack for its height at many widths at each turn, and a
    label sets its text anew each time: that took most of the time of turning a page."""

    def __init__(self, text: str = "") -> None:
        super().__init__(text)
        self._high: dict[int, int] = {}
        self._sizes: dict[str, QSize] = {}
        self.setWordWrap(True)

    def _forget(self) -> None:
        self._high.clear()
        self._sizes.clear()

    def setText(self, text: str) -> None:
        if text != self.text():
            self._forget()
            super().setText(text)

    def heightForWidth(self, width: int) -> int:
        if width not in self._high:
            self._high[width] = super().heightForWidth(width)
        return self._high[width]

    def sizeHint(self) -> QSize:
        if "wanted" not in self._sizes:
            self._sizes["wanted"] = super().sizeHint()
        return self._sizes["wanted"]

    def minimumSizeHint(self) -> QSize:
        if "least" not in self._sizes:
            self._sizes["least"] = super().minimumSizeHint()
        return self._sizes["least"]

    def changeEvent(self, event: QEvent) -> None:
        if hasattr(self, "_high"):  # Qt asks before Python has finished making it
            self._forget()
        super().changeEvent(event)

"""Lines of a list's entry set as far apart as text is read, not as close as it fits."""

from __future__ import annotations

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QSize, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QApplication, QStyle, QStyledItemDelegate, QStyleOptionViewItem

BREAK = "\u2028"
"""What Qt has put in the place of a line's end."""
PITCH, PAD_PX = 1.25, 6
"""Line pitch over the font's own height; room round an entry."""


class Spaced(QStyledItemDelegate):
    """Draws each line of an entry by itself."""

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        shown = QStyleOptionViewItem(option)
        self.initStyleOption(shown, index)
        lines, shown.text = shown.text.split(BREAK), ""
        style = shown.widget.style() if shown.widget is not None else QApplication.style()
        style.drawControl(QStyle.ControlElement.CE_ItemViewItem, shown, painter, shown.widget)
        painter.save()
        painter.setFont(shown.font)
        painter.setPen(shown.palette.color(shown.palette.ColorRole.Text))
        pitch = self._pitch(shown)
        box = shown.rect.adjusted(PAD_PX, PAD_PX // 2, -PAD_PX, 0)
        for number, line in enumerate(lines):
            words = shown.fontMetrics.elidedText(line, Qt.TextElideMode.ElideRight, box.width())
            painter.drawText(box.left(), round(box.top() + number * pitch + shown.fontMetrics.ascent()), words)
        painter.restore()

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        shown = QStyleOptionViewItem(option)
        self.initStyleOption(shown, index)
        lines = shown.text.split(BREAK)
        wide = max(shown.fontMetrics.horizontalAdvance(line) for line in lines)
        return QSize(wide + 2 * PAD_PX, round(len(lines) * self._pitch(shown)) + PAD_PX)

    @staticmethod
    def _pitch(option: QStyleOptionViewItem) -> float:
        return PITCH * (option.fontMetrics.ascent() + option.fontMetrics.descent())

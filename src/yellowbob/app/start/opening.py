"""What stands on the screen until the window is made: its ground, and in words and a bar what is being done."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QProgressBar, QVBoxLayout, QWidget

from yellowbob.app.widgets.theme import Look, colour, font, wear

HEADER_PX, FOOT_PX = 56, 34


class Opening(QWidget):
    """The window's place while it is being made."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("bench")
        self.setWindowTitle("Yellow Bob")
        self.setMinimumSize(960, 600)
        self.painted = False
        self.doing = QLabel("Reading the program …")
        self.doing.setFont(font(12))
        self.doing.setAccessibleName("What is being done")
        self.why = QLabel()
        self.why.setObjectName("soft")
        self.why.setWordWrap(True)
        self.bar = QProgressBar()
        self.bar.setRange(0, 0)
        self.bar.setTextVisible(False)
        self.bar.setFixedSize(360, 8)
        self.bar.setAccessibleName("How far it is")
        column = QVBoxLayout()
        column.setSpacing(12)
        for one in (self.doing, self.bar, self.why):
            column.addWidget(one)
        self.why.setFixedWidth(360)
        line = QHBoxLayout(self)
        line.addStretch(1)
        line.addLayout(column)
        line.addStretch(1)
        column.insertStretch(0, 1)
        column.addStretch(1)
        wear(self)

    def tell(self, doing: str, why: str = "", share: float = 0.0) -> None:
        """Say what is being done and why it takes a while; a share of 0 is not known."""
        self.doing.setText(doing)
        self.why.setText(why)
        self.bar.setRange(0, 100 if share else 0)
        self.bar.setValue(round(100 * share))

    def paintEvent(self, _: QPaintEvent) -> None:
        """The grounds of header, bench and foot, as the window will have them."""
        painter, now = QPainter(self), Look.now
        wide, high = self.width(), self.height()
        painter.fillRect(self.rect(), colour(now.paper))
        painter.fillRect(QRectF(0, 0, wide, HEADER_PX), colour(now.wood))
        painter.fillRect(QRectF(0, high - FOOT_PX, wide, FOOT_PX), colour(now.foot))
        painter.setPen(colour(now.ink))
        painter.setFont(font(14, bold=True))
        painter.drawText(QRectF(18, 0, wide, HEADER_PX), Qt.AlignmentFlag.AlignVCenter, "Yellow Bob")
        self.painted = True

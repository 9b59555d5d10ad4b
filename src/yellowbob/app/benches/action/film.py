"""A short film of a run or a throw: the bench's own drawing, frame by frame, as animated WebP or a row of PNG."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from PIL import Image
from PySide6.QtCore import QObject, QSize, QTimer
from PySide6.QtGui import QImage

from yellowbob.action.flight import Cast
from yellowbob.action.running import Trim
from yellowbob.action.swing import Swing
from yellowbob.app.benches.action.view import ActionView
from yellowbob.app.session.session import Session
from yellowbob.ground.errors import BadInput

SIZE = QSize(800, 450)
FRAME_S = 0.05
LONGEST_S, SWINGS = 4.0, 3.0
ROW_FRAMES = 8
"""Of a row of PNG, one beside the other."""


def _grabbed(view: ActionView) -> Image.Image:
    image = view.grab().toImage().convertToFormat(QImage.Format.Format_RGBA8888)
    return Image.frombytes("RGBA", (image.width(), image.height()), bytes(image.constBits())).convert("RGB")


def frames_of_run(session: Session, trim: Trim, swing: Swing | None) -> Iterator[Image.Image]:
    """SWINGS swings of it at a speed, at most LONGEST_S; a still where it does not swing."""
    view = ActionView(session)
    view.resize(SIZE)
    view.show_trim(trim, swing=swing)
    lasts = min(SWINGS / max(swing.hz, 0.2), LONGEST_S) if swing is not None else FRAME_S
    for n in range(max(round(lasts / FRAME_S), 1)):
        view.time_s = (n + 1) * FRAME_S
        yield _grabbed(view)


def frames_of_throw(session: Session, flown: Cast) -> Iterator[Image.Image]:
    """It along its flight, in real time."""
    view = ActionView(session)
    view.resize(SIZE)
    view.show_flight(flown)
    times = flown.flight.times_s
    for n in range(max(round(float(times[-1]) / FRAME_S), 1)):
        view.flight_at = int(times.searchsorted(n * FRAME_S))
        yield _grabbed(view)


class Filming(QObject):
    """A film made a frame at a turn of the event loop, and written off the interface's thread."""

    def __init__(self, session: Session, frames: Iterator[Image.Image], path: Path) -> None:
        super().__init__()
        self.session, self.frames, self.path = session, frames, path
        self._design = session.design
        self._made: list[Image.Image] = []
        self._next = QTimer(self)
        self._next.timeout.connect(self._turn)
        self._next.start()

    def stop(self) -> None:
        """Make no more of it."""
        self._next.stop()
        self._made = []

    def _turn(self) -> None:
        if self.session.design is not self._design:
            self.session.said.emit(f"! {self.path.name} is not written: the design was changed meanwhile")
            self.stop()
            return
        frame = next(self.frames, None)
        if frame is not None:
            self._made.append(frame)
            return
        self._next.stop()
        made, path = self._made, self.path
        self.session.aside(f"writing {path.name}", lambda: write_film(iter(made), path), self._written)

    def _written(self, count: int) -> None:
        self._made = []
        self.session.said.emit(f"Wrote {self.path.name}, {count} frames.")


def write_film(frames: Iterator[Image.Image], path: Path) -> int:
    """Write an animated WebP, or ROW_FRAMES of them side by side as a PNG, by the suffix; returns the frames in it.

    Raises BadInput for another suffix or a file that cannot be written.
    """
    kind = path.suffix.lower()
    if kind not in (".webp", ".png"):
        raise BadInput(f"{path.name}: a film is written as .webp, or as a row of pictures in a .png")
    every = list(frames)
    try:
        if kind == ".webp":
            every[0].save(
                path, save_all=True, append_images=every[1:], duration=round(1000 * FRAME_S), loop=0, quality=80
            )
            return len(every)
        step = max(len(every) // ROW_FRAMES, 1)
        picked = every[::step][:ROW_FRAMES]
        row = Image.new("RGB", (sum(f.width for f in picked), picked[0].height))
        for k, frame in enumerate(picked):
            row.paste(frame, (sum(f.width for f in picked[:k]), 0))
        row.save(path)
    except OSError as error:
        raise BadInput(f"{path}: cannot be written ({error.strerror or error})") from None
    return len(picked)

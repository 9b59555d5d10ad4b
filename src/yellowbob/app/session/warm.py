"""Bringing in the compiled code once the window has painted, on a thread of its own."""

from __future__ import annotations

import gc
from collections.abc import Callable
from contextlib import suppress
from importlib import import_module
from pkgutil import walk_packages
from threading import Thread

import numpy as np
from PySide6.QtCore import QObject, Signal, Slot

from yellowbob.afloat.rest import Afloat, all_rests, rest_near
from yellowbob.design.base import build_rules
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.picture import View, contour, shaded


class Warm:
    """Whether the compiled code is loaded; until then the window paints without it."""

    ready = False
    frozen = False


def load_compiled() -> None:
    """Bring in the compiler and its kept code."""
    corners = np.array([[0.0, 0, 0], [9, 0, 0], [0, 9, 0], [0, 0, 9]])
    mesh = Mesh(corners, np.array([[0, 2, 1], [0, 1, 3], [0, 3, 2], [1, 2, 3]], np.int32))
    look = View(np.array([1.0, 0, 0]), np.array([0.0, 0, 1]), 1.0, np.zeros(3), (4.0, 4.0))
    shaded(mesh, look, 8, 8, (0, 0, 0), (9, 9, 9))
    contour(mesh, look)
    all_rests(Afloat(mesh, 0.05, (2.0, 2.0, 2.0), 0.001))
    rest_near(Afloat(mesh, 0.05, (2.0, 2.0, 2.0), 0.001), (0.0, 0.0, 1.0))
    Warm.ready = True


LATER = (
    "pyqtgraph", "scipy.optimize", "scipy.ndimage", "scipy.linalg", "scipy.special", "cv2",
    "skimage.measure._find_contours", "uncertainties", "shapely.geometry", "reportlab.pdfgen.canvas", "reportlab.lib.fonts",
    "PIL.ImageFile", "sqlalchemy", "icalendar", "yellowbob.action.pressure", "yellowbob.action.flight_kernel",
    "yellowbob.action.wetted_kernel", "yellowbob.ballast.nearest", "yellowbob.trials.odds", "yellowbob.trials.variants",
    "yellowbob.trials.trim", "yellowbob.trials.remedies", "yellowbob.trials.ladder", "yellowbob.fitout.apply",
    "yellowbob.fitout.mix", "yellowbob.checks.registry", "yellowbob.shop.packet", "yellowbob.shop.sheet",
    "yellowbob.reports.contract", "yellowbob.lines.importing", "yellowbob.lines.picture",
)  # fmt: skip
"""What benches and their pages need when they are first turned to, beside their own modules: brought in beforehand, so that
the interface does not stand still then."""


def needed_later() -> list[str]:
    """The names of LATER and of every module of the benches."""
    benches = import_module("yellowbob.app.benches")
    return [*LATER, *(m.name for m in walk_packages(benches.__path__, f"{benches.__name__}.") if not m.ispkg)]


def load_later() -> None:
    """Bring in what is needed later; what is not there is missed when it is needed."""
    for name in needed_later():
        with suppress(ImportError):
            import_module(name)
    build_rules()
    drawn_beforehand()


def drawn_beforehand() -> None:
    """The kinds that something new may be of, read from their files and drawn."""
    kinds = import_module("yellowbob.app.benches.begin.kinds")
    import_module("yellowbob.app.benches.begin.bench")
    for kind in kinds.KINDS:
        kinds.outlines(kind)


class Loader(QObject):
    """Loads the compiled code and says so on the interface's thread."""

    loaded = Signal()

    def load(self, done: Callable[[], None]) -> None:
        """Load it, then call `done`."""
        self.loaded.connect(done)
        self.loaded.connect(self._freeze)
        # a daemon, so that closing the window at once does not wait for the compiler
        Thread(target=self._load, daemon=True).start()

    @Slot()
    def _freeze(self) -> None:
        """What was loaded stays: looking through it for garbage takes a third of a second every time. Once a process, and on
        the interface's thread, on which alone its objects may end."""
        if not Warm.frozen:
            Warm.frozen = True
            gc.collect()
            gc.freeze()

    def _load(self) -> None:
        load_compiled()
        self.loaded.emit()
        load_later()

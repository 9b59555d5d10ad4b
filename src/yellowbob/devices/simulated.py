"""A simulated scale and callipers that behave like the real ones: settling, drift, noise, tare, units, unplugging."""

from __future__ import annotations

import math
import random
from collections.abc import Callable

from yellowbob.devices.port import Port

SETTLE_LOOKS = 6
"""Answers until a new load has settled."""
_UNITS = {"g": 1.0, "oz": 28.349523125, "gr": 0.06479891, "mm": 1.0, "in": 25.4}


class Simulated:
    """One device. `load` is what lies on it (g) or between its jaws (mm); answers depend on the seed alone."""

    def __init__(self, what: str, load: float, step: float, unit: str, drift: float = 0.0, seed: int = 1) -> None:
        self.what, self.load, self.step, self.unit, self.drift = what, load, step, unit, drift
        self.plugged, self.garbage, self.restless = True, False, False
        self._zero, self._looks, self._age = 0.0, 0, 0
        self._chance = random.Random(seed)
        self._answer = b""

    def put(self, load: float) -> None:
        """Lay something else on it."""
        self.load, self._looks = load, 0

    def write(self, data: bytes, /) -> int:
        """Take what is sent; a simulated device needs no asking."""
        if not self.plugged:
            raise OSError("no such device")
        command = data.decode("ascii", "replace").strip()
        self._answer = (
            self._tell() if command == "read" else self._tare() if command == "tare" else b"fault unknown command\n"
        )
        return len(data)

    def readline(self) -> bytes:
        """The next line it sends."""
        if not self.plugged:
            raise OSError("no such device")
        answer, self._answer = self._answer, b""
        return answer

    def close(self) -> None:
        """Nothing is held open."""
        self._answer = b""

    def _now(self) -> float:
        """The load as the cell feels it: swinging in at first, then with the drift of its age."""
        self._looks += 1
        self._age += 1
        swing = self.load * 0.2 * math.exp(-1.6 * self._looks) * math.cos(2.4 * self._looks)
        return self.load - self._zero + swing + self.drift * self._age

    def _tell(self) -> bytes:
        if self.garbage:
            return bytes(self._chance.randrange(128, 256) for _ in range(9)) + b"\n"
        value = (self._now() + self._chance.gauss(0.0, self.step / 4)) / _UNITS[self.unit]
        step = self.step / _UNITS[self.unit]
        shown = round(value / step) * step
        decimals = max(0, math.ceil(-math.log10(step)))
        steady = self._looks > SETTLE_LOOKS and not self.restless
        return f"{self.what} {shown:.{decimals}f} {self.unit} {'steady' if steady else 'moving'}\n".encode("ascii")

    def _tare(self) -> bytes:
        self._zero = self.load
        return self._tell()


def scale(load_g: float = 31.24) -> Simulated:
    """A bench scale to 0.01 g that drifts a little."""
    return Simulated("mass", load_g, 0.01, "g", drift=2e-5)


def callipers(load_mm: float = 24.35) -> Simulated:
    """Callipers that send a length in mm."""
    return Simulated("length", load_mm, 0.01, "mm")


SIMULATED: dict[str, Callable[[], Port]] = {"simulated scale": scale, "simulated callipers": callipers}

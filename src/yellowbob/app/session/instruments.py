"""The scale and callipers at the bench: one reading taken off the interface's thread, into the field that asked."""

from __future__ import annotations

from collections.abc import Callable
from threading import Thread

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QMenu

from yellowbob.app.session.settings import Settings
from yellowbob.devices.reading import Port, What, open_port, take
from yellowbob.ground.errors import BadInput

USUAL = {"mass": "simulated scale", "length": "simulated callipers"}
PORTS: dict[str, str] = dict(USUAL)
"""What each kind of field reads from; the simulated devices until the maker names a port."""


class Instruments(QObject):
    """Opens the port for each reading, so that a cable may come and go."""

    taken = Signal(float)
    failed = Signal(str)

    open: Callable[[str], Port] = staticmethod(open_port)
    pause_s = 0.08

    def ask(self, what: What) -> None:
        """Take a reading; `taken` or `failed` follows."""
        Thread(target=self._take, args=(what,), daemon=True).start()

    def _take(self, what: What) -> None:
        try:
            port = type(self).open(PORTS[what])
            try:
                value = take(port, what, self.pause_s)
            finally:
                port.close()
        except BadInput as error:
            self.failed.emit(str(error))
            return
        self.taken.emit(value)


def use_kept_ports(settings: Settings) -> None:
    """The ports chosen last time."""
    for what, usual in USUAL.items():
        PORTS[what] = settings.text(f"port_{what}", usual)


def fill_ports(menu: QMenu, what: str, settings: Settings) -> None:
    """The simulated device and every serial port there is, the one in use marked."""
    from serial.tools.list_ports import comports

    def use(name: str) -> None:
        PORTS[what] = name
        settings.put(f"port_{what}", name)

    for name in dict.fromkeys([USUAL[what], *(port.device for port in comports()), PORTS[what]]):
        action = menu.addAction(name)
        action.setCheckable(True)
        action.setChecked(name == PORTS[what])
        action.triggered.connect(lambda _=False, n=name: use(n))

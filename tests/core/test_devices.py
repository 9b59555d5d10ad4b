"""Scale and callipers: settling, tare, units, and everything that goes wrong on a serial line, over a real pty too."""

from __future__ import annotations

import os
import threading
import tty

import pytest

from yellowbob.devices.reading import BadReading, open_port, read_line, take
from yellowbob.devices.simulated import Simulated, callipers, scale


def quick(port: Simulated, what: str = "mass") -> float:
    return take(port, what, pause_s=0.0)


def test_a_load_settles_before_it_is_taken() -> None:
    port = scale(12.5)
    first = read_line((port.write(b"read\n"), port.readline())[1], "mass")
    assert not first.steady
    assert abs(first.value - 12.5) > 0.2
    assert quick(port) == pytest.approx(12.5, abs=0.02)
    port.put(7.31)
    assert quick(port) == pytest.approx(7.31, abs=0.02)


def test_tare_and_units() -> None:
    port = scale(100.0)
    port.write(b"tare\n")
    port.readline()
    port.put(131.2)
    assert quick(port) == pytest.approx(31.2, abs=0.02)
    ounces = scale(28.35)
    ounces.unit = "oz"
    assert quick(ounces) == pytest.approx(28.35, abs=0.03)
    assert take(callipers(24.35), "length", pause_s=0) == pytest.approx(24.35, abs=0.02)


def test_what_goes_wrong_is_said_plainly() -> None:
    port = scale(5.0)
    port.plugged = False
    with pytest.raises(BadReading, match="went away"):
        quick(port)
    port = scale(5.0)
    port.garbage = True
    with pytest.raises(BadReading, match="no text"):
        quick(port)
    port = scale(5.0)
    port.restless = True
    with pytest.raises(BadReading, match="still moving"):
        quick(port)
    with pytest.raises(BadReading, match="below zero"):
        quick(scale(-3.0))
    with pytest.raises(BadReading, match="other device"):
        quick(callipers(10.0), "mass")


@pytest.mark.parametrize("line", [b"", b"\n", b"hello\n", b"mass 12\n", b"mass twelve g steady\n", b"\xff\xfe\n",
                                  b"mass 12.3 mm steady\n", b"fault overload\n", b"1e999 g\n"])  # fmt: skip
def test_garbage_is_refused(line: bytes) -> None:
    with pytest.raises(BadReading):
        read_line(line, "mass")


@pytest.mark.parametrize(("line", "value"), [(b"mass 31.24 g steady\r\n", 31.24), (b"31,24 g\n", 31.24), (b"-0.5 g\n", -0.5),
                                             (b"mass 1.5 oz moving\n", 42.524285)])  # fmt: skip
def test_lines_are_understood(line: bytes, value: float) -> None:
    assert read_line(line, "mass").value == pytest.approx(value, abs=1e-5)


def test_a_real_serial_port_is_read_through_pyserial() -> None:
    device, line = os.openpty()
    tty.setraw(line)
    port_of_scale = scale(8.88)

    def serve() -> None:
        try:
            while True:
                command = os.read(device, 64)
                port_of_scale.write(command)
                os.write(device, port_of_scale.readline())
        except OSError:
            return

    threading.Thread(target=serve, daemon=True).start()
    port = open_port(os.ttyname(line))
    assert take(port, "mass", pause_s=0.0) == pytest.approx(8.88, abs=0.02)
    os.close(device)
    with pytest.raises(BadReading):
        take(port, "mass", pause_s=0.0)
    port.close()
    os.close(line)


def test_a_port_that_is_not_there_is_said() -> None:
    with pytest.raises(BadReading, match="cannot be opened"):
        open_port("/dev/no-such-port")

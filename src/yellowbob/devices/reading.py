"""Taking a reading from a scale or callipers over a serial line.

The protocol is lines of ASCII. The program asks `read` or `tare`; the device answers one line: a kind (`mass` or
`length`), a number, a unit, and `steady` or `moving`, such as `mass 31.24 g steady`, or `fault` and words. A device that
just prints a number and a unit is understood too, and then counts as steady once two answers in a row agree.
"""

from __future__ import annotations

import re
import time
from dataclasses import dataclass
from typing import Literal

from yellowbob.devices.port import Port
from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import read_quantity

What = Literal["mass", "length"]

TRIES = 25
PAUSE_S = 0.12
LONGEST_LINE = 200
AGREE = {"mass": 0.011, "length": 0.011}
"""Two bare answers in a row this close together, g or mm, are a steady one."""
UNSTEADY = "still moving after {tries} looks; keep draughts and hands off it and take the reading again"

_LINE = re.compile(
    r"^(?:(?P<kind>mass|length)\s+)?(?P<value>[-+−]?\d+(?:[.,]\d+)?)\s*(?P<unit>[a-zA-Z\"/]+)(?:\s+(?P<state>steady|moving))?$"
)


class BadReading(BadInput):
    """A device gave nothing that can be used; the message says why and what to do."""


@dataclass(frozen=True)
class Taken:
    """A line as read: value in the core's unit (g or mm), and whether it was steady (None: not said)."""

    what: What
    value: float
    steady: bool | None


def read_line(line: bytes, what: What) -> Taken:
    """One line from a device. Raises BadReading for nothing, garbage, another kind, or a fault told by the device."""
    name = "scale" if what == "mass" else "callipers"
    if not line.strip():
        raise BadReading(f"the {name} did not answer; check that it is on and plugged in")
    try:
        text = line[:LONGEST_LINE].decode("ascii").strip()
    except UnicodeDecodeError:
        raise BadReading(f"the {name} sent {line[:12]!r}, which is no text; check the port's speed") from None
    if text.startswith("fault"):
        raise BadReading(f"the {name} says: {text[5:].strip() or 'fault'}")
    found = _LINE.match(text)
    if not found:
        raise BadReading(
            f"the {name} sent '{text[:40]}', which is no reading; expected a line such as mass 31.24 g steady"
        )
    if found["kind"] and found["kind"] != what:
        raise BadReading(f"that is a {found['kind']}, and this field wants a {what}; use the other device")
    try:
        value = read_quantity(f"{found['value'].replace('−', '-')} {found['unit']}", what)
    except BadInput:
        raise BadReading(f"the {name} sent '{text[:40]}', which is no {what}; set it to {'g' if what == 'mass' else 'mm'}") \
            from None  # fmt: skip
    return Taken(what, value, {"steady": True, "moving": False, None: None}[found["state"]])


def open_port(name: str, speed: int = 9600) -> Port:
    """A port by the name a maker gives it: `simulated scale`, `simulated callipers`, or a serial port such as
    /dev/ttyUSB0. Raises BadReading when it cannot be opened."""
    from yellowbob.devices.simulated import SIMULATED

    if name in SIMULATED:
        return SIMULATED[name]()
    import serial

    try:
        port: Port = serial.serial_for_url(name, baudrate=speed, timeout=1.0)
    except (serial.SerialException, ValueError, OSError) as error:
        words = str(error).split(":")[0][:80]
        raise BadReading(f"{name}: cannot be opened ({words}); check the cable and the port's name") from None
    return port


def ask(port: Port, command: str, what: What) -> Taken:
    """Send a command and read the answer. A port that went away is said as BadReading."""
    try:
        port.write(f"{command}\n".encode("ascii"))
        line = port.readline()
    except (OSError, ValueError, TypeError) as error:
        name = "scale" if what == "mass" else "callipers"
        raise BadReading(f"the {name} went away ({str(error)[:60]}); plug it in and take the reading again") from None
    return read_line(line, what)


def take(port: Port, what: What, pause_s: float = PAUSE_S, tries: int = TRIES) -> float:
    """A steady reading, in g or mm. Raises BadReading for what is not steady, below 0, or no reading at all."""
    name = "scale" if what == "mass" else "callipers"
    last: float | None = None
    for _ in range(tries):
        taken = ask(port, "read", what)
        agrees = last is not None and abs(taken.value - last) <= AGREE[what]
        if taken.steady or (taken.steady is None and agrees):
            if taken.value < 0:
                raise BadReading(
                    f"the {name} reads below zero ({taken.value:g}); tare it empty and take the reading again"
                )
            return taken.value
        last = taken.value
        time.sleep(pause_s)
    raise BadReading(f"the {name} is {UNSTEADY.format(tries=tries)}")

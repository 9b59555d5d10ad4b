"""What is needed of a serial port."""

from __future__ import annotations

from typing import Protocol


class Port(Protocol):
    """What is needed of a serial port; pyserial's has it, and so do the simulated devices."""

    def write(self, data: bytes, /) -> int | None:
        """Send bytes."""

    def readline(self) -> bytes:
        """One line, or what came until the time ran out."""

    def close(self) -> None:
        """Let the port go."""

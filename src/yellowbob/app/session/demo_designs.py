"""The designs of the made-up workshop that ship with the program."""

from __future__ import annotations

from pathlib import Path

FOLDER = Path(__file__).parent.parent.parent / "demo"
FIRST = "sallow-74.ybob"
DEMO_PICTURE = FOLDER / "to-trace.jpg"


def demo_files() -> list[Path]:
    """All demo designs, the first one first."""
    files = sorted(FOLDER.glob("*.ybob"), key=lambda p: (p.name != FIRST, p.name))
    return files

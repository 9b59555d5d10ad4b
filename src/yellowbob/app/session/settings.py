"""What is remembered between starts: recent files, units, evening colours, the window's size."""

from __future__ import annotations

import hashlib
import os
from collections.abc import Iterator
from itertools import islice
from pathlib import Path

from platformdirs import user_config_path
from PySide6.QtCore import QSettings

MOST_RECENT = 8
MOST_LOOKED_AT, MOST_FOLDERS = 500, 300
"""Files read, and folders listed, for one that was moved."""


class Settings:
    """A small INI file in the user's configuration folder."""

    def __init__(self, folder: Path | None = None) -> None:
        place = (folder or user_config_path("yellow-bob")) / "settings.ini"
        self._store = QSettings(str(place), QSettings.Format.IniFormat)

    def recent(self) -> list[Path]:
        """Files opened lately that can still be found, newest first; one that was moved or renamed where it is now."""
        found = (self.whereabouts(path) for path in self._named())
        return list(dict.fromkeys(path for path in found if path is not None))

    def remember(self, path: Path) -> None:
        """Put a file first among the recent ones, with what it is known by should it be moved."""
        path = path.absolute()
        names = [str(path), *(str(p) for p in self._named() if p != path)][:MOST_RECENT]
        self._store.setValue("recent", names)
        marks = {name: self.text(f"marks/{_key(Path(name))}", "") for name in names} | {str(path): _mark(path)}
        self._store.remove("marks")
        for name, mark in marks.items():
            self._store.setValue(f"marks/{_key(Path(name))}", mark)
        self._store.sync()

    def whereabouts(self, path: Path) -> Path | None:
        """The file, or where it went: found near its old place by what it was known by; None where it is gone."""
        if path.is_file():
            return path
        mark = self.text(f"marks/{_key(path.absolute())}", "")
        near = islice(_near(path), MOST_LOOKED_AT) if mark else ()
        return next((one for one in near if _mark(one) == mark), None)

    def _named(self) -> list[Path]:
        listed = self._store.value("recent", [])
        names = [listed] if isinstance(listed, str) else listed if isinstance(listed, list) else []
        return [Path(n) for n in names]

    def text(self, key: str, default: str) -> str:
        return str(self._store.value(key, default))

    def put(self, key: str, value: str) -> None:
        self._store.setValue(key, value)
        self._store.sync()


def _key(path: Path) -> str:
    return hashlib.sha256(str(path).encode()).hexdigest()[:24]


def _mark(path: Path) -> str:
    """What a file is known by: what is in it."""
    try:
        return hashlib.sha256(path.read_bytes()).hexdigest()
    except OSError:
        return ""


def _near(path: Path) -> Iterator[Path]:
    """Files of its sort in the folders about its old place: its own, those in that, then about the one above, and so on."""
    seen: set[str] = set()
    for folder in islice((p for p in path.absolute().parents if p.is_dir()), 3):
        waiting = [str(folder)]
        while waiting:
            here = waiting.pop(0)
            if here in seen:
                continue
            seen.add(here)
            if len(seen) > MOST_FOLDERS:
                return
            try:
                with os.scandir(here) as entries:
                    listed = list(entries)
            except OSError:
                continue
            for entry in listed:
                if entry.is_dir(follow_symlinks=False):
                    if not entry.name.startswith("."):
                        waiting.append(entry.path)
                elif entry.name.endswith(path.suffix):
                    yield Path(entry.path)

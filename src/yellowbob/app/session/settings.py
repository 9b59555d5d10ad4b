"""What is remembered between starts: recent files, units, evening colours, the window's size."""

from __future__ import annotations

from pathlib import Path

from platformdirs import user_config_path
from PySide6.QtCore import QSettings

MOST_RECENT = 8


class Settings:
    """A small INI file in the user's configuration folder."""

    def __init__(self, folder: Path | None = None) -> None:
        place = (folder or user_config_path("yellow-bob")) / "settings.ini"
        self._store = QSettings(str(place), QSettings.Format.IniFormat)

    def recent(self) -> list[Path]:
        """Files opened lately that are still there, newest first."""
        listed = self._store.value("recent", [])
        names = [listed] if isinstance(listed, str) else listed if isinstance(listed, list) else []
        return [Path(n) for n in names if Path(n).is_file()]

    def remember(self, path: Path) -> None:
        names = [str(path.absolute())] + [str(p) for p in self.recent() if p != path.absolute()]
        self._store.setValue("recent", names[:MOST_RECENT])
        self._store.sync()

    def text(self, key: str, default: str) -> str:
        return str(self._store.value(key, default))

    def put(self, key: str, value: str) -> None:
        self._store.setValue(key, value)
        self._store.sync()

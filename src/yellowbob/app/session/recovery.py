"""What was typed and not yet saved, kept beside the settings so that a kill loses nothing."""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from platformdirs import user_state_path

from yellowbob.design.files import SUFFIX, read_json, to_json, write_text_whole
from yellowbob.design.model import Design
from yellowbob.ground.errors import YellowBobError

DELAY_MS = 700
ASIDE, MOST_ASIDE = "aside", 20
"""The folder of designs that were left without a file, and how many of them are kept."""


@dataclass(frozen=True)
class Kept:
    """The last design of an earlier session. `saved` when its file already holds it."""

    design: Design
    path: Path | None
    saved: bool


class Recovery:
    """Keeps one design on disk. Writing never interrupts work: a full or read-only disk is noted in `trouble`."""

    def __init__(self, folder: Path | None = None, delay_ms: int = DELAY_MS) -> None:
        self.file = (folder or user_state_path("yellow-bob")) / "kept.json"
        self.delay_ms = delay_ms
        self.trouble = ""

    def keep(self, design: Design, path: Path | None, saved: bool) -> None:
        where = json.dumps(str(path.absolute()) if path else None)
        try:
            self.file.parent.mkdir(parents=True, exist_ok=True)
            record = f'{{"path": {where}, "saved": {json.dumps(saved)}, "design": {to_json(design)}}}\n'
            write_text_whole(self.file, record)
            self.trouble = ""
        except (OSError, YellowBobError) as error:
            self.trouble = f"what you change is not kept: {error}"

    def set_aside(self, design: Design) -> None:
        """Put down a design that no file holds before another one takes its place; the last MOST_ASIDE stay."""
        folder = self.file.parent / ASIDE
        word = "".join(c if c.isalnum() else "-" for c in design.name).strip("-").lower() or "design"
        try:
            folder.mkdir(parents=True, exist_ok=True)
            write_text_whole(folder / f"{datetime.now(UTC):%Y%m%d-%H%M%S-%f}-{word[:40]}{SUFFIX}", to_json(design))
            for old in self.aside()[MOST_ASIDE:]:
                old.unlink(missing_ok=True)
        except (OSError, YellowBobError) as error:
            self.trouble = f"what you leave is not kept: {error}"

    def aside(self) -> list[Path]:
        """Designs that were left without a file, the newest first."""
        return sorted((self.file.parent / ASIDE).glob(f"*{SUFFIX}"), reverse=True)

    def last(self) -> Kept | None:
        """What was kept, None when there is nothing or it cannot be read."""
        try:
            record = json.loads(self.file.read_text(encoding="utf-8"))
            design = read_json(json.dumps(record["design"]), "the kept design")
            path = Path(record["path"]) if record["path"] else None
            return Kept(design, path, bool(record["saved"]))
        except (OSError, ValueError, KeyError, TypeError, YellowBobError):
            return None

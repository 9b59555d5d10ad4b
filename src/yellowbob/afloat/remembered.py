"""Rests worked out before, kept in the user's cache folder, so that the last design is seen at rest at once.

The key is a digest of everything the rests follow from and of the solver's own sources, so nothing
stale is ever read; a missing, unreadable or
read-only folder only means working them out again.
"""

from __future__ import annotations

import hashlib
import json
from dataclasses import asdict
from functools import lru_cache
from pathlib import Path

import numpy as np
from platformdirs import user_cache_path

from yellowbob.afloat.rest import Afloat, Rest

MOST_KEPT = 64


@lru_cache(maxsize=1)
def solver_digest() -> str:
    """Of the sources that rests are worked out by: another solver has nothing to do with what this one remembers."""
    digest = hashlib.sha256()
    for source in sorted(Path(__file__).parent.glob("*.py")):
        digest.update(source.name.encode() + source.read_bytes())
    return digest.hexdigest()


def _file(afloat: Afloat, folder: Path | None) -> Path:
    digest = hashlib.sha256(solver_digest().encode())
    vertices, faces, _, points, mass, centre, density, gravity = afloat.arrays
    for array in (vertices, faces, points, afloat.origin, centre, np.array([mass, density, gravity])):
        digest.update(np.ascontiguousarray(array).tobytes())
    return (folder or user_cache_path("yellow-bob") / "rests") / f"{digest.hexdigest()[:32]}.json"


def recall(afloat: Afloat, folder: Path | None = None) -> tuple[Rest, ...] | None:
    """The rests of a build as they were kept, None when they were not."""
    try:
        rows = json.loads(_file(afloat, folder).read_text(encoding="utf-8"))
        return tuple(Rest(**{**r, "up": tuple(r["up"]), "buoyancy_mm": tuple(r["buoyancy_mm"])}) for r in rows)
    except (OSError, ValueError, TypeError, KeyError):
        return None


def keep(afloat: Afloat, rests: tuple[Rest, ...], folder: Path | None = None) -> None:
    """Keep the rests of a build; the oldest of many are dropped. Never raises for want of a place to write."""
    file = _file(afloat, folder)
    try:
        if file.exists():
            return
        file.parent.mkdir(parents=True, exist_ok=True)
        beside = file.with_suffix(".part")
        beside.write_text(json.dumps([asdict(rest) for rest in rests]), encoding="utf-8")
        beside.replace(file)
        kept = sorted(file.parent.glob("*.json"), key=lambda f: f.stat().st_mtime)
        for old in kept[:-MOST_KEPT]:
            old.unlink(missing_ok=True)
    except OSError:
        return

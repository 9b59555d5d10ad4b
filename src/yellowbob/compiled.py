"""Numba with its cache in the user's cache folder; a read-only or missing one must not break a start."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

import numba
from platformdirs import user_cache_path

F = TypeVar("F", bound=Callable[..., Any])


def cache_folder() -> Path:
    """A folder that can be written: the user's cache, else a temporary one for this start only."""
    wanted = os.environ.get("NUMBA_CACHE_DIR")
    folder = Path(wanted) if wanted else user_cache_path("yellow-bob") / "compiled"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        with tempfile.NamedTemporaryFile(dir=folder):
            pass
    except OSError:
        folder = Path(tempfile.mkdtemp(prefix="yellow-bob-"))
    return folder


numba.config.CACHE_DIR = str(cache_folder())


def compiled(function: F) -> F:
    """Compile a function of numbers and arrays to machine code at its first call, and keep the code in the cache."""
    done: F = numba.njit(cache=True, fastmath={"contract", "reassoc", "nsz", "arcp"}, error_model="numpy")(function)
    return done

"""Numba with its cache in the user's cache folder; a read-only or missing one must not break a start."""

from __future__ import annotations

import importlib
import os
import sys
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, TypeVar, cast

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


os.environ["NUMBA_CACHE_DIR"] = str(cache_folder())
numba.core.config.reload_config()


@contextmanager
def _without(module: str) -> Iterator[None]:
    """Make a module that is not yet imported unfindable for a moment."""
    absent = module not in sys.modules
    if absent:
        sys.modules[module] = cast(Any, None)
    try:
        yield
    finally:
        if absent:
            del sys.modules[module]


# At its first use Numba asks scipy.linalg for BLAS, a third of a second that kernels without matrices have no need of.
with _without("scipy.linalg"):
    importlib.import_module("numba.np.arraymath")


def compiled(function: F) -> F:
    """Compile a function of numbers and arrays to machine code at its first call, and keep the code in the cache."""
    done: Any = numba.njit(
        cache=True, nogil=True, fastmath={"contract", "reassoc", "nsz", "arcp"}, error_model="numpy"
    )(function)
    return cast(F, done)

"""Reading and writing `.ybob` files: precise errors, older versions migrated, never half-written.

A file is UTF-8 JSON with `"format": "yellow-bob-design"` and a `"version"`. `docs/design.schema.json` is its schema.
"""

from __future__ import annotations

import json
import os
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from yellowbob.design.faults import describe
from yellowbob.design.migrations import MIGRATIONS, path_in_1
from yellowbob.design.model import FORMAT, VERSION, Design
from yellowbob.ground.errors import BadDesign, BadInput

SUFFIX = ".ybob"
LARGEST_FILE_BYTES = 64_000_000


Fill = Callable[[dict[str, Any]], dict[str, Any]]
"""What completes a file's data before it is checked."""


def read_json(text: str, name: str = "the text", fill: Fill | None = None) -> Design:
    """A Design from JSON text. Raises BadDesign with the path to the bad field."""
    try:
        data = json.loads(text)
    except RecursionError:
        raise BadDesign(f"{name}: nested too deep to be a design") from None
    except ValueError as error:
        raise BadDesign(
            f"{name}: not valid JSON ({str(error)[:80]}); open a .ybob file that Yellow Bob wrote"
        ) from None
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise BadDesign(f'{name}: no Yellow Bob design; "format" must be "{FORMAT}"')
    version = data.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise BadDesign(f"{name}: version: must be a whole number from 1 to {VERSION}")
    if version > VERSION:
        raise BadDesign(f"{name}: version {str(version)[:12]} is newer than this program reads ({VERSION}); update it")
    try:
        for old in range(version, VERSION):
            data = MIGRATIONS[old](data)
        if fill is not None:
            data = fill(data)
        return Design.model_validate_json(json.dumps(data), strict=True)
    except ValidationError as error:
        told = describe(error)
        raise BadDesign(f"{name}: {path_in_1(told) if version == 1 else told}") from None
    except BadInput as error:
        raise BadDesign(f"{name}: {error}") from None
    except (RecursionError, KeyError, TypeError, ValueError) as error:
        raise BadDesign(f"{name}: cannot be read as a design ({str(error)[:80]})") from None


def read_design(path: Path | str, fill: Fill | None = None) -> Design:
    """Read a `.ybob` file, completed by `fill`; the file is never changed. Raises BadDesign or BadInput."""
    path = Path(path)
    try:
        if path.stat().st_size > LARGEST_FILE_BYTES:
            raise BadDesign(f"{path.name}: larger than {LARGEST_FILE_BYTES // 1_000_000} MB; that is no design")
        text = path.read_bytes().decode("utf-8-sig")
    except FileNotFoundError:
        raise BadInput(f"{path}: no such file; check the name") from None
    except OSError as error:
        raise BadInput(f"{path}: cannot be read ({error.strerror})") from None
    except UnicodeDecodeError as error:
        raise BadDesign(f"{path.name}: not UTF-8 text (byte {error.start}); a .ybob file is UTF-8 JSON") from None
    return read_json(text, path.name, fill)


def to_json(design: Design) -> str:
    """The document as it is written to disk: indented, default values left out, ending in a newline."""
    data = design.model_dump(mode="json", exclude_defaults=True)
    _tag(design, data)
    return json.dumps({"format": FORMAT, "version": VERSION, **data}, indent=1, ensure_ascii=False) + "\n"


def _tag(design: Design, data: dict[str, Any]) -> None:
    """Discriminators are defaults of their classes, but the reader needs them written."""
    for piece, written in zip(design.pieces, data["pieces"], strict=True):
        written["shape"]["kind"] = piece.shape.kind
        for cut, row in zip(piece.cuts, written.get("cuts", ()), strict=True):
            row["kind"] = cut.kind
    for ballast, written in zip(design.ballast, data.get("ballast", ()), strict=True):
        written["weight"]["form"] = ballast.weight.form


def write_text_whole(path: Path | str, text: str) -> None:
    """Write a file so that a kill at any moment leaves the old or the new one whole.

    Written beside, flushed to the disk, then renamed over. Raises BadInput when the folder cannot be written.
    """
    path = Path(path)
    target = path.resolve() if path.is_symlink() else path
    try:
        handle, beside = tempfile.mkstemp(prefix=f".{target.name[:60]}.", suffix=".part", dir=target.parent)
    except OSError as error:
        raise BadInput(f"{path}: cannot be written here ({error.strerror}); save it somewhere else") from None
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(text.encode("utf-8"))
            file.flush()
            os.fsync(file.fileno())
        os.chmod(beside, target.stat().st_mode & 0o777 if target.exists() else 0o644)
        os.replace(beside, target)
    except OSError as error:
        Path(beside).unlink(missing_ok=True)
        raise BadInput(f"{path}: could not be written ({error.strerror}); save it somewhere else") from None
    folder = os.open(target.parent, os.O_RDONLY)
    try:
        os.fsync(folder)
    finally:
        os.close(folder)


def write_design(design: Design, path: Path | str) -> None:
    """Save a design to a `.ybob` file, whole or not at all."""
    write_text_whole(path, to_json(design))


def json_schema() -> dict[str, Any]:
    """The published JSON Schema (2020-12) of a `.ybob` file."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **Design.model_json_schema()}

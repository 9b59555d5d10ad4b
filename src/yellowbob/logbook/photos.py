"""Pictures of builds, copied beside the log so that they stay when the camera's card is wiped."""

from __future__ import annotations

import shutil
from pathlib import Path

from yellowbob.ground.errors import BadInput
from yellowbob.logbook.records import Photo
from yellowbob.logbook.store import LogBook

FOLDER = "photos"


def photo_file(log: LogBook, name: str) -> Path:
    """Where a picture of the log lies."""
    return log.path.parent / FOLDER / name


def copied(log: LogBook, serial: str, picture: Path) -> str:
    """Copy a picture to the log's; returns its name there. Raises BadInput for a build that is not there or no picture."""
    from PIL import Image

    log.build(serial)
    try:
        with Image.open(picture) as image:
            image.verify()
    except (OSError, SyntaxError, ValueError, Image.DecompressionBombError) as error:
        raise BadInput(f"{picture}: is no picture I can read ({str(error)[:80]})") from None
    folder = photo_file(log, "")
    number = 1
    try:
        folder.mkdir(parents=True, exist_ok=True)
        while (to := folder / f"{serial}-{number}{picture.suffix.lower()}").exists():
            number += 1
        shutil.copyfile(picture, to)
    except OSError as error:
        raise BadInput(f"{folder}: the picture cannot be kept there ({error.strerror})") from None
    return to.name


def keep_photo(log: LogBook, serial: str, picture: Path, words: str = "") -> str:
    """Keep a picture of a build with what it shows; returns its name in the log's folder. Raises BadInput."""
    name = copied(log, serial, picture)
    log.add(serial, "photo", Photo(file=name, words=words))
    return name

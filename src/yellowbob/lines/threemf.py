"""3MF files: the triangles of all that is built, placed as the file says (3MF core 1.3 with production 1.1).

What a file asks its reader to understand and is not read here (lattices, differences of bodies, supports, parts that a
print takes off) is refused: left out, or counted as the body's, it would be a wrong body.
"""

from __future__ import annotations

import re
import zipfile
from array import array
from dataclasses import dataclass, field
from pathlib import Path
from xml.etree import ElementTree

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.errors import BadMesh

Array = NDArray[np.float64]
Place = tuple[str, str]
"""A part of the package and an object's number in it."""

READ = tuple(
    f"/3dmanufacturing/{name}"
    for name in ("core/2015/02", "material/2015/02", "production/2015/06", "trianglesets/2021/07")
)
"""How the names of the forms end that a file may ask its reader to understand."""
SHAPES = {"beamlattice", "booleanshape", "displacementmesh", "levelset", "volumetricstack", "implicitfunction"}
"""What shapes a body otherwise than by its triangles."""
TAKEN_OFF = (
    rb"""\bsubtype\s*=\s*["'](?!normal_part["'])\w|["']volume_type["']\s+value\s*=\s*["'](?!ModelPart["'])\w"""
    rb"""|["']modifier["']\s+value\s*=\s*["']1["']"""
)
"""How the notes beside a model mark parts that are no part of the body."""
MOST_UNPACKED, DEEPEST = 1_500_000_000, 20
ROOT = "3D/3dmodel.model"


@dataclass
class _Object:
    """Corners and triangles, flat, and what it is put together from: which, and the matrix (4, 3) it is placed by."""

    kind: str = "model"
    corners: array[float] = field(default_factory=lambda: array("d"))
    triangles: array[int] = field(default_factory=lambda: array("q"))
    of: list[tuple[Place, Array]] = field(default_factory=list)


class _Part:
    """Takes in one part of a package as it is read, without keeping its tree: it may have a million triangles."""

    def __init__(self, path: str) -> None:
        self.path, self.unit = path, "millimeter"
        self.objects: dict[Place, _Object] = {}
        self.built: list[tuple[Place, Array]] = []
        self.odd = ""
        self._spaces: dict[str, str] = {}
        self._now = _Object()

    def start_ns(self, prefix: str, uri: str) -> None:
        """What a prefix stands for."""
        self._spaces[prefix or ""] = uri

    def start(self, tag: str, given: dict[str, str]) -> None:
        """An element begins."""
        name = tag.rpartition("}")[2]
        if name == "vertex":
            self._now.corners.extend((float(given["x"]), float(given["y"]), float(given["z"])))
        elif name == "triangle":
            self._now.triangles.extend((int(given["v1"]), int(given["v2"]), int(given["v3"])))
        elif name == "object":
            self._now = self.objects[self.path, given["id"]] = _Object(given.get("type", "model"))
        elif name == "component":
            self._now.of.append(self._placed(given))
        elif name == "item":
            if given.get("printable", "1") in ("0", "false"):
                self.odd = self.odd or "parts that are not to be printed"
            self.built.append(self._placed(given))
        elif name == "model":
            self.unit = given.get("unit", "millimeter")
            asked = [self._spaces.get(prefix, prefix) for prefix in given.get("requiredextensions", "").split()]
            self.odd = next((f"what only '{one[-40:]}' describes" for one in asked if not one.endswith(READ)), self.odd)
        elif name in SHAPES:
            self.odd = self.odd or f"a body that is not only triangles ('{name}')"

    def _placed(self, given: dict[str, str]) -> tuple[Place, Array]:
        """The object that is put somewhere, and the matrix (4, 3) that rows x, y, z, 1 are multiplied by."""
        path = next((value for key, value in given.items() if key.rpartition("}")[2] == "path"), self.path)
        text = given.get("transform", "1 0 0 0 1 0 0 0 1 0 0 0").split()
        matrix = np.array([float(number) for number in text])
        if matrix.shape != (12,) or not np.isfinite(matrix).all():
            raise ValueError("a transform is not twelve numbers")
        return (path.lstrip("/"), given["objectid"]), matrix.reshape(4, 3)


def read_3mf(path: Path) -> tuple[Array, NDArray[np.int64], str]:
    """Corners (n, 3) in the file's unit, triangles (m, 3) over them, and the unit it states.

    Raises BadMesh where it is not read rightly; where it is broken, whatever its packing and its markup raise.
    """
    with zipfile.ZipFile(path) as packed:
        return _read(path.name, packed)


def _read(name: str, packed: zipfile.ZipFile) -> tuple[Array, NDArray[np.int64], str]:
    root = _root(packed)
    models = [one for one in packed.namelist() if one == root or one.lower().endswith(".model")]
    notes = [one for one in packed.namelist() if one.lower().endswith((".config", ".xml")) and "rels" not in one]
    if sum(packed.getinfo(one).file_size for one in (*models, *notes)) > MOST_UNPACKED:
        raise BadMesh(f"{name}: too large to read; export it coarser")
    parts: dict[str, _Part] = {}
    for one in models:
        parts[one] = _Part(one)
        parser = ElementTree.XMLParser(target=parts[one])
        with packed.open(one) as file:
            while chunk := file.read(1 << 20):
                parser.feed(chunk)
        parser.close()
    odd = next((part.odd for part in parts.values() if part.odd), "")
    if not odd and any(re.search(TAKEN_OFF, packed.read(one)) for one in notes):
        odd = "parts that are taken off, or only change how it is printed"
    if odd:
        raise BadMesh(f"{name}: holds {odd}; export the body alone, as one solid")
    objects = {place: one for part in parts.values() for place, one in part.objects.items()}
    pieces: list[tuple[Array, NDArray[np.int64]]] = []
    if len({part.unit for part in parts.values() if part.objects or part.path == root}) > 1:
        raise BadMesh(f"{name}: its parts are in several units; export the body alone")
    for place, matrix in parts[root].built:
        _gather(name, objects, place, _whole(matrix), pieces, 0)
    starts = np.cumsum([0, *(len(corners) for corners, _ in pieces)])
    corners = np.concatenate([np.zeros((0, 3)), *(corners for corners, _ in pieces)])
    faces = [triangles + first for (_, triangles), first in zip(pieces, starts[:-1], strict=True)]
    return corners, np.concatenate([np.zeros((0, 3), dtype=np.int64), *faces]), parts[root].unit


def _root(packed: zipfile.ZipFile) -> str:
    """The part that says what is built."""
    try:
        links = ElementTree.fromstring(packed.read("_rels/.rels"))
    except KeyError:
        return ROOT
    targets = [link.get("Target", "") for link in links if link.get("Type", "").endswith("/3dmodel")]
    return targets[0].lstrip("/") if targets else ROOT


def _whole(matrix: Array) -> Array:
    """A matrix (4, 3) as one (4, 4)."""
    return np.column_stack([matrix, [0.0, 0.0, 0.0, 1.0]])


def _gather(
    name: str, objects: dict[Place, _Object], place: Place, matrix: Array,
    pieces: list[tuple[Array, NDArray[np.int64]]], deep: int,
) -> None:  # fmt: skip
    """Add an object's triangles, placed by a matrix (4, 4), and those of what it is put together from."""
    if deep > DEEPEST:
        raise BadMesh(f"{name}: its parts are put together in circles")
    one = objects.get(place)
    if one is None:
        raise BadMesh(f"{name}: builds object {place[1]}, which is not in it")
    if one.kind in ("support", "solidsupport", "other"):
        raise BadMesh(f"{name}: holds supports, or parts that are no part of it; export the body alone")
    corners, triangles = np.array(one.corners).reshape(-1, 3), np.array(one.triangles, dtype=np.int64).reshape(-1, 3)
    if triangles.size and not 0 <= triangles.min() <= triangles.max() < len(corners):
        raise BadMesh(f"{name}: a triangle names a corner that is not there; export it again")
    if triangles.size:
        if np.linalg.det(matrix[:3, :3]) < 0.0:
            triangles = triangles[:, ::-1]
        pieces.append(((np.column_stack([corners, np.ones(len(corners))]) @ matrix)[:, :3], triangles))
    for other, its in one.of:
        _gather(name, objects, other, _whole(its) @ matrix, pieces, deep + 1)

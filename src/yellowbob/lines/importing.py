"""Mesh files from CAD as bodies: STL, OBJ, PLY and 3MF, checked closed before anything is computed from them."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.base import LONGEST_MM
from yellowbob.ground.errors import BadInput, BadMesh
from yellowbob.lines.edges import MOST_CORNERS, mesh_edges
from yellowbob.lines.shells import Inside, Solid, solid_of, without_doubles
from yellowbob.lines.threemf import read_3mf

Array = NDArray[np.float64]

UNIT_MM = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4}
STATED = {"millimeter": "mm", "centimeter": "cm", "meter": "m", "inch": "in"}
"""Units that a 3MF says itself it is in."""
INSIDES = ("air", "water", "filled")
SUFFIXES = (".stl", ".obj", ".ply", ".3mf")
MERGE_DIGITS = 5
"""Corners that are written alike to 1e-5 mm are one;"""
WELD_MM = 1e-4
"""at edges that would be open, corners that lie so close are."""
NO_CORNER = re.compile(rb"^[ \t]*f[ \t](?:[^\n]*[ \t])?0+(?:[/\s]|\Z)", re.MULTILINE)
"""A face that names a corner there is not."""
STL_HEAD, STL_EACH = 84, 50
"""Bytes of a binary STL before its triangles, and of each."""


def _loaded(path: Path) -> tuple[Any, Any, str]:
    """Corners (n, 3), triangles (m, 3) over them, and the unit the file states; empty where it states none."""
    try:
        if path.suffix.lower() == ".3mf":
            return read_3mf(path)
        if path.suffix.lower() == ".stl":
            _refuse_cut_off(path)
        if path.suffix.lower() == ".obj" and NO_CORNER.search(path.read_bytes()):
            raise BadMesh(f"{path.name}: a face names corner 0, and an OBJ counts from 1; export it again")
        import trimesh  # half a second to import: only when a mesh is read

        loaded = trimesh.load(path, force="mesh", process=False)
    except BadMesh:
        raise
    except Exception as error:  # every reader raises its own kinds on a bad file
        raise BadMesh(f"{path.name}: cannot be read as a {path.suffix[1:].upper()} mesh ({str(error)[:80]})") from None
    return getattr(loaded, "vertices", ()), getattr(loaded, "faces", ()), ""


def open_edges(faces: NDArray[np.integer[Any]]) -> NDArray[np.integer[Any]]:
    """(k, 2) vertex pairs of edges that no neighbouring triangle runs back along, whichever way round it is wound."""
    edges, of_face = mesh_edges(faces)
    return edges[np.bincount(of_face.ravel()) % 2 == 1]


def _refuse_cut_off(path: Path) -> None:
    """Refuse a binary STL that is not as long as its own count of triangles says."""
    size = path.stat().st_size
    with path.open("rb") as file:
        head = file.read(STL_HEAD + STL_EACH)
    if size < STL_HEAD or (head[:5].lower() == b"solid" and b"\0" not in head):  # written in words
        return
    count = int.from_bytes(head[STL_HEAD - 4 : STL_HEAD], "little")
    if size != STL_HEAD + STL_EACH * count:
        held = max(size - STL_HEAD, 0) / STL_EACH
        raise BadMesh(
            f"{path.name}: says that {count} triangles are in it and is as long as {held:.6g}: it is cut off, or spoilt; "
            "export it again"
        )


def _sized(faces: NDArray[np.integer[Any]]) -> NDArray[np.integer[Any]]:
    """Triangles with three corners of their own."""
    return faces[(faces[:, 0] != faces[:, 1]) & (faces[:, 1] != faces[:, 2]) & (faces[:, 2] != faces[:, 0])]


def _welded(
    vertices: Array, faces: NDArray[np.integer[Any]], gaps: NDArray[np.integer[Any]]
) -> NDArray[np.integer[Any]]:
    """Triangles over the same vertices (n, 3) mm, where those of open edges (k, 2) that all but coincide are one."""
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components
    from scipy.spatial import cKDTree

    loose = np.unique(gaps)
    pairs = loose[cKDTree(vertices[loose]).query_pairs(WELD_MM, output_type="ndarray")]
    count = len(vertices)
    near = coo_array((np.ones(len(pairs), dtype=np.int8), (pairs[:, 0], pairs[:, 1])), shape=(count, count))
    _, group = connected_components(near, directed=False)
    first = np.full(count, count)
    np.minimum.at(first, group, np.arange(count))
    return np.asarray(first[group])[faces]


def read_solid(path: Path | str, unit: str, inside: Inside | None = None) -> Solid:
    """Read a mesh file in a unit (mm, cm, m, in) as a solid in mm, in the file's own axes; `inside` as `solid_of` takes it.

    Raises BadMesh where it cannot be read, is not closed (saying how many edges are open and where the first is), crosses
    itself, encloses nothing, or has a closed space of which nothing was said; BadInput for an unknown unit, ending or
    missing file.
    """
    path = Path(path)
    if unit not in UNIT_MM:
        raise BadInput(f"unit '{unit}' is not known; say mm, cm, m or in")
    if inside not in (None, *INSIDES):
        raise BadInput(f"--inside '{inside}': say air, water or filled")
    if path.suffix.lower() not in SUFFIXES:
        raise BadInput(f"{path.name}: a mesh must be .stl, .obj, .ply or .3mf")
    if not path.is_file():
        raise BadInput(f"{path}: no such file; check the name")
    corners, faces, stated = _loaded(path)
    if stated and STATED.get(stated) != unit:
        remedy = f"give --unit {STATED[stated]}" if stated in STATED else "export it in mm"
        raise BadInput(f"{path.name}: says itself that its unit is the {stated}; {remedy}")
    if len(faces) == 0:
        raise BadMesh(f"{path.name}: there are no triangles in it, or it is cut off; export it again")
    vertices = np.asarray(corners, dtype=float) * UNIT_MM[unit]
    if not np.isfinite(vertices).all():
        raise BadMesh(f"{path.name}: a corner is not a number; export it again")
    if np.abs(vertices).max() > LONGEST_MM:
        raise BadMesh(f"{path.name}: reaches {np.abs(vertices).max():.0f} mm in {unit}; is the unit right?")
    return closed_solid(vertices, np.asarray(faces), path.name, inside)


def closed_solid(vertices: Array, faces: NDArray[np.integer[Any]], name: str, inside: Inside | None = None) -> Solid:
    """Check that triangles (n, 3) over vertices (m, 3) mm close, and make one solid of them. Raises BadMesh."""
    import trimesh

    mesh = trimesh.Trimesh(vertices, faces, process=False)
    mesh.merge_vertices(digits_vertex=MERGE_DIGITS, merge_tex=True, merge_norm=True)
    faces = _sized(np.asarray(mesh.faces))
    if not len(faces):
        raise BadMesh(f"{name}: its triangles have no size; is the unit right?")
    if len(mesh.vertices) > MOST_CORNERS:
        raise BadMesh(f"{name}: has {len(mesh.vertices)} corners, over {MOST_CORNERS}; export it coarser")
    gaps = open_edges(without_doubles(faces)[0])
    if len(gaps):
        faces = _sized(_welded(np.asarray(mesh.vertices), faces, gaps))
        gaps = open_edges(without_doubles(faces)[0])
    if len(gaps):
        middle = np.asarray(mesh.vertices)[gaps].mean(axis=1)
        x, y, z = middle[0]
        low, high = middle.min(axis=0), middle.max(axis=0)
        spread = f", all within x {low[0]:.1f} to {high[0]:.1f} mm" if len(gaps) > 1 else ""
        edges = "1 open edge" if len(gaps) == 1 else f"{len(gaps)} open edges"
        raise BadMesh(
            f"{name}: not closed: {edges}, the first at x {x:.2f}, y {y:.2f}, z {z:.2f} mm{spread}; "
            "close the surface in CAD and export it again"
        )
    return solid_of(np.asarray(mesh.vertices, dtype=float), faces, name, inside)

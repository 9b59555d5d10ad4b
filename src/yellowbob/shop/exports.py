"""A body out to other programs: STL and 3MF solids, SVG outlines at true size in mm."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any
from xml.sax.saxutils import escape

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.shape import Lofted, MeshBody, Turned
from yellowbob.ground.errors import BadInput
from yellowbob.lines.curves import Curve
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.sections import outline_curves
from yellowbob.lines.silhouette import silhouette
from yellowbob.lines.solids import subtract
from yellowbob.lines.svg.kept import METADATA
from yellowbob.study import Study, of

Array = NDArray[np.float64]

MARGIN_MM = 5.0


def solid_to_make(study: Study) -> Mesh:
    """The body as it is made: cuts done, a printed one hollow, without its parts."""
    hollow = of.hollow(study)
    return of.outer(study) if hollow is None else subtract(of.outer(study), [hollow])


def _bezier_run(curve: Curve, flip: float, back: bool) -> str:
    """SVG commands along a curve's stretches, forward or back; y runs down in SVG."""
    controls = curve.controls * [1.0, -flip]
    if back:
        controls = controls[::-1, ::-1]
    return " ".join(
        f"C {p[1, 0]:.5f} {p[1, 1]:.5f} {p[2, 0]:.5f} {p[2, 1]:.5f} {p[3, 0]:.5f} {p[3, 1]:.5f}" for p in controls
    )


def _between(top: Curve, bottom: Curve, bottom_flip: float = 1.0) -> str:
    """A closed path: along the top, down the tail end, back along the bottom."""
    start = top.controls[0, 0] * [1.0, -1.0]
    end = bottom.controls[-1, 3] * [1.0, -bottom_flip]
    return (
        f"M {start[0]:.5f} {start[1]:.5f} {_bezier_run(top, 1.0, back=False)} "
        f"L {end[0]:.5f} {end[1]:.5f} {_bezier_run(bottom, bottom_flip, back=True)} Z"
    )


def _loops(loops: list[Array]) -> str:
    return " ".join("M " + " L ".join(f"{x:.5f} {-y:.5f}" for x, y in loop) + " Z" for loop in loops)


def svg_of(study: Study) -> str:
    """Side and plan as closed paths named `side` and `plan`, true size, mm. Cut bodies add `side-cut` and `plan-cut`."""
    shape = study.design.shape
    paths: list[tuple[str, str]] = []
    if isinstance(shape, MeshBody):
        paths += [(view, _loops(silhouette(of.outer(study), view))) for view in ("side", "plan")]
    elif isinstance(shape, Turned):
        (profile,) = outline_curves(shape)
        paths += [(view, _between(profile, profile, -1.0)) for view in ("side", "plan")]
    else:
        back, belly, plan = outline_curves(shape)
        paths += [("side", _between(back, belly)), ("plan", _between(plan, plan, -1.0))]
    if study.design.body.cuts:
        paths += [(f"{view}-cut", _loops(silhouette(of.outer(study), view))) for view in ("side", "plan")]
    (x0, y0, z0), (x1, y1, z1) = of.outer(study).bounds
    if not isinstance(shape, MeshBody):
        x0, x1 = min(x0, 0.0), max(x1, shape.length_mm)
    wide, side_high, plan_high = x1 - x0 + 2 * MARGIN_MM, max(z1 - z0, 1.0) * 1.6, max(y1 - y0, 1.0) * 1.3
    high = side_high + plan_high + 3 * MARGIN_MM
    side_y, plan_y = MARGIN_MM + z1 + 0.3 * (z1 - z0), side_high + 2 * MARGIN_MM + plan_high / 2
    rows = [
        f'  <path id="{name}" transform="translate({MARGIN_MM - x0:.5f} {plan_y if "plan" in name else side_y:.5f})" '
        f'd="{data}" fill="none" stroke="#22303a" stroke-width="0.2"/>'
        for name, data in paths
    ]
    kept: dict[str, Any] = {"kind": shape.kind, "cuts": [c.model_dump(mode="json") for c in study.design.body.cuts]}
    kept["nose_mm"] = [MARGIN_MM - float(x0), float(side_y)]
    kept["plan_y_mm"] = float(plan_y)
    if isinstance(shape, Lofted):
        kept["sections"] = [station.model_dump(mode="json") for station in shape.sections]
    if not isinstance(shape, MeshBody):
        kept["shape"] = shape.model_dump(mode="json")
    head = (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.3f}mm" height="{high:.3f}mm" '
        f'viewBox="0 0 {wide:.3f} {high:.3f}">\n  <title>{escape(study.design.name)}</title>\n'
        f'  <metadata id="{METADATA}">{escape(json.dumps(kept))}</metadata>\n'
    )
    return head + "\n".join(rows) + "\n</svg>\n"


WHAT = ("body", "mould", "jig", "stations", "holes", "slip", "hardware", "coats")
"""What can be written: solids of the first three, tables of the others."""


def export(study: Study, path: Path | str, what: str = "body") -> list[Path]:
    """Write what is asked for by the file's ending; returns the files.

    body: .stl or .3mf (solid, mm), .svg or .dxf (templates); mould: two halves as .stl or .3mf; jig: a saddle a hole, the
    same; tables: .csv. Raises BadInput for an ending that does not go with it or a place that cannot be written.
    """
    path = Path(path)
    kind = path.suffix.lower()
    if what not in WHAT:
        raise BadInput(f"'{what}' cannot be written; say one of {', '.join(WHAT)}")
    wanted = {"body": (".stl", ".3mf", ".svg", ".dxf"), "mould": (".stl", ".3mf"), "jig": (".stl", ".3mf")}.get(
        what, (".csv",)
    )
    if kind not in wanted:
        raise BadInput(f"{path.name}: I write the {what} as {' or '.join(wanted)}; name the file so")
    if kind == ".dxf":
        from yellowbob.shop.dxf import write_dxf

        write_dxf(study, path)
        return [path]
    files = _solids(study, path, what) if kind in (".stl", ".3mf") else {path: _text(study, what).encode()}
    try:
        for place, data in files.items():
            place.write_bytes(data)
    except OSError as error:
        raise BadInput(f"{path}: cannot be written ({error.strerror}); name another place") from None
    return list(files)


def _text(study: Study, what: str) -> str:
    if what == "body":
        return svg_of(study)
    from yellowbob.shop.csvs import csv_of

    return csv_of(study, what)


def _solids(study: Study, path: Path, what: str) -> dict[Path, bytes]:
    """The files of solids: one for a body, else one each with a word or number behind its name."""
    if what == "mould":
        from yellowbob.shop.mould import halves

        made = dict(zip(("port", "starboard"), halves(study), strict=True))
    elif what == "jig":
        from yellowbob.shop.jig import jigs

        made = {f"{number}": mesh for number, (_, mesh) in enumerate(jigs(study), 1)}
    else:
        made = {"": solid_to_make(study)}
    return {
        path.with_name(f"{path.stem}{'-' if name else ''}{name}{path.suffix}"): _solid_bytes(
            mesh, path.suffix.lower()[1:]
        )
        for name, mesh in made.items()
    }


def _solid_bytes(mesh: Mesh, kind: str) -> bytes:
    import trimesh

    data = trimesh.Trimesh(mesh.vertices, mesh.faces, process=False).export(file_type=kind)
    return data if isinstance(data, bytes) else str(data).encode()

"""Tables of a design as CSV: stations, holes, the weigh slip, hardware, coats. Lengths mm, masses g, volumes mL."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Sequence

from yellowbob.ground.cells import plain
from yellowbob.ground.errors import BadInput
from yellowbob.shop.bores import bores
from yellowbob.shop.schedule import layers_of
from yellowbob.shop.stations import stations
from yellowbob.study import Study, of
from yellowbob.weights.wires import cut_length_mm

Rows = tuple[Sequence[str], Sequence[Sequence[object]]]


def _stations(study: Study) -> Rows:
    found = stations(study.design)
    names = list(found.stations[0].sizes_mm)
    return ["at_mm", *(f"{n.replace(' ', '_')}_mm" for n in names)], [
        [round(s.at_mm, 4), *(round(s.sizes_mm[n], 4) for n in names)] for s in found.stations
    ]


def _holes(study: Study) -> Rows:
    head = (
        "name",
        "side",
        "at_mm",
        "off_mm",
        "over_mm",
        "diameter_mm",
        "depth_mm",
        "lean_deg",
        "bit",
        "wall_mm",
        "holds",
        "plug",
    )
    return head, [
        [b.name, b.side, round(b.at_mm, 4), round(b.off_mm, 4), round(b.over_mm, 4), b.diameter_mm, b.depth_mm, b.lean_deg,
            b.bit,
         round(b.wall_mm, 3), b.holds, b.plug] for b in bores(study)
    ]  # fmt: skip


def _slip(study: Study) -> Rows:
    return ("what", "stage", "mass_g", "x_mm", "y_mm", "z_mm"), [
        [line.words, line.of, round(line.mass.mass_g, 5), *(round(float(v), 4) for v in line.mass.centre_mm)]
        for line in of.slip(study).lines
    ]


def _hardware(study: Study) -> Rows:
    design = study.design
    rows: list[list[object]] = [
        [w.name, "wire", w.material, *w.path_mm[0], "", round(cut_length_mm(w), 3)] for w in design.wires
    ]  # fmt: skip
    rows += [[f.name, f.sort, f.stock, *f.at_mm, f.mass_g, ""] for f in design.fittings]
    return ("name", "sort", "stock", "x_mm", "y_mm", "z_mm", "mass_g", "cut_mm"), rows


def _coats(study: Study) -> Rows:
    layers, _ = layers_of(study.design)
    return ("coat", "hands_min", "set_h", "next_h", "full_h", "turning"), [
        [
            one.name,
            one.hands_min,
            round(one.set_h, 3),
            round(one.next_h, 3),
            round(one.full_h, 3),
            "yes" if one.turns else "no",
        ]
        for one in layers
    ]


TABLES: dict[str, Callable[[Study], Rows]] = {
    "stations": _stations, "holes": _holes, "slip": _slip, "hardware": _hardware, "coats": _coats,
}  # fmt: skip


def csv_of(study: Study, table: str) -> str:
    """A table by its name. Raises BadInput for one that is not there, or has nothing to list."""
    if table not in TABLES:
        raise BadInput(f"no table '{table}'; there are {', '.join(TABLES)}")
    head, rows = TABLES[table](study)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(head)
    writer.writerows([plain(cell) for cell in row] for row in rows)
    return out.getvalue()

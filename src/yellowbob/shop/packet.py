"""The packet: what goes to the bench on paper, page by page in the order of the work, each of which can be left out."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from reportlab.lib.pagesizes import A4, landscape, letter
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from yellowbob.ground.errors import BadInput
from yellowbob.shop.bores import bores
from yellowbob.shop.paper import Page
from yellowbob.shop.schedule import layers_of
from yellowbob.shop.sheet import draw_painting, draw_sheet, written
from yellowbob.shop.stations import stations
from yellowbob.shop.tables import Column, write_table
from yellowbob.shop.templates import write_templates
from yellowbob.study import Study, of
from yellowbob.weights.wires import cut_length_mm

PAPERS = {"a4": landscape(A4), "letter": landscape(letter)}
DATA_SHEET = "Follow each product's data sheet and your local rules; where they differ from this, they decide."


def _paper(canvas: Canvas, paper: str) -> tuple[Page, float, float]:
    canvas.setPageSize(PAPERS[paper])
    return Page(canvas), PAPERS[paper][0] / mm, PAPERS[paper][1] / mm


def _sheet(canvas: Canvas, study: Study, paper: str) -> None:
    draw_sheet(canvas, study)


def _templates(canvas: Canvas, study: Study, paper: str) -> None:
    page, width, height = _paper(canvas, paper)
    write_templates(page, study, width, height)


def _turning(canvas: Canvas, study: Study, paper: str) -> None:
    found = stations(study.design)
    names = list(found.stations[0].sizes_mm)
    columns = [Column("from the nose, mm", 42, True), Column("from the tail, mm", 42, True)]
    columns += [Column(f"{name}, mm", 34, True) for name in names] + [Column("   measured", 60)]
    end = found.stations[-1].at_mm
    rows = [
        [f"{s.at_mm:.2f}", f"{end - s.at_mm:.2f}", *(f"{s.sizes_mm[n]:.2f}" for n in names), "   ..................."]
        for s in found.stations
    ]
    page, _, height = _paper(canvas, paper)
    notes = (
        f"Straight cuts between them are {found.misses_mm:.2f} mm off at most. Sizes are bare, before the finish.",
        "Rough to each station with a parting tool, widest first, then join them; part off the waste at both ends last.",
    )
    write_table(page, f"{study.design.name}: test stations", columns, rows, height, notes)


def _holes(canvas: Canvas, study: Study, paper: str) -> None:
    columns = [
        Column("", 8, True), Column("hole", 42), Column("from the", 18), Column("from nose", 20, True),
        Column("off centre", 20, True),
        Column("wide", 15, True), Column("deep", 15, True), Column("lean, °", 16, True), Column("   bit", 40),
        Column("wall left", 18, True), Column("   what goes in", 64),
    ]  # fmt: skip
    rows, notes = [], []
    for number, b in enumerate(bores(study), 1):
        goes_in = f"   {b.holds}"
        if b.plug:
            notes.append(f"{number}: plugged with {b.plug}.")
        rows.append([
            f"{number}", b.name, b.side, f"{b.at_mm:.1f}", f"{b.off_mm:.1f}", f"{b.diameter_mm:.2f}", f"{b.depth_mm:.1f}",
            f"{b.lean_deg:g}", f"   {b.bit or 'none on hand'}", f"{b.wall_mm:.1f}", goes_in,
        ])  # fmt: skip
        if b.both_ends:
            notes.append(
                f"{number}: from both ends, {b.depth_mm / 2.0:.1f} mm each; they meet within {b.meets_mm:.1f} mm."
            )
        if b.says:
            notes.append(f"{number}: {b.says}.")
    notes.append(
        "Lengths in mm, in the order to drill: ends while the blank is square. Clamp the work; wear eye protection."
    )
    page, _, height = _paper(canvas, paper)
    write_table(page, f"{study.design.name}: holes", columns, rows, height, notes)


def _wire(canvas: Canvas, study: Study, paper: str) -> None:
    columns = [
        Column("in stringing order", 90),
        Column("from nose, mm", 34, True),
        Column("cut, mm", 26, True),
        Column("   ", 80),
    ]
    rows = [[w.name, f"{w.path_mm[0][0]:.1f}", f"{cut_length_mm(w):.0f}", f"   {w.material}, {w.diameter_mm:g} mm"]
            for w in study.design.wires]  # fmt: skip
    rows += [
        [f.name, f"{f.at_mm[0]:.1f}", "", f"   {f.stock}"]
        for f in sorted(study.design.fittings, key=lambda f: f.at_mm[0])
    ]
    page, _, height = _paper(canvas, paper)
    notes = ("Cut wire under a cloth or with eye protection on; turn cut ends in.",)
    write_table(page, f"{study.design.name}: wire and hardware", columns, rows, height, notes)


def _finish(canvas: Canvas, study: Study, paper: str) -> None:
    columns = [Column("", 10, True), Column("   coat", 90), Column("hands, min", 28, True), Column("sets after, h", 30, True),
               Column("next after, h", 30, True), Column("used after, h", 30, True), Column("   done", 40)]  # fmt: skip
    layers, says = layers_of(study.design)
    rows = [[f"{n}", f"   {c.name}{', turning' if c.turns else ''}", f"{c.hands_min}", f"{c.set_h:.1f}", f"{c.next_h:.1f}",
             f"{c.full_h:.0f}", "   .............."] for n, c in enumerate(layers, 1)]  # fmt: skip
    page, _, height = _paper(canvas, paper)
    write_table(page, f"{study.design.name}: finish, at 20 °C", columns, rows, height, (*says, DATA_SHEET))


def cautions(study: Study) -> list[str]:
    """What to mind in exactly the steps of this build."""
    design, said = study.design, []
    metals = " ".join(f"{b.stock} {b.name}" for b in design.ballast).lower()
    if "lead" in metals:
        said.append("Lead: gloves, no dust, no food nearby; wash hands and bench. It is banned in places: ask first.")
    group = design.pieces[0].material.group
    said.append({
        "wood": "Wood dust: draw it off and wear a mask; some woods irritate skin and lungs.",
        "foam": "Foam: no hot wire without air; its fumes harm.",
        "resin": "Resin: gloves, air, eye protection; it heats as it cures, more in large pours.",
        "plastic": "Plastic and prints: air the room; wash uncured resin off with gloves on and cure what was washed.",
        "metal": "Metal: deburr, and wear eye protection.",
    }[group])  # fmt: skip
    if of.holes(study).bores or of.holes(study).ballast:
        said.append("Drilling: clamp the work, never hold it; eye protection; stop before the last millimetre.")
    if design.wires:
        said.append("Wire: cut ends fly; eye protection.")
    if any(f.sort == "hook" for f in design.fittings):
        said.append("Hooks last, and capped until the lure is boxed.")
    if design.coats:
        said.append(
            "Finishes: air, gloves, no flame near solvents; soaked rags can catch fire, dry them flat outdoors."
        )
    said.append(DATA_SHEET)
    return said


def _cautions(canvas: Canvas, study: Study, paper: str) -> None:
    page, width, height = _paper(canvas, paper)
    wide = width - 2.0 * 10.0
    write_table(page, f"{study.design.name}: cautions", [Column("for the steps of this build", wide)],
                [[words] for words in cautions(study)], height)  # fmt: skip


def _paint(canvas: Canvas, study: Study, paper: str) -> None:
    draw_painting(canvas, study)


PAGES: dict[str, Callable[[Canvas, Study, str], None]] = {
    "sheet": _sheet, "templates": _templates, "turning": _turning, "holes": _holes, "wire": _wire, "paint": _paint,
    "finish": _finish, "cautions": _cautions,
}  # fmt: skip
"""By name, in the order of the work."""


def pages_for(study: Study) -> list[str]:
    """Those that have something to say of the design."""
    design = study.design
    empty = {
        "turning": design.pieces[0].shape.kind == "mesh", "holes": not (of.holes(study).bores or of.holes(study).ballast),
        "wire": not (design.wires or design.fittings), "paint": not design.bands, "finish": not design.coats,
    }  # fmt: skip
    return [name for name in PAGES if not empty.get(name, False)]


def write_packet(study: Study, path: Path | str, pages: Sequence[str] | None = None, paper: str = "a4") -> list[str]:
    """Write the packet as PDF, all pages that have something to say or those named; returns which.

    Raises BadInput for unknown pages or paper, or a place that cannot be written.
    """
    if paper not in PAPERS:
        raise BadInput(f"paper '{paper}': say a4 or letter")
    unknown = [name for name in pages or () if name not in PAGES]
    if unknown:
        raise BadInput(f"no page is called '{unknown[0]}'; there are {', '.join(PAGES)}")
    chosen = pages_for(study) if pages is None else [n for n in PAGES if n in pages and n in pages_for(study)]
    if not chosen:
        raise BadInput("none of these pages has anything to say of this design")

    def draw(canvas: Canvas) -> None:
        for name in chosen:
            PAGES[name](canvas, study, paper)

    written(draw, study.design.name, path)
    return chosen

"""Commands of the Lines bench: rescale, redraw, ladder, outlines, export, lines."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated, cast

import typer

from yellowbob.cli.command import command
from yellowbob.cli.options import DesignFile, Json, Out, study_of
from yellowbob.cli.output import print_json
from yellowbob.cli.patience import patience
from yellowbob.ground.errors import BadInput
from yellowbob.reports.contract import CONTRACTS

if TYPE_CHECKING:
    from yellowbob.lines.shells import Inside
    from yellowbob.trials.ladder import Ladder


@command(CONTRACTS["rescale"])
def rescale(
    file: DesignFile,
    out: Out,
    length: Annotated[str | None, typer.Option(help="the new length, such as '90 mm'")] = None,
    factor: Annotated[float | None, typer.Option(help="times as large")] = None,
    length_only: Annotated[bool, typer.Option(help="stretch the length, keep beam and depth")] = False,
    as_json: Json = False,
) -> None:
    """Another size of a design, as a new design."""
    from yellowbob.design.files import write_design
    from yellowbob.design.rescale import rescaled
    from yellowbob.ground.quantities import read_quantity
    from yellowbob.reports.lines import wrote_design_report
    from yellowbob.shelf.filling import opened

    if (length is None) == (factor is None):
        raise BadInput("say either --length or --factor")
    design = opened(file)
    if length is not None:
        factor = read_quantity(length, "length") / design.shape.length_mm
    assert factor is not None
    made = rescaled(design, factor, length_only)
    write_design(made, out)
    if as_json:
        print_json(wrote_design_report(out, made, factor=factor))
        return
    typer.echo(f"wrote {out}: {made.shape.length_mm:.1f} mm long, {factor:.3f} times the size")


@command(CONTRACTS["redraw"])
def redraw(file: DesignFile, out: Out, as_json: Json = False) -> None:
    """A design whose curves are held to their points: the arcs of older files made smooth."""
    from yellowbob.design.files import write_design
    from yellowbob.design.outline_edits import arcs, held_to_points
    from yellowbob.reports.lines import wrote_design_report
    from yellowbob.shelf.filling import opened
    from yellowbob.study import Study, of

    old = opened(file)
    made = held_to_points(old)
    volumes = [of.outer(Study(design)).volume_mm3 for design in (old, made)]
    write_design(made, out)
    changed = 100.0 * (volumes[1] / volumes[0] - 1.0)
    if as_json:
        print_json(wrote_design_report(out, made, volume_ml=volumes[1] / 1000, changed_percent=changed))
        return
    typer.echo(f"wrote {out}: {len(arcs(old))} outlines held to their points, volume changed by {changed:+z.2f} %")


def _sizes(text: str) -> tuple[float, ...]:
    try:
        per_cent = [float(part.strip().rstrip("%")) for part in text.split(",")]
    except ValueError:
        raise BadInput(f"--sizes '{text}': write per cents, such as 60,80,100,120%") from None
    if not per_cent or any(not 5.0 <= p <= 2000.0 for p in per_cent):
        raise BadInput(f"--sizes '{text}': each must lie between 5 and 2000 %")
    return tuple(p / 100.0 for p in per_cent)


@command(CONTRACTS["ladder"])
def ladder(
    file: DesignFile,
    sizes: Annotated[str, typer.Option(metavar="60,80,100%", help="sizes in per cent")] = "50,60,70,80,90,100,120,150%",
    as_json: Json = False,
) -> None:
    """What becomes of a design in other sizes, and the smallest that can still work."""
    from yellowbob.reports.lines import ladder_report
    from yellowbob.shelf.filling import opened
    from yellowbob.trials.ladder import ladder as climb

    with patience("climbing the ladder") as told:
        found = climb(opened(file), _sizes(sizes), told)
    if as_json:
        print_json(ladder_report(found))
        return
    _say_ladder(found)


def _say_ladder(found: Ladder) -> None:
    from rich.console import Console
    from rich.table import Table

    table = Table(box=None, header_style="bold")
    for words in ("size %", "mm", "mL", "body g", "hardware g", "finish g", "ballast left g", "to spare g", ""):
        table.add_column(words, justify="right")
    for r in found.rungs:
        figures = (
            r.factor * 100,
            r.length_mm,
            r.volume_ml,
            r.body_g,
            r.hardware_g,
            r.finish_g,
            r.ballast_g,
            r.reserve_g,
        )
        table.add_row(
            *[f"{v:.0f}" if i == 0 else f"{v:.1f}" if i == 1 else f"{v:z.2f}" for i, v in enumerate(figures)],
            r.verdict,
        )
    Console(width=120, highlight=False).print(table)
    if found.smallest_mm is None:
        typer.echo(found.words)
    else:
        typer.echo(f"{found.words}: {found.smallest_mm:.1f} mm ({100 * (found.smallest_factor or 0):.0f} %)")


@command(CONTRACTS["outlines"])
def outlines(
    file: Annotated[Path, typer.Argument(help="an SVG with closed paths named side and plan")],
    out: Out,
    as_json: Json = False,
) -> None:
    """A design from SVG outlines, true size."""
    from yellowbob.design.files import write_design
    from yellowbob.design.starts import bare_design
    from yellowbob.lines.svg.body import read_svg_body
    from yellowbob.reports.lines import wrote_design_report

    with patience("reading the drawing") as told:
        found = read_svg_body(file, told)
    made = bare_design(out.stem, found.shape, found.cuts)
    write_design(made, out)
    if as_json:
        print_json(wrote_design_report(out, made, warnings=list(found.notes)))
        return
    typer.echo(f"wrote {out}: {found.shape.length_mm:.1f} mm long")
    for note in found.notes:
        typer.echo(f"  mind: {note}")


@command(CONTRACTS["export"])
def export(
    file: DesignFile,
    to: Annotated[Path, typer.Option("--to", help="OUT.stl, .3mf, .svg or .dxf; .csv for tables")],
    what: Annotated[
        str,
        typer.Option(
            help="body, mould (two halves), jig (a saddle a hole); stations, holes, slip, hardware, coats as .csv"
        ),
    ] = "body",
    as_json: Json = False,
) -> None:
    """The body as a solid or its outlines, mould halves, drill jigs, templates as DXF, tables as CSV, for other programs."""
    from yellowbob.reports.lines import wrote_report
    from yellowbob.shop.exports import export as write

    wrote = write(study_of(file), to, what)
    if as_json:
        print_json(wrote_report(to, unit="mm", files=[str(path) for path in wrote]))
        return
    typer.echo(f"wrote {', '.join(map(str, wrote))}, in mm")


@command(CONTRACTS["lines"])
def lines(
    file: DesignFile,
    as_json: Json = False,
) -> None:
    """Length, beam, depth, volume, area and centroid of the body, cuts made."""
    from yellowbob.reports.floating import lines_report

    report = lines_report(study_of(file))
    if as_json:
        print_json(report)
        return
    typer.echo(
        f"{report['length_mm']:.1f} mm long, {report['beam_mm']:.1f} wide, {report['depth_mm']:.1f} deep; "
        f"{report['volume_ml']:.2f} mL, {report['area_mm2']:.0f} mm² outside; "
        f"centre {report['centroid_mm'][0]:.1f} mm aft of the nose"
    )


@command(CONTRACTS["solid"])
def solid(
    file: Annotated[Path, typer.Argument(help="a closed .stl, .obj, .ply or .3mf")],
    unit: Annotated[str, typer.Option(metavar="mm|cm|m|in", help="unit of the file")],
    out: Out,
    density: Annotated[float, typer.Option(metavar="G_ML", help="of the body, g/mL")] = 0.5,
    nose: Annotated[str, typer.Option(help="the way the nose points in the file, such as -x")] = "-x",
    up: Annotated[str, typer.Option(help="the way that is up in the file, such as +z")] = "+z",
    triangles: Annotated[int, typer.Option(help="make it lighter than this, its length and volume kept")] = 3000,
    inside: Annotated[str | None, typer.Option(help="a closed space inside holds air, water, or is filled")] = None,
    as_json: Json = False,
) -> None:
    """A design whose body is a solid from CAD."""
    from yellowbob.design.files import write_design
    from yellowbob.design.model import Material
    from yellowbob.design.starts import bare_design
    from yellowbob.lines.importing import INSIDES, read_solid
    from yellowbob.lines.orient import as_body, axes_from, lighter_solid, lopsided, seated_solid, turned
    from yellowbob.reports.lines import wrote_design_report

    if not 0.0 < density <= 25.0:
        raise BadInput(f"density {density:g} g/mL is not that of a material")
    if inside is not None and inside not in INSIDES:
        raise BadInput(f"--inside '{inside}': say air, water or filled")
    if not 100 <= triangles <= 200_000:
        raise BadInput(f"--triangles {triangles}: give 100 to 200000")
    found = turned(read_solid(file, unit, cast("Inside | None", inside)), axes_from(nose, up))
    found = seated_solid(lighter_solid(found, triangles))
    mesh = found.outer
    material = Material(name="solid from CAD", group="plastic", density_g_ml=density)
    made = bare_design(out.stem, as_body(found, file.name, inside or "air"), material=material)
    write_design(made, out)
    if as_json:
        print_json(wrote_design_report(out, made, volume_ml=mesh.volume_mm3 / 1000, triangles=len(mesh.faces),
                                       lopsided=lopsided(mesh), warnings=list(found.notes)))  # fmt: skip
        return
    typer.echo(f"wrote {out}: {mesh.volume_mm3 / 1000:.2f} mL, {len(mesh.faces)} triangles")
    for note in found.notes:
        typer.echo(f"  mind: {note}")
    if lopsided(mesh) > 0.002:
        typer.echo(f"  mind: port and starboard differ by {100 * lopsided(mesh):.1f} %")

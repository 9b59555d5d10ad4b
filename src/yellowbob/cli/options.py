"""What the commands share: a design or a mesh opened in the water asked for."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from yellowbob.ground.errors import BadInput, BadMesh

if TYPE_CHECKING:
    from yellowbob.design.model import Design
    from yellowbob.study import Study

MOST_TRIANGLES = 60_000
"""A mesh that is floated as it is, is made no lighter than this."""
File = Annotated[Path, typer.Argument(help="a .ybob design, or a mesh (.stl, .obj, .ply, .3mf)")]
DesignFile = Annotated[Path, typer.Argument(help="a .ybob design")]
Text = Annotated[str | None, typer.Option()]
Out = Annotated[Path, typer.Option("-o", "--out", help="the .ybob to write")]
Json = Annotated[bool, typer.Option("--json", help="print JSON")]
Stock = Annotated[
    list[str] | None, typer.Option(help="a board, thick x wide x long, such as '19x90x900 mm'; again for more")
]


def study_of(file: Path) -> Study:
    """The study of a design file; figures in it that cannot be are said. Raises BadInput."""
    from yellowbob.shelf.filling import opened

    return begun(_looked_at(opened(file)))


def _looked_at(design: Design) -> Design:
    """The design, when what of it cannot be is said: what is worked out goes by it all the same."""
    from yellowbob.fitout.likely import doubts

    if not any(aside.check == "likely" for aside in design.set_aside):
        for one in doubts(design):
            if one.sure:
                typer.echo(f"yellow-bob: mind: {one.name}: {one.says}", err=True)
    return design


def begun(design: Design) -> Study:
    """The study of a design, nothing worked out yet."""
    from yellowbob.study import Study

    return Study(design)


def opened_study(
    file: Path, density: float | None, unit: str | None, water: str | None, temperature: float | None,
    salinity: float | None, load: str | None = None,
) -> Study:  # fmt: skip
    """The study of a design or a mesh, in the water and under the load asked for. Raises BadInput."""
    from yellowbob.design.model import Material, Water
    from yellowbob.design.starts import bare_design
    from yellowbob.ground.water import named_water
    from yellowbob.lines.importing import SUFFIXES, read_solid
    from yellowbob.lines.orient import as_body, lighter_solid
    from yellowbob.shelf.filling import opened

    if file.suffix.lower() in SUFFIXES:
        if density is None or unit is None:
            raise BadInput(f"{file.name} is a mesh: say its --density G_ML and its --unit mm, cm, m or in")
        if not 0.0 < density <= 25.0:
            raise BadInput(
                f"density {density:g} g/mL is not that of a material; give 0.1 for foam up to 20 for tungsten"
            )
        material = Material(name="mesh", group="plastic", density_g_ml=density)
        try:
            solid = read_solid(file, unit)
        except BadMesh as error:
            if "--inside" in str(error):
                raise BadMesh(f"{error}; import it with `yellow-bob solid` and float the design") from None
            raise
        for note in solid.notes:
            typer.echo(f"yellow-bob: mind: {file.name}: {note}", err=True)
        shape = as_body(lighter_solid(solid, MOST_TRIANGLES), file.name)
        design = bare_design(file.stem or "mesh", shape, material=material)
    else:
        if density is not None or unit is not None:
            raise BadInput("--density and --unit go with a mesh; a design carries its own")
        design = _looked_at(opened(file))
    if water is not None or temperature is not None or salinity is not None:
        old = design.water
        name = old.name if water is None else water
        kept = old.salinity_g_kg if water is None else None
        state = named_water(
            name, old.temperature_c if temperature is None else temperature, kept if salinity is None else salinity
        )
        changed = {"name": name, "temperature_c": state.temperature_c, "salinity_g_kg": state.salinity_g_kg}
        design = design.but(water=Water.model_validate(changed))
    return under(begun(design), load)


def under(study: Study, load: str | None) -> Study:
    """The study with a pull of so many grams on the line, in place of what hangs there. Raises BadInput."""
    if load is None:
        return study
    from yellowbob.afloat.line import in_air_g
    from yellowbob.design.rig import Hung, Rig
    from yellowbob.ground.quantities import read_quantity
    from yellowbob.study import Study, of

    pull = read_quantity(load, "mass")
    if pull < 0.0:
        raise BadInput(f"--load '{load}': give 0 or more")
    air = in_air_g(pull, LOAD_G_ML, 1000.0 * of.water_density(study))
    hung = (Hung(name="load", mass_g=air, density_g_ml=LOAD_G_ML),) if pull > 0.0 else ()
    rig = (study.design.rig or Rig()).model_copy(update={"hung": hung})
    return Study(study.design.but(rig=rig), study)


def speed_of(text: str | float) -> float:
    """A speed in m/s as it is typed: a bare number, or as the log reads it. Raises BadInput."""
    from yellowbob.logbook.speeds import read_speed

    try:
        return float(text)
    except ValueError:
        return read_speed(str(text), fastest_m_s=THROWN_M_S)


THROWN_M_S = 60.0
"""Nothing leaves a rod faster."""
SPEED = "m/s, such as 0.6 or '2 km/h'"
"""What may be typed for one, in the help."""
Drawn = Annotated[float | None, typer.Option(parser=speed_of, metavar="M_S", help=f"drawn by its line, {SPEED}")]
Density = Annotated[float | None, typer.Option("--density", metavar="G_ML", help="of a mesh body, g/mL")]
Unit = Annotated[str | None, typer.Option("--unit", metavar="mm|cm|m|in", help="unit of a mesh file")]
WaterName = Annotated[str | None, typer.Option("--water", metavar="fresh|brackish|sea")]
Temperature = Annotated[float | None, typer.Option("--temperature", metavar="C", help="of the water, °C")]
Load = Annotated[
    str | None, typer.Option("--load", metavar="G", help="pull on the line under water, in place of its own")
]
LOAD_G_ML = 25.0
"""What a load by itself is made of in the document: it only has to sink."""
Salinity = Annotated[float | None, typer.Option("--salinity", metavar="G_KG", help="Absolute Salinity, g/kg")]

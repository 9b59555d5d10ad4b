"""What a worksheet found, written into a design."""

from __future__ import annotations

from yellowbob.design.model import Design
from yellowbob.fitout.worksheets import IN_WATER, Sheet
from yellowbob.ground.errors import BadInput


def kept(design: Design, sheet: Sheet) -> Design:
    """The design with the worksheet's readings kept in it."""
    return design.but(measurements=(*design.measurements[-49:], sheet.measurement()))


OF_A_SAMPLE = ("block", "puck", "mould")
"""Worksheets of a test piece, whose volume says nothing about the body."""


def _bare(sheet: Sheet) -> None:
    """Raises BadInput for a piece weighed in water with more on it than its own wood, or when nobody said."""
    if sheet.kind not in IN_WATER or sheet.on == "bare":
        return
    if sheet.on == "rigged":
        raise BadInput(
            "with hooks, wire, ballast or finish on it this is the figure of the whole, not of the body's material: "
            "put the weight down as a weighing of its stage, and the material follows from that"
        )
    raise BadInput(
        "what was on it in the water? Say bare, when it was the body alone, or rigged (--on bare, --on rigged)"
    )


def with_sheet(design: Design, sheet: Sheet) -> Design:
    """The design with the density of this piece as measured, and the readings kept. Raises BadInput when none was found."""
    if sheet.density is None:
        raise BadInput("this worksheet gives a volume, not a density; use block, puck, mould, immersion or sink")
    _bare(sheet)
    if not 0.0 < sheet.density.value <= 25.0:
        raise BadInput(
            f"a density of {sheet.density.value:.4g} g/mL is none of a material (0 to 25); check the readings' units"
        )
    measured = design.of_material(
        density_g_ml=sheet.density.value, measured=True, density_u_g_ml=min(sheet.density.u, 5.0)
    )
    return kept(measured, sheet)


def with_volume(design: Design, sheet: Sheet, volume_now_ml: float) -> Design:
    """The design grown or shrunk evenly, so that its body has the volume that was measured; readings kept."""
    from yellowbob.design.rescale import rescaled

    if sheet.volume is None:
        raise BadInput("this worksheet found no volume")
    if sheet.kind in OF_A_SAMPLE:
        raise BadInput(f"the volume of a {sheet.kind} is that of the test piece, not of the body")
    _bare(sheet)
    factor = (sheet.volume.value / volume_now_ml) ** (1.0 / 3.0)
    if not 0.5 < factor < 2.0:
        raise BadInput(
            f"the measured {sheet.volume.value:.2f} mL is far from the drawing's {volume_now_ml:.2f} mL; check the readings"
        )
    return kept(rescaled(design, factor), sheet)

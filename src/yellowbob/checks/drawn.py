"""Checks of the lines as they are drawn."""

from __future__ import annotations

from yellowbob.checks.verdict import Finding, check
from yellowbob.design.outline_edits import arcs
from yellowbob.lines.curves import bulge_mm
from yellowbob.lines.solids import to_manifold
from yellowbob.study import Study, of

CHIP_MM3 = 1.0
"""What a cut leaves loose that is smaller is a chip."""
BULGE_MM = 0.2
"""A curve may rise so far above its points before it is worth a look: a rule."""


@check(
    "curves",
    "Curves held",
    "Until version 3 of the file a smooth point carried its circle on; such points are kept as arcs, and every figure "
    "with them, but the curve can bulge above the points that were measured.",
)
def curves(study: Study) -> Finding | None:
    carried = arcs(study.design)
    if not carried:
        return None
    bulge = max(bulge_mm(outline) for outline in carried)
    figure = f"arcs rise {bulge:.1f} mm over their points"
    if bulge > BULGE_MM:
        return Finding("watch", figure, "Lines, Start, Hold curves to their points; or set single points to smooth.")
    return Finding("good", figure)


@check("whole", "In one piece", "A cut that goes right through leaves two bodies, and only one of them is fished.")
def whole(study: Study) -> Finding | None:
    if not study.build.body.cuts:
        return None
    apart = sorted((part.volume() for part in to_manifold(of.outer(study)).decompose()), reverse=True)
    apart = [volume for volume in apart if volume > CHIP_MM3]
    if len(apart) < 2:
        return Finding("good", "one piece")
    words = " and ".join(f"{volume / 1000.0:.2f} mL" for volume in apart[:3])
    return Finding(
        "failed", f"{len(apart)} bodies: {words}", "Make the cut shallower; all figures are of both together."
    )

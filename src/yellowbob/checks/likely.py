"""The check that weights are such as things have, as typed and as weighed."""

from __future__ import annotations

from collections.abc import Iterator

from yellowbob.checks.verdict import Finding, check
from yellowbob.fitout.likely import Doubt, doubts
from yellowbob.study import Study, of


@check("likely", "Weights likely", "A figure that slipped a place is counted and floated like any other.", "rule")
def likely(study: Study) -> Finding:
    found = [*_weighed(study), *doubts(study.build)]
    if not found:
        return Finding("good", "as such things weigh")
    first, more = min(found, key=lambda one: not one.sure), len(found) - 1
    figure = f"{first.name}: {first.says}" + (f", and {more} more" if more else "")
    do = f"Look again at the figures of {first.name}, or weigh it; your own on the shelf count as usual ones."
    return Finding("failed" if first.sure else "watch", figure, do)


def _weighed(study: Study) -> Iterator[Doubt]:
    """Weighings that what is known to vary does not explain."""
    for one in of.evidence(study).surprising:
        why = f"; {one.likely}?" if one.likely else ""
        says = f"{one.weighing.mass_g:.4g} g is {abs(one.sigmas):.0f} σ off{why}"
        yield Doubt(one.weighing.stage, says, one.misread)

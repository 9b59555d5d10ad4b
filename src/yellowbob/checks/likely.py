"""The check that weights are such as things have."""

from __future__ import annotations

from yellowbob.checks.verdict import Finding, check
from yellowbob.fitout.likely import doubts
from yellowbob.shelf.shipped import every_material, hooks
from yellowbob.study import Study


@check("likely", "Weights likely", "A figure that slipped a place is counted and floated like any other.", "rule")
def likely(study: Study) -> Finding:
    found = doubts(study.design, hooks(), every_material())
    if not found:
        return Finding("good", "as such things weigh")
    first, more = found[0], len(found) - 1
    figure = f"{first.name}: {first.says}" + (f", and {more} more" if more else "")
    do = "Look again at what was typed, or weigh it; your own figures on the shelf count too."
    return Finding("failed" if first.sure else "watch", figure, do)

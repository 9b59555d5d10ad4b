"""Checks that what is fitted is held by something: hardware that hangs on the body or a wire, wires that run in a body."""

from __future__ import annotations

from yellowbob.checks.verdict import Finding, check
from yellowbob.fitout.holding import off_axle
from yellowbob.study import Study, of

MUCH_SHARE = 0.004
"""Of the body's volume: less water counted twice is not spoken of."""
LEAST_G = 0.005
"""Less metal counted twice is not spoken of."""
LEAST_SHARE = 0.5
"""So much of a wire must lie in the pieces: a rule."""


@check("held", "All held", "What nothing holds is not there: its mass is counted where it cannot be.", "rule")
def held(study: Study) -> Finding | None:
    if not study.build.fittings and len(study.build.pieces) < 2:
        return None
    loose = of.unheld_parts(study)
    beside = off_axle(of.fittings(study), tuple(one.wire for one in of.wires(study)))
    if not loose and beside:
        gap, name = max(beside)
        do = f"Move {name} onto the wire; it is weighed and turns where it is put."
        return Finding("watch", f"{name} is {gap:.1f} mm beside its wire", do)
    if not loose:
        return Finding("good", "all of it")
    gap, name = max(loose)
    do = f"Move {name} to what holds it, or bring a wire or an eye to it."
    return Finding("failed", f"{name} hangs on nothing, {gap:.0f} mm off", do)


@check(
    "sunk", "Out of the wood", "Nothing hangs in the wood, and what lies in it pushes no water aside: the wood does.", "exact"
)  # fmt: skip
def sunk(study: Study) -> Finding | None:
    every, least = of.fittings(study), MUCH_SHARE * of.outer(study).volume_mm3 / 1000.0
    if not any(f.hanging or f.volume_ml > least for f in every):
        return None
    deep = of.hung_inside(study)
    if deep:
        return Finding("failed", f"{deep[-1]} hangs in the wood", f"Bring {deep[-1]} to an eye outside of it.")
    counted = [one for one in of.sunk(study) if one[0] > least]
    if not counted:
        return Finding("good", "all that hangs or pushes water aside")
    volume, name = max(counted)
    do = f"Set the volume of {name} to 0 and drill a hole for it, or bring it out of the wood."
    return Finding("watch", f"{name} pushes {volume:.2f} mL aside in the wood", do)


@check(
    "course",
    "Wire in the body",
    "A wire holds by what of it lies in the body, and is weighed and floats by it.",
    "rule",
)
def course(study: Study) -> Finding | None:
    routed = of.wires(study)
    if not routed:
        return None
    for one in routed:
        total = sum(run.length_mm for run in one.runs)
        share = one.inside_mm / max(total, 1e-9)
        if share < LEAST_SHARE:
            figure = f"{100.0 * share:.0f} % of {one.wire.name}"
            return Finding("failed", figure, f"Lay {one.wire.name} through the body: most of it is outside.")
    for one in routed:
        if one.aside is not None:
            do = f"Lay {one.wire.name} deeper, or well out of the wood; what of it is in the wood is reckoned as it lies."
            return Finding("watch", f"{one.wire.name} is only partly in the wood along its way", do)
    mass, weight, wire = max(of.cast_round_wires(study), default=(0.0, "", ""))
    if mass > LEAST_G:
        do = f"Make {weight} as heavy as the scale says it is with {wire} in it: its sizes leave no room for that."
        return Finding("watch", f"{mass:.2f} g of {weight} is counted where {wire} runs", do)
    return Finding("good", f"{sum(one.inside_mm for one in routed):.0f} mm of it")

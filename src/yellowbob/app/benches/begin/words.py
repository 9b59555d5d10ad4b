"""What an answer to a brief is told in."""

from __future__ import annotations

from yellowbob.app.widgets.measures import Units
from yellowbob.ground.quantities import show
from yellowbob.study import Study, of
from yellowbob.trials.answer import Answer

ROOM = {"angle": 4.0, "mass": 0.08}
"""How far about one figure a pitch, degrees, and a mass, as a share, may come out."""


def words_of(found: Answer) -> str:
    """What was chosen, and what the checks say."""
    design, mass, length = found.design, Units.of("mass"), Units.of("length")
    study = Study(design)
    hung = [f.stock or f.name for f in design.fittings if f.sort == "hook"]
    chosen = [f"{hung.count(name)} × {name}" for name in dict.fromkeys(hung)]
    for one, placed in zip(design.ballast, of.holes(study).ballast, strict=True):
        if one.drilling is not None:
            at = f"at {show(one.drilling.place_mm[0], length, 1)} {length}"
            where = at if one.drilling.side == "belly" else "from the tail"
            chosen.append(f"{one.name} {show(placed.weight.mass_g, mass, 2)} {mass} {where}")
    said = [f"<b>{design.name}</b>, {design.body.material.name}: {'; '.join(chosen) or 'nothing hung on it'}."]
    if found.sound:
        watch = [v.title.lower() for v in found.verdicts if v.state == "watch"]
        said.append("Every check passes" + (f"; to watch: {', '.join(watch)}." if watch else "."))
    else:
        said.append(f"! Not sound: {found.reason}.")
    if design.notes:
        said.append(design.notes)
    return "<br>".join(said).replace("-", "−")


def about(value: float | None, dimension: str) -> dict[str, float] | None:
    """One figure asked for, as the range that it may come out in."""
    if value is None:
        return None
    room = ROOM[dimension] * (value if dimension == "mass" else 1.0)
    return {"least": value - room, "most": value + room}

"""What to mind in exactly the steps of a build. It never says that a thing is safe."""

from __future__ import annotations

from yellowbob.design.shape import Turned
from yellowbob.shop.pages.job import DATA_SHEET
from yellowbob.study import Study, of

MATERIALS = {
    "wood": "Wood dust: draw it off and wear a mask; some woods irritate skin and lungs.",
    "foam": "Foam: no hot wire without air; its fumes harm.",
    "resin": "Resin: gloves, air, eye protection; it heats as it cures, more in large pours.",
    "plastic": "Plastic and prints: air the room; wash uncured resin off with gloves on and cure what was washed.",
    "metal": "Metal: deburr, and wear eye protection.",
}


def cautions(study: Study) -> list[str]:
    """In the order of the work."""
    design, said = study.design, []
    metals = " ".join(f"{b.stock} {b.name}" for b in design.ballast).lower()
    if design.rig is not None:
        metals += " ".join(h.stock for h in design.rig.hung).lower()
    if "lead" in metals:
        said.append("Lead: gloves, no dust, no food nearby; wash hands and bench. It is banned in places: ask first.")
    if any(b.drilling is None for b in design.ballast):
        said.append("Cast-in weight: never pour molten metal near water or damp wood; steam throws it.")
    said += [MATERIALS[group] for group in dict.fromkeys(p.material.group for p in design.pieces)]
    if isinstance(design.shape, Turned):
        said.append("Lathe: face shield, no loose sleeves or gloves, tool rest close, speed low until it is round.")
    elif design.body.material.group in ("wood", "foam"):
        said.append("Saw: push sticks for short pieces; tack offcuts so that the block lies flat.")
    if of.holes(study).bores or of.holes(study).ballast:
        said.append("Drilling: clamp the work, never hold it; eye protection; stop before the last millimetre.")
    if any(p.shape.kind in ("lip", "wings", "fin", "cutout") for p in design.parts):
        said.append("Sheet: edges cut; saw it clamped, deburr it, eye protection.")
    if design.wires:
        said.append("Wire: cut ends fly; eye protection.")
    if any(f.sort == "hook" for f in design.fittings):
        said.append("Hooks last, and capped until the lure is boxed.")
    if design.coats:
        said.append(
            "Finishes: air, gloves, no flame near solvents; soaked rags can catch fire, dry them flat outdoors."
        )
        if any("uv" in f"{c.stock} {c.name}".lower().split() for c in design.coats):
            said.append("UV lamps: never look into them; cover the skin.")
    said.append(DATA_SHEET)
    return said

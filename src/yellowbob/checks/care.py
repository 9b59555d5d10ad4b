"""Checks of what can hurt or is ruled locally, and of the finish. They never say that a thing is safe."""

from __future__ import annotations

from yellowbob.checks.verdict import Finding, check
from yellowbob.design.hardware import line_tie
from yellowbob.study import Study, of

LEAST_COAT_MM2 = 1.0
"""What covers less is laid beside the piece."""


@check(
    "lead",
    "Lead",
    "Lead in tackle is banned or limited in places: the local rule decides. Its dust and fume are poisonous.",
    "rule",
)
def lead(study: Study) -> Finding | None:
    placed = [p for p in of.holes(study).ballast if p.ballast.weight.material == "lead"]
    if not of.holes(study).ballast:
        return None
    grams = sum(p.weight.mass_g for p in placed)
    if not placed:
        return Finding("good", "none")
    return Finding(
        "watch", f"{grams:.1f} g of lead",
        "Look up the rule of your water. Tungsten, tin or steel do it too: Pose it lists them. Work it cold, wash hands.",
    )  # fmt: skip


@check("sealed", "Sealed", "Bare wood drinks: it gains weight in the water and the paint lifts.", "rule")
def sealed(study: Study) -> Finding | None:
    if study.build.body.material.group != "wood":
        return None
    if study.build.coats:
        return Finding("good", f"{sum(c.coats for c in study.build.coats)} coats")
    return Finding("watch", "no finish", "Enter the coats: Fit-out, Finish. Their grams are missing from the slip.")


@check("finish", "Weight of finish", "The finish is not a detail: it can take a small bait down.", "rule")
def finish(study: Study) -> Finding | None:
    total = of.slip(study).finished.mass_g
    if not study.build.coats or total <= 0:
        return None
    for coat, skin in zip(study.build.coats, of.coated(study), strict=True):
        if float(skin.areas.sum()) < LEAST_COAT_MM2:
            return Finding("failed", f"{coat.name} covers nothing", "Set where it begins and ends: Fit-out, Finish.")
    grams = of.slip(study).to_come.mass_g
    share = 100.0 * grams / total
    if share > 15.0:
        return Finding(
            "watch", f"{grams:.1f} g, {share:.0f} % of it", "Fewer or thinner coats; weigh before and after one."
        )
    return Finding("good", f"{grams:.1f} g, {share:.0f} % of it")


@check("strength", "Held by wire", "A hook held only by a screw eye in light wood can pull out with the fish.", "rule")
def strength(study: Study) -> Finding | None:
    design = study.design
    eyes = [f for f in design.fittings if f.sort == "screw eye"]
    if not eyes:
        return None
    if design.body.density_g_ml < 0.4 and not design.wires:
        return Finding(
            "watch",
            f"{len(eyes)} screw eyes in {design.body.density_g_ml:.2f} g/mL",
            "Run a wire through, or use harder wood.",
        )
    return Finding("good", f"{len(eyes)} screw eyes")


@check("rigged", "Rigged", "A build without its hooks or line tie floats otherwise than it fishes.")
def rigged(study: Study) -> Finding:
    count = sum(1 for f in study.build.fittings if f.sort == "hook")
    if study.build.kind.endswith("float") or study.build.kind in ("waggler", "dropper"):
        return Finding("good", "a float")
    if count == 0:
        return Finding(
            "watch", "no hooks on", "Hang the hooks: their weight trims it. Cover points when you handle it."
        )
    return Finding("good", f"{count} hooks" + ("" if line_tie(study.build.fittings) else ", no tie"))

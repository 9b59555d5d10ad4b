"""What can make a piece weigh otherwise than forecast: densities, films, soaking, lead, hardware; each with its σ.

Every line of the weigh slip goes with one or two of these. Odds draw them; evidence corrects them.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from yellowbob.design.model import Design, Material, Shot, Slug
from yellowbob.design.names import told_apart
from yellowbob.shelf.shipped import every_material
from yellowbob.weights.slip import ballast_keys, piece_key

FILM_SPREAD = 0.25
"""σ of a coat's thickness, as a share: a maker's rule for brush and dip."""
SOAK_SPREAD = 0.4
"""σ of what a piece drinks, as a share: a rule."""
SHOT_SPREAD = 0.05
ROD_MM = 0.2
"""σ of one shot's mass, as a share, and of a rod's cut length: rules."""
FITTING_SPREAD = 0.05
WIRE_SPREAD = 0.02
FILLER_SPREAD = 0.2
"""σ of hardware, wire, and what closes holes, as a share of its mass: rules."""
WOOD_SPREAD = 0.1
"""σ of a density, as a share, where the shelf does not say."""
MEASURED_SHARE = 0.01
"""σ of a density that was measured, as a share, where its worksheet does not say."""
OF_PIECE = ("hollow", "seats", "wire wood", "fitting wood", "holes", "cast in")
"""Slip lines of what is taken off a piece: `holes` off the body, `holes:NAME` off another."""


@dataclass(frozen=True)
class Cause:
    """One thing that may be other than forecast. σ in its unit; `now` is what the design says, in that unit."""

    key: str
    words: str
    sigma: float
    unit: str
    now: float = 1.0


def density_sigma(material: Material, measured: bool | None = None) -> float:
    """σ of a density, g/mL: its worksheet's where it was measured, else the shelf's spread between pieces, else a tenth.

    measured : as if it had been (or had not); None: as the record says.
    """
    if material.measured if measured is None else measured:
        known = material.density_u_g_ml if material.measured else None
        return known if known else MEASURED_SHARE * material.density_g_ml
    item = every_material().get(material.name)
    if item is not None and item.spread_g_ml > 0:
        return item.spread_g_ml
    return WOOD_SPREAD * material.density_g_ml


def weight_sigma(weight: Shot | Slug) -> float:
    """σ of a ballast's mass, as a share of it."""
    if isinstance(weight, Shot):
        return SHOT_SPREAD / math.sqrt(weight.count)
    return ROD_MM / weight.length_mm


def causes_of(design: Design) -> dict[str, Cause]:
    """Everything of a design that may weigh otherwise, by key."""
    found = [
        Cause(f"density:{p.name}", f"density of the {p.material.name}", density_sigma(p.material), "g/mL",
              p.material.density_g_ml) for p in design.pieces
    ]  # fmt: skip
    for key, coat in zip(told_apart(c.name for c in design.coats), design.coats, strict=True):
        found.append(Cause(f"film:{key}", f"thickness of {coat.name}", FILM_SPREAD, "of it"))
        if coat.soak_g_m2 > 0:
            found.append(Cause(f"soak:{key}", f"what {coat.name} soaks in", SOAK_SPREAD, "of it"))
    for key, one in zip(ballast_keys(design.ballast), design.ballast, strict=True):
        found.append(Cause(key, f"mass of {one.name}", weight_sigma(one.weight), "of it"))
        if one.plug is not None:
            found.append(Cause(f"plug:{key.partition(':')[2]}", f"plug of {one.name}", FILLER_SPREAD, "of it"))
    for key, fitting in zip(told_apart(f.name for f in design.fittings), design.fittings, strict=True):
        if fitting.mass_g > 0:
            found.append(Cause(f"fitting:{key}", f"mass of {fitting.name}", FITTING_SPREAD, "of it"))
    for key, wire in zip(told_apart(w.name for w in design.wires), design.wires, strict=True):
        found.append(Cause(f"wire:{key}", f"mass of {wire.name}", WIRE_SPREAD, "of it"))
        if wire.filler is not None:
            found.append(Cause(f"closing:{key}", f"filling of {wire.name}", FILLER_SPREAD, "of it"))
    for number, piece in enumerate(design.pieces):
        for key, bore in zip(told_apart(b.name for b in piece.bores), piece.bores, strict=True):
            if bore.filler is not None:
                name = f"bore:{key}" if number == 0 else f"bore:{key}:{piece.name}"
                found.append(Cause(name, f"filling of {bore.name}", FILLER_SPREAD, "of it"))
    return {cause.key: cause for cause in found}


def causes_of_lines(design: Design) -> dict[str, tuple[tuple[str, float], ...]]:
    """For each slip key, the causes that its mass goes with, and the share of the mass that goes with each."""
    out: dict[str, tuple[tuple[str, float], ...]] = {}
    for number, piece in enumerate(design.pieces):
        cause = ((f"density:{piece.name}", 1.0),)
        out[piece_key(number, piece.name)] = cause
        out |= {taken if number == 0 else f"{taken}:{piece.name}": cause for taken in OF_PIECE}
    for key, coat in zip(told_apart(c.name for c in design.coats), design.coats, strict=True):
        film, soak = coat.film_mm * coat.coats * coat.density_g_ml, coat.soak_g_m2 / 1000.0
        whole = film + soak
        shares = (film / whole, soak / whole) if whole > 0 else (1.0, 0.0)
        both = ((f"film:{key}", shares[0]), (f"soak:{key}", shares[1]))
        out[f"coat:{key}"] = tuple((cause, share) for cause, share in both if share > 0.0)
    for key in causes_of(design):
        if not key.startswith(("density:", "film:", "soak:")):
            out[key] = ((key, 1.0),)
    return out

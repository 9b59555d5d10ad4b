"""A design as its weighings say it is: every cause's correction put where it belongs."""

from __future__ import annotations

from typing import Any

from yellowbob.design.model import Design, Shot, replaced
from yellowbob.design.names import told_apart
from yellowbob.weights.evidence import Evidence
from yellowbob.weights.slip import ballast_keys

GONE_SHARE = -0.95
"""No correction takes more than this share of a mass."""


def _factor(evidence: Evidence, key: str) -> float:
    found = evidence.of(key)
    return 1.0 if found is None else 1.0 + max(GONE_SHARE, found[0])


def _denser(thing: Any, factor: float) -> Any:
    """A filler, wire, shot or slug that weighs so many times as much in the room it has."""
    if factor == 1.0:
        return thing
    return replaced(thing, density_g_ml=min(25.0, thing.density_g_ml * factor))


def _weight(weight: Any, factor: float) -> Any:
    made = _denser(weight, factor)
    return replaced(made, mass_g=weight.mass_g * factor) if isinstance(weight, Shot) and factor != 1.0 else made


def corrected(design: Design, evidence: Evidence) -> Design:
    """The design as its weighings say it is, without them. What is not corrected stays the same object."""
    pieces = []
    for number, piece in enumerate(design.pieces):
        found = evidence.of(f"density:{piece.name}")
        if found is not None and found[0] != 0.0:
            dense = max(piece.density_g_ml * (1.0 + GONE_SHARE), piece.density_g_ml + found[0])
            piece = replaced(piece, material=replaced(piece.material, density_g_ml=min(25.0, dense)))
        fills = [_factor(evidence, f"bore:{key}" if number == 0 else f"bore:{key}:{piece.name}")
                 for key in told_apart(b.name for b in piece.bores)]  # fmt: skip
        if any(f != 1.0 for f in fills):
            bores = [b if b.filler is None else replaced(b, filler=_denser(b.filler, f))
                     for b, f in zip(piece.bores, fills, strict=True)]  # fmt: skip
            piece = replaced(piece, bores=tuple(bores))
        pieces.append(piece)
    changes: dict[str, Any] = {
        "pieces": _same(design.pieces, pieces), "ballast": _same(design.ballast, _ballast(design, evidence)),
        "fittings": _same(design.fittings, _fittings(design, evidence)),
        "wires": _same(design.wires, _wires(design, evidence)), "coats": _same(design.coats, _coats(design, evidence)),
    }  # fmt: skip
    return design.but(weighings=(), **changes)


def _same(old: tuple[Any, ...], new: list[Any]) -> tuple[Any, ...]:
    """The old list where nothing in it has changed."""
    return old if all(a is b for a, b in zip(old, new, strict=True)) else tuple(new)


def _ballast(design: Design, evidence: Evidence) -> list[Any]:
    out = []
    for key, one in zip(ballast_keys(design.ballast), design.ballast, strict=True):
        heavier, plug = _factor(evidence, key), _factor(evidence, f"plug:{key.partition(':')[2]}")
        if heavier != 1.0:
            one = replaced(one, weight=_weight(one.weight, heavier))
        if plug != 1.0 and one.plug is not None:
            one = replaced(one, plug=_denser(one.plug, plug))
        out.append(one)
    return out


def _fittings(design: Design, evidence: Evidence) -> list[Any]:
    out = []
    for key, one in zip(told_apart(f.name for f in design.fittings), design.fittings, strict=True):
        factor = _factor(evidence, f"fitting:{key}")
        own = one.inertia_g_mm2
        out.append(one if factor == 1.0 else replaced(
            one, mass_g=one.mass_g * factor, volume_ml=one.volume_ml * factor,
            inertia_g_mm2=(own[0] * factor, own[1] * factor, own[2] * factor),
        ))  # fmt: skip
    return out


def _wires(design: Design, evidence: Evidence) -> list[Any]:
    out = []
    for key, one in zip(told_apart(w.name for w in design.wires), design.wires, strict=True):
        heavier, closing = _factor(evidence, f"wire:{key}"), _factor(evidence, f"closing:{key}")
        one = _denser(one, heavier)
        if closing != 1.0 and one.filler is not None:
            one = replaced(one, filler=_denser(one.filler, closing))
        out.append(one)
    return out


def _coats(design: Design, evidence: Evidence) -> list[Any]:
    out = []
    for key, one in zip(told_apart(c.name for c in design.coats), design.coats, strict=True):
        film, soak = _factor(evidence, f"film:{key}"), _factor(evidence, f"soak:{key}")
        if (film, soak) != (1.0, 1.0):
            one = replaced(one, film_mm=min(5.0, one.film_mm * film), soak_g_m2=one.soak_g_m2 * soak)
        out.append(one)
    return out

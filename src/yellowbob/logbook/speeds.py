"""A speed as it is told at the water: a figure with its unit, a walk, a reel's turns, a motor's setting taught before."""

from __future__ import annotations

import re
from collections.abc import Mapping

from yellowbob.ground.errors import BadInput

UNITS_M_S = {
    "m/s": 1.0, "cm/s": 0.01, "mm/s": 0.001, "km/h": 1.0 / 3.6, "kmh": 1.0 / 3.6, "mph": 0.44704, "ft/s": 0.3048,
    "m/min": 1.0 / 60.0, "kn": 1852.0 / 3600.0, "knot": 1852.0 / 3600.0, "knots": 1852.0 / 3600.0,
}  # fmt: skip
WALKS_M_S = {"slow walk": 0.8, "walk": 1.3, "brisk walk": 1.7}
"""Of a grown person on level ground: rules; teach your own."""
LENGTHS_M = {"mm": 0.001, "cm": 0.01, "m": 1.0, "in": 0.0254, "ft": 0.3048}
SECONDS = {"s": 1.0, "sec": 1.0, "second": 1.0, "seconds": 1.0, "min": 60.0, "minute": 60.0, "minutes": 60.0}
FASTEST_M_S = 20.0
_NUMBER = r"(\d+(?:\.\d+)?)"
_PLAIN = re.compile(rf"{_NUMBER}\s*({'|'.join(map(re.escape, sorted(UNITS_M_S, key=len, reverse=True)))})?")
_TIME = "|".join(sorted(SECONDS, key=len, reverse=True))
_RATE = re.compile(rf"(?:{_NUMBER}|(a|one))\s*turns?\s*(?:/|an?|per|in|every)\s*{_NUMBER}?\s*({_TIME})\b")
_TURN = re.compile(rf"{_NUMBER}\s*(mm|cm|m|in|ft)\s*(?:/|an?|per|each|every)?\s*turn\b")
WAYS = "0.6 m/s, 2 km/h, slow walk, walk, brisk walk, or 1.5 turns a second at 70 cm a turn"


def read_speed(text: str, own: Mapping[str, float] | None = None, fastest_m_s: float = FASTEST_M_S) -> float:
    """A speed in m/s. own: words that were taught, with theirs. Raises BadInput for what is not understood, or is faster."""
    words = " ".join(text.strip().lower().split())
    if own and words in own:
        return own[words]
    if words.removesuffix("ing pace") in WALKS_M_S or words in WALKS_M_S:
        return WALKS_M_S.get(words, WALKS_M_S.get(words.removesuffix("ing pace"), 0.0))
    if "turn" in words:
        return _bounded(_of_a_reel(words, text), text, fastest_m_s)
    plain = _PLAIN.fullmatch(words)
    if plain is None:
        taught = "" if own is None else "; or in words you taught"
        raise BadInput(f"'{text}' is no speed I understand; write it as {WAYS}{taught}")
    return _bounded(float(plain[1]) * UNITS_M_S[plain[2] or "m/s"], text, fastest_m_s)


def _of_a_reel(words: str, text: str) -> float:
    rates, turns = _RATE.findall(words), _TURN.findall(words)
    taken = _TURN.sub("", _RATE.sub("", words))
    if len(rates) != 1 or len(turns) != 1 or re.sub(r"\b(at|of|with|and|reel)\b|[,;]", "", taken).strip():
        raise BadInput(
            f"'{text}': a reel's speed is its turns and what it takes in, such as 1.5 turns a second at 70 cm a turn"
        )
    count, one, seconds, unit = rates[0]
    length, of = turns[0]
    return (1.0 if one else float(count)) / (float(seconds or 1.0) * SECONDS[unit]) * float(length) * LENGTHS_M[of]


def _bounded(value: float, text: str, fastest_m_s: float) -> float:
    if not 0.0 < value <= fastest_m_s:
        raise BadInput(f"'{text}' is {value:.3g} m/s; a speed lies over 0 and up to {fastest_m_s:g} m/s")
    return value

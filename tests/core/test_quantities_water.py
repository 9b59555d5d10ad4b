"""What makers type, and the density of water."""

from __future__ import annotations

import math

import pytest

from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import gauge_to_mm, read_quantity, show
from yellowbob.ground.water import named_water, water_state


@pytest.mark.parametrize(
    ("text", "dimension", "value"),
    [
        ("45 mm", "length", 45), ("45", "length", 45), ("4.5cm", "length", 45), ("1 3/4 in", "length", 44.45),
        ('1-3/4"', "length", 44.45), ("1 3/4”", "length", 44.45), (".032in", "length", 0.8128),
        ("½ in", "length", 12.7),
        ("2½ inches", "length", 63.5), ("3/8oz", "mass", 28.349523125 * 3 / 8), ("7,5 g", "mass", 7.5),
        ("120 gr", "mass", 120 * 0.06479891), ("-2 mm", "length", -2), ("−2 mm", "length", -2),
        ("480 kg/m3", "density", 0.48), ("30 lb/ft³", "density", 30 * 0.45359237 / 28.316846592),
        ("24°", "angle", 24), ("0.5 rad", "angle", math.degrees(0.5)), ("57 °F", "temperature", 125 / 9),
        ("14 C", "temperature", 14), ("3/4 cu in", "volume", 16.387064 * 0.75), ("12 cc", "volume", 12),
    ],
)  # fmt: skip
def test_understood(text: str, dimension: str, value: float) -> None:
    assert read_quantity(text, dimension) == pytest.approx(value)


def test_gauge_is_the_published_series() -> None:
    assert read_quantity("20ga", "length") == pytest.approx(0.127 * 92 ** (16 / 39))
    assert gauge_to_mm(36) == pytest.approx(0.127)


def test_a_bare_number_is_in_the_unit_read() -> None:
    assert read_quantity("2", "length", "in") == pytest.approx(50.8)


@pytest.mark.parametrize(
    ("text", "dimension"),
    [("", "mass"), ("heavy", "mass"), ("5 mm", "mass"), ("1/0 in", "length"), ("7 g", "length"), ("nan", "length"),
     ("1e999", "mass"), ("4 mm", "number"), ("3 parsnips", "length"), ("--3", "length")],
)  # fmt: skip
def test_refused_with_an_example(text: str, dimension: str) -> None:
    with pytest.raises(BadInput, match="for example"):
        read_quantity(text, dimension)


def test_shown_with_a_true_minus_and_never_minus_zero() -> None:
    assert show(-3.21, "mm") == "−3.2"
    assert show(-0.01, "mm") == "0.0"
    assert show(25.4, "in") == "1.000"


def test_water_agrees_with_published_densities() -> None:
    # CIPM 2001 for pure water, 999.975 kg/m³ at 4 °C; the TEOS-10 reference ocean near 1024.8 at 15.5 °C
    assert water_state(4.0, 0.0).density_g_ml == pytest.approx(0.999975, abs=2e-5)
    assert water_state(20.0, 0.0).density_g_ml == pytest.approx(0.998207, abs=2e-5)
    fresh, sea = named_water("fresh", 15.0), named_water("sea", 15.0)
    assert sea.density_g_ml / fresh.density_g_ml == pytest.approx(1.0267, abs=5e-4)
    assert named_water("fresh", 15.0, 35.16504) == sea
    assert fresh.density_g_ml > named_water("brackish", 15.0).density_g_ml - 0.02 > 0.98


@pytest.mark.parametrize(("temperature", "salinity"), [(60, 0), (-5, 0), (10, -1), (10, 50), (math.nan, 0)])
def test_impossible_water_is_refused(temperature: float, salinity: float) -> None:
    with pytest.raises(BadInput, match=r"temperature|salinity"):
        water_state(temperature, salinity)


def test_unknown_water_is_refused() -> None:
    with pytest.raises(BadInput, match="fresh, brackish or sea"):
        named_water("lake")

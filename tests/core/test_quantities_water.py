"""What makers type, and the density of water."""

from __future__ import annotations

import math

import pytest

from yellowbob.ground.errors import BadInput
from yellowbob.ground.quantities import SWG_MM, gauge_to_mm, read_number, read_quantity, show
from yellowbob.ground.water import named_water, water_state

POUND_A_CUBIC_FOOT = 0.45359237 / 28.316846592


@pytest.mark.parametrize(
    ("text", "dimension", "value"),
    [
        ("45 mm", "length", 45), ("45", "length", 45), ("4.5cm", "length", 45), ("1 3/4 in", "length", 44.45),
        ('1-3/4"', "length", 44.45), ("1 3/4”", "length", 44.45), (".032in", "length", 0.8128),
        ("½ in", "length", 12.7),
        ("2½ inches", "length", 63.5), ("3/8oz", "mass", 28.349523125 * 3 / 8), ("7,5 g", "mass", 7.5),
        ("120 grains", "mass", 120 * 0.06479891), ("-2 mm", "length", -2), ("−2 mm", "length", -2),
        ("480 kg/m3", "density", 0.48), ("30 lb/ft³", "density", 30 * POUND_A_CUBIC_FOOT),
        ("24°", "angle", 24), ("0.5 rad", "angle", math.degrees(0.5)), ("57 °F", "temperature", 125 / 9),
        ("14 C", "temperature", 14), ("3/4 cu in", "volume", 16.387064 * 0.75), ("12 cc", "volume", 12),
    ],
)  # fmt: skip
def test_understood(text: str, dimension: str, value: float) -> None:
    assert read_quantity(text, dimension) == pytest.approx(value)


@pytest.mark.parametrize(
    ("text", "dimension", "value"),
    [
        ("3/4″", "length", 19.05), ("5⁄8\"", "length", 15.875), ("45 MM", "length", 45), ("2 IN", "length", 50.8),
        ("Ø4", "length", 4), ("ø 4.5 mm", "length", 4.5), ("32 mil", "length", 0.8128), ("1' 2\"", "length", 355.6),
        ("1 lb 3 oz", "mass", 19 * 28.349523125), ("2 lbs. 4 1/2 oz.", "mass", 36.5 * 28.349523125),
        ("3lb2½oz", "mass", 50.5 * 28.349523125), ("1 pound, .5 ounces", "mass", 16.5 * 28.349523125),
        ("1 ft 2 1/2 in", "length", 368.3), ("2 1/2-in", "length", 63.5), ("2-1/2 in.", "length", 63.5),
        ("1 200 mm", "length", 1200), ("1,250.5 mm", "length", 1250.5), ("1.250,5 mm", "length", 1250.5),
        ("0,125 in", "length", 3.175), ("12 thou", "length", 0.3048), ("3 OZ", "mass", 85.048569375),
        ("7 gm", "mass", 7), ("7 Grams", "mass", 7), ("7 g.", "mass", 7), ("1 200 g", "mass", 1200),
        ("1/4 lb", "mass", 113.3980925), ("2 lbs", "mass", 907.18474), ("15 grains", "mass", 0.97198365),
        ("30 lb/cu ft", "density", 30 * POUND_A_CUBIC_FOOT), ("30 pcf", "density", 30 * POUND_A_CUBIC_FOOT),
        ("0.5 g/cc", "density", 0.5), ("0.5 gm/ml", "density", 0.5), ("0.5 grams/cc", "density", 0.5),
        ("480 kg m⁻³", "density", 0.48), ("480 kg m-3", "density", 0.48), ("30 lb ft-3", "density", 30 * POUND_A_CUBIC_FOOT),
        ("30 pounds per ft3", "density", 30 * POUND_A_CUBIC_FOOT), ("480 g/dm3", "density", 0.48),
        ("57 deg. F", "temperature", 125 / 9), ("14 degrees Celsius", "temperature", 14), ("14 ℃", "temperature", 14),
        ("14 celsius", "temperature", 14), ("1'2", "length", 355.6), ("5 ft 11 1/2 in", "length", 1816.1),
        ("30 lb per cubic ft", "density", 30 * POUND_A_CUBIC_FOOT), ("480 kg/m³", "density", 0.48),
        ("2'3½\"", "length", 698.5), ("2ft3½in", "length", 698.5),
        ("4 mm dia", "length", 4), ("dia. .25 in", "length", 6.35), ("3/8\" dia.", "length", 9.525),
        ("24°30'", "angle", 24.5),
        ("-3°15'", "angle", -3.25), ("24 degrees", "angle", 24), ("18 SWG", "length", 1.219), ("20 swg", "length", 0.914),
        ("00 ga", "length", 0.127 * 92 ** (37 / 39)), ("000 ga", "length", 0.127 * 92 ** (38 / 39)),
        ("2/0 awg", "length", 0.127 * 92 ** (37 / 39)), ("0 ga", "length", 0.127 * 92 ** (36 / 39)),
        ("3 cu in", "volume", 49.161192), ("1 L", "volume", 1000), ("12 ML", "volume", 12), ("57°F", "temperature", 125 / 9),
    ],
)  # fmt: skip
def test_as_makers_type_it(text: str, dimension: str, value: float) -> None:
    assert read_quantity(text, dimension) == pytest.approx(value, rel=1e-8)


@pytest.mark.parametrize(
    ("text", "dimension", "words"),
    [("7.5 gr", "mass", "grains"), ("120 GR", "mass", "grains"), ("1,250 mm", "length", "1250"),
     ("−1,250 mm", "length", "-1250"), ("Ø1,250 mm", "length", "1250"),
     ("12,345", "mass", "12345"), ("17.5 swg", "length", "whole numbers"),
     ("60 swg", "length", "up to 40"), ("3/4 ga", "length", "whole numbers"), ("-2 ga", "length", "whole"),
     ("5 grs", "mass", "grains"), ("0.5 gr/ml", "density", "grains"), ("90 awg", "length", "up to 56"),
     ("2 pints", "volume", "every country"), ("1 fl. oz", "volume", "give it in mL"),
     ("9 lb/gal", "density", "every country"), ("3 tsp", "volume", "tsp"), ("0.01 tons", "mass", "give it in g")],
)  # fmt: skip
def test_what_can_be_read_in_two_ways_asks_back(text: str, dimension: str, words: str) -> None:
    with pytest.raises(BadInput, match=words):
        read_quantity(text, dimension)


@pytest.mark.parametrize("text", ["7/16", "1 1/2", "½", "5⁄8", "1-3/8"])
def test_a_bare_fraction_is_of_an_inch_or_an_ounce_and_never_of_a_millimetre_or_a_gram(text: str) -> None:
    for dimension, metric, other in (("length", "mm", "in"), ("mass", "g", "oz")):
        with pytest.raises(BadInput, match=f"{text} {other} or .* {metric}; write its unit"):
            read_quantity(text, dimension)  # type: ignore[arg-type]
        assert read_quantity(text, dimension, other) == read_quantity(f"{text} {other}", dimension)  # type: ignore[arg-type]
        assert read_quantity(f"{text} {metric}", dimension) == pytest.approx(read_number(text)[0])  # type: ignore[arg-type]
    assert read_quantity("1 foot 2 1/2 in", "length") == pytest.approx(14.5 * 25.4)


def test_a_field_that_reads_grains_takes_its_own_text() -> None:
    assert read_quantity("120.0 gr", "mass", "gr") == pytest.approx(120 * 0.06479891)
    assert read_quantity("120", "mass", "gr") == pytest.approx(120 * 0.06479891)


@pytest.mark.parametrize(
    "text", ["1.2.3 mm", "1,2,3 mm", "5 5 mm", "3//4 in", "1 3/4/5 in", "4 mm 3", "4 mm mm", "1 2 3", "5 apples", "mm",
             "4 mm; rm", "__import__", "1e5e5 mm", "24°70'", "5 m m", "4 Mm2", "5-", "1 5/4 in",
             "½3 in", "1½2 in", "2'½3\"", "¾.5 in", "½e2 in", "12³ mm", "³ mm", "dia.25 in", "3e2250swg", "0 250 mm",
             "0,250.5 mm",
             "1 in 3/4", "3-4 mm", "0x10 mm", "5 mm 3", "1/0 mm", "5 lb 3 oz", "30°", "inf mm", "nan", "1e400 mm", "5 e"],
)  # fmt: skip
def test_what_is_no_length_is_refused_and_never_guessed(text: str) -> None:
    with pytest.raises(BadInput):
        read_quantity(text, "length")


def test_the_british_gauge_falls_and_every_shown_length_is_read_back() -> None:
    assert list(SWG_MM) == sorted(SWG_MM, reverse=True)
    for value in (0.0, 0.1, 3.14, 45.0, 1234.5):
        for unit in ("mm", "cm", "in"):
            assert read_quantity(f"{show(value, unit)} {unit}", "length") == pytest.approx(value, abs=0.06)


def test_gauge_is_the_published_series() -> None:
    assert read_quantity("20ga", "length") == pytest.approx(0.127 * 92 ** (16 / 39))
    assert gauge_to_mm(36) == pytest.approx(0.127)


def test_a_bare_number_is_in_the_unit_read() -> None:
    assert read_quantity("2", "length", "in") == pytest.approx(50.8)


@pytest.mark.parametrize(
    ("text", "dimension"),
    [("7 Gg", "mass"), ("7 Eg", "mass"), ("7 pg", "mass"), ("7 nm", "length"), ("7 Gm", "length"),
     ("", "mass"), ("heavy", "mass"), ("5 mm", "mass"), ("1/0 in", "length"), ("7 g", "length"), ("nan", "length"),
     ("3 1 mm", "length"), ("3 1", "angle"), ("3 1 g", "mass"), ("480 1 kg/m3", "density"), ("3 1 1 ml", "volume"),
     ("64ths", "length"), ("3/64ths", "length"), ("3/64th in", "length"), ("10 percent mm", "length"), ("2 pi mm", "length"),
     ("3 kin", "length"), ("3 mft", "length"), ("3 link", "length"), ("3 mil", "angle"), ("3 sr", "angle"), ("3 cwt", "mass"),
     ("3 bag", "mass"), ("240° lb", "mass"), ("1/2° mm", "length"), ("3 mm rad", "length"), ("40° °", "angle"),
     ("1 lb 16 oz", "mass"), ("1 lb.5 oz", "mass"), ("1 lb 1,250 oz", "mass"), ("1 lb 002 oz", "mass"),
     ("-1 lb 2 oz", "mass"),
     ("1'200", "length"), ("1'000", "length"), ("5 ft 14 in", "length"), ("1e999", "mass"), ("4 mm", "number"),
     ("3 parsnips", "length"), ("--3", "length")],
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


_NUMBERS: tuple[tuple[str, float], ...] = (
    ("3", 3.0), ("0.75", 0.75), (".5", 0.5), ("2,5", 2.5), ("12.", 12.0), ("1 3/4", 1.75), ("1-3/4", 1.75), ("5/8", 0.625),
    ("2½", 2.5), ("¾", 0.75), ("3⁄16", 0.1875), ("1e-1", 0.1), ("+4", 4.0), ("1 200", 1200.0), ("2,345.5", 2345.5),
    ("10.250,5", 10250.5),
)  # fmt: skip
_SPELT: tuple[tuple[str, str, float], ...] = (
    ("length", "mm", 1.0), ("length", "MM", 1.0), ("length", "cm", 10.0), ("length", "in", 25.4), ("length", "inches", 25.4),
    ("length", '"', 25.4), ("length", "″", 25.4), ("length", "ft", 304.8), ("length", "mils", 0.0254), ("mass", "g", 1.0),
    ("mass", "Grams", 1.0), ("mass", "oz", 28.349523125), ("mass", "OZ.", 28.349523125), ("mass", "lbs", 453.59237),
    ("mass", "grains", 0.06479891), ("mass", "kg", 1000.0), ("density", "g/mL", 1.0), ("density", "kg/m3", 1e-3),
    ("density", "lb/cu ft", POUND_A_CUBIC_FOOT), ("density", "G/CC", 1.0), ("volume", "cc", 1.0),
    ("volume", "cu in", 16.387064), ("volume", "ml", 1.0), ("angle", "°", 1.0), ("angle", "deg", 1.0),
)  # fmt: skip


@pytest.mark.parametrize(("dimension", "unit", "factor"), _SPELT)
def test_every_spelling_of_a_number_with_every_spelling_of_a_unit(dimension: str, unit: str, factor: float) -> None:
    for text, value in _NUMBERS:
        for gap in ("", " "):
            if text[-1] in "½¾.5" or text[-1].isdigit():
                assert read_quantity(f"{text}{gap}{unit}", dimension) == pytest.approx(value * factor), (
                    text,
                    gap,
                    unit,
                )


def test_a_bare_number_is_in_the_unit_the_field_shows() -> None:
    for text, value in _NUMBERS:
        assert read_quantity(text, "length", "in") == pytest.approx(value * 25.4)
        assert read_quantity(text, "mass", "oz") == pytest.approx(value * 28.349523125)
        assert read_quantity(text, "number") == pytest.approx(value)

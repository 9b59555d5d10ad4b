"""What the log reads in: pucks, speeds told in words, places clicked in a picture."""

from __future__ import annotations

import math
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from tests.core.test_logbook import design_of
from yellowbob.design.base import replaced
from yellowbob.ground.errors import BadInput
from yellowbob.logbook.clicked import clicked
from yellowbob.logbook.lain import Lain
from yellowbob.logbook.photos import keep_photo, photo_file
from yellowbob.logbook.pucks import from_pucks
from yellowbob.logbook.records import Puck, TankTest
from yellowbob.logbook.sides import pucks_of, put_puck, speeds_of, teach_speed
from yellowbob.logbook.speeds import read_speed
from yellowbob.logbook.store import LogBook
from yellowbob.study import Study, of
from yellowbob.trials.lain_of import ends_of, lain_of, lies_in_picture, possible
from yellowbob.trials.learned import without
from yellowbob.trials.mend import mended
from yellowbob.trials.trim import trim_changes

NOON = datetime(2026, 5, 1, 12, tzinfo=UTC)


@pytest.fixture
def log(tmp_path: Path) -> LogBook:
    return LogBook(tmp_path / "workshop.sqlite")


# ---- pucks


@settings(max_examples=40, deadline=None)
@given(resin=st.floats(0.9, 1.3), powder=st.floats(0.1, 4.0), share=st.floats(0.05, 0.5))
def test_exact_pucks_give_resin_and_grains_back(resin: float, powder: float, share: float) -> None:
    dense = 1.0 / (share / powder + (1.0 - share) / resin)
    exact = {"resin": "r", "mass_u_g": 1e-4, "volume_u_ml": 1e-4}
    pucks = [Puck(**exact, mass_g=resin * 20.0, volume_ml=20.0)] * 30
    pucks += [Puck(**exact, mass_g=dense * 20.0, volume_ml=20.0, powder="p", powder_share=share)] * 30
    found = from_pucks(pucks, {"r": (1.05, 0.03), "p": (1.2 * powder, 0.15 * powder)}.get)
    if found.aside:  # heavy grains in a small share: their room is within the resin's own scatter
        assert share / powder < 0.2
        return
    assert found.resins["r"].mean == pytest.approx(resin, rel=0.01)
    assert found.powders["p"].low <= powder * 1.02 and found.powders["p"].high >= powder * 0.98


def test_a_puck_that_cannot_be_is_set_aside_or_refused(log: LogBook) -> None:
    light = Puck(resin="epoxy, 2:1", mass_g=30.0, volume_ml=20.0, powder="chalk", powder_share=0.1)
    found = from_pucks([light], lambda name: (1.1, 0.03))
    assert found.powders == {} and "take up no room" in found.aside[0]
    assert "is not on the shelf" in from_pucks([light], lambda name: None).aside[0]
    for wrong in ({"powder": "chalk"}, {"powder_share": 0.2}, {"volume_ml": 0.0}, {"powder_share": 1.0, "powder": "x"}):
        with pytest.raises(ValueError):
            Puck(**{"resin": "r", "mass_g": 3.0, "volume_ml": 3.0, **wrong})
    put_puck(log, light)
    assert pucks_of(LogBook(log.path)) == (light,)


@pytest.mark.parametrize("times", [0.1, 10.0, 28.35])
@given(resin=st.floats(0.9, 1.2), grains=st.floats(0.15, 0.3), share=st.floats(0.05, 0.4))
@settings(max_examples=25, deadline=None)
def test_a_puck_whose_weight_slipped_teaches_nothing(times: float, resin: float, grains: float, share: float) -> None:
    """It had made a shop's resin twice as heavy."""
    shelf = {"r": (1.05, 0.03), "p": (0.22, 0.03)}.get
    dense = 1.0 / (share / grains + (1.0 - share) / resin)
    good = [Puck(resin="r", mass_g=20.0 * resin, volume_ml=20.0)]
    good += [Puck(resin="r", mass_g=20.0 * dense, volume_ml=20.0, powder="p", powder_share=share)]
    slipped = [Puck(**{**one.model_dump(), "mass_g": times * one.mass_g}) for one in good]
    without, found = from_pucks(good, shelf), from_pucks([*good, *slipped], shelf)
    assert {n: t.mean for n, t in found.resins.items()} == {n: t.mean for n, t in without.resins.items()}
    assert {n: t.mean for n, t in found.powders.items()} == {n: t.mean for n, t in without.powders.items()}
    assert without.aside == () and len(found.aside) == 2 and found.aside[0].startswith("puck 3: ")


# ---- speeds


@pytest.mark.parametrize(("text", "speed"), [
    ("0.6 m/s", 0.6), ("0.6", 0.6), ("3.6 km/h", 1.0), ("1 mph", 0.44704), ("2 knots", 2.0 * 1852 / 3600), ("40 cm/s", 0.4),
    ("30 m/min", 0.5), ("Slow Walk", 0.8), ("walking pace", 1.3), ("2 turns a second at 70 cm a turn", 1.4),
    ("a turn every 2 seconds, 0.7 m a turn", 0.35), ("70 cm per turn; 90 turns per min", 1.05), ("motor 3", 0.72),
    ("reel 3 turns in 2 s, 28 in per turn", 1.5 * 28 * 0.0254),
])  # fmt: skip
def test_speeds_are_read_as_they_are_told(text: str, speed: float) -> None:
    assert read_speed(text, {"motor 3": 0.72}) == pytest.approx(speed)


@pytest.mark.parametrize("text", ["", "fast", "0", "-1 m/s", "21 m/s", "1 turn a second", "70 cm a turn", "nan", "1e3",
    "0,6 m/s",
    "3 turns", "2 turns a second at 70 cm a turn uphill", "motor 4", "6 furlongs", "1 2 m/s"])  # fmt: skip
def test_a_speed_that_cannot_be_understood_is_refused(text: str) -> None:
    with pytest.raises(BadInput):
        read_speed(text, {"motor 3": 0.72})


def test_words_for_speeds_are_kept(log: LogBook) -> None:
    teach_speed(log, "  Motor  3 ", 0.7)
    teach_speed(log, "motor 3", 0.8)
    assert speeds_of(LogBook(log.path)) == {"motor 3": 0.8}
    for wrong in ("", "3 motors", "x" * 99):
        with pytest.raises(BadInput):
            teach_speed(log, wrong, 0.5)


# ---- pictures


def photographed(pitch: float, height: float, scale: float, tilt: float, mirrored: bool):  # type: ignore[no-untyped-def]
    """Where a place (x, z) of the body comes to lie in a picture, and its level line."""
    up = np.array([-math.sin(pitch), math.cos(pitch)])
    along = np.array([math.cos(pitch), math.sin(pitch)])

    def to_picture(place: np.ndarray) -> tuple[float, float]:
        a, b = (-1.0 if mirrored else 1.0) * float(place @ along) * scale, float(place @ up) * scale
        return (a * math.cos(tilt) - b * math.sin(tilt) + 900.0, 900.0 - a * math.sin(tilt) - b * math.cos(tilt))

    return to_picture, (to_picture(height * up - 30.0 * along), to_picture(height * up + 200.0 * along)), up


@settings(max_examples=150, deadline=None)
@given(
    pitch=st.floats(-75, 75),
    height=st.floats(2, 8),
    scale=st.floats(2, 12),
    tilt=st.floats(-25, 25),
    mirrored=st.booleans(),
)
def test_clicks_in_a_picture_give_pitch_and_draft_back(
    pitch: float, height: float, scale: float, tilt: float, mirrored: bool
) -> None:
    place, line, up = photographed(math.radians(pitch), height, scale, math.radians(tilt), mirrored)
    ends = ((0.0, 1.5), (74.0, -0.8))
    outline = np.array([(x, s * 9.0 * math.sin(math.pi * x / 74.0)) for x in np.linspace(0, 74, 40) for s in (-1, 1)])
    found = clicked(line, (place(np.array(ends[0])), place(np.array(ends[1]))), ends, outline)
    assert found.pitch_deg == pytest.approx(pitch, abs=1e-6)
    assert found.draft_mm == pytest.approx(height - (outline @ up).min(), abs=1e-6)
    assert found.mm_per_px == pytest.approx(1.0 / scale)


def test_clicks_that_say_nothing_are_refused() -> None:
    outline, ends = np.array([(0.0, -5.0), (70.0, 5.0)]), ((0.0, 0.0), (70.0, 0.0))
    good = ((0.0, 100.0), (900.0, 100.0)), ((100.0, 110.0), (800.0, 110.0))
    assert clicked(*good, ends, outline).pitch_deg == pytest.approx(0.0)
    for line, ends_px, words in (
        (((0, 100), (5, 100)), good[1], "further apart"), (good[0], ((1, 1), (9, 9)), "further apart"),
        (((50, 0), (51, 900)), good[1], "stands upright"), (((0, 900), (900, 900)), good[1], "over the water"),
        (((0, math.nan), (900, 100)), good[1], "no place"),
    ):  # fmt: skip
        with pytest.raises(BadInput, match=words):
            clicked(line, ends_px, ends, outline)  # type: ignore[arg-type]


def test_a_picture_of_a_demo_at_rest_reads_as_the_solve(log: LogBook) -> None:
    study = Study(design_of("osier-96"))
    rest = of.upright_rest(study)
    assert rest is not None
    place, line, _ = photographed(rest.pitch_rad, rest.height_mm, 8.0, 0.1, True)
    ends = tuple(place(np.array(end)) for end in ends_of(study))
    read = lies_in_picture(study, (), line, ends)  # type: ignore[arg-type]
    assert read["pitch_deg"] == pytest.approx(math.degrees(rest.pitch_rad), abs=0.01)
    assert read["draft_mm"] == pytest.approx(rest.draft_mm, abs=0.02)


def test_a_picture_is_copied_and_what_is_none_is_refused(log: LogBook, tmp_path: Path) -> None:
    log.new(design_of("sallow-74"))
    picture, words = tmp_path / "p.png", tmp_path / "w.png"
    Image.new("RGB", (30, 20), "white").save(picture)
    words.write_text("no picture", encoding="utf-8")
    names = [keep_photo(log, "S001", picture, "from the side") for _ in range(2)]
    picture.unlink()
    assert names == ["S001-1.png", "S001-2.png"] and all(photo_file(log, n).is_file() for n in names)
    for wrong in (words, tmp_path / "none.png", tmp_path):
        with pytest.raises(BadInput, match="no picture"):
            keep_photo(log, "S001", wrong)
    assert len(log.entries("S001")) == 2


def test_trims_that_would_mend_a_build_are_tried_on_what_the_tank_says(log: LogBook) -> None:
    design = design_of("sallow-74")
    (build,) = log.new(design)
    true = design.but(
        ballast=(replaced(design.ballast[0], drilling=replaced(design.ballast[0].drilling, place_mm=(31.0, 0.0))),)
    )
    tests = []
    for off in ((), ("Belly treble, size 6",), ("Tail treble, size 6",)):
        rest = of.upright_rest(Study(without(true, off)))
        assert rest is not None
        tests.append(TankTest(pitch_deg=math.degrees(rest.pitch_rad), draft_mm=rest.draft_mm, off=off, pitch_u_deg=0.02,
                              draft_u_mm=0.02, temperature_c=design.water.temperature_c))  # fmt: skip
    study = Study(log.design(build.serial))
    found = lain_of(study, tests)
    assert found is not None
    told = mended(study, found)
    really = of.upright_rest(Study(true))
    assert really is not None and told.pitch_deg == pytest.approx(math.degrees(really.pitch_rad), abs=0.3)
    assert told.wanted_deg == 24.0 and told.mends
    # each mend does to the true piece what it is told to do
    for mend in told.mends:
        change = next(c for c in trim_changes(true) if c.words == mend.words)
        after = of.upright_rest(Study(change.make(true)))
        assert after is not None and mend.pitch_deg == pytest.approx(math.degrees(after.pitch_rad), abs=0.4)
        assert abs(mend.pitch_deg - 24.0) < abs(told.pitch_deg - 24.0)


def test_readings_that_slipped_are_refused_or_said(log: LogBook) -> None:
    """A tenth of the draft made it weigh 1.25 g; ten times it, that it sinks, for every later test as well."""
    design = design_of("sallow-74")
    study, warm = Study(design), {"temperature_c": design.water.temperature_c}
    rest = of.upright_rest(study)
    assert rest is not None
    pitch, draft = math.degrees(rest.pitch_rad), rest.draft_mm

    def found(*tests: TankTest) -> Lain:
        told = lain_of(study, tests)
        assert told is not None
        return told

    good = TankTest(pitch_deg=pitch, draft_mm=draft, **warm)
    told = found(good)
    assert told.says == "" and told.agree and not mended(study, told).mends  # it lies as briefed
    assert possible(study, good) is good and possible(study, TankTest(pitch_deg=3.0)).pitch_deg == 3.0
    for pitched in (pitch, None):
        with pytest.raises(BadInput, match=r"mm high; read it again"):
            possible(study, TankTest(pitch_deg=pitched, draft_mm=10.0 * draft, **warm))
    for slipped in (TankTest(pitch_deg=pitch, draft_mm=0.1 * draft, **warm), TankTest(pitch_deg=-89.0, draft_mm=draft)):
        assert "do not agree" in found(good, slipped).says and not mended(study, found(good, slipped)).mends
        assert found(slipped).says
    place, line, _ = photographed(rest.pitch_rad, rest.height_mm, 8.0, 0.1, True)
    ends = tuple(place(np.array(end)) for end in ends_of(study))
    high = tuple((x, y - 400.0) for x, y in line)  # clicked on the far side of the tank
    with pytest.raises(BadInput, match=r"mm high; read it again"):
        lies_in_picture(study, (), high, ends)  # type: ignore[arg-type]
    deep = TankTest(draft_mm=10.0 * draft)  # kept before it was refused
    assert found(good, deep).says and math.isfinite(found(good, deep).mass_g)

"""What the log keeps: a build with the design it was made from, and the entries made of it, each at its time."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import AwareDatetime, Field, model_validator

from yellowbob.design.base import Model, Name
from yellowbob.design.record import STAGES, Stage, Weighing

Words = Annotated[str, Field(max_length=2000)]
Short = Annotated[str, Field(max_length=120)]
Rating = Annotated[int, Field(ge=0, le=5)]
"""On a short scale: 0 none, 5 most."""
State = Literal["in work", "done", "lost"]
What = Literal["weigh", "tank", "water", "note", "photo", "made", "time"]
Most = Annotated[float, Field(ge=-5000.0, le=5000.0)]

__all__ = [
    "STAGES", "AsMade", "Build", "Entry", "Hole", "Note", "Photo", "Promised", "Puck", "Spent", "Stage", "State", "Station",
    "TankTest", "WaterTest", "Weighing", "What",
]  # fmt: skip


class Promised(Model):
    """What the drawing promised of a build on the day it was begun; None where it did not float."""

    bare_g: float
    finished_g: float
    length_mm: float
    wood: Short
    pitch_deg: float | None = None
    draft_mm: float | None = None
    reserve_g: float | None = None


class Build(Model):
    """One piece. `serial` is its label; builds of a batch share `batch`. `aside` says why it is not learnt from."""

    serial: Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[^\s/\\]+$")]
    name: Name
    kind: Short = "other"
    batch: Annotated[str, Field(max_length=40)] = ""
    experiment: Annotated[str, Field(max_length=80)] = Field(
        default="", description="what the builds of its batch differ in"
    )
    made_on: date
    state: State = "in work"
    lost_why: Words = ""
    given_to: Short = ""
    notes: Words = ""
    hours: Annotated[float, Field(ge=0.0, le=1e5)] | None = None
    cost: Annotated[float, Field(ge=0.0, le=1e7)] | None = None
    again: bool | None = Field(default=None, description="whether it would be made again")
    aside: Words = ""
    differs: Short = Field(default="", description="what is other about it than in the builds of its experiment")
    board: Short = Field(default="", description="which board, block or mix its body came out of")
    promised: Promised | None = None

    @model_validator(mode="after")
    def _sound(self) -> Build:
        if self.lost_why and self.state != "lost":
            raise ValueError("lost_why is of a build that is lost; set its state to lost")
        return self


class TankTest(Model):
    """How it lay in a tank: pitch and draft as read, with what was off it, in which water; how often it came right."""

    pitch_deg: Annotated[float, Field(ge=-90.0, le=90.0)] | None = None
    pitch_u_deg: Annotated[float, Field(gt=0.0, le=30.0)] = 0.5
    draft_mm: Annotated[float, Field(gt=0.0, le=2000.0)] | None = Field(default=None, description="of its lowest point")
    draft_u_mm: Annotated[float, Field(gt=0.0, le=50.0)] = 0.3
    roll_deg: Annotated[float, Field(ge=-180.0, le=180.0)] | None = None
    off: tuple[Name, ...] = Field(default=(), max_length=60, description="fittings that were off, by name")
    water: Literal["fresh", "brackish", "sea"] = "fresh"
    temperature_c: Annotated[float, Field(ge=-2.0, le=40.0)] = 15.0
    drops: Annotated[int, Field(ge=0, le=10_000)] = 0
    came_right: Annotated[int, Field(ge=0, le=10_000)] = 0
    note: Words = ""
    photo: Annotated[str, Field(max_length=500)] = Field(
        default="", description="picture that pitch and draft were read in"
    )

    @model_validator(mode="after")
    def _sound(self) -> TankTest:
        if self.came_right > self.drops:
            raise ValueError(f"it cannot come right {self.came_right} times of {self.drops} drops")
        if self.pitch_deg is None and self.draft_mm is None and not self.drops and self.roll_deg is None:
            raise ValueError("nothing was read: give the pitch, the draft, or how often it came right")
        return self


class WaterTest(Model):
    """How it swam and fished."""

    speed_m_s: Annotated[float, Field(gt=0.0, le=20.0)] | None = None
    speed_words: Short = Field(default="", description="the speed as it was told: a walk, turns of the reel")
    retrieve: Short = ""
    line_angle_deg: Annotated[float, Field(ge=-90.0, le=90.0)] | None = None
    rod_height_m: Annotated[float, Field(ge=0.0, le=20.0)] | None = None
    line_out_m: Annotated[float, Field(gt=0.0, le=500.0)] | None = None
    knot: Short = ""
    current_m_s: Annotated[float, Field(ge=0.0, le=10.0)] | None = None
    wind: Short = ""
    chop_mm: Annotated[float, Field(ge=0.0, le=5000.0)] | None = None
    slow: Rating | None = None
    fast: Rating | None = None
    pop: Rating | None = None
    wake: Rating | None = None
    sound: Rating | None = None
    unstable_m_s: Annotated[float, Field(gt=0.0, le=20.0)] | None = Field(
        default=None, description="where it went unstable"
    )
    swings: Annotated[int, Field(ge=0, le=1000)] | None = Field(
        default=None, description="to one side and back, in ten seconds"
    )
    strikes: Annotated[int, Field(ge=0, le=10_000)] = 0
    hooked: Annotated[int, Field(ge=0, le=10_000)] = 0
    fish: Annotated[int, Field(ge=0, le=10_000)] = 0
    hours: Annotated[float, Field(ge=0.0, le=10_000.0)] = 0.0
    damage: Words = ""
    words: Words = ""

    @model_validator(mode="after")
    def _sound(self) -> WaterTest:
        if not self.fish <= self.hooked <= self.strikes:
            raise ValueError(
                f"{self.strikes} strikes, {self.hooked} hooked, {self.fish} landed: each is at most the one before it"
            )
        return self


class Note(Model):
    """Words."""

    words: Words


class Photo(Model):
    """A picture beside the log, by its file's name, and what it shows."""

    file: Annotated[str, Field(min_length=1, max_length=500)]
    words: Words = ""


class Station(Model):
    """Sizes measured at a place from the nose: diameter, or back, belly, half width, port, starboard."""

    at_mm: Annotated[float, Field(ge=0.0, le=3000.0)]
    sizes_mm: dict[Short, Most] = Field(min_length=1, max_length=8)


class Hole(Model):
    """What was measured of a hole, by its name: at, off, diameter, depth."""

    name: Name
    sizes_mm: dict[Short, Most] = Field(min_length=1, max_length=8)
    drawn_mm: dict[Short, Most] = Field(default={}, max_length=8, description="the same sizes as they were drawn then")


class AsMade(Model):
    """Stations and holes measured back on the piece."""

    stations: tuple[Station, ...] = Field(default=(), max_length=500)
    holes: tuple[Hole, ...] = Field(default=(), max_length=100)

    @model_validator(mode="after")
    def _sound(self) -> AsMade:
        if not self.stations and not self.holes:
            raise ValueError("nothing was measured: give a station or a hole")
        return self


class Spent(Model):
    """Hours spent on something."""

    on: Short
    hours: Annotated[float, Field(gt=0.0, le=1000.0)]


class Puck(Model):
    """A puck cast to weigh a resin, with powder or without. powder_share: of its mass."""

    resin: Name
    mass_g: Annotated[float, Field(gt=0.0, le=1e5)]
    mass_u_g: Annotated[float, Field(gt=0.0, le=100.0)] = 0.02
    volume_ml: Annotated[float, Field(gt=0.0, le=1e5)]
    volume_u_ml: Annotated[float, Field(gt=0.0, le=1e3)] = 0.1
    powder: Annotated[str, Field(max_length=80)] = ""
    powder_share: Annotated[float, Field(ge=0.0, lt=1.0)] = 0.0

    @model_validator(mode="after")
    def _sound(self) -> Puck:
        if bool(self.powder) != (self.powder_share > 0.0):
            raise ValueError("a puck with powder names it and its share of the mass; one without gives neither")
        return self


Data = Weighing | TankTest | WaterTest | Note | Photo | AsMade | Spent
KINDS: dict[What, type[Data]] = {
    "weigh": Weighing, "tank": TankTest, "water": WaterTest, "note": Note, "photo": Photo, "made": AsMade, "time": Spent,
}  # fmt: skip
"""What each kind of entry holds."""


class Entry(Model):
    """Something found of a build at a time; `number` is the log's own."""

    number: int
    serial: str
    at: AwareDatetime
    what: What
    data: Data

    @model_validator(mode="after")
    def _sound(self) -> Entry:
        if not isinstance(self.data, KINDS[self.what]):
            raise ValueError(f"an entry of {self.what} holds another thing")
        return self


def now_stage(entries: tuple[Entry, ...]) -> Stage | None:
    """The furthest stage a build was weighed at; None where it was not yet."""
    reached = [STAGES.index(e.data.stage) for e in entries if isinstance(e.data, Weighing)]
    return STAGES[max(reached)] if reached else None


def time_told(at: datetime) -> str:
    """A time as it is kept: ISO 8601 with its offset, to the second."""
    return at.isoformat(timespec="seconds")

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
What = Literal["weigh", "tank", "water", "note", "photo"]

__all__ = ["STAGES", "Build", "Entry", "Note", "Photo", "Stage", "State", "TankTest", "WaterTest", "Weighing", "What"]


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


Data = Weighing | TankTest | WaterTest | Note | Photo
KINDS: dict[What, type[Data]] = {"weigh": Weighing, "tank": TankTest, "water": WaterTest, "note": Note, "photo": Photo}
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

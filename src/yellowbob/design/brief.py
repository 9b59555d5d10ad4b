"""What it is for, how it should sit, and the water it will fish in."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from yellowbob.design.base import Model, Words


class Span(Model):
    """A wanted range, both ends included."""

    least: float = Field(ge=-1000, le=50_000)
    most: float = Field(ge=-1000, le=50_000)

    @model_validator(mode="after")
    def _ordered(self) -> Span:
        if self.most < self.least:
            raise ValueError(f"runs from {self.least:g} down to {self.most:g}; put the smaller figure first")
        return self

    def holds(self, value: float) -> bool:
        """Whether a value lies in the range."""
        return self.least <= value <= self.most

    @property
    def middle(self) -> float:
        """Half-way between least and most."""
        return (self.least + self.most) / 2.0


class Brief(Model):
    """What it is for and how it should sit."""

    purpose: Words = ""
    fish: Annotated[str, Field(max_length=80)] = ""
    pitch_deg: Span | None = Field(default=None, description="wanted rest pitch, nose-up positive")
    draft_mm: Span | None = Field(default=None, description="wanted depth of the lowest point")
    mass_g: Span | None = Field(default=None, description="wanted finished mass, hooks on")
    tackle_g: Span | None = Field(default=None, description="casting range of the rod that must throw it")
    speed_m_s: Span | None = Field(default=None, description="how fast it is to be drawn")


class Water(Model):
    """The water it will fish in. An explicit salinity wins over the name."""

    name: Literal["fresh", "brackish", "sea"] = "fresh"
    temperature_c: float = Field(default=14.0, ge=-2.0, le=40.0)
    salinity_g_kg: float | None = Field(default=None, ge=0.0, le=42.0, description="TEOS-10 Absolute Salinity")

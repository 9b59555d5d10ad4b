"""Entries of the log in words."""

from __future__ import annotations

from yellowbob.logbook.records import Entry, TankTest, WaterTest, Weighing


def told(entry: Entry) -> str:
    """An entry in words."""
    data = entry.data
    if isinstance(data, Weighing):
        off = f", {len(data.shares)} things off or in part" if data.shares else ""
        return f"{data.stage}: {data.mass_g:.2f} g{off}"
    if isinstance(data, TankTest):
        read = [f"{data.pitch_deg:+z.1f}°".replace("-", "−")] if data.pitch_deg is not None else []
        read += [f"draft {data.draft_mm:.1f} mm"] if data.draft_mm is not None else []
        read += [f"came right {data.came_right} of {data.drops}"] if data.drops else []
        return ", ".join([*read, *(f"without {name}" for name in data.off), *([data.note] if data.note else [])])
    if isinstance(data, WaterTest):
        said = data.model_dump(exclude_defaults=True)
        return ", ".join(f"{k.replace('_m_s', ' m/s').replace('_', ' ')} {v}" for k, v in said.items())
    return str(getattr(data, "words", "") or getattr(data, "file", ""))

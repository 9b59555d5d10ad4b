"""Pages of what is not carved: mould and mix, and the print."""

from __future__ import annotations

from yellowbob.shelf.shipped import resins
from yellowbob.shop.mould import RUBBER_G_ML, SPILT, WALL_MM, mould_of, pour_minutes
from yellowbob.shop.pages.job import DATA_SHEET, Job
from yellowbob.shop.printing import print_of
from yellowbob.shop.tables import Column, write_table


def _at(place: tuple[float, float, float]) -> str:
    return f"{place[0]:.1f} mm from the nose, {place[2]:+z.1f} from the axis".replace("-", "−")


def mould(job: Job) -> None:
    """Box, rubber, resin by mass for one and for the batch, where to pour and vent."""
    found = mould_of(job.study, job.copies)
    columns = [Column("casts", 20, True), Column("part A, g", 30, True), Column("part B, g", 30, True),
               Column("powder, g", 30, True), Column("whole mix, g", 34, True)]  # fmt: skip
    rows = [[f"{b.casts}", f"{b.a_g:.1f}", f"{b.b_g:.1f}", f"{b.powder_g:.1f}", f"{b.a_g + b.b_g + b.powder_g:.1f}"]
            for b in found.batches]  # fmt: skip
    long, wide, high = found.box_mm
    life = pour_minutes(resins()[found.resin], 20.0)
    notes = [
        f"{found.resin} with {found.percent:.1f} % of {found.powder} to A + B: {found.mixed_g_ml:.3f} g/mL. "
        f"{100 * SPILT:.0f} % more than the cast of {found.cast_ml:.1f} mL, for what stays in the cup.",
        f"It pours for about {life:.0f} minutes at 20 °C: weigh all before A meets B.",
        f"Box inside {long:.0f} × {wide:.0f} × {high:.0f} mm: {WALL_MM:g} mm of rubber all round; {found.rubber_ml:.0f} mL, "
        f"about {found.rubber_g:.0f} g at {RUBBER_G_ML:g} g/mL.",
        "Seal the master, then release agent, also on the first half before the second is poured; keys in its rim.",
        f"Poured {found.pose}: pour in at {_at(found.pour_mm)}, the highest place.",
        *(f"Vent at {_at(v)}: air stays there." for v in found.vents_mm),
        *(f"Hangs in the mould: {words}." for words in found.harness),
        *(f"{words[:1].upper()}{words[1:]}." for words in found.says),
        "Clean nothing with more solvent than the data sheet says; gloves, air, eye protection.", DATA_SHEET,
    ]  # fmt: skip
    write_table(job.sheet(), f"{job.study.design.name}: mould and mix", columns, rows, job.high_mm, notes)


def printed(job: Job) -> None:
    """How it is printed: which way up, supports, wash, inner cure, drain."""
    found = print_of(job.study)
    columns = [Column("stands on", 40), Column("high, mm", 30, True), Column("overhang, cm²", 40, True),
               Column("foot, cm²", 30, True)]  # fmt: skip
    rows = [[p.name, f"{p.high_mm:.1f}", f"{p.overhang_mm2 / 100:.1f}", f"{p.foot_mm2 / 100:.2f}"] for p in found.poses]
    write_table(job.sheet(), f"{job.study.design.name}: print", columns, rows, job.high_mm, found.words)

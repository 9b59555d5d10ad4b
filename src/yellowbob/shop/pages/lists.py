"""Pages that are lists: stations, holes, blank and cut list, coats, the schedule, hours and cost, cautions."""

from __future__ import annotations

from zoneinfo import ZoneInfo

from yellowbob.ground.errors import BadInput
from yellowbob.shop.blank import blank_of, cut_for, ends_of
from yellowbob.shop.bores import bores
from yellowbob.shop.cautions import cautions
from yellowbob.shop.cost import reckoned
from yellowbob.shop.cutlist import CutList
from yellowbob.shop.pages.job import DATA_SHEET, Job
from yellowbob.shop.schedule import layers_of, schedule
from yellowbob.shop.stations import Stations, all_stations
from yellowbob.shop.tables import Column, write_table

BOX = "................"
SOLVE_S = 1.5
"""A packet does not wait longer for the least of cut lists."""


def turning(job: Job) -> None:
    """Test stations of every piece that is turned or carved, with room for what is measured."""
    for name, found in all_stations(job.study.design):
        _stations(job, name, found)


def _stations(job: Job, name: str, found: Stations) -> None:
    names = list(found.stations[0].sizes_mm)
    columns = [Column("from its front, mm", 38, True), Column("from its end, mm", 38, True)]
    columns += [Column(f"{words}, mm", 32, True) for words in names]
    columns += [Column("cut", 14, True), Column("   measured", 80)]
    end, order = found.stations[-1].at_mm, found.order
    rows = [
        [f"{s.at_mm:.2f}", f"{end - s.at_mm:.2f}", *(f"{s.sizes_mm[n]:.2f}" for n in names), f"{order.index(k) + 1}",
         "   " + "   ".join([BOX] * len(names))]
        for k, s in enumerate(found.stations)
    ]  # fmt: skip
    notes = [f"Straight cuts between them are {found.misses_mm:.2f} mm off at most. Sizes are bare, before the finish."]
    if found.turned and name == job.study.design.body.name:
        waste = ends_of(end, True, job.bed_mm)
        notes.append(
            f"{end + 2 * waste.waste_mm:.0f} mm between centres: {waste.waste_mm:.1f} mm of waste at either end."
        )
        notes += [f"{words[:1].upper()}{words[1:]}." for words in waste.says]
    if found.turned:
        notes.append(
            f"Cut to size with a parting tool in the order under 'cut', widest first; join them; part off at 0 and "
            f"{end:.1f} mm last."
        )
    else:
        notes.append(
            "Half widths are from the centre line, back and belly from the axis: check both sides with one template."
        )
    write_table(job.sheet(), f"{job.study.design.name}: stations, {name}", columns, rows, job.high_mm, notes)


def holes(job: Job) -> None:
    """Every hole in the order to drill."""
    columns = [
        Column("", 8, True), Column("hole", 42), Column("from the", 18), Column("from nose", 20, True),
        Column("off centre", 20, True),
        Column("wide", 15, True), Column("deep", 15, True), Column("lean, °", 16, True), Column("   bit", 40),
        Column("wall left", 18, True), Column("   what goes in", 64),
    ]  # fmt: skip
    rows, notes = [], []
    for number, b in enumerate(bores(job.study), 1):
        if b.plug:
            notes.append(f"{number}: plugged with {b.plug}.")
        rows.append([
            f"{number}", b.name, b.side, f"{b.at_mm:.1f}", f"{b.off_mm:.1f}", f"{b.diameter_mm:.2f}", f"{b.depth_mm:.1f}",
            f"{b.lean_deg:g}", f"   {b.bit or 'none on hand'}", f"{b.wall_mm:.1f}", f"   {b.holds}",
        ])  # fmt: skip
        stop = f"{number}: stop on the bit at {b.depth_mm:.1f} mm."
        if b.both_ends:
            stop = f"{number}: from both ends, {b.depth_mm / 2.0:.1f} mm each; they meet within {b.meets_mm:.1f} mm."
        notes.append(stop)
        if b.says:
            notes.append(f"{number}: {b.says}.")
    notes.append(
        "Lengths in mm, in the order to drill: ends while the blank is square. Clamp the work; wear eye protection."
    )
    write_table(job.sheet(), f"{job.study.design.name}: holes", columns, rows, job.high_mm, notes)


def blank(job: Job) -> None:
    """The blank's layers, its glue and steps, and what is cut from which board; or why it cannot be cut."""
    one = blank_of(job.study, job.stock, job.bed_mm)
    columns = [
        Column("layer, starboard to port", 70),
        Column("thick, mm", 30, True),
        Column("from the middle, mm", 46, True),
    ]
    rows = [[layer.name, f"{layer.thick_mm:.1f}", f"{layer.from_mm:+z.1f}"] for layer in one.layers]
    notes = [f"{one.long_mm:.0f} × {one.wide_mm:.1f} × {one.high_mm:.1f} mm, for the {one.way}."]
    notes += [f"{one.clamps} clamps."] if one.clamps else []
    notes += [*one.glue, *one.steps, *one.says]
    try:
        cuts = cut_for([job.study], job.stock, job.copies, 2.0, job.bed_mm, SOLVE_S).cuts
    except BadInput as error:
        notes.append(f"No cut list for {job.copies}: {error}.")
        write_table(job.sheet(), f"{one.name}: blank", columns, rows, job.high_mm, notes)
        return
    write_table(job.sheet(), f"{one.name}: blank", columns, rows, job.high_mm, notes)
    _cuts(job, one.name, cuts)


def _cuts(job: Job, name: str, cuts: CutList) -> None:
    columns = [
        Column("piece", 100), Column("board", 50), Column("from its end, mm", 36, True), Column("from its edge, mm", 36,
            True),
        Column("   long × wide × thick, mm", 54),
    ]  # fmt: skip
    rows = [
        [p.piece.name, f"{p.board + 1}: {cuts.boards[p.board].name}", f"{p.at_mm:.1f}", f"{p.off_mm:.1f}",
         f"   {p.piece.long_mm:.0f} × {p.piece.wide_mm:.1f} × {p.piece.thick_mm:.1f}"] for p in cuts.placed
    ]  # fmt: skip
    used = ", ".join(f"board {k + 1}: {u:.0f} mm" for k, u in enumerate(cuts.used_mm) if u)
    notes = [
        f"Cut off {used}; {cuts.waste_percent:.0f} % of it is left over.",
        "Nothing uses less." if cuts.proven else "Perhaps not the least: too many pieces to try every way.",
        "Every cut goes right across."
        if cuts.through
        else "Some cuts stop in the board: rough the pieces apart first.",
    ]
    write_table(job.sheet(), f"{name}: cut list for {job.copies}", columns, rows, job.high_mm, notes)


def finish(job: Job) -> None:
    """Every single coat with its times."""
    columns = [Column("", 10, True), Column("   coat", 90), Column("hands, min", 28, True), Column("sets after, h", 30, True),
               Column("next after, h", 30, True), Column("used after, h", 30, True), Column("   done", 40)]  # fmt: skip
    layers, says = layers_of(job.study.design)
    rows = [[f"{n}", f"   {c.name}{', turning' if c.turns else ''}", f"{c.hands_min}", f"{c.set_h:.1f}", f"{c.next_h:.1f}",
             f"{c.full_h:.0f}", f"   {BOX}"] for n, c in enumerate(layers, 1)]  # fmt: skip
    title = f"{job.study.design.name}: finish, at 20 °C"
    write_table(job.sheet(), title, columns, rows, job.high_mm, (*says, DATA_SHEET))


def timeline(job: Job) -> None:
    """When each coat goes on which copy."""
    if job.start is None:
        raise BadInput("the schedule wants a start, such as 2026-03-27T18:00")
    layers, says = layers_of(job.study.design)
    plan = schedule(layers, job.copies, job.places, job.start, job.hours, says)
    zone = ZoneInfo(plan.zone)
    columns = [Column("when", 46), Column("until", 24), Column("no.", 14, True), Column("   coat", 90),
               Column("turner until", 40), Column("next not before", 46)]  # fmt: skip
    rows = []
    for task in plan.tasks:
        turner = "" if task.place is None else f"place {task.place + 1}, {task.set_at.astimezone(zone):%a %H:%M}"
        rows.append([f"{task.begins.astimezone(zone):%a %d %b %H:%M}", f"{task.ends.astimezone(zone):%H:%M}",
            f"{task.copy + 1}",
                     f"   {task.name}", turner, f"{task.next_at.astimezone(zone):%a %d %b %H:%M}"])  # fmt: skip
    ready = [f"No. {k} may be used from {at.astimezone(zone):%a %d %b %H:%M}." for k, at in enumerate(plan.ready, 1)]
    notes = [*ready[:12], f"{plan.hands_min / 60.0:.1f} h of hands.", *plan.says, DATA_SHEET]
    write_table(job.sheet(), f"{job.study.design.name}: schedule for {job.copies}", columns, rows, job.high_mm, notes)


def cost(job: Job) -> None:
    """Hours by step, goods by price."""
    found = reckoned(job.study, job.copies)
    columns = [
        Column("step, one piece", 90),
        Column("times", 24, True),
        Column("minutes", 28, True),
        Column("   took", 50),
    ]
    rows = [[s.name, f"{s.times}", f"{s.minutes:.0f}", f"   {BOX}"] for s in found.steps]
    notes = [f"About {found.minutes_each / 60.0:.1f} h of hands for one, {found.minutes_batch / 60.0:.1f} h for "
             f"{job.copies}: rules "
             "of thumb, drying not in it."]  # fmt: skip
    write_table(job.sheet(), f"{job.study.design.name}: hours", columns, rows, job.high_mm, notes)
    columns = [
        Column("goods, one piece", 110),
        Column("amount", 30, True),
        Column("   of", 30),
        Column("cost", 30, True),
    ]
    rows = [
        [g.name, f"{g.amount:.3g}", f"   {g.unit}", "no price" if g.cost is None else f"{g.cost:.2f}"]
        for g in found.goods
    ]
    notes = [f"{found.cost_each:.2f} for one, {found.cost_batch:.2f} for {job.copies}, in your currency."]
    if found.unpriced:
        notes.append(f"Without a price on the shelf, and so not in it: {len(found.unpriced)} of {len(found.goods)}.")
    write_table(job.sheet(), f"{job.study.design.name}: goods", columns, rows, job.high_mm, notes)


def caution(job: Job) -> None:
    """What to mind in exactly these steps."""
    rows = [[words] for words in cautions(job.study)]
    title = f"{job.study.design.name}: cautions"
    write_table(job.sheet(), title, [Column("for the steps of this build", job.wide_mm - 20.0)], rows, job.high_mm)

"""Pages with true-size drawings: bent wires, what is cut from sheet, outlines to colour in, a foil pattern."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from reportlab.lib.utils import simpleSplit

from yellowbob.lines.silhouette import silhouette
from yellowbob.shop.bending import Bending, bendings, drawn_in
from yellowbob.shop.flat import FILING_MM, flats
from yellowbob.shop.foil import foil_of
from yellowbob.shop.pages.job import Job
from yellowbob.shop.paper import BOLD, FONT, INK, MARGIN_MM, PALE, Page, check_rule
from yellowbob.shop.tables import Column, write_table
from yellowbob.study import of

Array = NDArray[np.float64]

HEAD_MM, FOOT_MM, GAP_MM = 24.0, 22.0, 8.0
OVERLAP_MM = 10.0


class Sheets:
    """True-size drawings laid on sheets one under the other, a new sheet where there is no more room; each with its rule."""

    def __init__(self, job: Job, title: str) -> None:
        self.job, self.title = job, title
        self.page: Page | None = None
        self.y = 0.0

    def _new(self) -> Page:
        self.end()
        self.page = self.job.sheet()
        self.page.ink(INK)
        self.page.text(MARGIN_MM, self.job.high_mm - 16.0, f"{self.job.study.design.name}: {self.title}", 13, BOLD)
        self.y = self.job.high_mm - HEAD_MM
        return self.page

    def end(self) -> None:
        """Close the sheet that is open."""
        if self.page is not None:
            check_rule(self.page, MARGIN_MM, 10.0)
            self.page.canvas.showPage()
            self.page = None

    def words(self, lines: Sequence[str], size: float = 8.0) -> None:
        """Words from the left, wrapped."""
        for said in lines:
            for line in simpleSplit(said, FONT, size, (self.job.wide_mm - 2 * MARGIN_MM) * 2.8346):
                page = self.page if self.page is not None and self.y > FOOT_MM + 6.0 else self._new()
                self.y -= 4.2
                page.text(MARGIN_MM, self.y, line, size)

    def room(self, high_mm: float) -> Page:
        """A sheet that has so much room left under what is drawn."""
        if self.page is None or self.y - high_mm < FOOT_MM:
            return self._new()
        return self.page

    def true(self, loops: Sequence[tuple[Array, bool, bool]]) -> list[tuple[Page, tuple[float, float]]]:
        """Lines (k, 2) mm at true size, each closed or not, dashed or not; one too long for the paper goes on over several
        sheets with OVERLAP_MM in common. Returns each sheet with its shift."""
        every = np.concatenate([loop for loop, _, _ in loops])
        low, high = every.min(axis=0), every.max(axis=0)
        wide = self.job.wide_mm - 2 * MARGIN_MM
        tall = float(high[1] - low[1])
        drawn, left = [], float(low[0])
        while True:
            page = self.room(min(tall, self.job.high_mm - HEAD_MM - FOOT_MM - 1.0))
            shift = (MARGIN_MM - left, self.y - float(high[1]))
            page.canvas.saveState()
            clip = page.canvas.beginPath()
            clip.rect((MARGIN_MM - 0.5) * 2.834645669, 0, (wide + 1.0) * 2.834645669, self.job.high_mm * 2.834645669)
            page.canvas.clipPath(clip, stroke=0, fill=0)
            for loop, closed, dashed in loops:
                page.ink(INK, 0.15 if dashed else 0.25)
                if dashed:
                    page.canvas.setDash(1.5, 1.5)
                if closed:
                    page.loop(loop, shift)
                else:
                    page.open(loop, shift)
                page.canvas.setDash()
            page.canvas.restoreState()
            drawn.append((page, shift))
            self.y -= tall + 2.0
            if float(high[0]) - left <= wide + 1e-6:
                break
            left += wide - OVERLAP_MM
            cut = MARGIN_MM + wide - OVERLAP_MM
            page.ink(PALE, 0.2)
            page.line(cut, self.y + 1.0, cut, self.y + tall + 2.0)
            page.ink(INK)
            page.text(cut - 1.0, max(self.y + 2.0, 17.0), "goes on from this line", 6.5, align="right")
            self.y -= 4.0
        return drawn


def wire(job: Job) -> None:
    """Each wire bent at true size with its legs and bends, then all hardware in stringing order."""
    sheets = Sheets(job, "wires, true size")
    for one, drawn in zip(bendings(job.study), job.study.design.wires, strict=True):
        sheets.room(60.0)
        sheets.words([f"{one.name}: {one.material} {one.diameter_mm:g} mm, cut {one.cut_mm:.1f} mm"], 10.0)
        sheets.y -= 4.0
        sheets.true([(line, False, False) for line in drawn_in(drawn)])
        if np.ptp(np.asarray(drawn.path_mm)[:, 1]) > 0.05:
            sheets.words(["and from above:"])
            sheets.true([(line, False, False) for line in drawn_in(drawn, "plan")])
        sheets.words(_bend_words(one))
        sheets.y -= GAP_MM
    sheets.end()
    design = job.study.design
    if not design.fittings:
        return
    columns = [
        Column("in stringing order", 84), Column("from nose, mm", 30, True), Column("off centre", 26, True),
        Column("over axis", 26, True), Column("   what", 100),
    ]  # fmt: skip
    rows = [
        [f.name, f"{f.at_mm[0]:.1f}", f"{f.at_mm[1]:+z.1f}", f"{f.at_mm[2]:+z.1f}", f"   {f.stock or f.sort}"]
        for f in sorted(design.fittings, key=lambda f: f.at_mm[0])
    ]
    notes = ["Cut wire under a cloth or with eye protection on; turn cut ends in."]
    if of.holes(job.study).bores:
        notes.append("Keep a line bore clear with a waxed wire of its width while glue and coats set.")
    write_table(job.sheet(), f"{design.name}: hardware", columns, rows, job.high_mm, notes)


def _bend_words(one: Bending) -> list[str]:
    legs = "legs " + " · ".join(f"{leg:.1f}" for leg in one.legs_mm) + " mm"
    bends = [f"{b.along_mm:.1f} mm: {b.turn_deg:.0f}°" for b in one.bends]
    loops = [f"{e.end} loop takes {e.wire_mm:.1f} mm" for e in one.ends if e.loop is not None]
    found = [legs + ("; " + ", ".join(loops) if loops else "")]
    if bends:
        found.append("bends, measured along the straight wire from its fore end: " + ", ".join(bends))
    return [*found, *(f"{k}. {step}" for k, step in enumerate(one.steps, 1)), *(f"! {words}" for words in one.says)]


def sheet_parts(job: Job) -> None:
    """Lips, wings, fins, cut-outs and blades at true size, with the line to saw on."""
    sheets = Sheets(job, "cut from sheet, true size")
    sheets.words(
        [
            f"Saw on the dashed line, file down to the full one ({FILING_MM:g} mm inside it). Leave the paper on "
            f"while you file."
        ]
    )
    for one in flats(job.study):
        tall = float(np.ptp(one.sawn[:, 1]))
        sheets.room(tall + 20.0)
        sheets.y -= 2.0
        sheets.words([f"{one.name}: {one.count} of {one.material}, {one.thick_mm:g} mm", *one.words])
        sheets.y -= 3.0
        lines = [(one.outline, True, False), (one.sawn, True, True), *((line, False, True) for line, _ in one.lines)]
        (page, shift), *_ = sheets.true(lines)
        for line, words in one.lines:
            page.ink(INK)
            page.text(float(line[-1, 0]) + shift[0] + 1.0, float(line[-1, 1]) + shift[1] - 3.0, words, 6.0)
        sheets.y -= GAP_MM
    sheets.end()


def colour(job: Job) -> None:
    """Side, back and belly as outlines to colour in, and the foil for a side."""
    sheets = Sheets(job, "to colour in, true size")
    mesh = of.whole(job.study)
    for words, view, flip in (("side, port", "side", False), ("side, starboard", "side", True), ("back", "plan", False),
                              ("belly", "plan", True)):  # fmt: skip
        loops = silhouette(mesh, view)
        if flip:
            loops = [loop * ([-1.0, 1.0] if view == "side" else [1.0, -1.0]) for loop in loops]
        sheets.room(float(np.ptp(np.concatenate(loops)[:, 1])) + 12.0)
        sheets.words([words])
        sheets.y -= 2.0
        sheets.true([(loop, True, False) for loop in loops])
        sheets.y -= 3.0
    foil = foil_of(job.study)
    sheets.room(foil.high_mm + 18.0)
    sheets.words([
        f"foil for one side, unrolled: {foil.long_mm:.1f} × {foil.high_mm:.1f} mm; it must give {100 * foil.stretch:.0f} % "
        "along its edges: slit or burnish them. An estimate: a body curved both ways does not lie flat."
    ])  # fmt: skip
    sheets.y -= 3.0
    middle = np.array([[0.0, 0.0], [foil.long_mm, 0.0]])
    sheets.true([(foil.outline, True, False), (middle, False, True)])
    sheets.end()

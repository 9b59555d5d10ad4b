"""The painting plan on paper: the front end enlarged with its bands and masks, and the order of the work."""

from __future__ import annotations

import numpy as np

from yellowbob.action.wetted import strips
from yellowbob.shop.paper import BOLD, INK, MARGIN_MM, PALE, WATER, Page
from yellowbob.study import Study, of
from yellowbob.trials.painting import Painted, out_of_turn, painting, shows_mm

DRAWN_MM = 150.0
WIDEST_MM = 36.0
ROW_MM = 6.0


def _rgb(colour: str) -> tuple[float, float, float]:
    red, green, blue = (int(colour[k : k + 2], 16) / 255.0 for k in (1, 3, 5))
    return red, green, blue


def write_plan(page: Page, study: Study, height: float) -> None:
    """The whole page; there is at least one band."""
    plan, shown = painting(study), shows_mm(study)
    page.ink(INK)
    page.text(MARGIN_MM, height - 16, f"{study.design.name}: painting plan", 14, BOLD)
    words = "Distances in mm from the front end. Light colours first; let each harden before it is masked."
    page.text(MARGIN_MM, height - 22, words, 8.5)
    long = max(max(p.band.to_mm for p in plan), shown or 0.0) * 1.15
    scale = DRAWN_MM / long
    _drawing(page, study, scale, long, height, shown)
    y = height - 100.0
    page.ink(INK)
    page.text(MARGIN_MM, y, "order", 8.5, BOLD)
    heads = (
        ("colour", 16.0),
        ("from, mm", 60.0),
        ("to", 78.0),
        ("mask at", 96.0),
        ("shows, mm", 138.0),
        ("told from", 160.0),
    )
    for words, x in heads:
        page.text(MARGIN_MM + x, y, words, 8.5, BOLD)
    for one in plan:
        y -= ROW_MM
        _row(page, one, y)
    for words in out_of_turn(study.design.bands):
        y -= ROW_MM
        page.text(MARGIN_MM, y, f"! {words}", 8.5)
    words = "Press the tape's edge down before painting. Air the room, and heed each paint's data sheet."
    page.text(MARGIN_MM, 12.0, words, 6.5)


def _row(page: Page, one: Painted, y: float) -> None:
    band = one.band
    page.ink(_rgb(band.colour))
    page.box(MARGIN_MM + 8.0, y - 0.6, 5.0, 3.4, fill=True)
    page.ink(INK, 0.15)
    page.box(MARGIN_MM + 8.0, y - 0.6, 5.0, 3.4)
    page.text(MARGIN_MM, y, f"{one.order}", 8.5)
    masks = "  ".join(f"{m:.1f}" for m in one.masks_mm) or "none"
    cells = ((band.name, 16.0), (f"{band.from_mm:.1f}", 60.0), (f"{band.to_mm:.1f}", 78.0), (masks, 96.0),
             (f"{one.shows_mm:.1f}", 140.0), (f"{one.seen_m:.0f} m", 160.0))  # fmt: skip
    for words, x in cells:
        page.text(MARGIN_MM + x, y, words, 8.5)


def _drawing(page: Page, study: Study, scale: float, long: float, height: float, shown: float | None) -> None:
    """The front end lying, enlarged along; across at most so wide that it stays on its strip."""
    mesh = of.whole(study)
    breadth = strips(mesh.corners, np.array([1.0, 0, 0]), np.array([0, 1.0, 0]), 400)
    front = float(mesh.bounds[0, 0])
    x = np.linspace(0.0, min(long, breadth.length_mm), 200)
    half = np.interp(front + x, breadth.at_mm, breadth.half_mm)
    across = min(scale, WIDEST_MM / max(2.0 * float(half.max()), 1e-6))
    left, middle = MARGIN_MM + 6.0, height - 52.0
    page.text(MARGIN_MM, height - 30.0, f"enlarged {scale:.1f} times along, {across:.1f} times across", 8)

    def loop(low: float, high: float) -> np.ndarray:
        at = np.linspace(low, high, 60)
        r = across * np.interp(front + at, breadth.at_mm, breadth.half_mm)
        return np.concatenate([np.stack([scale * at, r], 1), np.stack([scale * at, -r], 1)[::-1]])

    for band in study.design.bands:
        page.ink(_rgb(band.colour))
        page.filled(loop(band.from_mm, band.to_mm), (left, middle))
    page.ink(INK, 0.25)
    page.loop(loop(0.0, float(x[-1])), (left, middle))
    edges = sorted({round(e, 2) for band in study.design.bands for e in (band.from_mm, band.to_mm)})
    for k, edge in enumerate(edges):
        low = middle - WIDEST_MM / 2.0 - 4.0 - 4.0 * (k % 2)
        page.ink(PALE, 0.12)
        page.line(left + scale * edge, middle - across * float(half.max()), left + scale * edge, low)
        page.ink(INK)
        page.text(left + scale * edge, low - 3.0, f"{edge:.1f}", 7, align="centre")
    if shown is not None:
        page.ink(WATER, 0.3)
        page.canvas.setDash(3, 2)
        page.line(left + scale * shown, middle - WIDEST_MM / 2.0, left + scale * shown, middle + WIDEST_MM / 2.0)
        page.canvas.setDash()
        page.text(left + scale * shown + 1.0, middle + WIDEST_MM / 2.0 - 2.0, "water", 7)

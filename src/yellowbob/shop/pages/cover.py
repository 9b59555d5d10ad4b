"""Cover: three views, the brief, how it is predicted to sit, and the weigh slip by stages with boxes to fill in."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray
from reportlab.lib.utils import simpleSplit

from yellowbob.design.brief import Span
from yellowbob.design.record import STAGES, Stage, Weighing
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.silhouette import silhouette
from yellowbob.shop.pages.job import Job
from yellowbob.shop.paper import BOLD, FONT, INK, MARGIN_MM, PALE, WATER, Page
from yellowbob.study import Study, of
from yellowbob.weights.evidence import share_on_scale

Array = NDArray[np.float64]

DONE = {
    "bare body": "shaped and cut, not drilled", "drilled body": "holes, slots and seats made", "fitted": "pieces, "
                                                                                                         "wire, hooks on",
    "ballasted": "ballast and plugs in", "finished": "all coats on, hooks on",
}  # fmt: skip
VIEWS_HIGH_MM = 74.0
BOX_MM = (21.0, 7.0)


def expected_g(study: Study, stage: Stage) -> float:
    """What everything that a stage has by then should weigh, g."""
    lain = Weighing(stage=stage, mass_g=1.0)
    return sum(share_on_scale(lain, line.key) * line.mass.mass_g for line in of.slip(study).lines)


def cover(job: Job) -> None:
    """The page."""
    page, study = job.sheet(), job.study
    page.ink(INK)
    page.text(MARGIN_MM, job.high_mm - 16.0, study.design.name, 18, BOLD)
    body = study.design.body
    said = f"{study.design.kind} · {body.material.name} {body.density_g_ml:.3f} g/mL · {job.copies} to make"
    page.text(MARGIN_MM, job.high_mm - 22.0, said, 9)
    low = _views(page, job)
    _words(page, job, low - 6.0)
    _stages(page, job, low - 6.0)
    page.text(
        MARGIN_MM, 8.0, "Weigh at each stage; more than a few per cent off: correct the ballast before it goes in.", 7
    )
    page.canvas.showPage()


def _views(page: Page, job: Job) -> float:
    """Side as it sits, plan and tail view, of one scale; returns where they end."""
    study = job.study
    mesh, rest = of.whole(study), of.upright_rest(study)
    size = mesh.bounds[1] - mesh.bounds[0]
    pitch = rest.pitch_rad if rest is not None and abs(rest.roll_rad) < 1.2 else 0.0
    seen = _tilted(mesh, pitch)
    tall, wide = float(np.ptp(seen[:, 1])), float(np.ptp(seen[:, 0]))
    room = job.wide_mm - 2.0 * MARGIN_MM
    scale = min(1.0, (room - 20.0) / (wide + size[0] + size[1]), VIEWS_HIGH_MM / max(tall, size[1], size[2]))
    top = job.high_mm - 36.0
    page.text(
        MARGIN_MM,
        top + 4.0,
        f"as it sits, from above, from the tail; {'true size' if scale == 1.0 else f'{100 * scale:.0f} %'}",
        8,
    )
    page.ink(INK, 0.25)
    x, middle = MARGIN_MM, top - VIEWS_HIGH_MM / 2.0
    turn = np.array([[math.cos(pitch), math.sin(pitch)], [-math.sin(pitch), math.cos(pitch)]])
    shift = (x - scale * float(seen[:, 0].min()), middle - scale * float(seen[:, 1].min() + seen[:, 1].max()) / 2.0)
    for piece in of.outers(study):
        for loop in silhouette(piece, "side"):
            page.loop(scale * (loop @ turn.T), shift)
    if (rest is not None and pitch) or (rest is not None and abs(rest.up[0]) < 0.3):
        _water(page, scale, rest.height_mm, seen, shift)
    page.ink(INK, 0.25)
    x += scale * wide + 10.0
    low, high = mesh.bounds
    for loop in silhouette(mesh, "plan"):
        page.loop(scale * loop, (x - scale * low[0], middle - scale * (low[1] + high[1]) / 2.0))
    x += scale * float(size[0]) + 10.0
    for loop in silhouette(mesh, "tail"):
        page.loop(scale * loop, (x - scale * low[1], middle - scale * (low[2] + high[2]) / 2.0))
    return middle - VIEWS_HIGH_MM / 2.0


def _tilted(mesh: Mesh, pitch: float) -> Array:
    """(n, 2) across and up of the side view, turned so that world-up is up the paper."""
    x, z = mesh.vertices[:, 0], mesh.vertices[:, 2]
    return np.stack([x * math.cos(pitch) + z * math.sin(pitch), z * math.cos(pitch) - x * math.sin(pitch)], axis=1)


def _water(page: Page, scale: float, height: float, seen: Array, shift: tuple[float, float]) -> None:
    page.ink(WATER, 0.3)
    y = scale * height + shift[1]
    left, right = scale * float(seen[:, 0].min()) + shift[0] - 4.0, scale * float(seen[:, 0].max()) + shift[0] + 4.0
    page.canvas.setDash(3, 2)
    page.line(max(left, 4.0), y, right, y)
    page.canvas.setDash()


def _between(span: Span | None, unit: str) -> str:
    if span is None:
        return ""
    return f"{span.least:g} to {span.most:g} {unit}".replace("-", "−")


def _words(page: Page, job: Job, top: float) -> None:
    """The brief and what is predicted, at the left."""
    study = job.study
    brief, rest, lift = study.design.brief, of.upright_rest(study), of.buoyancy(study)
    page.ink(INK)
    page.text(MARGIN_MM, top, "Brief", 10, BOLD)
    asked = [
        ("for", brief.purpose), ("fish", brief.fish), ("sits", _between(brief.pitch_deg, "°")),
        ("draft", _between(brief.draft_mm, "mm")), ("finished", _between(brief.mass_g, "g")),
        ("rod", _between(brief.tackle_g, "g")), ("speed", _between(brief.speed_m_s, "m/s")),
        ("water", f"{of.drawn_water(study).name}, {of.water(study).temperature_c:g} °C"),
    ]  # fmt: skip
    sits = (
        "sinks"
        if rest is None
        else f"{math.degrees(rest.pitch_rad):+z.1f}°, draft {rest.draft_mm:.1f} mm".replace("-", "−")
    )
    told = [
        ("sits", sits),
        ("weighs", f"{lift.mass_g:.2f} g"),
        ("to spare", f"{lift.reserve_g:z.2f} g".replace("-", "−")),
    ]
    y = _pairs(page, [(a, b) for a, b in asked if b], top)
    page.text(MARGIN_MM, y - 8.0, "Predicted", 10, BOLD)
    _pairs(page, told, y - 8.0)


def _pairs(page: Page, rows: list[tuple[str, str]], top: float) -> float:
    y = top
    for name, words in rows:
        for number, line in enumerate(simpleSplit(words, FONT, 8.5, 82.0 * 2.8346)):
            y -= 4.8
            if number == 0:
                page.text(MARGIN_MM, y, name, 8.5)
            page.text(MARGIN_MM + 20.0, y, line, 8.5)
    return y


def _stages(page: Page, job: Job, top: float) -> None:
    """Each stage with what it should weigh, and a box for each of the first copies."""
    left = MARGIN_MM + 106.0
    boxes = min(job.copies, max(1, int((job.wide_mm - MARGIN_MM - left - 66.0) // (BOX_MM[0] + 2.0))))
    page.ink(INK)
    page.text(left, top, "Weigh slip by stages, g", 10, BOLD)
    page.text(left + 62.0, top, "should be", 8, align="right")
    for copy in range(boxes):
        page.text(left + 66.0 + copy * (BOX_MM[0] + 2.0), top, f"no. {copy + 1}" if job.copies > 1 else "weighed", 8)
    y = top
    for stage in STAGES:
        y -= BOX_MM[1] + 3.0
        page.ink(INK)
        page.text(left, y + 2.0, stage, 9, BOLD)
        page.text(left, y - 1.6, DONE[stage], 7)
        page.text(left + 62.0, y + 2.0, f"{expected_g(job.study, stage):.2f}", 10, BOLD, "right")
        page.ink(PALE, 0.3)
        for copy in range(boxes):
            page.box(left + 66.0 + copy * (BOX_MM[0] + 2.0), y, *BOX_MM)
    page.ink(INK)
    if boxes < job.copies:
        page.text(left, y - 8.0, f"Further pieces: copy this table for the rest, up to no. {job.copies}.", 7)

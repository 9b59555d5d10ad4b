"""Draws docs/data-flow.svg: how a design becomes figures, from the rooms that are there. Usage: tools/flow.py OUT.svg"""

from __future__ import annotations

import sys
from pathlib import Path
from xml.sax.saxutils import escape

ROOMS = Path(__file__).parent.parent / "src" / "yellowbob"
BOXES = {
    "design": (20, 150, "design", "what is drawn,\nand what was weighed"),
    "lines": (200, 60, "lines", "outer surfaces,\nhollows"),
    "weights": (380, 60, "weights", "carving, slip,\nevidence"),
    "afloat": (560, 60, "afloat", "rests, landings,\nrighting"),
    "shelf": (200, 240, "shelf", "materials, hooks,\nshot, coats"),
    "fitout": (380, 240, "fitout", "clearances,\nbudget"),
    "ballast": (560, 240, "ballast", "pose, locus,\npicks, odds"),
    "action": (740, 40, "action", "motion, throws,\nperiods"),
    "logbook": (740, 265, "logbook", "builds, tests,\nwhat they taught"),
    "study": (740, 150, "study", "every result, kept\nwhile it holds"),
    "checks": (920, 40, "checks", "verdicts"),
    "trials": (920, 125, "trials", "what is tried"),
    "reports": (920, 210, "reports", "dictionaries"),
    "shop": (920, 295, "shop", "paper, solids"),
    "app": (1090, 85, "app", "the window"),
    "cli": (1090, 250, "cli", "the commands"),
}
ARROWS = [
    ("design", "lines"), ("lines", "weights"), ("weights", "afloat"), ("shelf", "weights"), ("shelf", "fitout"),
    ("design", "shelf"), ("weights", "fitout"), ("afloat", "ballast"), ("afloat", "study"), ("fitout", "ballast"),
    ("ballast", "study"), ("study", "checks"), ("study", "trials"), ("study", "reports"), ("study", "shop"),
    ("afloat", "action"), ("action", "study"), ("logbook", "trials"),
    ("checks", "app"), ("trials", "app"), ("reports", "cli"), ("shop", "cli"), ("trials", "cli"),
]  # fmt: skip
WIDE, HIGH = 130, 66


def box(name: str) -> str:
    """One room: its name and what it makes."""
    x, y, title, words = BOXES[name]
    lines = "".join(
        f'<text x="{x + WIDE / 2}" y="{y + 40 + 14 * k}" font-size="11" fill="#5d6a70">{escape(line)}</text>'
        for k, line in enumerate(words.split("\n"))
    )
    return (
        f'<rect x="{x}" y="{y}" width="{WIDE}" height="{HIGH}" rx="5" fill="#fffdf7" stroke="#c9bfa5"/>'
        f'<text x="{x + WIDE / 2}" y="{y + 22}" font-size="14" font-weight="bold" fill="#22303a">{title}</text>{lines}'
    )


def arrow(one: str, two: str) -> str:
    """From one room's right edge to another's left; between rooms above one another, from edge to edge."""
    (x0, y0, *_), (x1, y1, *_) = BOXES[one], BOXES[two]
    if x0 == x1:
        return f'<path d="M{x0 + 65} {y0 + HIGH} V{y1 - 7}" class="a"/>'
    start, end = (x0 + WIDE, y0 + HIGH / 2), (x1 - 7, y1 + HIGH / 2)
    middle = (start[0] + end[0]) / 2
    return f'<path d="M{start[0]} {start[1]} C{middle} {start[1]} {middle} {end[1]} {end[0]} {end[1]}" class="a"/>'


def picture() -> str:
    """The whole drawing. Raises SystemExit where it names a room that is not there."""
    gone = [name for name in BOXES if not (ROOMS / name).is_dir()]
    if gone:
        raise SystemExit(f"no such room: {', '.join(gone)}")
    head = (
        '<svg xmlns="http://www.w3.org/2000/svg" width="1240" height="380" viewBox="0 0 1240 380" '
        'font-family="sans-serif" text-anchor="middle"><style>.a{fill:none;stroke:#2a6b63;'
        'stroke-width:1.5;marker-end:url(#m)}</style><defs><marker id="m" markerWidth="8" markerHeight="8" refX="6" refY="4" '
        'orient="auto"><path d="M0 0 8 4 0 8Z" fill="#2a6b63"/></marker></defs>'
        '<rect width="1240" height="380" fill="#f6f1e6"/>'
    )
    words = "imports run the other way: each room knows those left of it"
    foot = f'<text x="620" y="366" font-size="11" fill="#5d6a70">{words}</text>'
    return "\n".join([head, *(arrow(*a) for a in ARROWS), *(box(n) for n in BOXES), foot, "</svg>", ""])


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(picture(), encoding="utf-8")

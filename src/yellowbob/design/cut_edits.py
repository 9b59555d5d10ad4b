"""Edits of cuts and parts: added with sound first figures, moved, exchanged, taken off."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from yellowbob.design.cuts import Cup, Notch, Plane, Slot, Sockets
from yellowbob.design.model import Design, Material, Piece, Shell, replaced
from yellowbob.design.names import unlike
from yellowbob.design.pieces import MAIN_SHAPES
from yellowbob.design.plates import Cutout, Ellipsoid, Fin, Lip, TurningTail, Wings
from yellowbob.design.shape import OutlinePoint, Turned

Which = tuple[str, int]
"""("cut", number), ("part", number), or ("shell", 0) for the hollow of a print."""


def listed(design: Design) -> list[tuple[Which, Any]]:
    """Every cut and part of a design."""
    found: list[tuple[Which, Any]] = [(("cut", i), c) for i, c in enumerate(design.body.cuts)]
    found += [(("part", i), p) for i, p in enumerate(design.parts)]
    if design.body.shell is not None:
        found.append((("shell", 0), design.body.shell))
    return found


def get(design: Design, which: Which) -> Any:
    """The cut or part, None when the design has it no longer."""
    items = _items(design, which[0])
    return items[which[1]] if which[1] < len(items) else None


def _items(design: Design, kind: str) -> tuple[Any, ...]:
    if kind == "cut":
        return design.body.cuts
    if kind == "part":
        return design.parts
    return () if design.body.shell is None else (design.body.shell,)


def _put(design: Design, kind: str, items: tuple[Any, ...]) -> Design:
    if kind == "cut":
        return design.with_body(cuts=items)
    if kind == "shell":
        return design.with_body(shell=items[0] if items else None)
    return design.with_parts(items)


def exchanged(design: Design, which: Which, new: Any) -> Design:
    """The design with a cut, piece or hollow exchanged."""
    items = list(_items(design, which[0]))
    items[which[1]] = new
    return _put(design, which[0], tuple(items))


def removed(design: Design, which: Which) -> Design:
    """The design without a cut, piece or hollow."""
    items = list(_items(design, which[0]))
    del items[which[1]]
    return _put(design, which[0], tuple(items))


def placed_at(design: Design, which: Which, x_mm: float, z_mm: float) -> Design:
    """A cut or part with its place at (x, z)."""
    one = get(design, (("shell", 0) if which[0] == "split" else which))
    if one is None:
        return design
    if which[0] == "split":
        return exchanged(design, ("shell", 0), replaced(one, split_mm=_moved_split(one.split_mm, which[1], x_mm, z_mm)))
    if isinstance(one, Piece):
        return exchanged(design, which, placed_piece(one, x_mm, z_mm))
    field = "rim_x_mm" if isinstance(one, Cup) else "x_mm"
    return exchanged(design, which, replaced(one, **{field: x_mm, "z_mm": z_mm}))


def placed_piece(piece: Piece, x_mm: float, z_mm: float) -> Piece:
    """A piece with its handle at (x, z): the shape's own place where it has one, else the piece's."""
    if isinstance(piece.shape, Lip | Wings | TurningTail):
        return replaced(piece, shape=replaced(piece.shape, x_mm=x_mm - piece.at_mm[0], z_mm=z_mm - piece.at_mm[2]))
    middle = piece.shape.length_mm / 2.0 if isinstance(piece.shape, Turned) and _on_axis(piece) else 0.0
    return replaced(piece, at_mm=(x_mm - middle, piece.at_mm[1], z_mm))


def _on_axis(piece: Piece) -> bool:
    return piece.turned_deg == (0.0, 0.0, 0.0)


def handle_of(piece: Piece) -> tuple[float, float] | None:
    """(x, z) of the handle by which a piece is dragged in the side view; None for one that is dragged by its corners."""
    if isinstance(piece.shape, Lip | Wings | TurningTail):
        return piece.shape.x_mm + piece.at_mm[0], piece.shape.z_mm + piece.at_mm[2]
    if isinstance(piece.shape, Fin):
        return None
    if isinstance(piece.shape, Turned) and _on_axis(piece):  # by its middle: its free end has a handle of its own
        return piece.at_mm[0] + piece.shape.length_mm / 2.0, piece.at_mm[2]
    return piece.at_mm[0], piece.at_mm[2]


def _moved_split(line: tuple[tuple[float, float], ...], at: int, x: float, z: float) -> tuple[tuple[float, float], ...]:
    """The split line with one point moved, kept between its neighbours."""
    low = line[at - 1][0] + 0.1 if at > 0 else x
    high = line[at + 1][0] - 0.1 if at + 1 < len(line) else x
    return (*line[:at], (min(max(x, low), high), z), *line[at + 1 :])


def first_cut(kind: str, design: Design, depth_mm: float, beam_mm: float) -> Any:
    """A new cut or part of a kind, sized to a body so deep and wide."""
    long = design.shape.length_mm
    makers: dict[str, Callable[[], Any]] = {
        "cup": lambda: Cup(diameter_mm=round(0.7 * min(depth_mm, beam_mm), 1), depth_mm=round(0.2 * depth_mm, 1)),
        "face": lambda: Plane(kind="face", name="face", x_mm=0.03 * long, slant_deg=15.0),
        "head flat": lambda: Plane(kind="head flat", name="head flat", z_mm=0.2 * depth_mm, slant_deg=12.0),
        "tail cut": lambda: Plane(kind="tail cut", name="tail cut", x_mm=0.95 * long),
        "notch": lambda: Notch(x_mm=0.08 * long, z_mm=-0.25 * depth_mm),
        "slot": lambda: Slot(x_mm=0.06 * long, z_mm=-0.3 * depth_mm, depth_mm=6.0, thick_mm=1.6),
        "eye sockets": lambda: Sockets(x_mm=0.1 * long, z_mm=0.1 * depth_mm, diameter_mm=5.0, depth_mm=1.2),
        "print shell": lambda: Shell(
            wall_mm=1.2, split_mm=tuple((share * long, -0.08 * depth_mm) for share in (0.0, 0.33, 0.67, 1.0))
        ),
    }  # fmt: skip
    return makers[kind]()


SHEET = Material(name="polycarbonate sheet", group="plastic", density_g_ml=1.2)
METAL = Material(name="aluminium sheet", group="metal", density_g_ml=2.7)
FOAM = Material(name="foam, EVA", group="foam", density_g_ml=0.12)


CANE = Material(name="bamboo cane", group="wood", density_g_ml=0.7)
RUBBER = Material(name="silicone rubber", group="plastic", density_g_ml=1.15)
BRASS = Material(name="brass rod", group="metal", density_g_ml=8.5)


def _rod(long_mm: float, across_mm: float) -> Turned:
    """A turned piece of one thickness."""
    ends = (0.0, round(long_mm, 1))
    return Turned(profile=tuple(OutlinePoint(at_mm=(x, round(across_mm / 2.0, 2)), bend="corner") for x in ends))


def _lowest(design: Design) -> float:
    """Where the turned stack ends, mm from the body's front."""
    return max(p.at_mm[0] + p.shape.length_mm for p in design.pieces if isinstance(p.shape, MAIN_SHAPES))


def first_piece(kind: str, design: Design, depth_mm: float, beam_mm: float) -> Piece:
    """A new piece of a kind, sized to a body so deep and wide."""
    long = design.shape.length_mm
    makers: dict[str, Callable[[], Piece]] = {
        "lip": lambda: Piece(name="lip", material=SHEET, shape=Lip(
            thick_mm=1.6, x_mm=0.07 * long, z_mm=-0.25 * depth_mm, angle_deg=55.0, long_mm=0.7 * depth_mm,
            wide_mm=0.9 * beam_mm,
        )),
        "wings": lambda: Piece(name="wings", material=METAL, shape=Wings(
            thick_mm=0.8, x_mm=0.25 * long, y_mm=0.4 * beam_mm, z_mm=0.0, span_mm=1.2 * beam_mm, root_mm=0.2 * long,
            tip_mm=0.14 * long,
        )),
        "fin": lambda: Piece(name="fin", material=SHEET, shape=Fin(
            thick_mm=1.2,
            corners_mm=((0.8 * long, 0.0), (1.05 * long, 0.3 * depth_mm), (1.05 * long, -0.3 * depth_mm)),
        )),
        "turning tail": lambda: Piece(name="turning tail", material=design.body.material, shape=TurningTail(
            x_mm=long + 3.0,
            profile=(OutlinePoint(at_mm=(0.0, 0.25 * depth_mm)), OutlinePoint(at_mm=(0.3 * long, 0.0), bend="round")),
        )),
        "tip": lambda: Piece(name="Tip", material=CANE, shape=_rod(0.5 * long + 8.0, 0.18 * min(depth_mm, beam_mm)),
                             at_mm=(-0.5 * long, 0.0, 0.0)),
        "stem": lambda: Piece(name="Stem", material=CANE, shape=_rod(1.2 * long, 0.3 * min(depth_mm, beam_mm)),
                              at_mm=(0.75 * long, 0.0, 0.0)),
        "base": lambda: Piece(name="Base", material=BRASS, shape=_rod(8.0, 0.4 * min(depth_mm, beam_mm)),
                              at_mm=(_lowest(design) - 2.0, 0.0, 0.0)),
        "sleeve": lambda: Piece(name="Sleeve", material=RUBBER, shape=_rod(8.0, 0.3 * min(depth_mm, beam_mm) + 2.0),
                                at_mm=(long + 1.0, 0.0, 0.0), sleeve=True),
        "lump": lambda: Piece(name="stalk eyes", material=FOAM, mirrored=True, shape=Ellipsoid(
            long_mm=0.22 * depth_mm, wide_mm=0.22 * depth_mm, high_mm=0.22 * depth_mm,
        ), at_mm=(0.12 * long, 0.35 * beam_mm, 0.4 * depth_mm)),
        "cut-out": lambda: Piece(name="legs", material=FOAM, mirrored=True, shape=Cutout(
            thick_mm=2.0, corners_mm=((0.0, 0.0), (0.16 * long, -0.05 * depth_mm), (0.18 * long, 0.12 * depth_mm)),
        ), at_mm=(0.6 * long, 0.45 * beam_mm, 0.0)),
    }  # fmt: skip
    return makers[kind]()


KINDS: tuple[tuple[str, str], ...] = (
    ("cup", "cut"), ("face", "cut"), ("head flat", "cut"), ("tail cut", "cut"), ("notch", "cut"), ("slot", "cut"),
    ("eye sockets", "cut"), ("lip", "part"), ("wings", "part"), ("fin", "part"), ("turning tail", "part"),
    ("lump", "part"), ("cut-out", "part"), ("tip", "part"), ("stem", "part"), ("base", "part"), ("sleeve", "part"),
    ("print shell", "shell"),
)  # fmt: skip


def added(design: Design, kind: str, depth_mm: float, beam_mm: float) -> tuple[Design, Which]:
    """The design with a new cut or piece of a kind, its name unlike the others'."""
    group = dict(KINDS)[kind]
    new = (first_piece if group == "part" else first_cut)(kind, design, depth_mm, beam_mm)
    items = () if group == "shell" else _items(design, group)
    taken = {p.name for p in design.pieces} if group == "part" else {one.name for one in items}
    new = replaced(new, name=unlike(new.name, taken))
    # what comes later has the room: a sleeve comes before what it is pushed over
    at = 0 if kind == "sleeve" else len(items)
    return _put(design, group, (*items[:at], new, *items[at:])), (group, at)

"""Ballasting a design to a pose: the room it leaves, the locus, picks, two holes, and what to change when none will do."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from yellowbob.afloat.rest import Afloat
from yellowbob.ballast.drillable import Judge, judge_of
from yellowbob.ballast.locus import KeepOut, Locus, Room, TwoHoles, locus_of, two_holes
from yellowbob.ballast.picks import Pick, Reasons, judged, picks
from yellowbob.ballast.pose import Pose, Posed, metal_g, pose_it, rod_radius_mm
from yellowbob.ballast.settle import Settled, settled
from yellowbob.design.model import Ballast, Design, Drilling, Filler, Slug, replaced
from yellowbob.ground.errors import BadInput
from yellowbob.ground.progress import Told, unheard
from yellowbob.lines.walls import least_wall_mm
from yellowbob.shelf.items import BallastStock, Bit
from yellowbob.shelf.shipped import ballast_stock, bits, fillers
from yellowbob.study import Study, of

LEAD_G_ML = 11.34
EYE_MM = 1.5
"""Radius kept free around an eye or hanger in the wood: a rule."""


@dataclass(frozen=True, eq=False)
class Ballasting:
    """A pose worked out for a design: `bare` is the design without the ballast in question."""

    bare: Study
    pose: Pose
    posed: Posed
    room: Room
    locus: Locus

    @property
    def too_heavy_g(self) -> float:
        """How many grams too heavy it is before any ballast; 0 when it is not."""
        return max(0.0, -self.posed.ballast_g)

    @property
    def lead_g(self) -> float:
        """Lead that does it where it takes the wood's place in a plugged hole."""
        return metal_g(self.posed.ballast_g, LEAD_G_ML, self.bare.design.body.density_g_ml)


def without_ballast(design: Design, keep: tuple[str, ...] = ()) -> Design:
    """The design without its ballast, holes and plugs, but for those named. Raises BadInput for an unknown name."""
    names = {b.name for b in design.ballast}
    for name in keep:
        if name not in names:
            raise BadInput(f"no ballast is called '{name}'; there is {', '.join(sorted(names)) or 'none'}")
    return design.but(ballast=tuple(b for b in design.ballast if b.name in keep))


def room_of(study: Study) -> Room:
    """Where ballast can go in a design: walls, hollows, seats of parts, wires, bores, other ballast, eyes in the wood."""
    from yellowbob.lines.rays import inside

    design, holes = study.design, of.holes(study)
    solids = [(f"the slot of {p.name}", s) for p, s in zip(design.parts, of.parts(study), strict=True)]
    hollow = of.hollow(study)
    if hollow is not None:
        solids.append(("the hollow", hollow))
    stretches = [
        KeepOut(routed.wire.name, run.start_mm, run.end_mm, routed.wire.bore_mm / 2)
        for routed in of.wires(study) for run in routed.runs if run.inside
    ]  # fmt: skip
    drilled = [(b.bore.name, b.hole) for b in holes.bores]
    drilled += [(b.ballast.name, b.hole) for b in holes.ballast if b.hole is not None]
    stretches += [KeepOut(name, h.at_depth(0.0), h.bottom_mm, h.diameter_mm / 2) for name, h in drilled]
    for fitting in design.fittings:
        at = np.asarray(fitting.at_mm, dtype=float)
        if fitting.sort in ("eye", "screw eye", "grommet", "sleeve") and inside(of.outer(study), at):
            long = np.array([0.0, 0.0, fitting.long_mm if fitting.sort == "screw eye" else 0.0])
            stretches.append(KeepOut(fitting.name, at, at + long, EYE_MM))
    return Room(of.outer(study), least_wall_mm(design.body.material.group), tuple(solids), tuple(stretches))


def slug_radius_mm(design: Design, ballast_g: float) -> float:
    """Radius of what is to go in: that of the ballast it has now, else of a lead rod three diameters long."""
    for one in design.ballast:
        if isinstance(one.weight, Slug):
            return min(one.weight.diameter_mm, one.weight.length_mm) / 2
    return rod_radius_mm(max(ballast_g, 0.05), LEAD_G_ML)


def ballasting(
    design: Design, pose: Pose, keep: tuple[str, ...] = (), radius_mm: float | None = None, before: Study | None = None
) -> Ballasting:
    """Work out a pose. Raises BadInput or NoRest where the pose cannot be.

    radius_mm : of the slug that the line is clipped for; by default `slug_radius_mm`.
    """
    build = Study(design, before).build
    study = Study(without_ballast(build, keep), before)
    posed = pose_it(of.afloat(study), pose)
    room = room_of(study)
    radius = slug_radius_mm(design, posed.ballast_g) if radius_mm is None else radius_mm
    return Ballasting(study, pose, posed, room, locus_of(posed, room, radius))


def followed(now: Ballasting, pose: Pose) -> Ballasting:
    """The same build in another pose: what a drag asks, over and over."""
    posed = pose_it(of.afloat(now.bare), pose)
    return Ballasting(now.bare, pose, posed, now.room, locus_of(posed, now.room, now.locus.radius_mm))


def default_pose(design: Design, study: Study, pitch_rad: float) -> Pose:
    """Tilt alone: the finished mass is the brief's wanted one, else what it is now; without any ballast the lightest that
    leaves room for some. `by` says which."""
    wanted = design.brief.mass_g
    if wanted is not None:
        return Pose(pitch_rad, mass_g=wanted.middle, by="the brief's mass")
    if not design.ballast:
        return Pose(pitch_rad, mass_g=lightest_that_holds(study, pitch_rad), by="the lightest that leaves it room")
    return Pose(pitch_rad, mass_g=of.slip(study).finished.mass_g, by="its mass as it is")


MASSES_TRIED = 48
FULLEST = 0.95
"""Share of the water it can displace up to which a mass is tried: the rest is reserve."""
SLACK_MM, STIFF_MM = 2.0, 0.5
"""A place is taken for good when it has so much room along the line, and so much GM: rules."""


def lightest_that_holds(study: Study, pitch_rad: float) -> float:
    """The least finished mass, g, at which ballast in the wood can hold a pitch, of so many tried evenly between the
    unballasted body and FULLEST; half-way between them where none can."""
    base, room = of.afloat(study), room_of(study)
    most = FULLEST * base.hull.volume_mm3 * base.density_g_mm3
    for mass in np.linspace(base.mass_g, most, MASSES_TRIED + 1)[1:]:
        posed = pose_it(base, Pose(pitch_rad, mass_g=float(mass)))
        best = locus_of(posed, room, slug_radius_mm(study.build, posed.ballast_g)).best
        if best is not None and best.high_mm - best.low_mm >= SLACK_MM and posed.gm_min_mm(best.low_mm) >= STIFF_MM:
            return float(mass)
    return float(max(base.mass_g, (base.mass_g + most) / 2))


def afloat_maker(study: Study) -> Callable[[Design], Afloat]:
    """How a design with other ballast floats, as much as holds taken over from a study."""
    return lambda design: of.afloat(Study(design, study))


def plug_of(name: str = "epoxy and micro-balloons") -> Filler:
    """A plug of a filler from the shelf."""
    stock = fillers().get(name) or next(iter(fillers().values()))
    return Filler(material=stock.name, density_g_ml=stock.density_g_ml)


def shelf_counts() -> dict[str, float]:
    """Pieces, or mm of rod, on the maker's own shelf; empty without a workshop."""
    from yellowbob.shelf.own import OwnShelf
    from yellowbob.workshop.database import workshop_file

    return OwnShelf().counts(BallastStock) if workshop_file().exists() else {}


def bits_on_hand() -> dict[str, Bit]:
    """The bits the maker has counted, more than none of each; the whole list where none was counted."""
    from yellowbob.shelf.own import OwnShelf
    from yellowbob.workshop.database import workshop_file

    counts = OwnShelf().counts(Bit) if workshop_file().exists() else {}
    return {name: bit for name, bit in bits().items() if not counts or counts.get(name, 0.0) > 0}


def shelf_picks(
    work: Ballasting,
    only_counted: bool = False,
    lead: bool = True,
    most: int = 8,
    reasons: Reasons | None = None,
    told: Told = unheard,
) -> list[Pick]:
    """Picks from the shelf, best first; only what was counted there, or without lead, when so asked. `reasons` counts
    why what was tried is none."""
    why: Reasons = Counter() if reasons is None else reasons
    counts = shelf_counts()
    stock = {
        name: item for name, item in ballast_stock().items()
        if (not only_counted or counts.get(name, 0.0) > 0) and (lead or item.material != "lead")
    }  # fmt: skip
    maker = afloat_maker(work.bare)
    judge = judge_of(work.room.body, work.room.wall_mm, bits_on_hand())
    found = picks(work.bare.design, work.posed, work.room, stock, counts, plug_of(), maker, judge, most, why, told)
    if not found and work.posed.ballast_g > 0:
        found = two_hole_picks(work, stock, counts, judge, why)
    return found


def why_none(work: Ballasting, reasons: Reasons) -> str:
    """Why there is no pick, in words: what limits the line, then the commonest reasons with how often."""
    if work.posed.ballast_g <= 0.0 or not work.locus.in_body:
        return work.locus.limit
    told = [f"{words} ({count} of {sum(reasons.values())} tried)" for words, count in reasons.most_common(3)]
    limit = [] if work.locus.feasible else [f"no place on the line: {work.locus.limit}"]
    return "; ".join([*limit, *told]) or "nothing on the shelf was tried"


def settled_at(work: Ballasting, lam_mm: float) -> Settled:
    """How the posed build would settle with its ballast as a point at λ, with the share of landings that come to it."""
    posed, base = work.posed, work.posed.base
    moment = base.mass_g * np.asarray(base.centre_mm) + posed.ballast_g * posed.place(lam_mm)
    x, y, z = (float(v) for v in moment / posed.total_g)
    up = posed.water.up
    whole = Afloat(base.hull, posed.total_g, (x, y, z), base.density_g_mm3, base.points)
    return settled(whole, (float(up[0]), float(up[1]), float(up[2])), shares=True)


def pair_of(work: Ballasting) -> TwoHoles | None:
    """Two holes that balance on the line by the lever rule; None when there are none."""
    return two_holes(work.posed, work.room, work.locus.radius_mm)


def two_hole_picks(
    work: Ballasting, shelf: dict[str, BallastStock], counts: dict[str, float], judge: Judge, reasons: Reasons
) -> list[Pick]:
    """Rods cut for two belly holes by the lever rule, verified as any pick."""
    from yellowbob.ballast.fitting import Try, first_hole, fits

    pair = pair_of(work)
    if pair is None:
        return []
    out: list[Pick] = []
    design, plug, wood = work.bare.design, plug_of(), work.bare.design.body.density_g_ml
    for stock in (s for s in shelf.values() if s.form == "slug"):
        made: list[Ballast] = []
        for number, (net, place) in enumerate(zip(pair.masses_g, pair.places_mm, strict=True)):
            size = stock.diameter_mm or 1.0
            mass = metal_g(net, stock.density_g_ml, wood)
            long = round(1000.0 * mass / stock.density_g_ml / (np.pi / 4 * size**2), 1)
            if not 0.5 * size <= long <= 12 * size:
                break
            weight = Slug(material=stock.material, density_g_ml=stock.density_g_ml, diameter_mm=size, length_mm=long)
            alone = Posed(work.posed.base, work.posed.water, work.posed.total_g, net, np.asarray(place))
            hole = first_hole(
                design, Try(stock, weight, "belly", 0.0, round(size + 0.2, 1), 0.0), alone, work.room, plug,
                locus_of(alone, work.room, size / 2),
            )  # fmt: skip
            if hole is None or not fits(hole, work.room, alone):
                break
            made.append(replaced(hole, name=f"{hole.name} {number + 1}", drilling=_drillable(hole)))
        have = counts.get(stock.name)
        used = sum(b.weight.length_mm for b in made if isinstance(b.weight, Slug))
        if len(made) == 2 and (have is None or used <= have):
            pick = judged(design, (made[0], made[1]), work.posed, work.room, afloat_maker(work.bare), judge, reasons)
            if pick is not None:
                out.append(pick if have is None else replace(pick, left=have - used))
    return sorted(out, key=lambda p: p.score)[:4]


def _drillable(ballast: Ballast) -> Drilling | None:
    """The hole in tenths of a millimetre."""
    drilling = ballast.drilling
    if drilling is None:
        return None
    a, b = drilling.place_mm
    return replaced(drilling, place_mm=(round(a, 1), round(b, 1)), depth_mm=round(drilling.depth_mm, 1))

"""One design in a run of sizes: its hardware for each from the shelf, each brought back to its brief."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from yellowbob.design.base import replaced
from yellowbob.design.brief import Brief, Span
from yellowbob.design.model import STANDING, Design, Slug
from yellowbob.ground.errors import BadInput, YellowBobError
from yellowbob.ground.progress import Told, each, unheard
from yellowbob.study import Study, of
from yellowbob.trials.answer import Answer, judged, sought
from yellowbob.trials.at_size import at_size
from yellowbob.trials.balancing import balanced
from yellowbob.trials.first_design import Way, lightened
from yellowbob.trials.slugs import rodded
from yellowbob.trials.standing import carried_like

MOST_SIZES = 12


@dataclass(frozen=True, eq=False)
class Member:
    """One size: its design with what every check says, or why it could not be built at all; what was chosen for it."""

    length_mm: float
    answer: Answer | None
    chosen: tuple[str, ...]
    fault: str = ""

    @property
    def sound(self) -> bool:
        """Whether every check passes."""
        return self.answer is not None and self.answer.sound


def family(design: Design, lengths_mm: Sequence[float], told: Told = unheard) -> list[Member]:
    """The design at each length, in order. Raises BadInput for lengths out of range, or too many."""
    if not 1 <= len(lengths_mm) <= MOST_SIZES or len(set(lengths_mm)) < len(lengths_mm):
        raise BadInput(f"ask for 1 to {MOST_SIZES} sizes, each once; there are {len(lengths_mm)}")
    for length in lengths_mm:
        factor = length / design.shape.length_mm
        if not 0.2 <= factor <= 5.0:
            raise BadInput(f"{length:g} mm is {factor:.2g} times the length of {design.name}; ask for 0.2 to 5 times")
    plain = design.but(weighings=(), measurements=(), set_aside=())
    study = Study(plain)
    lift = of.buoyancy(study)
    return [_member(plain, lift.mass_g / lift.lift_g, length) for length in each(lengths_mm, told)]


def _member(design: Design, laden: float, length_mm: float) -> Member:
    factor = length_mm / design.shape.length_mm
    try:
        if design.kind in STANDING:
            made: Answer | None = judged(Study(_named(carried_like(design, factor), design, length_mm)))
        else:
            made = sought(lambda way: _named_with(design, laden, factor, way, length_mm))
    except YellowBobError as error:
        return Member(length_mm, None, (), str(error))
    if made is None:  # no ballast can be put in at all: the bare build says why
        made = judged(Study(_named(at_size(design, factor).but(ballast=()), design, length_mm)))
    return Member(length_mm, made, _chosen(design, made.design))


def _named_with(design: Design, laden: float, factor: float, way: Way, length_mm: float) -> Study | None:
    made = _with(design, laden, factor, way)
    return None if made is None else Study(_named(made.design, design, length_mm), made)


def _with(design: Design, laden: float, factor: float, way: Way) -> Study | None:
    sized = at_size(design, factor, way.hooks)
    if way.light:
        sized = lightened(sized)
    brief = _scaled(sized, factor)
    sized = sized.but(brief=brief)
    if not any(isinstance(b.weight, Slug) for b in sized.ballast):
        return Study(sized)
    sized = rodded(sized, way.rod, way.slugs + len(sized.ballast) - 1 if way.slugs else 0)
    bare = Study(sized.but(ballast=()))
    lift = of.buoyancy(bare)
    wanted = max(way.share * laden * lift.lift_g, 1.03 * lift.mass_g)
    return balanced(sized, wanted, bare)


def _scaled(design: Design, factor: float) -> Brief:
    """The brief at that size: mass with its cube, draft with it; pitch, tackle and speed stay what was wanted."""
    brief = design.brief

    def times(span: Span | None, by: float) -> Span | None:
        return None if span is None else Span(least=span.least * by, most=span.most * by)

    return replaced(brief, mass_g=times(brief.mass_g, factor**3), draft_mm=times(brief.draft_mm, factor), tackle_g=None)


def _named(made: Design, design: Design, length_mm: float) -> Design:
    """Named for its length: a number at the end of the old name gives way to it."""
    base, _, last = design.name.rpartition(" ")
    words = base if base and last.replace(".", "").isdigit() else design.name
    return made.but(name=f"{words} {length_mm:g}"[:80])


def _chosen(old: Design, new: Design) -> tuple[str, ...]:
    """What was chosen for the size, in words: what is another thing than in the old one."""
    listed: dict[str, None] = {}
    for before, now in zip(old.fittings, new.fittings, strict=False):
        if now.stock and now.stock != before.stock:
            listed[now.stock] = None
    for one, other in zip(old.wires, new.wires, strict=False):
        if other.diameter_mm != one.diameter_mm:
            listed[f"{other.material} {other.diameter_mm:g} mm"] = None
    for ballast in new.ballast:
        if isinstance(ballast.weight, Slug):
            listed[f"{ballast.name}: {ballast.stock or ballast.weight.material}, {ballast.weight.length_mm:g} mm"] = (
                None
            )
    return tuple(listed)

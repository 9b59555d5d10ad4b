"""A first float for a brief: the starter of its kind at that length, sized to what it carries and shotted from the shelf."""

from __future__ import annotations

from yellowbob.afloat.line import capacity
from yellowbob.design.base import replaced
from yellowbob.design.brief import Water
from yellowbob.design.files import read_design
from yellowbob.design.model import Design
from yellowbob.design.rescale import rescaled
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.fitting import of_wood
from yellowbob.shelf.shipped import every_material, taken
from yellowbob.study import Study, of
from yellowbob.trials.asked import Asked, a_kind, starter_file
from yellowbob.trials.shotting import shotted, with_shot
from yellowbob.trials.sizing import sized

MOST_KEPT = 0.4
"""What hangs besides shot is no more than this share of what it carries."""
KEPT = ("hook", "bait", "leader")
"""What hangs on a line and is no shot."""


def float_of(asked: Asked) -> Design:
    """A standing float, or a dropper, of a whole length. Raises BadInput for what it cannot have."""
    if asked.hooks or asked.hung_by == "screw eyes" or asked.weight == "tail":
        raise BadInput(f"{a_kind(asked.kind)} has no hooks of its own and no tail weight; leave those lines out")
    first = read_design(starter_file(asked.kind))
    factor = asked.length_mm / whole_mm(first)
    made = rescaled(first, factor)
    if asked.wood:
        made = of_wood(made, taken(every_material(), asked.wood))
    brief = replaced(
        first.brief, mass_g=asked.mass_g, tackle_g=asked.tackle_g, pitch_deg=asked.pitch_deg or first.brief.pitch_deg
    )
    name = asked.name or f"{asked.kind.capitalize()} {asked.length_mm:g}"
    made = made.but(name=name, brief=brief, water=Water(name=asked.water, temperature_c=asked.temperature_c), notes="")
    if asked.kind == "dropper" or made.rig is None:
        return made
    return _loaded(made, asked.capacity_g or carries_g(first) * factor**3)


def carried_like(design: Design, factor: float) -> Design:
    """A standing float so many times as large, that carries so many times cubed as much, shotted anew."""
    return _loaded(rescaled(design, factor), carries_g(design) * factor**3)


def _loaded(design: Design, wanted_g: float) -> Design:
    """Its body made wider or slimmer until it carries so much with its tip showing, and the shot for it put on its line."""
    if design.rig is None:
        raise BadInput(f"{design.name} has no line, so it carries nothing")
    kept = tuple(h for h in design.rig.hung if h.role in KEPT)
    if sum(h.mass_g * h.count for h in kept) > MOST_KEPT * wanted_g:
        kept = ()  # hook and bait of a larger one would draw it under
    bare = design.but(rig=replaced(design.rig, hung=kept))
    made = sized(bare, wanted_g, design.rig.tip_mm, f"{design.body.name}.diameter").design
    return with_shot(made, shotted(Study(made)))


def whole_mm(design: Design) -> float:
    """From tip to foot."""
    vertices = of.whole(Study(design)).vertices
    return float(vertices[:, 0].max() - vertices[:, 0].min())


def carries_g(first: Design) -> float:
    """What hangs on its line at its tip mark, g."""
    assert first.rig is not None
    study = Study(first)
    return capacity(of.unloaded(study), of.line_at(study), first.rig.tip_mm).load_g

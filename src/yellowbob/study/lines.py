"""Results of the lines: outer surfaces, hollows, thin walls."""

from __future__ import annotations

from yellowbob.design.cuts import Cup
from yellowbob.design.model import Design, MainShape, Material, Piece, Shell
from yellowbob.design.pieces import Inside
from yellowbob.lines.build import blank_mesh, cavity_mesh, piece_mesh
from yellowbob.lines.cutting import rim_left_mm
from yellowbob.lines.hollow import hollow_of
from yellowbob.lines.mesh import Mesh
from yellowbob.lines.sizes import size_of
from yellowbob.lines.stacked import put_together
from yellowbob.lines.walls import ThinWall, least_wall_mm, thin_walls
from yellowbob.study.engine import Study, drawn, result, slow


@drawn
def pieces(design: Design) -> tuple[Piece, ...]:
    """The pieces, the body first."""
    return design.pieces


@drawn
def body_shape(design: Design) -> MainShape:
    """The body's shape."""
    return design.shape


@drawn
def body_material(design: Design) -> Material:
    """The body's material record."""
    return design.body.material


@drawn
def forms(design: Design) -> tuple[Piece, ...]:
    """The pieces as far as their outer surfaces go: materials, bores and hollows leave no mark on these."""
    blank = Material(name="any", density_g_ml=1.0)
    return tuple(p.model_copy(update={"material": blank, "bores": (), "shell": None}) for p in design.pieces)


@drawn
def shells(design: Design) -> tuple[Shell | None, ...]:
    """The hollow of each piece; None for a solid one."""
    return tuple(p.shell for p in design.pieces)


@drawn
def insides(design: Design) -> tuple[Inside | None, ...]:
    """What the closed space of each piece holds; None for a full one."""
    return tuple(p.inside for p in design.pieces)


@result
def outers(study: Study) -> tuple[Mesh, ...]:
    """Outer surface of each piece, cuts made, bare of finish, mm in body axes. Raises BadShape."""
    return study.each("outers", forms(study), piece_mesh)


@result
def outer(study: Study) -> Mesh:
    """The body's outer surface, cuts made, bare of finish, mm."""
    return outers(study)[0]


@result
def sizes_mm(study: Study) -> tuple[tuple[float, float, float], ...]:
    """Length, beam and depth of each piece, cuts made, bare of finish, mm: by its outlines, see `lines.sizes`."""
    return tuple(size_of(piece, mesh) for piece, mesh in zip(forms(study), outers(study), strict=True))


@drawn
def cups(design: Design) -> tuple[Cup, ...]:
    """The cups of the body, in order."""
    return tuple(c for c in design.body.cuts if isinstance(c, Cup))


@result
def rims_left_mm(study: Study) -> tuple[float, ...]:
    """Least wood left round the rim of each cup, mm."""
    return tuple(rim_left_mm(cup, outer(study)) for cup in cups(study))


@result
def parts(study: Study) -> tuple[Mesh, ...]:
    """Solids of the pieces beside the body, in the design's order, mm."""
    return outers(study)[1:]


@result
def whole(study: Study) -> Mesh:
    """All pieces as one surface, bare of finish: what is seen. mm."""
    return put_together(outers(study))


def _hollow(of: tuple[Mesh, Shell | None, Piece]) -> Mesh | None:
    outer, shell, form = of
    return cavity_mesh(form) if shell is None else hollow_of(outer, shell).mesh


def _each_hollow(study: Study) -> tuple[Mesh | None, ...]:
    return study.each("hollows", tuple(zip(outers(study), shells(study), forms(study), strict=True)), _hollow)


@slow("hollowing the print")
def printed_hollows(study: Study) -> tuple[Mesh | None, ...]:
    """The same as `hollows` where something is printed with a shell: setting the wall in takes long."""
    return _each_hollow(study)


@result
def hollows(study: Study) -> tuple[Mesh | None, ...]:
    """The closed space in each print or solid from CAD, None for a full one. Raises BadShape where a wall leaves none."""
    return _each_hollow(study) if all(shell is None for shell in shells(study)) else printed_hollows(study)


@result
def hollow(study: Study) -> Mesh | None:
    """The hollow of the body, None for a solid one."""
    return hollows(study)[0]


@slow("looking for thin walls")
def thin(study: Study) -> tuple[ThinWall, ...]:
    """Walls of the body that cuts have left thinner than the material's least, thinnest first."""
    return thin_walls(outer(study), blank_mesh(body_shape(study)), least_wall_mm(body_material(study).group))

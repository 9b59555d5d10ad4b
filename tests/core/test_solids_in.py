"""Solids from CAD: what cannot be understood is refused, what can be mended is mended and said."""

from __future__ import annotations

import zipfile
from pathlib import Path

import numpy as np
import pytest
import trimesh

from tests.conftest import mesh_of
from yellowbob.__main__ import main
from yellowbob.design.files import read_design
from yellowbob.ground.errors import BadInput, BadMesh
from yellowbob.lines.importing import closed_solid, read_solid
from yellowbob.lines.orient import lighter
from yellowbob.lines.shells import Inside, Solid
from yellowbob.study import Study, of


def box(*size: float, at: tuple[float, float, float] = (0, 0, 0)) -> trimesh.Trimesh:
    return trimesh.creation.box(size, transform=trimesh.transformations.translation_matrix(at))


def ball(radius: float, fine: int = 3, at: tuple[float, float, float] = (0, 0, 0)) -> trimesh.Trimesh:
    made = trimesh.creation.icosphere(subdivisions=fine, radius=radius)
    made.apply_translation(at)
    return made


def taken(*meshes: trimesh.Trimesh, inside: Inside | None = None) -> Solid:
    both = trimesh.util.concatenate(meshes)
    return closed_solid(np.array(both.vertices), np.array(both.faces), "part.stl", inside)


def inverted(mesh: trimesh.Trimesh) -> trimesh.Trimesh:
    mesh = mesh.copy()
    mesh.invert()
    return mesh


@pytest.mark.parametrize("share", [1.0, 0.02, 0.3])
@pytest.mark.parametrize("back", [False, True])
def test_doubled_faces_count_once_and_are_said(share: float, back: bool) -> None:
    """All of them or a few, wound the same way. A few wound the other way are no longer a surface: those gape."""
    solid = ball(9.0)
    count = max(1, int(share * len(solid.faces)))
    extra = solid.faces[:count, ::-1] if back else solid.faces[:count]
    faces = np.vstack([solid.faces, extra])
    if back and share < 1.0:
        with pytest.raises(BadMesh, match="open edge"):
            closed_solid(np.array(solid.vertices), faces, "part.stl")
        return
    found = closed_solid(np.array(solid.vertices), faces, "part.stl")
    assert found.outer.volume_mm3 == pytest.approx(solid.volume, rel=1e-9)
    assert f"{count} doubled faces" in found.notes[0]


@pytest.mark.parametrize("apart", [3.0, 7.5, 9.9])
@pytest.mark.parametrize("turn", [False, True])
def test_overlapping_shells_count_once(apart: float, turn: bool) -> None:
    one, two = box(10, 8, 6), box(10, 8, 6, at=(apart, 0, 0))
    found = taken(one, inverted(two) if turn else two)
    assert found.outer.volume_mm3 == pytest.approx((10 + apart) * 48, rel=1e-9)
    assert any("overlapping" in note for note in found.notes)


def test_solids_that_stand_apart_or_lie_inside_out_are_kept_and_said() -> None:
    found = taken(box(10, 8, 6), inverted(box(4, 4, 4, at=(30, 0, 0))))
    assert found.outer.volume_mm3 == pytest.approx(480 + 64)
    assert {"1 shells that lay inside out were turned", "2 solids that stand apart"} <= set(found.notes)


def test_touching_boxes_with_a_wall_between_are_one_solid() -> None:
    found = taken(box(10, 8, 6), box(10, 8, 6, at=(10, 0, 0)))
    assert found.outer.volume_mm3 == pytest.approx(960)
    assert found.notes == ("2 solids that lie against each other joined",)
    third = taken(box(10, 8, 6), box(10, 8, 6, at=(7, 0, 0)), box(10, 8, 6, at=(40, 0, 0)))
    assert third.outer.volume_mm3 == pytest.approx((17 + 10) * 48)
    assert third.notes == ("2 overlapping shells joined, what they share counted once", "2 solids that stand apart")


@pytest.mark.parametrize(("off_mm", "closes"), [(2e-6, True), (8e-6, True), (3e-3, False)])
def test_corners_that_all_but_coincide_are_one(off_mm: float, closes: bool) -> None:
    """Each triangle's own, as an STL writes them, each moved by up to so much."""
    solid = ball(11.0, 4, at=(31.7, 2.3, 0.1))
    own = solid.vertices[solid.faces].reshape(-1, 3)
    own = own + np.random.default_rng(3).uniform(-off_mm, off_mm, own.shape)
    faces = np.arange(len(own)).reshape(-1, 3)
    if not closes:
        with pytest.raises(BadMesh, match="not closed: 15360 open edges"):
            closed_solid(own, faces, "part.stl")
        return
    found = closed_solid(own, faces, "part.stl")
    assert len(found.outer.vertices) == len(solid.vertices) and found.notes == ()
    assert found.outer.volume_mm3 == pytest.approx(solid.volume, rel=1e-6)


def test_corners_of_an_obj_are_counted_from_one(tmp_path: Path) -> None:
    file = tmp_path / "b.obj"
    corners = "".join(f"v {x} {y} {z}\n" for x in (0, 60) for y in (0, 12) for z in (0, 14))
    faces = np.array([[1, 2, 4, 3], [5, 7, 8, 6], [1, 5, 6, 2], [3, 4, 8, 7], [1, 3, 7, 5], [2, 6, 8, 4]])
    for less, back in ((0, False), (1, True), (9, False)):
        file.write_text(corners + "".join(f"f {' '.join(map(str, one - less))}\n" for one in faces))
        if back:
            with pytest.raises(BadMesh, match="names corner 0, and an OBJ counts from 1"):
                read_solid(file, "mm")
        else:  # from the last one backwards is another way to count
            assert read_solid(file, "mm").outer.volume_mm3 == pytest.approx(60 * 12 * 14)
    file.write_text(corners + "vt 0 0\nvt 1 0\n" + "".join(f"f {' '.join(f'{k}/1' for k in one)}\n" for one in faces))
    assert read_solid(file, "mm").outer.volume_mm3 == pytest.approx(60 * 12 * 14)


@pytest.mark.parametrize("suffix", [".stl", ".obj", ".ply"])
def test_a_file_that_may_not_be_opened_says_so(tmp_path: Path, monkeypatch: pytest.MonkeyPatch, suffix: str) -> None:
    file = tmp_path / f"b{suffix}"
    ball(9.0, 1).export(file)

    def shut(*_: object, **__: object) -> None:
        raise PermissionError(13, "Permission denied")

    for name in ("io.open", "builtins.open"):
        monkeypatch.setattr(name, shut)
    with pytest.raises(BadMesh, match="cannot be read as a"):
        read_solid(file, "mm")


@pytest.mark.parametrize(
    ("by", "words"), [(-1, "as long as 319.98"), (-5000, "as long as 220"), (4, "as long as 320.08")]
)
def test_a_binary_stl_that_is_cut_off_or_runs_on_says_so(tmp_path: Path, by: int, words: str) -> None:
    file = tmp_path / "b.stl"
    for head in (b"", b"solid lure "):  # some programs write so into binary files too
        whole = ball(9.0, 2).export(file_type="stl")
        whole = head + whole[len(head) :]
        file.write_bytes(whole)
        assert read_solid(file, "mm").outer.volume_mm3 == pytest.approx(ball(9.0, 2).volume, rel=1e-5)
        file.write_bytes(whole[:by] if by < 0 else whole + bytes(by))
        with pytest.raises(BadMesh, match=f"says that 320 triangles are in it and is {words}: it is cut off"):
            read_solid(file, "mm")


@pytest.mark.parametrize("wound", ["out", "in"])
def test_a_closed_space_is_asked_about(wound: str) -> None:
    outer, inner = ball(12.0), ball(7.0, at=(1, 0, 0))
    soup = (outer, inverted(inner) if wound == "in" else inner)
    with pytest.raises(BadMesh, match=r"closed space of 1\.4\d mL .*air .*water .*filled"):
        taken(*soup)
    filled = taken(*soup, inside="filled")
    assert filled.cavity is None
    for inside in ("air", "water"):
        found = taken(*soup, inside=inside)
        assert found.outer.volume_mm3 == pytest.approx(outer.volume, rel=1e-9)
        assert found.cavity is not None
        assert found.cavity.volume_mm3 == pytest.approx(inner.volume, rel=1e-9)


def test_what_is_loose_in_the_space_is_solid_again() -> None:
    found = taken(ball(12.0), ball(8.0), ball(3.0), inside="air")
    assert found.cavity is not None
    assert found.cavity.volume_mm3 == pytest.approx(ball(8.0).volume - ball(3.0).volume, rel=1e-9)


def test_air_inside_keeps_the_water_out_and_water_does_not(tmp_path: Path) -> None:
    trimesh.util.concatenate([ball(12.0), inverted(ball(10.0))]).export(tmp_path / "hollow.stl")
    shell, space = (ball(12.0).volume - ball(10.0).volume), ball(10.0).volume
    figures = {}
    for inside, displaced in (("air", shell + space), ("water", shell), ("filled", shell + space)):
        out = tmp_path / f"{inside}.ybob"
        ask = ["solid", str(tmp_path / "hollow.stl"), "--unit", "mm", "--density", "0.9", "--inside", inside]
        with pytest.raises(SystemExit) as ended:
            main([*ask, "-o", str(out)])
        assert ended.value.code == 0
        study = Study(read_design(out))
        assert of.hull(study).volume_mm3 == pytest.approx(displaced, rel=1e-6)
        figures[inside] = of.slip(study).finished.mass_g
    assert figures["air"] == figures["water"] == pytest.approx(0.9e-3 * shell, rel=1e-6)
    assert figures["filled"] == pytest.approx(0.9e-3 * (shell + space), rel=1e-6)


@pytest.mark.parametrize("beyond", [0.2, 0.45, 0.8])
def test_a_bow_tie_is_refused_with_the_place(beyond: float) -> None:
    """A bar whose sides change places on the way: it closes, and its far part lies inside out."""
    corners = np.array([[0, -4, -4], [0, 4, -4], [0, 4, 4], [0, -4, 4]], float)
    vertices = np.vstack([corners, corners * [1, -beyond, 1] + [20, 0, 0]])
    faces = [[0, 2, 1], [0, 3, 2], [4, 5, 6], [4, 6, 7]]
    for k in range(4):
        n = (k + 1) % 4
        faces += [[k, n, 4 + n], [k, 4 + n, 4 + k]]
    with pytest.raises(BadMesh, match=r"crosses itself at about x \d+\."):
        closed_solid(vertices, np.array(faces), "tie.stl")


def test_two_pyramids_tip_to_tip_are_solid() -> None:
    corners = np.array([[0, -4, -4], [0, 4, -4], [0, 4, 4], [0, -4, 4]], float)
    vertices = np.vstack([corners, [[10, 0, 0]], corners + [20, 0, 0]])
    faces = [[0, 2, 1], [0, 3, 2], [5, 6, 7], [5, 7, 8]]
    faces += [[k, (k + 1) % 4, 4] for k in range(4)] + [[4, 5 + (k + 1) % 4, 5 + k] for k in range(4)]
    assert closed_solid(vertices, np.array(faces), "tips.stl").outer.volume_mm3 == pytest.approx(2 * 64 * 10 / 3)


def test_a_flat_sheet_and_edges_of_three_are_refused() -> None:
    flat = box(10, 8, 6)
    flat.vertices[:, 2] = 0.0
    with pytest.raises(BadMesh):
        taken(flat)
    one = box(10, 8, 6)
    fin = np.vstack([one.faces, [[0, 1, 8]]])
    with pytest.raises(BadMesh, match="open edge"):
        closed_solid(np.vstack([one.vertices, [[0, 0, 30]]]), fin, "fin.stl")


@pytest.mark.parametrize("triangles", [400, 3000])
def test_made_lighter_it_keeps_its_length_and_volume(triangles: int) -> None:
    """An ellipsoid of 80,000 triangles, 100 mm long."""
    solid = mesh_of(ball(1.0, 6))
    solid = solid.moved(np.diag([50.0, 9.0, 12.0]))
    thin = lighter(solid, triangles)
    assert len(thin.faces) < len(solid.faces) / 10
    assert thin.volume_mm3 == pytest.approx(solid.volume_mm3, rel=1e-9)
    assert np.ptp(thin.bounds[:, 0]) == pytest.approx(np.ptp(solid.bounds[:, 0]), rel=1e-9)
    assert np.ptp(thin.bounds, axis=0) == pytest.approx(np.ptp(solid.bounds, axis=0), rel=16.0 / triangles)


def test_units_and_files_that_are_none(tmp_path: Path) -> None:
    with pytest.raises(BadMesh, match=r"no triangles|cannot be read"):
        (tmp_path / "none.obj").write_text("v 0 0 0\n")
        read_solid(tmp_path / "none.obj", "mm")


@pytest.mark.parametrize(
    ("stated", "unit", "size"), [("inch", "in", 25.4), ("centimeter", "cm", 10.0), ("meter", "m", 1000.0)]
)
def test_a_file_that_says_its_unit_is_read_in_that_or_not_at_all(
    tmp_path: Path, stated: str, unit: str, size: float
) -> None:
    plain, file = tmp_path / "plain.3mf", tmp_path / "b.3mf"
    box(*(np.array([40.0, 12.0, 9.0]) / size)).export(plain)
    with zipfile.ZipFile(plain) as given, zipfile.ZipFile(file, "w") as made:
        for name in given.namelist():
            made.writestr(name, given.read(name).replace(b'unit="millimeter"', f'unit="{stated}"'.encode()))
    assert read_solid(file, unit).outer.volume_mm3 == pytest.approx(40.0 * 12.0 * 9.0, rel=1e-4)
    for wrong in {"mm", "cm", "in", "m"} - {unit}:
        with pytest.raises(BadInput, match=f"its unit is the {stated}; give --unit {unit}"):
            read_solid(file, wrong)
    for old, new in ((b'type="model"', b'type="support"'), (b"<item ", b'<item printable="0" ')):
        with zipfile.ZipFile(plain) as given, zipfile.ZipFile(file, "w") as made:
            for name in given.namelist():
                assert not name.endswith("model") or old in given.read(name)
                made.writestr(name, given.read(name).replace(old, new))
        with pytest.raises(BadMesh, match="export the body alone"):
            read_solid(file, "mm")
    foot = tmp_path / "f.3mf"
    with zipfile.ZipFile(plain) as given, zipfile.ZipFile(foot, "w") as made:
        for name in given.namelist():
            made.writestr(name, given.read(name).replace(b'unit="millimeter"', b'unit="foot"'))
    with pytest.raises(BadInput, match="export it in mm"):
        read_solid(foot, unit)

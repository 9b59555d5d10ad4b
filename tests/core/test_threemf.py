"""3MF files: everything that is built, placed as the file says; what cannot be read rightly is refused."""

from __future__ import annotations

import re
import zipfile
from pathlib import Path

import numpy as np
import pytest
import trimesh

from yellowbob.ground.errors import BadInput, BadMesh
from yellowbob.lines.importing import read_solid
from yellowbob.lines.threemf import read_3mf

LONG, WIDE, HIGH = 100.0, 20.0, 16.0
FORMS = "http://x/3dmanufacturing/"
BOX = trimesh.creation.box((LONG, WIDE, HIGH))
SMALL = trimesh.creation.box((10.0, 10.0, 10.0))
VOLUME, LITTLE = LONG * WIDE * HIGH, 1000.0
ROOT = "3D/3dmodel.model"
OTHER = "3D/parts/one.model"
PATHS = f'xmlns:p="{FORMS}production/2015/06" requiredextensions="p"'
HALF = "0.5 0 0 0 0.5 0 0 0 0.5 7 8 9"


def mesh(number: int, made: trimesh.Trimesh, more: str = "", inner: str = "") -> str:
    corners = "".join(f'<vertex x="{x}" y="{y}" z="{z}"/>' for x, y, z in made.vertices)
    faces = "".join(f'<triangle v1="{a}" v2="{b}" v3="{c}"/>' for a, b, c in made.faces)
    return (
        f'<object id="{number}" {more}><mesh><vertices>{corners}</vertices><triangles>{faces}</triangles>'
        f"{inner}</mesh></object>"
    )


def group(number: int, *parts: str) -> str:
    return (
        f'<object id="{number}"><components>{"".join(f"<component {part}/>" for part in parts)}</components></object>'
    )


def model(objects: str, build: str, head: str = 'unit="millimeter"') -> str:
    return f'<model xmlns="{FORMS}core/2015/02" {head}><resources>{objects}</resources><build>{build}</build></model>'


def packed(tmp_path: Path, root: str, more: dict[str, str] | None = None, packing: int = zipfile.ZIP_DEFLATED) -> Path:
    file = tmp_path / "b.3mf"
    with zipfile.ZipFile(file, "w", packing) as made:
        made.writestr("_rels/.rels", f'<r><Relationship Target="/{ROOT}" Type="http://x/3dmodel"/></r>')
        for name, text in {ROOT: root, **(more or {})}.items():
            made.writestr(name, text)
    return file


WHOLE = mesh(1, BOX)
CASES: dict[str, tuple[str, dict[str, str], float]] = {
    "no unit": (model(WHOLE, '<item objectid="1"/>', ""), {}, VOLUME),
    "not all is built": (model(WHOLE + mesh(2, SMALL), '<item objectid="1"/>'), {}, VOLUME),
    "scaled": (model(WHOLE, f'<item objectid="1" transform="{HALF}"/>'), {}, VOLUME / 8),
    "mirrored": (model(WHOLE, '<item objectid="1" transform="-1 0 0 0 1 0 0 0 1 3 0 0"/>'), {}, VOLUME),
    "apart": (model(WHOLE, '<item objectid="1"/><item objectid="1" transform="1 0 0 0 1 0 0 0 1 200 0 0"/>'), {},
              2 * VOLUME),
    "put together": (
        model(WHOLE + mesh(2, SMALL) + group(3, 'objectid="1"', 'objectid="2" transform="1 0 0 0 1 0 0 0 1 90 0 0"'),
              f'<item objectid="3" transform="{HALF}"/>'), {}, (VOLUME + LITTLE) / 8),
    "in another part": (model("", f'<item objectid="1" p:path="/{OTHER}"/>', PATHS), {OTHER: model(WHOLE, "")}, VOLUME),
    "its number used twice": (
        model(mesh(1, SMALL) + group(2, f'objectid="1" p:path="/{OTHER}"'), '<item objectid="2"/>', PATHS),
        {OTHER: model(WHOLE + mesh(7, SMALL), "")}, VOLUME),
    "its own number again": (
        model(group(1, f'objectid="1" p:path="/{OTHER}" transform="{HALF}"'), '<item objectid="1"/>', PATHS),
        {OTHER: model(WHOLE, '<item objectid="1"/>')}, VOLUME / 8),
    "notes on printing": (model(WHOLE, '<item objectid="1"/>'),
                          {"Metadata/a.config": '<part id="1" subtype="normal_part"/>'}, VOLUME),
}  # fmt: skip


@pytest.mark.parametrize("case", sorted(CASES))
def test_what_is_built_is_read_as_it_is_placed(case: str, tmp_path: Path) -> None:
    root, more, volume = CASES[case]
    found = read_solid(packed(tmp_path, root, more), "mm")
    assert found.outer.volume_mm3 == pytest.approx(volume, rel=1e-9)


def test_nested_transforms_multiply_as_rows(tmp_path: Path) -> None:
    dice = np.random.default_rng(3)
    for _ in range(5):
        one, two, three = (dice.normal(size=(4, 3)) for _ in range(3))
        text = [" ".join(repr(float(v)) for v in m.ravel()) for m in (one, two, three)]
        objects = (
            WHOLE + group(2, f'objectid="1" transform="{text[0]}"') + group(3, f'objectid="2" transform="{text[1]}"')
        )
        corners, faces, unit = read_3mf(
            packed(tmp_path, model(objects, f'<item objectid="3" transform="{text[2]}"/>', 'unit="inch"'))
        )
        wanted = np.asarray(BOX.vertices)
        for matrix in (one, two, three):
            wanted = wanted @ matrix[:3] + matrix[3]
        assert np.allclose(corners, wanted) and unit == "inch" and len(faces) == 12
        turned = np.einsum("ij,ij->i", corners[faces[:, 0]], np.cross(corners[faces[:, 1]], corners[faces[:, 2]])).sum()
        assert turned / 6 == pytest.approx(VOLUME * abs(np.prod([np.linalg.det(m[:3]) for m in (one, two, three)])))


LATTICE = '<b:beamlattice radius="2"><b:beams><b:beam v1="0" v2="6"/></b:beams></b:beamlattice>'
BEAMS = f'xmlns:b="{FORMS}beamlattice/2017/02"'
ITEM = '<item objectid="1"/>'
REFUSED: dict[str, tuple[str, dict[str, str], str]] = {
    "lattice": (model(mesh(1, BOX, "", LATTICE), ITEM, BEAMS), {}, "not only triangles"),
    "needs what is not read": (model(WHOLE, ITEM, 'xmlns:v="http://x/y" requiredextensions="v"'), {}, "what only"),
    "support": (model(mesh(1, BOX, 'type="support"'), ITEM), {}, "supports"),
    "support beside": (
        model(WHOLE + mesh(2, SMALL, 'type="solidsupport"') + group(3, 'objectid="1"', 'objectid="2"'),
              '<item objectid="3"/>'), {}, "supports"),
    "not printed": (model(WHOLE, '<item objectid="1" printable="0"/>'), {}, "not to be printed"),
    "taken off": (model(WHOLE, ITEM), {"Metadata/m.config": '<part id="2" subtype="negative_part"/>'}, "taken off"),
    "changes the print": (model(WHOLE, ITEM),
                          {"Metadata/m.config": '<m key="volume_type" value="ParameterModifier"/>'}, "taken off"),
    "changes it": (model(WHOLE, ITEM), {"Metadata/m.config": '<m key="modifier" value="1"/>'}, "taken off"),
    "not there": (model(WHOLE, '<item objectid="4"/>'), {}, "object 4, which is not in it"),
    "part not there": (model("", f'<item objectid="1" p:path="/{OTHER}"/>', PATHS), {}, "object 1, which is not in it"),
    "in circles": (model(group(1, 'objectid="1"'), ITEM), {}, "in circles"),
    "units": (model(group(2, f'objectid="1" p:path="/{OTHER}"'), '<item objectid="2"/>', PATHS),
              {OTHER: model(WHOLE, "", 'unit="inch"')}, "several units"),
    "eleven numbers": (model(WHOLE, '<item objectid="1" transform="1 0 0 0 1 0 0 0 1 0 0"/>'), {}, "twelve numbers"),
    "no number": (model(WHOLE.replace('x="50.0"', 'x="far"', 1), ITEM), {}, "cannot be read"),
    "nan": (model(WHOLE.replace('x="50.0"', 'x="nan"', 1), ITEM), {}, "not a number"),
    "no corner": (model(WHOLE.replace('v1="1"', 'v1="11"', 1), ITEM), {}, "a corner that is not there"),
    "before the first": (model(WHOLE.replace('v1="1"', 'v1="-1"', 1), ITEM), {}, "a corner that is not there"),
    "nothing built": (model(WHOLE, ""), {}, "no triangles"),
    "cut short": (model(WHOLE, ITEM)[:-40], {}, "cannot be read"),
}  # fmt: skip


@pytest.mark.parametrize("case", sorted(REFUSED))
def test_what_is_not_read_rightly_is_refused(case: str, tmp_path: Path) -> None:
    root, more, words = REFUSED[case]
    with pytest.raises(BadMesh, match=re.escape(words)):
        read_solid(packed(tmp_path, root, more), "mm")


@pytest.mark.parametrize("packing", [zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED, zipfile.ZIP_LZMA])
def test_any_broken_file_is_refused(tmp_path: Path, packing: int) -> None:
    whole, dice = packed(tmp_path, model(WHOLE, ITEM), packing=packing).read_bytes(), np.random.default_rng(8)
    file = tmp_path / "c.3mf"
    for _ in range(200):
        broken = bytearray(whole)
        for at in dice.integers(0, len(whole), dice.integers(1, 12)):
            broken[at] = dice.integers(0, 256)
        file.write_bytes(bytes(broken[: dice.integers(1, len(whole) + 1)] if dice.random() < 0.3 else broken))
        try:
            assert read_solid(file, "mm").outer.volume_mm3 > 0.0
        except BadInput:
            continue
    file.write_bytes(b"PK" + bytes(50))
    with pytest.raises(BadMesh, match="cannot be read as a 3MF"):
        read_solid(file, "mm")

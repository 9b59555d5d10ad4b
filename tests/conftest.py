"""Shared: plain bodies to float, demo designs, and user folders of their own so that no test touches the maker's."""

from __future__ import annotations

import os
from pathlib import Path

import numpy as np
import pytest
import trimesh

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from yellowbob.afloat.rest import Afloat
from yellowbob.checks.registry import CHECKS
from yellowbob.checks.verdict import Verdict
from yellowbob.cli import patience
from yellowbob.design.files import read_design
from yellowbob.design.migrations import from_1
from yellowbob.design.model import Design
from yellowbob.lines.mesh import Mesh
from yellowbob.study import Study

DEMO = Path(__file__).parent.parent / "src" / "yellowbob" / "demo"


@pytest.fixture(autouse=True)
def own_folders(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Settings, state and data go to a scratch place; the compile cache alone stays the user's."""
    for name in ("CONFIG", "STATE", "DATA", "CACHE"):
        monkeypatch.setenv(f"XDG_{name}_HOME", str(tmp_path / name.lower()))
    monkeypatch.delenv("YELLOW_BOB_WORKSHOP", raising=False)


@pytest.fixture(autouse=True)
def nothing_is_said_of_waiting(monkeypatch: pytest.MonkeyPatch) -> None:
    """What a command prints depends on the machine's speed in the tests that are about waiting only; those set this anew."""
    monkeypatch.setattr(patience, "QUIET_S", float("inf"))


SOLVED: dict[str, Study] = {}
"""By the names of designs what windows and commands before have worked out: it holds as long as the design is the same."""


def solved(design: Design) -> Study:
    """A study of a design that takes over what is known of it."""
    SOLVED[design.name] = study = Study(design, SOLVED.get(design.name))
    return study


@pytest.fixture(autouse=True)
def demos_are_solved_once(monkeypatch: pytest.MonkeyPatch) -> None:
    """Commands take over what commands before them have worked out of the same design."""
    monkeypatch.setattr("yellowbob.cli.options.begun", solved)


def mesh_of(shape: trimesh.Trimesh) -> Mesh:
    return Mesh(np.array(shape.vertices, dtype=float), np.array(shape.faces, dtype=np.int32))


def float_solid(mesh: Mesh, relative_density: float, centre: object = None, water: float = 0.001) -> Afloat:
    """A solid of a density relative to its water, its weight at the centroid unless told otherwise."""
    at = mesh.moments.centroid_mm if centre is None else np.asarray(centre, dtype=float)
    mass = relative_density * water * mesh.volume_mm3
    return Afloat(mesh, mass, (float(at[0]), float(at[1]), float(at[2])), water)


def exact_cylinder(radius: float, height: float, sides: int = 128) -> Mesh:
    """An upright cylinder about z whose volume error is removed."""
    mesh = mesh_of(trimesh.creation.cylinder(radius=1.0, height=height, sections=sides))
    swell = np.sqrt(2 * np.pi / (sides * np.sin(2 * np.pi / sides))) * radius
    return Mesh(mesh.vertices * [swell, swell, 1.0], mesh.faces)


def exact_sphere(radius: float, subdivisions: int = 4) -> Mesh:
    """A sphere whose volume error is removed."""
    mesh = mesh_of(trimesh.creation.icosphere(subdivisions=subdivisions, radius=1.0))
    return Mesh(mesh.vertices * radius * (4 / 3 * np.pi / mesh.volume_mm3) ** (1 / 3), mesh.faces)


def outline(*points: tuple[object, ...]) -> list[dict[str, object]]:
    """(x, y) or (x, y, bend) to outline points."""
    return [{"at_mm": (p[0], p[1]), "bend": p[2] if len(p) > 2 else "smooth"} for p in points]


def turned_design(*points: tuple[object, ...], density: float = 0.5, **more: object) -> Design:
    shape = {"kind": "turned", "profile": outline(*points)}
    return version_1({"name": "test", "body": {"material": "alder", "density_g_ml": density, "shape": shape}, **more})


def version_1(data: dict[str, object]) -> Design:
    """A design from the short form of the document's first version, through its migration."""
    return Design.model_validate({k: v for k, v in from_1(data).items() if k != "version"})


def verdict_of(study: Study, key: str) -> Verdict | None:
    """What one check says, alone: all of them take many times as long; None where it has nothing to say."""
    return CHECKS[key].verdict(study)


@pytest.fixture
def popper() -> Design:
    return read_design(DEMO / "sallow-74.ybob")


@pytest.fixture(params=sorted(f.stem for f in DEMO.glob("*.ybob")))
def demo_design(request: pytest.FixtureRequest) -> Design:
    return read_design(DEMO / f"{request.param}.ybob")

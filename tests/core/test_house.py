"""The house rules: imports run only downward and in no circle, no interface code below the app, nothing outgrows itself."""

from __future__ import annotations

import ast
import re
import subprocess
import sys
from pathlib import Path

import pytest

SOURCE = Path(__file__).parent.parent.parent / "src" / "yellowbob"
ROOMS = (
    "app", "cli", "reports", "shop", "trials", "checks", "study", "logbook", "action", "fitout", "ballast", "afloat",
    "weights", "lines", "shelf", "workshop", "devices", "design", "ground",
)  # fmt: skip
"""From the roof down: a room may import from those behind it in this list."""
DOOR = "__main__"
"""The front door stands above all rooms: it knows the command line and the window."""
WHOLE_FOR_THE_COMPILER = {
    "rates",
    "follow",
    "find_rests",
    "settle_many",
    "to_triangles",
    "descend",
    "attitude",
    "immerse",
}
"""Kernels that the compiler needs whole; everything else is cut where it changes subject."""

FILES = sorted(SOURCE.rglob("*.py"))


def module(file: Path) -> str:
    parts = file.relative_to(SOURCE).with_suffix("").parts
    return ".".join(("yellowbob", *parts)).removesuffix(".__init__")


def room(name: str) -> str:
    parts = name.split(".")
    return parts[1] if len(parts) > 1 else "yellowbob"


MODULES = {module(f): f for f in FILES}


def imported(file: Path, late: bool = True) -> set[str]:
    """Modules of the house that a file imports; without `late`, only those it needs to be imported itself."""
    tree = ast.parse(file.read_text(encoding="utf-8"))
    skipped: set[int] = set()
    if not late:
        for node in ast.walk(tree):
            inside = isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef | ast.Lambda)
            typed = isinstance(node, ast.If) and "TYPE_CHECKING" in ast.unparse(node.test)
            if inside or typed:
                skipped |= {id(n) for n in ast.walk(node)}
    found = set()
    for node in ast.walk(tree):
        if id(node) in skipped:
            continue
        if isinstance(node, ast.ImportFrom) and node.module and node.module.split(".")[0] == "yellowbob":
            inner = {f"{node.module}.{a.name}" for a in node.names} & set(MODULES)
            found |= inner or {node.module}
        elif isinstance(node, ast.Import):
            found |= {a.name for a in node.names if a.name.split(".")[0] == "yellowbob"}
    return found


@pytest.mark.parametrize("file", FILES, ids=lambda f: str(f.relative_to(SOURCE)))
def test_imports_run_only_downward(file: Path) -> None:
    here = room(module(file))
    if here in (DOOR, "yellowbob"):
        return
    below = set(ROOMS[ROOMS.index(here) :])
    assert {room(name) for name in imported(file)} - {"yellowbob"} <= below


def test_no_circle_is_left_inside_a_room_neither() -> None:
    arrows = {name: imported(file) & set(MODULES) for name, file in MODULES.items()}
    done: set[str] = set()

    def walk(name: str, way: tuple[str, ...]) -> None:
        assert name not in way, " -> ".join((*way[way.index(name) :], name))
        if name not in done:
            for other in sorted(arrows[name]):
                walk(other, (*way, name))
            done.add(name)

    for name in sorted(arrows):
        walk(name, ())


def test_the_core_runs_without_qt() -> None:
    modules = [name for name in MODULES if room(name) not in ("app", DOOR)]
    code = (
        "import sys\nsys.modules['PySide6'] = None\nimport importlib\n"
        f"for name in {modules!r}:\n    importlib.import_module(name)\n"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
    assert done.returncode == 0, done.stderr[-2000:]


def test_the_commands_are_listed_without_what_they_work_with() -> None:
    """Half a second to several of waiting, on every call of every command."""
    heavy = ("numpy", "scipy", "numba", "cv2", "sqlalchemy", "PySide6", "yellowbob.design.model", "yellowbob.study")
    code = f"import sys, yellowbob.cli.main\nprint([name for name in {heavy!r} if name in sys.modules])"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
    assert done.stdout.strip() == "[]", done.stdout + done.stderr[-2000:]


def test_modules_stay_small() -> None:
    long = {str(f.relative_to(SOURCE)): n for f in FILES if (n := len(f.read_text().splitlines())) > 300}
    assert not long


def test_functions_stay_small_but_for_the_kernels() -> None:
    long = {
        f"{file.relative_to(SOURCE)}:{node.name}": lines
        for file in FILES
        for node in ast.walk(ast.parse(file.read_text(encoding="utf-8")))
        if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef)
        and (lines := (node.end_lineno or 0) - node.lineno + 1) > 60
        and node.name not in WHOLE_FOR_THE_COMPILER
    }
    assert not long


def test_every_public_function_of_the_core_says_what_it_is() -> None:
    bare = []
    for file in FILES:
        if room(module(file)) in ("app", DOOR):
            continue
        for node in ast.parse(file.read_text(encoding="utf-8")).body:
            public = isinstance(node, ast.ClassDef) and not node.name.startswith("_")
            things = [node, *(node.body if public else [])]
            for thing in things:
                if not isinstance(thing, ast.FunctionDef | ast.ClassDef) or thing.name.startswith("_"):
                    continue
                entered = any(ast.unparse(d).startswith("check(") for d in thing.decorator_list)
                if not entered and not ast.get_docstring(thing):
                    bare.append(f"{file.relative_to(SOURCE)}:{thing.name}")
    assert not bare


def test_no_lambda_hangs_on_the_session() -> None:
    """It would be called when its widget is gone; a bound method is let go of with the widget."""
    hung = re.compile(r"session(?:\.\w+)?\.\w+\.connect\(\s*lambda")
    found = [str(f.relative_to(SOURCE)) for f in FILES if hung.search(f.read_text())]
    assert not found
    assert hung.search("session.arrived.connect(lambda asked: None)")
    assert hung.search("self.session.timers.changed.connect(\n    lambda: None)")


def test_a_figure_with_its_sign_is_never_minus_nothing() -> None:
    """Python writes −0.04 as `-0.0` with `:+.1f`, as `+0.0` with `:+z.1f`."""
    bare = re.compile(r"\{[^{}]*:\+\d*\.\d+f\}")
    wrong = [
        f"{p.name}: {m}" for p in sorted(SOURCE.rglob("*.py")) for m in bare.findall(p.read_text(encoding="utf-8"))
    ]
    assert not wrong

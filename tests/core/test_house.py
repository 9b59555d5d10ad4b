"""The house rules: imports run only downward, no interface code below the app, nothing forbidden in the text."""

from __future__ import annotations

import ast
import subprocess
import sys
from pathlib import Path

import pytest

SOURCE = Path(__file__).parent.parent.parent / "src" / "yellowbob"
GROUND = {"errors", "constants", "compiled", "quantities", "water", "yellowbob"}
MAY = {
    "design": set(), "shelf": {"design"}, "lines": {"design"}, "weights": {"lines", "shelf", "design"},
    "fitout": {"weights", "lines", "shelf", "design"}, "devices": set(), "output": set(),
    "afloat": {"weights", "lines"}, "ballast": {"afloat", "weights", "lines", "shelf", "design"},
    "action": {"afloat", "weights", "lines", "design"}, "logbook": {"design", "shelf"},
    "study": {"fitout", "ballast", "action", "afloat", "weights", "lines", "shelf", "design"},
    "checks": {"study", "fitout", "ballast", "action", "logbook", "afloat", "weights", "lines", "shelf", "design"},
    "shop": {"study", "checks", "fitout", "ballast", "action", "logbook", "afloat", "weights", "lines", "shelf", "design"},
    "report": {"study", "checks", "shop", "fitout", "ballast", "action", "afloat", "weights", "lines", "shelf", "design"},
}  # fmt: skip
MAY["ladder"] = MAY["tuning"] = MAY["checks"]
MAY["tank_report"] = {*MAY["report"], "report", "tuning"}
COMMANDS = {"cli_open", "cli_lines", "cli_shelf", "cli_fitout", "cli_tank", "cli_ballast"}
for _commands in sorted(COMMANDS):
    MAY[_commands] = {*MAY} - COMMANDS | {"cli_open"} | ({"cli_tank"} if _commands == "cli_ballast" else set())
MAY["cli"] = {*MAY, "app"}
MAY["app"] = set(MAY) - {"cli", *COMMANDS}


def room(file: Path) -> str:
    part = file.relative_to(SOURCE).parts[0]
    return part.removesuffix(".py") if part != "__init__.py" else "yellowbob"


def imported_rooms(file: Path) -> set[str]:
    found = set()
    for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
        names = [node.module] if isinstance(node, ast.ImportFrom) and node.module else []
        names += [a.name for a in node.names] if isinstance(node, ast.Import) else []
        for name in names:
            parts = name.split(".")
            if parts[0] == "yellowbob":
                found.add(parts[1] if len(parts) > 1 else "yellowbob")
    return found


FILES = sorted(SOURCE.rglob("*.py"))


@pytest.mark.parametrize("file", FILES, ids=lambda f: str(f.relative_to(SOURCE)))
def test_imports_run_only_downward(file: Path) -> None:
    here = room(file)
    allowed = MAY.get(here, set()) | GROUND | {here}
    assert imported_rooms(file) <= allowed


def test_the_core_runs_without_qt() -> None:
    modules = [
        ".".join(("yellowbob", *f.relative_to(SOURCE).with_suffix("").parts)).removesuffix(".__init__")
        for f in FILES
        if room(f) != "app"
    ]
    code = (
        "import sys\nsys.modules['PySide6'] = None\nimport importlib\n"
        f"for name in {modules!r}:\n    importlib.import_module(name)\n"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
    assert done.returncode == 0, done.stderr[-2000:]


def test_modules_stay_small() -> None:
    long = {str(f.relative_to(SOURCE)): n for f in FILES if (n := len(f.read_text().splitlines())) > 350}
    assert not long

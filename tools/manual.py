"""The man page and the shells' completions, out of the command table. Usage: manual.py FOLDER"""

from __future__ import annotations

import re
import sys
from pathlib import Path
from typing import Any

import typer

from yellowbob import __version__
from yellowbob.app.commands import app

SHELLS = {"bash": "bash-completion/completions/yellow-bob", "zsh": "zsh/site-functions/_yellow-bob",
          "fish": "fish/vendor_completions.d/yellow-bob.fish"}  # fmt: skip


def commands(group: Any, before: str = "") -> list[tuple[str, Any]]:
    """Every command with its words, those of groups after the group's."""
    found = []
    for name, one in sorted(group.commands.items()):
        called = f"{before}{name}"
        found += commands(one, f"{called} ") if hasattr(one, "commands") else [(called, one)]
    return found


def escaped(text: str) -> str:
    """Text for troff."""
    return text.replace("\\", "\\\\").replace("-", "\\-").replace("\n", " ").strip()


def page() -> str:
    """The man page."""
    lines = [
        f'.TH YELLOW-BOB 1 "" "Yellow Bob {__version__}" "User Commands"', ".SH NAME",
        "yellow\\-bob \\- a workbench for surface lures and fishing floats", ".SH SYNOPSIS",
        ".B yellow\\-bob", "[\\fICOMMAND\\fR] [\\fIOPTIONS\\fR]", ".SH DESCRIPTION",
        "Without a command the window opens on the last design. Each command takes \\-\\-json. Bad input ends with",
        "exit code 2 and one line that says what, where and what to do.", ".SH COMMANDS",
    ]  # fmt: skip
    for called, one in commands(typer.main.get_command(app)):
        lines += [".TP", f".B {escaped(called)}", escaped(one.help or "")]
        for option in one.params:
            names = ", ".join(option.opts) if option.param_type_name == "option" else option.name.upper()
            told = getattr(option, "help", "") or ""
            lines += [".RS", ".TP", f".I {escaped(names)}", escaped(told) or "\\&", ".RE"]
    lines += [
        ".SH FILES", ".TP", ".I ~/.local/share/yellow\\-bob/workshop.sqlite",
        "The log and the maker's own shelf; YELLOW_BOB_WORKSHOP names another.",
    ]  # fmt: skip
    return re.sub(r"[ \t]+\n", "\n", "\n".join(lines) + "\n")


def completion(shell: str) -> str:
    """What a shell completes the commands by."""
    from typer._completion_shared import get_completion_script

    return get_completion_script(prog_name="yellow-bob", complete_var="_YELLOW_BOB_COMPLETE", shell=shell)


def main(folder: Path) -> None:
    man = folder / "man" / "man1" / "yellow-bob.1"
    for path, text in ((man, page()), *((folder / place, completion(shell)) for shell, place in SHELLS.items())):
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text, encoding="utf-8")
        print(path)


if __name__ == "__main__":
    main(Path(sys.argv[1]))

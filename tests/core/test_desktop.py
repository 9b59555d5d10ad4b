"""At home on the desktop: entry, icon, metadata, type of file, man page and completions are there and current."""

from __future__ import annotations

import configparser
import runpy
import shutil
import subprocess
import tomllib
import xml.etree.ElementTree as ET
from pathlib import Path

import pytest
import typer

from tests.core.test_cli import run
from yellowbob import __version__
from yellowbob.app.commands import app

ROOT = Path(__file__).parents[2]
SHARE = ROOT / "share"
COMMANDS = set(typer.main.get_command(app).commands)  # type: ignore[attr-defined]


def test_what_is_installed_is_there() -> None:
    listed = tomllib.loads((ROOT / "pyproject.toml").read_text(encoding="utf-8"))["tool"]["setuptools"]["data-files"]
    for files in listed.values():
        assert files and all((ROOT / f).is_file() for f in files)
    there = {str(f.relative_to(ROOT)) for f in SHARE.rglob("*") if f.is_file()}
    assert there == {f for files in listed.values() for f in files}


def test_the_man_page_and_the_completions_are_those_of_the_commands() -> None:
    made = runpy.run_path(str(ROOT / "tools" / "manual.py"))
    page = (SHARE / "man" / "man1" / "yellow-bob.1").read_text(encoding="utf-8")
    assert page == made["page"](), "run make dist"
    for name in COMMANDS:
        assert f".B {made['escaped'](name)}" in page
    for shell, place in made["SHELLS"].items():
        assert "_YELLOW_BOB_COMPLETE" in made["completion"](shell) and (SHARE / place).is_file()


def test_the_entry_opens_a_file_of_its_type() -> None:
    entry = configparser.ConfigParser(interpolation=None)
    entry.read(SHARE / "applications" / "yellow-bob.desktop")
    told = entry["Desktop Entry"]
    mime = ET.parse(SHARE / "mime" / "packages" / "yellow-bob.xml").getroot()
    (kind,) = mime.iter("{http://www.freedesktop.org/standards/shared-mime-info}mime-type")
    (glob,) = mime.iter("{http://www.freedesktop.org/standards/shared-mime-info}glob")
    assert told["MimeType"] == f"{kind.get('type')};" and glob.get("pattern") == "*.ybob"
    assert told["Exec"] == "yellow-bob open %f" and "open" in COMMANDS
    icons = SHARE / "icons" / "hicolor" / "scalable"
    own = (ROOT / "src" / "yellowbob" / "app" / "icon" / "yellow-bob.svg").read_bytes()
    assert (icons / "apps" / f"{told['Icon']}.svg").read_bytes() == own
    assert (icons / "mimetypes" / "application-x-yellow-bob.svg").read_bytes() == own


def test_the_metadata_is_valid_by_its_own_checker() -> None:
    file = SHARE / "metainfo" / "yellow-bob.metainfo.xml"
    release = next(ET.parse(file).getroot().iter("release"))
    assert release.get("version") == __version__
    if shutil.which("appstreamcli") is None:
        pytest.skip("no appstreamcli on this machine")
    done = subprocess.run(
        ["appstreamcli", "validate", "--no-net", str(file)], capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stdout


def test_a_shell_completes_commands(monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]) -> None:
    monkeypatch.setenv("_YELLOW_BOB_COMPLETE", "complete_bash")
    monkeypatch.setenv("COMP_WORDS", "yellow-bob se")
    monkeypatch.setenv("COMP_CWORD", "1")
    assert run(capsys)[1].split() == ["seek"]
    monkeypatch.delenv("_YELLOW_BOB_COMPLETE")
    assert run(capsys, "--version")[1] == f"yellow-bob {__version__}\n"

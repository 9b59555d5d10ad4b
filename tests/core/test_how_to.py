"""What CONTRIBUTING says of adding things, tried: each touches as many places as it says."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
import typer
from typer.testing import CliRunner

from tests.conftest import turned_design
from yellowbob.checks.registry import verdicts
from yellowbob.checks.verdict import CHECKS, Finding, check
from yellowbob.cli.command import ENTERED, command
from yellowbob.cli.options import DesignFile, Json, study_of
from yellowbob.cli.output import print_json
from yellowbob.reports.contract import report_schemas
from yellowbob.study import Study, of
from yellowbob.study.engine import result


@pytest.fixture
def entered() -> Iterator[None]:
    """What a test enters is taken out again."""
    checks, commands = dict(CHECKS), dict(ENTERED)
    yield
    for table, before in ((CHECKS, checks), (ENTERED, commands)):
        table.clear()
        table.update(before)  # type: ignore[arg-type]


@result
def longest(study: Study) -> float:
    """Length of the outer surface, mm: a result is a function, entered in one place."""
    return float(of.outer(study).bounds[1, 0])


def test_a_result_is_one_function() -> None:
    one = Study(turned_design((0, 5), (40, 5)))
    assert longest(one) == pytest.approx(40.0)
    assert longest(Study(turned_design((0, 5), (40, 5)).but(name="b"), one)) == longest(one)


def test_a_check_is_one_function(entered: None) -> None:
    @check("short", "Short", "A body shorter than a thumb is hard to hold while it is carved.", "rule")
    def short(study: Study) -> Finding:
        return Finding("watch", f"{longest(study):.0f} mm", "Make it longer.")

    found = {v.key: v for v in verdicts(Study(turned_design((0, 5), (40, 5))))}
    assert found["short"].figure == "40 mm"


def test_a_command_is_one_function(entered: None, tmp_path: object) -> None:
    @command({"long_mm": float})
    def long_(file: DesignFile, as_json: Json = False) -> None:
        """How long it is."""
        print_json({"long_mm": longest(study_of(file))})

    app = typer.Typer()
    app.command()(ENTERED["long"].run)
    assert CliRunner().invoke(app, ["--help"]).exit_code == 0
    assert report_schemas({"long": ENTERED["long"].shape})["$defs"]["long"]["required"] == ["long_mm"]

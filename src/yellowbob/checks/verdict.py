"""What a check is and what it says; the table of all checks, in the order they are shown."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import nullcontext
from dataclasses import dataclass, replace
from typing import Any, Literal

from yellowbob.design.model import Design, SetAside
from yellowbob.ground.errors import BadInput
from yellowbob.study import NotYet, Result, Study

State = Literal["good", "watch", "failed", "unknown", "pending"]
"""`pending`: something slow is being worked out; the verdict is not there yet."""
Grade = Literal["exact", "textbook", "rule"]
NOTHING = "Nothing to do."
NONE_HERE = "Nothing here asks for it."


@dataclass(frozen=True)
class Verdict:
    """What one check says. `grade` tells how far to trust the figure: exact, textbook or rule.

    aside : the maker's reason for not heeding it; empty when it counts. awaits : the slow result a pending one waits for.
    """

    key: str
    title: str
    state: State
    figure: str
    why: str
    do: str
    grade: Grade = "exact"
    aside: str = ""
    awaits: Result[Any] | None = None

    @property
    def fails(self) -> bool:
        """Failed and not set aside."""
        return self.state == "failed" and not self.aside


@dataclass(frozen=True)
class Finding:
    """The part of a verdict that depends on the design."""

    state: State
    figure: str
    do: str = NOTHING


@dataclass(frozen=True)
class Check:
    """One named check: `find` gives None where the design has nothing it speaks of."""

    key: str
    title: str
    why: str
    grade: Grade
    find: Callable[[Study], Finding | None]

    def verdict(self, study: Study, wait: bool = True) -> Verdict | None:
        """What it says of a design; without `wait`, nothing slow is worked out: then it may be pending."""
        reason = next((a.reason for a in study.design.set_aside if a.check == self.key), "")
        try:
            with nullcontext() if wait else study.in_a_hurry():
                found = study.once(self.key, self.find)
        except NotYet as late:
            do = f"A moment: {late.asked.words}."
            return Verdict(
                self.key, self.title, "pending", "working it out", self.why, do, self.grade, reason, late.asked
            )
        if found is None:
            return None
        return Verdict(self.key, self.title, found.state, found.figure, self.why, found.do, self.grade, reason)


CHECKS: dict[str, Check] = {}


def check(
    key: str, title: str, why: str, grade: Grade = "exact"
) -> Callable[[Callable[[Study], Finding | None]], Callable[[Study], Finding | None]]:
    """Enter a function as a check under its key."""

    def enter(function: Callable[[Study], Finding | None]) -> Callable[[Study], Finding | None]:
        if key in CHECKS and CHECKS[key].find.__module__ != function.__module__:
            raise ValueError(f"two checks are called '{key}'")
        CHECKS[key] = Check(key, title, why, grade, function)
        return function

    return enter


def signed(value: float, decimals: int = 0) -> str:
    """A figure with the true minus sign."""
    text = f"{value:.{decimals}f}"
    return (text.lstrip("-") if float(text) == 0 else text).replace("-", "−")


def with_set_aside(design: Design, key: str, reason: str) -> Design:
    """The design with a check set aside for a reason. Raises BadInput for an unknown check or a reason too short."""
    if key not in CHECKS:
        raise BadInput(f"no check is called '{key}'; there are {', '.join(CHECKS)}")
    if len(reason.strip()) < 3:
        raise BadInput(f"why is '{CHECKS[key].title}' set aside? Give a reason; it is kept with the design")
    others = tuple(a for a in design.set_aside if a.check != key)
    return design.but(set_aside=(*others, SetAside(check=key, reason=reason.strip()[:400])))


def heeded_again(design: Design, key: str) -> Design:
    """The design with a check counted again."""
    return design.but(set_aside=tuple(a for a in design.set_aside if a.check != key))


def without_reason(verdict: Verdict) -> Verdict:
    """The verdict as if it had not been set aside."""
    return replace(verdict, aside="")

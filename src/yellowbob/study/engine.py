"""How results are worked out once and kept: plain functions that ask one another, over one immutable design.

A result is a function of a study, entered by `@result` (`@slow` where it takes longer than a hand is patient). What it
rests on is what it asks for while it works, down to the parts of the design it reads through `@drawn`. It is kept, also
by a study of the next design, as long as everything it asked for is the very same object.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from threading import local
from typing import Any, Generic, TypeVar

from yellowbob.design.model import Design
from yellowbob.ground.progress import go_on

T = TypeVar("T")
I = TypeVar("I")


AT_WORK: list[str] = []
"""What slow results are being worked out now, on whatever thread, in words; the innermost last."""


class NotYet(Exception):
    """Raised in a hurry, where something slow would have to be worked out first; `asked` says what."""

    def __init__(self, asked: Result[Any]) -> None:
        super().__init__(asked.words)
        self.asked = asked


@dataclass(frozen=True, eq=False)
class Result(Generic[T]):
    """One kind of result: call it with a study. `words` say what is being done where it is slow."""

    work: Callable[[Study], T]
    words: str = ""
    slow: bool = False
    leaf: bool = False
    recall: Callable[[Study], T | None] | None = None
    """finds it where it was put down at an earlier start, quickly; None when it was not"""

    def __call__(self, study: Study) -> T:
        return study.get(self)

    @property
    def name(self) -> str:
        """Of the function it is worked out by."""
        return self.work.__name__


def result(work: Callable[[Study], T]) -> Result[T]:
    """Enter a function as a result that is quick to work out."""
    return Result(work)


def slow(words: str, recall: Callable[[Study], Any] | None = None) -> Callable[[Callable[[Study], T]], Result[T]]:
    """Enter a function as a slow result; `words` say what is being done, as `looking for its rests`."""

    def enter(work: Callable[[Study], T]) -> Result[T]:
        return Result(work, words, slow=True, recall=recall)

    return enter


def drawn(read: Callable[[Design], T]) -> Result[T]:
    """Enter a part of the design (as it is believed to be built) that results rest on."""

    def work(study: Study) -> T:
        return read(study.build)

    work.__name__ = read.__name__
    return Result(work, leaf=True)


class _Doing(local):
    """What a thread is at in a study: the results being worked out, outermost first, and whether it is in a hurry."""

    def __init__(self) -> None:
        self.asking: list[list[tuple[Result[Any], Any]]] = []
        self.hurry = False


@dataclass(frozen=True, eq=False)
class _Kept:
    value: Any
    asked: tuple[tuple[Result[Any], Any], ...]


class Study:
    """The results of one design. `before` hands over whatever still holds from an earlier one.

    `design` is the drawing with its weighings; `build` is what is believed to lie on the bench: the drawing corrected by
    them. All results are of the build.
    """

    def __init__(self, design: Design, before: Study | None = None) -> None:
        self.design = design
        self._kept: dict[Result[Any], _Kept] = dict(before._kept) if before is not None else {}
        self._sure: dict[Result[Any], Any] = {}
        self._each: dict[str, tuple[tuple[Any, Any], ...]] = dict(before._each) if before is not None else {}
        self._once: dict[str, Any] = {}
        self._doing = _Doing()
        self._build: Design | None = None
        self._forecast: Study | None = None
        self._before = before if design.weighings else None

    believes: Callable[[Study], Design]
    """how a drawing with weighings becomes the build they make it out to be; entered by the room's evidence"""

    @property
    def forecast(self) -> Study:
        """The study of the drawing as if nothing had been weighed; this one where nothing was."""
        if not self.design.weighings:
            return self
        if self._forecast is None:
            before = self._before._forecast or self._before if self._before is not None else None
            self._forecast = Study(self.design.but(weighings=()), before)
        return self._forecast

    @property
    def build(self) -> Design:
        """The design as it is believed to be built; the drawing itself where nothing was weighed."""
        if not self.design.weighings:
            return self.design
        if self._build is None:
            self._build = Study.believes(self)
            self._before = None
        return self._build

    def each(self, name: str, items: tuple[I, ...], work: Callable[[I], T]) -> tuple[T, ...]:
        """`work` done for every item; what was done for an equal item before, under the same name, is taken over."""
        before = self._each.get(name, ())
        out: list[tuple[I, T]] = []
        for item in items:
            # two alike in one row of items are worked out once
            known = next((pair for pair in (*out, *before) if pair[0] is item or pair[0] == item), None)
            out.append(known if known is not None else (item, work(item)))
        self._each[name] = tuple(out)
        return tuple(value for _, value in out)

    def once(self, name: str, work: Callable[[Study], T]) -> T:
        """`work` of this very study, done once; unlike a result it is not handed on to the next one."""
        if name not in self._once:
            self._once[name] = work(self)
        found: T = self._once[name]
        return found

    def get(self, asked: Result[T]) -> T:
        """The value of a result, worked out when it is not kept. Raises NotYet in a hurry, and what its work raises."""
        if asked in self._sure:
            value: T = self._sure[asked]
        else:
            value = self._sure[asked] = self._found(asked)
        if self._doing.asking:
            self._doing.asking[-1].append((asked, value))
        return value

    def _found(self, asked: Result[T]) -> T:
        kept = self._kept.get(asked)
        if asked.leaf:
            fresh = asked.work(self)
            if kept is not None and (kept.value is fresh or kept.value == fresh):
                old: T = kept.value
                return old
            self._kept[asked] = _Kept(fresh, ())
            return fresh
        hurried = asked.slow and self._doing.hurry
        if hurried and asked.recall is None:
            if not self._is_kept(asked):
                raise NotYet(asked)
            value: T = self._sure[asked]
            return value
        if kept is not None and self._holds(kept):
            value = kept.value
            return value
        if hurried and asked.recall is not None and asked.recall(self) is None:
            raise NotYet(asked)
        go_on()
        self._doing.asking.append([])
        if asked.slow:
            AT_WORK.append(asked.words)
        try:
            value = asked.work(self)
        finally:
            rests_on = self._doing.asking.pop()
            if asked.slow:
                AT_WORK.remove(asked.words)
        self._kept[asked] = _Kept(value, tuple(dict(rests_on).items()))
        return value

    def _holds(self, kept: _Kept) -> bool:
        """Whether all that a kept value rests on is still the very same."""
        self._doing.asking.append([])
        try:
            return all(self.get(asked) is value for asked, value in kept.asked)
        finally:
            self._doing.asking.pop()

    @contextmanager
    def in_a_hurry(self) -> Iterator[None]:
        """While it lasts, nothing slow is worked out: asking for it raises NotYet."""
        before, self._doing.hurry = self._doing.hurry, True
        try:
            yield
        finally:
            self._doing.hurry = before

    def knows(self, asked: Result[Any]) -> bool:
        """Whether a result can be had without slow work.

        On the way to a slow one nothing is worked out but what is read of the design; to any other what it rests on that is
        quick.
        """
        try:
            with self.in_a_hurry():
                self.get(asked)
        except NotYet:
            return False
        return True

    def _is_kept(self, asked: Result[Any]) -> bool:
        """Whether a result is kept and still holds, for sure then; nothing is worked out to tell."""
        if asked.leaf and asked not in self._sure:
            self._sure[asked] = self._found(asked)
        if asked not in self._sure:
            kept = self._kept.get(asked)
            if kept is None or not all(self._is_kept(one) and self._sure[one] is value for one, value in kept.asked):
                return False
            self._sure[asked] = kept.value
        return True

    def apart(self) -> Study:
        """A study of the same design to be worked on elsewhere, such as on another thread; see `adopt`."""
        other = Study(self.design, self)
        other._build, other._forecast, other._before = self.build, self._forecast, None
        return other

    def adopt(self, other: Study) -> None:
        """Take over what another study worked out. Only what rests on this design's own is ever used."""
        for asked, kept in other._kept.items():
            if asked.leaf:  # what rests on it asks for the very same part again
                self._kept.setdefault(asked, kept)
            elif asked not in self._sure:
                self._kept[asked] = kept

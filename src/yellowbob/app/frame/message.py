"""The line under the header on which the window says what was done, or what is wrong."""

from __future__ import annotations

from yellowbob.app.widgets.theme import Look
from yellowbob.app.widgets.words import Words


class Says:
    """A window that has it."""

    message: Words
    _wrong = False

    def _make_message(self) -> None:
        self.message = Words()
        self.message.setContentsMargins(16, 6, 16, 6)
        self.message.setAccessibleName("Message")
        self.message.hide()

    def say(self, words: str, wrong: bool = False) -> None:
        """A line under the header; empty hides it."""
        self._wrong = wrong
        self.message.setText(f"! {words}" if wrong and words else words)
        self.message.setVisible(bool(words))
        self._dress_message()

    def say_wrong(self, words: str) -> None:
        """A line under the header that something is wrong."""
        self.say(words, wrong=True)

    def _dress_message(self) -> None:
        now = Look.now
        self.message.setStyleSheet(f"background: {now.card}; color: {now.bad if self._wrong else now.ink};")

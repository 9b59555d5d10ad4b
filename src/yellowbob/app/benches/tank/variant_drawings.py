"""What follows from a quantity swept, drawn."""

from __future__ import annotations

from yellowbob.app.widgets.charts import TwoScales
from yellowbob.trials.variants import SweepPoint


class SweepPlot(TwoScales):
    """Pitch and draft against the quantity swept, with a mark where the slider stands."""

    def __init__(self) -> None:
        super().__init__("What follows", "it floats nowhere on this way")
        self.setMinimumSize(220, 90)
        self.points: list[SweepPoint] = []
        self.words = ""

    def show_points(self, points: list[SweepPoint], words: str, at: float | None) -> None:
        """Draw what follows from a quantity, which `words` name with its unit."""
        self.points, self.words = points, words
        good = [(p.value, p.at_rest) for p in points if p.at_rest is not None and p.at_rest.floats]
        if len(good) < 2:
            self.say_empty()
            return
        pitch, draft = [s.pitch_deg for _, s in good], [s.draft_mm for _, s in good]
        self.show_both([v for v, _ in good], ("pitch °", pitch), ("draft mm", draft), words)
        self.mark(at)

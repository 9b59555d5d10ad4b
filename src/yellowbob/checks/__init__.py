"""Named checks: a verdict with its figure, why it matters, what to do."""

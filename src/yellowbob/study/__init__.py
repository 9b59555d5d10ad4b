"""One design's results, worked out on demand and kept while what they rest on stays the same: `of.rests(study)`."""

from yellowbob.study import of
from yellowbob.study.engine import NotYet, Result, Study

__all__ = ["NotYet", "Result", "Study", "of"]

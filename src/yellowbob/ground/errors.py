"""The few exception classes of the core. Their text is written for the maker: what, where, what to do."""


class YellowBobError(Exception):
    """Base of every error that the program explains to its user."""


class BadInput(YellowBobError):
    """Something typed or read is unusable; the text says what it was, where it stood and what to do."""


class BadDesign(BadInput):
    """A design file cannot be used; the text carries the path to the bad field."""


class BadMesh(BadInput):
    """A mesh file cannot be a body; the text says what is open or missing and where."""


class BadShape(BadInput):
    """The shape described cannot be built into a closed solid."""


class NoHollow(BadShape):
    """A print's wall leaves no hollow."""


class NoRest(YellowBobError):
    """A rest was asked of something that has none, such as a sinker."""

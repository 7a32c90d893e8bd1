"""What of a change is read before and after, so that it can be found again."""

from typing import Literal, NamedTuple


class Noted(NamedTuple):
    """A setting that is read before and after.

    Args:
        key: which, of those at one side.
        name: what is read, in words.
        unit: it is read in.
        by: how much the change moves it.
    """

    key: str
    name: str
    unit: Literal["mm", "°", "turns"]
    by: float

"""What each change brings, and what a job predicted and gave: how plans and jobs are compared."""

from collections.abc import Sequence
from typing import Literal

from inclinum.core.document import Document, Moment
from inclinum.core.document.names import AxleName


class Share(Document):
    """What one change of the stack does to the height of each end, given those before it, mm; zero when it is off."""

    id: str
    front: float
    rear: float


class Outcome(Document):
    """A job in one line, for comparing it with others: rise of the body per axle, mm."""

    id: str
    title: str
    signed_off: Moment | None
    predicted: dict[AxleName, float]
    plus_minus: dict[AxleName, float]
    measured: dict[AxleName, float]
    """Axles that were measured before and after."""
    changes: list[str]


Verdict = Literal["nothing measured", "in part", "within", "outside"]
"""What the readings after a job say: of one of which a part was not read, no more than of that part."""


def verdict_of(judged: Sequence[bool], unread: Sequence[str]) -> Verdict:
    """What the readings after a job say together.

    Args:
        judged: of each that was read, whether it came out as predicted.
        unread: what the job is proved by and nobody read.
    """
    if not judged:
        return "nothing measured"
    return "outside" if not all(judged) else "in part" if unread else "within"


class BeforeAfter(Document):
    """One number of a machine as it came, as planned, and as it was measured after, for people to read."""

    label: str
    unit: str
    before: float | None
    planned: float
    plus_minus: float
    after: float | None
    within: bool | None
    """None where nobody measured it after."""

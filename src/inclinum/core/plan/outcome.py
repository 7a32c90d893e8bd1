"""What each change brings, and what a job predicted and gave: how plans and jobs are compared."""

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

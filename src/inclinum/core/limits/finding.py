"""What a limit says: a number against a limit, with a reason and ways out."""

from typing import Literal

from inclinum.core.changes import PlannedChange
from inclinum.core.document import Document
from inclinum.core.vehicle import AxleName

Severity = Literal["stops", "fix", "know"]
WORST_FIRST: dict[str, int] = {"stops": 0, "fix": 1, "know": 2}


class Cure(Document):
    """A way out: the whole plan as it would be with one press."""

    title: str
    changes: tuple[PlannedChange, ...]


class Finding(Document):
    """One landmark or margin of the plan."""

    id: str
    axle: AxleName | None
    severity: Severity
    what: str
    value: float
    limit: float
    margin: float
    """How much is left; negative when the limit is passed. Same unit as value."""
    unit: Literal["mm", "deg"]
    why: str
    source: str
    settled_by: tuple[str, ...] = ()
    """Readings that nobody took and the number rests on: it is assumed then, and stops no plan alone."""
    wanted_rise: float | None = None
    """Rise of the axle that would settle it, mm, where height is the matter: ways to it become cures."""
    cures: tuple[Cure, ...] = ()

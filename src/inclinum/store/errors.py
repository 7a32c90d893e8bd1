"""What the store refuses, each told to people as a sentence."""

from dataclasses import dataclass, field
from datetime import datetime

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.merge import Contested
from inclinum.jobfile import Complaint


class Missing(LookupError):  # noqa: N818
    """There is nothing of that id."""


class Taken(DomainError):  # noqa: N818
    """Something of that name is already there."""


class Refused(DomainError):  # noqa: N818
    """It may not be done, whoever asks."""


class Moved(Exception):  # noqa: N818
    """The job was changed since it was read: work it out anew."""


@dataclass
class Unreadable(Exception):  # noqa: N818
    """A row that this program cannot read; ``raw_address`` gives it as it is stored."""

    sentence: str
    raw_address: str
    complaints: list[Complaint]


@dataclass
class Conflict(Exception):  # noqa: N818
    """Somebody saved it first. Nothing was written."""

    theirs: Document
    version: int
    by: str
    at: datetime
    contested: list[Contested] = field(default_factory=list)
    """What both changed, entry by entry."""

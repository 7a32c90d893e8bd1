"""What every job has, whatever machine it is on."""

from collections.abc import Sequence
from datetime import date

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import JobId, Name, Text


class Wanted(Document):
    """Of a brief: who wants it, what for, by when, and whether it has to go back."""

    owner: Name
    purpose: Text = ""
    reversible: bool = True
    due: date | None = None


class Titled(Document):
    """Of a job: its name in addresses and files, and its name for people."""

    id: JobId
    title: Name


def each_once(what: str, keys: Sequence[str]) -> None:
    """Refuse a round of readings in which one of them is there twice.

    Raises:
        DomainError: naming the reading.
    """
    twice = {k for k in keys if keys.count(k) > 1}
    if twice:
        raise DomainError(f"the {what} {sorted(twice)[0]} is there twice")

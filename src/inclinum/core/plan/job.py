"""What every job has, whatever machine it is on."""

from collections.abc import Sequence
from datetime import date
from typing import Any

from pydantic import Field

from inclinum.core.card.fabrication import Routine
from inclinum.core.card.schools import ShopSchools
from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import JobId, Name, Text
from inclinum.core.plan.change import Change


class Wanted(Document):
    """Of a brief: who wants it, what for, by when, and whether it has to go back."""

    owner: Name
    purpose: Text = ""
    reversible: bool = True
    due: date | None = None
    schools: ShopSchools = Field(default=ShopSchools(), title="How this shop does it")

    def around(self, change: Change[Any]) -> Routine:
        """What is cut, drilled or welded for a change, as this shop does it."""
        return self.schools.around(change.fabrication(), change.title, on_brackets=change.on_brackets)

    def for_good(self, change: Change[Any]) -> bool:
        """Whether the machine cannot be put back as it came after a change, done as this shop does it."""
        return change.stays or self.around(change).one_way


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

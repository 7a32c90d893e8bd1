"""What is found on the way: told at the step where it was found, and what is decided about it.

Work that is decided on stands on the card from then on, with its part and its minutes; what waits is for another job,
and what is left as it is has somebody's reason.
"""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from inclinum.core.document import Document, Moment
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import Name, PhotoId, Text

FindingKind = Literal["defect", "worn", "seized", "sheared", "missing", "fouling", "note"]
Decision = Literal["now", "later", "left", "noted"]
DECIDED: dict[Decision, str] = {
    "now": "done on this job", "later": "for another job", "left": "left as it is", "noted": "only noted",
}  # fmt: skip


FOUND = "found."
"""What the ids of steps begin with that were put on the card on the way."""


class NewFinding(Document):
    """Something found on the way, as it is told."""

    step: Name
    """Of the card, at which it was found."""
    kind: FindingKind = Field(default="defect", title="What kind")
    what: Text = Field(min_length=2, title="What was found", examples=["Lower ball joint has play"])
    photos: tuple[PhotoId, ...] = Field(default=(), max_length=6)
    decision: Decision = Field(default="later", title="What is decided")
    because: Text = Field(default="", title="Because")
    work: Text = Field(default="", title="What is done about it", description="stands on the card after this step")
    part: Name | None = Field(default=None, title="Part it needs")
    minutes_least: float = Field(default=5, ge=0, le=6000, title="Minutes, from")
    minutes_most: float = Field(default=15, ge=0, le=6000, title="to")

    @model_validator(mode="after")
    def _decided(self) -> Self:
        if self.decision == "left" and not self.because.strip():
            raise DomainError("what is left as it is needs a reason: write why")
        if self.decision == "now" and not self.work.strip():
            raise DomainError("what is done now needs a step: write what is done about it")
        if self.minutes_most < self.minutes_least:
            raise DomainError("it takes at most fewer minutes than it takes at least")
        return self


class FoundOnTheWay(NewFinding):
    """Something found on the way, with who found it and when."""

    id: Annotated[str, Field(min_length=1, max_length=40)]
    at: Moment
    by: Name
    follow_up: Annotated[str, Field(max_length=64)] = ""
    """Id of the job that was opened for it."""

    @property
    def step_id(self) -> str:
        """Of the step it puts on the card."""
        return f"{FOUND}{self.id}"

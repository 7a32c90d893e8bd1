"""The base of every document model: strict, immutable, free of NaN and of unknown fields."""

from datetime import UTC, datetime
from typing import TYPE_CHECKING, Annotated

from pydantic import AfterValidator, AwareDatetime, BaseModel, ConfigDict


def _in_utc(moment: datetime) -> datetime:
    return moment.astimezone(UTC)


Moment = Annotated[AwareDatetime, AfterValidator(_in_utc)]
"""A point in time with its zone, kept in UTC so that it is written the same wherever it was read."""


def _in_order(items: dict) -> dict:
    return dict(sorted(items.items()))


InOrder = AfterValidator(_in_order)
"""Annotation of a mapping kept in the order of its keys, so that the same document is always written the same."""


class Document(BaseModel):
    """A validated, immutable piece of a job. Unknown fields and non-finite numbers are refused."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False, str_strip_whitespace=True)

    if TYPE_CHECKING:  # frozen models are hashable at run time; checkers are told so

        def __hash__(self) -> int: ...

"""Words and names as documents keep them, with their limits."""

import re
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from inclinum.core.document.errors import DomainError

_TURNS = "\u202a-\u202e\u2066-\u2069"
"""They turn the direction of what follows: a name would read as another one, in a list and in a file's name."""
_NOT_IN_A_LINE = re.compile(rf"[\x00-\x1f\x7f-\x9f\u2028\u2029{_TURNS}]+")
_NOT_IN_TEXT = re.compile(rf"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f{_TURNS}]+")


def one_line(text: str) -> str:
    """A name as it stands in one line: line ends and control characters are a space.

    >>> one_line("Post van\\r\\nfront")
    'Post van front'
    """
    if not _NOT_IN_A_LINE.search(text):
        return text
    cleaned = " ".join(_NOT_IN_A_LINE.sub(" ", text).split())
    if not cleaned:
        raise DomainError("there is nothing to read in this name: type one")
    return cleaned


def readable(text: str) -> str:
    """A text of several lines without what is no text: control characters, turns of direction; one kind of line end."""
    text = text.replace("\r\n", "\n").replace("\r", "\n") if "\r" in text else text
    return _NOT_IN_TEXT.sub(" ", text) if _NOT_IN_TEXT.search(text) else text


Name = Annotated[str, Field(min_length=1, max_length=120), AfterValidator(one_line)]
Text = Annotated[str, Field(max_length=4000), AfterValidator(readable)]
Key = Annotated[str, Field(max_length=120)]
"""Of a mapping: the name of a point, a fastener, a setting."""
Millimetre = Annotated[float, Field(ge=0, le=10_000)]
AxleName = Literal["front", "rear"]
AXLES: tuple[AxleName, AxleName] = ("front", "rear")
Side = Literal["left", "right"]
SIDES: tuple[Side, Side] = ("left", "right")

JobId = Annotated[str, Field(min_length=1, max_length=64, pattern=r"^\.*[A-Za-z0-9_-][A-Za-z0-9._-]*$")]
"""A job's name in addresses and files: dots alone would be a folder."""

StageName = Literal["brief", "measure", "plan", "align", "build", "prove"]
STAGES: tuple[StageName, ...] = ("brief", "measure", "plan", "align", "build", "prove")

PartNumber = Annotated[str, Field(max_length=60, title="Part number")]
"""As the shop's supplier writes it; empty where a part has none."""

ChangeId = Annotated[str, Field(min_length=1, max_length=40)]
"""Of a change on a stack."""

PhotoId = Annotated[str, Field(max_length=64, pattern=r"^[0-9a-f]{64}$", description="of a picture that was kept")]
"""A photograph, by its content."""

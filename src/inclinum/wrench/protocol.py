"""What a wrench says: one JSON object a line, over TCP on loopback.

A wrench says ``hello`` when somebody listens, ``alive`` at least once a second, and ``pulled`` at each click.
"""

from typing import Literal

from pydantic import Field, TypeAdapter, ValidationError

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError

ALIVE_EVERY_S = 1.0
LONGEST_LINE = 1000
"""Bytes."""


class Hello(Document):
    """Which wrench it is."""

    says: Literal["hello"] = "hello"
    name: str = Field(min_length=1, max_length=60)
    simulated: bool = False
    least_nm: float = Field(ge=0, le=3000)
    most_nm: float = Field(gt=0, le=3000)


class Alive(Document):
    """That it is still there."""

    says: Literal["alive"] = "alive"


class Pulled(Document):
    """A click: the torque it clicked at, and how far the bolt was turned since the wrench was set on it."""

    says: Literal["pulled"] = "pulled"
    torque_nm: float = Field(ge=0, le=3000)
    angle_deg: float = Field(default=0, ge=0, le=3600)


Said = Hello | Alive | Pulled
_SAID: TypeAdapter[Said] = TypeAdapter(Said)


def line_of(said: Said) -> bytes:
    """As it goes over the socket."""
    return said.model_dump_json().encode() + b"\n"


def read(line: bytes) -> Said:
    """What a line says.

    Raises:
        DomainError: it is none of a wrench's.
    """
    try:
        return _SAID.validate_json(line)
    except ValidationError:
        raise DomainError(f"A wrench does not say {line[:60]!r}.") from None

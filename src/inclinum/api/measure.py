"""Stage 2: readings, and what a typed text means."""

from fastapi import APIRouter
from pydantic import BaseModel, Field

from inclinum.api.saving import add_save_route
from inclinum.core.car.measured import Readable, refusal
from inclinum.core.quantity import Angle, Entry, EntryError, Kind, Length, Mass, Torque, parse

router = APIRouter(tags=["measure"])
add_save_route(router, "measure")


class Typed(BaseModel):
    """What stands in a field."""

    text: str = Field(max_length=200)
    kind: Kind = Kind.LENGTH
    default_unit: str | None = Field(default=None, max_length=20)
    quantity: Readable | None = None
    """Which reading it is, to refuse what cannot be."""


@router.post("/entry", operation_id="read_entry")
def read_entry(typed: Typed) -> Length | Angle | Torque | Mass:
    """The quantity of a typed text, or a sentence why it is none."""
    entry: Entry = parse(typed.text, typed.kind, typed.default_unit)
    if typed.quantity and (sentence := refusal(typed.quantity, entry.value, entry.tolerance)):
        raise EntryError(sentence)
    return entry  # type: ignore[return-value]

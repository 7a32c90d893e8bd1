"""Reading what a person types: fractions, both unit systems, tolerances.

``5 3/4``, ``5-3/4"``, ``146``, ``14.6 cm``, ``5.75in ±1/8``, ``1°30'``. What was typed is kept word for word.
"""

import math
import re
from typing import Any, ClassVar, Self

from pydantic import Field, model_validator

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.quantity.units import SPELLINGS, Kind, factor


class EntryError(DomainError):
    """What was typed is no quantity; the message is a sentence for the person who typed it."""


class Entry(Document):
    """A number as it was typed, and what it means in base units.

    A document may give the text alone; value, tolerance and unit follow from it. Given together they must agree,
    so that a file cannot say one thing and mean another.
    """

    kind: ClassVar[Kind] = Kind.LENGTH

    text: str = Field(min_length=1, max_length=60, description="word for word what was typed")
    value: float = Field(description="in the base unit of its kind")
    tolerance: float | None = Field(default=None, ge=0, description="typed after ±, same unit as value")
    unit: str = Field(max_length=20, description="the unit a bare number was read in")

    @model_validator(mode="before")
    @classmethod
    def _from_text(cls, data: Any) -> Any:
        if isinstance(data, str):
            data = {"text": data}
        if not isinstance(data, dict) or not isinstance(data.get("text"), str) or {"value", "unit"} <= data.keys():
            return data
        read = _read(data["text"], cls.kind, data.get("unit"))
        return read | data

    @model_validator(mode="after")
    def _agrees(self) -> Self:
        read = _read(self.text, self.kind, self.unit)
        if abs(read["value"] - self.value) > 1e-6 or read["tolerance"] != self.tolerance:
            raise DomainError(f"“{self.text}” reads as {read['value']:g}, not as {self.value:g}")
        return self

    def plus_minus(self, usual: float) -> float:
        """How well it is known, in the base unit: what was typed after ±, else what is usual for its kind."""
        return usual if self.tolerance is None else self.tolerance


class Length(Entry):
    """A typed length, mm."""


class Angle(Entry):
    """A typed angle, degrees."""

    kind: ClassVar[Kind] = Kind.ANGLE


class Torque(Entry):
    """A typed torque, N·m."""

    kind: ClassVar[Kind] = Kind.TORQUE


class Mass(Entry):
    """A typed mass, kg."""

    kind: ClassVar[Kind] = Kind.MASS


class Rate(Entry):
    """A spring rate; the base unit is N/mm."""

    kind: ClassVar[Kind] = Kind.RATE


ENTRIES: dict[Kind, type[Entry]] = {entry.kind: entry for entry in (Length, Angle, Torque, Mass, Rate)}


_NUMBER = r"(?:\d+(?:[.,]\d+)?|[.,]\d+)"
_MIXED = re.compile(
    r"^(?P<sign>[-+−])?\s*(?:(?P<whole>\d+)(?:\s*-\s*|\s+))?(?P<num>\d+)\s*/\s*(?P<den>\d+)\s*(?P<unit>.*)$"
)
_DECIMAL = re.compile(rf"^(?P<sign>[-+−])?\s*(?P<number>{_NUMBER})\s*(?P<unit>.*)$")
_SEXAGESIMAL = re.compile(rf"^(?P<sign>[-+−])?\s*(?P<deg>\d+)\s*(?:°|deg|\s)\s*(?P<min>{_NUMBER})\s*(?:'|′|min)?$")


def parse(text: str, kind: Kind = Kind.LENGTH, default_unit: str | None = None) -> Entry:
    """Read one typed length, angle or torque.

    Args:
        text: what was typed. A bare number is in ``default_unit``; a bare vulgar fraction of length is in
            inches, because nobody reads fractions off a millimetre tape.
        kind: which quantity the field holds.
        default_unit: a spelling of :data:`SPELLINGS`; the first of the kind when left out.

    Raises:
        EntryError: a sentence that quotes the text and shows a form that works.

    >>> parse("5 3/4").value
    146.05
    >>> parse("14.6 cm ± 2 mm").tolerance
    2.0
    """
    return ENTRIES[kind].model_construct(**_read(text, kind, default_unit))


def _read(text: str, kind: Kind, default_unit: str | None) -> dict[str, Any]:
    """Fields of the entry a text makes."""
    kept = text.strip()
    if not kept:
        raise EntryError("Nothing was typed; type a number such as 146 or 5 3/4.")
    if len(kept) > 60:
        raise EntryError("That is longer than any reading; type one number with its unit.")
    body, *tolerance_parts = re.split(r"±|\+/-|\+-", kept)
    if len(tolerance_parts) > 1:
        raise EntryError(f"“{kept}” has more than one ±; type one tolerance.")
    default = default_unit or next(iter(SPELLINGS[kind]))
    value, unit = _quantity(body.strip(), kind, default, kept)
    tolerance = None
    if tolerance_parts:
        tolerance, _ = _quantity(tolerance_parts[0].strip(), kind, unit, kept)
        if tolerance < 0:
            raise EntryError(f"The tolerance in “{kept}” is negative; type it as ± and a positive number.")
    return {
        "text": kept,
        "value": round(value, 9),
        "tolerance": None if tolerance is None else round(tolerance, 9),
        "unit": unit,
    }


def _quantity(text: str, kind: Kind, default_unit: str, whole_text: str) -> tuple[float, str]:
    """Value in base units and the unit it was read in."""
    if kind is Kind.ANGLE and (match := _SEXAGESIMAL.match(text)):
        minutes = _decimal(match["min"])
        if minutes >= 60:
            raise EntryError(f"“{whole_text}” has {minutes:g} minutes; a degree has 60.")
        return _signed(match["sign"], int(match["deg"]) + minutes / 60), "°"
    if match := _MIXED.match(text):
        if int(match["den"]) == 0:
            raise EntryError(f"“{whole_text}” divides by zero; type a fraction such as 3/4.")
        number = int(match["whole"] or 0) + int(match["num"]) / int(match["den"])
        unit = match["unit"].strip() or ("in" if kind is Kind.LENGTH else default_unit)
    elif match := _DECIMAL.match(text):
        number = _decimal(match["number"])
        unit = match["unit"].strip() or default_unit
    else:
        raise EntryError(f"“{whole_text}” is not a number; type one such as {_EXAMPLES[kind]}.")
    try:
        value = number * factor(kind, unit)
    except KeyError:
        known = ", ".join(list(SPELLINGS[kind])[:4])
        raise EntryError(f"“{unit}” is no unit of {kind.value}; use one of {known}.") from None
    if not math.isfinite(value):
        raise EntryError(f"“{whole_text}” is too large to be a {kind.value}.")
    return _signed(match["sign"], value), unit


_EXAMPLES = {
    Kind.LENGTH: "146, 14.6 cm or 5 3/4",
    Kind.ANGLE: "-1.25 or 1°15'",
    Kind.TORQUE: "90 or 66 lbf·ft",
    Kind.MASS: "412 or 908 lb",
    Kind.RATE: "32 or 183 lbf/in",
}


def _decimal(text: str) -> float:
    return float(text.replace(",", "."))


def _signed(sign: str | None, magnitude: float) -> float:
    return -magnitude if sign in ("-", "−") else magnitude

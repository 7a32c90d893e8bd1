"""Reading what a person types: fractions, both unit systems, tolerances.

``5 3/4``, ``5-3/4"``, ``146``, ``14.6 cm``, ``5.75in ±1/8``, ``1°30'``. What was typed is kept word for word.
"""

import math
import re

from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.quantity.units import SPELLINGS, Kind, factor


class EntryError(ValueError):
    """What was typed is no quantity; the message is a sentence for the person who typed it."""


class Entry(Document):
    """A number as it was typed, and what it means in base units."""

    text: str = Field(description="word for word what was typed")
    value: float = Field(description="in the kind's base unit (mm, degree, N, N/mm, N·m, kg)")
    tolerance: float | None = Field(default=None, description="typed after ±, same unit as value")
    unit: str = Field(description="the unit the number was read in")


_NUMBER = r"(?:\d+(?:[.,]\d+)?|[.,]\d+)"
_MIXED = re.compile(
    r"^(?P<sign>[-+−])?\s*(?:(?P<whole>\d+)(?:\s*-\s*|\s+))?(?P<num>\d+)\s*/\s*(?P<den>\d+)\s*(?P<unit>.*)$"
)
_DECIMAL = re.compile(rf"^(?P<sign>[-+−])?\s*(?P<number>{_NUMBER})\s*(?P<unit>.*)$")
_SEXAGESIMAL = re.compile(rf"^(?P<sign>[-+−])?\s*(?P<deg>\d+)\s*(?:°|deg|\s)\s*(?P<min>{_NUMBER})\s*(?:'|′|min)?$")


def parse(text: str, kind: Kind = Kind.LENGTH, default_unit: str | None = None) -> Entry:
    """Read one typed quantity.

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
    return Entry(text=kept, value=round(value, 9), tolerance=tolerance, unit=unit)


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
    Kind.FORCE: "3200 N",
    Kind.RATE: "28.5 N/mm",
    Kind.TORQUE: "90 or 66 lbf·ft",
    Kind.MASS: "75 kg",
}


def _decimal(text: str) -> float:
    return float(text.replace(",", "."))


def _signed(sign: str | None, magnitude: float) -> float:
    return -magnitude if sign in ("-", "−") else magnitude

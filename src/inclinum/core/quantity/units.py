"""Conversion between what people read off their tools and the core's base units.

Conversion happens once, at the edge: nothing inside the core carries a unit object.
"""

import re
from enum import StrEnum
from functools import cache

from pint import UnitRegistry


class Kind(StrEnum):
    """What sort of quantity a number is; it decides the units that may follow it."""

    LENGTH = "length"
    ANGLE = "angle"
    TORQUE = "torque"
    MASS = "mass"


BASE = {
    Kind.LENGTH: "millimeter",
    Kind.ANGLE: "degree",
    Kind.TORQUE: "newton * meter",
    Kind.MASS: "kilogram",
}
"""The unit in which documents keep each kind (the core itself turns degrees into radians)."""

SPELLINGS: dict[Kind, dict[str, str]] = {
    Kind.LENGTH: {
        "mm": "millimeter",
        "cm": "centimeter",
        "m": "meter",
        "in": "inch",
        '"': "inch",
        "″": "inch",
        "''": "inch",
        "inch": "inch",
        "inches": "inch",
        "ft": "foot",
    },
    Kind.ANGLE: {"deg": "degree", "°": "degree", "'": "arcminute", "′": "arcminute", "min": "arcminute"},
    Kind.TORQUE: {
        "nm": "newton * meter",
        "n·m": "newton * meter",
        "n*m": "newton * meter",
        "lbf·ft": "force_pound * foot",
        "lbf*ft": "force_pound * foot",
        "lbf ft": "force_pound * foot",
        "ft-lb": "force_pound * foot",
        "ft lb": "force_pound * foot",
    },
    Kind.MASS: {"kg": "kilogram", "lb": "pound", "lbs": "pound"},
}
"""Unit spellings accepted at entry, lower case, with the name Pint knows them by."""

_registry = UnitRegistry(cache_folder=None)


@cache
def factor(kind: Kind, spelling: str) -> float:
    """Base units per one of the unit spelled so.

    >>> factor(Kind.LENGTH, "in")
    25.4

    Raises:
        KeyError: the spelling is not one of that kind's.
    """
    name = SPELLINGS[kind][re.sub(r"\s+", " ", spelling.strip().lower())]
    return float(round(_registry.Quantity(1.0, name).to(BASE[kind]).magnitude, 12))


def newton_metres_to_pound_feet(torque_nm: float) -> float:
    """Torque in lbf·ft from N·m, as both stand side by side on a job card."""
    return torque_nm / factor(Kind.TORQUE, "lbf·ft")

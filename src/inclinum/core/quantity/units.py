"""Conversion between what people read off their tools and the core's base units.

Conversion happens once, at the edge: nothing inside the core carries a unit object.
"""

import re
from enum import StrEnum

from scipy import constants


class Kind(StrEnum):
    """What sort of quantity a number is; it decides the units that may follow it."""

    LENGTH = "length"
    ANGLE = "angle"
    TORQUE = "torque"
    MASS = "mass"
    RATE = "rate"


SPELLINGS: dict[Kind, dict[str, float]] = {
    Kind.LENGTH: {
        "mm": 1.0,
        "cm": constants.centi / constants.milli,
        "m": 1 / constants.milli,
        "in": constants.inch / constants.milli,
        '"': constants.inch / constants.milli,
        "″": constants.inch / constants.milli,
        "''": constants.inch / constants.milli,
        "inch": constants.inch / constants.milli,
        "inches": constants.inch / constants.milli,
        "ft": constants.foot / constants.milli,
    },
    Kind.ANGLE: {"deg": 1.0, "°": 1.0, "'": 1 / 60, "′": 1 / 60, "min": 1 / 60},
    Kind.TORQUE: {
        "nm": 1.0,
        "n·m": 1.0,
        "n*m": 1.0,
        "lbf·ft": constants.lbf * constants.foot,
        "lbf*ft": constants.lbf * constants.foot,
        "lbf ft": constants.lbf * constants.foot,
        "ft-lb": constants.lbf * constants.foot,
        "ft lb": constants.lbf * constants.foot,
    },
    Kind.MASS: {"kg": 1.0, "lb": constants.lb, "lbs": constants.lb},
    Kind.RATE: {
        "n/mm": 1.0,
        "kn/m": 1.0,
        "kgf/mm": constants.g,
        "kg/mm": constants.g,
        "lbf/in": constants.lbf / (constants.inch / constants.milli),
        "lb/in": constants.lbf / (constants.inch / constants.milli),
    },
}
"""Unit spellings accepted at entry, lower case, with the base units in one of each: mm, degrees, N·m, kg, N/mm."""


def factor(kind: Kind, spelling: str) -> float:
    """Base units per one of the unit spelled so.

    >>> factor(Kind.LENGTH, "in")
    25.4

    Raises:
        KeyError: the spelling is not one of that kind's.
    """
    return round(SPELLINGS[kind][re.sub(r"\s+", " ", spelling.strip().lower())], 12)


def newton_metres_to_pound_feet(torque_nm: float) -> float:
    """Torque in lbf·ft from N·m, as both stand side by side on a job card."""
    return torque_nm / factor(Kind.TORQUE, "lbf·ft")

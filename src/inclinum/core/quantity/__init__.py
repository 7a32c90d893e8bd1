"""Units, fractions and tolerances at the edge of the core."""

from inclinum.core.quantity.entry import Angle, Entry, EntryError, Length, Mass, Torque, parse
from inclinum.core.quantity.units import Kind, factor, newton_metres_to_pound_feet

__all__ = [
    "Angle",
    "Entry",
    "EntryError",
    "Kind",
    "Length",
    "Mass",
    "Torque",
    "factor",
    "newton_metres_to_pound_feet",
    "parse",
]

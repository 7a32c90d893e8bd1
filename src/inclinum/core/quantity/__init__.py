"""Units, fractions and tolerances at the edge of the core."""

from inclinum.core.quantity.entry import Entry, EntryError, parse
from inclinum.core.quantity.units import Kind, factor, newton_metres_to_pound_feet

__all__ = ["Entry", "EntryError", "Kind", "factor", "newton_metres_to_pound_feet", "parse"]

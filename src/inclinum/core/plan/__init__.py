"""What a shop plans, for any machine: a stack of changes, what stands against it, and ways out."""

from inclinum.core.plan.change import (
    Change,
    Planned,
    Search,
    apply_all,
    at_their_place,
    begin,
    millimetres,
    named,
    unused_id,
)
from inclinum.core.plan.finding import WORST_FIRST, Cure, Finding, Severity, worst_first

__all__ = [
    "WORST_FIRST",
    "Change",
    "Cure",
    "Finding",
    "Planned",
    "Search",
    "Severity",
    "apply_all",
    "at_their_place",
    "begin",
    "millimetres",
    "named",
    "unused_id",
    "worst_first",
]

"""What a shop plans, for any machine: a stack of changes, what stands against it, and ways out."""

from inclinum.core.plan.change import (
    Change,
    Planned,
    Search,
    apply_all,
    at_their_place,
    begin,
    choices_of,
    in_turn,
    millimetres,
    named,
    unused_id,
)
from inclinum.core.plan.edits import PlanEdits
from inclinum.core.plan.finding import WORST_FIRST, Cure, Finding, Severity, worst_first
from inclinum.core.plan.noted import Noted
from inclinum.core.plan.outcome import BeforeAfter, Outcome, Share, Verdict, verdict_of
from inclinum.core.plan.taken_over import taken_over
from inclinum.core.plan.ways import Candidate, Way, best_first, nearest, way

__all__ = [
    "WORST_FIRST",
    "BeforeAfter",
    "Candidate",
    "Change",
    "Cure",
    "Finding",
    "Noted",
    "Outcome",
    "PlanEdits",
    "Planned",
    "Search",
    "Severity",
    "Share",
    "Verdict",
    "Way",
    "apply_all",
    "at_their_place",
    "begin",
    "best_first",
    "choices_of",
    "in_turn",
    "millimetres",
    "named",
    "nearest",
    "taken_over",
    "unused_id",
    "verdict_of",
    "way",
    "worst_first",
]

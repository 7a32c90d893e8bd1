"""Findings about a vehicle on four wheels, with plans of its changes as ways out."""

from inclinum.core import plan
from inclinum.core.car.changes import PlannedChange


class Cure(plan.Cure[PlannedChange]):
    """A way out: the whole plan as it would be with one press."""


class Finding(plan.Finding[Cure]):
    """One landmark or margin of the plan."""

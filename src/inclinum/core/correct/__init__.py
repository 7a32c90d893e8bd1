"""Alignment adjusters and their solve."""

from inclinum.core.correct.solve import Adjuster, AlignmentProblem, LinkLength, Slot, Solution

__all__ = ["Adjuster", "AlignmentProblem", "LinkLength", "Slot", "Solution"]

"""Alignment adjusters and their solve."""

from inclinum.core.correct.solve import Adjuster, AlignmentProblem, Clamp, LinkLength, Slot, Solution

__all__ = ["Adjuster", "AlignmentProblem", "Clamp", "LinkLength", "Slot", "Solution"]

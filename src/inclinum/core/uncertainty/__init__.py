"""Uncertainty, residuals and what a job teaches about the next."""

from inclinum.core.uncertainty.inputs import Input, InputShare, ranked
from inclinum.core.uncertainty.spread import COVERAGE, Spread, propagate, sample

__all__ = ["COVERAGE", "Input", "InputShare", "Spread", "propagate", "ranked", "sample"]

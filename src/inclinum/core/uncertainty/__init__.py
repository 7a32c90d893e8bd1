"""Uncertainty, residuals and what a job teaches about the next."""

from inclinum.core.uncertainty.spread import COVERAGE, Spread, propagate, sample

__all__ = ["COVERAGE", "Spread", "propagate", "sample"]

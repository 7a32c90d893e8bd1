"""Inclinum: a planning bench for ride-height work."""

__version__ = "0.1.0"

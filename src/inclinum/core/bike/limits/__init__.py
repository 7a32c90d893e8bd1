"""Landmarks and margins of two-wheelers. A limit joins the product by being listed in :data:`LIMITS`."""

from collections.abc import Callable

from inclinum.core.bike.limits import (
    aim,
    clevis,
    fork_clamps,
    fork_inside,
    ground,
    preload,
    reach,
    rear_spring_fit,
    rear_travel,
    sag_windows,
    stands,
    stated,
    steering_kept,
    taken_over,
    undone,
)
from inclinum.core.bike.limits.assumed import told_as_assumed, unmeasured
from inclinum.core.bike.limits.case import BikeCase, BikeCure, BikeFinding
from inclinum.core.plan import worst_first

LIMITS: tuple[Callable[[BikeCase], list[BikeFinding]], ...] = (
    fork_inside.check,
    rear_travel.check,
    rear_spring_fit.check,
    clevis.check,
    fork_clamps.check,
    preload.check,
    stands.check,
    aim.check,
    steering_kept.check,
    sag_windows.check,
    reach.check,
    ground.check,
    undone.check,
    taken_over.check,
    stated.check,
)


REFUSED = ("fork.bottom_out",)
"""Findings that refuse a plan: what they are about is never built on a written override."""


def findings(case: BikeCase) -> list[BikeFinding]:
    """All findings, worst first."""
    return worst_first(told_as_assumed(case, f) for check in LIMITS for f in check(case))


__all__ = [
    "LIMITS",
    "REFUSED",
    "BikeCase",
    "BikeCure",
    "BikeFinding",
    "findings",
    "unmeasured",
]

"""What is only stated, said beside what is worked out."""

from inclinum.core.bike.limits.case import BikeCase, BikeFinding
from inclinum.core.plan.finding import stated


def check(case: BikeCase) -> list[BikeFinding]:
    """One line per change on the stack whose number is somebody's word."""
    return stated(case.changes, BikeFinding)

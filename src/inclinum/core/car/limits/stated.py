"""What is only stated, said beside what is worked out."""

from inclinum.core.car.limits.case import Case
from inclinum.core.car.limits.finding import Finding
from inclinum.core.plan.finding import stated


def check(case: Case) -> list[Finding]:
    """One line per change on the stack whose number is somebody's word."""
    return stated(case.changes, Finding)

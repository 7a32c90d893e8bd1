"""Parts that would be bought for nothing: a later change takes their place."""

from inclinum.core.car.limits.case import Case
from inclinum.core.car.limits.finding import Finding
from inclinum.core.plan import taken_over


def check(case: Case) -> list[Finding]:
    """One finding per change without which the planned vehicle is the same."""
    return [
        Finding(
            id=f"taken_over.{planned.id}", axle=planned.change.axle, severity="fix",
            what=f"{planned.change.title} changes nothing", value=0.0, limit=1.0, margin=-1.0, unit="",
            why=f"What is planned after it takes its place: {by.change.title.lower()}, {by.change.axle}.",
            source="the order of the plan",
            cures=(case.without(f"Leave out: {planned.change.title.lower()}", planned),),
        )
        for planned, by in taken_over(case.job.vehicle, case.changes)
    ]  # fmt: skip

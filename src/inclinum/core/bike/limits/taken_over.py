"""Parts that would be bought for nothing: a later change takes their place."""

from inclinum.core.bike.limits.case import BikeCase, BikeFinding
from inclinum.core.plan import taken_over


def check(case: BikeCase) -> list[BikeFinding]:
    """One finding per change without which the planned machine is the same."""
    return [
        BikeFinding(
            id=f"taken_over.{planned.id}", axle=planned.change.where, severity="fix",
            what=f"{planned.change.title} changes nothing", value=0.0, limit=1.0, margin=-1.0, unit="",
            why=f"What is planned after it takes its place: {by.change.title.lower()}.",
            source="the order of the plan",
            cures=(case.without(f"Leave out: {planned.change.title.lower()}", planned),),
        )
        for planned, by in taken_over(case.before.bike, case.changes)
    ]  # fmt: skip

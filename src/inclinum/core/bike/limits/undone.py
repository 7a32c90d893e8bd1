"""A brief that wants everything to go back as it was, against changes that cannot be undone."""

from inclinum.core.bike.limits.case import BikeCase, BikeFinding


def check(case: BikeCase) -> list[BikeFinding]:
    """One finding per change that is on and cannot be undone."""
    stack = case.job.plan.changes
    if not case.job.brief.reversible:
        return []
    return [
        BikeFinding(
            id=f"undone.{planned.id}", axle=planned.change.where, severity="fix",
            what=f"{planned.change.title} cannot be undone", value=0.0, limit=1.0, margin=-1.0, unit="",
            why="The brief wants the machine to go back as it was.", source="the brief",
            cures=(case.without(f"Leave out: {planned.change.title.lower()}", planned),),
        )
        for planned in stack
        if planned.on and case.job.brief.for_good(planned.change)
    ]  # fmt: skip

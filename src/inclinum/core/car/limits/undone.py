"""A brief that wants everything to go back as it was, against changes that cannot be undone."""

from inclinum.core.car.limits.case import Case
from inclinum.core.car.limits.finding import Finding


def check(case: Case) -> list[Finding]:
    """One finding per change that is on and cannot be undone."""
    if not case.job.brief.reversible:
        return []
    return [
        Finding(
            id=f"undone.{planned.id}",
            axle=planned.change.axle,
            severity="fix",
            what=f"{planned.change.title} cannot be undone",
            value=0.0,
            limit=1.0,
            margin=-1.0,
            unit="",
            why="The brief wants the vehicle to go back as it was.",
            source="the brief",
            cures=(case.without(f"Leave out: {planned.change.title.lower()}", planned),),
        )
        for planned in case.changes
        if planned.on and case.job.brief.for_good(planned.change)
    ]

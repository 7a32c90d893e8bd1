"""What is only stated, said beside what is worked out."""

from inclinum.core.car.limits.case import Case
from inclinum.core.car.limits.finding import Finding


def check(case: Case) -> list[Finding]:
    """One line per change on the stack whose number is somebody's word."""
    return [
        Finding(
            id=f"stated.{planned.id}",
            axle=planned.change.axle,
            severity="know",
            what=f"{planned.change.title}, {planned.change.axle}: stated, not computed",
            value=planned.change.rise_tolerance(),
            limit=0.0,
            margin=0.0,
            unit="mm",
            why=f"{planned.change.summary()}. Its height is taken at that word, springs, loads and "
            "stops as they were: read the height after it is done.",
            source="whoever states it",
            cures=(),
        )
        for planned in case.changes
        if planned.on and planned.change.stated
    ]

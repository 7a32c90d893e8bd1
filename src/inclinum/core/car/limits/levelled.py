"""A level valve lets out again what a spacer on its air spring was to give."""

from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Finding
from inclinum.core.springs.fitted import AirSpringData


def check(case: Case) -> list[Finding]:
    """One finding per axle on air whose height a plan wants to change by what its valve does not see."""
    found = []
    for name, axle, stance in both_axles(case):
        if not isinstance(axle.spring, AirSpringData):
            continue
        taken = [p for p in case.changes if p.on and p.change.where == name and "room" in p.change.takes]
        if not taken:
            continue
        given = stance.rise - axle.levelled_mm
        cures = []
        if len(taken) == 1:
            title = f"Leave out: {taken[0].change.title.lower()}; set the level instead"
            left = case.without(title, taken[0])
            cures = [left]
        found.append(
            Finding(
                id=f"levelled.{name}",
                axle=name,
                severity="fix",
                what=f"The {name} level valve takes a spacer's height back",
                value=given,
                limit=0.0,
                margin=-abs(given),
                unit="mm",
                why="A valve holds the height its sensor sees: it lets out air until the body stands as before. "
                "Only where the bags are filled by hand does a spacer lift; another height is set at the sensor.",
                source="how level control works",
                cures=tuple(cures),
            )
        )
    return found

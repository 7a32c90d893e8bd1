"""A level valve takes back what a plan gives or takes beside its sensor."""

from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Finding
from inclinum.core.springs.fitted import AirSpringData

WORTH_TELLING_MM = 1.0


def check(case: Case) -> list[Finding]:
    """One finding per axle on air whose height a plan wants to change by what its valve does not see."""
    found = []
    for name, axle, stance in both_axles(case):
        if not isinstance(axle.spring, AirSpringData):
            continue
        was = case.before.axle(name).axle
        told = axle.levelled_mm - was.levelled_mm + axle.stated_mm - was.stated_mm
        given = stance.rise - told
        spacers = [p for p in case.changes if p.on and p.change.where == name and "room" in p.change.takes]
        laden, moved = bool(case.job.brief.cargo), axle.linkage != was.linkage
        if abs(given) < WORTH_TELLING_MM and not spacers and not laden and not moved:
            continue
        cures = []
        if len(spacers) == 1:
            cures = [case.without(f"Leave out: {spacers[0].change.title.lower()}; set the level instead", spacers[0])]
        if spacers:
            what = "takes a spacer's height back"
        elif moved:
            what = "meets its sensor at another angle"
        elif abs(given) >= WORTH_TELLING_MM:
            what = f"{'lowers' if given > 0 else 'lifts'} the body {abs(given):.0f} mm back"
        else:
            what = "lifts back what cargo lets sink"
        found.append(
            Finding(
                id=f"levelled.{name}",
                axle=name,
                severity="fix" if spacers else "know",
                what=f"The {name} level valve {what}",
                value=given,
                limit=0.0,
                margin=-abs(given),
                unit="mm",
                why="A valve holds the height its sensor sees: it lets air out or in until the arm stands to the body "
                f"as before. What is told here{', with cargo too,' if laden else ''} is the height with the valve "
                "shut, as where bags are filled by hand; another height is set at the sensor."
                + (" Where its arm and rod sit was not measured: read the height it levels to." if moved else ""),
                source="how level control works",
                cures=tuple(cures),
            )
        )
    return found

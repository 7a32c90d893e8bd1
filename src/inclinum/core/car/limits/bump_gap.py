"""The body should not ride on its bump stops, and some droop should be left."""

from inclinum.core.car.limits.case import Case, each_side, worse_side
from inclinum.core.car.limits.finding import Finding
from inclinum.core.plan import millimetres

GAP_SHARE = 0.15
"""Part of the travel between droop and solid stop to keep clear of the stop, and of full droop, at ride."""


def check(case: Case) -> list[Finding]:
    """Findings for a stop that is touched at ride, and for droop that is used up."""
    found = []
    for name, axle, stance in each_side(case):
        wanted = GAP_SHARE * (stance.bump_end - stance.full_droop)
        contact = stance.window.stop_contact
        gap = contact - stance.travel if contact is not None else None
        if gap is not None and gap < wanted:
            lower = float(int(axle.bump_stop.height_mm - (wanted - gap)))
            cures = []
            if lower > axle.bump_stop.height_mm / 2:
                title = f"{name.capitalize()} bump stops {millimetres(lower)} high"
                cures = case.other_stop(title, name, lower)
            found.append(
                Finding(
                    id=f"bump_gap.{name}",
                    axle=name,
                    severity="stops" if gap < 0 else "fix",
                    what=f"{name.capitalize()} rides {'on' if gap < 0 else 'close to'} its bump stops",
                    value=gap,
                    limit=wanted,
                    margin=gap - wanted,
                    unit="mm",
                    why="On the stop the ride is hard and the height is the stop's, not the spring's.",
                    source="15 % of the travel, a shop's rule of thumb",
                    cures=tuple(cures),
                )
            )
        droop = stance.travel - stance.full_droop
        if droop < wanted:
            found.append(
                Finding(
                    id=f"droop_left.{name}",
                    axle=name,
                    severity="stops" if droop < 0 else "fix",
                    what=f"{name.capitalize()} has {'no' if droop < 0 else 'little'} droop left",
                    value=droop,
                    limit=wanted,
                    margin=droop - wanted,
                    unit="mm",
                    why="The damper tops out over every hollow, and the wheel leaves the ground.",
                    source="15 % of the travel, a shop's rule of thumb",
                    cures=tuple(case.taking_less(name, "room", wanted - droop)),
                )
            )
    return worse_side(found)

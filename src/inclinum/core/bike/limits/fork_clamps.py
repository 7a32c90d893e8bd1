"""The fork in its clamps: the zone the tubes may be held in, and the clearance when bottomed."""

from inclinum.core.bike.limits.case import BikeCase, BikeFinding


def check(case: BikeCase) -> list[BikeFinding]:
    """Zone first, then clearance."""
    fork, found = case.bike.fork, []
    if fork.crown == "single":
        return []
    outside = max(fork.raised_mm - fork.raise_most_mm, fork.raise_least_mm - fork.raised_mm)
    short = fork.clearance_wanted_mm - fork.bottomed_clearance_mm
    if outside <= 0 and short <= 0:
        return []
    back = max(fork.raise_least_mm, min(fork.raised_mm, fork.most_raise))
    cure = tuple(case.providing(f"Tubes {back:g} mm above the clamp", "front", "fork raise", back))
    if outside > 0:
        limit = fork.raise_most_mm if fork.raised_mm > fork.raise_most_mm else fork.raise_least_mm
        found.append(
            BikeFinding(
                id="fork.zone", axle="front", severity="stops", what="The clamps hold the tubes where they step",
                value=fork.raised_mm, limit=limit, margin=-outside, unit="mm",
                why="A clamp on a taper or step cuts into the tube or does not hold it.",
                source="the tube's clamp zone, as measured", cures=cure,
            )
        )  # fmt: skip
    if short > 0:
        found.append(
            BikeFinding(
                id="fork.bottomed", axle="front", severity="stops",
                what="Wheel or mudguard meets the lower clamp when the fork bottoms",
                value=round(fork.bottomed_clearance_mm, 1), limit=fork.clearance_wanted_mm, margin=-round(short, 1),
                unit="mm", why="Every millimetre the tubes go up is one less there.",
                source="measured with the fork bottomed", cures=cure,
            )
        )  # fmt: skip
    return found

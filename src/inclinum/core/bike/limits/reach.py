"""Whether the rider's feet reach the ground."""

from inclinum.core.bike.limits.case import BikeCase, BikeFinding

HEEL_MM = 60.0
"""Our rule: with the heels this far up the balls of both feet still stand."""


def check(case: BikeCase) -> list[BikeFinding]:
    """Not even one foot is worth a fix; both feet missing by more than a heel is worth knowing."""
    legs = case.reach
    both, one = legs.both_missing_after_mm, legs.one_missing_after_mm
    if both is None or one is None or (one <= HEEL_MM and both <= HEEL_MM):
        return []
    severity = "fix" if one > HEEL_MM else "know"
    value = one if severity == "fix" else both
    foam = min(case.bike.seat.foam_mm, round(value - HEEL_MM + 0.5))
    cures = ()
    if foam >= 3 and not case.planned(None, "seat height"):
        cures = tuple(case.providing(f"{foam:g} mm of seat foam off", None, "seat height", foam))
    return [
        BikeFinding(
            id="reach", axle=None, severity=severity,
            what="The rider's feet do not reach" if severity == "fix" else "Both feet do not reach together",
            value=round(value, 0), limit=HEEL_MM, margin=round(HEEL_MM - value, 0), unit="mm",
            why=f"Seat {legs.seat_after_mm:.0f} mm under the rider; the leg is {value:.0f} mm short, soles on.",
            source="inseam of the brief", cures=cures,
        )
    ]  # fmt: skip

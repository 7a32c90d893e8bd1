"""Side stand and centre stand of a machine that stands lower."""

from inclinum.core.bike import attitude
from inclinum.core.bike.changes import StandLeg
from inclinum.core.bike.limits.case import BikeCase, BikeFinding
from inclinum.core.bike.standing_up import stand_of

LESS_DEG = 1.5
"""Our rule: a lean less by more than this lets the machine fall over in wind or on a kick."""


def check(case: BikeCase) -> list[BikeFinding]:
    """Side stand first."""
    return [*_side(case), *_centre(case)]


def _side(case: BikeCase) -> list[BikeFinding]:
    told = stand_of(case.job, case.before, case.after)
    if told is None or told.lean_after_deg >= told.lean_before_deg - LESS_DEG:
        return []
    cures = ()
    shorten = round(told.shortening_mm * 2) / 2
    there = case.bike.stand
    if there is not None and 0 < shorten <= 120:
        already = next(
            (p.change.shorter_mm for p in case.job.plan.changes if p.on and isinstance(p.change, StandLeg)), 0.0
        )
        total = min(already + shorten, 120.0)
        cures = (case.setting(f"Stand {total:g} mm shorter along its leg", StandLeg(shorter_mm=total)),)
    flat = told.lean_after_deg
    return [
        BikeFinding(
            id="stand.lean", end=None, severity="stops" if flat < 2 else "fix",
            what="The machine stands too upright on its side stand", value=round(flat, 1),
            limit=round(told.lean_before_deg, 1), margin=round(flat - told.lean_before_deg, 1), unit="deg",
            why=f"It came down {told.drop_mm:.0f} mm at the stand; on the yard's slope it leans "
            f"{told.lean_after_slope_deg:.1f}°.", source="the stand as measured", cures=cures,
        )
    ]  # fmt: skip


def _centre(case: BikeCase) -> list[BikeFinding]:
    """A lower frame lifts the wheel further on the centre stand."""
    stand = case.bike.centre_stand
    if stand is None:
        return []
    at = case.after.attitude("unladen", case.before)
    x = case.before.pivot[0] * 0.5
    drop = float(attitude.drop_at(x, at.front_drop, at.rear_drop, case.before.bike.wheelbase_mm))
    hanging = case.after.rear.extended_height - case.before.rear.extended_height
    clear = stand.wheel_clear_mm + hanging
    effort = stand.wheel_clear_mm + drop
    if effort <= stand.most_clear_mm:
        return []
    return [
        BikeFinding(
            id="stand.centre", end=None, severity="fix", what="Too heavy to roll on the centre stand",
            value=round(effort, 1), limit=stand.most_clear_mm, margin=round(stand.most_clear_mm - effort, 1), unit="mm",
            why=f"It has to be lifted {drop:.0f} mm more than before; on it the tyre hangs {clear:.0f} mm clear.",
            source="the stand as measured",
        )
    ]  # fmt: skip

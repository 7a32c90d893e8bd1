"""Tyres at full bump, wider, or further out: what is left to arch, guard and unit."""

from inclinum.core.car.attached import TyreGap
from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Finding
from inclinum.core.car.stance import Stance


def left(gap: TyreGap, before: Stance, after: Stance) -> float:
    """Room that is left where it is least, mm.

    Args:
        gap: as it was read with the vehicle as found.
        before, after: of its axle.

    Source: derived here: above, the wheel comes nearer by its travel from where it was read to full bump, and by what
    the tyre has grown in radius; beside, by half of what it is wider and by what it stands further in or out.
    """
    if gap.lies == "above":
        return gap.gap_mm - (after.bump_end - after.baseline) - after.axle.tyre_growth_mm
    half_wider = (after.axle.tyre_wider_mm - before.axle.tyre_wider_mm) / 2
    out = after.axle.wheel_out_mm - before.axle.wheel_out_mm
    return gap.gap_mm - half_wider + (out if gap.lies == "inside" else -out)


def check(case: Case) -> list[Finding]:
    """One finding per gap of which less is left than is to be kept."""
    found = []
    for name, axle, stance in both_axles(case):
        before = case.before.axle(name)
        for n, gap in enumerate(axle.tyre_gaps):
            room = left(gap, before, stance)
            if room >= gap.keep_mm:
                continue
            at = "at full bump" if gap.lies == "above" else "beside it"
            found.append(
                Finding(
                    id=f"tyre_gap.{name}.{n}",
                    axle=name,
                    severity="stops" if room < 0 and left(gap, before, before) >= 0 else "fix",
                    what=f"{name.capitalize()} tyre {'meets' if room < 0 else 'comes near'} {gap.name} {at}",
                    value=room,
                    limit=gap.keep_mm,
                    margin=room - gap.keep_mm,
                    unit="mm",
                    why=f"{left(gap, before, before):.0f} mm were left with the vehicle as it came. A tyre that "
                    "rubs wears "
                    "through, and lifts the arch or the brake line with it. Turned to lock it needs more: look "
                    "there too.",
                    source="gap as read, travel to full bump, size and place of the tyre",
                )
            )
    return found

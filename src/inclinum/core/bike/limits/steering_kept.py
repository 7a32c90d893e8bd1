"""Trail against what it was, and the fork raise that keeps it."""

from inclinum.core.bike.limits.case import BikeCase, BikeCure, BikeFinding
from inclinum.core.quantity.words import signed


def check(case: BikeCase) -> list[BikeFinding]:
    """Only where the brief wants the steering kept."""
    s = case.steering
    changed = s.trail_after_mm - s.trail_before_mm
    if not case.job.brief.keep_steering or s.kept:
        return []
    cures = ()
    if abs(in_half_mm(s.raise_allowed_mm) - s.raise_now_mm) >= 0.5 and case.bike.fork.crown == "double":
        cures = tuple(raised(case, s.raise_allowed_mm))
    left = ""
    if s.clipped:
        left = (
            f" Unchanged trail wants {s.raise_wanted_mm:.1f} mm; {s.clipped_by} allows {s.raise_allowed_mm:.1f}, "
            f"which leaves {signed(s.trail_left_mm, '.1f')} mm of trail."
        )
    slower = "slower and heavier" if changed > 0 else "quicker and lighter"
    return [
        BikeFinding(
            id="steering.trail", axle="front", severity="fix" if cures else "know",
            what=f"Trail {'grows' if changed > 0 else 'shrinks'} by {abs(changed):.1f} mm",
            value=round(s.trail_after_mm, 1), limit=round(s.trail_before_mm, 1), margin=round(-abs(changed), 1),
            unit="mm", why=f"The steering gets {slower}.{left}", source="the brief keeps the steering", cures=cures,
        )
    ]  # fmt: skip


def in_half_mm(length: float) -> float:
    """A raise as tubes are set: to half a millimetre."""
    return round(length * 2) / 2


def raised(case: BikeCase, length: float) -> list[BikeCure]:
    """The plan with the tubes raised so far above the clamp, to half a millimetre; empty where they cannot be."""
    best = in_half_mm(length)
    return case.providing(f"Tubes {best:g} mm above the clamp", "front", "fork raise", best)

"""Side stand and centre stand of a machine that stands lower or higher."""

from inclinum.core.bike.limits.case import BikeCase, BikeCure, BikeFinding

LESS_DEG = 1.5
"""Our rule: a lean less by more than this lets the machine fall over in wind or on a kick."""
MORE_DEG = 3.0
"""Our rule: a lean more by more than this is heavy to lift off, and stands on the edge of what is beside it."""


def check(case: BikeCase) -> list[BikeFinding]:
    """Side stand first."""
    return [*_side(case), *_centre(case)]


def _side(case: BikeCase) -> list[BikeFinding]:
    """A machine that came down stands upright on its leg, one that went up leans over on it."""
    stand = case.stand
    if stand is None:
        return []
    more = stand.lean_after_deg - stand.lean_before_deg
    if -LESS_DEG <= more <= MORE_DEG:
        return []
    upright = more < 0
    went = f"came down {stand.drop_mm:.0f}" if stand.drop_mm >= 0 else f"went up {-stand.drop_mm:.0f}"
    return [
        BikeFinding(
            id="stand.lean", axle=None, severity="stops" if upright and stand.lean_after_deg < 2 else "fix",
            what=f"The machine {'stands too upright' if upright else 'leans too far over'} on its side stand",
            value=round(stand.lean_after_deg, 1), limit=round(stand.lean_before_deg, 1), margin=-round(abs(more), 1),
            unit="deg",
            why=f"It {went} mm at the stand; on the yard's slope it leans {stand.lean_after_slope_deg:.1f}°.",
            source="the stand as measured", cures=_another_leg(case, round(stand.shortening_mm * 2) / 2),
        )
    ]  # fmt: skip


def _another_leg(case: BikeCase, shorter: float) -> tuple[BikeCure, ...]:
    """The leg with which it leans as it did, beside what of it is planned already; none beyond what can be made.

    Args:
        case: as planned.
        shorter: than the leg planned now, mm; negative longer.
    """
    already = case.planned(None, "stand length")
    total = (already[-1].change.size if already else 0.0) + shorter
    length = f"{abs(total):g} mm {'shorter' if total > 0 else 'longer'} along its leg"
    return tuple(case.providing(f"Stand {length}" if total else "Stand as it came", None, "stand length", total))


def _centre(case: BikeCase) -> list[BikeFinding]:
    """A lower frame has to be lifted further; a longer rear end stands on its tyre."""
    stand = case.centre_stand
    if stand is None:
        return []
    clear, more = stand.clear_after_mm, stand.lifted_more_mm
    effort = stand.clear_before_mm + more
    if clear <= 0 < stand.clear_before_mm:
        return [
            _on_centre(
                "stand.centre_short", "The rear tyre stays on the ground on the centre stand", clear, 0.0, clear,
                f"The hanging wheel came {stand.clear_before_mm:.0f} mm clear; the stand is too short now.",
            )
        ]  # fmt: skip
    if effort > stand.most_mm:
        return [
            _on_centre(
                "stand.centre", "Too heavy to roll on the centre stand", effort, stand.most_mm, stand.most_mm - effort,
                f"It has to be lifted {more:.0f} mm more than before; on it the tyre hangs {clear:.0f} mm clear.",
            )
        ]  # fmt: skip
    return []


def _on_centre(key: str, what: str, value: float, limit: float, margin: float, why: str) -> BikeFinding:
    return BikeFinding(
        id=key, axle=None, severity="fix", what=what, value=round(value, 1), limit=limit, margin=round(margin, 1),
        unit="mm", why=why, source="the stand as measured",
    )  # fmt: skip

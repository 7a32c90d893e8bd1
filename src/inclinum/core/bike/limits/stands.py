"""Side stand and centre stand of a machine that stands lower."""

from inclinum.core.bike.limits.case import BikeCase, BikeFinding

LESS_DEG = 1.5
"""Our rule: a lean less by more than this lets the machine fall over in wind or on a kick."""


def check(case: BikeCase) -> list[BikeFinding]:
    """Side stand first."""
    return [*_side(case), *_centre(case)]


def _side(case: BikeCase) -> list[BikeFinding]:
    stand = case.stand
    if stand is None or stand.lean_after_deg >= stand.lean_before_deg - LESS_DEG:
        return []
    cures = ()
    shorten = round(stand.shortening_mm * 2) / 2
    there = case.bike.stand
    if there is not None and 0 < shorten <= 120:
        already = case.planned(None, "stand length")
        total = min((already[-1].change.size if already else 0.0) + shorten, 120.0)
        cures = tuple(case.providing(f"Stand {total:g} mm shorter along its leg", None, "stand length", total))
    flat = stand.lean_after_deg
    return [
        BikeFinding(
            id="stand.lean", axle=None, severity="stops" if flat < 2 else "fix",
            what="The machine stands too upright on its side stand", value=round(flat, 1),
            limit=round(stand.lean_before_deg, 1), margin=round(flat - stand.lean_before_deg, 1), unit="deg",
            why=f"It came down {stand.drop_mm:.0f} mm at the stand; on the yard's slope it leans "
            f"{stand.lean_after_slope_deg:.1f}°.", source="the stand as measured", cures=cures,
        )
    ]  # fmt: skip


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

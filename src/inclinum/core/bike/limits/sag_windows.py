"""Sags against their windows, and the preload or spring that brings them there."""

from inclinum.core.bike.limits.case import BikeCase, BikeCure, BikeFinding
from inclinum.core.bike.machine import ENDS
from inclinum.core.bike.sag import SagBench
from inclinum.core.bike.sprung import SpringChoice


def check(case: BikeCase) -> list[BikeFinding]:
    """Both ends; with nobody on it there is no laden sag to judge."""
    if not case.job.ridden:
        return [
            BikeFinding(
                id="sag.nobody", axle=None, severity="know", what="Nobody rides it yet", value=0.0, limit=1.0,
                margin=-1.0, unit="", source="the brief",
                why="Sag with the rider on cannot be judged: add the rider and what else it carries to the brief.",
            )
        ]  # fmt: skip
    return [f for end in ENDS for f in _end(case, case.sags[end])]


def _end(case: BikeCase, bench: SagBench) -> list[BikeFinding]:
    travel, window = bench.travel_mm, bench.window
    low, high = window.laden_low * travel, window.laden_high * travel
    found = []
    if bench.bottomed:
        found.append(_said(bench, "bottomed", "stops", "sits on its stop with the rider on", bench.laden_mm, high, []))
    elif not bench.laden_ok:
        deep = bench.laden_mm > high
        found.append(
            _said(
                bench, "laden", "fix", f"sags {'too much' if deep else 'too little'} with the rider on",
                bench.laden_mm, high if deep else low, _cures(case, bench),
            )
        )  # fmt: skip
    if bench.verdict in ("too soft", "too stiff"):
        low_u, high_u = window.unladen_low * travel, window.unladen_high * travel
        limit = low_u if bench.verdict == "too soft" else high_u
        name = "Rear" if bench.end == "rear" else "Fork"
        found.append(
            BikeFinding(
                id=f"rate.{bench.end}", axle=bench.end, severity="know",
                what=f"{name} spring {bench.verdict} for this load",
                value=round(bench.unladen_mm, 1), limit=round(limit, 1),
                margin=round(-abs(bench.unladen_mm - limit), 1), unit="mm", why=bench.why,
                source=f"sag window, {window.use}", cures=tuple(_shelf(case, bench)),
            )
        )  # fmt: skip
    return found


def _said(
    bench: SagBench, key: str, severity: str, what: str, value: float, limit: float, cures: list[BikeCure]
) -> BikeFinding:
    name = "Rear" if bench.end == "rear" else "Fork"
    share = 100 * value / bench.travel_mm
    return BikeFinding(
        id=f"sag.{bench.end}.{key}", axle=bench.end, severity=severity, what=f"{name} {what}",  # type: ignore[arg-type]
        value=round(value, 1), limit=round(limit, 1), margin=round(-abs(value - limit), 1), unit="mm",
        why=f"{share:.1f} % of {bench.travel_mm:.0f} mm; wanted {100 * bench.window.laden_low:.0f} to "
        f"{100 * bench.window.laden_high:.0f} %: {bench.window.reason or 'the shop’s window'}.",
        source=f"sag window, {bench.window.use}", cures=tuple(cures),
    )  # fmt: skip


def _cures(case: BikeCase, bench: SagBench) -> list[BikeCure]:
    """The preload (or spacer) for the middle of the window, where it can be set."""
    if bench.end == "rear" and bench.preload_for_target_mm is not None:
        counted = round(bench.preload_for_target_mm, 1)
        if 0 <= counted <= 100:
            turns = (counted - case.bike.preload_mm) / case.bike.damper.collar_pitch_mm
            way = "on" if turns >= 0 else "off"
            title = f"Preload {counted:g} mm, {abs(turns):.1f} turns {way}"
            return case.providing(title, "rear", "rear preload", counted)
    if bench.end == "front" and bench.spacer_for_target_mm is not None:
        spacer = round(bench.spacer_for_target_mm * 2) / 2
        if 0 <= spacer <= 500:
            return case.providing(f"Fork spacers cut to {spacer:g} mm", "front", "fork spacer", spacer)
    return []


def _shelf(case: BikeCase, bench: SagBench) -> list[BikeCure]:
    """Nearest springs of the shelf on both sides that can be set to the target."""
    cures: list[BikeCure] = []
    for choice in (bench.softer, bench.stiffer):
        if choice is not None and choice.preload_possible:
            cures += fitting(case, choice)
    return cures


def fitting(case: BikeCase, choice: SpringChoice) -> list[BikeCure]:
    """The plan with a spring of the shelf, set to the preload it would need."""
    title = f"{choice.part or 'Spring'} {choice.rate_n_per_mm:g} N/mm, preload {choice.preload_mm:.1f} mm"
    return case.providing(title, "rear", "rear spring", (choice.spring, round(choice.preload_mm, 1)))

"""Rules where the shop works, in its own words and numbers: rise of the body, height of the lamps."""

import math

from inclinum.core.car.heights import station_after
from inclinum.core.car.job import LocalLimit
from inclinum.core.car.limits.case import Case
from inclinum.core.car.limits.finding import Finding
from inclinum.core.document.names import AXLES, AxleName


def check(case: Case) -> list[Finding]:
    """One finding per rule and place that the plan breaks."""
    found: list[Finding] = []
    for rule in case.job.brief.local_limits:
        found += _rise(case, rule) if rule.quantity == "rise" else _lamp(case, rule)
    return found


def _rise(case: Case, rule: LocalLimit) -> list[Finding]:
    return [
        _finding(
            case,
            rule,
            f"local_rise.{name}",
            name,
            f"{name.capitalize()} rises more than the local limit",
            rise,
            rise - rule.value_mm,
        )
        for name in AXLES
        if (rise := case.after.axle(name).rise) > rule.value_mm
    ]


def _lamp(case: Case, rule: LocalLimit) -> list[Finding]:
    vehicle = case.after.vehicle
    lamp = vehicle.station(vehicle.headlamp) if vehicle.headlamp else None
    if lamp is None:
        return []
    height = lamp_height(case)
    assert height is not None
    over = height - rule.value_mm if rule.quantity == "lamp_height_max" else rule.value_mm - height
    if over <= 0:
        return []
    where = "above the highest" if rule.quantity == "lamp_height_max" else "below the lowest"
    return [_finding(case, rule, f"local_{rule.quantity}", "front", f"The lamps stand {where} allowed", height, over)]


def lamp_height(case: Case) -> float | None:
    """Planned height of the lamp centre above ground, mm: the tape's where it was taken, else the vehicle's."""
    vehicle = case.after.vehicle
    lamp = vehicle.station(vehicle.headlamp) if vehicle.headlamp else None
    return None if lamp is None else station_after(case.job, case.before, case.after, lamp)


def _finding(case: Case, rule: LocalLimit, key: str, axle: AxleName, what: str, value: float, over: float) -> Finding:
    lower = over if rule.quantity != "lamp_height_min" else -over
    return Finding(
        id=key,
        axle=axle,
        severity="stops",
        what=what,
        value=value,
        limit=rule.value_mm,
        margin=-over,
        unit="mm",
        why=f"The shop's rule: {rule.text}",
        source="entered by the shop; local law and inspection decide",
        # One millimetre inside the limit, so that a part rounded to a whole millimetre still keeps it.
        wanted_rise=case.after.axle(axle).rise - lower - math.copysign(1.0, lower),
    )

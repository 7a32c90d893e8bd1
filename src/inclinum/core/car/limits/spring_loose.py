"""A spring must stay held at full droop, or it leaves its seat."""

import math

from pydantic import ValidationError

from inclinum.core.car.limits.case import Case, each_side, worse_side
from inclinum.core.car.limits.finding import Cure, Finding
from inclinum.core.document.names import AxleName
from inclinum.core.plan import millimetres
from inclinum.core.springs.fitted import Coil

SOFTEST_SHARE = 0.6
"""A spring softer than this share of the fitted one is another car's, and no cure."""
WANTED_MM = 2.0
"""Preload to keep at full droop, mm of spring length."""


def check(case: Case) -> list[Finding]:
    """One finding per axle whose springs are loose, or barely held, at full droop."""
    found = []
    for name, axle, stance in each_side(case):
        if not axle.spring.is_coil:
            continue
        held = float(stance.ride.spring.free_length) - float(stance.ride.spring_at(stance.full_droop))
        if held >= WANTED_MM:
            continue
        spacer = float(max(1, math.ceil(WANTED_MM - held)))
        cures = []
        title = f"{name.capitalize()} spring-seat spacer {millimetres(spacer)} (raises that end)"
        cures += case.adding_more(title, name, "spring room", spacer)
        if axle.coil:
            cures += _longer_springs(case, name, axle.coil, WANTED_MM - held)
        found.append(
            Finding(
                id=f"spring_loose.{name}",
                axle=name,
                severity="fix",
                what=f"{name.capitalize()} springs {'come loose' if held < 0 else 'are barely held'} at full droop",
                value=held,
                limit=WANTED_MM,
                margin=held - WANTED_MM,
                unit="mm",
                why="A loose spring turns in its pocket, knocks, and can come down beside its seat.",
                source="damper extended length and spring free length from their data",
                cures=tuple(cures),
            )
        )
    return worse_side(found)


def _longer_springs(case: Case, name: AxleName, coil: Coil, short: float) -> list[Cure]:
    """A spring that is longer by what is missing and softer by as much, so that it carries the same at ride."""
    stance = case.after.axle(name)
    shortened = coil.free_length_mm - float(stance.ride.spring_at(stance.travel))
    # Where a stop carries part of the load, a spring that carries the same at ride is not what is missing.
    if shortened <= 0 or float(stance.ride.stop_force(stance.travel)) > 0:
        return []
    longer = math.ceil(coil.free_length_mm + short)
    rate = round(coil.rate_n_per_mm * shortened / (shortened + longer - coil.free_length_mm), 1)
    if rate < SOFTEST_SHARE * coil.rate_n_per_mm:
        return []
    try:
        swapped = Coil.model_validate(
            coil.model_dump() | {"free_length_mm": float(longer), "rate_n_per_mm": rate, "part": ""}
        )
    except ValidationError:
        return []
    title = f"{name.capitalize()} springs {longer} mm free, {rate:g} N/mm: same height, held at droop"
    return case.providing(title, name, "coil", swapped)

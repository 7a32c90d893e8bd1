"""Where the centre of gravity stands against the track: a caution with a number, no judgement of what is safe."""

import math

from inclinum.core.car.limits.case import Case
from inclinum.core.car.limits.finding import Finding
from inclinum.core.car.stood import Stood
from inclinum.core.quantity.words import signed

WORTH_SAYING_DEG = 0.5


def tips_at(stood: Stood, height: float) -> float:
    """Slope across at which a rigid vehicle stands on two wheels, degrees: atan(half track over height).

    Source: textbooks of vehicle dynamics, static stability; tyres and springs give way earlier.
    """
    track = (stood.vehicle.front.track_mm + stood.vehicle.rear.track_mm) / 2
    return math.degrees(math.atan2(track / 2, height))


def check(case: Case) -> list[Finding]:
    """One line where the plan changes it by more than half a degree."""
    height = case.before.vehicle.cg_height_mm
    if height is None:
        return []
    rises = case.ground_rises
    raised = height + sum(rises) / 2
    before, after = tips_at(case.before, height), tips_at(case.after, raised)
    if abs(after - before) < WORTH_SAYING_DEG:
        return []
    return [
        Finding(
            id="tipping",
            axle=None,
            severity="know",
            what=f"It would tip at {after:.1f}° of slope, where it tipped at {before:.1f}°",
            value=after,
            limit=before,
            margin=after - before,
            unit="deg",
            why=f"The centre of gravity stands {signed(raised - height, '.0f')} mm higher against half the track. "
            "Springs, tyres and speed tip it sooner than that: drive and load it accordingly."
            if after < before
            else "Lower, or wider: it stands more firmly across a slope than it did.",
            source="height of the centre of gravity from the vehicle's data; rigid body on its tracks",
        )
    ]

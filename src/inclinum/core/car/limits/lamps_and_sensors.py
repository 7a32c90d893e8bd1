"""What a height change drags along for lamps and driver assistance: to know, with the number."""

import math

from inclinum.core.car.limits.case import Case
from inclinum.core.car.limits.finding import Finding
from inclinum.core.kinematics.wheel_angles import pitch_nose_down


def check(case: Case) -> list[Finding]:
    """Lamp aim always, driver assistance where the vehicle has some."""
    vehicle = case.after.vehicle
    rises = case.ground_rises
    if max(abs(r) for r in rises) < 1:
        return []
    pitch = math.degrees(pitch_nose_down(*rises, vehicle.wheelbase_mm))
    drop = 10_000 * math.tan(math.radians(pitch))
    found = [
        Finding(
            id="lamp_aim",
            axle="front",
            severity="know",
            what=f"The lamp beams move {abs(drop):.0f} mm {'down' if drop > 0 else 'up'} at 10 m",
            value=pitch,
            limit=0.0,
            margin=-abs(pitch),
            unit="deg",
            why="Have the headlamp aim set after the heights have settled.",
            source="change of pitch of the body",
        )
    ]
    if vehicle.driver_assist:
        found.append(
            Finding(
                id="driver_assist",
                axle=None,
                severity="know",
                what="Driver-assist sensors look from another height",
                value=max(rises, key=abs),
                limit=0.0,
                margin=-max(abs(r) for r in rises),
                unit="mm",
                why=f"{vehicle.driver_assist} The maker says whether and how they are calibrated again.",
                source="the vehicle's data",
            )
        )
    return found

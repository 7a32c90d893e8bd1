"""What hangs lowest, and the angles the vehicle clears: approach, departure and breakover."""

import math
from dataclasses import dataclass

from inclinum.core.car.heights import station_after, station_before
from inclinum.core.car.job import Job
from inclinum.core.car.stood import Stood
from inclinum.core.car.vehicle import VehicleStation


@dataclass(frozen=True)
class GroundPoint:
    """A place that can touch the ground: height before and as planned, mm."""

    station: VehicleStation
    before: float
    after: float


def ground_points(job: Job, before: Stood, after: Stood) -> list[GroundPoint]:
    """All places a clearance is wanted at, lowest as planned first."""
    found = [
        GroundPoint(
            s, station_before(job, before, before.vehicle.station(s.name) or s), station_after(job, before, after, s)
        )
        for s in after.vehicle.stations
        if s.keep_mm is not None
    ]
    return sorted(found, key=lambda p: p.after)


@dataclass(frozen=True)
class GroundAngles:
    """Degrees; None where no place says how low the body is there."""

    approach: float | None
    departure: float | None
    breakover: float | None


def tangent_deg(ahead: float, height: float, radius: float) -> float:
    """Angle of the ground line that touches a tyre and a place beyond it, degrees.

    Args:
        ahead: of the place from the wheel centre, away from the tyre, mm, more than 0.
        height: of the place above the ground, mm.
        radius: of the tyre, loaded, mm.

    Source: derived here: the line from the place touches the circle of the tyre from below; its angle is that of the
    line to the wheel centre plus asin(radius / distance).

    >>> round(tangent_deg(800, 300, 300), 3)
    22.024
    """
    distance = math.hypot(ahead, height - radius)
    if distance <= radius:
        return 90.0
    return math.degrees(math.asin(radius / distance) + math.atan2(height - radius, ahead))


def ground_angles(heights: dict[str, float], stood: Stood) -> GroundAngles:
    """Of a vehicle whose body stations stand at heights above the ground, mm, by name."""
    vehicle, base = stood.vehicle, stood.vehicle.wheelbase_mm
    places = [(s, heights[s.name]) for s in vehicle.stations if s.on == "body" and s.name in heights]
    front, rear = vehicle.front.tyre_radius_mm, vehicle.rear.tyre_radius_mm
    approach = [tangent_deg(s.x_mm, h, front) for s, h in places if s.x_mm > 0]
    departure = [tangent_deg(-s.x_mm - base, h, rear) for s, h in places if s.x_mm < -base]
    over = [
        tangent_deg(-s.x_mm, h, front) + tangent_deg(s.x_mm + base, h, rear) for s, h in places if -base < s.x_mm < 0
    ]
    return GroundAngles(*(min(some, default=None) for some in (approach, departure, over)))

"""What the rack read, against the model: readings move the angles told, never their change."""

import math

from inclinum.core.car.job import Measurements
from inclinum.core.car.stood import Stood
from inclinum.core.car.vehicle import ANGLES, AngleName
from inclinum.core.document.known import RACK_DEG
from inclinum.core.document.names import SIDES, AxleName, Side
from inclinum.core.quantity import Angle


def rack_offsets(before: Stood, readings: Measurements, axle: AxleName, side: Side) -> dict[AngleName, float]:
    """What the rack read less what the model has at the measured baseline, rad, per angle that was read."""
    read: dict[AngleName, Angle] = {
        a: reading for a in ANGLES if (reading := readings.angle(axle, side, a)) is not None
    }
    if not read:
        return {}
    motion = before.axle(axle).of_side(side).motion(before.pitch)
    offsets: dict[AngleName, float] = {}
    for angle, reading in read.items():
        model = getattr(motion, angle)
        if model is not None:
            offsets[angle] = math.radians(reading.value) - float(model[0])
    return offsets


def mean_offsets(before: Stood, readings: Measurements, axle: AxleName) -> dict[AngleName, float]:
    """The same for an axle as one: the mean of the wheels that were read, rad; an angle nobody read has none."""
    sides = [rack_offsets(before, readings, axle, side) for side in SIDES]
    means_of: dict[AngleName, list[float]] = {q: [s[q] for s in sides if q in s] for q in ANGLES}
    means: dict[AngleName, float] = {q: sum(values) / len(values) for q, values in means_of.items() if values}
    return means


def mean_plus_minus(readings: Measurements, axle: AxleName, angle: AngleName) -> float:
    """± of the mean of the wheels that were read, degrees; 0 where none was: nothing of it comes from a rack."""
    read = [r.plus_minus(RACK_DEG) for side in SIDES if (r := readings.angle(axle, side, angle)) is not None]
    return math.hypot(*read) / len(read) if read else 0.0

"""What the rack read, against the model: readings move the angles told, never their change."""

import math

from inclinum.core.car.job import Measurements
from inclinum.core.car.stood import Stood
from inclinum.core.car.vehicle import ANGLES, AngleName
from inclinum.core.document.names import SIDES, AxleName, Side


def rack_offsets(before: Stood, readings: Measurements, axle: AxleName, side: Side) -> dict[AngleName, float]:
    """What the rack read less what the model has at the measured baseline, rad, per angle that was read."""
    stance = before.axle(axle).of_side(side)
    motion = stance.motion(stance.travel, before.pitch)
    offsets: dict[AngleName, float] = {}
    for angle in ANGLES:
        reading, model = readings.angle(axle, side, angle), getattr(motion, angle)
        if reading is not None and model is not None:
            offsets[angle] = math.radians(reading.value) - float(model[0])
    return offsets


def mean_offsets(before: Stood, readings: Measurements, axle: AxleName) -> dict[AngleName, float]:
    """The same for an axle as one: the mean of the wheels that were read, rad; an angle nobody read has none."""
    sides = [rack_offsets(before, readings, axle, side) for side in SIDES]
    read: dict[AngleName, list[float]] = {q: [s[q] for s in sides if q in s] for q in ANGLES}
    means: dict[AngleName, float] = {q: sum(values) / len(values) for q, values in read.items() if values}
    return means

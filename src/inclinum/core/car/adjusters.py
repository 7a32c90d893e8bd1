"""An axle's adjusters as the solver takes them."""

from inclinum.core.car.vehicle import AdjusterData, ClampAdjuster, LinkAdjuster
from inclinum.core.kinematics.adjusting import Adjuster, Clamp, LinkLength, Slot


def adjuster_of(data: AdjusterData) -> Adjuster:
    """The adjuster of a document."""
    if isinstance(data, LinkAdjuster):
        return LinkLength(data.name, data.outer, data.min_mm, data.max_mm)
    if isinstance(data, ClampAdjuster):
        return Clamp(data.name, data.point, data.bolt_distance_mm, data.min_mm, data.max_mm)
    return Slot(data.name, data.point, data.direction, data.min_mm, data.max_mm)

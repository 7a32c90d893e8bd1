"""An axle's adjusters as the solver takes them."""

from inclinum.core.car.vehicle import (
    AdjusterData,
    ClampAdjuster,
    EccentricAdjuster,
    LinkAdjuster,
    TrackRodAdjuster,
)
from inclinum.core.document.names import AxleName, Side
from inclinum.core.kinematics import AnyLinkage
from inclinum.core.kinematics.adjusting import Adjuster, Clamp, LinkLength, Slot, TrackRod
from inclinum.core.kinematics.axles import steered_axle


def adjuster_of(data: AdjusterData, linkage: AnyLinkage) -> Adjuster:
    """The adjuster of a document, on its axle's linkage."""
    if isinstance(data, TrackRodAdjuster):
        steering = steered_axle(linkage)
        assert steering is not None, "no other axle has one"
        return TrackRod(data.name, steering, data.min_mm, data.max_mm)
    if isinstance(data, LinkAdjuster):
        return LinkLength(data.name, data.outer, data.min_mm, data.max_mm)
    if isinstance(data, ClampAdjuster):
        return Clamp(data.name, data.point, data.bolt_distance_mm, data.min_mm, data.max_mm)
    return Slot(data.name, data.point, data.direction, data.min_mm, data.max_mm)


def setting_key(axle: AxleName, side: Side, name: str) -> str:
    """Under which a wheel's setting of an adjuster is kept and found again."""
    return f"{axle}.{side}.{name}"


def read_of(data: AdjusterData, value: float) -> tuple[str, str, float]:
    """What of an adjuster is read by hand, in which unit, and by how much it moves where it is set to a value, mm."""
    if isinstance(data, EccentricAdjuster):
        return "mark of the eccentric, from the middle", "notches", float(data.turned(value))
    if isinstance(data, LinkAdjuster | TrackRodAdjuster):
        return "length, joint to joint", "mm", value
    return "at its upper bolt" if isinstance(data, ClampAdjuster) else "along its slot", "mm", value

"""An axle whose points have moved on paper: what was only assumed of its springs and dampers moves along.

A fitted hardpoint changes the distance between a spring's seats. While nobody has measured the spring, what it was
assumed to carry stays, and its seats are taken to stand differently; likewise for the damper and its stop.
"""

import numpy as np

from inclinum.core.car.vehicle import Axle
from inclinum.core.kinematics import AnyLinkage
from inclinum.core.springs.fitted import AirSpringData, LeafPackData, TorsionBarData

SPRING, DAMPER, BUMP_STOP = "spring", "damper", "bump_stop"
"""Keys under which :attr:`Axle.known` says that spring, damper or bump stop were measured."""


def retuned(axle: Axle, before: AnyLinkage) -> Axle:
    """The axle, standing under the load it had on the linkage before.

    Args:
        axle: with its new linkage; its spring and damper as they were on the old one.
        before: the old linkage.
    """
    was, now = (k.corner(axle.tyre_radius_mm, 0.0, 0.0).sweep(0.0) for k in (before, axle.linkage))
    changed: dict[str, object] = {}
    if was.spring_length is not None and now.spring_length is not None and not _measured(axle, SPRING):
        longer = float(now.spring_length[0] - was.spring_length[0])
        changed |= _spring(axle, before, longer)
    if was.damper_length is not None and now.damper_length is not None and not _measured(axle, DAMPER):
        longer = float(now.damper_length[0] - was.damper_length[0])
        d = axle.damper
        changed["damper"] = d.model_copy(
            update={"extended_mm": round(d.extended_mm + longer, 2), "closed_mm": round(d.closed_mm + longer, 2)}
        )
    stop = axle.bump_stop
    if was.damper_length is not None and now.damper_length is not None and not _measured(axle, BUMP_STOP):
        longer = float(now.damper_length[0] - was.damper_length[0])
        if stop.contact_mm is not None:
            changed["bump_stop"] = stop.model_copy(update={"contact_mm": round(stop.contact_mm + longer, 2)})
    return axle.model_copy(update=changed)


def _measured(axle: Axle, part: str) -> bool:
    return part in axle.known and axle.known[part].source == "measured"


def _spring(axle: Axle, before: AnyLinkage, longer: float) -> dict[str, object]:
    """Fields that keep the spring at its length (or angle, or arch) when its points are further apart."""
    spring = axle.spring
    if isinstance(spring, TorsionBarData):
        free = spring.free_angle_deg + float(np.degrees(longer))
        return {SPRING: spring.model_copy(update={"free_angle_deg": round(free, 3)})}
    if isinstance(spring, LeafPackData):
        higher = _arch(axle.linkage) - _arch(before)
        return {
            SPRING: spring.model_copy(
                update={
                    "arch_mm": round(spring.arch_mm + higher, 2),
                    "free_arch_mm": round(spring.free_arch_mm + higher, 2),
                }
            )
        }
    if isinstance(spring, AirSpringData) or spring.is_coil:
        return {"spring_offset_mm": round(axle.spring_offset_mm + longer, 2)}
    return {}


def _arch(linkage: AnyLinkage) -> float:
    p = linkage.named_points()
    return float((p["fixed_eye"][2] + p["shackle_eye"][2]) / 2 - p["seat"][2])

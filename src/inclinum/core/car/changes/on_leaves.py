"""What changes of a leaf-sprung axle ask of it."""

import math

from inclinum.core.car.vehicle import Axle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.kinematics.axles import LeafAxle
from inclinum.core.springs.fitted import LeafPackData


def leaf_axle(name: AxleName, axle: Axle) -> LeafAxle:
    """Its linkage.

    Raises:
        DomainError: it is on no leaf packs.
    """
    if not isinstance(axle.linkage, LeafAxle):
        raise DomainError(f"The {name} axle has no leaf packs: {axle.linkage.title.lower()}.")
    return axle.linkage


def pack_of(name: AxleName, axle: Axle) -> LeafPackData:
    """Its packs. Raises as :func:`leaf_axle`."""
    leaf_axle(name, axle)
    assert isinstance(axle.spring, LeafPackData), "an axle on packs has packs"
    return axle.spring


def axle_placed(axle: Axle, placed: LeafAxle, nose_up: float = 0.0) -> dict[str, object]:
    """Fields of an axle whose points now hold with the body at another height.

    Both packs carry what they carried where the points hold; the wheels stand so much lower in the body, and a stop
    between frame and axle is met so much later.

    Args:
        axle: as it was.
        placed: its linkage afterwards.
        nose_up: turn of the axle by it, its front upwards, rad.
    """
    was, now = axle.linkage.named_points()["wheel_centre"][2], placed.named_points()["wheel_centre"][2]
    rise = float(was - now)
    stop = axle.bump_stop
    if stop.contact_travel_mm is not None:
        stop = stop.model_copy(update={"contact_travel_mm": stop.contact_travel_mm + rise})
    return {
        "linkage": placed,
        "hub_to_arch_mm": axle.hub_to_arch_mm + rise,
        "bump_stop": stop,
        "nose_up_deg": axle.nose_up_deg + math.degrees(nose_up),
    }

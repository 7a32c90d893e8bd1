"""What changes of a leaf-sprung axle ask of it."""

import math

from pydantic import Field
from scipy.spatial.transform import Rotation

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.kinematics.axles import LeafAxle
from inclinum.core.plan import millimetres
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
    nosed = Rotation.from_rotvec([0.0, -nose_up, 0.0])
    stop = axle.bump_stop
    if stop.contact_travel_mm is not None:
        stop = stop.model_copy(update={"contact_travel_mm": stop.contact_travel_mm + rise})
    return {
        "linkage": placed,
        "hub_to_arch_mm": axle.hub_to_arch_mm + rise,
        "bump_stop": stop,
        "nose_up_deg": axle.nose_up_deg + math.degrees(nose_up),
        # What hangs on the axle was told on the linkage as it came, and goes along with it.
        "came": axle.came or axle.linkage,
        "turned_rad": tuple((nosed * Rotation.from_rotvec(axle.turned_rad)).as_rotvec().tolist()),
    }


class UBolted(Change):
    """Base of the changes that need other U-bolts."""

    u_bolt_leg_mm: float | None = Field(
        default=None, gt=10, le=1000, title="Leg of the new U-bolts",
        description="from inside the bend; left empty: ordered as long as they have to be",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip

    def u_bolted(self, axle: Axle) -> dict[str, object]:
        """Fields of an axle whose U-bolts are new: of the leg ordered, or as long as they have to be.

        Raises:
            DomainError: a leg, and no data of what the U-bolts go round.
        """
        if axle.u_bolts is None:
            if self.u_bolt_leg_mm is None:
                return {}
            raise DomainError(
                f"What the U-bolts of the {self.axle} axle go round is not known: enter tube, plate and nut with the "
                "vehicle's figures, or leave their leg empty."
            )
        return {"u_bolts": axle.u_bolts.model_copy(update={"leg_mm": self.u_bolt_leg_mm})}

    def needs_once(self, came: Vehicle, planned: Vehicle) -> dict[str, str]:
        """U-bolts, once however many changes ask for them: as long as the axle is in the end; never used twice."""
        before, after = came.axle(self.axle), planned.axle(self.axle)
        more = after.blocks_mm - before.blocks_mm
        if after.u_bolts is not None:
            long = f", leg {self.u_bolt_leg_mm or math.ceil(leg_wanted(after)):g} mm"
        else:
            long = f", {millimetres(more)} longer than those that come off" if more > 0 else ""
        return {"u_bolts": f"4 U-bolts with nuts{long} ({self.axle})"}


def leg_wanted(axle: Axle) -> float:
    """Leg that the U-bolts of a leaf axle need, from inside the bend, mm.

    Args:
        axle: with data of its U-bolts.

    Source: derived here, a sum of lengths: tube as seated + seat + block + pack + plate + washer + nut + three threads.
    """
    u, pack = axle.u_bolts, axle.spring
    assert u is not None, "without data of the U-bolts there is no leg to tell"
    assert isinstance(pack, LeafPackData), "U-bolts hold leaf packs"
    leaves = (
        pack.leaves * pack.thickness_mm
        + (pack.leaves - 1) * pack.liner_mm
        + (pack.helper.thickness_mm if pack.helper else 0.0)
    )
    return u.tube_mm + u.seat_mm + axle.blocks_mm + leaves + u.plate_mm + u.washer_mm + u.nut_mm + 3 * u.pitch_mm

"""Whether spring and damper are one unit, and what changes of it ask."""

from inclinum.core.car.vehicle import Axle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.kinematics.mounts import stand_together


def one_unit(name: AxleName, axle: Axle) -> None:
    """Refuse an axle whose springs stand apart from its dampers, or are none between two seats.

    Raises:
        DomainError: with what it has instead.
    """
    if axle.spring.type in ("leaf_pack", "torsion_bar"):
        raise DomainError(f"The {name} axle has no coil-over: it is sprung by {axle.spring.in_a_sentence}.")
    if not stand_together(axle.linkage):
        raise DomainError(
            f"On the {name} axle spring and damper stand apart: take springs, perches and dampers each for itself."
        )

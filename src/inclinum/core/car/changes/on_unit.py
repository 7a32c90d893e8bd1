"""Whether spring and damper are one unit, and what changes of it ask."""

from inclinum.core.car.stance import stand_together
from inclinum.core.car.vehicle import Axle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName


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


def longer_unit(axle: Axle, by: float) -> dict[str, object]:
    """Fields of an axle whose unit is so much longer between its eyes, its spring and stroke as they were, mm."""
    d, stop = axle.damper, axle.bump_stop
    lengths = {"extended_mm": d.extended_mm + by, "closed_mm": d.closed_mm + by}
    found: dict[str, object] = {
        "damper": d.model_copy(update=lengths),
        "spring_offset_mm": axle.spring_offset_mm + by,
    }
    if stop.contact_mm is not None:
        found["bump_stop"] = stop.model_copy(update={"contact_mm": stop.contact_mm + by})
    if axle.top_out is not None:
        found["top_out"] = axle.top_out.model_copy(update={"contact_mm": axle.top_out.contact_mm + by})
    return found

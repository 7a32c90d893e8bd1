"""What the brief wants of an end, as the drop of the body there that meets it, however it was said."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

from inclinum.core.bike.machine import End
from inclinum.core.kinematics import attitude
from inclinum.core.quantity.words import signed

if TYPE_CHECKING:  # the limits ask for aims, and a case is what limits look at
    from inclinum.core.bike.limits.case import BikeCase


@dataclass(frozen=True)
class AimedDrop:
    """An aim of one end, told as a drop.

    Args:
        drop: of the body at the axle station, rider on, that meets it, mm; with the other end as it is planned.
        said: the aim in words, for a sentence that begins with “The brief wants”.
        near: how near counts as met at what is wanted, mm.
        at_least: whether lower is as good.
        per_mm: drop of this end per mm at what is wanted.
    """

    drop: float
    said: str
    near: float
    at_least: bool = False
    per_mm: float = 1.0

    @property
    def within(self) -> float:
        """How near counts as met, mm of drop."""
        return self.near * self.per_mm

    def missed(self, drop: float) -> float:
        """How much too low a drop is, negative too high, mm; 0 where lower is as good."""
        over = drop - self.drop
        return min(over, 0.0) if self.at_least else over

    def met(self, drop: float) -> bool:
        """Whether a drop is near enough."""
        return abs(self.missed(drop)) <= self.within


def aimed(case: "BikeCase", end: End) -> AimedDrop | None:
    """What is wanted of an end; None where nothing is.

    Source: derived here: the seat moves with the rear by its share of the wheelbase.
    """
    brief = case.job.brief
    if end == "rear" and brief.rear_by != "drop":
        return _by_seat(case)
    drop = brief.aim(end)
    if drop is None:
        return None
    said = f"{signed(drop.value, '.0f')} mm of drop, rider on"
    return AimedDrop(drop.value, said, drop.tolerance or brief.tolerance_mm)


def _by_seat(case: "BikeCase") -> AimedDrop:
    brief, legs = case.job.brief, case.reach
    part = float(attitude.drop_at(case.bike.seat.x_mm, 0.0, 1.0, case.before.bike.wheelbase_mm))
    if brief.rear_by == "seat":
        assert brief.seat_wanted is not None, "an aim by the seat has its height"
        wanted, near = brief.seat_wanted.value, brief.seat_wanted.tolerance or brief.tolerance_mm
        lower = (legs.seat_after_mm - wanted) / part
        said = f"the seat {wanted:.0f} mm above the ground, rider on"
        return AimedDrop(case.rear_drop + lower, said, near, per_mm=1 / part)
    missing = legs.both_missing_after_mm if brief.rear_by == "both_feet" else legs.one_missing_after_mm
    assert missing is not None, "feet that are to reach have legs"
    whose = "both feet" if brief.rear_by == "both_feet" else "one foot, leaning,"
    drop = case.rear_drop + missing / part
    return AimedDrop(drop, f"{whose} flat on the ground", brief.tolerance_mm, at_least=True, per_mm=1 / part)

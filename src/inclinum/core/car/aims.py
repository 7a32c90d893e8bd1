"""What the brief wants of an end, as the rise of the body there that meets it, however it was said."""

import math
from dataclasses import dataclass, replace

from inclinum.core.car.heights import (
    arch_to_ground_before,
    hub_to_arch_before,
    station_after,
    station_before,
    tyre_to_arch_before,
)
from inclinum.core.car.job import Job
from inclinum.core.car.stood import Stood
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.quantity.words import signed

ROOF_SHARE = 0.8
"""A place lower than this share of the body's outline is not what a vehicle fits under a beam by."""
LEAST_PART = 0.25
"""A station moves with an end by its share of the wheelbase: with less than this it is the other end's."""


@dataclass(frozen=True)
class Aimed:
    """An aim of one end, told as a rise.

    Args:
        rise: of the body against the measured baseline that meets it, mm; where it hangs on the other end, on that
            as it is planned.
        said: the aim in words, for a sentence that begins with “The brief wants”.
        at_most: whether lower is as good.
        per_mm: rise of this end per mm at what is wanted.
        within: how near counts as met, mm of rise.
        near: the same in words, at what is wanted.
    """

    rise: float
    said: str
    at_most: bool = False
    per_mm: float = 1.0
    within: float = 0.0
    near: str = ""

    def missed(self, rise: float) -> float:
        """How much too high a rise is, negative too low, mm; 0 where lower is as good."""
        over = rise - self.rise
        return max(over, 0.0) if self.at_most else over

    def met(self, rise: float) -> bool:
        """Whether a rise is near enough."""
        return abs(self.missed(rise)) <= self.within


def aimed(job: Job, before: Stood, after: Stood, name: AxleName) -> Aimed | None:
    """What is wanted of an end; None where nothing is.

    Bigger tyres raise arch and stations beside what the suspension does, and eat into the gap above them.

    Raises:
        DomainError: a station that the vehicle does not have, or that stands over the other axle.
    """
    aim = job.brief.aim(name)
    if aim.by == "none":
        return None
    found = _as_a_rise(job, before, after, name)
    if aim.by == "rake" and aim.rake is not None and aim.rake.tolerance:
        off = aim.rake.tolerance
        return replace(found, within=job.vehicle.wheelbase_mm * math.tan(math.radians(off)), near=f"±{off:g}°")
    return replace(found, within=aim.within_mm * found.per_mm, near=f"±{aim.within_mm:g} mm")


def _as_a_rise(job: Job, before: Stood, after: Stood, name: AxleName) -> Aimed:
    """What is wanted of an end that something is wanted of, however near to it."""
    aim = job.brief.aim(name)
    growth = after.axle(name).axle.tyre_growth_mm - before.axle(name).axle.tyre_growth_mm
    if aim.by == "rise":
        return Aimed(aim.rise.value, f"{signed(aim.rise.value, '.0f')} mm")
    if aim.by == "rake":
        assert aim.rake is not None, "an aim by a rake has its angle"
        return _raked(before, after, name, aim.rake.value, growth)
    wanted = aim.mean_height
    assert wanted is not None, "an aim by a height has that height"
    if aim.by == "sag":
        # The wheel stands so far above where its damper, strap or top-out ends droop on the planned parts.
        planned = after.axle(name)
        return Aimed(planned.baseline - planned.full_droop - wanted, f"{wanted:.0f} mm of sag from full droop")
    if aim.by == "fits_under":
        return _under(job, before, after, name, wanted, growth)
    if aim.by == "hub_to_arch":
        return Aimed(wanted - hub_to_arch_before(before, name), f"{wanted:.0f} mm from hub to arch")
    if aim.by == "arch_to_ground":
        rise = wanted - arch_to_ground_before(before, name) - growth
        return Aimed(rise, f"the {name} arch {wanted:.0f} mm above the ground")
    if aim.by == "tyre_to_arch":
        rise = wanted - tyre_to_arch_before(job, before, name) + growth
        return Aimed(rise, f"{wanted:.0f} mm between tyre and arch")
    return _at_station(job, before, after, name, aim.station, wanted, growth)


def told(job: Job, before: Stood, after: Stood, name: AxleName) -> tuple[Aimed | None, str]:
    """What is wanted of an end, and why it cannot be told as a rise: a sentence, empty where it can.

    A brief that names what the vehicle does not have judges nothing; everything else is worked out all the same.
    """
    try:
        return aimed(job, before, after, name), ""
    except DomainError as no:
        return None, str(no)


def _raked(before: Stood, after: Stood, name: AxleName, rake_deg: float, growth: float) -> Aimed:
    other: AxleName = "rear" if name == "front" else "front"
    over = after.vehicle.wheelbase_mm * math.tan(math.radians(rake_deg))
    stands = arch_to_ground_before(before, other) + after.axle(other).ground_rise
    wanted = stands + (over if name == "rear" else -over)
    which = "level" if not rake_deg else f"{abs(rake_deg):g}° nose {'down' if rake_deg > 0 else 'up'}"
    return Aimed(wanted - arch_to_ground_before(before, name) - growth, f"it {which} from arch to arch")


def _under(job: Job, before: Stood, after: Stood, name: AxleName, wanted: float, growth: float) -> Aimed:
    """The highest station of the body that moves with this end, at most so high; lower is as good."""
    top = max((z for _, z in after.vehicle.drawn.body), default=0.0)
    there = [
        (station_after(job, before, after, s), s)
        for s in after.vehicle.stations
        if s.on == "body" and s.height_mm >= ROOF_SHARE * top and _part(before, name, s.x_mm) >= LEAST_PART
    ]
    if not there:
        raise DomainError(
            f"Nothing says how high this vehicle is at its {name}: enter its highest place (roof, rack, aerial) as a "
            "station of the vehicle, with its height, or aim at something else."
        )
    _, highest = max(there, key=lambda t: t[0])
    found = _at_station(job, before, after, name, highest.name, wanted, growth)
    said = f"it to fit under {wanted:.0f} mm (“{highest.name}” is its highest place)"
    return replace(found, said=said, at_most=True)


def _part(before: Stood, name: AxleName, x_mm: float) -> float:
    """Of what an axle does, the part that a place moves by."""
    behind = -x_mm / before.vehicle.wheelbase_mm
    return 1 - behind if name == "front" else behind


def _at_station(
    job: Job, before: Stood, after: Stood, name: AxleName, station: str, wanted: float, growth: float
) -> Aimed:
    place = before.vehicle.station(station)
    if place is None:
        raise DomainError(
            f"The brief wants a height at “{station}”, which is none of this vehicle's stations: choose another there."
        )
    part = _part(before, name, place.x_mm)
    if part < LEAST_PART:
        raise DomainError(
            f"“{station}” moves by {100 * part:.0f} % of what the {name} axle does: give its height as an aim of the "
            "other end."
        )
    other = after.axle("rear" if name == "front" else "front").ground_rise
    moved = wanted - station_before(job, before, place) - (1 - part) * other
    return Aimed(moved / part - growth, f"“{station}” {wanted:.0f} mm above the ground", per_mm=1 / part)

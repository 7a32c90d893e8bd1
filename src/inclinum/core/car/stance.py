"""How an axle stands: its document turned into a ride corner, its load inferred, its ride point found.

Travel here is the linkage's own: zero where the hardpoints hold. Results are told relative to the
*measured baseline*, which is where the tape found the body.
"""

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np

from inclinum.core.car.vehicle import Axle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import Side
from inclinum.core.equilibrium.corner import Damper, RideCorner, Window, frequency
from inclinum.core.kinematics import Corner, Linkage, Motion, corner_of
from inclinum.core.kinematics.length_curve import SampledLength
from inclinum.core.kinematics.mounts import share_a_mount
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.quantity.root import root
from inclinum.core.springs import Toleranced

RANGE_MM = 200.0
"""Travel looked through on both sides of the reference height."""


def axle_corner(axle: Axle) -> Corner:
    """The left corner of an axle."""
    camber, toe = float(np.radians(axle.camber_deg)), float(np.radians(axle.toe_deg))
    return corner_of(axle.linkage, axle.tyre_radius_mm, camber, toe)


@lru_cache(maxsize=256)
def _curves(linkage: Linkage, held: float = 0.0) -> tuple[SampledLength, SampledLength]:
    """Spring and damper lengths over everything the linkage can reach; remembered per geometry.

    Args:
        linkage: one axle's.
        held: how much higher the spring holds the body than its length says, mm.
    """
    if held:
        spring, damper = _curves(linkage)  # pyright: ignore[reportArgumentType] (hashable)
        return held_higher(spring, held), damper
    corner = linkage.corner(300.0, 0.0, 0.0)
    within = corner.body.travel_range(-RANGE_MM, RANGE_MM)
    motion = corner.sweep(np.linspace(within.low, within.high, 41))
    keep = motion.reachable
    assert motion.spring_length is not None, "an axle has a spring"
    assert motion.spring_ratio is not None
    assert motion.damper_length is not None, "an axle has a damper"
    assert motion.damper_ratio is not None
    # What ends the travel of a length: where it stops falling, no equilibrium can be told from its force.
    middle = int(np.argmin(np.abs(motion.travel)))
    falls = keep & (motion.spring_ratio > LEAST_RATIO * abs(motion.spring_ratio[middle])) & (motion.damper_ratio > 0)
    keep = _run_around(falls, middle)
    return (
        SampledLength(motion.travel[keep], motion.spring_length[keep], motion.spring_ratio[keep]),
        SampledLength(motion.travel[keep], motion.damper_length[keep], motion.damper_ratio[keep]),
    )


LEAST_RATIO = 0.05
"""Below this share of its ratio at the reference height a spring hardly moves with the wheel any more."""


def _run_around(ok: np.ndarray, index: int) -> np.ndarray:
    """The unbroken run of true values that holds an index."""
    if not ok[index]:
        raise NoRidePoint("The spring or the damper gets longer in bump: one of its ends is on the wrong side.")
    low = high = index
    while low > 0 and ok[low - 1]:
        low -= 1
    while high + 1 < ok.size and ok[high + 1]:
        high += 1
    run = np.zeros_like(ok)
    run[low : high + 1] = True
    return run


GRID_MM = 5.0


@lru_cache(maxsize=256)
def motion_over_reach(corner: Corner, low: float, high: float) -> Motion:
    """Motion with the body level at every few millimetres between two travels, remembered per corner."""
    return corner.sweep(np.linspace(low, high, 1 + round((high - low) / GRID_MM)))


def ride_corner(axle: Axle, force_factor: float = 1.0) -> RideCorner:
    """Spring, damper and stop of an axle on its linkage.

    Args:
        axle: as it is fitted.
        force_factor: what the fitted spring really carries, by the scales, as a share of what its data say.
    """
    held = axle.levelled_mm + axle.stated_mm
    spring_length, damper_length = _curves(axle.linkage, held)  # pyright: ignore[reportArgumentType] (hashable)
    # A spacer on top takes from the spring only where spring and damper share that mount.
    shared = share_a_mount(axle.linkage)
    stop = axle.bump_stop
    return RideCorner(
        spring_length=spring_length,
        damper_length=damper_length,
        spring=axle.spring.spring() if force_factor == 1 else Toleranced(axle.spring.spring(), force_factor),
        damper=Damper(
            axle.damper.open_mm, axle.damper.closed_mm, -np.inf if stop.contact_mm is None else stop.contact_mm
        ),
        stop=stop.stop(),
        spring_room_taken=axle.spring_offset_mm
        + axle.seat_spacer_mm
        + (axle.top_spacer_mm if shared else 0.0)
        - axle.tired,
        damper_room_taken=axle.top_spacer_mm,
        search=(
            float(spring_length.travel[0]) + max(0.0, held),
            float(spring_length.travel[-1]) + min(0.0, held),
        ),
        stop_travel=stop.contact_travel_mm,
        top_out=axle.top_out.top_out() if axle.top_out else None,
        bush_rate=axle.bush_rate_n_per_mm,
    )


def held_higher(length: SampledLength, by: float) -> SampledLength:
    """A spring that holds the body so much higher under any load, mm: its length over travel begins so much earlier.

    What a level valve does by its pressure, and what is only stated, moves the ride point by just that.
    """
    return SampledLength(length.travel - by, length.lengths, length.ratios)


@dataclass(frozen=True)
class Stance:
    """One axle at rest under its load."""

    axle: Axle
    corner: Corner
    ride: RideCorner
    baseline: float
    """Linkage travel of the measured baseline, mm."""
    travel: float
    """Linkage travel of the ride point, mm."""
    load: float
    """Sprung load at one wheel, N."""
    force_factor: float = 1.0
    """Force of the spring that was fitted when it was weighed, as a share of what its data say."""
    raised: float = 0.0
    """How much higher the body stands where these hardpoints hold than where those it came with do, mm."""

    def of_side(self, side: Side) -> "Stance":
        """The same travel and load on the linkage of one side, where the sides differ."""
        axle = self.axle.of_side(side)
        if axle is self.axle:
            return self
        return replace(self, axle=axle, corner=axle_corner(axle), ride=ride_corner(axle, self.factor_for(axle)))

    def raised_on(self, axle: Axle) -> float:
        """How much higher the body stands where the hardpoints of the axle after changes hold, mm.

        Travel counts from there: so much more of it leads to the measured baseline.
        """
        return self.raised + axle.hub_to_arch_mm - self.axle.hub_to_arch_mm

    def baseline_on(self, axle: Axle) -> float:
        """Linkage travel of the measured baseline on the axle after changes, mm."""
        return self.baseline + self.raised_on(axle) - self.raised

    @property
    def lift(self) -> float:
        """Body at this axle against its reference height above the ground, mm up."""
        return self.raised - self.travel + self.axle.tyre_growth_mm

    def load_on(self, axle: Axle) -> float:
        """Sprung load at one wheel of the axle after changes, N: what was put on or taken off counts."""
        return self.load + (axle.carried_kg - self.axle.carried_kg) * GRAVITY

    def factor_for(self, axle: Axle) -> float:
        """The force factor of an axle after changes: another spring is taken by its data."""
        return self.force_factor if keeps_springs(self.axle, axle) else 1.0

    @cached_property
    def window(self) -> Window:
        """Window of travel, linkage travel, mm."""
        return self.ride.window()

    @property
    def rise(self) -> float:
        """Body rise against the measured baseline, mm."""
        return self.baseline - self.travel

    @property
    def ground_rise(self) -> float:
        """The same against the ground, other tyres counted, mm."""
        return self.rise + self.axle.tyre_growth_mm

    @property
    def wheel_rate(self) -> float:
        """At the ride point, N/mm."""
        return float(self.ride.wheel_rate(self.travel))

    @property
    def frequency(self) -> float:
        """Undamped, at the ride point, Hz."""
        return float(frequency(self.wheel_rate, self.load))

    @property
    def bump_end(self) -> float:
        """Linkage travel where the stop is solid, or the damper closed if that comes first, mm."""
        return self.window.bump_limit if self.window.bump_limit is not None else self.ride.search[1]

    @property
    def full_droop(self) -> float:
        """Linkage travel where the damper is fully extended, mm."""
        return self.window.droop_limit if self.window.droop_limit is not None else self.ride.search[0]

    def motion(self, pitch: float = 0.0) -> Motion:
        """Angles where it stands, one pose."""
        return _motion_at(self.corner, float(self.travel), float(pitch))


@lru_cache(maxsize=64)
def _motion_at(corner: Corner, travel: float, pitch: float) -> Motion:
    """Remembered: while a change is dragged, the vehicle as it came is asked again and again."""
    return corner.sweep(np.array([travel]), pitch)


def keeps_springs(was: Axle, now: Axle) -> bool:
    """Whether the springs an axle had are still in it: a new pair of the same kind is another pair."""
    return now.spring.is_same_part(was.spring) and now.renewed == was.renewed


class NoRidePoint(DomainError):  # noqa: N818 (a finding, told to people as a sentence)
    """Nothing in the reachable travel carries the load; the message names the axle and the way out."""


def baseline_travel(axle: Axle, hub_to_arch: float | None) -> float:
    """Linkage travel at the measured height: a lower body means the wheel is further up in it, mm."""
    return 0.0 if hub_to_arch is None else axle.hub_to_arch_mm - hub_to_arch


def inferred_load(axle: Axle, baseline: float) -> float:
    """Sprung load at a wheel from the fitted spring and the measured height, N."""
    return float(ride_corner(axle).wheel_force(baseline))


def length_lost(axle: Axle, baseline: float, as_new: float) -> float | None:
    """What fitted springs have lost of their length, mm or rad, where they should hold the body elsewhere.

    They carry at the measured height what their data carry at the height with healthy springs: the load is the same.

    Args:
        axle: as its data say.
        baseline: linkage travel at the measured height, mm.
        as_new: linkage travel at the height with healthy springs, mm.

    Returns:
        None where no such spring loses so much.
    """
    load = inferred_load(axle, as_new)
    most = axle.spring.coordinate.most_lost

    def missing(lost: float) -> float:
        return inferred_load(axle.model_copy(update={"tired": lost}), baseline) - load

    return root(missing, -most, most) if missing(-most) * missing(most) < 0 else None


def factor_to_carry(axle: Axle, baseline: float, load: float) -> float | None:
    """Share of its data's force at which the fitted spring carries a weighed load at the measured height.

    The wheel's force is a straight line over the factor; None where the spring has no part in it.
    """
    without = float(ride_corner(axle, 0.0).wheel_force(baseline))
    of_spring = inferred_load(axle, baseline) - without
    return None if of_spring < LEAST_SPRING_N else (load - without) / of_spring


LEAST_SPRING_N = 20.0
"""A spring that carries less at the measured height tells nothing about its force."""


def stand(
    axle: Axle, baseline: float, load: float, name: str, force_factor: float = 1.0, raised: float = 0.0
) -> Stance:
    """The stance of an axle under a load.

    Raises:
        NoRidePoint: the spring cannot carry the load anywhere the linkage reaches.
    """
    ride = ride_corner(axle, force_factor)
    travel = float(ride.ride_travel(load))
    if np.isnan(travel):
        if ride.wheel_force(ride.search[0]) > load:
            reason = "the springs push the wheels past the end of their reach; use a softer or shorter spring"
        else:
            reason = "the springs cannot carry the load before the linkage ends; use a stiffer or longer spring"
        raise NoRidePoint(f"The {name} axle finds no ride height: {reason}.")
    return Stance(axle, axle_corner(axle), ride, baseline, travel, load, force_factor, raised)

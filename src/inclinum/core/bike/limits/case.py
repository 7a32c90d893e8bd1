"""The planned machine as the limits look at it, and what they say."""

from dataclasses import dataclass, replace
from functools import cached_property

from inclinum.core import plan
from inclinum.core.bike.changes import BIKE_CHANGES, BikeChange, PlannedBikeChange, apply_all
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.machine import ENDS, Bike, End
from inclinum.core.bike.sag import SagBench
from inclinum.core.bike.stance import Attitude, BikeStance, standing_of
from inclinum.core.bike.stands_and_reach import (
    CentreStandEffort,
    RiderReach,
    StandLean,
    centre_stand_of,
    reach_of,
    stand_of,
)
from inclinum.core.bike.steering import Steering
from inclinum.core.plan import PlanEdits, Search


class BikeCure(plan.Cure[PlannedBikeChange]):
    """A way out: the whole plan as it would be with one press."""


class BikeFinding(plan.Finding[BikeCure]):
    """One landmark or margin."""


@dataclass(frozen=True)
class BikeCase(PlanEdits[BikeChange, PlannedBikeChange, BikeCure]):
    """Before and after of one plan."""

    job: BikeJob
    before: BikeStance
    after: BikeStance
    attitude: Attitude
    """Planned, laden."""
    sags: dict[End, SagBench]
    steering: Steering
    ways: bool = True
    """Whether a height that is missed is searched for what reaches it."""

    kinds = BIKE_CHANGES
    planned_type = PlannedBikeChange
    cure_type = BikeCure

    @property
    def changes(self) -> tuple[PlannedBikeChange, ...]:
        """The stack."""
        return self.job.plan.changes

    def started(self, kind: type[BikeChange], where: str | None) -> BikeChange:
        """On the machine as planned."""
        _ = where
        return kind.start(self.bike)

    def searched(self, change: BikeChange, where: str | None) -> Search | None:
        """On the machine as planned."""
        _ = where
        return change.search(self.bike)

    @cached_property
    def stand(self) -> StandLean | None:
        """On the side stand."""
        return stand_of(self.job, self.before, self.after)

    @cached_property
    def centre_stand(self) -> CentreStandEffort | None:
        """On the centre stand."""
        return centre_stand_of(self.before, self.after)

    @cached_property
    def reach(self) -> RiderReach:
        """The rider's feet."""
        return reach_of(self.job, self.before, self.after)

    @property
    def rear_drop(self) -> float:
        """Of the body at the rear axle station, planned against before, rider on; down positive, mm."""
        was, now = (s.drops("laden", self.before)[1] for s in (self.before, self.after))
        return now - was

    def rise(self, end: End) -> float:
        """Of the body at an axle station, planned against before, rider on, mm."""
        was, now = (s.drops("laden", self.before)[ENDS.index(end)] for s in (self.before, self.after))
        return was - now

    @property
    def bike(self) -> Bike:
        """As planned."""
        return self.after.bike

    def trying(self, cure: BikeCure) -> "BikeCase":
        """The same case with a cure's plan, before anything is told of it.

        Raises:
            ValueError: a change that this machine cannot take.
        """
        bike = apply_all(self.before.bike, cure.changes)
        # Found from the machine as it came: while a plan is dragged its cures stay the same, and are remembered.
        return replace(self, after=standing_of(bike, self.after.loads, self.before.rear.sweep))

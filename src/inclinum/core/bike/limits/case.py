"""The planned machine as the limits look at it, and what they say."""

from dataclasses import dataclass, replace
from functools import cached_property

from inclinum.core import plan
from inclinum.core.bike.changes import BikeChange, PlannedBikeChange, apply_all, unused_id
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.machine import Bike, End
from inclinum.core.bike.sag import SagBench
from inclinum.core.bike.stance import Attitude, Standing
from inclinum.core.bike.standing_up import CentreStandTold, ReachTold, StandLean, centre_stand_of, reach_of, stand_of
from inclinum.core.bike.steering import Steering


class BikeCure(plan.Cure[PlannedBikeChange]):
    """A way out: the whole plan as it would be with one press."""


class BikeFinding(plan.Finding[BikeCure]):
    """One landmark or margin."""


@dataclass(frozen=True)
class BikeCase:
    """Before and after of one plan."""

    job: BikeJob
    before: Standing
    after: Standing
    attitude: Attitude
    """Planned, laden."""
    sags: dict[End, SagBench]
    steering: Steering

    @cached_property
    def stand(self) -> StandLean | None:
        """On the side stand."""
        return stand_of(self.job, self.before, self.after)

    @cached_property
    def centre_stand(self) -> CentreStandTold | None:
        """On the centre stand."""
        return centre_stand_of(self.before, self.after)

    @cached_property
    def reach(self) -> ReachTold:
        """The rider's feet."""
        return reach_of(self.job, self.before, self.after)

    @property
    def rear_drop(self) -> float:
        """Of the body at the rear axle station, planned against before, rider on; down positive, mm."""
        was, now = (s.drops("laden", self.before)[1] for s in (self.before, self.after))
        return now - was

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
        return replace(self, after=Standing(bike, self.after.loads, self.after.rear.swing))

    def setting(self, title: str, change: BikeChange) -> BikeCure:
        """The plan with a change of this kind set so: in place of one that is there, or added at the end."""
        stack = self.job.plan.changes
        there = next((p for p in stack if p.on and type(p.change) is type(change)), None)
        if there is not None:
            new = there.model_copy(update={"change": change})
            return BikeCure(title=title, changes=tuple(new if p.id == there.id else p for p in stack))
        added = PlannedBikeChange.model_validate({"id": unused_id(stack), "on": True, "change": change})
        return BikeCure(title=title, changes=(*stack, added))

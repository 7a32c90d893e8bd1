"""What nobody measured of a two-wheeler: a stop that rests on an archetype's guess is told so, and stops no plan alone.

A machine set up from an archetype has that archetype's numbers until somebody types others: a part that is still as
the archetype made it is assumed.
"""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property, lru_cache
from operator import attrgetter
from typing import Any

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.limits.case import BikeCase, BikeFinding
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.stance import BikeStance
from inclinum.core.plan.finding import assumed


@dataclass(frozen=True, eq=False)
class Part:
    """Something a limit lies at.

    Args:
        reading: what settles it, in words.
        at: where the machine has it.
        planned: whether the plan can bring another one, with its own figure.
        met_by: what a change provides that brings another one, where a figure that differs is not proof of that.
    """

    reading: str
    at: str
    planned: bool = False
    met_by: str = ""

    @cached_property
    def of(self) -> Callable[[Bike], Any]:
        """Looks it up on a machine. Raises AttributeError where it has no such part."""
        return attrgetter(self.at)

    def there(self, came: Bike) -> bool:
        """Whether the machine has such a part at all."""
        try:
            return self.of(came) not in (None, ())
        except AttributeError:
            return False

    def assumed(self, case: BikeCase) -> bool:
        """Whether it is still the archetype's guess."""
        if self.met_by and any(p.on and p.change.provides == self.met_by for p in case.changes):
            return False
        return self.guessed(case.bike) if self.planned else self in _guesses(case.before)

    def guessed(self, bike: Bike) -> bool:
        """Whether a machine has the archetype's guess there."""
        guess = _guessed(bike.archetype)
        if guess is None:
            return False
        try:
            return self.of(bike) == self.of(guess)
        except AttributeError:  # another kind of fork spring, or none of what the archetype has: somebody said so
            return False


@lru_cache(maxsize=64)
def _guessed(archetype: str) -> Bike | None:
    kind = BIKES.get(archetype)
    return None if kind is None else kind.bike("x")


SPRING_STROKE = Part("the rear spring's stroke until its coils touch", "spring.stroke_mm", planned=True)
MOST_PRELOAD = Part("the preload the spring's maker allows", "spring.max_preload_mm", planned=True)
FORK_SOLID = Part("the fork spring's solid length", "fork.springs.left.solid_length_mm", planned=True)
FORK_PRELOAD = Part("the preload the fork springs' maker allows", "fork.springs.max_preload_mm", planned=True)
CLAMP_TO = Part("where the clamp zone of the tubes ends", "fork.raise_most_mm")
BOTTOMED = Part("the clearance with the fork bottomed", "fork.bottomed_clearance_mm")
THREAD = Part("the thread inside the clevis", "damper.clevis.thread_mm", met_by="eye thread")
THREAD_NEEDED = Part("the thread the clevis needs", "damper.clevis.least_thread_mm", met_by="eye thread")
GAPS = Part("the gaps at full bump", "far_ends")
STAND = Part("foot, reach and splay of the side stand", "stand")
CENTRE = Part("the tyre's height on the centre stand", "centre_stand")
CLEARANCES = Part("the heights of what is near the ground", "clearances")
SEAT = Part("the seat's height", "seat")

RESTS_ON: dict[str, tuple[Part, ...]] = {
    "rear.coils": (SPRING_STROKE,),
    "preload.rear.More": (MOST_PRELOAD,),
    "preload.front.More": (FORK_PRELOAD,),
    "fork.coils": (FORK_SOLID,),
    "fork.zone": (CLAMP_TO,),
    "fork.bottomed": (BOTTOMED,),
    "clevis": (THREAD, THREAD_NEEDED),
    "gap.": (GAPS,),
    "stand.lean": (STAND,),
    "stand.centre": (CENTRE,),
    "ground.": (CLEARANCES,),
    "reach": (SEAT,),
}
"""By how a finding's id begins: the parts its number rests on."""
PARTS = tuple(dict.fromkeys(p for parts in RESTS_ON.values() for p in parts))


@lru_cache(maxsize=32)
def _guesses(came: BikeStance) -> frozenset[Part]:
    """Parts that are still the archetype's on a machine as it came: while its plan is dragged they stay so."""
    return frozenset(p for p in PARTS if p.guessed(came.bike))


@lru_cache(maxsize=256)
def _rests_on(finding: str) -> tuple[Part, ...]:
    return next((parts for start, parts in RESTS_ON.items() if finding.startswith(start)), ())


def unmeasured(case: BikeCase) -> list[str]:
    """What the limits were checked against and nobody gave, as one sentence; none where all is known."""
    wanted = "; ".join(p.reading for p in PARTS if p.there(case.before.bike) and p.assumed(case))
    return [f"{wanted[:1].upper()}{wanted[1:]}."] if wanted else []


def told_as_assumed(case: BikeCase, finding: BikeFinding) -> BikeFinding:
    """The finding as it is; or, where a part it rests on is assumed, saying so and stopping nothing alone."""
    readings = tuple(p.reading for p in _rests_on(finding.id) if p.assumed(case))
    return assumed(finding, readings, "machine")

"""The planned vehicle as the limits look at it, and the plan edits their cures are made of."""

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from inclinum.core.car.changes import CHANGE_TYPES, Change, PlannedChange
from inclinum.core.car.corner_weights import by_its_side
from inclinum.core.car.job import Job
from inclinum.core.car.limits.finding import Cure, Finding
from inclinum.core.car.stance import Stance
from inclinum.core.car.stood import Stood
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AXLES, SIDES, AxleName, Side
from inclinum.core.kinematics.wheel_angles import pitch_nose_down
from inclinum.core.plan import PlanEdits, Search, apply_all

STRAPS = 41
"""Lengths of limit straps that are looked through."""


@dataclass(frozen=True)
class Case(PlanEdits[Change, PlannedChange, Cure]):
    """Before and after of one plan."""

    job: Job
    before: Stood
    after: Stood

    @property
    def ground_rises(self) -> tuple[float, float]:
        """Of the body against the ground at the front and at the rear axle, mm."""
        return self.after.front.ground_rise, self.after.rear.ground_rise

    @property
    def pitch_change(self) -> float:
        """Nose-down positive, rad."""
        return float(pitch_nose_down(*self.ground_rises, self.after.vehicle.wheelbase_mm))

    @cached_property
    def beyond(self) -> dict[tuple[AxleName, Side], float]:
        """What each corner rises beyond its axle, mm: see ``by_its_side``."""
        return by_its_side(self.job, self.before, self.after)

    kinds = CHANGE_TYPES
    planned_type = PlannedChange
    cure_type = Cure

    @property
    def changes(self) -> tuple[PlannedChange, ...]:
        """The stack."""
        return self.job.plan.changes

    def started(self, kind: type[Change], where: str | None) -> Change:
        """On an axle as planned."""
        assert where == "front" or where == "rear", "a change of a car is one of an axle"
        return kind.start(where, self.after.vehicle.axle(where))

    def searched(self, change: Change, where: str | None) -> Search | None:
        """On its axle as planned."""
        _ = where
        return change.search(self.after.vehicle.axle(change.axle))

    def with_it(self, cure: Cure) -> Vehicle | None:
        """The vehicle with a plan; None where it does not take it."""
        try:
            return apply_all(self.job.vehicle, cure.changes)
        except DomainError:
            return None

    def strapped(self, axle: AxleName, stance: Stance, kept: Callable[[np.ndarray], np.ndarray]) -> list[Cure]:
        """The plan with straps that end droop where something is kept; nothing where it is kept all the way down.

        Args:
            axle: its name.
            stance: as planned.
            kept: for travels, mm, of shape (n,), whether it is.
        """
        travels = np.linspace(stance.full_droop, stance.travel, STRAPS)
        good = np.nonzero(kept(travels))[0]
        if not good.size or not good[0]:
            return []
        length = math.floor(float(stance.ride.damper_at(travels[good[0]])))
        title = f"{axle.capitalize()} limit straps, tight at {length} mm of damper"
        return [c for c in self.providing(title, axle, "droop", length) if self.with_it(c)]

    def taller_stop(self, title: str, axle: AxleName, height: float) -> list[Cure]:
        """The plan with a taller stop on the damper, where the axle does not come to ride on it; else nothing."""
        stop, stance = self.after.vehicle.axle(axle).bump_stop, self.after.axle(axle)
        assert stop.contact_mm is not None, "only a stop on the damper has a damper length"
        contact = stop.contact_mm + height - stop.height_mm
        if contact >= float(stance.ride.damper_at(stance.travel)):
            return []
        return self.other_stop(title, axle, float(height))

    def other_stop(self, title: str, axle: AxleName, height: float) -> list[Cure]:
        """The plan with a stop of another height, mm: in what brings one, where nothing after it makes it another."""
        for cure in self.providing(title, axle, "stop height", height, anew=False):
            vehicle = self.with_it(cure)
            if vehicle is not None and vehicle.axle(axle).bump_stop.height_mm == height:
                return [cure]
        return self.adding_more(title, axle, "stop height", height)

    def stop_for(self, axle: AxleName, solid_length: float) -> float:
        """Height of a bump stop of the same stuff that is solid at a damper length, whole mm, mm.

        A stop of height h touches at contact − h0 + h and squeezes by the share s of its height, so it is solid
        at contact − h0 + h·(1 − s).
        """
        stop = self.after.vehicle.axle(axle).bump_stop
        assert stop.contact_mm is not None, "only a stop on the damper has a damper length"
        hard_share = 1 - stop.max_compression_mm / stop.height_mm
        return math.ceil((solid_length - stop.contact_mm + stop.height_mm) / hard_share)


def each_side(case: Case) -> list[tuple[AxleName, Axle, Stance]]:
    """As :func:`both_axles`; of an axle whose springs are set wheel by wheel, both wheels."""
    found = []
    for name, axle, stance in both_axles(case):
        if axle.uneven:
            # A body that leans has each wheel at its own travel.
            sides = [
                replace(of, travel=of.travel - case.beyond[name, side])
                for side in SIDES
                for of in (stance.of_side(side),)
            ]
            found += [(name, s.axle, s) for s in sides]
        else:
            found.append((name, axle, stance))
    return found


def worse_side(found: Iterable[Finding]) -> list[Finding]:
    """Of findings with one id, those of two wheels, the one that is further past its limit."""
    worst: dict[str, Finding] = {}
    for finding in found:
        if finding.id not in worst or finding.margin < worst[finding.id].margin:
            worst[finding.id] = finding
    return list(worst.values())


def both_axles(case: Case) -> list[tuple[AxleName, Axle, Stance]]:
    """Axles with their planned document and stance, front first."""
    return [(name, case.after.vehicle.axle(name), case.after.axle(name)) for name in AXLES]

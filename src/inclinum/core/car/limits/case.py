"""The planned vehicle as the limits look at it, and the plan edits their cures are made of."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from inclinum.core.car.changes import CHANGE_TYPES, Change, PlannedChange, apply_all
from inclinum.core.car.job import Job
from inclinum.core.car.limits.finding import Cure
from inclinum.core.car.measured import as_measured
from inclinum.core.car.stance import (
    NoRidePoint,
    Stance,
    baseline_travel,
    factor_to_carry,
    inferred_load,
    ride_corner,
    stand,
)
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AXLES, SIDES, AxleName
from inclinum.core.equilibrium import stacked
from inclinum.core.kinematics.wheel_angles import pitch_nose_down
from inclinum.core.plan import PlanEdits, Search, millimetres
from inclinum.core.quantity.constants import GRAVITY


@dataclass(frozen=True)
class Stood:
    """A vehicle standing on both axles."""

    vehicle: Vehicle
    front: Stance
    rear: Stance

    def axle(self, name: AxleName) -> Stance:
        """The stance of one axle."""
        return self.front if name == "front" else self.rear

    @property
    def pitch(self) -> float:
        """Body pitch against the reference stance of the hardpoints, nose-down positive, rad."""
        return float(pitch_nose_down(self.front.lift, self.rear.lift, self.vehicle.wheelbase_mm))


LEAST_LOAD_N = 20.0
"""A wheel that carries less than this was not standing on its springs when it was measured."""


def stand_measured(job: Job) -> Stood:
    """The vehicle as it came and was measured, loads inferred from the fitted springs.

    Raises:
        NoRidePoint: a spring that cannot carry anything at the measured height.
    """
    vehicle = as_measured(job.vehicle, job.measure)
    stances = []
    for name in AXLES:
        axle = vehicle.axle(name)
        baseline = baseline_travel(axle, job.measure.mean(name, "hub_to_arch"))
        load = inferred_load(axle, baseline)
        weighed = weighed_load(job, axle, name, load)
        if weighed is not None:
            stances.append(_stand_weighed(axle, baseline, weighed, name))
            continue
        if load < LEAST_LOAD_N:
            raise NoRidePoint(
                f"The {name} springs carry nothing at the measured height: check the height, or the free length "
                f"({_free(axle)}) of the fitted springs."
            )
        stances.append(stand(axle, baseline, load, name))
    return Stood(vehicle, *stances)


def weighed_load(job: Job, axle: Axle, name: AxleName, by_spring: float) -> float | None:
    """Sprung load at one wheel by the scales, the mean of both sides, N; None where neither wheel was weighed.

    A side that was not weighed counts as its spring says.
    """
    found = [job.measure.scale(name, side) for side in SIDES]
    if found == [None, None]:
        return None
    loads = [by_spring if mass is None else (mass.value - axle.unsprung_kg) * GRAVITY for mass in found]
    return sum(loads) / len(loads)


def _stand_weighed(axle: Axle, baseline: float, load: float, name: AxleName) -> Stance:
    factor = factor_to_carry(axle, baseline, load)
    if load < LEAST_LOAD_N or factor is None or factor <= 0:
        raise NoRidePoint(
            f"The scales say that the {name} springs carry {load / GRAVITY:.0f} kg a wheel, which does not go with the "
            f"measured height: check the scales, the unsprung mass ({axle.unsprung_kg:g} kg a wheel) and the height."
        )
    return stand(axle, baseline, load, name, factor)


def _free(axle: Axle) -> str:
    return millimetres(axle.coil.free_length_mm) if axle.coil else "or free arch or angle"


def stand_changed(base: Stood, changes: tuple[PlannedChange, ...], *known: Stood) -> Stood:
    """The same vehicle and loads with changes made; an axle that is as in ``base`` or ``known`` stands as there."""
    return stand_on(base, apply_all(base.vehicle, changes), *known)


def stand_on(base: Stood, vehicle: Vehicle, *known: Stood) -> Stood:
    """The same loads on a vehicle that was changed, as :func:`stand_changed`."""
    stances = []
    for name in AXLES:
        axle, was = vehicle.axle(name), base.axle(name)
        same = next((s.axle(name) for s in (base, *known) if s.axle(name).axle == axle), None)
        stances.append(
            same
            or stand(axle, was.baseline_on(axle), was.load_on(axle), name, was.factor_for(axle), was.raised_on(axle))
        )
    return Stood(vehicle, *stances)


def rises(base: Stood, plans: Sequence[tuple[PlannedChange, ...]], name: AxleName) -> np.ndarray:
    """Rise of one axle for each of several plans, in one solve, mm; NaN where one cannot be or finds no ride height."""
    was = base.axle(name)
    axles: list[Axle] = []
    can = np.zeros(len(plans), dtype=bool)
    # Plans of a search differ in one change: what comes before it is made once.
    made: dict[tuple[int, ...], Vehicle] = {(): base.vehicle}
    for n, changes in enumerate(plans):
        try:
            own = tuple(p for p in changes if p.on and p.change.touches(name))
            ids = tuple(id(p) for p in own)
            begun = next(k for k in range(len(ids), -1, -1) if ids[:k] in made)
            for k in range(begun, len(ids)):
                made[ids[: k + 1]] = apply_all(made[ids[:k]], own[k : k + 1], searching=True)
            axles.append(made[ids].axle(name))
            can[n] = True
        except DomainError:
            continue
    found = np.full(len(plans), np.nan)
    if axles:
        corners = [ride_corner(axle, was.factor_for(axle)) for axle in axles]
        baselines = np.array([was.baseline_on(axle) for axle in axles])
        found[can] = baselines - stacked(corners).ride_travel(np.array([was.load_on(axle) for axle in axles]))
    return found


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

    def taller_stop(self, title: str, axle: AxleName, height: float) -> list[Cure]:
        """The plan with a taller stop on the damper, where the axle does not come to ride on it; else nothing."""
        stop, stance = self.after.vehicle.axle(axle).bump_stop, self.after.axle(axle)
        assert stop.contact_mm is not None, "only a stop on the damper has a damper length"
        contact = stop.contact_mm + height - stop.height_mm
        if contact >= float(stance.ride.damper_at(stance.travel)):
            return []
        return self.adding_more(title, axle, "stop height", float(height))

    def stop_for(self, axle: AxleName, solid_length: float) -> float:
        """Height of a bump stop of the same stuff that is solid at a damper length, whole mm, mm.

        A stop of height h touches at contact − h0 + h and squeezes by the share s of its height, so it is solid
        at contact − h0 + h·(1 − s).
        """
        stop = self.after.vehicle.axle(axle).bump_stop
        assert stop.contact_mm is not None, "only a stop on the damper has a damper length"
        hard_share = 1 - stop.max_compression_mm / stop.height_mm
        return math.ceil((solid_length - stop.contact_mm + stop.height_mm) / hard_share)


def both_axles(case: Case) -> list[tuple[AxleName, Axle, Stance]]:
    """Axles with their planned document and stance, front first."""
    return [(name, case.after.vehicle.axle(name), case.after.axle(name)) for name in AXLES]

"""A whole vehicle standing on its axles: as it was measured, and with changes made."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from inclinum.core.car.changes import PlannedChange, apply_all
from inclinum.core.car.job import Job, Measurements
from inclinum.core.car.measured import as_measured
from inclinum.core.car.stance import (
    NoRidePoint,
    Stance,
    baseline_travel,
    factor_to_carry,
    inferred_load,
    length_lost,
    ride_corner,
    stand,
)
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.content import Content
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AXLES, SIDES, AxleName
from inclinum.core.equilibrium import ride_travels
from inclinum.core.kinematics.wheel_angles import pitch_nose_down
from inclinum.core.plan import millimetres
from inclinum.core.quantity.constants import GRAVITY


@dataclass(frozen=True, eq=False)
class Stood:
    """A vehicle standing on both axles; the same only as itself, so that results can be kept by it."""

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
    return _stand_measured(Content(job.vehicle, job.measure))


@lru_cache(maxsize=32)
def _stand_measured(came: Content[Vehicle, Measurements]) -> Stood:
    """Remembered: while a plan is dragged, the vehicle as it came stays."""
    vehicle, read = came.documents
    vehicle = as_measured(vehicle, read)
    stances = []
    for name in AXLES:
        axle = vehicle.axle(name)
        baseline = baseline_travel(axle, read.mean(name, "hub_to_arch"))
        as_new = read.as_new(name)
        if as_new is not None:
            axle = _tired(axle, baseline, as_new.value, name)
            vehicle = vehicle.model_copy(update={name: axle})
        load = inferred_load(axle, baseline)
        weighed = weighed_load(read, axle, name, load)
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


def _tired(axle: Axle, baseline: float, as_new: float, name: AxleName) -> Axle:
    """The axle with springs that have lost what lets it stand where it was read, and not where it stood as new."""
    lost = length_lost(axle, baseline, baseline_travel(axle, as_new))
    if lost is None:
        raise NoRidePoint(
            f"The {name} was read {abs(as_new - axle.hub_to_arch_mm + baseline):.0f} mm from where it stands with "
            "healthy springs: no spring loses so much. Check both heights, and the data of the fitted springs."
        )
    return axle.model_copy(update={"tired": lost})


def weighed_load(read: Measurements, axle: Axle, name: AxleName, by_spring: float) -> float | None:
    """Sprung load at one wheel by the scales, the mean of both sides, N; None where neither wheel was weighed.

    A side that was not weighed counts as its spring says.
    """
    found = [read.scale(name, side) for side in SIDES]
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
    """Rise of one axle for each of several plans, mm; NaN where one cannot be or finds no ride height."""
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
        found[can] = baselines - ride_travels(corners, [was.load_on(axle) for axle in axles])
    return found

"""A machine standing: both ends under each load, and the steering geometry, heights and stand that follow.

Everything is told against the machine as it came, standing unladen: there its rake, wheelbase, seat and stand hold.
"""

import math
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Literal

import numpy as np

from inclinum.core.bike.machine import Bike
from inclinum.core.document.content import Content
from inclinum.core.equilibrium.rear_and_fork import (
    EndAt,
    ForkCarrying,
    RearCarrying,
    fork_carrying,
    rear_carrying,
)
from inclinum.core.kinematics import attitude
from inclinum.core.kinematics.rear_end import RearSweep, rear_sweep_of
from inclinum.core.quantity.constants import GRAVITY

Condition = Literal["extended", "unladen", "laden", "full"]
CONDITIONS: tuple[Condition, ...] = ("extended", "unladen", "laden", "full")


@dataclass(frozen=True)
class Loads:
    """Vertical loads at both axles, N."""

    front_unladen: float
    rear_unladen: float
    front_laden: float
    rear_laden: float

    @classmethod
    def of(cls, bike: Bike, riding: tuple[tuple[float, float], ...]) -> "Loads":
        """Of the machine and what rides along, as (kg, x): the axles share it by its station."""
        front, rear = bike.sprung_front_kg * GRAVITY, bike.sprung_rear_kg * GRAVITY
        on_front = sum(kg * GRAVITY * x / bike.wheelbase_mm for kg, x in riding)
        total = sum(kg * GRAVITY for kg, _ in riding)
        return cls(front, rear, front + on_front, rear + total - on_front)


@dataclass(frozen=True)
class Attitude:
    """How the machine stands in one condition; angles in rad."""

    rake: float
    trail: float
    wheelbase: float
    arm_angle: float
    """Of the line pivot–axle below horizontal."""
    front_drop: float
    rear_drop: float
    """Of the body at both axle stations against the machine as it came, unladen; down positive, mm."""


@dataclass(frozen=True, eq=False)
class BikeStance:
    """One machine with its loads; the same as another only when it is that one, so that results can be kept by it.

    Args:
        bike: the machine.
        loads: at both axles.
        near: the swing of the machine it was planned from: a shorter way to its own.
    """

    bike: Bike
    loads: Loads
    near: RearSweep | None = None

    @cached_property
    def rear(self) -> RearCarrying:
        """The rear end."""
        b, d = self.bike, self.bike.damper
        swing = rear_sweep_of(b.rear, d.extended_mm - d.stroke_mm - 1.0, d.extended_mm + 1.0, self.near)
        return rear_carrying(
            sweep=swing,
            rate=b.spring.rate_n_per_mm,
            preload=b.preload,
            extended=d.extended_mm,
            stroke=d.stroke_mm,
            gas=d.gas_n,
            count=d.count,
            bumper=d.bumper.stop() if d.bumper else None,
            bumper_height=d.bumper.height_mm if d.bumper else 0.0,
        )

    @cached_property
    def front(self) -> ForkCarrying:
        """The fork."""
        fork = self.bike.fork
        return fork_carrying(fork.springs, fork.stroke_mm, math.radians(self.bike.rake_deg))  # pyright: ignore[reportArgumentType] (hashable)

    @cached_property
    def ends(self) -> "_Ends":
        """Front and rear in every condition, each worked out when it is first asked for."""
        return _Ends(self)

    def _in(self, condition: Condition) -> tuple[EndAt, EndAt]:
        r, f, loads = self.rear, self.bike.fork, self.loads
        match condition:
            case "extended":
                out = EndAt(0.0, r.extended_height, r.extended, 1.0, True, False)
                return EndAt(0.0, 0.0, 0.0, 1.0, True, False), out
            case "unladen":
                return self.front.at(loads.front_unladen), r.at(loads.rear_unladen)
            case "laden":
                return self.front.at(loads.front_laden), r.at(loads.rear_laden)
            case "full":
                full = EndAt(
                    r.travel_at_full_stroke, r.extended_height + r.travel_at_full_stroke, 0.0, 1.0, False, True
                )
                return EndAt(f.stroke_mm, f.stroke_mm, 0.0, 1.0, False, True), full

    @cached_property
    def _attitudes(self) -> dict[Condition, tuple["BikeStance", Attitude]]:
        return {}

    def attitude(self, condition: Condition, came: "BikeStance") -> Attitude:
        """How it stands against the machine as it came, unladen; worked out once."""
        known = self._attitudes.get(condition)
        if known is None or known[0] is not came:
            known = self._attitudes[condition] = (came, self._attitude(condition, came))
        return known[1]

    def _attitude(self, condition: Condition, came: "BikeStance") -> Attitude:
        front, rear = self.ends[condition]
        return self.attitude_of(front.sag, rear.height, self.rear_points[condition]["axle"], came)

    def attitude_of(self, fork_sag: float, rear_height: float, axle: np.ndarray, came: "BikeStance") -> Attitude:
        """How it stands with its ends so, against the machine as it came, unladen.

        Args:
            fork_sag: from its full extension, mm.
            rear_height: of the rear axle in the frame, mm.
            axle: the rear axle in the frame there, (2,).
            came: the machine it is told against.
        """
        b, was = self.bike, came.bike
        rake0 = math.radians(was.rake_deg)
        slid, down_front, down_rear = self._down(fork_sag, rear_height, came)
        change = float(attitude.rake_change(down_front, down_rear, was.wheelbase_mm))
        rake = rake0 + change
        pivot, axle0 = self.pivot, came.rear_points["unladen"]["axle"]
        below = math.atan2(pivot[1] - axle[1], pivot[0] - axle[0])
        return Attitude(
            rake=rake,
            trail=float(attitude.trail(b.front_tyre_radius_mm, b.offset_mm, rake)),
            wheelbase=was.wheelbase_mm - slid * math.sin(rake0) - float(axle[0] - axle0[0]),
            arm_angle=below + change,
            front_drop=down_front,
            rear_drop=down_rear,
        )

    def drops(self, condition: Condition, came: "BikeStance") -> tuple[float, float]:
        """How far the body came down at the front and rear axle stations, against the machine as it came, unladen."""
        front, rear = self.ends[condition]
        return self._down(front.sag, rear.height, came)[1:]

    def _down(self, fork_sag: float, rear_height: float, came: "BikeStance") -> tuple[float, float, float]:
        """How far the fork slid, and how far the body came down front and rear, mm."""
        b, was = self.bike, came.bike
        front0, rear0 = came.ends["unladen"]
        slid = fork_sag - front0.sag + b.fork.raised_mm - was.fork.raised_mm
        slid += b.fork.shortened_mm - was.fork.shortened_mm
        down = slid * math.cos(math.radians(was.rake_deg)) - (b.front_tyre_radius_mm - was.front_tyre_radius_mm)
        down -= b.stated_front_mm - was.stated_front_mm
        rear = rear_height - rear0.height - (b.rear_tyre_radius_mm - was.rear_tyre_radius_mm)
        return slid, down, rear - (b.stated_rear_mm - was.stated_rear_mm)

    @property
    def pivot(self) -> np.ndarray:
        """Of the swing arm, or of the stay nearest the drive."""
        return self.rear.sweep.linkage.points["pivot"]

    @cached_property
    def rear_points(self) -> dict[Condition, dict[str, np.ndarray]]:
        """Every point of the rear end in the frame in every condition, in one solve."""
        heights = [self.ends[c][1].height - self.rear.drawn_height for c in CONDITIONS]
        placed = self.rear.sweep.places(np.array(heights))
        return {c: {n: p[i] for n, p in placed.items()} for i, c in enumerate(CONDITIONS)}

    @cached_property
    def drop_per_rod(self) -> float:
        """How far the laden rear comes down per mm of longer rod, at the same damper length; only where it has one."""
        swing, at = self.rear.sweep, self.ends["laden"][1]
        poses = swing.poses(self.rear.extended_rise + at.sag)
        longer = replace(poses, rate=swing.linkage.rod_effect(0, poses))
        return -float(swing.linkage.distance(*swing.rear.damper, longer)[1][0]) / at.ratio


class _Ends(dict[Condition, tuple[EndAt, EndAt]]):
    """Both ends by condition."""

    def __init__(self, standing: BikeStance):
        super().__init__()
        self._standing = standing

    def __missing__(self, condition: Condition) -> tuple[EndAt, EndAt]:
        found = self[condition] = self._standing._in(condition)
        return found


def standing_of(bike: Bike, loads: Loads, near: RearSweep | None = None) -> BikeStance:
    """A machine with its loads, remembered by its content.

    While a plan is dragged, the machine as it came and what is tried to mend the plan stay the same.
    """
    return _standing(Content(bike), loads, near)


@lru_cache(maxsize=64)
def _standing(machine: Content[Bike], loads: Loads, near: RearSweep | None) -> BikeStance:
    return BikeStance(*machine.documents, loads, near)

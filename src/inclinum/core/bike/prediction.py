"""Everything that follows from a two-wheeler's job: sags, drops, steering, stand, reach, sag bench and findings.

A pure function of the job document. Drops are told at the same load, rider on and off, before against planned.
"""

import math
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from typing import Literal

import numpy as np

from inclinum.core.bike.aims import aimed
from inclinum.core.bike.changes import apply_all
from inclinum.core.bike.drawing import BikeDrawing, draw
from inclinum.core.bike.fit import BikeFit, Fitted, fitted
from inclinum.core.bike.height_spread import SagSpread, bike_spread
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.limits import (
    REFUSED,
    BikeCase,
    BikeCure,
    BikeFinding,
    findings,
    sag_windows,
    steering_kept,
    unmeasured,
)
from inclinum.core.bike.machine import ENDS, End
from inclinum.core.bike.sag import SagBench, sag_bench
from inclinum.core.bike.stance import CONDITIONS, Attitude, BikeStance, Condition, Loads, standing_of
from inclinum.core.bike.stands_and_reach import CentreStandEffort, RiderReach, StandLean
from inclinum.core.bike.steering import Steering, steering
from inclinum.core.document import Document
from inclinum.core.equilibrium.rear_and_fork import ForkCarrying
from inclinum.core.kinematics.rear_end import chain_slack_change
from inclinum.core.plan import Share, choices_of, in_turn

SHARES = np.linspace(0.0, 1.0, 41)
"""Of the travel, at which curves are told."""


class ConditionTold(Document):
    """How the machine stands in one condition."""

    front_sag_mm: float
    """Along the fork."""
    rear_sag_mm: float
    rake_deg: float
    trail_mm: float
    wheelbase_mm: float
    arm_angle_deg: float
    """Of pivot to axle below horizontal."""
    seat_mm: float
    front_drop_mm: float
    rear_drop_mm: float
    """Of the body against the machine as it came, unladen."""


class Stance(Document):
    """One machine in every condition."""

    extended: ConditionTold
    unladen: ConditionTold
    laden: ConditionTold
    full: ConditionTold
    rear_travel_mm: float
    front_travel_mm: float
    damper_laden_mm: float
    ratio_laden: float
    leverage_laden: float
    wheel_rate_rear: float
    wheel_rate_front: float


class LeverageCurve(Document):
    """Over wheel travel from full extension."""

    travel: list[float]
    leverage: list[float]
    """Wheel travel per damper travel."""
    force: list[float]
    """Vertical load carried, N."""
    axle_x: list[float]
    """Axle path, forward of where it is extended, mm."""
    chain_slack: list[float] | None
    unladen: float
    laden: float


class ForkCurve(Document):
    """Over slider travel."""

    travel: list[float]
    force: list[float]
    unladen: float
    laden: float


class BikePrediction(Document):
    """The whole answer."""

    before: Stance
    planned: Stance
    rear_drop_mm: float
    """Of the rear axle station, planned against before, rider on; down positive."""
    front_drop_mm: float
    rear_drop_unladen_mm: float
    plus_minus_mm: float
    """Of the rear drop, rider on."""
    spread: dict[End, SagSpread]
    seat_plus_minus_mm: float
    """Of the seat's height, unladen."""
    aim_mm: float | None
    """Drop of the rear that the brief wants; None where it wants no height."""
    aim_met: bool | None
    aim_said: str
    """The rear aim in words; empty where there is none."""
    aim_near_mm: float | None
    """How near to what is wanted counts as met; None as above."""
    front_aim_mm: float | None
    front_aim_met: bool | None
    front_aim_near_mm: float | None
    full_extension_rise_mm: float
    """How much higher the axle sits in the frame at full extension than before."""
    front_load_n: tuple[float, float]
    rear_load_n: tuple[float, float]
    """Unladen and laden."""
    preload_before_mm: float
    """Counted from the collar's zero, as the next."""
    preload_mm: float
    preload_turns: float
    """From before to planned; more preload positive."""
    rear_curve_before: LeverageCurve
    rear_curve: LeverageCurve
    fork_curve_before: ForkCurve
    fork_curve: ForkCurve
    sags: dict[End, SagBench]
    steering: Steering
    stand: StandLean | None
    centre_stand: CentreStandEffort | None
    reach: RiderReach
    clearances: dict[str, tuple[float, float]]
    """Rider on, before and planned, mm."""
    shares: list[Share]
    findings: list[BikeFinding]
    raises: dict[Literal["allowed", "supplier"], BikeCure]
    """The plan with the fork raised as far as it allows, or as its supplier says; empty where it cannot be raised."""
    shelf: dict[Literal["softer", "stiffer"], BikeCure]
    """The plan with the nearest spring of the shelf on either side, set to its preload."""
    choices: dict[str, dict[str, list[tuple[str, str]]]]
    """Of each change that names a part of the machine: parameter → parts it can name, as value and title."""
    unmeasured: list[str]
    """What the limits were checked against and nobody gave: without it nothing found is not all well."""
    stopped: bool
    refused: bool
    """Whether something stops the plan that no written override lifts."""
    fit: BikeFit
    questions: list[str]
    drawing: BikeDrawing


@dataclass(frozen=True)
class Assessed:
    """A job with both machines standing."""

    job: BikeJob
    fitted: Fitted
    before: BikeStance
    after: BikeStance

    def case(self, *, ways: bool = True) -> BikeCase:
        """As the limits look at it, a height that is missed searched for ``ways`` or not."""
        return BikeCase(
            job=self.job,
            before=self.before,
            after=self.after,
            attitude=self.after.attitude("laden", self.before),
            sags={end: sag_bench(self.job, self.after, end) for end in ENDS},
            steering=steering(self.before, self.after, self.job.brief.supplier_raise_mm),
            ways=ways,
        )


def assess(job: BikeJob) -> Assessed:
    """Both machines.

    Raises:
        ValueError: points that make no linkage, a damper it does not reach, a change it cannot take.
    """
    taken = fitted(job.machine, job.measure)
    riding = tuple((r.mass.value, r.x_mm) for r in job.brief.rides if r.aboard)
    loads = Loads.of(taken.bike, riding)
    before = standing_of(taken.bike, loads)
    planned = apply_all(taken.bike, job.plan.changes)
    return Assessed(
        job, taken, before, before if planned == taken.bike else BikeStance(planned, loads, before.rear.sweep)
    )


def predict_bike(job: BikeJob, looked_at: Collection[Condition] = CONDITIONS, *, ways: bool = True) -> BikePrediction:
    """The whole prediction. Raises as :func:`assess`.

    Args:
        job: with its plan.
        looked_at: conditions the planned machine is drawn in.
        ways: whether a height that is missed is searched for what reaches it: not while a slider is held.
    """
    assessed = assess(job)
    before, after = assessed.before, assessed.after
    case = assessed.case(ways=ways)
    found = findings(case)
    was, now = (s.attitude("laden", before) for s in (before, after))
    bare = (s.attitude("unladen", before) for s in (before, after))
    bare_was, bare_now = bare
    drop = case.rear_drop
    aims, missed = {e: aimed(case, e) for e in ENDS}, {f.id for f in found}
    spread = bike_spread(job, before, after, assessed.fitted.fit.ratio_percent)
    loads = after.loads
    refused = any(f.id in REFUSED for f in found)
    return BikePrediction(
        before=_stance(before, before),
        planned=_stance(after, before),
        rear_drop_mm=drop,
        front_drop_mm=now.front_drop - was.front_drop,
        rear_drop_unladen_mm=bare_now.rear_drop - bare_was.rear_drop,
        plus_minus_mm=spread.ends["rear"].drop,
        spread=spread.ends,
        seat_plus_minus_mm=spread.seat,
        aim_mm=aims["rear"] and aims["rear"].drop,
        aim_met=aims["rear"] and "aim.rear" not in missed,
        aim_said=aims["rear"].said if aims["rear"] else "",
        aim_near_mm=aims["rear"] and aims["rear"].near,
        front_aim_mm=aims["front"] and aims["front"].drop,
        front_aim_met=aims["front"] and "aim.front" not in missed,
        front_aim_near_mm=aims["front"] and aims["front"].near,
        full_extension_rise_mm=after.rear.extended_height - before.rear.extended_height,
        front_load_n=(loads.front_unladen, loads.front_laden),
        rear_load_n=(loads.rear_unladen, loads.rear_laden),
        preload_before_mm=before.bike.preload_mm,
        preload_mm=after.bike.preload_mm,
        preload_turns=(after.bike.preload_mm - before.bike.preload_mm) / after.bike.damper.collar_pitch_mm,
        rear_curve_before=_leverage(before),
        rear_curve=_leverage(after),
        fork_curve_before=_fork(before),
        fork_curve=_fork(after),
        sags=case.sags,
        steering=case.steering,
        stand=case.stand,
        centre_stand=case.centre_stand,
        reach=case.reach,
        clearances=_clearances(before, after, was, now),
        shares=_shares(assessed),
        findings=found,
        raises=_raises(case),
        shelf=_shelf(case),
        choices=choices_of(before.bike, job.plan.changes),
        unmeasured=unmeasured(case),
        stopped=any(f.severity == "stops" for f in found) and (refused or not job.plan.override.strip()),
        refused=refused,
        fit=assessed.fitted.fit,
        questions=_questions(assessed),
        drawing=draw(before, after, looked_at, job.measure.photograph),
    )


SAME_MM = 0.05
"""A height of the tubes that is not offered: they stand there already."""


def _raises(case: BikeCase) -> dict[Literal["allowed", "supplier"], BikeCure]:
    steering = case.steering
    wanted = {"allowed": steering.raise_allowed_mm, "supplier": steering.supplier_raise_mm}
    return {
        name: cure  # type: ignore[misc]
        for name, length in wanted.items()
        if length is not None and case.bike.fork.crown == "double" and abs(length - steering.raise_now_mm) > SAME_MM
        for cure in steering_kept.raised(case, length)
    }


def _shelf(case: BikeCase) -> dict[Literal["softer", "stiffer"], BikeCure]:
    bench = case.sags["rear"]
    near = {"softer": bench.softer, "stiffer": bench.stiffer}
    return {
        name: cure  # type: ignore[misc]
        for name, choice in near.items()
        if choice is not None
        for cure in sag_windows.fitting(case, choice)
    }


def _clearances(before: BikeStance, after: BikeStance, was: Attitude, now: Attitude) -> dict[str, tuple[float, float]]:
    """Of what is still on the machine, rider on, before and as planned, mm."""
    heights = {p.name: p.height_mm for p in before.bike.clearances}
    return {
        p.name: (
            heights[p.name] - _drop_at(before, was.front_drop, was.rear_drop, p.x_mm),
            p.height_mm - _drop_at(before, now.front_drop, now.rear_drop, p.x_mm),
        )
        for p in after.bike.clearances
    }


def _drop_at(came: BikeStance, front: float, rear: float, x: float) -> float:
    return rear + (front - rear) * x / came.bike.wheelbase_mm


KEPT = 32
"""Machines whose curves and poses are remembered: while a plan is dragged, the one it came from stays."""


@lru_cache(maxsize=KEPT)
def _stance(standing: BikeStance, came: BikeStance) -> Stance:
    laden_front, laden = standing.ends["laden"]
    conditions = {c: _told(standing, came, c) for c in CONDITIONS}
    return Stance(
        **conditions,
        rear_travel_mm=standing.rear.travel_at_full_stroke,
        front_travel_mm=standing.bike.fork.stroke_mm,
        damper_laden_mm=laden.damper_length,
        ratio_laden=laden.ratio,
        leverage_laden=1 / laden.ratio,
        wheel_rate_rear=standing.rear.wheel_rate(laden.sag),
        wheel_rate_front=standing.front.wheel_rate(laden_front.sag),
    )


def _told(standing: BikeStance, came: BikeStance, condition: Condition) -> ConditionTold:
    at, (front, rear) = standing.attitude(condition, came), standing.ends[condition]
    seat = standing.bike.seat
    return ConditionTold(
        front_sag_mm=front.sag,
        rear_sag_mm=rear.sag,
        rake_deg=math.degrees(at.rake),
        trail_mm=at.trail,
        wheelbase_mm=at.wheelbase,
        arm_angle_deg=math.degrees(at.arm_angle),
        seat_mm=seat.height_mm - _drop_at(came, at.front_drop, at.rear_drop, seat.x_mm),
        front_drop_mm=at.front_drop,
        rear_drop_mm=at.rear_drop,
    )


@lru_cache(maxsize=KEPT)
def _leverage(standing: BikeStance) -> LeverageCurve:
    rear = standing.rear
    travel = rear.travel_at_full_stroke * SHARES
    ratio, force = rear.ratio_and_force(travel)
    axle = rear.sweep.place("axle", rear.extended_rise + travel)
    sprocket = standing.bike.drive.sprocket
    return LeverageCurve(
        travel=travel.tolist(),
        leverage=(1 / ratio).tolist(),
        force=force.tolist(),
        axle_x=(axle[:, 0] - axle[0, 0]).tolist(),
        chain_slack=None if sprocket is None else chain_slack_change(sprocket, axle).tolist(),
        unladen=standing.ends["unladen"][1].sag,
        laden=standing.ends["laden"][1].sag,
    )


def sweep_rear(standing: BikeStance, travel: Sequence[float]) -> dict[str, list[float | None]]:
    """The planned rear end at wheel travels from full extension; None beyond its reach.

    Args:
        standing: the machine.
        travel: mm, bump positive.
    """
    rear, at = standing.rear, np.asarray(travel, dtype=float)
    rise = rear.extended_rise + at
    ok = (rise >= rear.sweep.rises[0]) & (rise <= rear.sweep.rises[1])
    inside = np.clip(rise, *rear.sweep.rises)
    length, ratio, _ = rear.sweep.curve.at(inside)
    axle = rear.sweep.places(inside)["axle"]
    curves = {
        "damper_length_mm": length,
        "installation_ratio": ratio,
        "leverage_ratio": 1 / ratio,
        "axle_load_n": rear.force(inside - rear.extended_rise),
        "axle_x_mm": axle[:, 0],
        "axle_z_mm": axle[:, 1],
    }
    if standing.bike.drive.sprocket is not None:
        curves["chain_slack_mm"] = chain_slack_change(standing.bike.drive.sprocket, axle)
    listed: dict[str, list[float | None]] = {"travel_mm": [float(z) for z in at]}
    for name, values in curves.items():
        listed[name] = [float(v) if good else None for v, good in zip(values, ok, strict=True)]
    return listed


def _fork(standing: BikeStance) -> ForkCurve:
    travel, force = _fork_force(standing.front)
    return ForkCurve(
        travel=travel,
        force=force,
        unladen=standing.ends["unladen"][0].sag,
        laden=standing.ends["laden"][0].sag,
    )


@lru_cache(maxsize=KEPT)
def _fork_force(fork: ForkCarrying) -> tuple[list[float], list[float]]:
    """Slider travel and what it carries, N: while the rear is planned it stays."""
    travel = fork.stroke * SHARES
    return travel.tolist(), fork.force(travel).tolist()


SPRUNG = (
    "stated_front_mm",
    "stated_rear_mm",
    "rear",
    "damper",
    "spring",
    "preload_mm",
    "fork",
    "front_tyre_radius_mm",
    "rear_tyre_radius_mm",
)
"""What the height of the body hangs on; a change of anything else has no share in it."""


def _shares(assessed: Assessed) -> list[Share]:
    """Each change alone on top of those before it, rider on."""
    came = assessed.before
    drops, found = came.drops("laden", came), []
    stack = assessed.job.plan.changes
    machines = in_turn(came.bike, stack)
    pairs = iter(pairwise(machines))
    for planned in stack:
        was = drops
        if planned.on:
            before, changed = next(pairs)
            had, has = vars(before), vars(changed)
            if any(has[part] is not had[part] and has[part] != had[part] for part in SPRUNG):
                last = changed is machines[-1]
                now = assessed.after if last else BikeStance(changed, came.loads, came.rear.sweep)
                drops = now.drops("laden", came)
        found.append(Share.model_construct(id=planned.id, front=was[0] - drops[0], rear=was[1] - drops[1]))
    return found


APART_MM = 6.0


def _questions(assessed: Assessed) -> list[str]:
    """Readings that do not fit together, each as a question."""
    job, asked = assessed.job, list(assessed.fitted.fit.misses)
    states: tuple[Literal["unladen", "laden"], ...] = ("unladen", "laden")
    for n, end in enumerate(ENDS):
        for state in states:
            read, says = job.measure.sag(end, state), assessed.before.ends[state][n].sag
            if read is None:
                continue
            if read < 0:
                asked.append(f"{end.capitalize()} {state}: it reads longer than at full extension. Which mark was it?")
            elif abs(read - says) > APART_MM:
                asked.append(
                    f"{end.capitalize()} {state} sag reads {read:.0f} mm, the spring and load say {says:.0f} mm: "
                    "rate, preload, masses or the zero of one of them is off."
                )
    return asked

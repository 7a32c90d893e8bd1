"""A two-wheeler on the bench, outside a job: its rear end fitted to its readings and moved through its travel."""

from collections.abc import Iterator

import numpy as np

from inclinum.core.bike.drawing import BikePose, as_drawn, pose_of
from inclinum.core.bike.fit import BikeFit, fitted
from inclinum.core.bike.job import BikeMeasurements
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.stance import BikeStance, Loads
from inclinum.core.document import Document
from inclinum.core.document.curve import Curve
from inclinum.core.kinematics.rear_end import chain_slack_change
from inclinum.core.kinematics.rigid import Array

FRAMES = 25
"""Positions it is drawn at from full extension to full bump of both ends."""
APART_MM = 2.0
"""Eyes of the damper further from its extended length than this are asked about."""


class BenchEnd(Document):
    """One end on the bench, nobody aboard."""

    title: str
    travel_mm: float
    sag_mm: float
    """Standing on its own weight; of a fork along it."""
    wheel_rate: float
    """There, N/mm."""
    load_n: float


class BikeBenchView(Document):
    """Everything the bench draws of a machine."""

    title: str
    fit: BikeFit
    share: tuple[float, ...]
    """Of both ends' travel, 0 at full extension."""
    poses: tuple[BikePose, ...]
    travel: tuple[float, ...]
    """Of the rear axle at each share, mm."""
    curves: tuple[Curve, ...]
    """Over the rear axle's travel; at its baseline it stands on its own weight."""
    fork_travel: tuple[float, ...]
    fork_curves: tuple[Curve, ...]
    front: BenchEnd
    rear: BenchEnd
    questions: tuple[str, ...]
    """What does not fit together."""
    eyes_apart_mm: float | None
    """How far the damper's eyes are drawn apart, where its own length is another."""


def bike_bench(bike: Bike) -> BikeBenchView:
    """The machine fitted to its own readings, over the travel of both ends.

    Raises:
        ValueError: its points make no linkage that moves, or a damper it does not reach, with the part named.
    """
    taken = fitted(bike, BikeMeasurements())
    standing = BikeStance(taken.bike, Loads.of(taken.bike, ()))
    rear, fork = standing.rear, taken.bike.fork
    share = np.linspace(0.0, 1.0, FRAMES)
    travel, slid = share * rear.travel_at_full_stroke, share * fork.stroke_mm
    placed = rear.sweep.places(rear.extended_rise + travel)
    poses = [as_drawn(standing)]
    for i in range(1, FRAMES):
        points = {n: at[i] for n, at in placed.items()}
        height = rear.extended_height + float(travel[i])
        stands = standing.attitude_of(float(slid[i]), height, points["axle"], standing)
        poses.append(pose_of(standing, standing, float(slid[i]), points, stands))
    front_at, rear_at = standing.ends["unladen"]
    apart = _apart(taken.bike)
    return BikeBenchView(
        title=taken.bike.rear.title,
        fit=taken.fit,
        share=tuple(share.tolist()),
        poses=tuple(poses),
        travel=tuple(travel.tolist()),
        curves=_rear_curves(standing, travel, placed["axle"], rear_at.sag),
        fork_travel=tuple(slid.tolist()),
        fork_curves=(_curve("fork load", "N", slid, fork.force(slid), front_at.sag),),
        front=BenchEnd(
            title=f"Fork, {fork.springs.title.lower()}",
            travel_mm=fork.stroke_mm,
            sag_mm=front_at.sag,
            wheel_rate=standing.front.wheel_rate(front_at.sag),
            load_n=standing.loads.front_unladen,
        ),
        rear=BenchEnd(
            title=taken.bike.rear.title,
            travel_mm=rear.travel_at_full_stroke,
            sag_mm=rear_at.sag,
            wheel_rate=rear.wheel_rate(rear_at.sag),
            load_n=standing.loads.rear_unladen,
        ),
        questions=tuple(_questions(apart, taken.bike, standing)),
        eyes_apart_mm=apart,
    )


def _apart(bike: Bike) -> float | None:
    one, other = (np.array(bike.rear.named()[n]) for n in bike.rear.damper)
    between = float(np.linalg.norm(other - one))
    return None if abs(between - bike.damper.extended_mm) <= APART_MM else round(between, 1)


def _questions(apart: float | None, bike: Bike, standing: BikeStance) -> Iterator[str]:
    if apart is not None:
        yield (
            f"The damper is {bike.damper.extended_mm:.1f} mm eye to eye forced out, but its eyes are drawn "
            f"{apart:.1f} mm apart: one of them is off. Read the damper, or move an eye."
        )
    for name, at in zip(("fork", "rear end"), standing.ends["unladen"], strict=True):
        if at.bottomed:
            yield (
                f"The {name} does not carry the machine: on its own weight it lies at the end of its travel. "
                "Which is off, its points, its spring, or the weight on it?"
            )


def _rear_curves(standing: BikeStance, travel: Array, axle: Array, sag: float) -> tuple[Curve, ...]:
    rear = standing.rear
    length, ratio, _ = rear.sweep.curve.at(rear.extended_rise + travel)
    rates = np.array([rear.wheel_rate(float(z)) for z in travel])
    curves = [
        _curve("leverage", "", travel, 1 / ratio, sag),
        _curve("wheel rate", "N/mm", travel, rates, sag),
        _curve("load", "N", travel, rear.force(travel), sag),
        _curve("damper, eye to eye", "mm", travel, length, sag),
        _curve("axle forward", "mm", travel, axle[:, 0] - axle[0, 0], sag),
    ]
    sprocket = standing.bike.drive.sprocket
    if sprocket is not None:
        curves.append(_curve("chain slack", "mm", travel, chain_slack_change(sprocket, axle), sag))
    return tuple(curves)


def _curve(name: str, unit: str, travel: Array, values: Array, sag: float) -> Curve:
    return Curve(
        name=name,
        unit=unit,
        values=[float(v) for v in values],
        at_baseline=float(np.interp(sag, travel, values)),
    )

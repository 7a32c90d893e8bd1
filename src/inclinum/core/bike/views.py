"""A two-wheeler over the travel of both its ends, or of one: every part to scale, in one batch of pictures."""

import numpy as np

from inclinum.core.bike.drawing import BikePose, pose_of
from inclinum.core.bike.joints import joints_of
from inclinum.core.bike.machine import End
from inclinum.core.bike.prediction import Assessed
from inclinum.core.bike.stance import BikeStance
from inclinum.core.document.errors import DomainError
from inclinum.core.shapes import By, Seen, Spot, Told, ViewName, Whose, bounds

FRAMES = 25
"""Positions over the travel."""


def machine_view(assessed: Assessed, end: End, view: ViewName, whose: Whose = "planned", by: By = "travel") -> Seen:
    """A machine with one end moved through its travel, the other where it rides with the rider on.

    Raises:
        DomainError: it is only drawn from the side, and moved through its travel.
    """
    if view != "side":
        raise DomainError("A two-wheeler is drawn from its side.")
    if by != "travel":
        raise DomainError("A two-wheeler is drawn straight ahead: from its side turned bars are not seen.")
    before = assessed.before
    standing, other = (assessed.after, before) if whose == "planned" else (before, assessed.after)
    fork, rear = standing.ends["laden"]
    full = standing.rear.travel_at_full_stroke if end == "rear" else standing.bike.fork.stroke_mm
    rides = rear.sag if end == "rear" else fork.sag
    travels = np.linspace(0.0, full, FRAMES)
    travels[int(np.argmin(np.abs(travels - rides)))] = rides
    poses = []
    for travel in travels:
        moved = float(travel) if end == "rear" else rear.sag
        sunk = float(travel) if end == "front" else fork.sag
        places = {n: p[0] for n, p in standing.rear.sweep.places(standing.rear.extended_rise + moved).items()}
        at = standing.attitude_of(sunk, standing.rear.extended_height + moved, places["axle"], before)
        poses.append(pose_of(standing, before, sunk, places, at))
    drawn = [pose.shapes for pose in poses]
    resting = poses[int(np.argmin(np.abs(travels - rides)))]
    stood = other.attitude("laden", before)
    ghost = pose_of(other, before, other.ends["laden"][0].sag, other.rear_points["laden"], stood)
    room = [b for shapes in (*drawn, ghost.shapes) if (b := bounds(shapes)) is not None]
    return Seen(
        view=view,
        travel=np.round(travels - rides, 1).tolist(),
        at_ride=int(np.argmin(np.abs(travels - rides))),
        frames=drawn,
        ghost=ghost.shapes,
        low=(min(b[0] for b in room), min(b[2] for b in room)),
        high=(max(b[1] for b in room), max(b[3] for b in room)),
        told=_told(standing, end, travels),
        joints=_joints(standing, resting),
        ground=0.0,
    )


def _joints(standing: BikeStance, pose: BikePose) -> tuple[Spot, ...]:
    """Where each joint of the machine is: what a step of the card is about."""
    rear, points, fork = standing.bike.rear, pose.points, pose.fork
    low, high = sorted((points[n] for n in rear.damper), key=lambda p: p[1])
    where: dict[str, list[tuple[float, float]]] = {
        "rear_wheel": [pose.rear_axle], "weight_off": [pose.rear_axle], "front_wheel": [pose.front_axle],
        "damper_lower": [low], "damper_upper": [high],
        "rear_spring": [((low[0] + high[0]) / 2, (low[1] + high[1]) / 2)],
        "rod": [points[n] for rod in rear.rods for n in rod],
        "rocker": [points[n] for n in ("rocker_pivot",) if n in points],
        "fork_guard": [fork.slider[1]], "fork_foot": [fork.slider[0]], "fork_cap": [fork.tube[1]],
        "lower_clamp": [fork.clamps[0]], "top_clamp": [fork.clamps[1]],
    }  # fmt: skip
    return tuple(
        Spot(key=f"{key}.{n}", name=key, at=at) for key in joints_of(standing.bike) for n, at in enumerate(where[key])
    )


def _told(standing: BikeStance, end: End, travels: np.ndarray) -> list[Told]:
    if end == "front":
        left = standing.bike.fork.stroke_mm - travels
        return [Told(name="fork can still slide", unit="mm", digits=0, values=np.round(left, 1).tolist())]
    lengths, ratio, _ = standing.rear.sweep.curve.at(standing.rear.extended_rise + travels)
    d = standing.bike.damper
    return [
        Told(name="leverage", unit="", digits=2, values=np.round(1 / ratio, 3).tolist()),
        Told(
            name="damper can still close", unit="mm", digits=1,
            values=np.round(lengths - d.extended_mm + d.stroke_mm, 1).tolist(),
        ),
    ]  # fmt: skip

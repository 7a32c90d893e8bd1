"""The whole vehicle on its four corners: heave, pitch and roll, corner loads and cross weight, before and after.

Loads come from scales where there are readings, and from the spring and the height of each corner where there are
none; where there are both, the scales win and the difference is told. Anti-roll bars are taken as free of force at
the measured baseline.
"""

from dataclasses import dataclass, replace

import numpy as np

from inclinum.core.car.job import Job
from inclinum.core.car.measured import Question
from inclinum.core.car.stance import baseline_travel, factor_to_carry, inferred_load, keeps_springs, ride_corner
from inclinum.core.car.stood import Stood
from inclinum.core.document import Document
from inclinum.core.document.names import AXLES, SIDES, AxleName, Side
from inclinum.core.equilibrium.body import BarOffset, BodyStance, SprungBody, centre_of
from inclinum.core.equilibrium.corner import RideCorner
from inclinum.core.kinematics.rigid import Array
from inclinum.core.quantity.constants import GRAVITY

WHEELS: tuple[tuple[AxleName, Side], ...] = tuple((axle, side) for axle in AXLES for side in SIDES)
"""In the order of :data:`~inclinum.core.equilibrium.body.CORNERS`."""
DISAGREE_SHARE = 0.12
"""Scales and springs that differ by more than this share of the load are asked about."""


class CornerLoad(Document):
    """One corner, before and after."""

    axle: AxleName
    side: Side
    before_n: float
    """Sprung load, N."""
    after_n: float
    rise_mm: float
    by_scales: bool
    spring_says_n: float
    """What the fitted spring carries at the measured height, N."""


class BodyPrediction(Document):
    """How the body stands on all four corners."""

    heave_mm: float
    """Rise at mid wheelbase."""
    pitch_deg: float
    """Change, nose-down positive."""
    roll_deg: float
    """Change, left side up positive."""
    cross_before: float
    """Front left and rear right of the whole."""
    cross_after: float
    corners: tuple[CornerLoad, ...]
    with_cargo: tuple[float, ...]
    """Rise of the four corners from the measured baseline with the brief's cargo on board, mm; empty without any."""
    cargo_roll_deg: float
    cargo_trouble: str
    """Why the body finds no rest with it, in a sentence."""
    disagreements: tuple[str, ...]
    """Where scales and springs tell different stories, in sentences."""


@dataclass(frozen=True)
class _Corner:
    """A ride corner told from its own measured height."""

    ride: RideCorner
    baseline: float

    def force_and_rate(self, z: Array | float) -> tuple[Array, Array]:
        low, high = self.ride.search
        at = np.clip(self.baseline + np.asarray(z, dtype=float), low, high)
        force, rate = self.ride.force_and_rate(at)
        # Beyond the linkage's reach the last slope goes on, so that the search for rest does not fall off an edge.
        beyond = self.baseline + np.asarray(z, dtype=float) - at
        return force + rate * beyond, rate


def _loaded(
    job: Job, body: SprungBody, rest: BodyStance, sprung: tuple[float, float, float]
) -> tuple[BodyStance | None, str]:
    """The body with the brief's cargo on top of its sprung weight and centre; or why it finds no rest."""
    if not job.brief.cargo:
        return None, ""
    loads = [(GRAVITY * c.mass_kg, -c.behind_front_axle_mm, c.left_mm) for c in job.brief.cargo]
    weights, x, y = np.array([sprung, *loads]).T
    total = weights.sum()
    front, rear = float(rest.rise[:2].mean()), float(rest.rise[2:].mean())
    try:
        return body.rest(total, (weights @ x / total, weights @ y / total), (front, rear)), ""
    except ValueError:
        return None, "With this cargo the body finds no rest on its springs: it is more than they can carry."


def whole_body(job: Job, before: Stood, after: Stood) -> BodyPrediction:
    """The body before and after the plan.

    Raises:
        ValueError: no attitude carries the weight.
    """
    spring, scale, baseline = np.zeros(4), np.full(4, np.nan), np.zeros(4)
    for n, (axle, side) in enumerate(WHEELS):
        stance = before.axle(axle).of_side(side)
        reading = job.measure.corner(axle, side, "hub_to_arch")
        baseline[n] = stance.baseline if reading is None else baseline_travel(stance.axle, reading.value)
        spring[n] = inferred_load(stance.axle, float(baseline[n]))
        if (mass := job.measure.scale(axle, side)) is not None:
            scale[n] = (mass.value - stance.axle.unsprung_kg) * GRAVITY
    loads = np.where(np.isnan(scale), spring, scale)
    vehicle = after.vehicle
    half = np.array([vehicle.front.track_mm, vehicle.front.track_mm, vehicle.rear.track_mm, vehicle.rear.track_mm]) / 2
    x = np.array([0.0, 0.0, -vehicle.wheelbase_mm, -vehicle.wheelbase_mm])
    y = half * np.array([1, -1, 1, -1])
    corners, shifted = [], np.zeros(4)
    for n, (axle, side) in enumerate(WHEELS):
        fitted, planned = before.axle(axle).of_side(side).axle, after.axle(axle).of_side(side).axle
        # Another spring is taken by its data; the one that was weighed carries what the scale said.
        kept = np.isfinite(scale[n]) and keeps_springs(fitted, planned)
        factor = factor_to_carry(fitted, float(baseline[n]), float(loads[n])) if kept else None
        shifted[n] = baseline[n] + planned.hub_to_arch_mm - fitted.hub_to_arch_mm
        corners.append(_Corner(ride_corner(planned, 1.0 if factor is None else factor), float(shifted[n])))
    bars = (BarOffset(vehicle.front.anti_roll_n_per_mm), BarOffset(vehicle.rear.anti_roll_n_per_mm))
    added = np.array([after.axle(a).axle.carried_kg - before.axle(a).axle.carried_kg for a, _ in WHEELS]) * GRAVITY
    weight, cx, cy = centre_of(loads + added, x, y)
    body = SprungBody(corners, x, y, bars)
    rest = body.rest(weight, (cx, cy), (after.front.rise, after.rear.rise))
    loaded, trouble = _loaded(job, body, rest, (float(weight), float(cx), float(cy)))
    if loaded is not None:
        down = [f"{a} {s}" for n, (a, s) in enumerate(WHEELS) if shifted[n] + loaded.travel[n] > after.axle(a).bump_end]
        if down:
            trouble = f"With this cargo the {' and the '.join(down)} sits on its solid stop."
    return BodyPrediction(
        heave_mm=float(rest.heave),
        pitch_deg=float(np.degrees(rest.pitch)),
        roll_deg=float(np.degrees(rest.roll)),
        cross_before=float((loads[0] + loads[3]) / loads.sum()),
        cross_after=float(rest.diagonal_share),
        corners=tuple(
            CornerLoad(
                axle=axle,
                side=side,
                before_n=float(loads[n]),
                after_n=float(rest.load[n]),
                rise_mm=float(rest.rise[n]),
                by_scales=bool(np.isfinite(scale[n])),
                spring_says_n=float(spring[n]),
            )
            for n, (axle, side) in enumerate(WHEELS)
        ),
        with_cargo=() if loaded is None else tuple(loaded.rise.tolist()),
        cargo_roll_deg=0.0 if loaded is None else float(np.degrees(loaded.roll)),
        cargo_trouble=trouble,
        disagreements=tuple(
            f"At the {axle} {side} the scales say {scale[n] / GRAVITY:.0f} kg sprung, the spring at its height "
            f"{spring[n] / GRAVITY:.0f} kg: is the spring tired, its data another's, or the height read elsewhere?"
            for n, (axle, side) in enumerate(WHEELS)
            if np.isfinite(scale[n]) and abs(scale[n] - spring[n]) > DISAGREE_SHARE * abs(scale[n])
        ),
    )


def by_its_side(job: Job, before: Stood, after: Stood) -> dict[tuple[AxleName, Side], float]:
    """What each corner rises beyond its axle because springs are set wheel by wheel, mm; zero where none are.

    The body on its four corners, against the same body with each axle's mean on both of its sides: a collar turned at
    one corner lifts the one across from it too.
    """
    axles = {name: after.vehicle.axle(name) for name in AXLES}
    if not any(axle.uneven for axle in axles.values()):
        return dict.fromkeys(WHEELS, 0.0)
    even = {n: a.even() for n, a in axles.items()}
    stances = {name: replace(after.axle(name), axle=even[name]) for name in AXLES}
    alike = Stood(after.vehicle.model_copy(update=even), stances["front"], stances["rear"])
    rises = [[c.rise_mm for c in whole_body(job, before, stood).corners] for stood in (after, alike)]
    return {wheel: rises[0][n] - rises[1][n] for n, wheel in enumerate(WHEELS)}


HEAVIEST_END, WHOLE_APART = 0.72, 0.2
"""Of a vehicle's mass: more than the first on one axle, or a sum further off than the second, is asked about."""


def weight_questions(stood: Stood) -> list[Question]:
    """Loads that the springs say at the measured heights, held against the vehicle's own mass."""
    mass = stood.vehicle.mass_kg
    if mass is None:
        return []
    on = {name: 2 * (stood.axle(name).load / GRAVITY + stood.axle(name).axle.unsprung_kg) for name in AXLES}
    which = "which part is not what the data say, or which height was read elsewhere?"
    for name, kilograms in on.items():
        if kilograms > HEAVIEST_END * mass:
            said = f"The {name} springs at their height say {kilograms:.0f} kg of a vehicle of {mass:.0f} kg"
            return [Question(where=f"{name}.load", sentence=f"{said}: {which}")]
    total = sum(on.values())
    if abs(total - mass) > WHOLE_APART * mass:
        return [
            Question(
                where="vehicle.load",
                sentence=f"Front and rear springs at their heights say {total:.0f} kg together, the vehicle's data "
                f"{mass:.0f} kg: {which}",
            )
        ]
    return []


__all__ = ["BodyPrediction", "CornerLoad", "by_its_side", "weight_questions", "whole_body"]

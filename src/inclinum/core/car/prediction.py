"""The whole prediction of a job: heights with ±, what each change brings, travel, ride, angles and findings.

A pure function of the job document. Everything is told relative to the measured baseline.
"""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np

from inclinum.core.car.aims import told
from inclinum.core.car.changes import PlannedChange
from inclinum.core.car.claims import KitPrediction, kits, recovered
from inclinum.core.car.corner_weights import BodyPrediction, by_its_side, weight_questions, whole_body
from inclinum.core.car.drawing import AxlePoses, Drawing, draw
from inclinum.core.car.driveline import anti_squat_percent, axle_turned, roll_steer, shaft_bends
from inclinum.core.car.ground import ground_angles
from inclinum.core.car.height_spread import HeightSpread, height_spread
from inclinum.core.car.heights import station_after, station_before, station_rise
from inclinum.core.car.job import Job, Measurements
from inclinum.core.car.limits import Case, Finding, Stood, findings, rises, stand_changed, stand_measured, unmeasured
from inclinum.core.car.limits.local import lamp_height
from inclinum.core.car.measured import Question, questions
from inclinum.core.car.rack import mean_offsets, mean_plus_minus
from inclinum.core.car.setting_table import SettingTable, setting_tables
from inclinum.core.car.stance import Stance, keeps_springs, motion_over_reach
from inclinum.core.car.vehicle import ANGLES, AngleName, Vehicle
from inclinum.core.car.ways import with_ways, without_ways
from inclinum.core.document import Document
from inclinum.core.document.known import ASSUMED_RADIUS_MM
from inclinum.core.document.names import AXLES, SIDES, AxleName, Side
from inclinum.core.equilibrium import swap_estimate
from inclinum.core.fitting.consequence import LIFT_MM
from inclinum.core.kinematics import Motion, Poses
from inclinum.core.kinematics.leaf import LeafBody
from inclinum.core.kinematics.wheel_angles import pitch_nose_down
from inclinum.core.plan import Share, choices_of
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.springs import CoilSpring
from inclinum.core.uncertainty import InputShare

HeightKind = Literal["hub_to_arch", "arch_to_ground", "tyre_to_arch", "station"]


class Height(Document):
    """One reference, before and after."""

    label: str
    kind: HeightKind
    axle: AxleName | None
    side: Side
    x_mm: float
    before: float
    after: float
    change: float
    plus_minus: float
    """Two standard deviations, mm."""
    measured: bool
    """Whether ``before`` was read off a tape, or stands in the vehicle's data."""


class Travel(Document):
    """Travel window of an axle, wheel travel from the measured baseline, bump positive, mm."""

    droop: float
    ride: float
    stop_contact: float | None
    gap: float | None
    """From the ride point to the stop; negative when it rides on it, None where no stop is met in the travel."""
    gap_plus_minus: float | None
    """Of the gap, by its own reading and the height's ±; None where nobody read it."""
    bump: float
    damper_closed: float | None
    closed_plus_minus: float | None
    """Of the travel from the ride point to there, by the rod that showed and the height's ±; None as above."""


class Angles(Document):
    """Angles of a left wheel against the ground, degrees and mm; where the rack was read, of the mean of both."""

    camber_deg: float
    toe_deg: float
    caster_deg: float | None
    kingpin_deg: float | None
    scrub_mm: float | None
    trail_mm: float | None
    roll_centre_mm: float
    half_track_change_mm: float
    bump_steer_deg_per_10mm: float


class AnglePlusMinus(Document):
    """± of the planned angles, degrees: of what badly known hardpoints do over the rise, and of the rack's reading."""

    camber_deg: float
    toe_deg: float
    caster_deg: float | None
    """Of its reading alone: None where nobody read it."""


class AngleCurves(Document):
    """Angles over travel with the body level, from the measured baseline."""

    travel: list[float]
    camber_deg: list[float]
    toe_deg: list[float]
    caster_deg: list[float] | None


class ForceCurve(Document):
    """Force of one spring over its length, and where it stands at ride."""

    label: str
    axis: str
    """What the length is, with its unit."""
    force_axis: str
    length: list[float]
    force: list[float]
    ride_length: float
    ride_force: float


class ShaftJoints(Document):
    """Joints of a propeller shaft at ride height, degrees, as it came and planned."""

    gearbox_before: float
    pinion_before: float
    gearbox: float
    pinion: float
    longer_mm: float
    """Than it came, at ride height, less what a spacer gives it."""


class SteppedRate(Document):
    """Where the springs of an axle become stiffer at a stroke."""

    what: str
    past_ride_mm: float
    """Wheel travel from the ride point; negative where it rides beyond it."""
    before_bump_mm: float
    wheel_rate_below: float
    wheel_rate_above: float


class CoupledAxle(Document):
    """What the plan does to a solid axle as a whole, against how it came."""

    shift_left_mm: float
    """Of the axle under the body."""
    nose_up_deg: float
    """Turn of the axle, its front upwards: of the pinion, and of the kingpins' caster."""
    drag_link_short_mm: float | None
    """By how much the drag link is too short to leave the steering wheel where it was; None without one."""
    steering_wheel_deg: float | None
    """Turn of the steering wheel off its straight ahead, until that is set; None where the box is not known."""
    steer_left_deg: float
    """Turn of the axle under the body, seen from above: its left wheel then toes out by so much, its right one in."""
    roll_steer_before: float
    roll_steer: float
    """Turn into a bend per degree that the body leans out of it."""
    shaft: ShaftJoints | None
    """None where the propeller shaft is not known."""
    anti_squat_before: float | None
    anti_squat: float | None
    """What its links carry of squat under drive (at the front: of lift), %; None without the centre of gravity."""


class Ground(Document):
    """Angles that the vehicle clears, degrees, before and planned; None where no station says how low it is there."""

    approach_before: float | None
    approach: float | None
    departure_before: float | None
    departure: float | None
    breakover_before: float | None
    breakover: float | None


class AxlePrediction(Document):
    """One axle, before and after."""

    rise: float
    plus_minus: float
    aim: float | None
    """Rise that meets what the brief wants of this end, mm; None where it wants nothing."""
    aim_met: bool | None
    aim_said: str
    """The aim in words; empty where there is none."""
    aim_near: str
    """How near counts as met, in words; empty as above."""
    load_n: float
    sprung_mass_kg: float
    wheel_rate_before: float
    wheel_rate_after: float
    frequency_before: float
    frequency_after: float
    ratio: float
    swap_estimate: float | None
    """The first-order rule people use for another spring, for comparison only."""
    travel_before: Travel
    travel_after: Travel
    angles_before: Angles
    angles_after: Angles
    angle_plus_minus: AnglePlusMinus
    angles_read: list[AngleName]
    """Those a rack can read of such a wheel: caster needs something it steers about."""
    curves: AngleCurves
    springs: list[ForceCurve]
    rate_steps: list[SteppedRate]
    """Where tender, groups or helper change the rate within the travel; empty where none does."""
    bump_force_n: float | None
    """Force of the spring at full bump; None where it is solid by then."""
    wind_up_deg: dict[str, float]
    """Per arm: what its bushes would store if tightened at full droop."""
    inputs: list[InputShare]
    coupled: CoupledAxle | None
    """None where each wheel has its own."""
    recovered_mm: float
    """Part of the rise that is the sag of tired springs going out with them."""
    springs_lost: float | None
    """What the fitted springs have lost; None where that is not known."""
    springs_lost_of: str
    """Its unit, and what of them it is."""


class Prediction(Document):
    """Everything that follows from a job's vehicle, readings and plan."""

    front: AxlePrediction
    rear: AxlePrediction
    heights: list[Height]
    pitch_change_deg: float
    """Nose-down positive."""
    rake_within: bool
    lamp_height_mm: float | None
    ground: Ground
    shares: list[Share]
    kits: list[KitPrediction]
    findings: list[Finding]
    unmeasured: list[str]
    """What the limits were checked against and nobody gave: without it nothing found is not all well."""
    questions: list[Question]
    stopped: bool
    """Whether a finding stops the plan and no written override stands."""
    choices: dict[str, dict[str, list[tuple[str, str]]]]
    """Of each change that names a part of the vehicle: parameter → parts it can name, as value and title."""
    settings: dict[str, SettingTable]
    """Of each change that has a list of settings: what every one of them would do."""
    drawing: Drawing
    body: BodyPrediction

    def axle(self, name: AxleName) -> AxlePrediction:
        """One axle."""
        return self.front if name == "front" else self.rear


@dataclass(frozen=True)
class Assessed:
    """A job with both stances, for the parts of the core that go on from here."""

    job: Job
    before: Stood
    after: Stood

    @property
    def ground_rises(self) -> tuple[float, float]:
        """Of the body against the ground at the front and at the rear axle, mm."""
        return self.after.front.ground_rise, self.after.rear.ground_rise

    @property
    def pitch_change(self) -> float:
        """Change of body pitch, nose-down positive, rad."""
        return float(pitch_nose_down(*self.ground_rises, self.after.vehicle.wheelbase_mm))


def assess(job: Job) -> Assessed:
    """Stances before and after.

    Raises:
        NoRidePoint: a spring of the vehicle or the plan carries its load nowhere.
        ValueError: a change that does not go on its axle.
    """
    before = stand_measured(job)
    return Assessed(job, before, stand_changed(before, job.plan.changes))


def predict(job: Job, *, ways: bool = True) -> Prediction:
    """The whole prediction. Raises as :func:`assess`.

    Args:
        job: with its plan.
        ways: whether a height that is missed is searched for what reaches it: a card or a proof offers no other plan,
            and a slider that is held is not kept waiting for it.
    """
    assessed = assess(job)
    before, after = assessed.before, assessed.after
    case = Case(job, before, after)
    found = findings(case)
    found = with_ways(case, found) if ways else without_ways(found)
    spread: dict[AxleName, HeightSpread] = {
        name: height_spread(job, before.axle(name), after.axle(name), name) for name in AXLES
    }
    shares = _shares(before, after, job.plan.changes)
    poses: dict[AxleName, AxlePoses] = {name: _poses(before.axle(name), after.axle(name)) for name in AXLES}
    front, rear = (_axle(assessed, name, poses[name], spread[name]) for name in AXLES)
    return Prediction(
        front=front,
        rear=rear,
        heights=_heights(assessed, spread),
        pitch_change_deg=math.degrees(assessed.pitch_change),
        rake_within=not any(f.id == "rake" for f in found),
        lamp_height_mm=lamp_height(case),
        ground=_ground(assessed),
        shares=shares,
        kits=kits(job, before, after, shares),
        findings=found,
        unmeasured=unmeasured(case),
        questions=[*questions(job.vehicle, job.measure), *weight_questions(before)],
        stopped=any(f.severity == "stops" for f in found) and not job.plan.override.strip(),
        choices=choices_of(before.vehicle, job.plan.changes),
        settings=setting_tables(
            job.plan.changes, before, after, {"front": front.aim, "rear": rear.aim}, job.brief.shelf
        ),
        drawing=draw(before, after, poses, job.measure.photograph),
        body=whole_body(job, before, after),
    )


CURVE_MARGIN_MM = 10.0
"""How far the curves go on beyond the window of travel."""


def rate_steps(stance: Stance) -> list[SteppedRate]:
    """Where the springs of an axle change their rate within its travel, as wheel travel from where it rides.

    Args:
        stance: planned.

    Source: derived here: the travel at which the spring has the length its coils meet at.
    """
    found, ride = [], stance.ride
    for step in stance.axle.spring.rate_steps():
        travel = ride.travel_of_spring(step.length)
        if travel is None or not stance.full_droop <= travel <= stance.bump_end:
            continue
        below, above = (float(ride.wheel_rate(travel + by)) for by in (-STEP_MM, STEP_MM))
        found.append(
            SteppedRate(
                what=step.what, past_ride_mm=travel - stance.travel, before_bump_mm=stance.bump_end - travel,
                wheel_rate_below=below, wheel_rate_above=above,
            )
        )  # fmt: skip
    return found


STEP_MM = 0.5


def _bump_force(stance: Stance) -> float | None:
    length = float(stance.ride.spring_at(stance.bump_end))
    solid = stance.axle.spring.is_coil and length < stance.ride.spring.solid_length
    return None if solid else float(stance.ride.spring.force(length))


def _shaft(before: Stance, after: Stance) -> ShaftJoints | None:
    if before.axle.prop_shaft is None or after.axle.prop_shaft is None:
        return None
    was, now = (shaft_bends(s, before, np.array([s.travel])) for s in (before, after))
    return ShaftJoints(
        gearbox_before=float(was.gearbox[0]), pinion_before=float(was.pinion[0]), gearbox=float(now.gearbox[0]),
        pinion=float(now.pinion[0]), longer_mm=float(now.longer[0]) - after.axle.prop_shaft.longer_mm,
    )  # fmt: skip


def _carried_by_links(stance: Stance, vehicle: Vehicle, rise: float) -> float | None:
    """Anti-squat of an axle on links; None on leaves, which bend, and without the centre of gravity."""
    if vehicle.cg_height_mm is None or isinstance(stance.corner.body, LeafBody):
        return None
    return anti_squat_percent(stance, vehicle.wheelbase_mm, vehicle.cg_height_mm + rise)


def _coupled(assessed: Assessed, name: AxleName, poses: AxlePoses) -> CoupledAxle | None:
    before, after = assessed.before.axle(name), assessed.after.axle(name)
    if not after.axle.linkage.coupled:
        return None
    turned = axle_turned(before, after, (poses.before, poses.after))
    return CoupledAxle(
        shift_left_mm=turned.shift_left, nose_up_deg=turned.nose_up, drag_link_short_mm=turned.drag_link_short,
        steering_wheel_deg=turned.steering_wheel, steer_left_deg=turned.steer_left,
        roll_steer_before=roll_steer(before), roll_steer=roll_steer(after), shaft=_shaft(before, after),
        anti_squat_before=_carried_by_links(before, assessed.before.vehicle, 0.0),
        anti_squat=_carried_by_links(after, assessed.after.vehicle, sum(assessed.ground_rises) / 2),
    )  # fmt: skip


def _poses(before: Stance, after: Stance) -> AxlePoses:
    """Everything asked of an axle at its own travels, each on its own linkage; where that stays, in one solve."""
    if before.axle.linkage == after.axle.linkage:
        poses = _solved(after, before.travel, after.travel, after.full_droop)
        return AxlePoses(poses[[0]], poses[[1, 2]])
    return AxlePoses(_solved(before, before.travel), _solved(after, after.travel, after.full_droop))


def _solved(stance: Stance, *travel: float) -> Poses:
    travels = np.array(travel)
    grid = motion_over_reach(stance.corner, *stance.ride.search)
    nearest = [int(i) for i in np.abs(grid.travel[:, None] - travels).argmin(axis=0)]
    return stance.corner.body.poses(travels, near=grid.poses[nearest])


def _axle(assessed: Assessed, name: AxleName, poses: AxlePoses, spread: HeightSpread) -> AxlePrediction:
    before, after = assessed.before.axle(name), assessed.after.axle(name)
    # As they stand, each on its own linkage; and before with the body level, which tracks are compared with.
    was = before.corner.motion(poses.before[[0, 0]], np.array([assessed.before.pitch, 0.0]))
    now = after.corner.motion(poses.after[[0]], np.array([assessed.after.pitch]))
    aim, _ = told(assessed.job, assessed.before, assessed.after, name)
    offsets = mean_offsets(assessed.before, assessed.job.measure, name)
    return AxlePrediction(
        rise=after.rise,
        plus_minus=spread.rise_plus_minus,
        aim=aim and aim.rise,
        aim_met=aim and aim.met(after.rise),
        aim_said=aim.said if aim else "",
        aim_near=aim.near if aim else "",
        load_n=after.load,
        sprung_mass_kg=2 * after.load / GRAVITY,
        wheel_rate_before=before.wheel_rate,
        wheel_rate_after=after.wheel_rate,
        frequency_before=before.frequency,
        frequency_after=after.frequency,
        ratio=float(before.ride.spring_length.ratio(before.travel)),
        swap_estimate=_estimate(before, after),
        travel_before=_travel(before, assessed.job.measure, name, 0.0),
        travel_after=_travel(after, assessed.job.measure, name, spread.rise_plus_minus),
        angles_before=_angles(was, was.contact[-1], offsets),
        angles_after=_angles(now, was.contact[-1], offsets),
        angle_plus_minus=_angle_plus_minus(after, assessed.job.measure, name),
        curves=_curves(after, offsets),
        springs=_springs(before, after),
        rate_steps=rate_steps(after),
        bump_force_n=_bump_force(after),
        angles_read=[name for name in ANGLES if getattr(now, name) is not None],
        wind_up_deg={arm: math.degrees(turn) for arm, turn in after.corner.arm_turn(poses.after).items()},
        inputs=list(spread.inputs),
        coupled=_coupled(assessed, name, poses),
        recovered_mm=recovered(assessed.before, assessed.after, assessed.job, name),
        springs_lost=None
        if assessed.job.measure.as_new(name) is None
        else before.axle.tired * before.axle.spring.coordinate.per,
        springs_lost_of=f"{before.axle.spring.coordinate.unit} of their {before.axle.spring.coordinate.free}",
    )


def _angle_plus_minus(after: Stance, readings: Measurements, name: AxleName) -> AnglePlusMinus:
    lifts, axle = abs(after.rise) / LIFT_MM, after.axle
    return AnglePlusMinus(
        camber_deg=math.hypot(axle.camber_change_tolerance_deg * lifts, mean_plus_minus(readings, name, "camber")),
        toe_deg=math.hypot(axle.toe_change_tolerance_deg * lifts, mean_plus_minus(readings, name, "toe")),
        caster_deg=mean_plus_minus(readings, name, "caster") or None,
    )


def _estimate(before: Stance, after: Stance) -> float | None:
    if before.axle.coil is None or after.axle.coil is None or before.axle.coil == after.axle.coil:
        return None
    old, new = before.axle.coil.spring(), after.axle.coil.spring()
    assert isinstance(old, CoilSpring)
    assert isinstance(new, CoilSpring)
    old = CoilSpring(old.rate * before.force_factor, old.free_length)
    force = float(before.ride.spring_force(before.baseline))
    ratio = float(before.ride.spring_length.ratio(before.baseline))
    return swap_estimate(old, new, force, ratio)


def _travel(stance: Stance, readings: Measurements, name: AxleName, rise_plus_minus: float) -> Travel:
    contact, closed = stance.window.stop_contact, stance.window.damper_closed

    def read_to(quantity: str, end: float | None, *, on_damper: bool) -> float | None:
        """± of the wheel travel to an end that was read at the damper, or over the axle."""
        read = readings.mean_plus_minus(name, quantity)
        if read is None or end is None:
            return None
        ratio = abs(float(stance.ride.damper_length.ratio(end))) if on_damper else 1.0
        return math.hypot(read / ratio, rise_plus_minus)

    return Travel(
        droop=stance.full_droop - stance.baseline,
        ride=stance.travel - stance.baseline,
        stop_contact=None if contact is None else contact - stance.baseline,
        gap=None if contact is None else contact - stance.travel,
        gap_plus_minus=read_to("bump_stop_gap", contact, on_damper=stance.axle.bump_stop.on_damper),
        bump=stance.bump_end - stance.baseline,
        damper_closed=None if closed is None else closed - stance.baseline,
        closed_plus_minus=read_to("exposed_rod", closed, on_damper=True),
    )


def _angles(motion: Motion, level: np.ndarray, offsets: Mapping[AngleName, float]) -> Angles:
    """Angles of the first pose.

    Args:
        level: contact of the tyre as it came, body level, which the track is compared with.
    """
    which = 0

    def deg(values: np.ndarray | None, read: float = 0.0) -> float | None:
        return None if values is None else math.degrees(values[which] + read)

    return Angles(
        camber_deg=math.degrees(motion.camber[which] + offsets.get("camber", 0.0)),
        toe_deg=math.degrees(motion.toe[which] + offsets.get("toe", 0.0)),
        caster_deg=deg(motion.caster, offsets.get("caster", 0.0)),
        kingpin_deg=deg(motion.kingpin_inclination),
        scrub_mm=None if motion.scrub_radius is None else float(motion.scrub_radius[which]),
        trail_mm=None if motion.mechanical_trail is None else float(motion.mechanical_trail[which]),
        roll_centre_mm=float(motion.roll_centre_height[which]),
        half_track_change_mm=float(motion.half_track_change(level)[which]),
        bump_steer_deg_per_10mm=math.degrees(motion.bump_steer[which]) * 10,
    )


def _curves(stance: Stance, offsets: Mapping[AngleName, float]) -> AngleCurves:
    motion = motion_over_reach(stance.corner, *stance.ride.search)
    low, high = stance.full_droop - CURVE_MARGIN_MM, stance.bump_end + CURVE_MARGIN_MM
    keep = motion.reachable & (motion.travel >= low) & (motion.travel <= high)

    def degrees(name: AngleName) -> list[float]:
        return np.round(np.degrees(getattr(motion, name)[keep] + offsets.get(name, 0.0)), 5).tolist()

    return AngleCurves(
        travel=np.round(motion.travel[keep] - stance.baseline, 3).tolist(),
        camber_deg=degrees("camber"),
        toe_deg=degrees("toe"),
        caster_deg=None if motion.caster is None else degrees("caster"),
    )


def _springs(before: Stance, after: Stance) -> list[ForceCurve]:
    # A new pair of the same part does not carry what the scales or the tape said of the old one.
    same = before.axle.spring == after.axle.spring and keeps_springs(before.axle, after.axle)
    return [_force_curve("fitted", before)] + ([] if same else [_force_curve("planned", after)])


_FORCE_AXES: dict[str, tuple[str, float, str, float]] = {
    "torsion_bar": ("arm below horizontal, °", float(np.degrees(1.0)), "torque, N·m", 1e-3),
    "leaf_pack": ("seat below reference, mm", 1.0, "force, N", 1.0),
    "air_spring": ("bag height, mm", 1.0, "force, N", 1.0),
}
"""Per kind of spring: what its length and force are called, and what turns them into those units."""


def _force_curve(label: str, stance: Stance) -> ForceCurve:
    spring = stance.ride.spring
    axis, per_length, force_axis, per_force = _FORCE_AXES.get(
        stance.axle.spring.type, ("spring length, mm", 1.0, "force, N", 1.0)
    )
    at_ride, droop, bump = (
        float(stance.ride.spring_at(z)) for z in (stance.travel, stance.full_droop, stance.bump_end)
    )
    ends = (float(spring.free_length), spring.solid_length) if stance.axle.spring.is_coil else (droop, bump)
    length = np.linspace(*ends, 25)
    return ForceCurve(
        label=label,
        axis=axis,
        force_axis=force_axis,
        length=np.round(length * per_length, 2).tolist(),
        force=np.round(spring.force(length) * per_force, 1).tolist(),
        ride_length=at_ride * per_length,
        ride_force=float(spring.force(at_ride)) * per_force,
    )


def _heights(assessed: Assessed, spread: dict[AxleName, HeightSpread]) -> list[Height]:
    job, vehicle = assessed.job, assessed.after.vehicle
    beyond = by_its_side(job, assessed.before, assessed.after)
    rows = []
    for axle in AXLES:
        for side in SIDES:
            rows += _at_the_corner(assessed, axle, side, spread[axle], beyond[axle, side])
    for station in vehicle.stations:
        came = assessed.before.vehicle.station(station.name) or station
        change = station_rise(assessed.after, station) + station.height_mm - came.height_mm
        at = -station.x_mm / vehicle.wheelbase_mm
        for side in SIDES:
            reading = job.measure.station(station.name, side)
            if reading is None:
                continue
            # A body that leans carries a place at its side along as far out as the wheels.
            borne = station.on == "body"
            leant = change + borne * ((1 - at) * beyond["front", side] + at * beyond["rear", side])
            moved = math.hypot((1 - at) * spread["front"].rise_plus_minus, at * spread["rear"].rise_plus_minus)
            rows.append(
                Height(
                    label=station.name,
                    kind="station",
                    axle=None,
                    side=side,
                    x_mm=station.x_mm,
                    before=reading.value,
                    after=reading.value + leant,
                    change=leant,
                    plus_minus=math.hypot(moved, reading.plus_minus(job.measure.default_tolerance_mm)),
                    measured=True,
                )
            )
    return rows


def _at_the_corner(
    assessed: Assessed, axle: AxleName, side: Side, spread: HeightSpread, beyond: float
) -> Iterator[Height]:
    """Hub and ground to the arch; and tyre to arch, where somebody read it: a bigger tyre eats into it.

    Args:
        assessed: the job.
        axle, side: which corner.
        spread: of its axle.
        beyond: what the corner rises more than its axle, mm.
    """
    measure, stance = assessed.job.measure, assessed.after.axle(axle)
    hub, gap = (measure.corner(axle, side, q) for q in ("hub_to_arch", "tyre_to_arch"))
    tyre = measure.mean_plus_minus(axle, "tyre_radius")
    grown = stance.axle.tyre_growth_mm
    rise, above_hub = stance.rise + beyond, spread.height_plus_minus[side]
    before = hub.value if hub else stance.axle.hub_to_arch_mm - stance.baseline

    def row(kind: HeightKind, was: float, change: float, plus_minus: float, *, measured: bool) -> Height:
        return Height(
            label=kind.replace("_", " "), kind=kind, axle=axle, side=side, x_mm=assessed.after.vehicle.axle_x(axle),
            before=was, after=was + change, change=change, plus_minus=plus_minus, measured=measured,
        )  # fmt: skip

    over_ground = math.hypot(above_hub, ASSUMED_RADIUS_MM if tyre is None else tyre)
    radius = stance.axle.tyre_radius_mm - grown
    yield row("hub_to_arch", before, rise, above_hub, measured=hub is not None)
    yield row(
        "arch_to_ground", before + radius, stance.ground_rise + beyond, over_ground,
        measured=hub is not None and tyre is not None,
    )  # fmt: skip
    if gap is not None:
        plus_minus = math.hypot(spread.rise_plus_minus, gap.plus_minus(measure.default_tolerance_mm))
        smaller = grown - assessed.before.axle(axle).axle.tyre_growth_mm
        yield row("tyre_to_arch", gap.value, rise - smaller, plus_minus, measured=True)


def _ground(assessed: Assessed) -> Ground:
    job, before, after = assessed.job, assessed.before, assessed.after
    stations = after.vehicle.stations
    was = ground_angles({s.name: station_before(job, before, s) for s in before.vehicle.stations}, before)
    now = ground_angles({s.name: station_after(job, before, after, s) for s in stations}, after)
    return Ground(
        approach_before=was.approach, approach=now.approach, departure_before=was.departure, departure=now.departure,
        breakover_before=was.breakover, breakover=now.breakover,
    )  # fmt: skip


def _shares(before: Stood, after: Stood, changes: tuple[PlannedChange, ...]) -> list[Share]:
    """Each change's own step of the rise, in the order of the stack; half a plan need not stand, the whole one does."""
    stacks = [changes[: n + 1] for n in range(len(changes))]
    last = max((n for n, p in enumerate(changes) if p.on), default=-1)
    steps: dict[AxleName, list[float]] = {}
    for name in AXLES:
        reached, steps[name] = before.axle(name).rise, []
        for n, there in enumerate(rises(before, stacks[:last], name) if last > 0 else ()):
            now = float(there) if changes[n].on and math.isfinite(there) else reached
            steps[name].append(now - reached)
            reached = now
        steps[name] += [after.axle(name).rise - reached] * (last >= 0)
        steps[name] += [0.0] * (len(changes) - len(steps[name]))
    return [
        Share(id=p.id, front=front, rear=rear)
        for p, front, rear in zip(changes, steps["front"], steps["rear"], strict=True)
    ]


__all__ = ["Assessed", "Prediction", "assess", "predict"]

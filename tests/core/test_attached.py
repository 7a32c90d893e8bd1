"""Shafts, hoses, anti-roll links, tyre gaps, ground points: on a trailing arm, which turns about a known axis."""

import math

import numpy as np
import pytest
from scipy.optimize import fsolve
from scipy.spatial.transform import Rotation

from inclinum.core.car.archetypes import ARCHETYPES
from inclinum.core.car.attached import AntiRollLink, FlexLine, HalfShaft, TyreGap
from inclinum.core.car.carried import Carried, carried_at
from inclinum.core.car.changes import AntiRollLinks, ArmLength, SeatSpacer, SpringSwap, Stated, Tyres, WheelOffset
from inclinum.core.car.changes.base import Change
from inclinum.core.car.ground import tangent_deg
from inclinum.core.car.job import Job
from inclinum.core.car.limits.anti_roll import link_and_arm
from inclinum.core.car.limits.flex_lines import spans
from inclinum.core.car.limits.half_shafts import shaft_angles
from inclinum.core.car.prediction import Prediction, assess, predict
from inclinum.core.car.stance import Stance
from inclinum.core.car.vehicle import Axle, VehicleStation
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.kinematics.rigid import Array
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import AT, job_on


def with_rear(job: Job, **fields: object) -> Job:
    return _with(job, "rear", fields)


def with_front(job: Job, **fields: object) -> Job:
    return _with(job, "front", fields)


def _with(job: Job, end: AxleName, fields: dict[str, object]) -> Job:
    axle = Axle.model_validate(job.vehicle.axle(end).model_copy(update=fields).model_dump())
    return job.model_copy(update={"vehicle": job.vehicle.model_copy(update={end: axle})})


def turned(stance: Stance, travel: float) -> Rotation:
    """How far a trailing arm has turned about its pivot line when its wheel has risen by so much: worked here."""
    points = stance.axle.linkage.named_points()
    first, second, wheel = points["pivot_inner"], points["pivot_outer"], points["wheel_centre"]
    axis = (second - first) / np.linalg.norm(second - first)

    def rise(turn: Array) -> float:
        return float((Rotation.from_rotvec(turn[0] * axis).apply(wheel - first) + first - wheel)[2] - travel)

    return Rotation.from_rotvec(fsolve(rise, [-travel / 400])[0] * axis)


def moved(stance: Stance, travel: float, at: Array) -> Array:
    first = stance.axle.linkage.named_points()["pivot_inner"]
    return turned(stance, travel).apply(at - first) + first


@pytest.fixture(scope="module")
def arm() -> Stance:
    return assess(job_on("trailing", "rear")).before.rear


SHAFT = HalfShaft(inner=(20.0, 150.0, 320.0), inner_max_deg=18, outer_max_deg=40, plunge_in_mm=3, plunge_out_mm=12)


@pytest.mark.parametrize("travel", [-60.0, 0.0, 45.0])
def test_a_half_shaft_bends_as_the_wheel_turns_about_its_pivot(arm: Stance, travel: float) -> None:
    job = with_rear(job_on("trailing", "rear"), half_shaft=SHAFT)
    stance = assess(job).before.rear
    wheel = stance.axle.linkage.named_points()["wheel_centre"]
    line = moved(arm, travel, wheel) - np.array(SHAFT.inner)
    inner = math.degrees(math.acos(line[1] / np.linalg.norm(line)))
    camber, toe = np.radians(stance.axle.camber_deg), np.radians(stance.axle.toe_deg)
    # The hub's axis points out of the wheel: up where its top leans in, forward where it toes in.
    hub = turned(arm, travel).apply([np.cos(camber) * np.sin(toe), np.cos(camber) * np.cos(toe), -np.sin(camber)])
    outer = math.degrees(math.acos(float(line @ hub) / np.linalg.norm(line)))
    longer = np.linalg.norm(line) - np.linalg.norm(wheel - np.array(SHAFT.inner))
    found = shaft_angles(stance, np.array([travel]))
    assert (found.inner[0], found.outer[0], found.longer[0]) == pytest.approx((inner, outer, longer), abs=1e-5)


def test_a_shaft_that_bends_too_far_at_droop_is_strapped(arm: Stance) -> None:
    job = with_rear(job_on("trailing", "rear"), half_shaft=SHAFT.model_copy(update={"inner_max_deg": 8}))
    ids = {f.id: f for f in predict(job).findings if f.id.startswith("half_shaft")}
    droop = ids["half_shaft.rear.inner.full_droop"]
    assert droop.severity == "fix"
    assert droop.value > 8
    healed = predict(job.model_copy(update={"plan": job.plan.model_copy(update={"changes": droop.cures[0].changes})}))
    assert droop.id not in {f.id for f in healed.findings}
    closer = with_rear(job_on("trailing", "rear"), half_shaft=SHAFT.model_copy(update={"inner_max_deg": 5}))
    lifted = predict(on(closer, Stated(axle="rear", what="word", rise_mm=70)))
    stops = [f for f in lifted.findings if f.id == "half_shaft.rear.inner.ride_height"]
    assert [f.severity for f in stops] == ["stops"]


def test_a_shaft_out_of_plunge_says_which_way(arm: Stance) -> None:
    job = with_rear(job_on("trailing", "rear"), half_shaft=SHAFT.model_copy(update={"plunge_out_mm": 1}))
    found = next(f for f in predict(job).findings if f.id == "half_shaft.rear.plunge.full_droop")
    assert found.value > 1 == found.limit
    assert "pulls its joint apart" in found.what


def test_a_solid_axle_has_no_half_shafts_to_tell_of() -> None:
    with pytest.raises(ValueError, match="inside it"):
        with_rear(job_on("four_link_axle", "rear"), half_shaft=SHAFT)


HOSE = FlexLine(name="brake hose", body=(60.0, 420.0, 560.0), wheel=(20.0, 640.0, 330.0), length_mm=345)


@pytest.mark.parametrize("travel", [-70.0, 30.0])
def test_a_hose_spans_from_its_clip_to_where_the_arm_has_taken_the_other(arm: Stance, travel: float) -> None:
    apart = np.linalg.norm(moved(arm, travel, np.array(HOSE.wheel)) - np.array(HOSE.body))
    assert spans(arm, HOSE, np.array([travel]))[0, 0] == pytest.approx(apart, abs=1e-5)


def test_a_short_hose_stops_the_plan_and_straps_save_it() -> None:
    job = with_rear(job_on("trailing", "rear"), lines=(HOSE,))
    stance = assess(job).after.rear
    apart = float(spans(stance, HOSE, np.array([stance.full_droop]))[0, 0])
    for length, severity in ((apart - 4, "stops"), (apart + 5, "fix")):
        tight = with_rear(job_on("trailing", "rear"), lines=(HOSE.model_copy(update={"length_mm": length}),))
        found = next(f for f in predict(tight).findings if f.id == "line.rear.0")
        assert found.severity == severity
        assert found.value == pytest.approx(length - apart, abs=1e-6)
        cure = tight.plan.model_copy(update={"changes": found.cures[0].changes})
        assert not [f for f in predict(tight.model_copy(update={"plan": cure})).findings if f.id == found.id]
    long = with_rear(job_on("trailing", "rear"), lines=(HOSE.model_copy(update={"length_mm": apart + 16}),))
    assert not [f for f in predict(long).findings if f.id.startswith("line.")]


@pytest.mark.parametrize("lock", [40.0, 65.0])
def test_a_hose_at_full_lock_goes_about_the_steering_axis(lock: float) -> None:
    """Ball joints stay where they are when it is steered: the clip turns about their line as far as the wheel does."""
    clip, body = (90.0, 640.0, 420.0), (-60.0, 430.0, 700.0)
    job = with_front(job_on("wishbones", "front"), full_lock=lock)
    stance = assess(job).before.front
    line = FlexLine(name="hose", body=body, wheel=clip, length_mm=500)
    droop = np.array([stance.full_droop])
    found = spans(stance, line, droop)[:, 0]
    corner = stance.corner
    straight = corner.sweep(droop)
    lower, upper = (corner.place(n, straight.poses)[0][0] for n in ("lower_outer", "upper_outer"))
    axis = (upper - lower) / np.linalg.norm(upper - lower)
    at = straight.poses.point(np.array(clip))[0]
    outer, inner = (corner.place(n, straight.poses)[0][0] for n in ("tie_outer", "tie_inner"))
    length = np.linalg.norm(outer - inner)
    for n, by in enumerate((lock, -lock), 1):

        def turn(angle: float, about: Array) -> Array:
            return Rotation.from_rotvec(angle * axis).apply(about - lower) + lower

        def tie(angle: Array, by: float = by) -> float:
            return float(np.linalg.norm(turn(angle[0], outer) - inner - np.array([0.0, by, 0.0])) - length)

        there = turn(float(np.asarray(fsolve(tie, [0.0]))[0]), at)
        assert found[n] == pytest.approx(np.linalg.norm(there - np.array(body)), abs=1e-3)
    assert found[0] == pytest.approx(np.linalg.norm(at - np.array(body)), abs=1e-6)
    assert abs(found[1] - found[2]) > 5, "the two locks are not alike"


BAR = AntiRollLink(bar_x_mm=350, bar_z_mm=420, eye=(150.0, 500.0, 400.0), foot=(140.0, 560.0, 250.0), least_deg=35)


@pytest.mark.parametrize("travel", [-60.0, 0.0, 50.0])
def test_an_anti_roll_link_stands_where_bar_and_foot_let_it(arm: Stance, travel: float) -> None:
    """Two equations worked here: the eye stays on its circle, the link keeps its length."""
    stance = assess(with_rear(job_on("trailing", "rear"), anti_roll_link=BAR)).before.rear
    eye, foot = np.array(BAR.eye), np.array(BAR.foot)
    now = moved(arm, travel, foot)
    pivot = np.array([BAR.bar_x_mm, eye[1], BAR.bar_z_mm])

    def missed(xz: Array) -> list[float]:
        at = np.array([xz[0], eye[1], xz[1]])
        return [
            float(np.linalg.norm(at - pivot) - np.linalg.norm(eye - pivot)),
            float(np.linalg.norm(now - at) - np.linalg.norm(foot - eye)),
        ]

    x, z = np.asarray(fsolve(missed, [eye[0], eye[2]], xtol=1e-12))
    at = np.array([x, eye[1], z])
    a, b = pivot - at, now - at
    between = math.degrees(math.acos(float(a @ b) / (np.linalg.norm(a) * np.linalg.norm(b))))
    angle, hung = link_and_arm(stance, np.array([travel]))
    assert angle[0] == pytest.approx(between, abs=1e-5)
    assert hung[0] == pytest.approx(math.degrees(math.asin((pivot - at)[2] / np.linalg.norm(a))), abs=1e-5)


def test_links_that_turn_over_are_told_and_longer_ones_bring_the_bar_back() -> None:
    flat = BAR.model_copy(update={"eye": (150.0, 560.0, 330.0), "least_deg": 60})
    job = with_rear(job_on("trailing", "rear"), anti_roll_link=flat)
    lifted = on(job, Stated(axle="rear", what="word", rise_mm=50))
    found = [f for f in predict(lifted).findings if f.id.startswith("anti_roll")]
    assert found
    cure = next(f.cures[0] for f in found if f.cures)
    changed = lifted.model_copy(update={"plan": lifted.plan.model_copy(update={"changes": cure.changes})})
    before, after = assess(changed).before.rear, assess(changed).after.rear
    stood = link_and_arm(before, np.array([before.travel]))[1][0]
    stands = link_and_arm(after, np.array([after.travel]))[1][0]
    assert stands == pytest.approx(stood, abs=0.4), "to a whole millimetre of link"
    assert np.isnan(link_and_arm(before, np.array([before.travel, -900.0]))[0]).tolist() == [False, True]


def test_links_need_a_bar_and_an_arm_that_is_there() -> None:
    with pytest.raises(DomainError, match="no anti-roll bar"):
        predict(on(job_on("trailing", "rear"), AntiRollLinks(axle="rear", longer_mm=10)))
    with pytest.raises(DomainError, match="no “upper arm”"):
        predict(with_rear(job_on("trailing", "rear"), anti_roll_link=BAR.model_copy(update={"on": "upper arm"})))


@pytest.mark.parametrize(("key", "end"), AT)
def test_what_the_upright_carries_goes_with_it_on_every_archetype(key: str, end: AxleName) -> None:
    """The wheel centre told as a place on the upright is the wheel centre, and keeps its distance to another place."""
    stance = assess(job_on(key, end)).before.axle(end)
    wheel = carried_at(stance, np.array([-30.0, 0.0, 25.0]))
    centre = stance.corner.body.points[stance.corner.wheel]
    np.testing.assert_allclose(wheel.place(centre), stance.corner.place(stance.corner.wheel, wheel.poses)[0], atol=1e-9)
    beside = wheel.place(centre + np.array([30.0, -80.0, 60.0]))
    np.testing.assert_allclose(np.linalg.norm(beside - wheel.place(centre), axis=-1), math.hypot(30, 80, 60))


@pytest.mark.parametrize("on_arm", ["upright", "lower arm", "upper arm"])
def test_other_arms_leave_what_is_on_upright_and_arms_where_they_carry_it(on_arm: str) -> None:
    """An upper arm 8 mm shorter turns the upright: its places turn with it, and those on an arm keep to that arm."""
    came = assess(job_on("wishbones", "front")).before.front
    shorter = assess(on(job_on("wishbones", "front"), ArmLength(axle="front", outer="upper_outer", longer_mm=-8)))
    after = shorter.after.front
    ball = {"upright": "lower_outer", "lower arm": "lower_outer", "upper arm": "upper_outer"}[on_arm]
    at = came.axle.linkage.named_points()[ball]
    moves = Carried(after, after.corner.sweep(np.array([0.0, 20.0])).poses).place(at, on_arm)
    joint = after.corner.place(ball, after.corner.sweep(np.array([0.0, 20.0])).poses)[0]
    slack = 8.2 if on_arm == "upper arm" else 1e-4  # a shorter arm's ball is not where the old one's was
    np.testing.assert_allclose(moves, joint, atol=slack)


def gaps(job: Job) -> dict[str, float]:
    return {f.id: f.value for f in predict(job).findings if f.id.startswith("tyre_gap")}


@pytest.mark.parametrize(
    ("lies", "change", "less"),
    [
        ("above", Tyres(axle="rear", radius_mm=330), 330 - job_on("trailing", "rear").vehicle.rear.tyre_radius_mm),
        ("inside", WheelOffset(axle="rear", out_mm=20), -20),
        ("outside", WheelOffset(axle="rear", out_mm=20), 20),
        ("inside", Tyres(axle="rear", radius_mm=312, wider_mm=30), 15),
        ("outside", Tyres(axle="rear", radius_mm=312, wider_mm=30), 15),
    ],
)
def test_a_gap_loses_what_the_wheel_takes(lies: str, change: Change, less: float) -> None:
    """Of all that is kept of 300 mm, so that the finding tells the room there is."""
    gap = TyreGap.model_validate({"name": "guard", "gap_mm": 150, "lies": lies, "keep_mm": 200})
    job = with_rear(job_on("trailing", "rear"), tyre_gaps=(gap,))
    bump = predict(job).rear.travel_after.bump if lies == "above" else 0.0
    moved_bump = predict(on(job, change)).rear.travel_after.bump if lies == "above" else 0.0
    assert gaps(job)["tyre_gap.rear.0"] == pytest.approx(150 - bump)
    assert gaps(on(job, change))["tyre_gap.rear.0"] == pytest.approx(150 - moved_bump - less)


def test_nothing_is_said_of_gaps_nobody_read_but_that() -> None:
    answer = predict(on(job_on("trailing", "rear"), WheelOffset(axle="rear", out_mm=20)))
    assert any("the gaps of the tyres" in line for line in answer.unmeasured if line.startswith("Rear"))
    assert not any("the gaps of the tyres" in line for line in predict(job_on("trailing", "rear")).unmeasured)


def told(answer: Prediction, key: str) -> float | None:
    return next((f.value for f in answer.findings if f.id == key), None)


def test_ground_points_go_with_what_carries_them() -> None:
    """A bracket on the axle rises with the tyre only, a sill with the body too; the lowest is named, and the next."""
    job = job_on("trailing", "rear")
    stations = (
        *job.vehicle.stations,
        VehicleStation(
            name="damper bracket", x_mm=-job.vehicle.wheelbase_mm, height_mm=140, on="rear_axle", keep_mm=150
        ),
        VehicleStation(name="sill", x_mm=-job.vehicle.wheelbase_mm / 2, height_mm=145, keep_mm=150),
    )
    job = job.model_copy(update={"vehicle": job.vehicle.model_copy(update={"stations": stations})})
    change = Stated(axle="rear", what="word", rise_mm=30)
    answer = predict(on(job, change))
    assert told(answer, "ground.damper bracket") == pytest.approx(140)
    assert told(answer, "ground.sill") is None
    low = next(f for f in answer.findings if f.id == "lowest")
    assert (low.value, low.limit) == pytest.approx((140, 160))
    assert "“sill” at 160 mm" in low.why
    bigger = Tyres(axle="rear", radius_mm=job.vehicle.rear.tyre_radius_mm + 12)
    assert told(predict(on(job, bigger)), "ground.damper bracket") is None
    only = next(f for f in predict(on(job, bigger)).findings if f.id == "lowest")
    assert (only.value, only.limit) == pytest.approx((151, 152))
    assert "Before it was “damper bracket”" in only.why
    low_sill = next(f for f in predict(job).findings if f.id == "ground.sill")
    assert low_sill.wanted_rise == pytest.approx(5)


def test_approach_departure_and_breakover_by_their_tangents() -> None:
    """The line from the bumper touches the tyre where it is square to the spoke: checked by the distance to the hub."""
    ahead, height, radius = 750.0, 390.0, 312.0
    slope = math.radians(tangent_deg(ahead, height, radius))
    # Distance of the wheel centre from the line through the place that falls towards the tyre at that slope.
    distance = abs(math.sin(slope) * ahead - math.cos(slope) * (height - radius))
    assert distance == pytest.approx(radius)
    job = job_on("trailing", "rear")
    v, ground = job.vehicle, predict(job).ground
    rear, sill = v.station("rear bumper"), v.station("sill middle")
    assert rear is not None
    assert sill is not None
    behind = -v.wheelbase_mm - rear.x_mm
    assert ground.departure == pytest.approx(tangent_deg(behind, rear.height_mm, v.rear.tyre_radius_mm))
    assert behind == pytest.approx(0.28 * v.wheelbase_mm, abs=1)
    both = tangent_deg(-sill.x_mm, sill.height_mm, v.front.tyre_radius_mm)
    both += tangent_deg(v.wheelbase_mm + sill.x_mm, sill.height_mm, v.rear.tyre_radius_mm)
    assert ground.breakover == pytest.approx(both)
    plain, up = predict(job).ground, predict(on(job, Stated(axle="front", what="word", rise_mm=30))).ground
    assert up.approach_before == plain.approach
    assert up.approach is not None
    assert up.departure is not None
    assert up.departure_before is not None
    assert plain.approach is not None
    assert up.approach > plain.approach + 1
    assert up.departure < up.departure_before, "the tail goes down when the nose goes up"


def test_a_higher_centre_tips_sooner() -> None:
    job = job_on("trailing", "rear")
    job = job.model_copy(update={"vehicle": job.vehicle.model_copy(update={"cg_height_mm": 600.0})})
    both = (Stated(axle="front", what="word", rise_mm=40), Stated(axle="rear", what="word", rise_mm=40))
    found = next(f for f in predict(on(job, *both)).findings if f.id == "tipping")
    half = (job.vehicle.front.track_mm + job.vehicle.rear.track_mm) / 4
    assert (found.value, found.limit) == pytest.approx(
        (math.degrees(math.atan(half / 640)), math.degrees(math.atan(half / 600)))
    )
    wider = (WheelOffset(axle="front", out_mm=30), WheelOffset(axle="rear", out_mm=30))
    assert next(f for f in predict(on(job, *wider)).findings if f.id == "tipping").margin > 0


def test_the_same_dampers_on_half_as_stiff_again_springs() -> None:
    """1.5 times the wheel rate at the same load: worth 1/√1.5 of what they were, but for what bushes add."""
    job = job_on("wishbones", "front")
    coil = job.vehicle.front.coil
    assert coil is not None
    at = assess(job).before.front
    length = float(at.ride.spring_at(at.travel))
    force = coil.rate_n_per_mm * (coil.free_length_mm - length)
    stiff = coil.model_copy(
        update={"rate_n_per_mm": 1.5 * coil.rate_n_per_mm, "free_length_mm": length + force / 1.5 / coil.rate_n_per_mm}
    )
    answer = predict(on(job, SpringSwap(axle="front", coil=stiff)))
    found = next(f for f in answer.findings if f.id == "damping.front")
    by_rates = math.sqrt(answer.front.wheel_rate_before / answer.front.wheel_rate_after)
    assert found.value == pytest.approx(100 * by_rates, abs=0.01)
    assert found.value == pytest.approx(100 / math.sqrt(1.5), abs=2)
    assert not [f for f in predict(on(job, SeatSpacer(axle="front", thickness_mm=3))).findings if "damping" in f.id]


def test_every_independent_archetype_can_have_a_shaft_and_a_hose() -> None:
    for key, name in AT:
        end: AxleName = "front" if name == "front" else "rear"
        job = job_on(key, end)
        axle = job.vehicle.axle(end)
        fields: dict[str, object] = {"lines": (HOSE,)}
        if not axle.linkage.coupled:
            fields["half_shaft"] = SHAFT
        assert predict(_with(job, end, fields)).axle(end).rise == pytest.approx(0, abs=1e-3), ARCHETYPES[key].title

"""Right wheels, shared mounts and scales: what has to be asked of the geometry, and not of a name."""

import json

import numpy as np
import pytest
from pydantic import TypeAdapter

from inclinum.core.car.alignment import align
from inclinum.core.car.archetypes import ARCHETYPES, SIZES, vehicle_of
from inclinum.core.car.bench import followers, mirror_name
from inclinum.core.car.changes import Change, SeatSpacer, SpringSwap, StrutTopSpacer
from inclinum.core.car.job import Job, Measurements
from inclinum.core.car.limits.case import Case
from inclinum.core.car.prediction import assess, predict
from inclinum.core.car.proof import prove
from inclinum.core.car.vehicle import StrutTop, Vehicle
from inclinum.core.kinematics import axle_motion
from inclinum.core.kinematics.axles import AxleSteering
from inclinum.core.part_sheets import AnySheet
from inclinum.core.part_sheets.axle import AxleSheet, sweep, sweep_steering
from inclinum.core.quantity.constants import GRAVITY
from tests.conftest import plain_coil
from tests.core.test_prediction import with_changes
from tests.core.test_whole import bare_job, weighed
from tests.reference.cases import HERE

SHEETS: TypeAdapter[AnySheet] = TypeAdapter(AnySheet)
STRUT = {
    "wheel_centre": [0, 748, 304], "lower_front": [38, 358, 206], "lower_rear": [-262, 374, 213],
    "lower_outer": [12, 713, 188], "strut_top": [-36, 578, 842], "strut_lower": [-9, 649, 402],
    "tie_inner": [-136, 334, 252], "tie_outer": [-144, 692, 258],
}  # fmt: skip


def flipped(points: dict[str, list]) -> dict[str, list]:
    return {n: [x, -y, z] for n, (x, y, z) in points.items()}


def strut(side: str, **steering: object) -> AxleSheet:
    points = STRUT if side == "left" else flipped(STRUT)
    linkage = {"kind": "macpherson", "points": points, "steering": steering}
    return AxleSheet.model_validate({"linkage": linkage, "side": side, "tyre_radius_mm": 305})


@pytest.mark.parametrize(
    ("left", "right", "sign"),
    [
        # One bar slides along one vector: seen in the mirror only its part across is turned round.
        ({"kind": "rack", "axis": [0.2, 1, 0.1]}, {"kind": "rack", "axis": [0.2, -1, 0.1]}, 1),
        ({"kind": "rack", "axis": [-0.2, 1, -0.1]}, {"kind": "rack", "axis": [0.2, 1, 0.1]}, -1),
        # A turn is an axial vector: the mirrored axis turns the other way.
        (
            {"kind": "box", "axis": [0.1, 0.2, 1], "pivot": [-290, 310, 250]},
            {"kind": "box", "axis": [0.1, -0.2, 1], "pivot": [-290, -310, 250]},
            -1,
        ),
    ],
)
def test_a_right_wheels_steering_is_the_mirror_image(left: dict, right: dict, sign: int) -> None:
    at = 8.0
    one = sweep(strut("left", **left), [-20, 0, 20], rack=sign * at)
    other = sweep(strut("right", **right), [-20, 0, 20], rack=at)
    for key in ("toe_deg", "camber_deg", "caster_deg"):
        np.testing.assert_allclose(other[key], one[key], atol=1e-9)
    still = sweep(strut("left", **left), [0.0])["toe_deg"][0]
    assert abs(one["toe_deg"][1] - still) > 0.5, "it steers at all"


def test_both_wheels_of_a_slanting_rack_steer_alike_told_from_either_side() -> None:
    rack = {"kind": "rack", "axis": [0.15, 1, 0]}
    left, right = (sweep_steering(strut(side, **rack), [-30, 30], wheelbase=2600) for side in ("left", "right"))
    for key in ("steer_left_deg", "steer_right_deg", "ackermann_error_deg"):
        np.testing.assert_allclose(right[key], left[key], atol=1e-9)
    # The tie rods are behind the wheels: their ends pushed to the left turn both wheels to the right.
    assert left["steer_left_deg"][1] < -5
    assert left["steer_right_deg"][1] < -5


def test_a_right_wheels_slots_are_mirrored_and_stay_so_when_written_and_read_again() -> None:
    data = json.loads((HERE / "kinematics-alignment-macpherson-public.json").read_text())

    def sheet(side: str, y: float) -> AnySheet:
        points = data["points"] if y > 0 else flipped(data["points"])
        corner = {
            "linkage": {"kind": "macpherson", "points": points}, "side": side, "tyre_radius_mm": 305,
            "static": data["static"],
        }  # fmt: skip
        adjusters = [
            {"type": "slot", "name": "plate", "point": "strut_top", "slot_direction": [0.5, y, 0.1],
             "min": -14, "max": 14},
            {"type": "eccentric_bolt", "name": "bolt", "point": "lower_front", "eccentricity_mm": 4,
             "slot_direction": [0.2, y, 0]},
        ]  # fmt: skip
        return SHEETS.validate_python(
            {"kind": "alignment", "corner": corner, "planned_travel_mm": 32, "adjusters": adjusters,
             "targets": {"camber_deg": -1.0, "toe_deg": 0.1}}
        )  # fmt: skip

    left, right = sheet("left", 1), sheet("right", -1)
    again = SHEETS.validate_python(right.model_dump())
    settings = left.answer()["adjusters"]
    assert abs(settings["plate"]) > 1
    for other in (right, again):
        assert other.answer()["adjusters"] == pytest.approx(settings, abs=1e-6)


def test_a_solid_axles_steer_is_thrust_and_no_toe() -> None:
    vehicle = vehicle_of("strut_front", "four_link_axle", "car", "Carrow")
    points = vehicle.rear.linkage.named_points()
    # One lower link steeper than the other: heave steers the axle.
    linkage = vehicle.rear.linkage.with_points({"lower_left_body": points["lower_left_body"] + np.array([0, 0, 45.0])})
    vehicle = vehicle.with_axle("rear", linkage=linkage, targets={}, adjusters=())
    job = with_changes(bare_job(vehicle), SeatSpacer(axle="rear", thickness_mm=30))
    stance = assess(job).after.rear
    steer = float(np.degrees(axle_motion(stance.corner, stance.motion(stance.travel).poses).steer[0]))
    assert abs(steer) > 0.1
    rear = next(a for a in align(job).axles if a.axle == "rear")
    assert rear.total_toe == pytest.approx(2 * vehicle.rear.toe_deg, abs=0.01)
    # An axle turned counter-clockwise points to the left.
    assert rear.thrust_angle == pytest.approx(-steer, abs=0.01)


@pytest.mark.parametrize("key", ["three_link_axle", "leaf_axle_front"])
def test_a_steered_solid_axle_has_the_caster_of_its_kingpins(key: str) -> None:
    axle = ARCHETYPES[key].axle(SIZES["car"], "front")
    steering = getattr(axle.linkage, "steering", None)
    assert isinstance(steering, AxleSteering)
    lower, upper = np.array(steering.kingpin_left_lower), np.array(steering.kingpin_left_upper)
    motion = axle.linkage.corner(axle.tyre_radius_mm, 0.0, 0.0).sweep(0.0)
    assert motion.caster is not None
    assert motion.caster[0] == pytest.approx(np.arctan2(lower[0] - upper[0], upper[2] - lower[2]), abs=1e-9)
    assert axle.model_validate(axle.model_dump() | {"targets": {"caster": {"target_deg": 4, "window_deg": 1}}})


def shared_wishbones() -> Vehicle:
    vehicle = vehicle_of("wishbones", "trailing", "car", "Carrow")
    points = vehicle.front.linkage.named_points()
    on = {"spring_body": points["damper_body"], "spring_arm": points["damper_arm"]} if "spring_body" in points else {}
    linkage = vehicle.front.linkage.with_points(on) if on else vehicle.front.linkage
    top = StrutTop(stud_length_mm=60, stud_diameter_mm=10, nut_height_mm=8)
    return vehicle.with_axle("front", linkage=linkage, strut_top=top)


def test_a_plate_on_a_shared_mount_lifts_whatever_the_suspension_is_called() -> None:
    job = bare_job(shared_wishbones())
    plate = assess(with_changes(job, StrutTopSpacer(axle="front", thickness_mm=20))).after.front
    ring = assess(with_changes(job, SeatSpacer(axle="front", thickness_mm=20))).after.front
    assert plate.rise == pytest.approx(ring.rise, abs=1e-6)
    # By hand: 20 mm at the spring are 20 mm through the ratio at the wheel, nearly.
    ratio = float(plate.ride.spring_length.ratio((plate.travel + plate.baseline) / 2))
    assert plate.rise == pytest.approx(20 / ratio, rel=0.05)


def test_scales_carry_the_load_and_the_leaving_spring_has_no_share(in_hand: Job) -> None:
    kilograms = {(a, s): 460.0 for a in ("front",) for s in ("left", "right")}
    coil = plain_coil(in_hand.vehicle, "front")
    swap: Change = SpringSwap(axle="front", coil=coil.model_copy(update={"rate_n_per_mm": coil.rate_n_per_mm * 1.2}))
    ring: Change = SeatSpacer(axle="front", thickness_mm=10)
    sprung = (460 - in_hand.vehicle.front.unsprung_kg) * GRAVITY
    for change, stays in ((swap, False), (ring, True)):
        found = predict(weighed(with_changes(in_hand, change), kilograms))
        assert found.front.load_n == pytest.approx(sprung)
        after = assess(weighed(with_changes(in_hand, change), kilograms)).after.front
        assert float(after.ride.wheel_force(after.travel)) == pytest.approx(sprung, abs=0.1)
        labels = {i.label for i in found.front.inputs}
        assert any(label.startswith("scale, left") and "assumed" in label for label in labels) is not stays
        assert "rate of the fitted springs" not in labels
        corners = [c for c in found.body.corners if c.axle == "front"]
        assert np.mean([c.rise_mm for c in corners]) == pytest.approx(found.front.rise, abs=0.6)
    # The fitted spring carries what was weighed where it was measured: without a change nothing moves.
    assert predict(weighed(with_changes(in_hand), kilograms)).front.rise == pytest.approx(0, abs=1e-6)


def test_a_heavier_car_rises_less_on_the_same_new_spring(in_hand: Job) -> None:
    coil = plain_coil(in_hand.vehicle, "front")
    job = with_changes(in_hand, SpringSwap(axle="front", coil=coil.model_copy(update={"rate_n_per_mm": 45.0})))
    light, heavy = (
        predict(weighed(job, {("front", "left"): kg, ("front", "right"): kg})).front.rise for kg in (430.0, 470.0)
    )
    assert heavy < light - 2


def test_what_cannot_be_is_no_cure(in_hand: Job) -> None:
    assessed = assess(in_hand)
    case = Case(in_hand, assessed.before, assessed.after)
    assert case.adding_more("ring", "front", "spring room", 900.0) == []
    assert len(case.adding_more("ring", "front", "spring room", 9.0)) == 1
    assert case.taller_stop("stop", "front", 290.0) == [], "the car would ride on it"


def test_without_targets_nothing_is_judged_and_the_angles_are_told(in_hand: Job) -> None:
    bare = in_hand.vehicle.with_axle("front", targets={}).with_axle("rear", targets={})
    found = align(in_hand.model_copy(update={"vehicle": bare}))
    assert found.within is None
    assert len(found.not_judged) == 2
    judged = {(w.axle, w.side): w for w in align(in_hand).wheels}
    for wheel in found.wheels:
        assert wheel.within is None
        outcome = {a.angle: a.planned for a in wheel.angles}
        for angle in judged[wheel.axle, wheel.side].angles:
            assert outcome[angle.angle] == pytest.approx(angle.planned)


def test_a_window_missed_by_steps_alone_is_told_as_that(in_hand: Job) -> None:
    front = in_hand.vehicle.front
    coarse = tuple(a.model_copy(update={"turn_step": 1.0}) if hasattr(a, "turn_step") else a for a in front.adjusters)
    targets = {"toe": front.targets["toe"].model_copy(update={"window_deg": 0.004, "target_deg": 0.137})}
    vehicle = in_hand.vehicle.with_axle("front", adjusters=coarse, targets=targets)
    found = align(in_hand.model_copy(update={"vehicle": vehicle}))
    missed = [s for s in found.left_over if s.startswith("Toe front")]
    assert missed
    assert all("not in the steps they are set in" in s for s in missed)


def test_caster_can_be_read_of_what_steers_and_of_nothing_else() -> None:
    job = bare_job(vehicle_of("wishbones_upper", "four_link_axle", "car", "x"))
    outcome = predict(job)
    assert outcome.front.angles_read == ["camber", "toe", "caster"]
    assert outcome.rear.angles_read == ["camber", "toe"]


@pytest.mark.parametrize("key", [k for k, a in ARCHETYPES.items() if "rear" in a.where])
def test_no_rear_axle_comes_with_steering(key: str) -> None:
    size = SIZES["off_roader"] if "off_roader" not in ARCHETYPES[key].not_for else SIZES["car"]
    assert getattr(ARCHETYPES[key].axle(size, "rear").linkage, "steering", None) is None


def test_the_plan_and_the_rack_tell_one_angle(in_hand: Job) -> None:
    read = [("left", "-0.40"), ("right", "-0.90")]
    angles = [{"axle": "front", "side": s, "angle": "camber", "reading": v} for s, v in read]
    data = in_hand.measure.model_dump() | {"angles": angles}
    job = in_hand.model_copy(update={"measure": Measurements.model_validate(data)})
    outcome, racked = predict(job).front, align(job)
    assert outcome.angles_before.camber_deg == pytest.approx(-0.65), "the mean of what was read"
    planned = [a.planned for w in racked.wheels if w.axle == "front" for a in w.angles if a.angle == "camber"]
    assert outcome.angles_after.camber_deg == pytest.approx(np.mean(planned), abs=0.02)
    bare = predict(job.model_copy(update={"measure": in_hand.measure.model_copy(update={"angles": ()})})).front
    moved = outcome.angles_after.camber_deg - outcome.angles_before.camber_deg
    assert moved == pytest.approx(bare.angles_after.camber_deg - bare.angles_before.camber_deg)
    assert np.subtract(outcome.curves.camber_deg, bare.curves.camber_deg) == pytest.approx(
        outcome.angles_before.camber_deg - bare.angles_before.camber_deg, abs=2e-5
    )


def test_a_target_that_is_only_usual_is_aimed_at_and_judges_nothing() -> None:
    vehicle = vehicle_of("strut_front", "five_link", "car", "x")
    job = with_changes(bare_job(vehicle), SeatSpacer(axle="front", thickness_mm=40))
    found = align(job)
    assert found.within is None
    assert not found.left_over
    assert ["camber and toe are only usual" in s for s in found.not_judged] == [True, True]
    left = next(w for w in found.wheels if (w.axle, w.side) == ("front", "left"))
    assert abs(left.settings[0].solved_mm) > 0.05, "the tie rod is aimed at it all the same"
    camber = next(a for a in left.angles if a.angle == "camber")
    assert camber.remaining is not None
    assert abs(camber.remaining) > 0.75
    maker = {q: t.model_copy(update={"assumed": False}) for q, t in vehicle.front.targets.items()}
    outcome = align(job.model_copy(update={"vehicle": job.vehicle.with_axle("front", targets=maker)}))
    assert outcome.within is False
    assert any(s.startswith("Camber front left stays") for s in outcome.left_over)
    after = {"angles": [{"axle": "front", "side": "left", "angle": "camber", "reading": "2"}]}
    proof = job.prove.model_copy(update={"after": Measurements.model_validate(after)})
    measured = job.model_copy(update={"prove": proof})
    assert prove(measured).verdict == "nothing measured"
    assert prove(measured).angles[0].within is None
    judged = measured.model_copy(update={"vehicle": job.vehicle.with_axle("front", targets=maker)})
    assert prove(judged).verdict == "outside"


COUPLED = {k: a.linkage(SIZES["car"], "rear") for k, a in ARCHETYPES.items() if a.linkage(SIZES["car"]).coupled}


def test_an_axle_with_both_sides_drawn_has_mirror_images() -> None:
    assert (
        sum(any(mirror_name(n) in axle.named_points() for n in axle.named_points()) for axle in COUPLED.values()) >= 4
    )


@pytest.mark.parametrize("key", list(COUPLED))
def test_a_point_of_an_even_axle_takes_along_what_keeps_it_even(key: str) -> None:
    """Whatever is moved, with what the bench says goes along: points at one place stay together, sides stay alike."""
    points = COUPLED[key].named_points()
    pairs = {n: twin for n in points if (twin := mirror_name(n)) in points}
    flip = np.array([1.0, -1.0, 1.0])
    even = {n: t for n, t in pairs.items() if np.allclose(points[n], points[t] * flip)}
    together = [(a, b) for a in points for b in points if a < b and np.array_equal(points[a], points[b])]
    for name in points:
        goes = followers(name, points)
        to = points[name] + np.array([7.0, 11.0, -5.0])
        moved = points | dict.fromkeys((name, *goes["along"]), to) | dict.fromkeys(goes["images"], to * flip)
        for one, twin in even.items():
            assert np.allclose(moved[one], moved[twin] * flip), (name, one)
        for a, b in together:
            assert np.array_equal(moved[a], moved[b]), (name, a, b)

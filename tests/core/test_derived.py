"""What is told beside the main numbers is what it says: slopes are slopes, lines have their length, loads stand."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.changes.fork_oil import ForkOil
from inclinum.core.bike.changes.side_stand import StandLeg
from inclinum.core.bike.fit import STROKE, fitted
from inclinum.core.bike.job import BikeMeasurements
from inclinum.core.bike.machine import SideStand
from inclinum.core.bike.prediction import assess as assess_bike
from inclinum.core.bike.prediction import predict_bike, sweep_rear
from inclinum.core.car.archetypes import ARCHETYPES, SIZES, vehicle_of
from inclinum.core.car.changes import SeatSpacer, StrutTopSpacer
from inclinum.core.car.job import Cargo, Measurements
from inclinum.core.car.prediction import assess, predict
from inclinum.core.car.proof import prove
from inclinum.core.car.vehicle import StrutTop
from inclinum.core.document.names import AXLES, SIDES
from inclinum.core.equilibrium import Damper, RideCorner
from inclinum.core.fitting.tape import places
from inclinum.core.kinematics.length_curve import QuadraticLength, SampledLength
from inclinum.core.part_sheets.axle import AxleSheet, sweep
from inclinum.core.springs import BumpStop, CoilSpring, TopOut
from tests.core.test_bike import job_on
from tests.core.test_bike_by_hand import RIDER, machine
from tests.core.test_bike_limits import deep
from tests.core.test_prediction import with_changes
from tests.core.test_whole import bare_job

BOTH = [(k, e) for k, a in ARCHETYPES.items() for e in a.where]


def of_turn(turn: np.ndarray) -> np.ndarray:
    """The vector of a small rotation."""
    return np.array([turn[2, 1] - turn[1, 2], turn[0, 2] - turn[2, 0], turn[1, 0] - turn[0, 1]]) / 2


@pytest.mark.parametrize("key", [k for k, a in ARCHETYPES.items() if a.linkage(SIZES["car"]).coupled])
@pytest.mark.parametrize(("travel", "roll"), [(0.0, 0.0), (35.0, 0.04), (-40.0, -0.05)])
def test_an_axles_rates_are_the_slopes_of_where_it_is(key: str, travel: float, roll: float) -> None:
    body = ARCHETYPES[key].linkage(SIZES["car"]).corner(312.0, 0.0, 0.0).body
    h, k = 0.02, 1e-5
    at = body.poses(travel + np.array([0, -h, h, 0, 0]), roll=roll + np.array([0, 0, 0, -k, k]))
    assert at.reachable.all()
    assert (at.centre[2] - at.centre[1]) / (2 * h) == pytest.approx(at.velocity[0], abs=2e-5)
    assert of_turn(at.turn[2] @ at.turn[1].T) / (2 * h) == pytest.approx(at.spin[0], abs=2e-7)
    moved = (at.centre[4] - at.centre[3]) / (2 * k)
    # Roll with heave held: what the mid-point rises by on the way is not part of it.
    assert moved == pytest.approx(at.roll_velocity[0], abs=0.05)
    assert of_turn(at.turn[4] @ at.turn[3].T) / (2 * k) == pytest.approx(at.roll_spin[0], abs=2e-4)


@given(st.lists(st.floats(0.3, 1.2), min_size=6, max_size=6), st.floats(-48, 48))
def test_ratio_and_its_slope_are_the_slopes_of_the_length(ratios: list[float], z: float) -> None:
    travel = np.linspace(-50, 50, 6)
    lengths = 400 - np.concatenate([[0], np.cumsum(20 * (np.array(ratios)[1:] + np.array(ratios)[:-1]) / 2)])
    curve = SampledLength(travel, lengths, np.array(ratios))
    if np.abs(travel - z).min() < 0.02:
        return  # at a break the curvature jumps
    h = 0.01
    length, ratio, slope = curve.at(np.array([z - h, z, z + h]))
    assert (length[0] - length[2]) / (2 * h) == pytest.approx(ratio[1], abs=1e-6)
    assert (ratio[2] - ratio[0]) / (2 * h) == pytest.approx(slope[1], abs=1e-6)
    assert [float(v) for v in curve.at(float(z))] == pytest.approx([length[1], ratio[1], slope[1]], abs=1e-9)


@pytest.mark.parametrize(("key", "end"), BOTH)
def test_the_tape_reads_the_length_of_the_line_that_is_drawn(key: str, end: Any) -> None:
    linkage = ARCHETYPES[key].linkage(SIZES["van"], end)
    points = linkage.named_points()
    wheel = next(n for n in points if n.startswith("wheel_centre"))
    for place in places(linkage):
        first, last = place.line(points, wheel)
        read = place.value(points, wheel)
        if place.is_angle:
            across, up = np.abs(last - first)[1:]
            assert np.tan(np.radians(read)) == pytest.approx(across / up), place.key
        else:
            assert np.linalg.norm(last - first) == pytest.approx(abs(read)), place.key


@pytest.mark.parametrize(("key", "end"), BOTH)
def test_an_archetype_is_drawn_across_by_the_track_and_up_by_the_tyre(key: str, end: Any) -> None:
    for size in (s for s in SIZES.values() if s.name not in ARCHETYPES[key].not_for):
        axle = ARCHETYPES[key].axle(size, end)
        for name, at in axle.linkage.named_points().items():
            x, y, z = ARCHETYPES[key].linkage(SIZES["van"], end).named_points()[name]
            nominal = SIZES["van"]
            assert at[1] == pytest.approx(y * size.half_track_mm / nominal.half_track_mm, abs=0.2), name
            assert at[0] == pytest.approx(x * size.scale / nominal.scale, abs=0.2), name
            low, was = at[2] - size.tyre_radius_mm, z - nominal.tyre_radius_mm
            assert low == pytest.approx(was * size.scale / nominal.scale, abs=0.2), name
        stance = assess(_bare(key, end, size.name)).after.axle(end)
        load = size.front_load_n if end == "front" else size.rear_load_n
        assert stance.load == pytest.approx(load, rel=0.01), "set up for the load of its size"


def _bare(key: str, end: Any, size: str) -> Any:
    other = {"front": "strut_front", "rear": "five_link"} | {end: key}
    return bare_job(vehicle_of(other["front"], other["rear"], size, "x"))


def test_a_vehicle_weighs_what_its_wheels_carry() -> None:
    # Sprung 3900 and 3100 N a wheel: 2·7000/9.80665 = 1427.6 kg; four times some 45 kg hang on it; in tens.
    assert vehicle_of("strut_front", "five_link", "car", "x").mass_kg == 1610
    assert vehicle_of("strut_front", "five_link", "van", "x").mass_kg == 2180


def test_the_track_widens_as_the_axles_own_sweep_says(in_hand: Any) -> None:
    answer = predict(in_hand)
    assessed = assess(in_hand)
    for end in AXLES:
        axle, stance = answer.axle(end), assessed.after.axle(end)
        assert axle.angles_before.half_track_change_mm == pytest.approx(0, abs=0.01)
        data = {"linkage": stance.axle.linkage.model_dump(), "tyre_radius_mm": stance.axle.tyre_radius_mm}
        zero, there = (
            np.array(sweep(AxleSheet.model_validate(data), [z])["half_track_change_mm"][0])
            for z in (stance.baseline, stance.travel)
        )
        assert axle.angles_after.half_track_change_mm == pytest.approx(float(there - zero), abs=0.25)


@pytest.mark.parametrize("key", list(BIKES))
def test_the_rears_curve_carries_its_load_where_it_stands(key: str) -> None:
    answer = predict_bike(job_on(BIKES[key].bike("x")))
    sags = [answer.planned.unladen.rear_sag_mm, answer.planned.laden.rear_sag_mm]
    standing = assess_bike(job_on(BIKES[key].bike("x"))).after
    swept = sweep_rear(standing, [*sags, 1e4])
    assert swept["axle_load_n"] == [*(pytest.approx(load, rel=1e-5) for load in answer.rear_load_n), None]
    assert float(swept["installation_ratio"][0] or 0) * float(swept["leverage_ratio"][0] or 0) == pytest.approx(1)


def test_turns_of_the_collar_are_preload_over_its_pitch() -> None:
    answer = predict_bike(job_on(machine(), [{"type": "rear_preload", "preload_mm": 14.5}], rides=[RIDER]))
    assert answer.preload_turns == pytest.approx((14.5 - 10) / 1.5)
    back = predict_bike(job_on(machine(), [{"type": "rear_preload", "preload_mm": 7}], rides=[RIDER]))
    assert back.preload_turns == pytest.approx(-2)


@pytest.mark.parametrize(("stroke", "found"), [(89.9, True), (90.1, False)])
def test_coils_touch_where_preload_and_stroke_are_more_than_the_spring_has(stroke: float, *, found: bool) -> None:
    # 10 mm of preload and 80 mm of damper stroke.
    answer = predict_bike(job_on(machine(spring__stroke_mm=stroke), rides=[RIDER]))
    coils = [f for f in answer.findings if f.id == "rear.coils"]
    assert bool(coils) is found
    if coils:
        assert (coils[0].value, coils[0].limit) == (pytest.approx(90), stroke)


def test_a_bigger_front_tyre_takes_its_own_from_the_gap_above_it() -> None:
    gap = {"name": "tyre to lower clamp", "end": "front", "gap_mm": 20, "wanted_mm": 12}
    bike = deep(machine(), "far_ends", [gap])
    for more, left in ((6, None), (9, 11.0), (22, -2.0)):
        tyres = {"type": "tyres", "front_radius_mm": bike.front_tyre_radius_mm + more,
                 "rear_radius_mm": bike.rear_tyre_radius_mm}  # fmt: skip
        answer = predict_bike(job_on(bike, [tyres], rides=[RIDER]))
        close = next((f for f in answer.findings if f.id == "gap.tyre to lower clamp"), None)
        assert (close and close.value) == left
        assert close is None or close.severity == ("stops" if left and left < 0 else "fix")


@settings(max_examples=30)
@given(st.floats(-8, 12), st.floats(0, 40))
def test_a_stand_bent_and_cut_has_its_foot_where_the_leg_swung_it(bend: float, cut: float) -> None:
    came = SideStand(x_mm=500, foot_height_mm=55, lateral_mm=230, splay_deg=20)
    bike = machine().model_copy(update={"stand": came})
    now = StandLeg(shorter_mm=cut, bent_out_deg=bend).apply(bike).stand
    assert now is not None
    # The pivot lies where the leg meets the tyre line; the foot is a leg's length from it, before and after.
    leg = (230 - cut * np.sin(np.radians(20))) / np.sin(np.radians(20))
    pivot = 55 + cut * np.cos(np.radians(20)) + leg * np.cos(np.radians(20))
    assert now.splay_deg == pytest.approx(20 + bend)
    assert now.lateral_mm == pytest.approx(leg * np.sin(np.radians(20 + bend)))
    assert now.foot_height_mm == pytest.approx(pivot - leg * np.cos(np.radians(20 + bend)))


def test_an_input_without_a_share_is_not_listed(in_hand: Any) -> None:
    answer = predict(with_changes(in_hand))
    for end in AXLES:
        assert all(i.share > 1e-6 for i in answer.axle(end).inputs)
        assert sum(i.share for i in answer.axle(end).inputs) == pytest.approx(1, abs=1e-3)


def test_a_stations_spread_is_shared_by_how_far_it_is_from_each_axle(in_hand: Any) -> None:
    job = with_changes(in_hand, SeatSpacer(axle="rear", thickness_mm=20))
    answer = predict(job)
    base, tape = job.vehicle.wheelbase_mm, job.measure.default_tolerance_mm
    rows = [h for h in answer.heights if h.kind == "station"]
    assert rows
    for row in rows:
        assert row.x_mm is not None
        back = -row.x_mm / base  # 0 at the front axle, 1 at the rear one
        front, rear = (answer.axle(e) for e in AXLES)
        assert row.change == pytest.approx((1 - back) * front.rise + back * rear.rise, abs=0.15)
        reading = job.measure.station(row.label, row.side)
        assert reading is not None
        own = tape if reading.tolerance is None else reading.tolerance
        moved = np.hypot((1 - back) * front.plus_minus, back * rear.plus_minus)
        assert row.plus_minus == pytest.approx(np.hypot(moved, own))


def test_a_loose_rear_spring_has_no_rate() -> None:
    standing = assess_bike(job_on(machine())).after
    loose = standing.rear.on_spring(preload=-10.0)
    assert loose.wheel_rate(5.0) == 0
    assert float(loose.force(5.0)) == 0
    h = 0.01
    there = (float(standing.rear.force(40 + h)) - float(standing.rear.force(40 - h))) / (2 * h)
    assert standing.rear.wheel_rate(40.0) == pytest.approx(there, rel=1e-4)


def test_travel_that_solid_coils_take_by_hand() -> None:
    # 70 mm of spring less 10 of preload: solid at 240 mm of damper, cos + sin = (3 − 0.8²)/2, so 120.15 mm of 160.54.
    answer = predict_bike(job_on(machine(spring__stroke_mm=70), rides=[RIDER]))
    coils = next(f for f in answer.findings if f.id == "rear.coils")
    assert coils.margin == -20
    assert "40 mm of wheel travel are lost" in coils.why
    longer = {"type": "rear_damper", "extended_mm": 300, "stroke_mm": 86.5}
    stroke = next(f for f in predict_bike(job_on(machine(), [longer])).findings if f.id == "rear.stroke")
    assert (stroke.value, stroke.limit, stroke.margin) == (86.5, 80, -6.5)


@pytest.mark.parametrize("key", ["linkage_frame", "twin_dampers", "downhill"])
def test_the_spread_of_a_rears_ratio_and_what_would_narrow_it_most(key: str) -> None:
    bike = BIKES[key].bike("x")
    took = fitted(bike, BikeMeasurements())
    points, h = bike.rear.arrays(), 0.01

    def ratio(moved: dict[str, np.ndarray]) -> float:
        linkage = bike.rear.with_points(moved).linkage()
        return float(linkage.distance(*bike.rear.damper, linkage.poses(40.0))[1][0])

    slopes = [
        (ratio({n: points[n] + h * way}) - ratio({n: points[n] - h * way})) / (2 * h) / ratio({})
        for n in points if n != "axle" for way in np.eye(2)
    ]  # fmt: skip
    # Nothing read: every coordinate may be 8 mm off, one standard deviation, on its own.
    assert took.fit.ratio_percent == pytest.approx(100 * 2 * 8 * np.linalg.norm(slopes), rel=0.05)

    def after(place: str) -> float:
        row = next(r for r in took.fit.rows if r.key == place)
        reading = {"key": place, "reading": f"{row.fitted:.3f}"}
        return fitted(bike, BikeMeasurements.model_validate({"tape": [reading]})).fit.ratio_percent

    spreads = {r.key: after(r.key) for r in took.fit.rows if r.key != STROKE}
    assert spreads[took.fit.next[0]] == pytest.approx(min(spreads.values()), rel=0.02)
    assert [spreads[k] for k in took.fit.next] == pytest.approx(sorted(spreads[k] for k in took.fit.next), rel=0.02)


@pytest.mark.parametrize("at", [-60.0, -20.0, 0.0, 35.0, 70.0])
def test_a_wheels_rate_is_the_slope_of_its_force_with_every_part_at_work(at: float) -> None:
    corner = RideCorner(
        spring_length=QuadraticLength(250.0, 0.8, 0.0005), damper_length=QuadraticLength(330.0, 0.9, -0.0004),
        spring=CoilSpring(40.0, 320.0, 100.0), damper=Damper(400.0, 230.0, 300.0), stop=BumpStop(40.0, 0.8, 2.3),
        spring_room_taken=4.0, damper_room_taken=2.0, search=(-90.0, 110.0), top_out=TopOut(60.0, 370.0),
        bush_rate=1.5,
    )  # fmt: skip
    h = 0.01
    slope = (float(corner.wheel_force(at + h)) - float(corner.wheel_force(at - h))) / (2 * h)
    assert float(corner.wheel_rate(at)) == pytest.approx(slope, rel=1e-4)


def test_riding_on_the_stop_stops_the_plan_and_a_lower_stop_is_offered_by_what_is_missing(in_hand: Any) -> None:
    plain = with_changes(in_hand)
    stance = assess(plain).after.front
    stop = stance.axle.bump_stop
    wanted = 0.15 * (stance.bump_end - stance.full_droop)
    for gap, severity in ((0.4, "fix"), (-0.4, "stops")):
        contact = float(stance.ride.damper_at(stance.travel + gap))
        near = stop.model_copy(update={"contact_mm": contact})
        vehicle = plain.vehicle.with_axle("front", bump_stop=near)
        bare = plain.measure.model_copy(update={"corners": tuple(
            c for c in plain.measure.corners if c.quantity != "bump_stop_gap")})  # fmt: skip
        answer = predict(plain.model_copy(update={"vehicle": vehicle, "measure": bare}))
        found = next(f for f in answer.findings if f.id == "bump_gap.front")
        assert found.value == pytest.approx(gap, abs=0.05)
        assert found.severity == severity
        again = assess(plain.model_copy(update={"vehicle": vehicle, "measure": bare})).after.front
        wanted = 0.15 * (again.bump_end - again.full_droop)
        assert found.limit == pytest.approx(wanted)
        lower = int(stop.height_mm - (wanted - found.value))
        titles = [c.title for c in found.cures]
        assert titles == ([f"Front bump stops {lower} mm high"] if lower > stop.height_mm / 2 else [])


def test_tubes_raised_in_their_clamps_draw_the_front_wheel_back() -> None:
    bike = machine()
    answer = predict_bike(job_on(bike, [{"type": "fork_raise", "raised_mm": 20}], rides=[RIDER]))
    # The clamps slide down the tube: 20 mm along an axis that leans by the rake take 20·sin(rake) off the wheelbase.
    shorter = 20 * np.sin(np.radians(bike.rake_deg))
    assert answer.planned.laden.wheelbase_mm - answer.before.laden.wheelbase_mm == pytest.approx(-shorter, abs=0.05)


def test_a_stop_over_the_axle_pushes_from_where_it_is_touched() -> None:
    corner = RideCorner(
        spring_length=QuadraticLength(250.0, 0.8, 0.0), damper_length=QuadraticLength(330.0, 0.9, 0.0),
        spring=CoilSpring(40.0, 320.0, 100.0), damper=Damper(400.0, 230.0, -np.inf), stop=BumpStop(40.0, 0.8, 2.0),
        search=(-90.0, 110.0), stop_travel=30.0,
    )  # fmt: skip
    assert [float(corner.stop_force(z)) for z in (20.0, 30.0, 50.0)] == pytest.approx([0, 0, 0.8 * 20**2])
    bare = float(corner.wheel_force(50.0)) - 0.8 * 20**2
    assert bare == pytest.approx(40 * (320 - (250 - 0.8 * 50)) * 0.8)


@pytest.mark.parametrize("at", [20.0, 80.0, 150.0, 158.0])
def test_the_rears_rate_is_the_slope_of_its_force_on_the_bump_rubber_too(at: float) -> None:
    rubber = {"height_mm": 30.0, "coefficient": 4.0, "power": 2}
    rear = assess_bike(job_on(machine(damper__bumper=rubber))).after.rear
    h = 0.005
    slope = (float(rear.force(at + h)) - float(rear.force(at - h))) / (2 * h)
    assert rear.wheel_rate(at) == pytest.approx(slope, rel=2e-4)
    if at > 140:
        assert rear.wheel_rate(at) > 2 * rear.wheel_rate(80.0), "the rubber is at work"


def test_an_oil_level_nobody_measured_follows_from_the_volume_over_it() -> None:
    bike = machine()
    springs = bike.fork.springs
    assert springs.type == "coil"
    air = {
        "area_mm2": 1200.0,
        "volume_mm3": 300_000.0,
        "oil_level_mm": None,
        "pressure_n_per_mm2": 0.1013,
        "exponent": 1.3,
    }
    fork = deep(bike, "fork.springs.air", air)
    # 300 cm³ over 1200 mm² are 250 mm of height at full extension; the stroke is taken off for the level, bottomed.
    assert ForkOil.start(fork).level_mm == pytest.approx(250 - bike.fork.stroke_mm)


@pytest.mark.parametrize("side", ["left", "right"])
def test_weight_on_one_front_seat_is_told_as_on_that_seat(in_hand: Any, side: str) -> None:
    job = with_changes(in_hand)
    base, track = job.vehicle.wheelbase_mm, job.vehicle.front.track_mm
    left = 0.25 * track * (1 if side == "left" else -1)
    cargo = {"name": "somebody", "mass_kg": 90, "behind_front_axle_mm": 0.45 * base, "left_mm": left}
    brief = job.brief.model_copy(update={"cargo": (Cargo.model_validate(cargo),)})
    loaded = predict(job.model_copy(update={"brief": brief})).body.with_cargo
    heights = {(h.axle, h.side): h.after for h in predict(job).heights if h.kind == "hub_to_arch"}
    after = [
        {"axle": a, "side": s, "quantity": "hub_to_arch", "reading": f"{heights[a, s] + z:.2f}"}
        for (a, s), z in zip([(a, s) for a in AXLES for s in SIDES], loaded, strict=True)
    ]  # fmt: skip
    proof = job.prove.model_copy(update={"after": Measurements.model_validate({"corners": after})})
    best = prove(job.model_copy(update={"prove": proof})).causes[0]
    assert best.label.lower() == f"weight on the {side} front seat"
    assert best.value == pytest.approx(90, rel=0.1)


def test_a_rear_strut_top_is_looked_at_where_the_front_has_none() -> None:
    job = bare_job(vehicle_of("wishbones", "strut_rear", "car", "x"))
    top = {"stud_length_mm": 24, "stud_diameter_mm": 10, "nut_height_mm": 10, "washer_mm": 2}
    rear = job.vehicle.with_axle("rear", strut_top=StrutTop.model_validate(top))
    answer = predict(
        with_changes(job.model_copy(update={"vehicle": rear}), StrutTopSpacer(axle="rear", thickness_mm=15))
    )
    assert "stud_engagement.rear" in [f.id for f in answer.findings]

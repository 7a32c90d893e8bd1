"""Laws that hold for every suspension kind: lengths kept, one branch, rates that are slopes, mirror images."""

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from inclinum.core.car.alignment import align
from inclinum.core.car.archetypes import ARCHETYPES, SIZES, Archetype
from inclinum.core.car.archetypes.respring import SEATED, respring
from inclinum.core.car.bench import axle_bench
from inclinum.core.car.changes import ArmLength, BracketMoved, Change
from inclinum.core.car.prediction import assess, predict
from inclinum.core.car.stance import inferred_load, ride_corner
from inclinum.core.car.vehicle import Axle
from inclinum.core.kinematics import AnyLinkage, Corner, axle_motion
from inclinum.core.kinematics.axles import steered_axle
from inclinum.core.kinematics.body import Body
from inclinum.core.kinematics.constraints import Adjustment, CrankRods, Link, LinkOnArm, turn_to_reach
from inclinum.core.kinematics.leaf import LeafBody
from inclinum.core.kinematics.refit import refitted
from inclinum.core.kinematics.rigid import about, turn_about, unit
from inclinum.core.kinematics.steered import ackermann_error, knuckle_at_locks, knuckle_motion
from inclinum.core.part_sheets.axle import AxleSheet, sweep, sweep_grid, sweep_steering
from inclinum.demo import demo_jobs
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import job_on

LINKAGES: TypeAdapter[AnyLinkage] = TypeAdapter(AnyLinkage)
CAR = SIZES["car"]
ALL = list(ARCHETYPES.values())
INDEPENDENT = [a for a in ALL if not a.linkage(CAR).coupled]
COUPLED = [a for a in ALL if a.linkage(CAR).coupled]


def named(archetypes: list[Archetype]) -> pytest.MarkDecorator:
    return pytest.mark.parametrize("archetype", archetypes, ids=lambda a: a.key)


def shaken(archetype: Archetype, seed: int, by: float = 18.0) -> AnyLinkage:
    """The archetype with every hardpoint but the wheel centre moved at random."""
    rng = np.random.default_rng(seed)
    linkage = archetype.linkage(CAR)
    flip = np.array([1.0, -1.0, 1.0])
    moved = {}
    points = linkage.named_points()
    for name, at in points.items():
        if not name.startswith("wheel_centre") and "right" not in name.split("_"):
            moved[name] = at + rng.uniform(-by, by, 3)
            if (twin := name.replace("left", "right")) != name and twin in points:
                moved[twin] = moved[name] * flip
    return linkage.with_points(moved)  # type: ignore[return-value]


@named(INDEPENDENT)
@settings(deadline=None, max_examples=8)
@given(seed=st.integers(0, 10_000))
def test_motion_stays_on_one_branch_and_rates_are_its_slopes(archetype: Archetype, seed: int) -> None:
    corner = shaken(archetype, seed).corner(315.0, np.radians(-0.5), np.radians(0.1))
    travel = np.linspace(-70, 70, 141)
    motion = corner.sweep(travel)
    assume(motion.reachable.all())
    assert motion.spring_length is not None
    assert motion.spring_ratio is not None
    for quantity in (motion.camber, motion.toe, motion.spring_length):
        jumps = np.abs(np.diff(quantity, 2))
        assert jumps.max() < 20 * np.median(jumps) + 1e-3, "a jump along travel is another branch"
    inner = slice(1, -1)
    slope = -np.gradient(motion.spring_length, travel)
    np.testing.assert_allclose(motion.spring_ratio[inner], slope[inner], rtol=2e-3, atol=2e-6)
    np.testing.assert_allclose(motion.bump_steer[inner], np.gradient(motion.toe, travel)[inner], atol=4e-6)


@named([a for a in ALL if a.kind != "leaf_axle"])  # a pack has no rigid links; tests of its own hold it
def test_every_constraint_holds_all_the_way(archetype: Archetype) -> None:
    corner = archetype.linkage(CAR).corner(315.0, 0.0, 0.0)
    assert isinstance(corner.body, Body)
    poses = corner.body.poses(np.linspace(-80, 80, 9))
    assert poses.reachable.all()
    p = corner.body.points
    for c in corner.body.constraints:
        if isinstance(c, Link):
            now = np.linalg.norm(poses.point(p[c.on_body]) - p[c.on_chassis], axis=-1)
            np.testing.assert_allclose(now, np.linalg.norm(p[c.on_body] - p[c.on_chassis]), atol=1e-7)
    for name, carrier in corner.carriers.items():
        _at, rate = corner.place(name, poses)
        numeric = np.gradient(corner.place(name, corner.body.poses(np.linspace(-80, 80, 1601)))[0], 0.1, axis=0)
        np.testing.assert_allclose(rate[1:-1], numeric[::200][1:-1], atol=1e-3, err_msg=f"{name} on {carrier}")


@named(INDEPENDENT)
def test_a_mirrored_geometry_gives_mirrored_results(archetype: Archetype) -> None:
    linkage = archetype.linkage(CAR)
    left = {"linkage": linkage.model_dump(mode="json"), "tyre_radius_mm": 312, "static": {"camber_deg": -0.7}}
    points = {n: [x, -y, z] for n, (x, y, z) in left["linkage"]["points"].items() if x is not None} if all(
        v is not None for v in left["linkage"]["points"].values()
    ) else {n: None if v is None else [v[0], -v[1], v[2]] for n, v in left["linkage"]["points"].items()}  # fmt: skip
    right = left | {"side": "right", "linkage": left["linkage"] | {"points": points}}
    one, other = (sweep(AxleSheet.model_validate(d), [-60, 0, 60]) for d in (left, right))
    for key in ("camber_deg", "toe_deg", "half_track_change_mm", "roll_centre_height_mm", "damper_length_mm"):
        assert one[key] == pytest.approx(other[key], abs=1e-9), key


@named(COUPLED)
def test_an_axle_held_evenly_moves_evenly_in_roll(archetype: Archetype) -> None:
    """Steer and pitch of an axle with mirrored sides do not know left from right; its rods alone do."""
    axle = AxleSheet(linkage=archetype.linkage(CAR), tyre_radius_mm=312)
    rolled = sweep_grid(axle, [-30, 0, 30], [-4, 0, 4])
    steer = np.array(rolled["axle_steer_deg"]).reshape(3, 3)
    pitch = np.array(rolled["axle_pitch_deg"]).reshape(3, 3)
    if "lateral_rod_axle" in axle.linkage.named_points() or archetype.kind == "solid_axle_watt":
        assert np.abs(steer).max() < 2.5
        return
    np.testing.assert_allclose(steer[:, 0], -steer[:, 2], atol=1e-6)
    np.testing.assert_allclose(pitch[:, 0], pitch[:, 2], atol=1e-6)
    np.testing.assert_allclose(steer[:, 1], 0, atol=1e-9)


@named(COUPLED)
@settings(deadline=None, max_examples=6)
@given(seed=st.integers(0, 10_000))
def test_an_axle_of_any_geometry_keeps_its_branch_and_its_mirror_image(archetype: Archetype, seed: int) -> None:
    linkage = shaken(archetype, seed, by=12.0)
    heave, roll = (v.ravel() for v in np.meshgrid(np.linspace(-60, 60, 61), np.radians([-3.0, 0.0, 3.0])))
    corner = linkage.corner(312.0, 0.0, 0.0)
    poses = corner.body.poses(heave, roll=roll)
    assume(poses.reachable.all())
    for part in (poses.centre, poses.turn.reshape(-1, 9)):
        jumps = np.abs(np.diff(part.reshape(3, 61, -1), 2, axis=1)).max(axis=-1)
        assert jumps.max() < 20 * np.median(jumps) + 1e-3, "a jump along heave is another branch"
    if archetype.kind == "leaf_axle":  # one pack is given, the other is its image already
        return
    points, flip = linkage.named_points(), np.array([1.0, -1.0, 1.0])
    swap = {n: n.replace("left", "~").replace("right", "left").replace("~", "right") for n in points}
    imaged = {swap[n]: at * flip for n, at in points.items() if not n.startswith(("spring", "damper"))}
    image = linkage.with_points(imaged).corner(312.0, 0.0, 0.0).body.poses(heave, roll=-roll)
    np.testing.assert_allclose(image.centre, poses.centre * flip, atol=1e-6)
    np.testing.assert_allclose(image.spin, poses.spin * -flip, atol=1e-9)


@named(COUPLED)
@settings(deadline=None, max_examples=6)
@given(seed=st.integers(0, 10_000))
def test_roll_and_heave_rates_of_an_axle_are_slopes(archetype: Archetype, seed: int) -> None:
    corner = shaken(archetype, seed, by=12.0).corner(312.0, 0.0, 0.0)
    h = 1e-3
    roll = np.radians(2.0)
    around = corner.body.poses(np.full(3, 15.0), roll=roll + np.array([-h, 0, h]))
    slope = (around.centre[2] - around.centre[0]) / (2 * h)
    np.testing.assert_allclose(around.roll_velocity[1], slope, atol=2e-3)
    heaved = corner.body.poses(15.0 + np.array([-0.05, 0, 0.05]), roll=np.full(3, roll))
    np.testing.assert_allclose(heaved.velocity[1], (heaved.centre[2] - heaved.centre[0]) / 0.1, atol=1e-4)


def test_a_watt_linkage_keeps_its_axle_in_the_middle_where_a_rod_does_not() -> None:
    heave = np.linspace(-50, 50, 11)
    watt, rod = (ARCHETYPES[k].linkage(CAR).corner(312.0, 0.0, 0.0) for k in ("watt_axle", "three_link_axle"))
    shift = [np.abs(axle_motion(c, c.body.poses(heave)).lateral_shift).max() for c in (watt, rod)]
    assert shift[0] < 0.3 * shift[1]
    crank = next(c for c in watt.body.constraints if isinstance(c, CrankRods))  # type: ignore[union-attr]
    assert crank.pivot == "watt_pivot"


def test_a_leaf_pack_keeps_its_arms_and_shackle() -> None:
    corner = ARCHETYPES["leaf_axle"].linkage(CAR).corner(312.0, 0.0, 0.0)
    assert isinstance(corner.body, LeafBody)
    p, travel = corner.body.points, np.array([-60.0, 0.0, 60.0])
    moved = corner.body.pack(travel)
    assert moved.reachable.all()
    eye0 = (p["shackle_eye"] - p["shackle_body"])[[0, 2]]
    swung = [np.array([[np.cos(-s), -np.sin(-s)], [np.sin(-s), np.cos(-s)]]) @ eye0 for s in moved.shackle]
    joint = p["shackle_eye"][[0, 2]] + 0.75 * (p["seat"] - p["shackle_eye"])[[0, 2]] - p["wheel_centre"][[0, 2]]
    for z, x, pitch, eye in zip(travel, moved.fore_aft, moved.pitch, swung, strict=True):
        turn = np.array([[np.cos(pitch), -np.sin(pitch)], [np.sin(pitch), np.cos(pitch)]])
        at = p["wheel_centre"][[0, 2]] + [x, z] + turn @ joint
        rear_arm = np.linalg.norm(at - (p["shackle_body"][[0, 2]] + eye))
        assert rear_arm == pytest.approx(0.75 * np.linalg.norm((p["shackle_eye"] - p["seat"])[[0, 2]]), abs=1e-6)


@pytest.mark.parametrize("key", ["leaf_axle", "leaf_axle_front"])
def test_a_leaf_pack_bends_alike_over_both_halves_in_whatever_order_it_is_asked(key: str) -> None:
    """Arms keep their lengths and turn against the axle in proportion to their half-lengths, to the end of travel."""
    body = ARCHETYPES[key].linkage(CAR).corner(312.0, 0.0, 0.0).body
    assert isinstance(body, LeafBody)
    flat = {name: complex(*at[[0, 2]]) for name, at in body.points.items()}
    wheel, seat, pivot = flat["wheel_centre_left"], flat["seat"], flat["shackle_body"]
    travel = np.arange(-400.0, 400.0, 7.0)
    shuffled = np.random.default_rng(4).permutation(travel)
    one_by_one = {z: LeafBody(body.points).pack(np.array([z])) for z in shuffled[:12]}
    for z in shuffled:
        body.pack(np.array([z]))
    moved = body.pack(travel)
    for n, z in enumerate(travel):
        if z in one_by_one:
            alone = one_by_one[z]
            assert alone.reachable[0] == moved.reachable[n]
            if moved.reachable[n]:
                np.testing.assert_allclose(alone.shackle, moved.shackle[n], atol=1e-9)
        if not moved.reachable[n]:
            continue
        turn = np.exp(1j * moved.pitch[n])
        at = wheel + moved.fore_aft[n] + 1j * z
        bends = []
        for eye0, eye in (
            (flat["fixed_eye"], flat["fixed_eye"]),
            (flat["shackle_eye"], pivot + (flat["shackle_eye"] - pivot) * np.exp(-1j * moved.shackle[n])),
        ):
            joint0 = eye0 + body.share * (seat - eye0)
            arm = eye - (at + (joint0 - wheel) * turn)
            assert abs(arm) == pytest.approx(body.share * abs(eye0 - seat), abs=1e-7)
            half, outward = abs(eye0 - seat), np.sign((eye0 - seat).real)
            bends.append(outward * np.angle(arm / turn / (eye0 - joint0)) / half)
        assert bends[0] == pytest.approx(bends[1], abs=1e-10)
    ends = body.travel_range(-400.0, 400.0)
    np.testing.assert_array_equal(moved.reachable, (travel >= ends.low - 0.5) & (travel <= ends.high + 0.5))
    assert ends.low > -400
    assert ends.high < 400


def test_an_integral_link_holds_the_upright_to_its_arm() -> None:
    """An H-arm with one outer joint and an integral link from the arm to the upright, and two links: five in all."""
    points = {
        "wheel_centre": (0, 760, 315), "front": (170, 330, 250), "rear": (-150, 300, 246), "ball": (10, 705, 210),
        "on_arm": (-60, 640, 215), "on_upright": (-62, 668, 330), "camber_in": (-20, 420, 452),
        "camber_out": (-10, 690, 470), "toe_in": (-190, 330, 270), "toe_out": (-170, 700, 262),
    }  # fmt: skip
    document = {
        "kind": "multi_link",
        "points": points,
        "arms": [{"name": "lower", "first": "front", "second": "rear", "outer": ["ball"]}],
        "links": [
            {"name": "integral", "inner": "on_arm", "outer": "on_upright", "on_arm": "lower"},
            {"name": "camber", "inner": "camber_in", "outer": "camber_out"},
            {"name": "toe", "inner": "toe_in", "outer": "toe_out"},
        ],
    }
    corner = LINKAGES.validate_python(document).corner(315.0, 0.0, 0.0)
    assert any(isinstance(c, LinkOnArm) for c in corner.body.constraints)  # type: ignore[union-attr]
    poses = corner.body.poses(np.array([-50.0, 0.0, 50.0]))
    assert poses.reachable.all()
    inner, outer = corner.place("on_arm", poses)[0], corner.place("on_upright", poses)[0]
    length = np.linalg.norm(np.subtract(points["on_arm"], points["on_upright"]))
    np.testing.assert_allclose(np.linalg.norm(inner - outer, axis=-1), length, atol=1e-6)
    # What its bush on the arm stores is its turn against the arm, about the arm's own line.
    line = unit(np.subtract(points["rear"], points["front"]))
    ball = corner.place("ball", poses)[0] - np.array(points["front"])
    own, arm = (float(turn_about(line, v[0], v[-1])) for v in (outer - inner, ball))
    turns = corner.arm_turn(poses)
    assert turns["lower"] == pytest.approx(abs(arm))
    assert turns["on arm"] == pytest.approx(abs(own - arm))
    assert abs(own - arm) > 0.05
    with pytest.raises(ValidationError, match=r"hold 4 of the upright's six freedoms: 2 are left, it stays loose"):
        LINKAGES.validate_python(document | {"links": document["links"][:2]})
    more = [*document["links"], {"name": "extra", "inner": "front", "outer": "toe_out"}]
    with pytest.raises(ValidationError, match="none is left, it cannot move"):
        LINKAGES.validate_python(document | {"links": more})


def test_degenerate_geometry_names_the_part() -> None:
    good = ARCHETYPES["wishbones"].linkage(CAR).model_dump()
    points = good["points"]
    # An arm whose pivot stands straight above the wheel cannot lift it.
    below = {"wheel_centre": (0, 760, 315), "pivot_inner": (0, 430, 600), "pivot_outer": (0, 640, 600)}
    with pytest.raises(ValueError, match=r"dead point or leaves a part loose: pivot_\w+"):
        LINKAGES.validate_python({"kind": "trailing_arm", "points": below}).corner(315.0, 0.0, 0.0)
    with pytest.raises(ValidationError, match="rocker lacks rocker_second"):
        LINKAGES.validate_python(good | {"points": points | {"rocker_first": (0, 300, 500)}})
    far = points | {"lower_outer": (9, 3200, 188)}
    with pytest.raises(ValidationError, match="less than or equal to 3000"):
        LINKAGES.validate_python(good | {"points": far})


def test_steering_the_other_way_is_the_other_wheel() -> None:
    axle = AxleSheet(linkage=ARCHETYPES["wishbones"].linkage(CAR), tyre_radius_mm=312)
    turned = sweep_steering(axle, [-40, 0, 40], wheelbase=2690)
    assert turned["steer_left_deg"][0] == pytest.approx(-turned["steer_right_deg"][2], abs=1e-9)
    assert turned["ackermann_error_deg"][1] == 0
    with pytest.raises(ValueError, match="has no steering"):
        sweep_steering(AxleSheet(linkage=ARCHETYPES["five_link"].linkage(CAR), tyre_radius_mm=312), [10])


def test_ackermann_by_hand() -> None:
    """Inner 30°, track 1.5 m, wheelbase 2.5 m: cot(outer) = √3 + 0.6, so the outer wheel should turn 23.21°."""
    ideal = np.degrees(np.arctan(1 / (np.sqrt(3) + 0.6)))
    assert ideal == pytest.approx(23.21, abs=0.01)
    error = ackermann_error(np.radians([30.0]), np.radians([25.0]), 1500.0, 2500.0)
    assert np.degrees(error[0]) == pytest.approx(25 - ideal, abs=1e-9)


@settings(max_examples=60)
@given(st.floats(-1.2, 1.2), st.floats(40, 300), st.floats(-200, 200), st.floats(100, 500))
def test_an_arm_turned_to_reach_has_its_rod_length(turn: float, arm: float, y: float, z: float) -> None:
    axis, start = np.array([1.0, 0.0, 0.0]), np.array([10.0, arm, 0.0])
    anchor = np.array([20.0, y, z])
    length = np.linalg.norm(about(axis, np.asarray(turn), start) - anchor)
    found = turn_to_reach(axis, start, anchor, np.asarray(length))
    assume(np.isfinite(found))
    assert np.linalg.norm(about(axis, found, start) - anchor) == pytest.approx(length, abs=1e-6)
    assert abs(found) <= abs(turn) + 1e-6


def test_a_parallel_drag_link_steers_nothing() -> None:
    """A drag link that lies along the lateral rod follows the axle's own sideways movement."""
    corner: Corner = ARCHETYPES["three_link_axle"].linkage(SIZES["off_roader"]).corner(375.0, 0.0, 0.0)
    linkage = ARCHETYPES["three_link_axle"].linkage(SIZES["off_roader"])
    steering = linkage.steering  # type: ignore[union-attr]
    poses = corner.body.poses(np.array([-40.0, 0.0, 40.0]))
    steered = knuckle_motion(corner, steering, poses)  # type: ignore[arg-type]
    assert steered.left[1] == pytest.approx(0, abs=1e-9)
    p = corner.body.points
    rod = p["lateral_rod_axle"] - p["lateral_rod_body"]
    box = np.array(steering.drag_link_knuckle) - rod  # type: ignore[union-attr]
    parallel = steering.model_copy(update={"drag_link_box": tuple(box)})  # type: ignore[union-attr]
    along = knuckle_motion(corner, parallel, poses)  # type: ignore[arg-type]
    assert np.abs(along.left).max() < 0.35 * np.abs(np.radians(1.0))
    np.testing.assert_allclose(along.left, along.right, atol=np.radians(0.05))


def test_points_placed_anew_are_another_linkage() -> None:
    """Uncertain hardpoints in a batch give what each linkage alone gives."""
    linkage = ARCHETYPES["wishbones"].linkage(CAR)
    corner = linkage.corner(312.0, 0.0, 0.0)
    shift = np.array([[0.0, 3.0, -2.0], [1.0, -4.0, 6.0]])
    together = corner.sweep(
        np.array([-30.0, 40.0]), adjusted=Adjustment({"upper_outer": shift, "lower_front": shift}, placed_anew=True)
    )
    for i in range(2):
        points = linkage.named_points()
        alone = linkage.with_points({n: points[n] + shift[i] for n in ("upper_outer", "lower_front")})
        np.testing.assert_allclose(
            together.camber[i], alone.corner(312.0, 0.0, 0.0).sweep(np.array([-30.0, 40.0])).camber, atol=1e-7
        )


def test_a_joint_at_its_limit_ends_the_travel() -> None:
    """A link 300 mm long that is level at ride turns 10° in 300·sin 10° of its own end's movement."""
    linkage = ARCHETYPES["wishbones"].linkage(CAR)
    free = AxleSheet(linkage=linkage, tyre_radius_mm=312)
    held = AxleSheet(linkage=linkage, tyre_radius_mm=312, joint_limits_deg={"lower_front": 10.0})
    answer = sweep(held, [0])
    low, high = answer["reachable_travel_mm"]
    assert answer["reach_ends_because"] == {"droop": "joint limit: lower_front", "bump": "joint limit: lower_front"}
    wide = sweep(free, [0])["reachable_travel_mm"]
    assert wide[0] < low < 0 < high < wide[1]
    corner = free.corner()
    for end in (low, high):
        poses = corner.body.poses(np.array([end]))
        p = corner.body.points
        was, now = p["lower_outer"] - p["lower_front"], poses.point(p["lower_outer"])[0] - p["lower_front"]
        cosine = was @ now / np.linalg.norm(was) / np.linalg.norm(now)
        assert np.degrees(np.arccos(cosine)) == pytest.approx(10, abs=0.02)
    with pytest.raises(ValueError, match="at no joint of a link"):
        sweep(AxleSheet(linkage=linkage, tyre_radius_mm=312, joint_limits_deg={"sprocket": 10.0}), [0])


def test_the_right_wheel_can_be_built_otherwise() -> None:
    """A bent right arm changes what the right wheel does, its spring's load and its alignment, and nothing left."""
    job = demo_jobs()[-1]
    front = job.vehicle.front
    outer = front.linkage.named_points()["lower_outer"]
    bent = front.linkage.with_points({"lower_outer": outer - np.array([0.0, 6.0, 0.0])})
    other = job.model_copy(update={"vehicle": job.vehicle.with_axle("front", right=bent)})
    bench = axle_bench(other.vehicle.front)
    assert bench.right is not None
    left, right, was = (
        next(c.values for c in b.curves if c.name == "camber") for b in (bench, bench.right, axle_bench(front))
    )
    assert left == was
    assert right != was
    before, after = align(job), align(other)
    for one, two in zip(before.wheels, after.wheels, strict=True):
        same = [a.planned for a in one.angles] == [a.planned for a in two.angles]
        assert same == ((one.axle, one.side) != ("front", "right")), (one.axle, one.side)
    loads = predict(other).body.corners
    assert loads[0].spring_says_n == pytest.approx(predict(job).body.corners[0].spring_says_n)
    assert loads[1].spring_says_n != pytest.approx(predict(job).body.corners[1].spring_says_n, abs=0.01)
    with pytest.raises(ValidationError, match="of the left one's kind"):
        Axle.model_validate(front.model_dump() | {"right": ARCHETYPES["five_link"].linkage(CAR).model_dump()})


@pytest.mark.parametrize(
    "change",
    [
        ArmLength(axle="front", outer="upper_outer", longer_mm=9),
        BracketMoved(axle="front", point="lower_front", up_mm=-12),
    ],
    ids=lambda c: c.type,
)
def test_other_arms_and_brackets_go_on_a_right_wheel_measured_apart(change: Change) -> None:
    """A right wheel drawn like the left one does what it does; one drawn otherwise what it would do on the left."""
    job = job_on("wishbones", "front")
    front = job.vehicle.front
    outer = front.linkage.named_points()["lower_outer"]
    bent = front.linkage.with_points({"lower_outer": outer - np.array([0.0, 6.0, 0.0])})

    def planned(**fields: object) -> dict[str, list[float]]:
        vehicle = job.vehicle.with_axle("front", **fields)
        wheels = align(on(job.model_copy(update={"vehicle": vehicle}), change)).wheels[:2]
        return {w.side: [a.planned for a in w.angles] for w in wheels}

    came = job.model_copy(update={"vehicle": job.vehicle.with_axle("front", right=bent)})
    assert len(predict(on(came, change)).shares) == 1
    alike = planned()
    assert planned(right=front.linkage) == {s: pytest.approx(v, abs=1e-6) for s, v in alike.items()}
    apart = planned(right=bent)
    assert apart["left"] == pytest.approx(alike["left"], abs=1e-6)
    assert apart["right"] != pytest.approx(alike["right"], abs=1e-4)
    as_left = on(job.model_copy(update={"vehicle": job.vehicle.with_axle("front", linkage=bent)}), change)
    own = assess(on(came, change)).after.front.of_side("right").axle
    on_left = assess(as_left).after.front.axle
    assert own.came == bent
    assert (own.camber_deg, own.toe_deg) == pytest.approx((on_left.camber_deg, on_left.toe_deg))
    assert own.turned_rad == pytest.approx(on_left.turned_rad)
    assert own.linkage == on_left.linkage


@pytest.mark.parametrize("kind", SEATED)
def test_another_kind_of_spring_carries_the_same_at_the_same_rate(kind: str) -> None:
    axle = ARCHETYPES["wishbones"].axle(CAR, "front")
    other = respring(axle, kind)
    assert other.spring.type == kind
    assert inferred_load(other, 0.0) == pytest.approx(inferred_load(axle, 0.0), rel=3e-3)
    assert float(ride_corner(other).wheel_rate(0.0)) == pytest.approx(
        float(ride_corner(axle).wheel_rate(0.0)), rel=5e-3
    )


def test_a_spring_only_goes_where_it_fits() -> None:
    leaf = ARCHETYPES["leaf_axle"].axle(CAR, "rear")
    with pytest.raises(ValueError, match="Coil does not go where this suspension has its leaf pack"):
        respring(leaf, "coil_spring")
    with pytest.raises(ValueError, match="no spring “rubber”"):
        respring(leaf, "rubber")


def test_steering_turns_the_wheel_and_tells_its_caster() -> None:
    bench = axle_bench(ARCHETYPES["wishbones"].axle(CAR, "front"))
    turned = next(c for c in bench.steer_curves if c.name == "wheel turned to the left").values
    kept = [v for v in turned if v is not None]
    assert bench.steer_unit == "mm"
    # This rack lies behind the axle: moved to the left it turns the wheel to the right.
    assert all(b < a for a, b in pairwise(kept))
    assert turned[14] == pytest.approx(0.0, abs=1e-6)
    assert not axle_bench(ARCHETYPES["five_link"].axle(CAR, "rear")).steer_curves


@settings(deadline=None)
@given(heave=st.floats(-90, 90), roll=st.floats(-0.06, 0.06))
def test_the_rods_of_a_crank_are_as_long_wherever_the_axle_stands(heave: float, roll: float) -> None:
    """Drawn, told and refitted: a crank turns on its axle, its rods and its own arms stay as they were made."""
    corner = ARCHETYPES["watt_axle"].linkage(CAR).corner(312.0, 0.0, 0.0)
    poses = corner.body.poses(np.array([heave]), roll=np.array([roll]))
    at = {n: corner.place(n, poses)[0][0] for n in corner.body.points}
    came = corner.body.points
    for one, other in (
        ("watt_upper", "watt_upper_body"),
        ("watt_lower", "watt_lower_body"),
        ("watt_upper", "watt_pivot"),
        ("watt_lower", "watt_pivot"),
        ("watt_upper", "watt_lower"),
    ):
        length = np.linalg.norm(came[one] - came[other])
        assert np.linalg.norm(at[one] - at[other]) == pytest.approx(length, abs=1e-6), f"{one} to {other}"
    step = 1e-3
    near = corner.body.poses(np.array([heave - step, heave + step]), roll=np.array([roll, roll]))
    for name in ("watt_upper", "watt_lower"):
        behind, ahead = corner.place(name, near)[0]
        assert corner.place(name, poses)[1][0] == pytest.approx((ahead - behind) / (2 * step), abs=1e-6)


def test_a_rod_of_a_crank_hung_elsewhere_keeps_its_length_and_turns_the_crank() -> None:
    """10 mm further out: the axle goes half as far, and the ends of the crank stand 10 mm apart sideways."""
    linkage = ARCHETYPES["watt_axle"].linkage(CAR)
    was = linkage.named_points()
    now = refitted(linkage, {"watt_upper_body": np.array([0.0, 10.0, 0.0])}, {}).linkage.named_points()
    for rod in ("watt_upper", "watt_lower"):
        moved = np.array([0.0, 10.0 * (rod == "watt_upper"), 0.0])
        length = np.linalg.norm(was[rod] - was[f"{rod}_body"])
        assert np.linalg.norm(now[rod] - was[f"{rod}_body"] - moved) == pytest.approx(length, abs=1e-3), rod
    assert now["watt_pivot"][1] == pytest.approx(5.0, abs=0.1)
    assert now["watt_upper"][1] - now["watt_lower"][1] == pytest.approx(10.0, abs=0.2)
    crank = np.linalg.norm(was["watt_upper"] - was["watt_lower"])
    assert np.linalg.norm(now["watt_upper"] - now["watt_lower"]) == pytest.approx(crank, abs=1e-3)


def test_bushes_of_every_link_store_what_they_turn_by() -> None:
    """Rod of 520 mm at a side, its end 60 mm off: about 60/520 rad; both rods of a crank, links and a lateral rod."""
    for key, wanted in (
        ("watt_axle", {"lower link", "upper link", "watt upper link", "watt lower link"}),
        ("three_link_axle", {"lower link", "upper link", "lateral rod"}),
        ("parallel_link_axle", {"lower link", "upper link", "lateral rod"}),
        ("radius_arm_axle", {"radius arm", "lateral rod"}),
    ):
        corner = ARCHETYPES[key].linkage(CAR).corner(312.0, 0.0, 0.0)
        turns = corner.arm_turn(corner.body.poses(np.array([0.0, 60.0])))
        assert set(turns) == wanted
        rods = [turn for name, turn in turns.items() if name.startswith(("watt", "lateral"))]
        # The far end of a lateral rod goes all of the way, over its length; of a crank's rods as well.
        assert all(0.04 < turn < 0.15 for turn in rods), turns


@named([a for a in ALL if "front" in a.where])
def test_a_front_axle_steers_and_a_rear_one_does_not(archetype: Archetype) -> None:
    for end, steers in (("front", True), ("rear", False)):
        if end in archetype.where:
            linkage = archetype.linkage(CAR, end)
            steered = steered_axle(linkage) or linkage.corner(312.0, 0.0, 0.0).steering
            assert bool(steered) is steers, f"{archetype.title}, {end}"


STEERED_AXLES = tuple(k for k, a in ARCHETYPES.items() if a.steered)


@pytest.mark.parametrize("key", STEERED_AXLES)
def test_a_steered_axle_hangs_behind_itself_and_its_inner_wheel_turns_further(key: str) -> None:
    """Its links run to the middle of the vehicle: lifted it loses caster. Its track rod turns the outer wheel less."""
    size = SIZES["off_roader"]
    front = ARCHETYPES[key].linkage(size, "front")
    links = [
        (n, p) for n, p in front.named_points().items() if n.startswith(("lower", "upper", "arm_")) and "body" in n
    ]
    for name, (x, _, _) in links:
        assert x < front.named_points()[name.replace("body", "axle")][0] - 200, name
    assert bool(links) == (key != "leaf_axle_front")
    corner = front.corner(size.tyre_radius_mm, 0.0, 0.0)
    dropped = corner.body.poses(np.array([-60.0]))
    turned = float(axle_motion(corner, dropped).pitch[0])
    want = {"four_link_axle": -1.9, "three_link_axle": -0.2, "parallel_link_axle": 0.0, "radius_arm_axle": -3.6}
    if key in want:
        assert np.degrees(turned) == pytest.approx(want[key], abs=0.25)
    steering = steered_axle(front)
    assert steering is not None
    inner, outer = knuckle_at_locks(steering, np.radians(30.0))
    true = np.arctan(1 / (1 / np.tan(inner) + 2 * steering.kingpin_left_lower[1] / size.wheelbase_mm))
    assert true < abs(outer) < inner - np.radians(2), "nearer to one point of the rear axle's line than two alike"


@pytest.mark.parametrize("key", [k for k, a in ARCHETYPES.items() if len(a.where) == 2])
def test_an_axle_at_the_other_end_is_its_mirror_image_and_a_wheel_of_its_own_the_same(key: str) -> None:
    front, rear = (ARCHETYPES[key].linkage(SIZES["off_roader"], end).named_points() for end in ("front", "rear"))
    flip = -1 if ARCHETYPES[key].steered else 1
    for name, (x, y, z) in rear.items():
        assert front[name] == pytest.approx((flip * x, y, z)), name


@pytest.mark.parametrize("key", [k for k in STEERED_AXLES if k != "leaf_axle_front"])
def test_links_that_run_ahead_of_a_steered_axle_are_asked_about(key: str) -> None:
    """One set up with its points the other way round: caster would be told with the wrong sign."""
    job = job_on(key, "front")
    assert "links_ahead.front" not in {f.id for f in predict(job).findings}
    linkage = job.vehicle.front.linkage
    ahead = {n: np.array(p) * (-1, 1, 1) for n, p in linkage.named_points().items()}
    front = job.vehicle.front.model_copy(update={"linkage": linkage.with_points(ahead), "prior": None})
    turned = job.model_copy(update={"vehicle": job.vehicle.model_copy(update={"front": front})})
    (told,) = (f for f in predict(turned).findings if f.id == "links_ahead.front")
    assert told.severity == "know"
    assert "links_ahead.rear" not in {f.id for f in predict(turned).findings}

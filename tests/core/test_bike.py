"""Two wheels: laws of plane linkages, both ends under load, steering, sag bench, fits and documents."""

import json
from dataclasses import replace
from itertools import pairwise
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from inclinum.core.bike.archetypes import BIKES, BikeArchetype
from inclinum.core.bike.changes import BIKE_CHANGES, ForkRaise, PlannedBikeChange, RearLink, apply_all, begin
from inclinum.core.bike.changes.rear_link import holes
from inclinum.core.bike.fit import fitted, places
from inclinum.core.bike.job import BikeJob, BikeMeasurements
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.prediction import predict_bike, sweep_rear
from inclinum.core.bike.sag import preload_for_sag
from inclinum.core.bike.setting import set_sag
from inclinum.core.bike.stance import BikeStance, Loads
from inclinum.core.bike.stands_and_reach import stand_of
from inclinum.core.equilibrium.rear_and_fork import RearCarrying
from inclinum.core.kinematics import attitude
from inclinum.core.kinematics.plane import PlanarLinkage
from inclinum.core.kinematics.rear_end import AnyRear, FourBarRear, RearEnd, RearSweep, rear_sweep_of
from inclinum.core.springs.fork import CoilForkSprings, Fork, LegSpring, sag
from inclinum.demo import demo_bike_jobs

REARS: TypeAdapter[AnyRear] = TypeAdapter(AnyRear)
REFERENCE = Path(__file__).parents[1] / "reference"
ALL = [pytest.param(a, id=a.key) for a in BIKES.values()]


def job_on(bike: Bike, changes: list[dict[str, Any]] | None = None, **brief: Any) -> BikeJob:
    rider = {"name": "rider", "mass": "78", "x_mm": 0.38 * bike.wheelbase_mm}
    return BikeJob.model_validate(
        {
            "id": "t",
            "title": "t",
            "vehicle": bike.model_dump(),
            "brief": {"owner": "o", "rear_drop": "0", "use": bike.use, "rides": [rider], "inseam_mm": 820} | brief,
            "plan": {"changes": [{"id": f"c{n}", "change": c} for n, c in enumerate(changes or [], 1)]},
        }
    )


def shaken(archetype: BikeArchetype, seed: int) -> AnyRear:
    rng = np.random.default_rng(seed)
    rear = REARS.validate_python({"kind": archetype.kind} | archetype.points)
    moved = {n: at + rng.uniform(-6, 6, 2) for n, at in rear.arrays().items() if n != "axle"}
    return rear.with_points(moved)  # type: ignore[return-value]


@pytest.mark.parametrize("archetype", ALL)
@settings(deadline=None, max_examples=8)
@given(seed=st.integers(0, 10_000))
def test_members_stay_rigid_and_the_ratio_is_the_slope(archetype: BikeArchetype, seed: int) -> None:
    rear = shaken(archetype, seed)
    linkage = rear.linkage()
    rise = np.linspace(0, 100, 101)
    poses = linkage.poses(rise)
    assume(poses.reachable.all())
    for member, names in rear.members().items():
        for a, b in pairwise(names):
            was = np.linalg.norm(linkage.points[a] - linkage.points[b])
            # A pin is one point on two members: where they are together is where both have it.
            pa, pb = (linkage.place(n, poses) for n in (a, b))
            np.testing.assert_allclose(np.linalg.norm(pa - pb, axis=-1), was, atol=1e-7, err_msg=member)
    for a, b in rear.rods:
        now = linkage.distance(a, b, poses)[0]
        np.testing.assert_allclose(now, now[0], atol=1e-7)
    length, ratio = linkage.distance(*rear.damper, poses)

    def slope(h: float) -> tuple[Any, Any]:
        ends = [linkage.poses(rise + s) for s in (h, -h)]
        ahead, behind = (linkage.distance(*rear.damper, p)[0] for p in ends)
        return (behind - ahead) / (2 * h), ends[0].reachable & ends[1].reachable

    # Differences at two steps tell the slope to fourth order, and by how far they are apart whether they can.
    (wide, ok), (near, _) = slope(0.02), slope(0.01)
    answer = ok & (np.abs(wide - near) < 1e-4 * np.abs(ratio))
    assert answer.mean() > 0.8
    np.testing.assert_allclose(ratio[answer], ((4 * near - wide) / 3)[answer], rtol=1e-6)
    # Over a step the ratio lies between its ends, and so does what it sums up to; another branch is millimetres away.
    missed = np.abs(np.diff(length) + (ratio[1:] + ratio[:-1]) / 2 * np.diff(rise))
    assert (missed <= np.abs(np.diff(ratio)) * np.diff(rise) / 2 + 1e-3).all(), "a jump is another branch"


@pytest.mark.parametrize("archetype", ALL)
@settings(deadline=None, max_examples=8)
@given(seed=st.integers(0, 10_000), part=st.floats(0, 1))
def test_between_solved_positions_it_is_as_if_solved(archetype: BikeArchetype, seed: int, part: float) -> None:
    """Everywhere it is defined, right up to a dead point; steps no grid shares."""
    swing = RearSweep(shaken(archetype, seed))
    low, high = swing.rises
    rise = np.append(np.linspace(low, high, 311), low + part * (high - low))
    # From where the swing says the members are, the solver finds where they truly are.
    true = swing.linkage._newton(rise, swing.poses(rise).state)
    assert true.reachable.all()
    length = swing.linkage.distance(*swing.rear.damper, true)[0]
    np.testing.assert_allclose(swing.curve.length(rise), length, atol=2e-3)
    for name, at in swing.places(rise).items():
        np.testing.assert_allclose(at, swing.linkage.place(name, true), atol=2e-3)
        np.testing.assert_allclose(at, swing.place(name, rise), atol=1e-9)
    # The way from where it is drawn finds the same positions as far as its stages go.
    steps = swing.linkage.poses(rise)
    stepped = swing.linkage.distance(*swing.rear.damper, steps)[0]
    np.testing.assert_allclose(stepped[steps.reachable], length[steps.reachable], atol=1e-6)


@pytest.mark.parametrize("archetype", ALL)
def test_a_rod_longer_by_a_little_moves_the_axle_as_told(archetype: BikeArchetype) -> None:
    rear = REARS.validate_python({"kind": archetype.kind} | archetype.points)
    if not rear.rods:
        assert archetype.kind in ("direct", "four_bar")
        return
    hole, rod = holes(rear)
    bike = archetype.bike("x")
    linkage = rear.linkage()
    poses = linkage.poses(np.zeros(1))
    effect = linkage.rod_effect(0, poses)
    a, b = rear.damper
    slope = linkage.distance(a, b, type(poses)(poses.rise, poses.state, effect, poses.reachable))[1][0]
    longer = RearLink.model_construct(hole_mm=hole, rod_mm=rod + 0.02, part="").apply(bike).rear
    by_hand = -(longer.linkage().distance(a, b, longer.linkage().poses(np.zeros(1)))[0][0] - 0)
    was = linkage.distance(a, b, poses)[0][0]
    assert (by_hand + was) / 0.02 == pytest.approx(slope, rel=2e-2)


def test_a_four_bar_told_freely_is_the_same_linkage() -> None:
    one = FourBarRear.model_validate(BIKES["downhill"].points)
    free = REARS.validate_python(
        {
            "kind": "free",
            "points": one.named(),
            "member_list": [{"name": m, "points": p} for m, p in one.members().items()],
            "damper_ends": one.damper,
        }
    )
    a, b = (r.linkage().distance(*r.damper, r.linkage().poses(np.array([0.0, 90.0])))[0] for r in (one, free))
    np.testing.assert_allclose(a, b, atol=1e-9)


def told_freely(rear: RearEnd, members: dict[str, tuple[str, ...]], rods: tuple[tuple[str, str], ...]) -> RearEnd:
    listed = [{"name": m, "points": p} for m, p in members.items()]
    return REARS.validate_python(
        {"kind": "free", "points": rear.named(), "member_list": listed, "rod_list": rods, "damper_ends": rear.damper}
    )


@pytest.mark.parametrize("which", ["a rod as a member on two pins", "a member that only rods hold"])
def test_a_linkage_is_the_same_however_it_hangs_together(which: str) -> None:
    """Members are solved from the frame outward; a closed loop and one that no pin leads to come out alike."""
    if which.startswith("a rod"):
        one: RearEnd = REARS.validate_python({"kind": "rocker_on_frame"} | BIKES["linkage_frame"].points)
        free = told_freely(one, one.members() | {"rod": one.rods[0]}, ())
    else:
        on_stay = {"damper_first_on": "frame", "damper_second_on": "seat stay", "axle_on": "seat stay"}
        eyes = {"damper_first": (520.0, 650.0), "damper_second": (250.0, 470.0)}
        one = FourBarRear.model_validate(BIKES["downhill"].points | on_stay | eyes)
        held = {m: p for m, p in one.members().items() if m in ("frame", "seat stay")}
        free = told_freely(one, held, (("pivot", "stay_joint"), ("rocker_pivot", "rocker_joint")))
    here, there = one.linkage(), free.linkage()
    rise = np.linspace(-10.0, 120.0, 27)
    poses, others = here.poses(rise), there.poses(rise)
    assert poses.reachable.all()
    assert others.reachable.all()
    for was, now in zip(here.distance(*one.damper, poses), there.distance(*one.damper, others), strict=True):
        np.testing.assert_allclose(now, was, atol=1e-9)
    for name, at in here.positions(poses.state).items():
        np.testing.assert_allclose(there.place(name, others), at, atol=1e-9, err_msg=name)
    swings = RearSweep(one, 0.0, 1000.0), RearSweep(free, 0.0, 1000.0)
    np.testing.assert_allclose(swings[1].curve.length(rise), swings[0].curve.length(rise), atol=1e-3)


def beside_a_loop() -> PlanarLinkage:
    """Four bars, whose last pin closes a loop, and a second rocker that a rod from the seat stay turns."""
    four = FourBarRear.model_validate(BIKES["downhill"].points)
    more = {
        "second_pivot": (620.0, 430.0),
        "rod_stay": (260.0, 470.0),
        "rod_second": (590.0, 520.0),
        "eye": (680.0, 470.0),
    }
    members = four.members()
    members |= {
        "frame": (*members["frame"], "second_pivot"),
        "seat stay": (*members["seat stay"], "rod_stay"),
        "second": ("second_pivot", "rod_second", "eye"),
    }
    points = {n: np.array(p, dtype=float) for n, p in (four.named() | more).items()}
    return PlanarLinkage(points, members, (("rod_stay", "rod_second"),), "axle")


def afloat() -> PlanarLinkage:
    """A stay that carries the axle and that only two rods hold."""
    four = FourBarRear.model_validate(BIKES["downhill"].points)
    members = {m: p for m, p in four.members().items() if m in ("frame", "seat stay")}
    points = {n: np.array(four.named()[n]) for n in {p for names in members.values() for p in names}}
    return PlanarLinkage(points, members, (("pivot", "stay_joint"), ("rocker_pivot", "rocker_joint")), "axle")


@pytest.mark.parametrize(
    "linkage",
    [beside_a_loop(), afloat(), BIKES["linkage_arm"].bike("x").rear.linkage()],
    ids=["beside a loop", "afloat", "on the arm"],
)
def test_a_rod_longer_by_a_little_is_longer_by_as_much_and_all_else_holds(linkage: PlanarLinkage) -> None:
    poses = linkage.poses(np.linspace(-10.0, 60.0, 8))
    assert poses.reachable.all()
    longer = replace(poses, state=poses.state + 1e-5 * linkage.rod_effect(0, poses))
    for n, rod in enumerate(linkage.rods):
        by = (linkage.distance(*rod, longer)[0] - linkage.distance(*rod, poses)[0]) / 1e-5
        np.testing.assert_allclose(by, float(n == 0), atol=1e-4)
    np.testing.assert_allclose(linkage.place("axle", longer)[:, 1], linkage.place("axle", poses)[:, 1], atol=1e-8)
    for names in linkage.members.values():
        for a, b in pairwise(names):
            np.testing.assert_allclose(linkage.distance(a, b, longer)[0], linkage.distance(a, b, poses)[0], atol=1e-7)


def test_freedoms_and_dead_points_are_told() -> None:
    points = {n: np.array(p, dtype=float) for n, p in BIKES["linkage_frame"].points.items()}
    members = REARS.validate_python({"kind": "rocker_on_frame"} | BIKES["linkage_frame"].points).members()
    with pytest.raises(ValueError, match="stays loose: its pins and rods leave 2 freedoms"):
        PlanarLinkage(points, members, (), "axle")
    with pytest.raises(ValueError, match="cannot move"):
        PlanarLinkage(points, members, (("rod_arm", "rod_rocker"), ("axle", "damper_rocker")), "axle")
    # The rod's end on the line from its other end through the rocker's pivot, as near as a drawing can have it.
    pivot, end = points["rocker_pivot"], points["rod_arm"]
    dead = pivot + 50.0 * (pivot - end) / np.linalg.norm(pivot - end) + 1e-8
    with pytest.raises(ValueError, match="at a dead point: two of its members lie in one line"):
        PlanarLinkage(points | {"rod_rocker": dead}, members, (("rod_arm", "rod_rocker"),), "axle")
    with pytest.raises(ValidationError, match="are the same point"):
        REARS.validate_python({"kind": "direct", "axle": (0, 300), "pivot": (0, 300), "damper_frame": (3, 4),
                               "damper_arm": (5, 6)})  # fmt: skip
    with pytest.raises(ValueError, match="gets longer as the wheel rises"):
        RearSweep(REARS.validate_python({"kind": "direct", "axle": (0, 300), "pivot": (500, 360),
                                     "damper_frame": (300, 100), "damper_arm": (250, 330)}))  # fmt: skip
    with pytest.raises(ValidationError, match="both ends of the damper are on the rocker"):
        FourBarRear.model_validate(BIKES["downhill"].points | {"damper_first_on": "rocker"})


@pytest.mark.parametrize("archetype", ALL)
def test_equilibrium_is_virtual_work(archetype: BikeArchetype) -> None:
    """The load times a small drop is the work of the spring over it."""
    standing = BikeStance(archetype.bike("x"), Loads.of(archetype.bike("x"), ((78.0, 400.0),)))
    rear = standing.rear
    at = rear.at(standing.loads.rear_laden)
    assert not at.topped_out
    assert not at.bottomed
    h = 0.01
    lengths = rear.sweep.curve.length(rear.extended_rise + at.sag + np.array([-h, h]))
    push = rear._push(np.array(at.damper_length))
    assert standing.loads.rear_laden * 2 * h == pytest.approx(float(push * (lengths[0] - lengths[1])), rel=1e-4)
    numeric = np.diff(rear.force(np.array([at.sag - h, at.sag + h])))[0] / (2 * h)
    assert rear.wheel_rate(at.sag) == pytest.approx(numeric, rel=1e-3)


def test_the_reference_linkage_as_a_job() -> None:
    """The independent case of a lowering link, through a machine, a change and the whole prediction."""
    case = json.loads((REFERENCE / "statics-rear-linkage-public.json").read_text())
    given_, want = case["given"], case["expect"]
    from inclinum.core.part_sheets.rear_linkage import RearLinkage

    sheet = RearLinkage.model_validate({"kind": "rear-linkage"} | given_)
    rear = sheet._rear(sheet.original_link)
    bike = BIKES["linkage_frame"].bike("x").model_dump() | {
        "rear": rear.model_dump(),
        "damper": {"extended_mm": 324, "stroke_mm": 52, "gas_n": 180},
        "spring": {"rate_n_per_mm": 130, "free_length_mm": 180, "stroke_mm": 90},
        "preload_mm": 12.5,
        "sprung_rear_kg": 78,
    }
    link = {"type": "rear_link", "hole_mm": 83, "rod_mm": 124}
    rider = {"name": "r", "mass": "58", "x_mm": 0}  # all of it on the rear axle
    answer = predict_bike(job_on(Bike.model_validate(bike), [link], rides=[rider]))
    for stance, key in ((answer.before, "original"), (answer.planned, "lowering_link_same_preload")):
        assert stance.unladen.rear_sag_mm == pytest.approx(want[key]["unladen_sag_mm"], abs=0.002)
        assert stance.laden.rear_sag_mm == pytest.approx(want[key]["laden_sag_mm"], abs=0.002)
        assert stance.ratio_laden == pytest.approx(want[key]["laden_installation_ratio"], abs=1e-4)
        assert stance.rear_travel_mm == pytest.approx(want[key]["travel_at_full_stroke_mm"], abs=0.002)
    lowered = want["lowering_link_same_preload"]
    assert answer.rear_drop_mm == pytest.approx(lowered["rear_axle_drop_laden_mm"], abs=0.002)
    assert answer.rear_drop_unladen_mm == pytest.approx(lowered["rear_axle_drop_unladen_mm"], abs=0.002)
    assert answer.full_extension_rise_mm == pytest.approx(lowered["full_extension_axle_rise_mm"], abs=0.002)


def test_the_reference_fork_as_a_job() -> None:
    case = json.loads((REFERENCE / "statics-fork-public.json").read_text())
    g, want = case["given"], case["expect"]
    air = g["air_per_leg"]
    fork = {
        "stroke_mm": 130, "raise_most_mm": 18, "bottomed_clearance_mm": 26, "clearance_wanted_mm": 10,
        "springs": {"type": "coil", "left": {"rate_n_per_mm": 9, "free_length_mm": 305}, "spacer_mm": 150,
                    "available_mm": 440, "air": {"area_mm2": air["area_mm2"], "volume_mm3": air["V0_mm3"]}},
    }  # fmt: skip
    base = BIKES["linkage_frame"].bike("x")
    bike = Bike.model_validate(base.model_dump() | {"fork": fork, "rake_deg": 25.5, "sprung_front_kg": 74})
    rider = {"name": "r", "mass": "26", "x_mm": bike.wheelbase_mm}
    spacer = {"type": "fork_spacer", "spacer_mm": want["spacer_length_for_target_mm"]}
    answer = predict_bike(job_on(bike, [spacer], rides=[rider]))
    assert answer.before.unladen.front_sag_mm == pytest.approx(
        want["as_fitted"]["unladen_sag_along_fork_mm"], abs=0.002
    )
    assert answer.before.laden.front_sag_mm == pytest.approx(want["as_fitted"]["laden_sag_along_fork_mm"], abs=0.002)
    assert answer.planned.laden.front_sag_mm == pytest.approx(27.0, abs=0.002)
    assert answer.planned.unladen.front_sag_mm == pytest.approx(
        want["with_target_spacer"]["unladen_sag_along_fork_mm"], abs=0.002
    )
    raised = predict_bike(job_on(bike, [{"type": "fork_raise", "raised_mm": 12}], rides=[rider]))
    assert raised.front_drop_mm == pytest.approx(want["front_drop_at_front_axle_station_mm"], abs=1e-6)
    assert raised.steering.raise_allowed_mm == pytest.approx(0.0, abs=0.1), "the rear did not move: nothing to raise"
    assert (
        apply_all(bike, (PlannedBikeChange(id="c", change=ForkRaise(raised_mm=12)),)).fork.most_raise
        == (want["largest_allowed_raise_mm"])
    )


def test_trail_by_hand_and_back() -> None:
    rake = np.radians(26.0)
    # (310·sin 26° − 35)/cos 26° = (135.8951 − 35)/0.8987940
    assert attitude.trail(310.0, 35.0, rake) == pytest.approx(112.2561, abs=1e-3)
    assert attitude.rake_of_trail(310.0, 35.0, attitude.trail(310.0, 35.0, rake)) == pytest.approx(rake, abs=1e-12)
    assert attitude.drop_at(700.0, 10.0, 30.0, 1400.0) == pytest.approx(20.0)
    lean = attitude.stand_lean(60.0, 240.0)
    cut = attitude.stand_shortening(20.0, lean, 0.0)
    assert cut == pytest.approx(20.0), "a leg straight down is shortened by the drop"


@given(drop=st.floats(2, 40), splay=st.floats(0, 1.0), height=st.floats(30, 90), lateral=st.floats(180, 300))
def test_a_shortened_stand_leans_as_before(drop: float, splay: float, height: float, lateral: float) -> None:
    lean = attitude.stand_lean(height, lateral)
    cut = attitude.stand_shortening(drop, lean, splay)
    now = attitude.stand_lean(height - drop + cut * np.cos(splay), lateral - cut * np.sin(splay))
    assert now == pytest.approx(lean, abs=1e-9)


def test_keeping_the_steering_keeps_the_trail_and_the_stand_gets_its_lean_back() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    hole, rod = holes(bike.rear)
    link = {"type": "rear_link", "hole_mm": hole, "rod_mm": rod + 4}
    answer = predict_bike(job_on(bike, [link]))
    s = answer.steering
    assert s.trail_after_mm > s.trail_before_mm + 1.5, "the rear goes down: rake and trail grow"
    assert not s.clipped
    raised = [link, {"type": "fork_raise", "raised_mm": s.raise_allowed_mm}]
    kept = predict_bike(job_on(bike, raised))
    assert kept.steering.trail_after_mm == pytest.approx(s.trail_before_mm, abs=0.01)
    assert kept.stand is not None
    shorter = [*raised, {"type": "side_stand", "shorter_mm": kept.stand.shortening_mm}]
    assert predict_bike(job_on(bike, shorter)).stand.lean_after_deg == pytest.approx(  # type: ignore[union-attr]
        kept.stand.lean_before_deg, abs=1e-6
    )
    # Ground that falls to the stand's side adds to the lean.
    steep = stand_of(job_on(bike, slope_deg=5), *(BikeStance(bike, Loads.of(bike, ())),) * 2)
    assert steep is not None
    assert steep.lean_after_slope_deg == pytest.approx(steep.lean_after_deg + 5)


def test_a_clipped_raise_says_what_is_left() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    hole, rod = holes(bike.rear)
    fork = bike.fork.model_copy(update={"raise_most_mm": 8.0})
    answer = predict_bike(
        job_on(bike.model_copy(update={"fork": fork}), [{"type": "rear_link", "hole_mm": hole, "rod_mm": rod + 8}])
    )
    assert answer.steering.clipped
    assert answer.steering.raise_allowed_mm == 8.0
    assert answer.steering.clipped_by == "where the tube steps"
    assert answer.steering.trail_left_mm > 1


@pytest.mark.parametrize("archetype", ALL)
def test_the_preload_for_a_sag_gives_it(archetype: BikeArchetype) -> None:
    from inclinum.core.bike.prediction import assess

    job = job_on(archetype.bike("x"), rides=[{"name": "r", "mass": "92", "x_mm": 500}])
    case = assess(job).case()
    wanted = case.sags["rear"].laden_mm * 0.9
    cure = set_sag(case, "rear", wanted)
    done = predict_bike(job.model_copy(update={"plan": job.plan.model_copy(update={"changes": cure.changes})}))
    assert done.sags["rear"].laden_mm == pytest.approx(wanted, abs=0.3), "the collar is told to a tenth of a millimetre"
    with pytest.raises(ValueError, match="beyond"):
        set_sag(case, "rear", 900.0)


def test_the_rate_by_sag_stands_in_the_middle_of_both_windows() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    bench = predict_bike(job_on(bike)).sags["rear"]
    assert bench.rate_by_sag is not None
    rate = {"rate_n_per_mm": bench.rate_by_sag, "free_length_mm": 220, "stroke_mm": 130}
    swap = {"type": "rear_spring", "spring": rate, "preload_mm": 0}
    first = predict_bike(job_on(bike, [swap])).sags["rear"]
    assert first.preload_for_target_mm is not None
    done = predict_bike(job_on(bike, [swap | {"preload_mm": first.preload_for_target_mm}])).sags["rear"]
    w = done.window
    assert done.laden_mm / done.travel_mm == pytest.approx((w.laden_low + w.laden_high) / 2, abs=1e-3)
    assert done.unladen_mm / done.travel_mm == pytest.approx((w.unladen_low + w.unladen_high) / 2, abs=1e-3)
    assert done.verdict == "right"


@pytest.mark.parametrize(("factor", "verdict"), [(0.6, "too soft"), (1.0, "right"), (2.0, "too stiff")])
def test_unladen_sag_tells_the_rate(factor: float, verdict: str) -> None:
    bike = BIKES["linkage_frame"].bike("x")
    spring = {"rate_n_per_mm": bike.spring.rate_n_per_mm * factor, "free_length_mm": 240, "stroke_mm": 150}
    answer = predict_bike(job_on(bike, [{"type": "rear_spring", "spring": spring}]))
    assert answer.sags["rear"].verdict == verdict, answer.sags["rear"].why


def test_both_schools_and_the_nearest_springs_of_the_shelf() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    shelf = [{"spring": {"part": f"S{r}", "rate_n_per_mm": r, "free_length_mm": 220, "stroke_mm": 140}, "count": 1}
             for r in (50, 64, 80, 110)]  # fmt: skip
    bench = predict_bike(job_on(bike, shelf=shelf)).sags["rear"]
    assert bench.rate_by_sag is not None
    assert bench.rate_by_frequency is not None
    assert bench.softer is not None
    assert bench.stiffer is not None
    assert bench.softer.rate_n_per_mm < bench.rate_by_sag < bench.stiffer.rate_n_per_mm
    assert bench.softer.preload_mm > bench.stiffer.preload_mm, "the softer one is wound up further"
    assert bench.softer.unladen_sag_mm < bench.stiffer.unladen_sag_mm
    assert bench.softer.laden_sag_mm == pytest.approx(bench.target_mm, abs=0.01)
    w = bench.window
    swap = {"type": "rear_spring", "spring": {"rate_n_per_mm": bench.rate_by_frequency, "free_length_mm": 220,
                                              "stroke_mm": 140}}  # fmt: skip
    there = predict_bike(job_on(bike, [swap]))
    preload = there.sags["rear"].preload_for_target_mm
    held = predict_bike(job_on(bike, [swap | {"preload_mm": max(preload or 0, 0)}])).sags["rear"]
    assert held.frequency_hz == pytest.approx(w.frequency_hz, rel=0.06)


COILED = [pytest.param(a, id=a.key) for a in BIKES.values() if a.bike("x").fork.springs.type == "coil"]


@pytest.mark.parametrize("archetype", COILED)
def test_a_fork_on_what_its_bench_says_stands_where_it_is_wanted(archetype: BikeArchetype) -> None:
    """With the air over its oil: by spacer, by both sags, by frequency."""
    bike = archetype.bike("x")
    came = predict_bike(job_on(bike)).sags["front"]
    loads = Loads.of(bike, ((78.0, 0.38 * bike.wheelbase_mm),))

    def on(**of_springs: Any) -> BikeStance:
        springs = bike.fork.springs.model_copy(update={"right_spacer_mm": None} | of_springs)
        return BikeStance(bike.model_copy(update={"fork": bike.fork.model_copy(update={"springs": springs})}), loads)

    assert isinstance(bike.fork.springs, CoilForkSprings)
    assert bike.fork.springs.air is not None
    assert came.spacer_for_target_mm is not None
    assert on(spacer_mm=came.spacer_for_target_mm).ends["laden"][0].sag == pytest.approx(came.target_mm, abs=1e-6)

    def rated(rate: float) -> LegSpring:
        return LegSpring(rate_n_per_mm=rate, free_length_mm=bike.fork.springs.left.free_length_mm)  # type: ignore[union-attr]

    assert came.rate_by_sag is not None
    _, spacer = preload_for_sag(on(left=rated(came.rate_by_sag)), came.target_mm, "front")
    assert spacer is not None
    both = on(left=rated(came.rate_by_sag), spacer_mm=spacer)
    middle = (came.window.unladen_low + came.window.unladen_high) / 2 * came.travel_mm
    if both.bike.fork.springs.preload() > 0:  # type: ignore[operator] (of coils it is a number)
        assert both.ends["unladen"][0].sag == pytest.approx(middle, abs=1e-6)
    assert came.rate_by_frequency is not None
    stiff = on(left=rated(came.rate_by_frequency), spacer_mm=200.0).front.wheel_rate(came.laden_mm)
    mass = loads.front_laden / 9.80665
    assert np.sqrt(1000 * stiff / mass) / (2 * np.pi) == pytest.approx(came.window.frequency_hz, rel=1e-3)


def test_a_hidden_top_out_takes_from_the_counted_preload() -> None:
    bike = BIKES["cantilever"].bike("x")
    damper = bike.damper.model_copy(update={"zero_found": "hanging", "hidden_mm": 4.0})
    hidden = bike.model_copy(update={"damper": damper})
    assert hidden.preload == pytest.approx(bike.preload - 4.0)
    unknown = bike.model_copy(update={"damper": damper.model_copy(update={"hidden_mm": None})})
    assert "forced out" in predict_bike(job_on(unknown)).sags["rear"].zero_question


def test_equal_legs_and_progressive_springs() -> None:
    left = LegSpring(rate_n_per_mm=8, free_length_mm=300)
    springs = CoilForkSprings(left=left, spacer_mm=140, available_mm=430)
    assert springs.preload() == 10
    assert springs.spacer_for(14.0) == 144
    assert springs.force(20.0, 120) == pytest.approx(2 * 8 * 30)
    soft = LegSpring(rate_n_per_mm=9, free_length_mm=300, solid_length_mm=120, soft_closes_mm=40, soft_rate_n_per_mm=6)
    # 6 N/mm for the first 40 mm, 9 N/mm after; which way up does not come into it.
    for up in (True, False):
        spring = soft.model_copy(update={"coils_up": up}).spring
        assert float(spring.force(300 - 40)) == pytest.approx(240)
        assert float(spring.force(300 - 60)) == pytest.approx(240 + 20 * 9)
    for force in (100.0, 240.0, 420.0):
        assert float(soft.spring.force(soft.length_at(force))) == pytest.approx(force)
    # What was worked out of a document is worked out anew of its copy.
    assert float(soft.spring.force(280)) == pytest.approx(120)
    assert float(soft.model_copy(update={"soft_closes_mm": 0}).spring.force(280)) == pytest.approx(180)
    room = Fork(springs=springs, stroke_mm=120, raise_most_mm=30, bottomed_clearance_mm=18)
    assert room.most_raise == 8
    assert room.model_copy(update={"bottomed_clearance_mm": 60}).most_raise == 30
    fork = Fork(springs=springs, stroke_mm=120)
    assert sag(fork.springs, 120.0, 2 * 8 * 35.0) == pytest.approx(25.0, abs=1e-9)
    assert sag(fork.springs, 120.0, 10.0) == 0.0
    assert sag(fork.springs, 120.0, 1e6) == 120.0


def test_readings_move_the_drawing_and_contradictions_are_told() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    points = bike.rear.arrays()
    by_key = {p.key: p for p in places(bike.rear)}
    rod = by_key["rod_arm.rod_rocker"].value(points)
    read = {"tape": [{"key": "rod_arm.rod_rocker", "reading": f"{rod + 3:.1f}"},
                     {"key": "damper.stroke", "reading": "80"}]}  # fmt: skip
    taken = fitted(bike, BikeMeasurements.model_validate(read))
    assert by_key["rod_arm.rod_rocker"].value(taken.bike.rear.arrays()) == pytest.approx(round(rod + 3, 1), abs=0.05)
    assert taken.bike.damper.stroke_mm == 80
    bare = fitted(bike, BikeMeasurements()).fit
    assert taken.fit.ratio_percent <= bare.ratio_percent
    assert bare.next, "something is always worth reading first"
    most = BikeMeasurements.model_validate({"tape": [{"key": k, "reading": "100"} for k in bare.next[:1]]})
    assert fitted(bike, most).fit.ratio_percent < bare.ratio_percent
    arm = by_key["axle.pivot"].value(points)
    wrong = {"tape": [{"key": "axle.pivot", "reading": f"{arm:.1f}"}, {"key": "pivot.rod_arm", "reading": "100"},
                      {"key": "axle.rod_arm", "reading": "300"}]}  # fmt: skip
    assert any("is off by" in m for m in fitted(bike, BikeMeasurements.model_validate(wrong)).fit.misses)
    with pytest.raises(ValueError, match="no place “nowhere”"):
        fitted(bike, BikeMeasurements.model_validate({"tape": [{"key": "nowhere", "reading": "1"}]}))


@pytest.mark.parametrize("kind", BIKE_CHANGES, ids=lambda k: k.model_fields["type"].default)
def test_a_change_begins_neutral_or_small_and_refuses_what_it_does_not_fit(kind: Any) -> None:
    bike = (
        BIKES["twin_dampers"].bike("x")
        if kind.__name__ in ("ClevisOut", "RearEye")
        else BIKES["linkage_frame"].bike("x")
    )
    started = begin(kind.model_fields["type"].default, bike, ())
    assert abs(predict_bike(job_on(bike, [started.change.model_dump()])).rear_drop_mm) < 1.0
    assert started.change.summary()
    assert started.change.steps(bike)
    odd = Bike.model_validate(
        BIKES["mountain"].bike("x").model_dump()
        | {"stand": None, "seat": {"x_mm": 270, "height_mm": 900, "foam_mm": 0}}
    )
    refused = {"rear_link", "clevis", "rear_eye", "fork_raise", "fork_springs", "fork_spacer", "fork_oil", "side_stand"}
    if started.change.type in refused:
        with pytest.raises(ValueError, match=r"\w+"):
            begin(started.change.type, odd, ())


def test_a_rod_that_reaches_nothing_says_which_would() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    with pytest.raises(ValueError, match=r"Take a rod between \d+ and \d+ mm"):
        RearLink(hole_mm=40, rod_mm=400).apply(bike)


def test_the_damper_has_to_reach_its_eyes() -> None:
    bike = BIKES["cantilever"].bike("x")
    long = bike.model_copy(update={"damper": bike.damper.model_copy(update={"extended_mm": 600.0})})
    with pytest.raises(ValueError, match="between its eyes the linkage only goes from"):
        predict_bike(job_on(long))


def test_sweep_tells_none_beyond_reach() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    answer = sweep_rear(BikeStance(bike, Loads.of(bike, ())), [0.0, 100.0, 5000.0])
    assert answer["damper_length_mm"][0] == pytest.approx(bike.damper.extended_mm, abs=1e-6)
    assert answer["damper_length_mm"][2] is None


def test_what_two_masses_do_to_the_axles() -> None:
    bike = BIKES["shaft_tourer"].bike("x")
    loads = Loads.of(bike, ((80.0, bike.wheelbase_mm / 4), (20.0, 0.0)))
    assert loads.front_laden - loads.front_unladen == pytest.approx(20 * 9.80665)
    assert loads.rear_laden - loads.rear_unladen == pytest.approx(80 * 9.80665)


def test_twin_dampers_share_the_load() -> None:
    bike = BIKES["twin_dampers"].bike("x")
    swing = rear_sweep_of(bike.rear)  # pyright: ignore[reportArgumentType] (hashable)
    pair = RearCarrying(swing, 20.0, 5.0, bike.damper.extended_mm, bike.damper.stroke_mm, count=2)
    single = RearCarrying(swing, 40.0, 5.0, bike.damper.extended_mm, bike.damper.stroke_mm)
    assert pair.at(700.0).sag == pytest.approx(single.at(700.0).sag, abs=1e-6)


def test_the_shares_of_a_stack_add_up() -> None:
    answer = predict_bike(demo_bike_jobs()[-1])
    assert -sum(s.rear for s in answer.shares) == pytest.approx(answer.rear_drop_mm, abs=1e-9)
    assert -sum(s.front for s in answer.shares) == pytest.approx(answer.front_drop_mm, abs=1e-9)


def test_a_raised_rear_would_want_the_fork_lower_than_its_clamps() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    hole, rod = holes(bike.rear)
    answer = predict_bike(job_on(bike, [{"type": "rear_link", "hole_mm": hole, "rod_mm": rod - 5}]))
    assert answer.rear_drop_mm < -5
    assert answer.steering.raise_wanted_mm < 0
    assert answer.steering.raise_allowed_mm == 0
    assert answer.steering.clipped_by == "the lower end of the clamp zone"

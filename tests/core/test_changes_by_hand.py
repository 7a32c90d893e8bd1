"""A number worked by hand for every change of four wheels: lengths, levers and forces without the product's solver."""

import math

import numpy as np
import pytest
from scipy.optimize import fsolve

from inclinum.core.car.alignment import align
from inclinum.core.car.changes import (
    AdjusterFitted,
    AirHeight,
    ArmLength,
    BracketMoved,
    CoilOver,
    Collar,
    DamperExtension,
    DamperSwap,
    HelperLeaf,
    JointMoved,
    LeavesChanged,
    LimitStrap,
    Load,
    MountSpacer,
    OverAxle,
    PlannedChange,
    ReArched,
    SeatSpacer,
    Shackle,
    Stated,
    StopRaised,
    StopTrimmed,
    SubframeLowered,
    TorsionAdjuster,
    Tyres,
    Wedge,
    WheelOffset,
    begin,
)  # fmt: skip
from inclinum.core.car.changes.base import Change
from inclinum.core.car.draws import sample_vehicle
from inclinum.core.car.job import Job, Plan
from inclinum.core.car.limits.joint_angles import neutral_of
from inclinum.core.car.prediction import Assessed, assess, predict
from inclinum.core.car.stance import axle_corner
from inclinum.core.car.vehicle import AngleTarget, Axle, LinkAdjuster
from inclinum.core.document.errors import DomainError
from inclinum.core.document.known import Known
from inclinum.core.document.names import AxleName
from inclinum.core.kinematics.axles import LeafAxle
from inclinum.core.kinematics.joints import joint_angles
from inclinum.core.kinematics.kinds import WishboneLinkage
from inclinum.core.kinematics.refit import lengthened, links, moving_points, refitted
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.springs.fitted import LeafPackData, TorsionBarData
from tests.core.test_every_change import job_on


def on(job: Job, *changes: Change) -> Job:
    planned = tuple(PlannedChange.model_validate({"id": f"c{n}", "change": c}) for n, c in enumerate(changes))
    return job.model_copy(update={"plan": Plan(changes=planned)})


def done(key: str, end: AxleName, *changes: Change) -> Assessed:
    return assess(on(job_on(key, end), *changes))


def rise(key: str, end: AxleName, *changes: Change) -> float:
    return done(key, end, *changes).after.axle(end).rise


def rear_pack() -> LeafPackData:
    spring = job_on("leaf_axle", "rear").vehicle.rear.spring
    assert isinstance(spring, LeafPackData)
    return spring


@pytest.mark.parametrize("kind", ["progressive_spring", "dual_rate_springs", "air_springs", "spring_swap"])
def test_another_kind_of_spring_begins_where_the_old_one_stood(kind: str) -> None:
    job = job_on("wishbones", "front")
    planned = begin(kind, "front", job.vehicle, ())
    found = assess(job.model_copy(update={"plan": Plan(changes=(planned,))}))
    assert found.after.front.rise == pytest.approx(0, abs=1.0)
    assert found.after.front.wheel_rate == pytest.approx(found.before.front.wheel_rate, rel=0.25)


def test_a_re_arched_pack_stands_by_so_much_higher_and_leaves_carry_by_their_number() -> None:
    assert rise("leaf_axle", "rear", ReArched(axle="rear", by_mm=22)) == pytest.approx(22, rel=2e-3)
    pack, a = rear_pack(), done("leaf_axle", "rear", LeavesChanged(axle="rear", leaves_by=2, arch_by_mm=-4))
    # n leaves under a load W are bent by W/k, n + 2 by W/(k·(n + 2)/n); the arch is 4 mm less.
    bent = a.before.rear.load / float(pack.spring().stiffness(-10.0))
    assert a.after.rear.rise == pytest.approx(bent * (1 - pack.leaves / (pack.leaves + 2)) - 4, rel=3e-3)


def test_a_helper_carries_beside_the_pack_from_where_it_is_met() -> None:
    k = float(rear_pack().spring().stiffness(-10.0))
    a = done("leaf_axle", "rear", HelperLeaf(axle="rear", rate_n_per_mm=k, contact_mm=40))
    bent = a.before.rear.load / k
    assert bent > 40
    # From 40 mm on twice as stiff: what is left of the load bends it by half.
    assert a.after.rear.rise == pytest.approx((bent - 40) / 2, rel=5e-3)


def test_over_the_axle_lifts_by_tube_and_seats_and_needs_enough_of_them() -> None:
    was = job_on("leaf_axle_front", "front").vehicle.front
    beside = float(was.linkage.named_points()["seat"][2] - was.linkage.named_points()["wheel_centre"][2])
    assert beside > 0, "the pack lies over the axle"
    there = OverAxle(axle="front", between_mm=150)
    under = was.model_copy(update=there.changed(was))
    assert under.hub_to_arch_mm == pytest.approx(was.hub_to_arch_mm - 150)
    back = under.model_copy(update=there.changed(under))
    assert back.hub_to_arch_mm == pytest.approx(was.hub_to_arch_mm)
    assert rise("leaf_axle_front", "front", there, there) == pytest.approx(0, abs=1e-9)
    with pytest.raises(DomainError, match="still lie"):
        rise("leaf_axle_front", "front", OverAxle(axle="front", between_mm=abs(beside) - 1))


def test_a_longer_shackle_turns_pack_and_axle_about_the_fixed_eye() -> None:
    a = done("leaf_axle", "rear", Shackle(axle="rear", longer_mm=40))
    was, now = (s.rear.axle.linkage.named_points() for s in (a.before, a.after))

    def apart(points: dict[str, np.ndarray], one: str, other: str) -> float:
        return float(np.hypot(*(points[one] - points[other])[[0, 2]]))

    assert apart(now, "shackle_eye", "shackle_body") == pytest.approx(apart(was, "shackle_eye", "shackle_body") + 40)
    for one, other in (("fixed_eye", "seat"), ("fixed_eye", "wheel_centre"), ("seat", "shackle_eye")):
        assert apart(now, one, other) == pytest.approx(apart(was, one, other))
    # The rule of half, shackle hanging: s·(fixed eye to axle)/(eye to eye), to a tenth.
    lever = apart(was, "fixed_eye", "seat") / apart(was, "fixed_eye", "shackle_eye")
    assert a.after.rear.rise == pytest.approx(40 * lever, rel=0.12)


@pytest.mark.parametrize(("thick", "more"), [("rear", 3.0), ("front", -3.0)])
def test_a_wedge_turns_the_kingpins_by_its_angle(thick: str, more: float) -> None:
    change = Wedge.model_validate({"axle": "front", "angle_deg": 3, "thick_end": thick})
    over = job_on("leaf_axle_front", "front").vehicle.front.linkage
    found = predict(on(job_on("leaf_axle_front", "front"), change)).front
    was, now = found.angles_before.caster_deg, found.angles_after.caster_deg
    assert was is not None
    assert now is not None
    assert found.coupled is not None
    assert found.coupled.nose_up_deg == pytest.approx(now - was, abs=0.05)
    # Caster grows when the axle's front comes up: over the axle by a wedge thick behind, under it by the other.
    assert now - was == pytest.approx(more if over.over_axle else -more, abs=0.12)  # type: ignore[union-attr]


def test_an_adjuster_bolt_turns_the_bar_by_pitch_over_lever() -> None:
    change = TorsionAdjuster(axle="rear", turns=3, pitch_mm=2, lever_mm=80)
    assert change.angle_deg(3) == pytest.approx(math.degrees(6 / 80))
    a = done("trailing_torsion", "rear", change)
    was, now = a.before.rear.axle.spring, a.after.rear.axle.spring
    assert isinstance(was, TorsionBarData)
    assert isinstance(now, TorsionBarData)
    assert now.free_angle_deg == pytest.approx(was.free_angle_deg + 4.2972, abs=1e-3)
    assert a.after.rear.rise > 10


def test_a_level_valve_holds_what_it_is_set_to_whatever_the_load() -> None:
    level = AirHeight(axle="rear", rise_mm=25, tolerance_mm=4)
    assert rise("four_link_air", "rear", level) == pytest.approx(25, abs=1e-9)
    found = predict(on(job_on("four_link_air", "rear"), level))
    plain = predict(job_on("four_link_air", "rear"))
    assert found.rear.plus_minus == pytest.approx(math.hypot(plain.rear.plus_minus, 4), rel=0.02)


def test_weight_sinks_each_end_by_its_lever_over_its_rate() -> None:
    job = job_on("leaf_axle", "rear")
    base, k = job.vehicle.wheelbase_mm, float(rear_pack().spring().stiffness(-10.0))
    a = assess(on(job, Load(axle="rear", mass_kg=120, ahead_mm=0.25 * base)))
    # A quarter of the wheelbase ahead of the rear axle: three quarters on it, half of that on each wheel.
    assert a.after.rear.rise == pytest.approx(-0.75 * 120 * GRAVITY / 2 / k, rel=3e-3)
    assert a.after.front.load - a.before.front.load == pytest.approx(0.25 * 120 * GRAVITY / 2)
    body = predict(on(job, Load(axle="rear", mass_kg=120, ahead_mm=0.25 * base))).body
    added = sum(c.after_n - c.before_n for c in body.corners)
    assert added == pytest.approx(120 * GRAVITY, rel=1e-6)


def test_what_is_stated_is_taken_as_stated_and_says_so() -> None:
    pucks = Stated(axle="rear", what="pucks", rise_mm=-12, tolerance_mm=6, goes_back=False)
    found, plain = predict(on(job_on("trailing", "rear"), pucks)), predict(job_on("trailing", "rear"))
    assert found.rear.rise == pytest.approx(-12, abs=1e-9)
    assert found.rear.plus_minus == pytest.approx(math.hypot(plain.rear.plus_minus, 6), rel=0.02)
    assert any(f.id == "undone.c0" for f in found.findings)
    assert "stated, not computed" in pucks.summary()


def test_bigger_tyres_lift_the_end_above_the_ground_and_pitch_it() -> None:
    job = job_on("trailing", "rear")
    radius = job.vehicle.rear.tyre_radius_mm
    found = predict(on(job, Tyres(axle="rear", radius_mm=radius + 18)))
    assert found.rear.rise == pytest.approx(0, abs=1e-9)
    rows = {(h.axle, h.kind): h for h in found.heights if h.side == "left" and h.axle}
    assert rows["rear", "arch_to_ground"].change == pytest.approx(18)
    assert rows["rear", "arch_to_ground"].after - rows["rear", "arch_to_ground"].before == pytest.approx(18)
    assert rows["rear", "hub_to_arch"].change == pytest.approx(0, abs=1e-9)
    assert found.pitch_change_deg == pytest.approx(math.degrees(math.atan(18 / job.vehicle.wheelbase_mm)), rel=1e-3)


def test_a_wheel_further_out_has_a_longer_lever_on_its_spring() -> None:
    a = done("swing_arm", "rear", WheelOffset(axle="rear", out_mm=20))
    points = a.before.rear.axle.linkage.named_points()
    arm = points["wheel_centre"][1] - points["pivot_inner"][1]
    was, now = (float(s.rear.ride.spring_length.ratio(0.0)) for s in (a.before, a.after))
    assert now == pytest.approx(was * arm / (arm + 20), rel=2e-3)
    assert a.after.rear.axle.track_mm == pytest.approx(a.before.rear.axle.track_mm + 40)


def test_a_perch_is_a_ring_and_a_body_moves_the_whole_unit() -> None:
    ring = rise("wishbones", "front", SeatSpacer(axle="front", thickness_mm=9))
    perch = done("wishbones", "front", Collar(axle="front", by_mm=9)).after.front
    assert perch.rise == pytest.approx(ring, abs=1e-9)
    a = done("wishbones", "front", Collar(axle="front", by_mm=9, turns="body"))
    was, now = a.before.front, a.after.front
    # One unit, 9 mm longer: between damper and spring length lies 9 mm more, the spring carries the same load.
    apart = [float(s.ride.damper_at(s.travel)) - float(s.ride.spring_at(s.travel)) for s in (was, now)]
    assert apart[1] - apart[0] == pytest.approx(9)
    force = [float(s.ride.spring.force(s.ride.spring_at(s.travel)) * s.ride.spring_length.ratio(s.travel))
             for s in (was, now)]  # fmt: skip
    assert force[1] == pytest.approx(force[0], rel=1e-6)
    assert now.axle.damper.extended_mm - was.axle.damper.extended_mm == 9
    stroke = [s.axle.damper.extended_mm - float(s.ride.damper_at(s.travel)) for s in (was, now)]
    assert stroke[1] == pytest.approx(stroke[0], abs=0.5), "nothing of its stroke is lost but what the ratio changes"
    with pytest.raises(DomainError, match="thread left up"):
        rise("wishbones", "front", Collar(axle="front", by_mm=12, up_left_mm=10))


def test_a_unit_like_the_fitted_one_changes_nothing_and_its_collar_is_a_perch() -> None:
    job = job_on("strut_front", "front")
    begun = begin("coil_over", "front", job.vehicle, ()).change
    assert isinstance(begun, CoilOver)
    assert assess(on(job, begun)).after.front.rise == pytest.approx(0, abs=0.06)
    lower = begun.model_copy(update={"collar_to_top_mm": begun.collar_to_top_mm + 15})
    collar = assess(on(job, begun, Collar(axle="front", by_mm=-15))).after.front.rise
    assert assess(on(job, lower)).after.front.rise == pytest.approx(collar, abs=1e-9)
    assert lower.preload_mm == pytest.approx(begun.preload_mm - 15)
    with pytest.raises(DomainError, match="stand apart"):
        begin("coil_over", "rear", job_on("five_link", "rear").vehicle, ())


def test_extensions_straps_packers_and_cuts_move_the_window_and_not_the_height() -> None:
    was = done("four_link_axle", "rear").before.rear
    at = was.ride.damper_length

    def window(*changes: Change) -> tuple[float | None, float | None, float]:
        now = done("four_link_axle", "rear", *changes).after.rear
        return now.window.droop_limit, now.window.stop_contact, now.rise

    droop, _, up = window(DamperExtension(axle="rear", longer_mm=15))
    assert up == pytest.approx(0, abs=1e-9)
    assert droop is not None
    assert float(at.length(droop)) == pytest.approx(was.axle.damper.extended_mm + 15, abs=1e-6)
    strap, _, _ = window(LimitStrap(axle="rear", damper_at_mm=was.axle.damper.extended_mm - 30))
    assert strap is not None
    assert float(at.length(strap)) == pytest.approx(was.axle.damper.extended_mm - 30, abs=1e-6)
    # A strap holds the wheel whatever goes in after it, and the shorter of two holds it.
    tight = was.axle.damper.extended_mm - 30
    straps = LimitStrap(axle="rear", damper_at_mm=tight)
    longer = DamperSwap(axle="rear", extended_mm=tight + 70, closed_mm=was.axle.damper.closed_mm)
    for after in (DamperExtension(axle="rear", longer_mm=15), longer):
        assert window(straps, after)[0] == pytest.approx(strap, abs=1e-6)
        assert window(after, straps)[0] == pytest.approx(strap, abs=1e-6)
    less = window(straps, LimitStrap(axle="rear", damper_at_mm=tight - 5))[0]
    assert less is not None
    assert float(at.length(less)) == pytest.approx(tight - 5, abs=1e-6)
    # A damper that is open before the strap is tight ends droop itself.
    shorter = DamperSwap(axle="rear", extended_mm=tight - 10, closed_mm=was.axle.damper.closed_mm)
    own = window(straps, shorter)[0]
    assert own is not None
    assert float(at.length(own)) == pytest.approx(tight - 10, abs=1e-6)
    with pytest.raises(DomainError, match="straps that are there are tight"):
        window(straps, LimitStrap(axle="rear", damper_at_mm=tight + 5))
    stop = was.axle.bump_stop
    before, touched = was.window.stop_contact, window(StopRaised(axle="rear", by_mm=8))[1]
    assert before is not None
    assert touched is not None
    if stop.contact_mm is None:
        assert touched == pytest.approx(before - 8)
    else:
        assert float(at.length(touched)) == pytest.approx(stop.contact_mm + 8, abs=1e-6)
    cut = StopTrimmed(axle="rear", by_mm=0.25 * stop.height_mm)
    new = done("four_link_axle", "rear", cut).after.rear.axle.bump_stop
    energy = [s.coefficient * s.max_compression_mm ** (s.power + 1) / (s.power + 1) for s in (stop, new)]
    assert energy[1] / energy[0] == pytest.approx(0.75)
    assert cut.energy_left(stop.height_mm) == pytest.approx(0.75)


def test_inside_the_mount_only_the_damper_goes_down() -> None:
    inside = done("strut_front", "front", MountSpacer(axle="front", thickness_mm=8)).after.front
    assert inside.rise == pytest.approx(0, abs=1e-9)
    open_at = float(inside.ride.damper_length.length(inside.full_droop))
    assert open_at == pytest.approx(job_on("strut_front", "front").vehicle.front.damper.extended_mm + 8, abs=1e-6)
    with pytest.raises(DomainError, match="leaves the nut none"):
        rise("strut_front", "front", MountSpacer(axle="front", thickness_mm=8, thread_over_nut_mm=7))


def test_pivots_that_come_down_lift_an_arm_on_a_torsion_bar_by_as_much() -> None:
    """The bar carries the load at one angle of the arm, wherever its pivot is."""
    change = SubframeLowered(axle="rear", by_mm=16, carries_dampers=True)
    assert rise("trailing_torsion", "rear", change) == pytest.approx(16, abs=1e-3)


def test_a_damper_on_another_hole_is_as_long_as_between_its_points() -> None:
    a = done("four_link_axle", "rear", BracketMoved(axle="rear", point="damper_left_body", forward_mm=30, up_mm=20))
    points = a.before.rear.axle.linkage.named_points()
    new = points["damper_left_body"] + [30, 0, 20]
    assert float(a.after.rear.ride.damper_length.length(0.0)) == pytest.approx(
        np.linalg.norm(new - points["damper_left_axle"]), abs=1e-3
    )
    assert a.after.rear.rise == pytest.approx(0, abs=1e-9)


def flat_wishbones() -> WishboneLinkage:
    """Arms square to the vehicle and flat, so that their motion is that of two rods in a plane."""
    points = {
        "wheel_centre": (0, 740, 310), "lower_outer": (0, 700, 200), "upper_outer": (0, 680, 460),
        "lower_front": (140, 340, 200), "lower_rear": (-140, 340, 200),
        "upper_front": (110, 420, 460), "upper_rear": (-110, 420, 460),
        "tie_inner": (120, 340, 200), "tie_outer": (120, 700, 200),
    }  # fmt: skip
    return WishboneLinkage.model_validate({"kind": "double_wishbone", "points": points})


def by_two_rods(longer: float) -> float:
    """Camber of the flat wishbones with a longer upper arm, in the plane, rad: no code of the product's."""

    def missed(unknown: np.ndarray) -> list[float]:
        y, z, turn = unknown

        def at(point: tuple[float, float]) -> tuple[float, float]:
            dy, dz = point[0] - 700, point[1] - 200
            c, s = math.cos(turn), math.sin(turn)
            return y + c * dy - s * dz, z + s * dy + c * dz

        uy, uz = at((680, 460))
        return [
            math.hypot(y - 340, z - 200) - 360,
            math.hypot(uy - 420, uz - 460) - 260 - longer,
            at((740, 310))[1] - 310,
        ]

    # A turn from y towards z leans the left wheel's top in: negative camber.
    return -float(fsolve(missed, [700.0, 200.0, 0.0])[2])


@pytest.mark.parametrize("longer", [-6.0, 4.0, 10.0])
def test_a_longer_upper_arm_cambers_as_two_rods_in_a_plane(longer: float) -> None:
    assert lengthened(flat_wishbones(), "upper_outer", longer).camber == pytest.approx(by_two_rods(longer), abs=2e-5)


def test_parts_keep_their_lengths_and_uprights_their_shape_when_a_joint_moves() -> None:
    job, shift = job_on("wishbones", "front"), np.array([0.0, 0.0, -14.0])
    linkage = job.vehicle.front.linkage
    was, now = linkage.named_points(), refitted(linkage, {"lower_outer": shift}, {}).linkage.named_points()

    def apart(points: dict[str, np.ndarray], one: str, other: str) -> float:
        return float(np.linalg.norm(points[one] - points[other]))

    for one, other in (
        ("lower_outer", "lower_front"), ("lower_outer", "lower_rear"), ("upper_outer", "upper_front"),
        ("tie_outer", "tie_inner"), ("wheel_centre", "upper_outer"), ("wheel_centre", "tie_outer"),
    ):  # fmt: skip
        assert apart(now, one, other) == pytest.approx(apart(was, one, other), abs=2e-4), (one, other)
    grown = float(np.linalg.norm(was["lower_outer"] + shift - was["upper_outer"]))
    assert apart(now, "lower_outer", "upper_outer") == pytest.approx(grown, abs=2e-4)
    assert now["wheel_centre"][2] == pytest.approx(was["wheel_centre"][2], abs=1e-4)
    through = assess(on(job, JointMoved(axle="front", point="lower_outer", up_mm=-14)))
    assert through.after.front.axle.linkage.named_points()["lower_outer"] == pytest.approx(now["lower_outer"])


LATERAL = ArmLength(axle="rear", outer="lateral_rod_axle", longer_mm=10)


def test_links_of_a_solid_axle_go_in_pairs_and_a_lateral_rod_pushes_the_axle_over() -> None:
    job = job_on("three_link_axle", "rear")
    was = job.vehicle.rear.linkage.named_points()
    a = assess(on(job, ArmLength(axle="rear", outer="lower_left_axle", longer_mm=8)))
    now = a.after.rear.axle.linkage.named_points()
    for side in ("left", "right"):
        length = [np.linalg.norm(p[f"lower_{side}_axle"] - p[f"lower_{side}_body"]) for p in (was, now)]
        assert length[1] == pytest.approx(length[0] + 8, abs=1e-3)
    rod = assess(on(job, LATERAL))
    now, along = rod.after.rear.axle.linkage.named_points(), was["lateral_rod_axle"] - was["lateral_rod_body"]
    moved = now["lateral_rod_axle"][1] - was["lateral_rod_axle"][1]
    assert moved == pytest.approx(10 * np.linalg.norm(along) / along[1], rel=5e-3)
    coupled = predict(on(job, LATERAL)).rear.coupled
    assert coupled is not None
    assert coupled.shift_left_mm == pytest.approx(
        (now["wheel_centre_left"] + now["wheel_centre_right"])[1] / 2, abs=0.5
    )
    assert "lateral_rod_axle" in links(job.vehicle.rear.linkage)
    assert "wheel_centre_left" not in moving_points(job.vehicle.rear.linkage)


def test_radius_arms_on_dropped_brackets_give_the_caster_back() -> None:
    """The axle turns about the line of its wheel centres as far as the brackets come down, over the arms' length."""
    job = job_on("radius_arm_axle", "front")
    found = predict(on(job, BracketMoved(axle="front", point="arm_left_body", up_mm=-40))).front
    was, now = found.angles_before.caster_deg, found.angles_after.caster_deg
    assert was is not None
    assert now is not None
    points = job.vehicle.front.linkage.named_points()
    arm = points["wheel_centre_left"][0] - points["arm_left_body"][0]
    assert found.coupled is not None
    assert found.coupled.nose_up_deg == pytest.approx(now - was, abs=0.05)
    # Arms behind the axle: brackets that come down press the arms' ends down, the kingpins lean back.
    assert arm > 0
    assert now - was == pytest.approx(math.degrees(40 / arm), rel=0.05)


def wanting(axle: Axle, camber: float) -> Axle:
    targets = {"camber": AngleTarget(target_deg=camber, window_deg=0.1)}
    return axle.model_copy(update={"targets": targets, "adjusters": ()})


def test_an_adjuster_that_is_fitted_is_there_to_set() -> None:
    job = job_on("five_link", "rear")
    rear = wanting(job.vehicle.rear, job.vehicle.rear.camber_deg - 0.8)
    job = job.model_copy(update={"vehicle": job.vehicle.model_copy(update={"rear": rear})})
    assert align(job).within is False
    new = LinkAdjuster(
        name="camber link", outer="camber_arm_outer", min_mm=-12, max_mm=12, thread_pitch_mm=1.5, turn_step=0.125
    )
    fitted = on(job, AdjusterFitted(axle="rear", adjuster=new))
    assert align(fitted).within is True
    setting = next(s for w in align(fitted).wheels if w.axle == "rear" for s in w.settings)
    assert setting.set_mm < -2
    with pytest.raises(DomainError, match="already"):
        assess(on(job, AdjusterFitted(axle="rear", adjuster=new), AdjusterFitted(axle="rear", adjuster=new)))
    # In the place of a link that had a thread already: that one lies on the bench, and the whole is set at the new one.
    there = job_on("five_link", "rear").vehicle.rear.adjusters
    assert {a.name for a in there} == {"toe link", "camber arm"}
    arm = next(a for a in there if a.name == "camber arm")
    screwed = job.vehicle.model_copy(update={"rear": rear.model_copy(update={"adjusters": (arm,)})})
    instead = on(job.model_copy(update={"vehicle": screwed}), AdjusterFitted(axle="rear", adjuster=new))
    assert [a.name for a in assess(instead).after.rear.axle.adjusters] == ["camber link"]
    again = next(s for w in align(instead).wheels if w.axle == "rear" for s in w.settings)
    assert again.solved_mm == pytest.approx(setting.solved_mm, abs=1e-6)


def test_a_raised_body_pulls_the_drag_link_and_the_steering_wheel_is_off_by_it_over_arm_and_ratio() -> None:
    job = job_on("leaf_axle_front", "front")
    found = predict(on(job, ReArched(axle="front", by_mm=40))).front
    leaf = job.vehicle.front.linkage
    assert isinstance(leaf, LeafAxle)
    steering = leaf.steering
    assert steering is not None
    assert steering.box_arm_mm
    assert steering.box_ratio
    assert found.coupled is not None
    assert found.coupled.drag_link_short_mm is not None
    box, knuckle = np.array(steering.drag_link_box), np.array(steering.drag_link_knuckle)
    # The box goes up with the body: to first order the link wants longer by its own slope times the rise.
    slope = (box - knuckle)[2] / np.linalg.norm(box - knuckle)
    assert found.coupled.drag_link_short_mm == pytest.approx(
        40 * slope + 40**2 / 2 / np.linalg.norm(box - knuckle), abs=2.5
    )
    assert found.coupled.steering_wheel_deg == pytest.approx(
        math.degrees(found.coupled.drag_link_short_mm / steering.box_arm_mm * steering.box_ratio)
    )


def test_joints_turn_from_where_they_were_made_to_stand_whatever_was_changed_since() -> None:
    """A subframe lowered by 20 mm with the wheel where it was turns its joints as a rise of 20 mm does."""
    job = job_on("wishbones", "front")
    lowered = SubframeLowered(axle="front", by_mm=20, carries_springs=True, carries_dampers=True)
    axle = lowered.apply(job.vehicle).front
    assert axle.came == job.vehicle.front.linkage
    after = joint_angles(axle_corner(axle), axle_corner(axle).body.poses(np.zeros(1)), neutral_of(axle))
    corner = axle_corner(job.vehicle.front)
    raised = joint_angles(corner, corner.body.poses(np.array([20.0])))
    assert set(after) == set(raised)
    for joint, turned in raised.items():
        assert after[joint] == pytest.approx(turned, abs=1e-5), joint
    assert max(after.values()) > 0.02


@pytest.mark.parametrize(
    ("key", "change"),
    [
        ("wishbones", Load(axle="front", mass_kg=90)),
        ("wishbones", Stated(axle="front", what="pucks", rise_mm=18)),
        ("wishbones", Collar(axle="front", by_mm=8, turns="body")),
        ("wishbones", ArmLength(axle="front", outer="lower_outer", longer_mm=12)),
        ("wishbones", SubframeLowered(axle="front", by_mm=20)),
        ("wishbones", WheelOffset(axle="front", out_mm=25)),
        ("leaf_axle_front", Shackle(axle="front", longer_mm=40)),
    ],
)
def test_drawn_samples_lie_about_the_height_that_is_predicted(key: str, change: Change) -> None:
    job = on(job_on(key, "front"), change)
    axle = job.vehicle.front
    known = {n: Known(source="measured", tolerance_mm=1.0) for n in axle.linkage.named_points()}
    job = job.model_copy(update={"vehicle": job.vehicle.with_axle("front", known=known)})
    predicted = next(h.after for h in predict(job).heights if h.axle == "front" and h.kind == "hub_to_arch")
    drawn = [w for w in sample_vehicle(job, 400, seed=3) if w.axle == "front"]
    for wheel in drawn:
        spread = float(np.std(wheel.height))
        assert float(np.mean(wheel.height)) == pytest.approx(predicted, abs=3.5 * spread / math.sqrt(400) + 0.3)

"""Propeller shaft, anti-squat, roll steer, subframe and tyres at lock: plane geometry and sums done by hand."""

import math

import numpy as np
import pytest
from pydantic import ValidationError
from scipy.spatial.transform import Rotation

from inclinum.core.car.attached import AntiRollLink, HalfShaft, PropShaft, TyreGap
from inclinum.core.car.card import card
from inclinum.core.car.carried import wheel_at_locks
from inclinum.core.car.changes import Block, PropShaftSet, Stated, SubframeLowered, Tyres, Wedge, WheelOffset
from inclinum.core.car.driveline import anti_squat_percent, roll_steer, shaft_bends
from inclinum.core.car.job import Job
from inclinum.core.car.limits.half_shafts import shaft_angles
from inclinum.core.car.limits.tyre_gaps import left
from inclinum.core.car.prediction import Prediction, assess, predict
from inclinum.core.car.stance import Stance
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import SIDES, AxleName
from inclinum.core.kinematics.axles import steered_axle
from inclinum.core.kinematics.steered import knuckle_at_locks
from inclinum.core.part_sheets.axle import sweep_grid
from tests.core.test_attached import moved, with_front, with_rear
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import job_on

SHAFT = PropShaft(
    gearbox_joint=(1300, 0, 460), pinion_joint=(200, 0, 380), gearbox_down_deg=4, pinion_up_deg=4, most_deg=12,
    plunge_in_mm=30, plunge_out_mm=30,
)  # fmt: skip
FALL = math.degrees(math.atan2(80, 1100))
"""Of the shaft's line from gearbox to pinion, degrees."""


def leaf() -> Job:
    return with_rear(job_on("leaf_axle", "rear"), prop_shaft=SHAFT)


def bends(stance: Stance, came: Stance) -> tuple[float, float]:
    found = shaft_bends(stance, came, np.array([stance.travel]))
    return float(found.gearbox[0]), float(found.pinion[0])


def test_both_joints_bend_by_the_shafts_line_and_a_wedge_turns_one_of_them() -> None:
    """The line falls by 4.16°, both ends by 4°: each joint bends 0.16°. A wedge turns the pinion, its joint rises."""
    came = assess(leaf()).before.rear
    assert bends(came, came) == pytest.approx((FALL - 4, FALL - 4), abs=0.01)
    wedged = assess(on(leaf(), Wedge(axle="rear", angle_deg=3))).after.rear
    gearbox, pinion = bends(wedged, came)
    # Nose up 3°: the pinion falls by 7° towards the axle... and its joint rises by 200 mm · sin 3° = 10.5 less 80.
    risen = 200 * math.sin(math.radians(3)) + (380 - wedged.axle.tyre_radius_mm) * (math.cos(math.radians(3)) - 1)
    line = math.degrees(math.atan2(80 - risen, 1100))
    assert gearbox == pytest.approx(abs(line - 4), abs=0.15)
    assert pinion == pytest.approx(7 - line, abs=0.15)
    shaken = predict(on(leaf(), Wedge(axle="rear", angle_deg=3)))
    (finding,) = [f for f in shaken.findings if f.id == "prop_shaft.rear.mismatch"]
    assert finding.value == pytest.approx(abs(gearbox - pinion), abs=1e-6)
    assert shaken.rear.coupled is not None
    assert shaken.rear.coupled.shaft is not None
    assert shaken.rear.coupled.shaft.pinion == pytest.approx(pinion, abs=1e-6)
    assert not [f for f in predict(leaf()).findings if f.id.startswith("prop_shaft")]


def test_a_block_drops_the_pinion_and_spacers_under_the_gearbox_give_it_back() -> None:
    """40 mm of block: the line falls by atan(120/1100); 40 mm under the gearbox bring it back to 80."""
    raised = predict(on(leaf(), Block(axle="rear", height_mm=40))).rear.coupled
    assert raised is not None
    assert raised.shaft is not None
    assert raised.shaft.gearbox == pytest.approx(math.degrees(math.atan2(120, 1100)) - 4, abs=0.1)
    longer = math.hypot(120, 1100) - math.hypot(80, 1100)
    assert raised.shaft.longer_mm == pytest.approx(longer, abs=0.5)
    both = on(leaf(), Block(axle="rear", height_mm=40), PropShaftSet(axle="rear", down_mm=40, spacer_mm=3))
    back = predict(both).rear.coupled
    assert back is not None
    assert back.shaft is not None
    assert back.shaft.gearbox == pytest.approx(FALL - 4, abs=0.1)
    assert back.shaft.longer_mm == pytest.approx(-3, abs=0.5), "what the spacer gives it is not wanted of its splines"
    stiff = with_rear(leaf(), prop_shaft=SHAFT.model_copy(update={"most_deg": 2.0, "plunge_out_mm": 1.0}))
    found = {f.id: f for f in predict(on(stiff, Block(axle="rear", height_mm=40))).findings if "prop_shaft" in f.id}
    assert found["prop_shaft.rear.gearbox.ride_height"].severity == "stops"
    assert found["prop_shaft.rear.plunge.ride_height"].value == pytest.approx(longer, abs=0.5)
    # A front axle's shaft runs forwards: the same, mirrored.
    front = job_on("leaf_axle_front", "front")
    ahead = SHAFT.model_copy(update={"gearbox_joint": (-1300, 0, 460), "pinion_joint": (-200, 0, 380)})
    stance = assess(with_front(front, prop_shaft=ahead)).before.front
    assert bends(stance, stance) == pytest.approx((FALL - 4, FALL - 4), abs=0.01)
    with pytest.raises(DomainError, match="differential on the body"):
        predict(on(job_on("trailing", "rear"), PropShaftSet(axle="rear", down_mm=10)))
    with pytest.raises(ValidationError, match="solid axle's pinion"):
        with_rear(job_on("trailing", "rear"), prop_shaft=SHAFT)


def test_anti_squat_is_the_slope_to_the_instant_centre() -> None:
    """Both pairs of links seen from the side meet in the instant centre: drawn here from the points alone."""
    stance = assess(job_on("four_link_axle", "rear")).before.rear
    p = {n: np.array([v[0], v[2]]) for n, v in stance.axle.linkage.named_points().items()}
    links = [n for n in p if n.endswith("left_body")]
    pairs = [(n, n.rsplit("_", 1)[0] + "_axle") for n in links if n.rsplit("_", 1)[0] + "_axle" in p]
    arms = [(a, b) for a, b in pairs if "upper" in a or "lower" in a]
    assert len(arms) == 2, arms
    (a, b), (c, d) = arms
    t = np.linalg.solve(np.column_stack([p[b] - p[a], p[c] - p[d]]), p[c] - p[a])
    centre = p[a] + t[0] * (p[b] - p[a])
    wheel = stance.axle.linkage.named_points()["wheel_centre_left"]
    contact = np.array([wheel[0], wheel[2] - stance.axle.tyre_radius_mm])
    slope = (centre[1] - contact[1]) / (centre[0] - contact[0])
    by_hand = 100 * slope * 2700 / 600
    assert anti_squat_percent(stance, 2700, 600) == pytest.approx(by_hand, abs=0.5)


def test_roll_steer_has_its_sign() -> None:
    """As the axle alone is swept, roll positive with the left wheel up and steer positive to the left; and by sense.

    With lower links that climb towards the front, a wheel that goes up goes back: the outer one in a bend, so that the
    axle steers out of it.
    """
    stance = assess(job_on("four_link_axle", "rear")).before.rear
    grid = sweep_grid(stance.axle.sheet(), [stance.travel], [-0.5, 0.5])
    steer = np.ravel(grid["axle_steer_deg"])
    assert roll_steer(stance) == pytest.approx(-(steer[1] - steer[0]), abs=1e-6)
    points = stance.axle.linkage.named_points()
    lower = [n for n in points if n.startswith("lower") and n.endswith("body")]
    assert lower

    def lifted(by: float) -> float:
        up = stance.axle.linkage.with_points({n: points[n] + np.array([0, 0, by]) for n in lower})
        job = with_rear(job_on("four_link_axle", "rear"), linkage=up)
        return roll_steer(assess(job).before.rear)

    assert lifted(40) < roll_steer(stance) < lifted(-40)


def test_a_subframe_takes_the_differential_and_the_bar_down_with_it() -> None:
    """The inner joint 25 lower: the shaft's line from it climbs by as much more."""
    shaft = HalfShaft(inner=(0, 170, 310))
    bar = AntiRollLink(bar_x_mm=250, bar_z_mm=400, eye=(60, 500, 380), foot=(60, 560, 230))
    job = with_rear(job_on("semi_trailing", "rear"), half_shaft=shaft, anti_roll_link=bar)
    plain, taken = (
        assess(
            on(job, SubframeLowered(axle="rear", by_mm=25, carries_differential=d, carries_anti_roll_bar=d))
        ).after.rear
        for d in (False, True)
    )
    assert plain.axle.half_shaft == shaft
    assert taken.axle.half_shaft is not None
    assert taken.axle.half_shaft.inner == (0, 170, 285)
    assert taken.axle.anti_roll_link is not None
    assert (taken.axle.anti_roll_link.bar_z_mm, taken.axle.anti_roll_link.eye[2]) == (375, 355)
    wheel = plain.axle.linkage.named_points()["wheel_centre"]
    across = math.hypot(wheel[0], wheel[1] - 170)
    at = np.array([plain.travel])
    drops = [float(shaft_angles(s, at).inner[0]) for s in (plain, taken)]
    here = [abs(math.degrees(math.atan2(math.hypot(z, wheel[0]), wheel[1] - 170))) for z in _heights(plain, taken, at)]
    assert drops == pytest.approx(here, abs=0.6)
    assert across > 0


def _heights(plain: Stance, taken: Stance, at: np.ndarray) -> list[float]:
    centre = plain.corner.sweep(at).poses.centre[0]
    return [float(centre[2]) - 310, float(centre[2]) - 285]


GUARD = TyreGap(name="inner guard", gap_mm=40, at=(260, 640, 460))


def test_room_to_a_place_is_followed_to_bump_wider_and_taller_tyres() -> None:
    """On a trailing arm, whose wheel turns about a known line: distance of the place to the tyre's cylinder."""
    job = with_rear(job_on("trailing", "rear"), tyre_gaps=(GUARD,), tyre_width_mm=200.0)

    def clear(stance: Stance, travel: float, radius: float, width: float, out: float = 0.0) -> float:
        wheel = stance.axle.linkage.named_points()["wheel_centre"] - np.array([0, out, 0])
        hub = moved(stance, travel, wheel) + np.array([0, out, 0])
        off = np.array(GUARD.at) - hub
        # Camber and toe are small: the hub's axis is across the vehicle within a degree.
        radial, axial = math.hypot(off[0], off[2]) - radius, abs(off[1]) - width / 2
        return math.hypot(max(radial, 0), max(axial, 0)) if max(radial, axial) > 0 else max(radial, axial)

    bare = assess(job)
    stance, radius = bare.before.rear, job.vehicle.rear.tyre_radius_mm
    read = clear(stance, stance.baseline, radius, 200)
    at_bump = min(clear(stance, z, radius, 200) for z in (stance.travel, stance.bump_end))
    assert left(GUARD, stance, bare.after.rear) == pytest.approx(40 - read + at_bump, abs=3)
    bigger = assess(on(job, Tyres(axle="rear", radius_mm=radius + 15, wider_mm=20)))
    now = min(clear(stance, z, radius + 15, 220) for z in (stance.travel, bigger.after.rear.bump_end))
    assert left(GUARD, bigger.before.rear, bigger.after.rear) == pytest.approx(40 - read + now, abs=3)
    further = assess(on(job, WheelOffset(axle="rear", out_mm=25)))
    assert left(GUARD, further.before.rear, further.after.rear) != left(GUARD, stance, bare.after.rear)
    with pytest.raises(ValidationError, match="width of the tyre"):
        with_rear(job_on("trailing", "rear"), tyre_gaps=(GUARD,))


def test_turned_to_lock_a_tyre_comes_nearer_to_what_is_ahead_and_inside_of_it() -> None:
    job = job_on("strut_front", "front")
    wheel = job.vehicle.front.linkage.named_points()["wheel_centre"]
    at = (float(wheel[0]) + 250, float(wheel[1]) - 150, float(wheel[2]))
    gap = TyreGap(name="chassis leg", gap_mm=60, at=at)
    straight = with_front(job, tyre_gaps=(gap,), tyre_width_mm=200.0)
    locked = with_front(straight, full_lock=60.0)
    rooms = []
    for one in (straight, locked):
        found = assess(one)
        rooms.append(left(gap, found.before.front, found.after.front))
    # Turned by about 25° its front edge, 250 mm ahead, swings in by about 100 mm.
    assert rooms[1] < rooms[0] - 40
    finding = next(f for f in predict(locked).findings if f.id == "tyre_gap.front.0")
    assert "full lock" in finding.what


def cured(job: Job, which: str) -> list[tuple[str, Prediction]]:
    finding = next(f for f in predict(job).findings if f.id == which)
    return [
        (c.title, predict(job.model_copy(update={"plan": job.plan.model_copy(update={"changes": c.changes})})))
        for c in finding.cures
    ]


def test_a_lateral_rod_pulls_the_axle_aside_and_its_length_puts_it_back() -> None:
    """A rod of length L that rises by h over the width pulls its axle end in by about (h² − h₀²)/2L, worked here."""
    raised = on(job_on("three_link_axle", "front"), Stated(axle="front", what="Springs somebody had", rise_mm=60))
    lifted = predict(raised).front.coupled
    assert lifted is not None
    p = job_on("three_link_axle", "front").vehicle.front.linkage.named_points()
    body, axle = p["lateral_rod_body"], p["lateral_rod_axle"]
    length, along = float(np.linalg.norm(axle - body)), axle[0] - body[0]
    now = math.sqrt(length**2 - (axle[2] - body[2] - 60) ** 2 - along**2) * np.sign(axle[1] - body[1])
    assert lifted.shift_left_mm == pytest.approx(now - (axle[1] - body[1]), abs=0.6)
    titles = cured(raised, "axle_shift.front")
    assert len(titles) == 1
    title, right = titles[0]
    assert "lateral rod" in title
    assert right.front.coupled is not None
    assert abs(right.front.coupled.shift_left_mm) < 0.5
    assert "axle_shift.front" not in {f.id for f in right.findings}
    # With the axle back and the drag link as it was, the wheels would be steered: the card says how it has to follow.
    finding = next(f for f in predict(raised).findings if f.id == "axle_shift.front")
    put_back = raised.model_copy(update={"plan": raised.plan.model_copy(update={"changes": finding.cures[0].changes})})
    steps = {s.id: s.text for s in card(put_back).steps}
    assert right.front.coupled.drag_link_short_mm is not None
    assert abs(right.front.coupled.drag_link_short_mm) == pytest.approx(abs(lifted.shift_left_mm), abs=0.8)
    assert f"{abs(right.front.coupled.drag_link_short_mm):.1f} mm" in steps["prove.front.drag_link"]
    assert "prove.rear.drag_link" not in steps
    assert "prove.front.shift" in {s.id for s in card(raised).steps}


def test_kingpins_that_lean_are_put_back_by_links_or_wedges() -> None:
    """Radius arms turn the axle as they swing: 70 mm over arms some 1,000 mm long is 4°, and off the caster."""
    raised = on(job_on("radius_arm_axle", "front"), Stated(axle="front", what="Springs somebody had", rise_mm=70))
    turned = predict(raised).front.coupled
    assert turned is not None
    points = job_on("radius_arm_axle", "front").vehicle.front.linkage.named_points()
    long = abs(points["arm_left_body"][0] - points["wheel_centre_left"][0])
    assert turned.nose_up_deg == pytest.approx(-math.degrees(math.asin(70 / long)), abs=0.4)
    (title, answer), *_ = cured(raised, "kingpins.front")
    assert "down" in title
    assert answer.front.coupled is not None
    assert abs(answer.front.coupled.nose_up_deg) < abs(turned.nose_up_deg) / 5
    # A pack under a wedge turned by hand is turned back by the other one.
    wedged = on(job_on("leaf_axle_front", "front"), Wedge(axle="front", angle_deg=3, thick_end="front"))
    (title, back), *_ = cured(wedged, "kingpins.front")
    assert title == "Front wedges 3°, thick end to the rear"
    assert back.front.coupled is not None
    assert back.front.coupled.nose_up_deg == pytest.approx(0, abs=0.2)
    (_, straight), *_ = cured(on(leaf(), Wedge(axle="rear", angle_deg=3)), "prop_shaft.rear.mismatch")
    assert "prop_shaft.rear.mismatch" not in {f.id for f in straight.findings}


def test_a_gearbox_that_is_tipped_bends_its_joint_and_a_shaft_used_up_says_which_way() -> None:
    """The line falls by 4.16° from a gearbox that points down 4°: tipped 3° further it bends 2.84°."""
    tipped = predict(on(leaf(), PropShaftSet(axle="rear", tipped_deg=3))).rear.coupled
    assert tipped is not None
    assert tipped.shaft is not None
    assert tipped.shaft.gearbox == pytest.approx(7 - FALL, abs=0.02)
    assert tipped.shaft.pinion == pytest.approx(FALL - 4, abs=0.02)
    # A spacer of 12 mm that nobody's axle asked for pushes a shaft with 10 mm of spline solid.
    tight = with_rear(leaf(), prop_shaft=SHAFT.model_copy(update={"plunge_in_mm": 10.0}))
    found = {f.id: f for f in predict(on(tight, PropShaftSet(axle="rear", spacer_mm=12))).findings}
    pushed = found["prop_shaft.rear.plunge.ride_height"]
    assert (round(pushed.value), pushed.severity) == (12, "stops")
    assert "pushed solid" in pushed.what


def test_a_body_that_is_raised_has_its_centre_of_gravity_higher_and_squats_by_less() -> None:
    """600 mm above the ground as it came; 40 higher at both ends it is 640: its links carry 600/640 of that."""
    job = job_on("four_link_axle", "rear")
    job = job.model_copy(update={"vehicle": job.vehicle.model_copy(update={"cg_height_mm": 600.0})})
    ends: tuple[AxleName, ...] = ("front", "rear")
    answer = predict(on(job, *(Stated(axle=a, what="Somebody's lift", rise_mm=40) for a in ends)))
    coupled = answer.rear.coupled
    assert coupled is not None
    raised = assess(on(job, *(Stated(axle=a, what="Somebody's lift", rise_mm=40) for a in ends))).after.rear
    assert coupled.anti_squat == pytest.approx(anti_squat_percent(raised, job.vehicle.wheelbase_mm, 640), abs=1e-6)
    assert coupled.anti_squat_before == pytest.approx(
        anti_squat_percent(assess(job).before.rear, job.vehicle.wheelbase_mm, 600), abs=1e-6
    )


def test_a_right_wheel_that_goes_its_own_way_has_its_own_room() -> None:
    """The right arm pivots 60 mm lower: its wheel comes nearer to what is ahead of it on the way up, and is told."""
    wheel = job_on("trailing", "rear").vehicle.rear.linkage.named_points()["wheel_centre"]
    over = (float(wheel[0]) + 230, float(wheel[1]), float(wheel[2]) + 330)
    keep = GUARD.model_copy(update={"keep_mm": 200.0, "at": over})
    job = with_rear(job_on("trailing", "rear"), tyre_gaps=(keep,), tyre_width_mm=200.0)
    linkage = job.vehicle.rear.linkage
    points = linkage.named_points()
    lower = linkage.with_points({n: points[n] - np.array([0, 0, 60.0]) for n in ("pivot_inner", "pivot_outer")})
    apart = with_rear(job, right=lower)
    rooms = []
    for one in (job, apart):
        found = next(f for f in predict(one).findings if f.id == "tyre_gap.rear.0")
        rooms.append(found.value)
    before, after = (s.rear for s in (assess(apart).before, assess(apart).after))
    each = [left(keep, before.of_side(side), after.of_side(side)) for side in SIDES]
    assert rooms[0] == pytest.approx(each[0], abs=1e-6)
    assert each[1] != pytest.approx(each[0], abs=0.5)
    assert rooms[1] == pytest.approx(min(each), abs=1e-6)


def test_a_wheel_on_a_solid_axle_turns_about_its_kingpin_to_lock() -> None:
    """A place ahead and inside: turned by hand about the kingpin, and never measured from the middle of the axle."""
    job = job_on("radius_arm_axle", "front")
    linkage = job.vehicle.front.linkage
    p, steering = linkage.named_points(), steered_axle(linkage)
    assert steering is not None
    wheel, radius = p["wheel_centre_left"], job.vehicle.front.tyre_radius_mm
    at = wheel + np.array([radius - 60, -190.0, 0.0])
    gap = TyreGap(name="spring hanger", gap_mm=85, at=(float(at[0]), float(at[1]), float(at[2])))
    plain = with_front(job, tyre_gaps=(gap,), tyre_width_mm=230.0)
    lower, upper = (np.array(k) for k in (steering.kingpin_left_lower, steering.kingpin_left_upper))
    axis = (upper - lower) / np.linalg.norm(upper - lower)

    def clear(turn_deg: float) -> float:
        turn = Rotation.from_rotvec(math.radians(turn_deg) * axis)
        hub = lower + turn.apply(wheel - lower)
        along = turn.apply(np.array([0.0, 1.0, 0.0]))
        off = at - hub
        axial = abs(off @ along)
        radial = math.sqrt(off @ off - axial**2) - radius
        out = (max(radial, 0.0), max(axial - 115, 0.0))
        return math.hypot(*out) if max(out) > 0 else max(radial, axial - 115)

    lock = 22.0
    steers = with_front(plain, full_lock=lock)
    _, outer = knuckle_at_locks(steering, math.radians(lock))
    assert -lock < math.degrees(outer) < -0.8 * lock, "the outer wheel turns the other way, and not quite as far"
    rows = wheel_at_locks(assess(steers).before.front, np.zeros(1))[0][:, 0]
    for row, turn in zip(rows, (0.0, lock, math.degrees(outer)), strict=True):
        assert row == pytest.approx(lower + Rotation.from_rotvec(math.radians(turn) * axis).apply(wheel - lower))
    rooms = [left(gap, s.before.front, s.after.front) for s in (assess(plain), assess(steers))]
    # Its camber and toe are small and its travel to bump moves both alike: within a few millimetres.
    assert rooms[0] == pytest.approx(85, abs=8)
    expected = 85 - clear(0) + min(clear(lock), clear(math.degrees(outer)))
    assert expected < 60
    assert rooms[1] == pytest.approx(expected, abs=8)
    with pytest.raises(ValidationError, match="do not turn by 140°"):
        with_front(plain, full_lock=140.0)

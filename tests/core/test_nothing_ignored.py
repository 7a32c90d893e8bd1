"""What somebody typed changes an answer: each field that was once read by nobody, from the document to what it says."""

from typing import Any

import numpy as np
import pytest
from pydantic import ValidationError

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.card import bike_card
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.prediction import predict_bike
from inclinum.core.bike.proof import BikeProof, SagProof, prove_bike
from inclinum.core.car.archetypes import vehicle_of
from inclinum.core.car.card import Step, card
from inclinum.core.car.changes import LongerStuds, SeatSpacer, StrutTopSpacer
from inclinum.core.car.job import Job, Plan
from inclinum.core.car.limits import Finding
from inclinum.core.car.prediction import AxlePrediction, assess, predict
from inclinum.core.car.vehicle import Vehicle
from inclinum.core.kinematics.joints import joint_angles
from tests.core.test_bike import job_on
from tests.core.test_prediction import with_changes
from tests.core.test_whole import bare_job


def found(job: Job, key: str) -> Finding | None:
    return next((f for f in predict(job).findings if f.id == key), None)


def axle_with(vehicle: Vehicle, end: str, **fields: Any) -> Vehicle:
    data = vehicle.model_dump()
    return Vehicle.model_validate(data | {end: data[end] | fields})


def steps(job: Job) -> dict[str, Step]:
    return {s.id: s for s in card(job).steps}


def test_the_gap_over_the_studs_is_kept(in_hand: Job) -> None:
    """30 mm of gap: studs 27 mm longer leave 3; a 12 mm spacer under the tower takes the tips down again."""
    top = in_hand.vehicle.front.strut_top
    assert top is not None
    vehicle = axle_with(in_hand.vehicle, "front", strut_top=top.model_dump() | {"bonnet_gap_mm": 30})
    job = in_hand.model_copy(update={"vehicle": vehicle})
    studs = LongerStuds(axle="front", stud_length_mm=top.stud_length_mm + 27)
    near = found(with_changes(job, studs), "bonnet.front")
    assert near is not None
    assert (near.value, near.severity) == (pytest.approx(3.0), "fix")
    assert near.cures[0].changes[-1].change == studs.model_copy(
        update={"stud_length_mm": float(int(top.stud_length_mm + 25))}
    )
    through = found(with_changes(job, studs.model_copy(update={"stud_length_mm": top.stud_length_mm + 33})),
                    "bonnet.front")  # fmt: skip
    assert through is not None
    assert (through.value, through.severity) == (pytest.approx(-3.0), "stops")
    spaced = with_changes(job, StrutTopSpacer(axle="front", thickness_mm=12), studs)
    assert found(spaced, "bonnet.front") is None
    bare = axle_with(in_hand.vehicle, "front", strut_top=top.model_dump() | {"bonnet_gap_mm": None})
    assert found(with_changes(in_hand.model_copy(update={"vehicle": bare}), studs), "bonnet.front") is None


@pytest.mark.parametrize("end", ["front", "rear"])
def test_a_joint_at_its_angle_ends_the_travel_of_a_job(end: str) -> None:
    vehicle = vehicle_of("wishbones", "wishbones", "car", "x")
    after = assess(bare_job(vehicle)).after.axle(end)  # type: ignore[arg-type]
    ends = after.corner.body.poses(np.array([after.full_droop, after.bump_end]))
    droop, bump = np.degrees(joint_angles(after.corner, ends)["upper_outer"])
    assert droop > bump > 3, "this one hangs further than it is pushed"

    def limited(most: float, *changes: Any) -> dict[str, Finding]:
        job = bare_job(axle_with(vehicle, end, joint_limits_deg={"upper_outer": most}))
        answer = predict(with_changes(job, *changes)).findings
        return {f.id: f for f in answer if f.id.startswith("joint")}

    assert limited(droop + 0.5) == {}
    between = (droop + bump) / 2
    hangs = limited(between)
    assert set(hangs) == {f"joint.{end}.droop"}
    one = hangs[f"joint.{end}.droop"]
    assert one.severity == "fix"
    # The angle grows all but evenly with the travel.
    lost = (droop - between) / droop * -after.full_droop
    assert -one.margin == pytest.approx(lost, rel=0.2)
    assert set(limited(bump - 0.5)) == {f"joint.{end}.droop", f"joint.{end}.bump"}
    lift = SeatSpacer(axle=end, thickness_mm=25)  # type: ignore[arg-type]
    assert limited(1.0, lift)[f"joint.{end}.droop"].severity == "stops", (
        "lifted beyond its angle it stands on the joint"
    )
    wrong = predict(bare_job(axle_with(vehicle, end, joint_limits_deg={"spring_body": 9}))).findings
    assert any("limits nothing" in f.what for f in wrong)


def test_a_brief_that_wants_it_back_asks_about_what_cannot_be_undone(in_hand: Job) -> None:
    studs = with_changes(in_hand, LongerStuds(axle="front", stud_length_mm=40))
    asked = next(f for f in predict(studs).findings if f.id.startswith("undone"))
    assert asked.cures[0].changes == ()
    free = studs.model_copy(update={"brief": studs.brief.model_copy(update={"reversible": False})})
    assert not [f for f in predict(free).findings if f.id.startswith("undone")]
    bike = BIKES["linkage_frame"].bike("x")
    for wish, wanted in ((True, ["undone.c1"]), (False, [])):
        answer = predict_bike(job_on(bike, [{"type": "seat_foam", "lower_mm": 5}], reversible=wish)).findings
        assert [f.id for f in answer if f.id.startswith("undone")] == wanted


def test_a_bolt_that_clamps_rubber_waits_for_ride_height_and_an_unknown_one_is_told(in_hand: Job) -> None:
    fasteners = in_hand.vehicle.front.model_dump()["fasteners"] | {
        "strut_clamp": {"name": "clamp bolt", "torque_nm": 61, "source": "sheet 4", "at_ride_height": True},
        "skid_plate": {"name": "skid plate bolt", "torque_nm": 23, "source": "sheet 4"},
    }
    job = in_hand.model_copy(update={"vehicle": axle_with(in_hand.vehicle, "front", fasteners=fasteners)})
    job = with_changes(job, StrutTopSpacer(axle="front", thickness_mm=10))
    answer = steps(job)
    closed = answer["front.left.clamp.on"]
    assert closed.fasteners == ()
    assert "hand tight" in closed.text
    assert "to torque" not in closed.text
    assert "strut_clamp" in [f.key for f in answer["front.left.ride_height"].fasteners]
    uses = [f.key for s in answer.values() if s.axle == "front" and s.side == "left" for f in s.fasteners]
    assert sorted(uses) == sorted(set(uses)), "each is tightened once"
    assert "skid_plate" not in uses, "what the plan does not undo is not tightened"
    told = {line.split(",")[0]: line for line in card(job).unused}
    assert "no step knows a bolt called “skid_plate”" in told["Front skid plate bolt"]
    assert told["Front damper rod nut"].endswith("not undone by this plan.")
    assert "Front strut-top nut" not in told


@pytest.mark.parametrize(
    ("front", "rear", "stored"),
    [("strut_front", "five_link", ("spring link", "camber arm")),
     ("strut_front", "leaf_axle", ("shackle", "fixed eye")),
     ("radius_arm_axle", "four_link_axle", ("lower link", "upper link"))],
)  # fmt: skip
def test_the_hold_at_ride_height_tells_every_kind_what_its_bushes_would_store(
    front: str, rear: str, stored: tuple[str, ...]
) -> None:
    size = "off_roader" if "axle" in front else "van"
    job = bare_job(vehicle_of(front, rear, size, "x"))
    turns = predict(job).rear.wind_up_deg
    answer = {part: next(k for k in turns if part in k) for part in stored}
    assert all(2 < turns[name] < 25 for name in answer.values())
    if job.vehicle.rear.coil is None:
        return
    lifted = with_changes(job, SeatSpacer(axle="rear", thickness_mm=5))
    hold = steps(lifted)["rear.left.ride_height"].hold or ""
    turns = predict(lifted).rear.wind_up_deg
    assert all(f"{name} {turns[name]:.0f}°" in hold for name in answer.values())


def test_two_wheeler_bolts_that_clamp_rubber_or_that_no_step_knows() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    fasteners = {
        "rod_bolts": {"name": "rod bolts", "torque_nm": 58, "source": "sheet 2", "at_ride_height": True},
        "guard": {"name": "guard bolt", "torque_nm": 9, "source": "sheet 2"},
    }
    data = Bike.model_validate(bike.model_dump() | {"fasteners": fasteners})
    link = {"type": "rear_link", "hole_mm": 60, "rod_mm": 130}
    from inclinum.core.bike.changes.rear_link import holes

    hole, rod = holes(bike.rear)
    made = bike_card(job_on(data, [link | {"hole_mm": hole, "rod_mm": rod + 3}]))
    answer = {s.id: s for s in made.steps}
    assert answer["rod.on"].fasteners == ()
    assert "hand tight" in answer["rod.on"].text
    assert [f.key for f in answer["down.rubber"].fasteners] == ["rod_bolts"]
    assert answer["down.rubber"].hold
    assert made.unused == ("Guard bolt, 9 N·m: no step knows a bolt called “guard”.",)


def test_how_well_a_two_wheelers_readings_are_known_is_in_what_counts_as_predicted() -> None:
    job = job_on(BIKES["linkage_frame"].bike("x"))
    answer = predict_bike(job)
    known = answer.spread["rear"].laden

    def proved(extended: str, laden: str, default: float) -> SagProof:
        sags = [{"end": "rear", "state": s, "reading": r} for s, r in (("extended", extended), ("laden", laden))]
        after = {"sags": sags, "default_tolerance_mm": default}
        data = job.model_dump() | {"prove": {"after": after}}
        (sag,) = prove_bike(BikeJob.model_validate(data)).sags
        return sag

    # Settling and a rider who shifts leave √7 mm; each reading adds its own ± or what a reading is good to here.
    both = proved("600", "550", 1)
    assert both.plus_minus == pytest.approx(np.sqrt(7 + 1 + 1 + known**2))
    assert proved("600", "550", 4).plus_minus == pytest.approx(np.sqrt(7 + 16 + 16 + known**2))
    own = proved("600 ± 5", "550 ± 0.5", 4)
    assert own.plus_minus == pytest.approx(np.sqrt(7 + 25 + 0.25 + known**2))
    # A little further off than careful readings allow is within what poor ones do.
    miss = answer.sags["rear"].laden_mm + both.plus_minus + 0.5
    assert not proved("600", f"{600 - miss:.2f}", 1).within
    assert proved("600 ± 9", f"{600 - miss:.2f}", 1).within


def test_the_drop_by_its_mark_and_the_seat_are_known_as_well_as_they_were_read() -> None:
    job = job_on(BIKES["linkage_frame"].bike("x"))
    answer = predict_bike(job)

    def proved(before: str, after: str, seat: str) -> BikeProof:
        one = {"sags": [{"end": "rear", "state": "laden", "reading": before}]}
        other = {"sags": [{"end": "rear", "state": "laden", "reading": after}], "seat": seat}
        return prove_bike(BikeJob.model_validate(job.model_dump() | {"measure": one, "prove": {"after": other}}))

    seat = answer.planned.unladen.seat_mm
    drop = proved("540 ± 5", "540 ± 2", f"{seat:.1f}").rear_drop
    assert drop is not None
    assert drop.plus_minus == pytest.approx(np.sqrt(7 + 25 + 4 + answer.plus_minus_mm**2))
    # Six millimetres and what the seat is known to off: more than √15 with a reading of ±1 allows, less than with ±9.
    off = f"{seat + 6 + answer.seat_plus_minus_mm:.1f}"
    assert proved("540", "540", f"{off} ± 1").verdict == "outside"
    assert proved("540", "540", f"{off} ± 9").verdict == "within"


@pytest.mark.parametrize(
    ("key", "size", "taken"),
    [
        ("strut_front", "car", True),
        ("wishbones", "car", True),
        ("strut_arm_spring", "car", False),
        ("wishbones_torsion", "pick_up", False),
    ],
)
def test_a_collar_is_refused_where_no_damper_carries_a_spring(key: str, size: str, taken: bool) -> None:
    vehicle = vehicle_of(key, "leaf_axle" if size == "pick_up" else "twist_beam", size, "x")
    collared = vehicle.front.damper.model_dump() | {"collar": True}
    if taken:
        assert axle_with(vehicle, "front", damper=collared).front.damper.collar
    else:
        with pytest.raises(ValidationError, match="here the spring stands by itself"):
            axle_with(vehicle, "front", damper=collared)


def test_the_plus_minus_of_a_bar_is_that_of_its_angle() -> None:
    """Older files have one of a length beside it, which is read over; a degree more of angle spreads the height."""
    vehicle = vehicle_of("wishbones_torsion", "leaf_axle", "pick_up", "x")
    bar = vehicle.front.spring.model_dump()
    assert "free_length_tolerance_mm" not in bar
    same = axle_with(vehicle, "front", spring=bar | {"free_length_tolerance_mm": 3.0})
    assert same == vehicle
    with pytest.raises(ValidationError, match="free_length_tolerance"):
        axle_with(vehicle, "front", spring=bar | {"free_length_tolerance": 3.0})

    def front(angle: float, tolerance: float) -> AxlePrediction:
        new = bar | {"free_angle_deg": bar["free_angle_deg"] + angle, "free_angle_tolerance_deg": tolerance}
        change = {"id": "c1", "change": {"type": "torsion_bars", "axle": "front", "spring": new}}
        job = bare_job(vehicle).model_copy(update={"plan": Plan.model_validate({"changes": [change]})})
        return predict(job).front

    # Independent errors add as squares: what is left between two ± is a degree's rise times their own difference.
    rise_per_degree = (front(4.5, 0.5).rise - front(3.5, 0.5).rise) / 1.0
    left = front(4, 2.0).plus_minus ** 2 - front(4, 0.5).plus_minus ** 2
    assert left**0.5 == pytest.approx(rise_per_degree * (2.0**2 - 0.5**2) ** 0.5, rel=0.1)

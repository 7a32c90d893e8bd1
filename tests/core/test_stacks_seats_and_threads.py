"""Two springs in one, what a coil stands on, eyes on bolts, threads that hold: each against a sum done by hand."""

import math

import numpy as np
import pytest
from pydantic import ValidationError

from inclinum.core.car.alignment import align
from inclinum.core.car.archetypes.respring import respring
from inclinum.core.car.attached import FlexLine, SpringSeats, UBolts
from inclinum.core.car.card import card
from inclinum.core.car.changes import (
    AdjusterFitted,
    ArmLength,
    Block,
    BracketMoved,
    Change,
    CoilOver,
    Collar,
    CrossoverRing,
    DamperSwap,
    DualRateSprings,
    HelperLeaf,
    LeafPacks,
    PlannedChange,
    SeatSpacer,
    SpringSwap,
    StrutTopSpacer,
    TableSprings,
    TopPlate,
    begin,
)
from inclinum.core.car.changes.top_plate import PlateSpacer
from inclinum.core.car.job import AngleReading, Job, Measurements, Plan, SpringOnShelf
from inclinum.core.car.limits.flex_lines import spans
from inclinum.core.car.prediction import Prediction, assess, predict
from inclinum.core.car.vehicle import AngleTarget, Axle, EccentricAdjuster, SlotAdjuster, StrutTop, settable
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import SIDES, AxleName
from inclinum.core.kinematics.refit import frame_points
from inclinum.core.machines import offers
from inclinum.core.quantity import Angle
from inclinum.core.springs.fitted import Coil, CoilWire, LeafPackData, SpringTable, StackCoil, StackData, TopOutData
from tests.core.test_attached import with_front, with_rear
from tests.core.test_changes_by_hand import on, rear_pack
from tests.core.test_every_change import begun, job_on

STACK = StackData(
    tender=StackCoil(rate_n_per_mm=40, free_length_mm=150, solid_length_mm=70),
    main=StackCoil(rate_n_per_mm=60, free_length_mm=300, solid_length_mm=140),
    preload_mm=10, gap_mm=40, length_extended_mm=440,
)  # fmt: skip


def stacked(key: str = "wishbones_long", end: AxleName = "rear") -> Job:
    job = job_on(key, end)
    axle = respring(job.vehicle.axle(end), "dual_rate_stack")
    return job.model_copy(update={"vehicle": job.vehicle.model_copy(update={end: axle})})


def told(answer: Prediction, start: str) -> list[str]:
    return [f.id for f in answer.findings if f.id.startswith(start)]


def test_a_collar_turned_up_moves_height_and_step_a_ring_the_step_alone() -> None:
    """In series 24 N/mm; the tender at the collar takes 24/40 of each mm, so 40 mm of gap last 66.67 mm of travel."""
    assert STACK.rate_steps()[0].length == pytest.approx(440 - 40 / 0.6)
    # Collar 5 up: preload 15, the divider 5·24/60 = 2 further from the ring: 42/0.6 = 70 mm from a zero 5 mm shorter.
    up = STACK.collar_up(5)
    assert (up.preload_mm, up.gap_mm, up.length_extended_mm) == pytest.approx((15, 42, 435))
    assert up.rate_steps()[0].length == pytest.approx(435 - 70)
    assert up.spring().free_length == pytest.approx(float(STACK.spring().free_length)), (
        "its coils are as long as before"
    )
    # At the far end the shares swap: the main spring stands at the collar and takes 24/60.
    far = STACK.model_copy(update={"order": "tender_at_far_end"})
    assert far.rate_steps()[0].length == pytest.approx(440 - 40 / 0.4)
    # Zero taken hanging, 12 mm short of right out: everything is that much further in.
    assert STACK.model_copy(update={"hidden_mm": 12}).rate_steps()[0].length == pytest.approx(428 - 40 / 0.6)
    assert up.is_same_part(STACK)
    assert not STACK.model_copy(update={"main": STACK.tender}).is_same_part(STACK)

    job = stacked()
    came = predict(job).rear
    (step,) = came.rate_steps
    assert step.wheel_rate_above / step.wheel_rate_below > 1.3
    assert step.past_ride_mm + step.before_bump_mm == pytest.approx(came.travel_after.bump - came.travel_after.ride)
    turned = predict(on(job, Collar(axle="rear", by_mm=6)))
    ratio = came.ratio
    assert turned.rear.rise == pytest.approx(6 / ratio, rel=0.05)
    # The coil at the collar takes k(series)/k of each mm: the step comes 6/share later on the spring than it rode.
    by_collar = turned.rear.rate_steps[0].past_ride_mm - step.past_ride_mm
    spring = job.vehicle.rear.spring
    assert isinstance(spring, StackData)
    share = 1 / (1 + spring.tender.rate_n_per_mm / spring.main.rate_n_per_mm)
    assert by_collar == pytest.approx(6 / ratio / share, rel=0.08)
    ring = predict(on(job, CrossoverRing(axle="rear", gap_mm=spring.gap_mm + 3)))
    moved = ring.rear.rate_steps[0].past_ride_mm - step.past_ride_mm
    assert moved == pytest.approx(3 / share / ratio, rel=0.08)
    assert ring.rear.rise == pytest.approx(0, abs=1e-6), "it rides before the step"
    # A ring of rubber below the stack is a collar turned up; one above it moves no step on the body.
    below, above = (
        predict(on(job, SeatSpacer(axle="rear", thickness_mm=6, lies=lies))).rear for lies in ("below", "above")
    )
    assert below.rate_steps[0].past_ride_mm == pytest.approx(turned.rear.rate_steps[0].past_ride_mm, abs=1e-6)
    assert above.rise == pytest.approx(below.rise, abs=0.01)
    assert above.rate_steps[0].past_ride_mm < below.rate_steps[0].past_ride_mm - 2
    with pytest.raises(DomainError, match="set at the collars"):
        predict(on(job, SeatSpacer(axle="rear", thickness_mm=6, right_mm=2, lies="above")))


def test_two_turns_more_stand_beside_what_is_set_and_a_tender_going_solid_is_told() -> None:
    job = stacked()
    table = predict(on(job, Collar(axle="rear", by_mm=0, pitch_mm=2))).settings["c0"]
    assert [r.name for r in table.rows] == ["−2.00 turns", "−1.00 turns", "+0.00 turns", "+1.00 turns", "+2.00 turns"]
    more = predict(on(job, Collar(axle="rear", by_mm=4, pitch_mm=2))).rear
    assert float(table.rows[-1].cells[0].replace("−", "-")) == pytest.approx(more.rise, abs=0.06)
    step, bump = (float(v.replace("−", "-")) for v in table.rows[-1].cells[4].split(" / "))
    assert (step, bump) == pytest.approx((more.rate_steps[0].past_ride_mm, more.rate_steps[0].before_bump_mm), abs=0.6)
    assert float(table.rows[-1].cells[5]) == pytest.approx(more.bump_force_n, abs=0.6)
    spring = job.vehicle.rear.spring
    assert isinstance(spring, StackData)
    # The ring so far away that the tender is solid first: nothing is left of it at full bump.
    far = on(job, CrossoverRing(axle="rear", gap_mm=spring.gap_mm + 80))
    answer = predict(far)
    (finding,) = [f for f in answer.findings if f.id == "coil_bind.rear"]
    assert finding.what == "Rear tender coils nearly touch at full bump"
    assert not answer.rear.rate_steps, "full bump comes before the ring"
    ring = next(c for c in finding.cures if "rings" in c.title)
    cured = predict(far.model_copy(update={"plan": far.plan.model_copy(update={"changes": ring.changes})}))
    assert not told(cured, "coil_bind.rear")
    assert cured.rear.rate_steps[0].what == "the divider meets its ring"


def test_a_stack_that_is_solid_by_now_is_told_and_the_offer_of_other_changes_stands() -> None:
    """A stack planned so short that it is metal at the measured height tells no spring to begin with."""
    job = stacked()
    spring = job.vehicle.rear.spring
    assert isinstance(spring, StackData)
    solid = spring.model_copy(
        update={"main": spring.main.model_copy(update={"solid_length_mm": spring.main.free_length_mm - 5})}
    )
    planned = on(job, DualRateSprings(axle="rear", spring=solid))
    refused = {o.type: o.refused for o in offers(planned) if o.axle == "rear"}
    assert "pressed solid" in refused["spring_swap"]
    assert refused["dual_rate_springs"] == ""
    assert refused["damper_swap"] == ""


def test_a_pressed_spring_is_what_the_press_read() -> None:
    table = SpringTable(free_length_mm=300, solid_length_mm=150, rows=((250, 2500), (200, 5600)))
    # Half way between two rows half of each; beyond the last as between the last two: 62 N/mm.
    assert table.spring().force(225.0) == pytest.approx(4050)
    assert table.spring().force(180.0) == pytest.approx(5600 + 20 * 62)
    assert table.rate_spread == pytest.approx(0.02)
    job = job_on("wishbones_long", "rear")
    coil = job.vehicle.rear.coil
    assert coil is not None
    longer, k = coil.free_length_mm + 20, coil.rate_n_per_mm
    rows = tuple((longer - x, k * x) for x in (40.0, 120.0))
    pressed = TableSprings(
        axle="rear",
        spring=SpringTable(free_length_mm=longer, solid_length_mm=min(coil.solid_length_mm, rows[-1][0]), rows=rows),
    )
    swapped = SpringSwap(axle="rear", coil=coil.model_copy(update={"free_length_mm": longer}))
    assert predict(on(job, pressed)).rear.rise == pytest.approx(predict(on(job, swapped)).rear.rise, abs=1e-6)
    with pytest.raises(ValidationError, match="does not rise from 250 mm"):
        SpringTable(free_length_mm=300, solid_length_mm=150, rows=((250, 2500), (260, 5600)))


def test_how_well_a_spring_is_known_follows_from_how_it_was_read() -> None:
    """Wire 12 ±0.05, 108 mean ±0.5, 6 coils ±0.1: 4.333·0.417 %, 3·0.463 % and 1.667 %, together 2.82 %."""
    by_wire = Coil.model_validate(
        {"wire": CoilWire(wire_mm=12, outside_mm=120, active_coils=6, total_coils=7.5), "free_length_mm": 300}
    )
    assert by_wire.rate_spread == pytest.approx(math.hypot(4.3333 * 0.05 / 12, 3 * 0.5 / 108, 0.1 / 6), rel=1e-3)
    assert "wire diameter, ± 1.8 %" in by_wire.better
    stamped = by_wire.model_copy(update={"wire": None})
    assert stamped.rate_spread == pytest.approx(0.04)
    assert "press" in stamped.better
    assert by_wire.model_copy(update={"rate_tolerance_percent": 1.0}).rate_spread == pytest.approx(0.01)
    # A leaf's thickness counts three times: 7 mm ±0.1 is 4.3 %.
    assert rear_pack().model_copy(update={"thickness_mm": 7.0}).dimensions()[0].percent == pytest.approx(300 * 0.1 / 7)
    inputs = predict(job_on("wishbones", "front")).front.inputs
    assert all(i.better for i in inputs), [i.label for i in inputs if not i.better]


def test_springs_of_the_shelf_stand_side_by_side_on_the_card() -> None:
    job = job_on("wishbones_long", "rear")
    coil = job.vehicle.rear.coil
    assert coil is not None
    longer = coil.model_copy(update={"free_length_mm": coil.free_length_mm + 15, "part": "SH-15"})
    gone = coil.model_copy(update={"free_length_mm": coil.free_length_mm + 30, "part": "SH-30"})
    other = SpringTable(free_length_mm=400, solid_length_mm=150, rows=((250, 5000),))
    shelf = (SpringOnShelf(spring=longer), SpringOnShelf(spring=gone, pairs=0), SpringOnShelf(spring=other))
    wanted = job.model_copy(update={"brief": job.brief.model_copy(update={"shelf": shelf})})
    answer = predict(on(wanted, SpringSwap(axle="rear", coil=coil)))
    table = answer.settings["c0"]
    assert [r.name for r in table.rows][1:] == ["SH-15"], "what is not there, or no such spring, is not offered"
    alone = predict(on(wanted, SpringSwap(axle="rear", coil=longer))).rear
    assert float(table.rows[1].cells[0]) == pytest.approx(alone.rise, abs=0.06)
    assert float(table.rows[1].cells[1]) == pytest.approx(alone.wheel_rate_after, abs=0.06)
    assert not predict(on(job, SpringSwap(axle="rear", coil=coil))).settings, "an empty shelf has nothing to compare"


def test_a_coil_is_held_against_its_seats_and_an_adapter_ring_seats_it() -> None:
    job = with_rear(job_on("wishbones_long", "rear"), seats=SpringSeats(lower_mm=100, upper_mm=104, inside_mm=92))
    coil = job.vehicle.rear.coil
    assert coil is not None

    def fitted(inside: float, *more: SeatSpacer) -> dict[str, float]:
        swap = SpringSwap(axle="rear", coil=coil.model_copy(update={"inside_mm": inside}))
        found = predict(on(job, swap, *more)).findings
        return {f.id.removeprefix("spring_seat.rear."): f.value for f in found if f.id.startswith("spring_seat.")}

    assert fitted(104.5) == {"lower": 4.5}, "4.5 mm wider than its seat wanders; 0.5 does not; 6.25 mm clear inside"
    assert fitted(97) == {"lower": -3, "upper": -7, "inside": 2.5}
    ring = SeatSpacer(axle="rear", thickness_mm=4, centres_on_mm=103.5)
    assert fitted(104.5, ring) == {}
    assert predict(on(job, ring)).rear.rise > 3, "what the ring adds in height counts"
    kept = SeatSpacer(axle="rear", thickness_mm=4, kept_by="the bolt of the lower seat")
    assert "Kept by the bolt of the lower seat." in kept.steps(job.vehicle)[0]


def test_eyes_have_to_fit_their_bolts_or_have_sleeves() -> None:
    job = job_on("wishbones_long", "rear")
    damper = job.vehicle.rear.damper.model_copy(update={"lower_bolt_mm": 12.0, "upper_bolt_mm": 10.0})
    job = with_rear(job, damper=damper)
    new = DamperSwap(
        axle="rear", extended_mm=damper.extended_mm, closed_mm=damper.closed_mm, lower_bore_mm=14, upper_bore_mm=10.2
    )
    (found,) = [f for f in predict(on(job, new)).findings if f.id.startswith("eye.")]
    assert (found.id, found.value, found.severity) == ("eye.rear.lower", 2.0, "fix")
    sleeved = on(job).model_copy(
        update={"plan": on(job, new).plan.model_copy(update={"changes": found.cures[0].changes})}
    )
    assert not told(predict(sleeved), "eye.")
    assert any("2 sleeves 14 × 12 mm" in p for p in found.cures[0].changes[0].change.parts(job.vehicle))
    tight = new.model_copy(update={"lower_bore_mm": 10.0})
    (stops,) = [f for f in predict(on(job, tight)).findings if f.id.startswith("eye.")]
    assert (stops.severity, stops.cures) == ("stops", ())


def test_u_bolts_are_as_long_as_what_they_go_round() -> None:
    """70 tube + 8 seat + n·t pack + 12 plate + 3 washer + 12 nut + 3·1.5 = 109.5 and the pack; 30 mm of block more."""
    u = UBolts(tube_mm=70, seat_mm=8, plate_mm=12, nut_mm=12)
    job = with_rear(job_on("leaf_axle", "rear"), u_bolts=u)
    pack = rear_pack()
    wanted = 109.5 + pack.leaves * pack.thickness_mm
    block = Block(axle="rear", height_mm=30)

    def ordered(*changes: Change) -> list[str]:
        return [line for line in card(on(job, *changes)).preflight.parts if "U-bolt" in line]

    assert ordered(block) == [f"4 U-bolts with nuts, leg {math.ceil(wanted + 30)} mm (rear)"]
    assert not told(predict(on(job, block)), "u_bolts"), "ordered as long as they have to be"
    short = Block(axle="rear", height_mm=30, u_bolt_leg_mm=math.floor(wanted + 20))
    (found,) = [f for f in predict(on(job, short)).findings if f.id == "u_bolts.rear"]
    assert found.limit == pytest.approx(wanted + 30)
    assert found.severity == "stops"
    # Helper leaves go under those that are on.
    on_hand = with_rear(job, u_bolts=u.model_copy(update={"leg_mm": wanted + 1}))
    assert not told(predict(on_hand), "u_bolts")
    helper = HelperLeaf(axle="rear", rate_n_per_mm=20, contact_mm=60, thickness_mm=9)
    assert told(predict(on(on_hand, helper)), "u_bolts") == ["u_bolts.rear"]
    renewed = LeafPacks(axle="rear", spring=pack.model_copy(update={"liner_mm": 2.0}))
    more = wanted + 2 * (pack.leaves - 1)
    assert ordered(renewed) == [f"4 U-bolts with nuts, leg {math.ceil(more)} mm (rear)"]
    for both in ((renewed, block), (block, renewed)):
        assert ordered(*both) == [f"4 U-bolts with nuts, leg {math.ceil(more + 30)} mm (rear)"]
    with pytest.raises(DomainError, match="go round is not known"):
        predict(on(job_on("leaf_axle", "rear"), short))
    with pytest.raises(ValidationError, match="this axle has none"):
        Axle.model_validate(job_on("trailing", "rear").vehicle.rear.model_dump() | {"u_bolts": u.model_dump()})


def test_what_hangs_on_a_leaf_axle_goes_down_with_a_block() -> None:
    """Where the dampers end droop, the axle hangs there in the body with a block or without: its hose is as long."""
    line = FlexLine(name="brake hose", body=(100, 420, 620), wheel=(40, 560, 330), length_mm=520)
    job = with_rear(job_on("leaf_axle", "rear"), lines=(line,))
    raised = assess(on(job, Block(axle="rear", height_mm=40)))
    was, now = raised.before.rear, raised.after.rear
    assert now.rise == pytest.approx(40, abs=0.5)
    at_droop = [float(spans(s, line, np.array([s.full_droop]))[0, 0]) for s in (was, now)]
    assert at_droop[1] == pytest.approx(at_droop[0], abs=4), "the packs' arc, and not 40 mm"
    at_ride = [float(spans(s, line, np.array([s.travel]))[0, 0]) for s in (was, now)]
    by_hand = np.linalg.norm(np.array(line.wheel) - [0, 0, 40] - line.body)
    assert at_ride[1] == pytest.approx(by_hand, abs=1.5)
    assert at_ride[1] > at_ride[0] + 25


def test_threads_that_are_screwed_out_hold_less() -> None:
    job = job_on("wishbones", "front")
    body = Collar(axle="front", by_mm=18, turns="body", in_foot_mm=45, least_in_foot_mm=30)
    (found,) = [f for f in predict(on(job, body)).findings if f.id.startswith("thread.")]
    assert (found.value, found.limit, found.severity) == (27, 30, "stops")
    assert not told(predict(on(job, body.model_copy(update={"by_mm": 15.0}))), "thread.")
    with pytest.raises(ValidationError, match="own thread"):
        Collar(axle="front", by_mm=5, in_foot_mm=45, least_in_foot_mm=30)
    four = job_on("four_link_axle", "rear")
    begun = ArmLength.start("rear", four.vehicle.rear)
    arm = begun.model_copy(
        update={"longer_mm": 12.0, "pitch_mm": 1.5, "thread_in_mm": 20.0, "thread_diameter_mm": 16.0}
    )
    assert "+8.00 turns" in arm.summary()
    # 20 in, 12 out of one end leaves 8; with a thread at each end 14: both less than 16.
    assert [t.held_mm for t in arm.threads()] == [8]
    both = arm.model_copy(update={"both_ends": True})
    assert [t.held_mm for t in both.threads()] == [14]
    assert "+4.00 turns" in both.summary()
    assert told(predict(on(four, both)), "thread.") == ["thread.rear.c0"]


TOP = StrutTop(stud_length_mm=34, stud_diameter_mm=8, nut_height_mm=8, bonnet_gap_mm=20)


def test_a_slotted_plate_moves_the_strut_and_is_set_on_the_rack_from_then_on() -> None:
    job = with_front(job_on("strut_front", "front"), strut_top=TOP, adjusters=())
    plate = TopPlate(
        axle="front", in_mm=6, most_in_mm=10, most_out_mm=4, step_mm=0.5,
        stack=(PlateSpacer(thickness_mm=5), PlateSpacer(thickness_mm=3, lies="plate_to_nut")),
    )  # fmt: skip
    done = predict(on(job, plate)).front
    corner = job.vehicle.front.linkage.corner(300, 0, 0)
    assert corner.damper is not None
    same = (
        BracketMoved(axle="front", point=corner.damper.start, out_mm=-6),
        StrutTopSpacer(axle="front", thickness_mm=5),
    )
    by_parts = predict(on(job, *same)).front
    assert done.rise == pytest.approx(by_parts.rise, abs=1e-6)
    assert done.angles_after.camber_deg == pytest.approx(by_parts.angles_after.camber_deg, abs=1e-6)
    assert done.angles_after.camber_deg < predict(job).front.angles_after.camber_deg - 0.3, "in is more negative"
    after = assess(on(job, plate)).after.front.axle
    (slot,) = [a for a in after.adjusters if isinstance(a, SlotAdjuster)]
    assert (slot.min_mm, slot.max_mm, slot.direction) == (-4, 10, (0, 1, 0)), "4 mm further in, 10 back out"
    # Thread: 34 − 5 of spacer − 3 under the nut = 26, of 8 wanted.
    assert after.strut_top is not None
    assert after.strut_top.stud_length_mm - after.top_spacer_mm - after.strut_top.washer_mm == 26
    tall = predict(on(job, plate.model_copy(update={"stands_up_mm": 22.0})))
    (bonnet,) = [f for f in tall.findings if f.id == "bonnet.front"]
    assert bonnet.value == pytest.approx(20 - (22 - 5)), "5 mm under the tower take the studs down"
    with pytest.raises(ValidationError, match="beyond it"):
        TopPlate(axle="front", in_mm=12)


def test_a_fitted_pack_with_its_liners_is_read_back() -> None:
    pack = LeafPackData.model_validate(rear_pack().model_dump() | {"liner_mm": 1.5})
    assert float(pack.spring().force(-100.0)) == pytest.approx(float(rear_pack().spring().force(-100.0)))


def test_an_adjuster_known_by_degrees_has_the_millimetres_that_give_them() -> None:
    """A slot that turns the strut: at its told end the camber is what its maker says, by the solved linkage."""
    job = with_front(job_on("strut_front", "front"), strut_top=TOP, adjusters=())
    corner = job.vehicle.front.linkage.corner(300, 0, 0)
    assert corner.damper is not None
    slot = SlotAdjuster(
        name="slotted top", point=corner.damper.start, direction=(0, 1, 0), min_mm=-5, max_mm=5, step_mm=0.5
    )
    fitted = AdjusterFitted(axle="front", adjuster=slot, range_deg=1.5)
    after = assess(on(job, fitted)).after.front
    (found,) = after.axle.adjusters
    moved = BracketMoved(axle="front", point=corner.damper.start, out_mm=found.max_mm)
    # At the height its points hold: a strut that leans more stands the body elsewhere, which is another matter.
    change = assess(on(job, moved)).after.front.axle.camber_deg - job.vehicle.front.camber_deg
    assert abs(change) == pytest.approx(1.5, abs=0.01)
    with pytest.raises(DomainError, match="does not move caster"):
        predict(on(job, fitted.model_copy(update={"of_angle": "caster"})))
    with pytest.raises(ValidationError, match="no range"):
        AdjusterFitted(axle="front", adjuster=slot, of_angle="toe")


def test_a_complete_unit_can_carry_a_stack_hang_lower_and_pull_back() -> None:
    """The unit's collar decides the stack's preload: 440 of coils in 430 of room are 10 mm, however it was told."""
    job = job_on("strut_front", "front")
    begun = begin("coil_over", "front", job.vehicle, ()).change
    assert isinstance(begun, CoilOver)
    room = begun.collar_to_top_mm
    scale = room / 430
    coil = [
        StackCoil(rate_n_per_mm=k, free_length_mm=free * scale, solid_length_mm=solid * scale)
        for k, free, solid in ((60, 150, 60), (90, 290, 110))
    ]
    stack = StackData(tender=coil[0], main=coil[1], preload_mm=3, gap_mm=30, length_extended_mm=440 * scale - 3)
    unit = begun.model_copy(update={"spring": stack, "top_mount_mm": 6.0, "clicks": 12})
    unit = CoilOver.model_validate(unit.model_dump())
    assert unit.preload_mm == pytest.approx(10 * scale)
    assert "60 on 90 N/mm" in unit.summary()
    assert "12 clicks from closed" in unit.steps(job.vehicle)[1]
    fitted = assess(on(job, unit)).after.front.axle
    assert isinstance(fitted.spring, StackData)
    assert fitted.spring.preload_mm == pytest.approx(10 * scale)
    assert fitted.spring.length_extended_mm == pytest.approx(room)
    assert fitted.top_spacer_mm == job.vehicle.front.top_spacer_mm + 6
    higher, lower = (
        assess(on(job, unit.model_copy(update={"top_mount_mm": mm}))).after.front.rise for mm in (6.0, 0.0)
    )
    assert higher - lower == pytest.approx(6 / float(assess(job).before.front.ride.spring_length.ratio(0.0)), rel=0.1)
    held = unit.model_copy(update={"top_out": TopOutData(rate_n_per_mm=80, contact_mm=unit.extended_mm - 60)})
    assert assess(on(job, held)).after.front.axle.top_out is not None
    assert assess(on(job, held)).after.front.rise < assess(on(job, unit)).after.front.rise + 1e-9
    assert CoilOver.model_validate(begun.model_dump()) == begun


def test_an_eccentric_is_set_by_notches_and_moves_by_the_sine() -> None:
    """6 mm of eccentricity and 24 notches: two of them, 30°, move 3 mm; 90° moves all of it."""
    bolt = EccentricAdjuster(name="cam bolt", point="x", direction=(0, 1, 0), eccentricity_mm=6, notches=24)
    assert bolt.turned(3.0) == 2
    assert bolt.nearest(2.7) == pytest.approx(3.0)
    assert (bolt.turned(9.0), bolt.turned(-9.0)) == (6, -6)
    assert settable(bolt, -5.9) == pytest.approx(-6 * math.sin(math.radians(75))), (
        "75° is 5.80, 90° is 6: 79° is nearer"
    )
    job = job_on("wishbones_long", "rear")
    point = next(iter(frame_points(job.vehicle.rear.linkage)))
    cam = bolt.model_copy(update={"point": point})
    target = {"camber": AngleTarget(target_deg=job.vehicle.rear.camber_deg - 0.25, window_deg=0.3)}
    set_up = with_rear(job, targets=target, adjusters=())
    wheel = next(w for w in align(on(set_up, AdjusterFitted(axle="rear", adjuster=cam))).wheels if w.axle == "rear")
    (setting,) = wheel.settings
    assert "notch" in setting.instruction
    assert setting.set_mm == pytest.approx(cam.nearest(setting.solved_mm))
    assert (setting.low_mm, setting.high_mm) == (-6, 6)


def test_a_housing_that_is_cut_cannot_be_put_back() -> None:
    job = job_on("strut_front", "front")
    begun = begin("damper_swap", "front", job.vehicle, ()).change
    assert isinstance(begun, DamperSwap)
    cut = begun.model_copy(update={"housing_cut": True})
    assert [f.id for f in predict(on(job, cut)).findings if f.id.startswith("undone")]
    assert not [f.id for f in predict(on(job, begun)).findings if f.id.startswith("undone")]
    steps = [s.text for s in card(on(job, cut)).steps if ".how" in s.id and s.side == "left"]
    assert any("licensed welder" in text for text in steps)


def test_slots_along_the_car_and_upper_seats_go_the_way_they_say() -> None:
    """Back at the top leans the strut back: caster grows by 10 mm over its height; out is less camber."""
    job = with_front(job_on("strut_front", "front"), strut_top=TOP, adjusters=())
    came = predict(job).front.angles_after
    assert came.caster_deg is not None
    back = TopPlate(axle="front", back_mm=10, most_back_mm=12)
    leant = predict(on(job, back)).front.angles_after
    points = job.vehicle.front.linkage.named_points()
    corner = job.vehicle.front.linkage.corner(300, 0, 0)
    assert corner.steering_axis is not None
    lower, upper = (points[n] for n in corner.steering_axis)
    by_hand = math.degrees(math.atan2(lower[0] - upper[0] + 10, upper[2] - lower[2])) - math.degrees(
        math.atan2(lower[0] - upper[0], upper[2] - lower[2])
    )
    assert leant.caster_deg is not None
    assert leant.caster_deg - came.caster_deg == pytest.approx(by_hand, abs=0.1)
    slots = {a.name: a for a in assess(on(job, back)).after.front.axle.adjusters}
    along = slots["top plate, back and forward"]
    assert (along.min_mm, along.max_mm) == (-2, 22), "2 mm further back, 22 to the front end of the slot"
    out = predict(on(job, TopPlate(axle="front", in_mm=-8))).front.angles_after
    assert out.camber_deg > came.camber_deg
    seated = with_rear(job_on("wishbones_long", "rear"), seats=SpringSeats(lower_mm=100, upper_mm=100))
    ring = SeatSpacer(axle="rear", thickness_mm=3, lies="above", centres_on_mm=104)
    seats = assess(on(seated, ring)).after.rear.axle.seats
    assert seats is not None
    assert (seats.lower_mm, seats.upper_mm) == (100, 104)


def test_an_adjuster_that_hardly_helps_does_not_take_up_what_rounding_leaves() -> None:
    """Three links for two targets: the third moves caster, which nobody asked for, and camber by thousandths a turn."""
    job = job_on("five_link", "rear")
    stack: tuple[PlannedChange, ...] = ()
    for kind in ("seat_spacer", "adjuster_fitted"):
        planned = begun(kind, "rear", job.model_copy(update={"plan": Plan(changes=stack)}))
        assert not isinstance(planned, str)
        stack = (*stack, planned)
    job = job.model_copy(update={"plan": Plan(changes=stack)})
    for camber in (-1.23, -1.1, -0.95):
        read = tuple(
            AngleReading(axle="rear", side=side, angle="camber", reading=Angle.model_validate(f"{camber - by:.2f}"))
            for side, by in zip(SIDES, (0.0, 0.13), strict=True)
        )
        made = align(job.model_copy(update={"measure": Measurements(angles=read)}))
        left, right = (w for w in made.wheels if w.axle == "rear")
        for wheel in (left, right):
            third = next(s for s in wheel.settings if s.name == "adjustable link")
            assert abs(third.set_mm) <= 1.5 * third.step_mm
            assert all(abs(a.remaining) < 0.07 for a in wheel.angles if a.remaining is not None)

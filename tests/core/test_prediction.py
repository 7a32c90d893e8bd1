"""The whole prediction on the demo van: what follows from what."""

import pytest

from inclinum.core.car.changes import PlannedChange, SeatSpacer, SpringSwap, StrutTopSpacer
from inclinum.core.car.job import Job, Plan
from inclinum.core.car.measured import questions, refusal
from inclinum.core.car.prediction import predict
from inclinum.core.quantity import Length
from inclinum.core.springs.fitted import Coil, CoilWire
from tests.conftest import plain_coil


def with_changes(job: Job, *changes: object) -> Job:
    planned = tuple(PlannedChange.model_validate({"id": f"t{n}", "change": c}) for n, c in enumerate(changes))
    return job.model_copy(update={"plan": Plan(changes=planned)})


def retaped(job: Job, axle: str, side: str, quantity: str, text: str) -> Job:
    corners = tuple(
        c.model_copy(update={"reading": Length.model_validate(text)})
        if (c.axle, c.side, c.quantity) == (axle, side, quantity)
        else c
        for c in job.measure.corners
    )
    return job.model_copy(update={"measure": job.measure.model_copy(update={"corners": corners})})


def test_without_changes_nothing_moves(in_hand: Job) -> None:
    found = predict(with_changes(in_hand))
    assert found.front.rise == pytest.approx(0, abs=1e-6)
    assert found.rear.rise == pytest.approx(0, abs=1e-6)
    assert all(h.after == pytest.approx(h.before, abs=1e-6) for h in found.heights)


def test_shares_add_up_to_the_rise_and_a_change_that_is_off_brings_nothing(in_hand: Job) -> None:
    job = with_changes(
        in_hand,
        SpringSwap(
            axle="front", coil=plain_coil(in_hand.vehicle, "front").model_copy(update={"free_length_mm": 380.0})
        ),
        StrutTopSpacer(axle="front", thickness_mm=8),
        SeatSpacer(axle="rear", thickness_mm=12),
    )
    found = predict(job)
    assert sum(s.front for s in found.shares) == pytest.approx(found.front.rise, abs=1e-9)
    assert sum(s.rear for s in found.shares) == pytest.approx(found.rear.rise, abs=1e-9)
    off = job.plan.changes[1].model_copy(update={"on": False})
    switched = predict(job.model_copy(update={"plan": Plan(changes=(job.plan.changes[0], off, job.plan.changes[2]))}))
    assert switched.shares[1].front == 0
    assert switched.front.rise == pytest.approx(found.front.rise - found.shares[1].front, abs=0.2)


def test_a_thin_seat_spacer_raises_by_rate_times_ratio_over_wheel_rate(in_hand: Job) -> None:
    found = predict(with_changes(in_hand, SeatSpacer(axle="rear", thickness_mm=1)))
    by_hand = 52.0 * found.rear.ratio * 1 / found.rear.wheel_rate_before
    assert found.rear.rise == pytest.approx(by_hand, rel=2e-3)
    assert found.front.rise == pytest.approx(0, abs=1e-6)


def test_a_bumper_ahead_of_the_axle_follows_the_line_through_both(in_hand: Job) -> None:
    found = predict(in_hand)
    bumper = next(h for h in found.heights if h.label == "front bumper")
    x, base = 700.0, in_hand.vehicle.wheelbase_mm
    by_hand = found.front.rise + (found.rear.rise - found.front.rise) * (0 - x) / base
    assert bumper.change == pytest.approx(by_hand, abs=1e-9)


def test_the_load_is_read_off_the_fitted_spring_at_the_measured_height(in_hand: Job) -> None:
    lower = retaped(retaped(in_hand, "rear", "left", "hub_to_arch", "387"), "rear", "right", "hub_to_arch", "387")
    # Ten millimetres lower on the same spring is a heavier load by about ten times the wheel rate.
    heavier = predict(lower).rear.load_n - predict(in_hand).rear.load_n
    assert heavier == pytest.approx(9.94 * predict(in_hand).rear.wheel_rate_before, rel=0.02)


def test_a_measured_gap_replaces_the_assumed_one(in_hand: Job) -> None:
    less = retaped(retaped(in_hand, "front", "left", "bump_stop_gap", "40"), "front", "right", "bump_stop_gap", "40")
    ratio = 0.96  # damper shortening per travel at this height, from the geometry
    contact = predict(less).front.travel_before.stop_contact
    assert contact == pytest.approx(40 / ratio, rel=0.02)


def test_only_the_tape_is_uncertain_when_nothing_changes(in_hand: Job) -> None:
    found = predict(with_changes(in_hand))
    rear = next(h for h in found.heights if h.axle == "rear" and h.kind == "hub_to_arch")
    assert rear.plus_minus == pytest.approx(in_hand.measure.default_tolerance_mm, abs=1e-6)
    assert found.rear.plus_minus == pytest.approx(0, abs=1e-6)


def test_new_springs_bring_their_own_spread_and_it_is_ranked(in_hand: Job) -> None:
    exact = plain_coil(in_hand.vehicle, "front").model_copy(
        update={"free_length_mm": 380.0, "rate_tolerance_percent": 0.0, "free_length_tolerance_mm": 6.0}
    )
    found = predict(with_changes(in_hand, SpringSwap(axle="front", coil=exact))).front
    new_length = next(i for i in found.inputs if i.label == "free length of the new springs")
    # A spring longer by dL raises by k·MR·dL over the wheel rate at the planned height.
    assert new_length.plus_minus == pytest.approx(6 * 30.0 * found.ratio / found.wheel_rate_after, rel=0.01)
    assert [i.share for i in found.inputs] == sorted((i.share for i in found.inputs), reverse=True)
    assert sum(i.share for i in found.inputs) == pytest.approx(1)


def test_a_coil_without_a_stamp_by_its_wire() -> None:
    wire = CoilWire(wire_mm=13.5, outside_mm=131.5, active_coils=8.5, total_coils=10)
    assert wire.rate() == pytest.approx(23.5751, abs=1e-4)
    assert wire.solid() == 135
    with pytest.raises(ValueError, match="longer solid"):
        Coil(rate_n_per_mm=20, free_length_mm=100, solid_length_mm=120)


def test_unlikely_readings_are_questioned_and_impossible_ones_refused(in_hand: Job) -> None:
    assert questions(in_hand.vehicle, in_hand.measure) == []
    slip = retaped(in_hand, "rear", "right", "hub_to_arch", "435")
    asked = questions(slip.vehicle, slip.measure)
    assert [q.where for q in asked] == ["rear.right.hub_to_arch"]
    assert "differ by 38 mm: same reference?" in asked[0].sentence
    swapped = retaped(in_hand, "front", "left", "exposed_rod", "30")
    assert any("swapped" in q.sentence for q in questions(swapped.vehicle, swapped.measure))
    assert refusal("hub_to_arch", 3200.0) is not None
    assert refusal("hub_to_arch", 387.0) is None


def unbearable(job: Job) -> Job:
    """A plan whose front springs, with stops of next to nothing, carry the van nowhere."""
    stop = job.vehicle.front.bump_stop.model_copy(update={"coefficient": 1e-4})
    soft = plain_coil(job.vehicle, "front").model_copy(update={"rate_n_per_mm": 2.0})
    vehicle = job.vehicle.with_axle("front", bump_stop=stop)
    return with_changes(job.model_copy(update={"vehicle": vehicle}), SpringSwap(axle="front", coil=soft))


def test_springs_that_carry_nothing_are_told_as_a_sentence(in_hand: Job) -> None:
    with pytest.raises(ValueError, match=r"front axle finds no ride height.*stiffer or longer spring"):
        predict(unbearable(in_hand))
    short = plain_coil(in_hand.vehicle, "rear").model_copy(update={"free_length_mm": 240.0})
    hanging = in_hand.model_copy(update={"vehicle": in_hand.vehicle.with_axle("rear", spring=short)})
    with pytest.raises(ValueError, match=r"rear springs carry nothing at the measured height.*240 mm"):
        predict(hanging)
    riding = with_changes(in_hand, unbearable(in_hand).plan.changes[0].change)
    assert predict(riding).findings[0].id == "bump_gap.front", "with real stops it rides on them"

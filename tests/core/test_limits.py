"""Each limit against a number worked by hand, and every cure taken."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from inclinum.core.car.archetypes import vehicle_of
from inclinum.core.car.changes import (
    BumpStopSwap,
    CoilOver,
    SeatSpacer,
    SpringSwap,
    StopTrimmed,
    StrutTopSpacer,
    begin,
)
from inclinum.core.car.job import Job, LocalLimit, Plan
from inclinum.core.car.limits import Case, stand_changed, stand_measured
from inclinum.core.car.prediction import assess, predict
from inclinum.core.car.ways import ways
from inclinum.core.springs.fitted import Coil
from inclinum.demo import demo_jobs
from tests.conftest import plain_coil
from tests.core.test_prediction import with_changes
from tests.core.test_whole import bare_job


def finding(job: Job, key: str):
    return next((f for f in predict(job).findings if f.id == key), None)


def test_a_spacer_that_eats_the_thread(in_hand: Job) -> None:
    # 24 mm of stud, 2.5 mm washer, 10 mm nut: 11.5 mm may go, 12 mm may not.
    assert (
        finding(with_changes(in_hand, StrutTopSpacer(axle="front", thickness_mm=11.5)), "stud_engagement.front") is None
    )
    found = finding(with_changes(in_hand, StrutTopSpacer(axle="front", thickness_mm=14)), "stud_engagement.front")
    assert found is not None
    assert (found.severity, found.value, found.limit, found.margin) == ("stops", 7.5, 10, -2.5)
    measured = StrutTopSpacer(axle="front", thickness_mm=14, stud_left_mm=13)
    assert finding(with_changes(in_hand, measured), "stud_engagement.front") is None


def test_coils_that_touch_before_full_bump(in_hand: Job) -> None:
    long = plain_coil(in_hand.vehicle, "front").model_copy(update={"solid_length_mm": 131.0, "free_length_mm": 376.0})
    found = finding(with_changes(in_hand, SpringSwap(axle="front", coil=long)), "coil_bind.front")
    assert found is not None
    # Strut 375 mm long at the solid stop with 241 mm of it not spring, less what the tape says of the gap.
    assert found.limit == 6.5
    assert found.value == pytest.approx(134 - 131, abs=2.5)
    assert found.severity == "fix"


def test_a_damper_that_would_be_the_stop(in_hand: Job) -> None:
    found = finding(with_changes(in_hand, BumpStopSwap(axle="rear", height_mm=42)), "damper_closed.rear")
    assert found is not None
    assert found.value < 3
    after = predict(
        in_hand.model_copy(update={"plan": in_hand.plan.model_copy(update={"changes": found.cures[0].changes})})
    )
    assert not any(f.id.startswith("damper_closed") for f in after.findings)


def test_a_spring_loose_at_full_droop(in_hand: Job) -> None:
    short = plain_coil(in_hand.vehicle, "rear").model_copy(update={"free_length_mm": 306.0, "rate_n_per_mm": 80.0})
    job = with_changes(in_hand, SpringSwap(axle="rear", coil=short))
    found = finding(job, "spring_loose.rear")
    assert found is not None
    # Full droop is 90.8 mm below the measured height, where the seats are 245.7 mm apart; the ratio falls from
    # 0.709 to 0.69 on the way.
    assert found.value == pytest.approx(306 - (245.7 + 0.70 * 90.8), abs=1.5)
    assert len(found.cures) == 2


def test_local_rules_stop_a_plan_and_an_override_is_written(in_hand: Job) -> None:
    rule = LocalLimit(quantity="rise", value_mm=15, text="Harbour rule 4")
    job = in_hand.model_copy(update={"brief": in_hand.brief.model_copy(update={"local_limits": (rule,)})})
    found = predict(job)
    broken = {f.id: f for f in found.findings if f.id.startswith("local_rise")}
    assert broken.keys() == {"local_rise.front", "local_rise.rear"}
    assert "Harbour rule 4" in broken["local_rise.rear"].why
    assert found.stopped
    written = job.model_copy(update={"plan": job.plan.model_copy(update={"override": "Inspected, paper 12"})})
    assert not predict(written).stopped


def test_lamps_follow_the_line_and_their_rule(in_hand: Job) -> None:
    height = predict(in_hand).lamp_height_mm
    assert height is not None
    for quantity, value, breaks in (
        ("lamp_height_max", height - 1, True),
        ("lamp_height_max", height + 1, False),
        ("lamp_height_min", height + 1, True),
    ):
        rule = LocalLimit.model_validate({"quantity": quantity, "value_mm": value, "text": "a rule"})
        job = in_hand.model_copy(update={"brief": in_hand.brief.model_copy(update={"local_limits": (rule,)})})
        assert (finding(job, f"local_{quantity}") is not None) is breaks


TROUBLE = {
    "stud": (StrutTopSpacer(axle="front", thickness_mm=18),),
    "bind": (
        SpringSwap(
            axle="front", coil=plain_coil(demo_jobs()[-1].vehicle, "front").model_copy(update={"solid_length_mm": 140})
        ),
    ),
    "thick": (SeatSpacer(axle="front", thickness_mm=40), SeatSpacer(axle="rear", thickness_mm=35)),
    "stop": (BumpStopSwap(axle="front", height_mm=30), BumpStopSwap(axle="rear", height_mm=120)),
}


@pytest.mark.parametrize("trouble", TROUBLE)
def test_every_cure_heals_what_it_is_offered_for(in_hand: Job, trouble: str) -> None:
    job = with_changes(in_hand, *TROUBLE[trouble])
    curable = [f for f in predict(job).findings if f.cures]
    assert curable
    for f in curable:
        for cure in f.cures:
            cured = predict(job.model_copy(update={"plan": job.plan.model_copy(update={"changes": cure.changes})}))
            again = next((g for g in cured.findings if g.id == f.id), None)
            assert again is None or again.margin > f.margin, f"{f.id}: {cure.title}"
            if f.severity == "stops":
                assert again is None or again.severity != "stops", f"{f.id}: {cure.title}"


@settings(deadline=None, max_examples=15)
@given(st.floats(6, 45), st.sampled_from(["front", "rear"]))
def test_ways_reach_the_height_they_promise(rise: float, axle) -> None:
    job = with_changes(demo_jobs()[-1])
    base = stand_measured(job)
    found = ways(Case(job, base, stand_changed(base, job.plan.changes)), axle, rise)
    assert len(found) >= 2
    for way in found:
        reached = predict(job.model_copy(update={"plan": job.plan.model_copy(update={"changes": way.changes})}))
        assert reached.axle(axle).rise == pytest.approx(way.rise, abs=1e-6)
        # Parts come in whole millimetres: no further off than half of one at the spring.
        assert way.rise == pytest.approx(rise, abs=0.55 / 0.65)


def cured(job: Job, key: str, title: str) -> tuple[Job, str]:
    """The plan of one finding's cure, and its title."""
    found = finding(job, key)
    assert found is not None
    cure = next(c for c in found.cures if title in c.title)
    return job.model_copy(update={"plan": job.plan.model_copy(update={"changes": cure.changes})}), cure.title


def test_a_longer_softer_spring_carries_the_same_at_ride_and_is_held_at_droop(in_hand: Job) -> None:
    # 74 N/mm, 310 mm: at ride, and at full droop, as the springs stand there; what is missing of 2 mm is added whole.
    short = plain_coil(in_hand.vehicle, "rear").model_copy(update={"free_length_mm": 310.0, "rate_n_per_mm": 74.0})
    job = with_changes(in_hand, SpringSwap(axle="rear", coil=short))
    stance = assess(job).after.rear
    at_ride, at_droop = (float(stance.ride.spring_at(t)) for t in (stance.travel, stance.full_droop))
    longer = math.ceil(310 + 2 - (310 - at_droop))
    force = 74 * (310 - at_ride)
    healed, title = cured(job, "spring_loose.rear", "mm free")
    assert title == f"Rear springs {longer} mm free, {force / (longer - at_ride):.1f} N/mm: same height, held at droop"
    after = predict(healed)
    # The rate is rounded to a twentieth of a newton per mm at most: over so many mm, that much force, that much height.
    assert after.rear.rise == pytest.approx(predict(job).rear.rise, abs=1.0)
    assert finding(healed, "spring_loose.rear") is None
    assert longer - at_droop == pytest.approx(2.5, abs=0.5)


def test_a_spring_softer_than_three_fifths_of_the_fitted_one_is_not_offered(in_hand: Job) -> None:
    # Hardly shortened at ride: what it takes to be held at droop would leave it a fraction of its rate.
    stiff = plain_coil(in_hand.vehicle, "rear").model_copy(update={"free_length_mm": 263.0, "rate_n_per_mm": 220.0})
    job = with_changes(in_hand, SpringSwap(axle="rear", coil=stiff))
    found = finding(job, "spring_loose.rear")
    assert found is not None
    assert not any("mm free" in c.title for c in found.cures)


def test_a_taller_stop_is_solid_where_the_coil_still_has_its_margin(in_hand: Job) -> None:
    job = with_changes(in_hand, *TROUBLE["bind"])
    stance = assess(job).after.front
    stop, wanted = stance.axle.bump_stop, 6.5
    assert stop.contact_mm is not None
    # Strut unit: damper and spring shorten alike, so the damper is solid as much longer as room is missing.
    missing = wanted - (float(stance.ride.spring_at(stance.bump_end)) - 140)
    solid_now = stop.contact_mm - stop.max_compression_mm
    squeezed = stop.max_compression_mm / stop.height_mm
    height = math.ceil((solid_now + missing - stop.contact_mm + stop.height_mm) / (1 - squeezed))
    healed, title = cured(job, "coil_bind.front", "bump stops")
    assert title == f"Front bump stops {height} mm high end the travel first"
    assert finding(healed, "coil_bind.front") is None
    one_less = with_changes(in_hand, *TROUBLE["bind"], BumpStopSwap(axle="front", height_mm=height - 1.5))
    assert finding(one_less, "coil_bind.front") is not None


def test_ways_out_of_a_coil_over_are_its_own_spring_and_its_own_stop() -> None:
    """A complete unit has both: nobody opens a new one for a second stop, or is offered no spring because it is one."""
    vehicle = vehicle_of("strut_front", "twist_beam", "car", "x")
    ordinary = begin("coil_over", "front", vehicle, ()).change
    assert isinstance(ordinary, CoilOver)
    coil, down = ordinary.spring, 15.0
    assert isinstance(coil, Coil)
    # Half as stiff again and shorter, so that it carries the same where it rides, and is not reached any more hanging.
    ride = 220.0
    stiff = coil.model_copy(update={
        "rate_n_per_mm": 1.7 * coil.rate_n_per_mm, "free_length_mm": ride + (coil.free_length_mm - ride) / 1.7
    })  # fmt: skip
    unit = ordinary.model_copy(update={"spring": stiff, "collar_to_top_mm": ordinary.collar_to_top_mm + down})
    job = with_changes(bare_job(vehicle), unit)
    loose = finding(job, "spring_loose.front")
    assert loose is not None
    held = next(c for c in loose.cures if c.title.endswith("held at droop"))
    (other,) = (p.change for p in held.changes)
    assert isinstance(other, CoilOver)
    assert other.spring.type == "coil_spring"
    assert other.spring.free_length_mm > stiff.free_length_mm
    assert finding(job.model_copy(update={"plan": Plan(changes=held.changes)}), "spring_loose.front") is None

    low = with_changes(bare_job(vehicle), ordinary.model_copy(update={
        "collar_to_top_mm": ordinary.collar_to_top_mm + 30}))  # fmt: skip
    near = finding(low, "bump_gap.front")
    assert near is not None
    (stopped,) = (p.change for p in near.cures[0].changes)
    assert isinstance(stopped, CoilOver)
    assert stopped.stop_mm < ordinary.stop_mm
    assert finding(low.model_copy(update={"plan": Plan(changes=near.cures[0].changes)}), "bump_gap.front") is None
    # Where the stop of the unit is cut after that, another one goes on instead.
    cut = with_changes(low, *(p.change for p in low.plan.changes), StopTrimmed(axle="front", by_mm=1))
    after = finding(cut, "bump_gap.front")
    assert after is not None
    assert [p.change.type for p in after.cures[0].changes] == ["coil_over", "stop_trimmed", "bump_stop_swap"]
    assert finding(cut.model_copy(update={"plan": Plan(changes=after.cures[0].changes)}), "bump_gap.front") is None

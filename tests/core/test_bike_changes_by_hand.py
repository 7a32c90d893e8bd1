"""Rockers, collars on their thread, stated and moved parts, aims at both ends: numbers worked by hand."""

import math
from typing import Any

import numpy as np
import pytest
from pydantic import ValidationError

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.card import bike_card
from inclinum.core.bike.changes import PartMoved, RearEye, RearPreload, RearRocker, RearSpringSwap, begin
from inclinum.core.bike.changes.rear_rocker import rocker_holes
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.machine import Bike, FarEnd
from inclinum.core.bike.prediction import assess, predict_bike
from inclinum.core.document.errors import DomainError
from inclinum.core.document.outline import Station
from inclinum.core.kinematics.rigid import Array
from tests.core.test_bike import job_on
from tests.core.test_bike_by_hand import PRELOAD, RATE, machine

LINKED = [key for key, a in BIKES.items() if a.kind in ("rocker_on_frame", "rocker_on_arm")]


def mirrored(bike: Bike) -> Bike:
    """The same machine with its rear linkage upside down about the pivot's height: every turn the other way."""
    points = {n: np.array([p[0], 2 * bike.rear.arrays()["pivot"][1] - p[1]]) for n, p in bike.rear.arrays().items()}
    return bike.model_copy(update={"rear": bike.rear.with_points(points)})


@pytest.mark.parametrize("key", LINKED)
@pytest.mark.parametrize("turn", ["as it is", "mirrored"])
def test_a_rocker_has_the_three_distances_it_was_ordered_by(key: str, turn: str) -> None:
    bike = BIKES[key].bike("x") if turn == "as it is" else mirrored(BIKES[key].bike("x"))
    rod, damper, apart = rocker_holes(bike.rear)
    was = bike.rear.arrays()
    change = RearRocker(rod_hole_mm=rod + 1.5, damper_hole_mm=damper - 2.0, apart_mm=apart + 0.5)
    now = change.apply(bike).rear.arrays()

    def far(a: str, b: str, of: dict[str, Array]) -> float:
        return float(np.linalg.norm(of[a] - of[b]))

    assert far("rod_rocker", "rocker_pivot", now) == pytest.approx(rod + 1.5)
    assert far("damper_rocker", "rocker_pivot", now) == pytest.approx(damper - 2.0)
    assert far("rod_rocker", "damper_rocker", now) == pytest.approx(apart + 0.5)
    other = "rod_arm" if "rod_arm" in was else "rod_frame"
    assert far("rod_rocker", other, now) == pytest.approx(far("rod_rocker", other, was)), "the rod is as long as it was"
    for name in ("rod_rocker", "damper_rocker"):
        assert np.linalg.norm(now[name] - was[name]) < 12, "on the side it was on"


@pytest.mark.parametrize("key", LINKED)
def test_the_rocker_it_has_changes_nothing_and_a_like_one_is_a_like_link(key: str) -> None:
    bike = BIKES[key].bike("x")
    rod, damper, apart = rocker_holes(bike.rear)
    same = RearRocker(rod_hole_mm=rod, damper_hole_mm=damper, apart_mm=apart).apply(bike)
    for name, at in bike.rear.arrays().items():
        np.testing.assert_allclose(same.rear.arrays()[name], at, atol=1e-6)
    planned = begin("rear_rocker", bike, ())
    assert predict_bike(job_on(bike, [planned.change.model_dump()])).rear_drop_mm == pytest.approx(0, abs=1.5)


def test_holes_that_make_no_triangle_are_refused_with_what_would() -> None:
    bike = BIKES[LINKED[0]].bike("x")
    with pytest.raises(DomainError, match=r"between 20\.0 and 100\.0 mm apart, not 120 mm"):
        RearRocker(rod_hole_mm=40, damper_hole_mm=60, apart_mm=120).apply(
            bike.model_copy(update={"rear": bike.rear.with_points(_holed(bike, 40.0))})
        )
    with pytest.raises(DomainError, match="no rocker"):
        RearRocker.start(machine())


def _holed(bike: Bike, hole: float) -> dict[str, Array]:
    p = bike.rear.arrays()
    toward = (p["rod_rocker"] - p["rocker_pivot"]) / np.linalg.norm(p["rod_rocker"] - p["rocker_pivot"])
    return {"rod_rocker": p["rocker_pivot"] + hole * toward}


def spring(**fields: Any) -> dict[str, Any]:
    return {"rate_n_per_mm": RATE, "free_length_mm": 200, "stroke_mm": 120} | fields


def test_a_longer_spring_under_the_same_collar_is_pressed_by_what_it_is_longer() -> None:
    """208 free with a 2 mm washer for 200 without: 10 mm more preload; as many threads show as before."""
    bike = machine(damper__threads_at_zero_mm=12.0)
    new = spring(free_length_mm=208, seat_washer_mm=2)
    thread = RearSpringSwap.model_validate({"spring": new, "keeps": "thread"}).apply(bike)
    preload = RearSpringSwap.model_validate({"spring": new}).apply(bike)
    assert thread.preload_mm == pytest.approx(PRELOAD + 10)
    assert preload.preload_mm == pytest.approx(PRELOAD)

    def shows(b: Bike) -> float:
        assert b.damper.threads_at_zero_mm is not None
        return b.damper.threads_at_zero_mm + b.preload_mm

    assert shows(thread) == pytest.approx(shows(bike))
    assert shows(preload) == pytest.approx(shows(bike) - 10)
    with pytest.raises(DomainError, match="loose when the wheel hangs"):
        RearSpringSwap.model_validate({"spring": spring(free_length_mm=150, stroke_mm=90), "keeps": "thread"}).apply(
            bike
        )


def test_preload_by_the_room_for_the_spring() -> None:
    """200 mm of spring and a 3 mm washer in 191 mm: 12 mm; a zero found hanging hides 7 of it."""
    bike = machine(spring__seat_washer_mm=3.0)
    assert RearPreload(room_mm=191).apply(bike).preload == pytest.approx(12)
    hanging = machine(spring__seat_washer_mm=3.0, damper__zero_found="hanging", damper__hidden_mm=7.0)
    set_so = RearPreload(room_mm=191).apply(hanging)
    assert (set_so.preload, set_so.preload_mm) == pytest.approx((12, 19))
    with pytest.raises(DomainError, match="203 mm long: in 210 mm of room they are loose"):
        RearPreload(room_mm=210).apply(bike)
    with pytest.raises((ValidationError, DomainError), match="once"):
        RearPreload(room_mm=191, turns=3)


@pytest.mark.parametrize(("end", "front", "rear"), [("rear", 0.0, 20.0), ("front", 20.0, 0.0)])
def test_a_stated_drop_moves_its_end_and_the_seat_between(end: str, front: float, rear: float) -> None:
    bike = machine()
    change = {"type": "bike_stated", "axle": end, "what": "a kit", "rise_mm": -20, "tolerance_mm": 6}
    plain, answer = (predict_bike(job_on(bike, c)) for c in ([], [change]))
    assert (answer.front_drop_mm, answer.rear_drop_mm) == pytest.approx((front, rear), abs=1e-6)
    x = bike.seat.x_mm
    at_seat = rear + (front - rear) * x / bike.wheelbase_mm
    assert plain.planned.laden.seat_mm - answer.planned.laden.seat_mm == pytest.approx(at_seat, abs=1e-6)
    told = next(f for f in answer.findings if f.id.startswith("stated."))
    assert f"Stated change, {end}" in told.what
    share = answer.shares[0]
    assert (share.front, share.rear) == pytest.approx((-front, -rear), abs=1e-6)
    if end == "rear":
        assert answer.plus_minus_mm >= 6
    # Down at the front the axis stands steeper: atan of the drop over the wheelbase.
    steeper = math.degrees(math.atan2(front - rear, bike.wheelbase_mm))
    assert plain.planned.laden.rake_deg - answer.planned.laden.rake_deg == pytest.approx(steeper, abs=0.02)


def with_parts(**bike: Any) -> Bike:
    return machine(
        far_ends=(FarEnd(name="mudguard", end="rear", gap_mm=3, wanted_mm=8),),
        clearances=(Station(name="chain guide", x_mm=500, height_mm=210),),
        **bike,
    )


def test_a_part_moved_cut_or_taken_off_leaves_its_gap() -> None:
    def gaps(**change: Any) -> dict[str, float]:
        job = job_on(with_parts(), [{"type": "part_moved", **change}] if change else [])
        return {f.id: f.value for f in predict_bike(job).findings if f.id.startswith("gap.")}

    assert gaps() == {"gap.mudguard": 3}
    assert gaps(part_name="mudguard", by_mm=4) == {"gap.mudguard": 7}
    assert gaps(part_name="mudguard", by_mm=6) == gaps(part_name="mudguard", how="taken_off") == {}
    raised = predict_bike(job_on(with_parts(), [{"type": "part_moved", "part_name": "chain guide", "by_mm": 15}]))
    before, after = raised.clearances["chain guide"]
    assert after - before == pytest.approx(15)
    kept = Station(name="chain guide", x_mm=500, height_mm=210, keep_mm=190)
    low = job_on(machine(clearances=(kept,)))
    told = next(f for f in predict_bike(low).findings if f.id == "ground.chain guide")
    assert (told.severity, told.limit) == ("fix", 190)
    lifted = job_on(machine(clearances=(kept,)), [{"type": "part_moved", "part_name": "chain guide", "by_mm": 15}])
    assert not [f for f in predict_bike(lifted).findings if f.id.startswith("ground.")]
    cut = job_on(with_parts(), [{"type": "part_moved", "part_name": "mudguard", "how": "cut"}])
    assert [f for f in predict_bike(cut).findings if f.id.startswith("undone")]
    choices = predict_bike(cut).choices["c1"]["part_name"]
    assert [name for name, _ in choices] == ["mudguard", "chain guide"]
    with pytest.raises(DomainError, match="no “exhaust”"):
        PartMoved(part_name="exhaust").apply(with_parts())
    with pytest.raises(DomainError, match="enter one"):
        PartMoved.start(machine(far_ends=(), clearances=()))


def aims(job: BikeJob) -> tuple[Any, ...]:
    p = predict_bike(job)
    return p.aim_mm, p.aim_met, p.front_aim_mm, p.front_aim_met


def test_aims_at_either_end_or_at_none() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    none = job_on(bike, rear_drop=None)
    assert aims(none) == (None, None, None, None)
    assert not [f for f in predict_bike(none).findings if f.id.startswith("aim.")]
    assert aims(job_on(bike, rear_drop="0", front_drop="8")) == (0, True, 8, False)
    front = job_on(bike, rear_drop=None, front_drop="8", keep_steering=False)
    missed = next(f for f in predict_bike(front).findings if f.id == "aim.front")
    assert "8 mm too high" in missed.what
    cured = front.model_copy(update={"plan": front.plan.model_copy(update={"changes": missed.cures[0].changes})})
    assert predict_bike(cured).front_drop_mm == pytest.approx(8, abs=0.3)
    assert not [f for f in predict_bike(cured).findings if f.id == "aim.front"]


@pytest.mark.parametrize(("over", "rides"), [(2.0, True), (-2.0, False)])
def test_riding_on_the_rubber_stops_the_plan(over: float, rides: bool) -> None:
    """The rubber is as high as what the damper has left under the rider, and a little more or less."""
    bike = machine(damper__stroke_mm=100.0)
    loose = assess(job_on(bike)).after
    left = loose.ends["laden"][1].damper_length - (loose.rear.extended - loose.rear.stroke)
    job = job_on(machine(damper__stroke_mm=100.0, damper__bumper={"height_mm": left + over, "coefficient": 0.01}))
    found = [f for f in predict_bike(job).findings if f.id == "rear.on_rubber"]
    assert bool(found) is rides
    if found:
        assert found[0].severity == "stops"
        assert found[0].value == pytest.approx(-over, abs=0.3)
        plan = job.plan.model_copy(update={"changes": found[0].cures[0].changes})
        assert not [f for f in predict_bike(job.model_copy(update={"plan": plan})).findings if f.id == found[0].id]


TWIN = BIKES["twin_dampers"].bike("x")
"""Whose clevis has 18 mm of thread in it, 12 needed."""


def test_another_eye_is_longer_by_itself_less_what_more_of_the_rod_is_in_it() -> None:
    """15 mm longer, on 20 mm of thread instead of 18: the damper grows by 13, and 3 more with the clevis 3 out."""
    eye = {"type": "rear_eye", "longer_mm": 15, "thread_mm": 20, "least_thread_mm": 14}
    found = assess(job_on(TWIN, [eye])).after.bike.damper
    assert found.extended_mm == pytest.approx(TWIN.damper.extended_mm + 13)
    out = assess(job_on(TWIN, [eye, {"type": "clevis", "out_mm": 3}])).after.bike.damper
    assert out.extended_mm == pytest.approx(TWIN.damper.extended_mm + 16)
    assert out.clevis is not None
    assert out.clevis.thread_mm == pytest.approx(17)
    # Order: screwed out first, that much less of the rod was in the old one.
    other = assess(job_on(TWIN, [{"type": "clevis", "out_mm": 3}, eye])).after.bike.damper
    assert other.extended_mm == pytest.approx(TWIN.damper.extended_mm + 3 + 15 - (20 - 15))
    with pytest.raises(DomainError, match="Nobody has said that this damper's eye is on a thread"):
        RearEye(longer_mm=5, thread_mm=15, least_thread_mm=12).apply(BIKES["linkage_frame"].bike("x"))


def test_too_little_thread_in_an_eye_is_screwed_deeper_and_the_card_takes_the_damper_apart() -> None:
    eye = {"type": "rear_eye", "longer_mm": 15, "thread_mm": 11, "least_thread_mm": 14}
    job = job_on(TWIN, [eye])
    finding = next(f for f in predict_bike(job).findings if f.id == "clevis.thread")
    assert finding.severity == "stops"
    assert finding.value == pytest.approx(11)
    (deeper,) = finding.cures
    assert [p.change.type for p in deeper.changes] == ["rear_eye"]
    mended = job.model_copy(update={"plan": job.plan.model_copy(update={"changes": deeper.changes})})
    assert not any(f.id == "clevis.thread" for f in predict_bike(mended).findings)
    card = bike_card(mended)
    keys = [s.id for s in card.steps]
    assert keys.index("rear_spring.off") < keys.index("c1.0") < keys.index("rear_spring.on")
    assert any("14 mm of thread is in it" in s.text for s in card.steps)
    assert card.preflight.parts == ["2 eyes or clevises, 15 mm longer than the old one, 14 mm of thread in it"]
    assert "eye or clevis, rear" in (*card.preflight.keep, *card.preflight.throw_away)
    # A clevis that is only screwed out has its bolt out and stays.
    screwed = bike_card(job_on(TWIN, [{"type": "clevis", "out_mm": 3}]))
    assert [(p.name, p.fate) for p in screwed.off] == [("damper lower bolt", "back")]
    keys = [s.id for s in screwed.steps]
    assert keys.index("weight_off.off") < keys.index("damper_lower.off") < keys.index("c1.0")
    assert keys.index("c1.0") < keys.index("damper_lower.on")


def test_ways_out_turn_the_unit_that_is_planned_and_add_no_second_damper() -> None:
    """A shorter unit lets the tyre up into the guard: less stroke is asked of that unit; so is its preload."""
    unit = begin("rear_unit", TWIN, ()).change.model_dump() | {"extended_mm": TWIN.damper.extended_mm - 21}
    job = job_on(TWIN, [unit])
    cures = [c for f in predict_bike(job).findings if f.id.startswith("gap.") for c in f.cures]
    assert cures
    assert all([p.change.type for p in c.changes] == ["rear_unit"] for c in cures)
    mended = job.model_copy(update={"plan": job.plan.model_copy(update={"changes": cures[0].changes})})
    assert not any(f.id.startswith("gap.") for f in predict_bike(mended).findings)
    loose = job_on(TWIN, [unit | {"preload_mm": 0}])
    turned = [c for f in predict_bike(loose).findings if f.id.startswith("sag.rear") for c in f.cures]
    set_so = [c for c in turned if c.title.startswith("Preload")]
    assert set_so
    assert all([p.change.type for p in c.changes] == ["rear_unit"] for c in set_so)


def test_a_spacer_that_is_asked_for_is_cut_for_the_springs_that_go_in() -> None:
    spring = begin("fork_springs", TWIN, ()).change.model_dump() | {"spacer_mm": 100}
    job = job_on(TWIN, [spring])
    cures = [c for f in predict_bike(job).findings for c in f.cures if "pacers" in c.title]
    assert cures
    assert all([p.change.type for p in c.changes] == ["fork_springs"] for c in cures)

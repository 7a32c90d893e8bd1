"""Limits of two-wheelers: each one found, its cures taken and healed; the card and the proof that follow."""

from typing import Any

import pytest
from pydantic import ValidationError

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.card import PHASES, bike_card
from inclinum.core.bike.changes.rear_link import holes
from inclinum.core.bike.job import BikeBrief, BikeJob
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.prediction import predict_bike
from inclinum.core.bike.proof import prove_bike
from inclinum.core.card.steps import LOOK_UP
from inclinum.demo import demo_bike_jobs
from tests.core.test_bike import job_on

TRAIL, TWIN = (BIKES[k].bike("x").model_copy(update={"archetype": ""}) for k in ("linkage_frame", "twin_dampers"))
"""As if somebody had typed all their numbers."""
HOLE, ROD = holes(TRAIL.rear)


def deep(bike: Bike, path: str, value: Any) -> Bike:
    data = bike.model_dump()
    *parents, last = path.split(".")
    at = data
    for key in parents:
        at = at[key]
    at[last] = value
    return Bike.model_validate(data)


def link(longer: float) -> dict[str, Any]:
    return {"type": "rear_link", "hole_mm": HOLE, "rod_mm": ROD + longer}


CASES: list[tuple[str, BikeJob, str]] = [
    ("rear.coils", job_on(deep(TRAIL, "spring.stroke_mm", 70.0)), "stops"),
    ("rear.coils_laden", job_on(deep(TRAIL, "spring.stroke_mm", 34.0)), "stops"),
    ("rear.damper_stop", job_on(deep(TRAIL, "damper.bumper", None)), "fix"),
    ("gap.tyre to seat base", job_on(TRAIL, [link(14)], rear_drop="60"), "stops"),
    ("clevis.thread", job_on(TWIN, [{"type": "clevis", "out_mm": 9}]), "stops"),
    ("fork.zone", job_on(TRAIL, [{"type": "fork_raise", "raised_mm": 26}]), "stops"),
    ("fork.bottomed", job_on(deep(TRAIL, "fork.bottomed_clearance_mm", 14.0),
                             [{"type": "fork_raise", "raised_mm": 9}]), "stops"),
    ("fork.legs", job_on(deep(TRAIL, "fork.springs.right_spacer_mm", 146.0)), "fix"),
    ("fork.coils", job_on(deep(TRAIL, "fork.springs.left.solid_length_mm", 300.0)), "stops"),
    ("fork.bottom_out", job_on(TRAIL, [{"type": "fork_travel", "shorter_mm": 20, "bottom_out_parts": False}]), "stops"),
    ("stand.lean", job_on(TRAIL, [link(8)], rear_drop="22"), "fix"),
    ("stand.lean", job_on(TRAIL, [{"type": "tyres", "front_radius_mm": 363, "rear_radius_mm": 343}]), "fix"),
    ("stand.centre", job_on(BIKES["shaft_tourer"].bike("x"),
                            [{"type": "rear_damper", "extended_mm": 275, "stroke_mm": 49}], rear_drop="50"), "fix"),
    ("aim.rear", job_on(TRAIL, rear_drop="20"), "fix"),
    ("steering.trail", job_on(TRAIL, [link(6)], rear_drop="16"), "fix"),
    ("sag.rear.laden", job_on(deep(TRAIL, "preload_mm", 2.0)), "fix"),
    ("sag.rear.bottomed", job_on(deep(deep(TRAIL, "spring.rate_n_per_mm", 4.0), "damper.bumper", None)), "stops"),
    ("sag.front.laden", job_on(deep(TRAIL, "fork.springs.spacer_mm", 170.0)), "fix"),
    ("rate.rear", job_on(deep(TRAIL, "spring.rate_n_per_mm", 40.0)), "know"),
    ("reach", job_on(TRAIL, inseam_mm=700), "fix"),
    ("chain", job_on(TRAIL), "know"),
    ("ground.skid plate", job_on(TRAIL, [{"type": "tyres", "front_radius_mm": 260, "rear_radius_mm": 240}]), "know"),
]  # fmt: skip


@pytest.mark.parametrize(("found", "job", "severity"), CASES, ids=[c[0] for c in CASES])
def test_a_limit_is_found_and_its_cures_heal(found: str, job: BikeJob, severity: str) -> None:
    answer = predict_bike(job)
    finding = next((f for f in answer.findings if f.id == found), None)
    assert finding is not None, [f.id for f in answer.findings]
    assert finding.severity == severity
    assert finding.why
    assert answer.stopped == any(f.severity == "stops" for f in answer.findings)
    for cure in finding.cures:
        healed = predict_bike(job.model_copy(update={"plan": job.plan.model_copy(update={"changes": cure.changes})}))
        same = next((f for f in healed.findings if f.id == found), None)
        better = same is None or abs(same.margin) < abs(finding.margin)
        assert better, f"{cure.title} leaves {same}"


@pytest.mark.parametrize("key", list(BIKES))
def test_a_machine_as_it_comes_is_not_stopped(key: str) -> None:
    bike = BIKES[key].bike("x")
    mass = "78" if key not in ("downhill", "mountain") else "84"
    answer = predict_bike(job_on(bike, rides=[{"name": "r", "mass": mass, "x_mm": 0.38 * bike.wheelbase_mm}]))
    assert not answer.stopped
    assert answer.rear_drop_mm == 0
    assert answer.steering.trail_left_mm == pytest.approx(0, abs=1e-9)


def test_an_override_builds_what_is_stopped_and_says_so() -> None:
    job = CASES[0][1]
    assert predict_bike(job).stopped
    written = job.model_copy(update={"plan": job.plan.model_copy(update={"override": "race day, owner signs"})})
    assert not predict_bike(written).stopped
    assert bike_card(written).stopped_by
    assert bike_card(written).override
    # Leaving the bottom-out parts out is refused, whatever is written.
    refused = next(c[1] for c in CASES if c[0] == "fork.bottom_out")
    refused = refused.model_copy(update={"plan": refused.plan.model_copy(update={"override": "the owner insists"})})
    answer = predict_bike(refused)
    assert answer.stopped
    assert answer.refused
    assert bike_card(refused).override == ""


def test_the_card_of_a_lowering_job() -> None:
    job = demo_bike_jobs()[-1]
    changes = [{"type": "fork_raise", "raised_mm": 18}, {"type": "side_stand", "shorter_mm": 12},
               {"type": "rear_preload", "preload_mm": 15}, {"type": "fork_oil", "level_mm": 120}]  # fmt: skip
    stack = [*job.plan.model_dump()["changes"], *({"id": f"d{n}", "change": c} for n, c in enumerate(changes))]
    job = BikeJob.model_validate(job.model_dump() | {"plan": {"changes": stack}})
    card = bike_card(job)
    phases = [s.phase for s in card.steps]
    assert phases == sorted(phases, key=PHASES.index), "the order of work"
    assert len({s.id for s in card.steps}) == len(card.steps)
    text = " ".join(s.text for s in card.steps)
    for words in ("needle rollers stay in their sleeves", "flats against the casting", "until it shows", "lock to lock",
                  "both legs equal", "zero is where the spring just touches", "full bump", "Side stand"):  # fmt: skip
        assert words.lower() in text.lower(), words
    caps = next(s for s in card.steps if s.id == "fork_cap.off")
    assert caps.caution
    assert caps.hold
    uses = {f.key: f for s in card.steps for f in s.fasteners}
    assert uses["rod_bolts"].torque_nm == 58
    assert uses["fork_cap"].torque_nm is None
    assert uses["fork_cap"].source == LOOK_UP, "a figure nobody has is looked up, never made up"
    assert "rear_axle" not in uses, "a wheel that stays in is not tightened"
    figures = [s.figure for s in card.steps if s.figure]
    assert any("18 mm above" in f for f in figures)
    assert card.steps[-1].caution


def test_spring_work_has_its_compressor_hold() -> None:
    card = bike_card(demo_bike_jobs()[2])
    hold = next(s for s in card.steps if s.id == "rear_spring.off")
    assert hold.hold
    assert "kill" in (hold.caution or "")


def test_the_proof_of_a_finished_job_and_of_one_that_missed() -> None:
    done = demo_bike_jobs()[0]
    proof = prove_bike(done)
    assert proof.verdict == "within"
    assert proof.rear_drop is not None
    assert proof.rear_drop.after == pytest.approx(-5, abs=0.5)
    sags = [s.model_dump() for s in done.prove.after.sags]
    for s in sags:
        if s["end"] == "rear" and s["state"] == "laden":
            s["reading"] = "430"
    missed = BikeJob.model_validate(done.model_dump() | {"prove": {"after": {"sags": sags}}})
    assert prove_bike(missed).verdict == "outside"
    assert prove_bike(demo_bike_jobs()[-1]).verdict == "nothing measured"


def test_readings_that_cannot_be_are_asked_about() -> None:
    job = job_on(TRAIL)
    sags = [{"end": "rear", "state": s, "reading": r} for s, r in (("extended", "600"), ("laden", "480"))]
    asked = predict_bike(BikeJob.model_validate(job.model_dump() | {"measure": {"sags": sags}})).questions
    assert any("Rear laden sag reads 120 mm" in q for q in asked)
    sags[1]["reading"] = "640"
    asked = predict_bike(BikeJob.model_validate(job.model_dump() | {"measure": {"sags": sags}})).questions
    assert any("longer than at full extension" in q for q in asked)


def test_the_plus_minus_grows_with_what_is_not_known() -> None:
    job = demo_bike_jobs()[-1]
    bare = job.model_copy(update={"measure": job.measure.model_copy(update={"tape": ()})})
    assert predict_bike(bare).plus_minus_mm > predict_bike(job).plus_minus_mm > 0.5


def test_with_nobody_on_it_no_laden_sag_is_judged() -> None:
    answer = predict_bike(job_on(TRAIL, rides=[]))
    assert [f.id for f in answer.findings if f.id.startswith(("sag", "rate"))] == ["sag.nobody"]
    assert {b.verdict for b in answer.sags.values()} == {"nobody rides it"}


def test_preload_by_turns_and_by_the_thread_that_shows() -> None:
    bike = deep(TRAIL, "damper.threads_at_zero_mm", 11.0)
    ways = ({"preload_mm": 12}, {"turns": 8}, {"threads_mm": 23})
    sags = [predict_bike(job_on(bike, [{"type": "rear_preload"} | w])).sags["rear"].laden_mm for w in ways]
    assert sags == pytest.approx([sags[0]] * 3)
    with pytest.raises(ValueError, match="collar at zero first"):
        predict_bike(job_on(TRAIL, [{"type": "rear_preload", "threads_mm": 23}]))
    with pytest.raises(ValueError, match="the spring is loose"):
        predict_bike(job_on(bike, [{"type": "rear_preload", "threads_mm": 9}]))


@pytest.mark.parametrize("key", list(BIKES))
@pytest.mark.parametrize("wanted", ["-12", "9", "20", "45"])
def test_the_rod_that_is_offered_gives_the_drop_and_stops_nothing(key: str, wanted: str) -> None:
    job = job_on(BIKES[key].bike("x"), rear_drop=wanted)
    answer = predict_bike(job)
    aim = next(f for f in answer.findings if f.id == "aim.rear")
    for cure in aim.cures:
        healed = predict_bike(job.model_copy(update={"plan": job.plan.model_copy(update={"changes": cure.changes})}))
        assert abs(healed.rear_drop_mm - float(wanted)) < abs(answer.rear_drop_mm - float(wanted)), cure.title
        ends = [f.id for f in healed.findings if f.id in ("rear.linkage_stop", "sag.rear.bottomed")]
        assert not ends, cure.title
    if key == "linkage_frame" and wanted in ("9", "20"):
        healed = predict_bike(
            job.model_copy(update={"plan": job.plan.model_copy(update={"changes": aim.cures[0].changes})})
        )
        assert aim.cures
        assert healed.aim_met


def test_an_aim_by_the_seat_is_a_drop_of_the_rear_and_its_way_out_reaches_it() -> None:
    """The seat moves by its share of the wheelbase: 15 mm lower at 1 − x/wheelbase of what the rear does."""
    now = predict_bike(job_on(TRAIL)).reach.seat_after_mm
    job = job_on(TRAIL, rear_by="seat", seat_wanted=f"{now - 15:.2f}")
    answer = predict_bike(job)
    share = 1 - TRAIL.seat.x_mm / TRAIL.wheelbase_mm
    assert answer.aim_mm == pytest.approx(15 / share, abs=0.02)
    assert answer.aim_met is False
    finding = next(f for f in answer.findings if f.id == "aim.rear")
    assert f"the seat {now - 15:.0f} mm above the ground" in finding.why
    lowered = job.model_copy(update={"plan": job.plan.model_copy(update={"changes": finding.cures[0].changes})})
    there = predict_bike(lowered)
    assert there.reach.seat_after_mm == pytest.approx(now - 15, abs=3)
    assert there.aim_met is True


@pytest.mark.parametrize("typed", [8.0, None])
def test_a_tolerance_typed_with_what_is_wanted_says_how_near_counts(typed: float | None) -> None:
    """Of a drop at the rear axle; of a seat over its share of the wheelbase. Else the brief's ±3."""
    near, share = typed or 3.0, 1 - TRAIL.seat.x_mm / TRAIL.wheelbase_mm
    seat = predict_bike(job_on(TRAIL)).reach.seat_after_mm
    for by in (near - 0.1, near + 0.1):
        said = f" ± {typed:g}" if typed else ""
        drop = predict_bike(job_on(TRAIL, rear_drop=f"{by:.3f}{said}"))
        seated = predict_bike(job_on(TRAIL, rear_by="seat", seat_wanted=f"{seat - by:.3f}{said}"))
        for answer, per in ((drop, 1.0), (seated, 1 / share)):
            finding = next((f for f in answer.findings if f.id == "aim.rear"), None)
            assert answer.aim_met is (by < near)
            assert (finding is None) is (by < near)
            if finding is not None:
                assert finding.margin == pytest.approx(-0.1 * per, abs=2e-3)
                assert f"within ±{near:g} mm" in finding.why


def test_feet_that_reach_are_an_aim_that_lower_meets_as_well() -> None:
    tall, short = (job_on(TRAIL, rear_by="both_feet", inseam_mm=mm) for mm in (1040, 800))
    assert predict_bike(tall).aim_met is True
    assert "aim.rear" not in {f.id for f in predict_bike(tall).findings}
    missing = predict_bike(short).reach.both_missing_after_mm
    assert missing is not None
    assert missing > 5
    share = 1 - TRAIL.seat.x_mm / TRAIL.wheelbase_mm
    assert predict_bike(short).aim_mm == pytest.approx(missing / share, abs=0.02)
    one = predict_bike(job_on(TRAIL, rear_by="one_foot", inseam_mm=800)).aim_mm
    assert one is not None
    assert one < missing / share, "leaning, one foot reaches first"
    for wrong, said in (
        ({"rear_by": "seat"}, "needs its height"),
        ({"seat_wanted": "800"}, "say the rear aim by the seat"),
        ({"rear_by": "both_feet", "inseam_mm": None}, "rider's inseam"),
    ):
        with pytest.raises(ValidationError, match=said):
            BikeBrief.model_validate({"owner": "o", "inseam_mm": 820} | wrong)


def test_a_spring_that_the_plan_brings_with_its_own_figures_is_no_guess() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    came = predict_bike(job_on(bike)).unmeasured
    assert any("spring's stroke" in said for said in came)
    spring = {"rate_n_per_mm": bike.spring.rate_n_per_mm, "free_length_mm": bike.spring.free_length_mm,
              "stroke_mm": bike.spring.stroke_mm + 3}  # fmt: skip
    planned = predict_bike(job_on(bike, [{"type": "rear_spring", "spring": spring}])).unmeasured
    assert planned
    assert not any("spring's stroke" in said for said in planned)

"""What is found on the way, settings before and after, and the shop's own times, all on the card."""

import re
from datetime import UTC, date, datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from inclinum import report
from inclinum.core.bike.card import bike_card
from inclinum.core.bike.changes import ForkRaise, RearPreload
from inclinum.core.car.card import card
from inclinum.core.car.changes import (
    ArmLength,
    Block,
    Change,
    Collar,
    DamperHoles,
    LeafPacks,
    LimitStrap,
    SeatSpacer,
    SpringSwap,
    TorsionAdjuster,
    TorsionReindex,
    Wedge,
)
from inclinum.core.car.job import Job
from inclinum.core.car.joints import joints_of
from inclinum.core.car.proof import before_and_after
from inclinum.core.card.fastener import Fastener
from inclinum.core.card.found import FoundOnTheWay
from inclinum.core.card.off import fate_of
from inclinum.core.card.record import Build, HandOver
from inclinum.core.card.settings import SettingRecord
from inclinum.core.card.times import expected
from inclinum.demo import demo_bike_jobs, demo_jobs
from tests.core.test_bike import job_on as bike_on
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import job_on

AT = datetime(2026, 5, 4, 9, 0, tzinfo=UTC)


def found(key: str, step: str, **more: object) -> FoundOnTheWay:
    told = {"kind": "worn", "what": "Ball joint has play", "decision": "now", "work": "Press a new one in"}
    return FoundOnTheWay.model_validate(told | {"id": key, "step": step, "at": AT, "by": "Ines Tarrow"} | more)


def with_build(job: Job, **build: object) -> Job:
    return job.model_copy(update={"build": Build.model_validate(build)})


@pytest.fixture(scope="module")
def ringed() -> Job:
    return on(job_on("strut_front", "front"), SeatSpacer(axle="front", thickness_mm=12))


def test_work_found_on_the_way_stands_after_its_step_with_its_part_and_minutes(ringed: Job) -> None:
    before = card(ringed)
    at = next(n for n, s in enumerate(before.steps) if s.id == "front.left.clamp.off")
    told = with_build(
        ringed,
        found=[
            found("f1", "front.left.clamp.off", part="Ball joint, left", minutes_least=20, minutes_most=45),
            found("f2", "front.left.clamp.off", what="Bolt is sheared", work="Drill it out"),
            found("f3", "found.f1", what="Taper is worn", work="Ream it", minutes_least=1, minutes_most=2),
            found("f4", "front.left.clamp.off", decision="later"),
            found("f5", "front.left.clamp.off", decision="left", because="The owner sells it"),
        ],
    )
    after = card(told)
    assert [s.id for s in after.steps[at : at + 4]] == ["front.left.clamp.off", "found.f1", "found.f3", "found.f2"]
    assert len(after.steps) == len(before.steps) + 3
    extra = after.steps[at + 1]
    here = before.steps[at]
    assert (extra.phase, extra.axle, extra.side, extra.joint) == (here.phase, here.axle, here.side, here.joint)
    assert "Ball joint has play. Press a new one in. Part: Ball joint, left." in extra.text
    assert after.minutes == pytest.approx((before.minutes[0] + 20 + 5 + 1, before.minutes[1] + 45 + 15 + 2))
    assert after.preflight.parts == [*before.preflight.parts, "Ball joint, left (found on the way)"]


def test_work_for_a_step_that_is_gone_is_not_lost(ringed: Job) -> None:
    made = card(with_build(ringed, found=[found("f1", "rear.left.pack.off")]))
    at = next(n for n, s in enumerate(made.steps) if s.id == "found.f1")
    assert made.steps[at - 1].axle is not None
    assert not any(s.axle for s in made.steps[at + 1 :])


@pytest.mark.parametrize(
    ("told", "sentence"),
    [
        ({"decision": "left"}, "needs a reason"),
        ({"work": " "}, "needs a step"),
        ({"minutes_least": 30, "minutes_most": 10}, "at most fewer minutes"),
        ({"photos": ["../../etc/passwd"]}, "pattern"),
        ({"what": "?"}, "at least 2"),
    ],
)
def test_what_is_told_half_is_refused(told: dict, sentence: str) -> None:
    with pytest.raises(ValidationError, match=sentence):
        found("f1", "x", **told)


SETTINGS = [
    ("semi_trailing", Collar(axle="rear", by_mm=-6, right_mm=-3), {"left": -6.0, "right": -3.0}, "mm"),
    ("wishbones_torsion", TorsionAdjuster(axle="front", turns=2.5), {"left": 2.5, "right": 2.5}, "turns"),
    # One tooth of 24 in, one of 25 out: 15° less 14.4°.
    ("wishbones_torsion", TorsionReindex(axle="front", inner_teeth=24, outer_teeth=25, inner_by=1, outer_by=1),
     {"left": 0.6, "right": 0.6}, "°"),
]  # fmt: skip


@pytest.mark.parametrize(("key", "change", "moved", "unit"), SETTINGS, ids=lambda v: getattr(v, "type", None))
def test_a_setting_is_held_against_the_plan_on_its_side(
    key: str, change: Change, moved: dict[str, float], unit: str
) -> None:
    job = on(job_on(key, change.axle), change)
    rows = card(job).settings
    assert {r.side: r.by for r in rows} == pytest.approx(moved)
    assert {r.unit for r in rows} == {unit}
    steps = {s.id for s in card(job).steps}
    assert {step for r in rows for step in r.steps} <= steps
    right = next(r for r in rows if r.side == "right")

    def noted(after: float) -> str:
        record = SettingRecord(
            key=right.key, axle=right.axle, side="right", before=40.0, after=after, at=AT, by="Ines Tarrow"
        )
        held = {r.side: r for r in card(with_build(job, settings=[record])).settings}
        assert (held["right"].before, held["right"].after) == (40.0, after)
        assert held["left"].before is None
        assert not held["left"].doubt
        return held["right"].doubt

    assert noted(40.0 + right.by) == ""
    wrong_way = noted(40.0 - right.by)
    assert wrong_way.startswith(f"moved by {-right.by:+g}".replace("-", "−"))


def test_sides_read_only_after_are_held_against_each_other() -> None:
    job = on(job_on("semi_trailing", "rear"), Collar(axle="rear", by_mm=8))
    left, right = card(job).settings

    def doubts(one: float, other: float) -> list[str]:
        records = [
            SettingRecord(key=r.key, axle="rear", side=r.side, after=v, at=AT, by="Ines Tarrow")
            for r, v in ((left, one), (right, other))
        ]
        return [r.doubt for r in card(with_build(job, settings=records)).settings]

    assert doubts(31.0, 31.5) == ["", ""]
    assert doubts(31.0, 34.0) == ["reads −3 mm against the other side", "reads +3 mm against the other side"]


def test_two_wheels_note_their_tubes_and_their_collar() -> None:
    bike = demo_bike_jobs()[-1].machine
    planned = (ForkRaise(raised_mm=bike.fork.raised_mm + 7), RearPreload(preload_mm=bike.preload_mm + 3))
    job = bike_on(bike, [c.model_dump() for c in planned])
    rows = {r.name: r for r in bike_card(job).settings}
    assert rows["tube above the top clamp"].by == pytest.approx(7)
    assert rows["tube above the top clamp"].axle == "front"
    assert rows["thread showing past the collar"].by == pytest.approx(3)
    assert {step for r in rows.values() for step in r.steps} <= {s.id for s in bike_card(job).steps}


def test_an_arm_screwed_to_length_is_noted() -> None:
    job = job_on("wishbones", "front")
    job = on(job, ArmLength.start("front", job.vehicle.front))
    rows = [(r.side, r.by) for r in card(job).settings if not r.key.startswith("align.")]
    assert rows == [("left", 5.0), ("right", 5.0)]


def test_the_same_step_has_one_name_whatever_side_or_change_and_the_shops_own_times_count(ringed: Job) -> None:
    usual = card(ringed)
    works = {s.id: s.work for s in usual.steps}
    assert works["front.left.clamp.off"] == works["front.right.clamp.off"] == "macpherson front.clamp.off"
    change = ringed.plan.changes[0].id
    assert works[f"front.left.{change}.0"] == "macpherson front.seat_spacer.0"
    taken = {"macpherson front.clamp.off": [30.0, 40.0, 50.0], "down.lower": [1.0, 2.0]}
    timed = card(ringed, taken)
    clamp = next(s for s in timed.steps if s.id == "front.left.clamp.off")
    assert clamp.minutes == pytest.approx((32.0, 48.0))
    assert clamp.timed == 3
    lower = next(s for s in timed.steps if s.id == "down.lower")
    assert (lower.timed, lower.minutes) == (0, next(s.minutes for s in usual.steps if s.id == "down.lower"))
    assert timed.timed == 2
    assert timed.minutes[0] - usual.minutes[0] == pytest.approx(
        2 * (32 - next(s.minutes[0] for s in usual.steps if s.id == "front.left.clamp.off"))
    )


@given(st.lists(st.floats(0.1, 500), min_size=3, max_size=40))
def test_a_range_of_times_lies_within_what_was_timed(taken: list[float]) -> None:
    (low, high), many = expected((1, 2), taken)
    assert min(taken) <= low <= high <= max(taken)
    assert many == len(taken)


def test_what_comes_off_is_kept_where_the_job_has_to_go_back(ringed: Job) -> None:
    def with_springs(*, reversible: bool) -> Job:
        springs = SpringSwap.start("front", ringed.vehicle.front)
        brief = ringed.brief.model_copy(update={"reversible": reversible})
        return on(ringed, springs, springs).model_copy(update={"brief": brief})

    made = card(with_springs(reversible=True))
    assert made.preflight.keep == ("2 × coil spring, front",), "of two changes of one part only the first finds it"
    assert made.preflight.move_over == ("2 × seat rubbers, as they lay, front",)
    assert any("coil spring" in line for line in card(with_springs(reversible=False)).preflight.throw_away)
    # Two bolts a side that are renewed go for good, four in all; wheel bolts go back on.
    clamps = [part for part in made.off if part.note == "clamp"]
    assert [(p.side, p.count) for p in clamps] == [("left", clamps[0].count), ("right", clamps[0].count)]
    assert {p.fate for p in made.off if p.note == "wheel"} == {"back"}
    renewed = [p for p in made.off if p.fate == "renewed"]
    for one in renewed:
        many = sum(p.count or 0 for p in renewed if p.name == one.name)
        assert f"{many} × {one.name}, front" in made.preflight.throw_away


def test_bolts_that_nobody_counted_have_no_number_on_the_card() -> None:
    """A vehicle set up from its kind has no fasteners of its own: how many hold a wheel is not known."""
    bare = job_on("leaf_axle", "rear")
    job = on(bare, LeafPacks.start("rear", bare.vehicle.rear))
    made = card(job)
    assert {use.count for step in made.steps for use in step.fasteners} == {None}
    assert "U-bolt nut, as many as come off, rear" in made.preflight.throw_away
    text = re.sub(r"<[^>]+>", " ", report.card_html(job))
    assert "wheel bolt" in text
    assert not re.search(r"\d+ × (wheel bolt|U-bolt nut)", text)
    five = Fastener(name="wheel bolt", count_per_side=5)
    axle = job.vehicle.rear.model_copy(update={"fasteners": {"wheel": five}})
    counted = card(job.model_copy(update={"vehicle": job.vehicle.model_copy(update={"rear": axle})}))
    assert 5 in {use.count for step in counted.steps for use in step.fasteners}


@pytest.mark.parametrize(
    ("key", "bolt", "moved"), [("wishbones", "arm pivot bolt", "wheel"), ("four_link_axle", "link bolt", "axle")]
)
def test_words_of_a_step_are_those_of_the_suspension(key: str, bolt: str, moved: str) -> None:
    bare = job_on(key, "rear")
    holes = DamperHoles.start("rear", bare.vehicle.rear)
    text = " ".join(s.text for s in card(on(bare, holes, LimitStrap.start("rear", bare.vehicle.rear))).steps)
    springs = SpringSwap.start("rear", bare.vehicle.rear)
    higher = card(on(bare, springs.at(springs.coil.free_length_mm + 20)))
    names = {u.name for s in higher.steps for u in s.fasteners}
    assert {"arm pivot bolt", "link bolt"} & names == {bolt}
    assert f"take the {moved} over its travel" in text
    assert f"Let the {moved}{'s' if moved == 'wheel' else ''} hang" in text


def test_papers_say_what_was_changed_measured_found_and_left(ringed: Job) -> None:
    job = demo_jobs()[0]
    told = with_build(
        job,
        ticks=[{"step": "ready.parts", "done_at": AT, "by": "Ines Tarrow", "despite": "list <b>by phone</b>"}],
        found=[
            found("f1", "ready.parts", decision="left", because="Sold next week"),
            found("f2", "ready.parts", what="Boot torn", decision="later"),
        ],
    )
    hand_over = HandOver(watch="Knocks at the rear", retorque_on=date(2026, 6, 1))
    told = told.model_copy(update={"prove": told.prove.model_copy(update={"hand_over": hand_over})})
    text = report.hand_over_html(told)
    rows = before_and_after(told)
    assert [(r.label, r.before, r.after) for r in rows] == [
        ("hub to arch, front left", 389, 388), ("hub to arch, front right", 387, 387),
        ("hub to arch, rear left", 383, 399), ("hub to arch, rear right", 381, 398),
    ]  # fmt: skip
    for words in (
        "because Sold next week", "for another job", "Knocks at the rear", "2026-06-01", "no day agreed",
        "list &lt;b&gt;by phone&lt;/b&gt;", "A plan is not a certificate", "local rules", "399 mm",
    ):  # fmt: skip
        assert words in text, words
    unsigned = told.model_copy(update={"prove": told.prove.model_copy(update={"sign_off": None})})
    assert "Not signed off" in report.hand_over_html(unsigned)
    assert "Not signed off" not in text


def test_a_quotation_has_the_hours_of_the_card_and_labels_every_part_that_comes_off(ringed: Job) -> None:
    job = on(ringed, SpringSwap.start("front", ringed.vehicle.front))
    made = card(job)
    text = report.quotation_html(job)
    assert f"{made.minutes[0] / 60:.1f}</td>" in text
    assert f"{made.minutes[1] / 60:.1f} h</td>" in text
    assert "this shop has not timed such work yet" in text
    assert "of " + str(len(made.steps)) in report.quotation_html(job, {"down.lower": [3.0, 4.0, 5.0]})
    labels = report.labels_html(job)
    assert labels.count('class="label"') == len(made.off) > 0
    assert "keep it: the job has to go back one day" in labels
    for bike in (demo_bike_jobs()[0], demo_bike_jobs()[-1]):
        assert "seat, unladen" in report.hand_over_html(bike)
        assert report.labels_html(bike)
        assert "Together" in report.quotation_html(bike)


def test_a_setting_is_read_where_its_joint_is_opened_and_where_it_is_set() -> None:
    job = on(job_on("wishbones_torsion", "front"), TorsionReindex(axle="front", inner_by=1, outer_by=1))
    left = next(r for r in card(job).settings if r.side == "left")
    assert left.steps == ("front.left.bar.off", f"front.left.{job.plan.changes[0].id}.1")


def test_u_bolts_are_ordered_once_as_long_as_the_axle_is_in_the_end() -> None:
    pick_up = job_on("leaf_axle", "rear")
    packs, block = LeafPacks.start("rear", pick_up.vehicle.rear), Block(axle="rear", height_mm=15)
    for job in (on(pick_up, packs, block), on(pick_up, block, packs)):
        made = card(job).preflight
        bolts = [line for line in made.parts if "U-bolt" in line]
        assert bolts == ["4 U-bolts with nuts, 15 mm longer than those that come off (rear)"]
        assert not any("U-bolt" in line for line in (*made.hardware, *made.consumables))
        assert {p.fate for p in card(job).off if p.note == "u bolts"} == {"renewed"}
    wedge = on(pick_up, Wedge.start("rear", pick_up.vehicle.rear))
    assert [p for p in card(wedge).preflight.parts if "U-bolt" in p] == [
        "4 U-bolts with nuts, as those that come off (rear)"
    ]


@pytest.mark.parametrize(
    ("key", "change", "left", "right"),
    [
        ("semi_trailing", Collar(axle="rear", by_mm=-6, right_mm=3, pitch_mm=2), "−3.00 turns · −6 mm",
         "+1.50 turns · +3 mm"),
        ("wishbones_torsion", TorsionReindex(axle="front", inner_by=-1, outer_by=-1), *["−1 inside · −1 outside"] * 2),
        ("wishbones_torsion", TorsionAdjuster(axle="front", turns=2.5, right_turns=-1), "+2.5 turns", "−1 turns"),
        ("strut_front", SeatSpacer(axle="front", thickness_mm=12), "+12 mm", "+12 mm"),
    ],
    ids=lambda v: getattr(v, "type", None),
)  # fmt: skip
def test_the_number_of_a_change_stands_large_on_the_step_that_sets_it(
    key: str, change: Change, left: str, right: str
) -> None:
    steps = card(on(job_on(key, change.axle), change)).steps
    assert [s.figure for s in steps if s.id.startswith(f"{change.axle}.left.c0.") and s.figure] == [left]
    assert [s.figure for s in steps if s.id.startswith(f"{change.axle}.right.c0.") and s.figure] == [right]


def test_an_angle_that_a_wrench_told_is_held_against_the_figure(ringed: Job) -> None:
    (role, *_) = joints_of(ringed.vehicle.front)["clamp"].fasteners
    bolt = Fastener(name="clamp bolt", torque_nm=60, angle_deg=90, source="sheet 4")
    front = ringed.vehicle.front.model_copy(update={"fasteners": {role: bolt}})
    job = ringed.model_copy(update={"vehicle": ringed.vehicle.model_copy(update={"front": front})})

    def doubt(**told: object) -> str:
        record = {"fastener": role, "axle": "front", "side": "left", "done_at": AT, "by": "Ines Tarrow"} | told
        steps = {s.id: s for s in card(with_build(job, torques=[record])).steps}
        return next(f.doubt for f in steps["front.left.clamp.on"].fasteners if f.key == role)

    assert doubt(torque="60 Nm", angle_deg=95) == ""
    assert doubt(torque="60 Nm", angle_deg=120) == "120° were turned, 90° is the figure: is it the right bolt?"
    assert doubt(torque="200 Nm") == "", "a torque after an angle has no figure to be held against"
    assert doubt(by_feel=True) == "tightened by feel, to no figure"


def test_a_part_is_kept_only_where_it_can_go_back_on() -> None:
    fates = {(r, s): fate_of(reversible=r, stays=s) for r in (True, False) for s in (True, False)}
    assert fates == {(True, False): "keep", (True, True): "away", (False, False): "away", (False, True): "away"}

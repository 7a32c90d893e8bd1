"""The same laws on two wheels: every machine, every change, and pairs of changes."""

from itertools import combinations

import pytest

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.card import FRONT, WHEELS, bike_card
from inclinum.core.bike.changes import BIKE_CHANGES, PlannedBikeChange, begin
from inclinum.core.bike.job import BikeJob, BikePlan
from inclinum.core.bike.joints import WORDS, freed_by_hand, joints_of, reached
from inclinum.core.bike.machine import Clevis
from inclinum.core.bike.prediction import assess
from inclinum.core.card import cautions
from inclinum.core.document.errors import DomainError
from tests.core.test_bike import job_on

PAIRED = (
    "rear_spring", "rear_preload", "rear_damper", "rear_unit", "rear_link", "fork_oil", "fork_springs", "fork_raise",
    "tyres",
)  # fmt: skip
KINDS = [k.model_fields["type"].default for k in BIKE_CHANGES]


def planned(job: BikeJob, *kinds: str) -> BikeJob:
    """The job with those of the changes that its machine takes."""
    changes: tuple[PlannedBikeChange, ...] = ()
    for kind in kinds:
        try:
            changes = (*changes, begin(kind, assess(job).fitted.bike, changes))
        except DomainError:
            continue
    return job.model_copy(update={"plan": BikePlan(changes=changes)})


def holds(job: BikeJob) -> set[str]:
    """Every law on the card of a job, each named by its assertion; which joints were opened."""
    made, joints = bike_card(job), joints_of(job.machine)
    at = {s.id: n for n, s in enumerate(made.steps)}
    assert len(at) == len(made.steps)
    opened = [s.id.removesuffix(".off") for s in made.steps if s.id.endswith(".off")]
    closed = [s.id.removesuffix(".on") for s in made.steps if s.id.endswith(".on")]
    assert sorted(opened) == sorted(closed), "nothing opened stays open, and nothing is closed that was not open"
    for key in opened:
        assert all(at[f"{n}.off"] < at[f"{key}.off"] for n in joints[key].needs), "no step before its precondition"
        assert all(at[f"{n}.on"] > at[f"{key}.on"] for n in joints[key].needs), "closed in reverse"
        if joints[key].stored:
            off = made.steps[at[f"{key}.off"]]
            assert off.hold, "what is stored is held back first"
            assert off.caution
    tightened = [f.key for s in made.steps for f in s.fasteners]
    assert sorted(tightened) == sorted(r for k in opened for r in joints[k].fasteners), "each bolt once, and no other"
    collar = [n for n, s in enumerate(made.steps) if s.text.startswith("Collar ") and "from zero" in s.text]
    work = {
        p.id: [n for m in range(9) if (n := at.get(f"{p.id}.{m}")) is not None and n not in collar]
        for p in job.plan.changes
    }
    for p in job.plan.changes:
        for word in p.change.opened(job.machine):
            for key in reached(word, joints):
                assert all(at[f"{key}.off"] < n < at[f"{key}.on"] for n in work[p.id]), "done while its place is open"
        if work[p.id] and not p.change.sets_collar:
            large = {made.steps[n].figure for n in work[p.id]} - {None}
            told = p.change.figure(job.machine)
            assert large == ({told} if told else set()), "its number stands large at the step that names it"
        places = {key for word in p.change.opened(job.machine) for key in reached(word, joints)}
        behind = opened[max((opened.index(key) for key in places), default=len(opened)) + 1 :]
        ours = [key for key in behind if (key in FRONT) == (p.change.end == "front") and key not in WHEELS]
        assert all(at[f"{key}.on"] < n for n in work[p.id] for key in ours), "what was opened behind it is home"
    assert len(collar) == any(p.change.sets_collar for p in job.plan.changes), "a collar is set once"
    if collar and "rear_spring" in opened:
        assert at["rear_spring.on"] < collar[0] < at["damper_upper.on"], "on a coil that is home, on the bench"
    elif collar and "damper_upper" in opened:
        rear = [n for p in job.plan.changes if "damper" in p.change.opens for n in work[p.id]]
        assert max(rear, default=0) < collar[0] < at["damper_upper.on"], "on the unit that goes in"
    rubber = [s for s in made.steps if s.id == "down.rubber"]
    assert all(s.hold == cautions.RUBBER for s in rubber)
    ends = {p.change.end for p in job.plan.changes}
    text = " ".join(s.text for s in made.steps)
    assert "Caps" not in text or "fork_cap" in opened, "no fork on a rear job"
    if {"fork_cap", "lower_clamp"} <= set(opened):
        assert at["fork_cap.off"] < at["lower_clamp.off"], "a cap is cracked while the lower clamp holds its tube"
        assert at["lower_clamp.on"] < at["fork_cap.on"] < at["top_clamp.on"]
    drives = {"chain", "belt", "shaft"} - {job.machine.drive.kind}
    assert not [word for word in drives if word in text.lower().split()], "no chain on a shaft"
    assert ("rear_spring" in opened and not freed_by_hand(job.machine)) == ("compressed until" in text)
    pressed = "compressed until" in text or "eased down" in text
    assert ("compressor" in " ".join(made.preflight.tools)) == pressed, "laid out where it is needed, at either end"
    assert ("front" in ends) or not [s for s in made.steps if s.phase == "Fork"]
    return set(opened)


@pytest.mark.parametrize("key", BIKES)
def test_every_change_and_every_pair_on_every_machine_has_a_card_that_holds_the_laws(key: str) -> None:
    job = job_on(BIKES[key].bike("Law"))
    alone = {kind: holds(one) for kind in KINDS if (one := planned(job, kind)).plan.changes}
    assert alone["rear_preload"] == set(), "a collar is turned with nothing off"
    caps = [alone[kind] for kind in ("fork_oil", "fork_springs", "fork_spacer", "fork_travel") if kind in alone]
    assert caps, "every fork has something inside it"
    assert all(opened == {"fork_cap", "top_clamp"} for opened in caps), "the lower clamp holds the tubes"
    assert alone["rear_spring"] >= {"weight_off", "damper_upper", "rear_spring"}
    for one, other in combinations(PAIRED, 2):
        if one in alone and other in alone:
            assert holds(planned(job, one, other)) == alone[one] | alone[other], "and nothing that neither needs"


def test_of_two_at_one_place_the_deeper_comes_first() -> None:
    """An oil level is read with the springs out, and an eye is screwed on before a coil hangs over it."""
    came = BIKES["linkage_frame"].bike("Law")
    threaded = came.damper.model_copy(update={"clevis": Clevis(thread_mm=24, least_thread_mm=12)})
    for stack in (
        ("fork_spacer", "fork_springs", "fork_oil", "fork_travel"),
        ("rear_preload", "rear_spring", "rear_eye", "rear_damper"),
    ):
        job = planned(job_on(came.model_copy(update={"damper": threaded})), *stack)
        assert len(job.plan.changes) == 4
        holds(job)
        at = [s.id for s in bike_card(job).steps]
        first = [at.index(f"{p.id}.0") for p in job.plan.changes if p.change.type != "rear_preload"]
        assert first == sorted(first, reverse=True), "planned the other way round"


def test_every_word_is_a_place() -> None:
    joints = joints_of(BIKES["linkage_frame"].bike("x"))
    below = BIKES["linkage_frame"].bike("x")
    below = below.model_copy(update={"fork": below.fork.model_copy(update={"opened_from": "below"})})
    assert {k for keys in WORDS.values() for k in keys} <= set(joints) | set(joints_of(below))
    for each in (joints, joints_of(below)):
        assert all(reached(word, each) for word in WORDS), "no word means nothing"
    for kind in BIKE_CHANGES:
        assert kind.opens <= set(WORDS), kind.title
    with pytest.raises(DomainError, match="No change is done at"):
        reached("exhaust", joints)


def test_a_fork_opened_from_below_and_a_coil_freed_by_its_collar() -> None:
    """Wheel, mudguard and calipers before the foot bolts, no cap turned; no compressor where the thread gives play."""
    came = BIKES["downhill"].bike("Law")
    fork = came.fork.model_copy(update={"opened_from": "below"})
    damper = came.damper.model_copy(update={"threads_at_zero_mm": 6.0})
    job = planned(job_on(came.model_copy(update={"fork": fork, "damper": damper})), "fork_springs", "rear_spring")
    opened = holds(job)
    assert {"front_wheel", "fork_guard", "fork_foot", "rear_spring"} <= opened
    assert not {"fork_cap", "top_clamp", "lower_clamp"} & opened
    made = bike_card(job)
    at = [s.id for s in made.steps]
    order = ["front_wheel.off", "fork_guard.off", "fork_foot.off", "fork_foot.on", "fork_guard.on", "front_wheel.on"]
    assert [at.index(i) for i in order] == sorted(at.index(i) for i in order)
    assert "Holder for the damping rod" in made.preflight.tools
    assert not any("ap" in tool and "Socket" in tool for tool in made.preflight.tools)
    by_hand = next(s for s in made.steps if s.id == "rear_spring.off")
    assert "No compressor" in by_hand.text
    assert by_hand.hold
    # Its oil is a height of air, and that is read at the top.
    assert {"fork_foot", "fork_cap", "top_clamp"} <= holds(planned(job, "fork_springs", "fork_oil"))
    # A longer coil takes the play away: it has to be eased down again.
    longer = job.plan.changes[-1].change
    spring = longer.spring.model_copy(update={"free_length_mm": longer.spring.free_length_mm + 8})  # type: ignore[union-attr]
    swapped = job.plan.changes[-1].model_copy(update={"change": longer.model_copy(update={"spring": spring})})
    longer_job = job.model_copy(update={"plan": BikePlan(changes=(*job.plan.changes[:-1], swapped))})
    holds(longer_job)
    closing = next(s for s in bike_card(longer_job).steps if s.id == "rear_spring.on")
    assert "eased down" in closing.text

"""The same laws on two wheels: every machine, every change, and pairs of changes."""

from itertools import combinations

import pytest

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.card import bike_card
from inclinum.core.bike.changes import BIKE_CHANGES, PlannedBikeChange, begin
from inclinum.core.bike.job import BikeJob, BikePlan
from inclinum.core.bike.joints import WORDS, joints_of, reached
from inclinum.core.bike.prediction import assess
from inclinum.core.card import cautions
from inclinum.core.document.errors import DomainError
from tests.core.test_bike import job_on

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
    for p in job.plan.changes:
        for word in p.change.opened(job.machine):
            for key in reached(word):
                done = [n for id_, n in at.items() if id_.startswith(f"{p.id}.")]
                assert all(at[f"{key}.off"] < n < at[f"{key}.on"] for n in done), "done while its place is open"
    rubber = [s for s in made.steps if s.id == "down.rubber"]
    assert all(s.hold == cautions.RUBBER for s in rubber)
    ends = {p.change.end for p in job.plan.changes}
    text = " ".join(s.text for s in made.steps)
    assert "Caps" not in text or "fork_cap" in opened, "no fork on a rear job"
    assert ("rear_spring" in opened) == ("compressed until" in text)
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
    for one, other in combinations(("rear_spring", "fork_oil", "fork_raise", "tyres", "rear_damper"), 2):
        if one in alone and other in alone:
            assert holds(planned(job, one, other)) == alone[one] | alone[other], "and nothing that neither needs"


def test_every_word_is_a_place() -> None:
    joints = joints_of(BIKES["linkage_frame"].bike("x"))
    assert {k for keys in WORDS.values() for k in keys} <= set(joints)
    for kind in BIKE_CHANGES:
        assert kind.opens <= set(WORDS), kind.title
    with pytest.raises(DomainError, match="No change is done at"):
        reached("exhaust")

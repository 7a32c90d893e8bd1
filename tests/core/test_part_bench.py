"""The part bench: every part is worked out in words and units, and is in a job what it was on the bench."""

from contextlib import suppress

import pytest
from pydantic import TypeAdapter

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.prediction import predict_bike
from inclinum.core.car.changes import DamperHoles, PlannedChange
from inclinum.core.car.job import Plan
from inclinum.core.car.prediction import assess, predict
from inclinum.core.document.errors import DomainError
from inclinum.core.machines.part_bench import OF_BIKE, OF_CAR, named, parts, planned, worked_out
from inclinum.core.part_sheets import AnySheet, Sheet
from inclinum.core.springs.fitted import Coil, LeafPackData
from tests.core import test_bike
from tests.core.test_every_change import job_on

SHEETS: TypeAdapter[Sheet] = TypeAdapter(AnySheet)
PARTS = {p.kind: p for p in parts()}


def part(kind: str, **changed: object) -> Sheet:
    return SHEETS.validate_python(PARTS[kind].example | changed)


@pytest.mark.parametrize("kind", PARTS)
def test_every_part_is_told_in_words_with_units(kind: str) -> None:
    answer = worked_out(part(kind))
    assert answer.results
    assert answer.main
    names = [r.name for r in answer.results]
    assert len(set(names)) == len(names)
    for name in names:
        assert "_" not in name
        assert name[0].isupper()
    assert all(len(row) == len(t.columns) for t in answer.tables for row in t.rows)
    # What a field's name ends with is its unit, and stands on the form.
    fields = PARTS[kind].parameters["properties"]
    assert all(field.get("unit") for name, field in fields.items() if name.endswith(("_mm", "_N_per_mm", "_N")))
    assert "assumptions" not in fields


def test_names_become_words_and_units() -> None:
    assert named("spring_force_at_baseline_N") == ("Spring force at baseline", "N")
    assert named("rate_N_per_mm") == ("Rate", "N/mm")
    assert named("margin_ok") == ("Margin ok", "")
    assert named("installation_ratio") == ("Motion ratio", "")


def test_a_coil_by_calliper_is_in_the_job_what_it_is_on_the_bench() -> None:
    """Wire 12.4, outside 128, 6.5 coils: G·d⁴/(8·D³·n) = 23.34 N/mm, solid at 8 × 12.4 = 99.2."""
    job = job_on("wishbones_long", "rear")
    put = planned(part("coil-wire"), job, "rear")
    done = assess(job.model_copy(update={"plan": Plan(changes=(put,))})).after.rear  # type: ignore[arg-type]
    coil = done.axle.spring
    assert isinstance(coil, Coil)
    assert coil.rate_n_per_mm == pytest.approx(79300 * 12.4**4 / (8 * 115.6**3 * 6.5), abs=0.01)
    assert (coil.solid_length_mm, coil.free_length_mm, coil.inside_mm) == pytest.approx((99.2, 345, 103.2))
    bench = {r.name: r.value for r in worked_out(part("coil-wire")).results}
    assert coil.rate_n_per_mm == pytest.approx(bench["Coil rate"], abs=0.01)


@pytest.mark.parametrize("kind", [k for k, p in PARTS.items() if p.machine == "car"])
def test_every_part_of_four_wheels_becomes_a_change_of_an_axle_that_takes_it(kind: str) -> None:
    where = {"leaf-pack": "leaf_axle", "torsion-bar": "trailing_torsion"}.get(kind, "four_link_axle")
    job = job_on(where, "rear")
    put = planned(part(kind), job, "rear")
    assert isinstance(put, PlannedChange)
    assert put.change.type == OF_CAR[type(part(kind))][0]
    predict(job.model_copy(update={"plan": Plan(changes=(put,))}))
    other = job_on("trailing_torsion" if kind != "torsion-bar" else "leaf_axle", "rear")
    if kind != "damper-brackets":
        with pytest.raises(DomainError, match=" rear axle"):
            planned(part(kind), other, "rear")
    with pytest.raises(DomainError, match="say which"):
        planned(part(kind), job, None)


@pytest.mark.parametrize("kind", [k for k, p in PARTS.items() if p.machine == "bike"])
def test_every_part_of_two_wheels_becomes_a_change(kind: str) -> None:
    taken = 0
    for archetype in BIKES.values():
        job = test_bike.job_on(archetype.bike("x"))
        try:
            put = planned(part(kind), job, None)
        except DomainError:
            continue
        taken += 1
        assert put.change.type == OF_BIKE[type(part(kind))][0]
        with suppress(DomainError):  # the bench's part need not fit this machine
            predict_bike(job.model_copy(update={"plan": job.plan.model_copy(update={"changes": (put,)})}))
    assert taken


def test_what_is_no_change_or_counts_with_other_steel_says_so() -> None:
    job = job_on("leaf_axle", "rear")
    with pytest.raises(DomainError, match="becomes no change"):
        planned(part("stations"), job, "rear")
    with pytest.raises(DomainError, match="becomes no change"):
        planned(part("fork"), job, "rear")
    with pytest.raises(DomainError, match="usual steel"):
        planned(part("leaf-pack", E_N_per_mm2=200_000), job, "rear")
    pack = planned(part("leaf-pack"), job, "rear").change.spring  # type: ignore[union-attr]
    assert isinstance(pack, LeafPackData)
    assert isinstance(job.vehicle.rear.spring, LeafPackData)
    assert (pack.leaves, pack.free_arch_mm, pack.arch_mm) == (7, 171, job.vehicle.rear.spring.arch_mm)
    with pytest.raises(DomainError, match="solid length"):
        planned(
            part("spring-swap", new_spring={"rate_N_per_mm": 37.0, "free_length_mm": 362.0}),
            job_on("four_link_axle", "rear"), "rear",
        )  # fmt: skip


def test_holes_further_up_on_the_bench_are_further_up_in_the_job() -> None:
    """From the hole it hangs in, (120, 334), to (124, 359): 25 up and 4 forward."""
    put = planned(part("damper-brackets"), job_on("four_link_axle", "rear"), "rear").change
    assert isinstance(put, DamperHoles)
    assert [(h.name, h.up_mm, h.forward_mm) for h in put.holes] == [("one up", 25, 4), ("two up", 50, 8)]

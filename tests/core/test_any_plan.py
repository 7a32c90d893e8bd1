"""Plans nobody would draw, on every suspension: an answer or a sentence, never a crash; and every way out is one."""

from random import Random
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from inclinum.core.car.card import card
from inclinum.core.car.changes import Change, PlannedChange
from inclinum.core.car.job import AxleAim, Job, Plan
from inclinum.core.car.prediction import predict
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.quantity import Length
from tests.core.test_every_change import AT, KINDS, begun, equipped, job_on


def other_numbers(change: Change, by: Random) -> Change:
    """The same change with about half of its numbers elsewhere, as far as it may have them."""
    put: dict[str, Any] = change.model_dump()
    for name, field in type(change).model_fields.items():
        value, extra = put[name], field.json_schema_extra
        if by.random() < 0.5 or isinstance(value, bool):
            continue
        if isinstance(value, int | float):
            ends = extra.get("slider") if isinstance(extra, dict) else None
            moved = by.uniform(*ends) if ends else value * by.uniform(0.5, 1.6) + by.choice([0, 5, -5, 20])  # type: ignore[misc]
            put[name] = int(moved) if field.annotation is int else round(moved, 1)
        elif isinstance(value, dict):
            put[name] = {k: round(v * by.uniform(0.7, 1.4), 2) if isinstance(v, float) else v for k, v in value.items()}
    try:
        return type(change).model_validate(put)
    except ValidationError:
        return change


def answered(job: Job, changes: tuple[PlannedChange, ...]) -> Any:
    """What is predicted of a plan, or the sentence it is refused with; its card likewise."""
    planned = job.model_copy(update={"plan": Plan(changes=changes)})
    try:
        found = predict(planned)
        card(planned)
    except DomainError as no:
        return str(no)
    return found


@settings(deadline=None, max_examples=40, derandomize=True)
@given(
    where=st.sampled_from(AT),
    kinds=st.lists(st.tuples(st.sampled_from(KINDS), st.booleans()), min_size=1, max_size=4),
    full=st.booleans(),
    rise=st.integers(-60, 80),
    by=st.randoms(use_true_random=False),
)
def test_any_plan_is_answered_and_what_is_offered_can_be_taken(
    where: tuple[str, AxleName], kinds: list[tuple[str, bool]], full: bool, rise: int, by: Random
) -> None:
    key, end = where
    job = equipped(job_on(key, end), end) if full else job_on(key, end)
    aim = AxleAim(rise=Length.model_validate(f"{rise} mm"))
    job = job.model_copy(update={"brief": job.brief.model_copy(update={end: aim})})
    stack: tuple[PlannedChange, ...] = ()
    for kind, elsewhere in kinds:
        at: AxleName = ("rear" if end == "front" else "front") if elsewhere else end
        planned = begun(kind, at, job.model_copy(update={"plan": Plan(changes=stack)}))
        if not isinstance(planned, str):
            stack = (*stack, planned.model_copy(update={"change": other_numbers(planned.change, by)}))
    found = answered(job, stack)
    if isinstance(found, str):
        assert found[0].isupper(), found
        assert found.endswith("."), found
        return
    for finding in found.findings:
        for cure in finding.cures:
            taken = answered(job, cure.changes)
            assert not isinstance(taken, str), f"{finding.id}: {cure.title}: {taken}"

"""Changes that leave no trace in the machine, because a later one takes their place."""

from collections.abc import Iterator, Sequence
from typing import Any

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.plan.change import Change, PlannedT, in_turn, made


def taken_over(machine: Document, stack: Sequence[PlannedT]) -> list[tuple[PlannedT, PlannedT]]:
    """Changes that are on and without which the planned machine would be the same, each with what takes its place.

    One that changes nothing by itself yet is none: it is set to nothing, and not taken over.

    Args:
        machine: as it came.
        stack: what is planned; it can be made.
    """
    on = [planned for planned in stack if planned.on]
    machines = in_turn(machine, stack)
    # Most plans have none that may, and a live drag asks every time.
    brings = [(p.change.where, p.change.provides, _renews(p.change)) for p in on]
    found = []
    for n, planned in enumerate(on):
        where, provides, _ = brings[n]
        replacing = [
            k for k, (at, what, renews) in enumerate(brings[n + 1 :], n + 1)
            if at == where and (renews or what == provides != "")
        ]  # fmt: skip
        was = machines[n]
        if not replacing or all(field in planned.change.marks for field in _differing(was, machines[n + 1])):
            continue
        try:
            for k in range(n + 1, replacing[-1] + 1):
                later, now = on[k], machines[k + 1]
                was = made(later.change, was)
                if was == now:
                    found.append((planned, later))
                    break
        except DomainError:
            continue
    return found


def _renews(change: Change[Any]) -> bool:
    """Whether a change may bring what one of another kind at the same end brought, by what it says of itself."""
    return bool(change.also_meets) or change.renews_springs


def _differing(was: Document, now: Document) -> Iterator[str]:
    """Names of the fields of both, and of their parts, that are not alike."""
    before, after = vars(was), vars(now)
    for name in type(now).__pydantic_fields__:
        old, value = before[name], after[name]
        if value is old:
            continue
        if isinstance(value, Document) and isinstance(old, Document) and type(old) is type(value):
            yield from _differing(old, value)
        elif value != old:
            yield name

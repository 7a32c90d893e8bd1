"""Changes that leave no trace in the machine, because a later one takes their place."""

from collections.abc import Iterator, Sequence
from typing import Any

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.plan.change import Change, PlannedT, apply_all, at_their_place, made


def taken_over(machine: Document, stack: Sequence[PlannedT]) -> list[tuple[PlannedT, PlannedT]]:
    """Changes that are on and without which the planned machine would be the same, each with what takes its place.

    One that changes nothing by itself yet is none: it is set to nothing, and not taken over.

    Args:
        machine: as it came.
        stack: what is planned; it can be made.
    """
    met = at_their_place(machine, stack)
    after = [then for _, then in met[1:]] + [apply_all(machine, stack)]
    found = []
    for n, (planned, was) in enumerate(met):
        last = max((k for k in range(n + 1, len(met)) if _may_replace(met[k][0].change, planned.change)), default=n)
        # Most plans have none that may, and a live drag asks every time.
        if last == n or not {field for field in _differing(was, after[n]) if field not in planned.change.marks}:
            continue
        try:
            for (later, _), now in zip(met[n + 1 : last + 1], after[n + 1 : last + 1], strict=True):
                was = made(later.change, was)
                if was == now:
                    found.append((planned, later))
                    break
        except DomainError:
            continue
    return found


def _may_replace(later: Change[Any], earlier: Change[Any]) -> bool:
    """Whether a change brings what an earlier one of the same end brought, by what both say of themselves."""
    brings = bool(later.also_meets) or later.renews_springs or later.provides == earlier.provides != ""
    return brings and later.where == earlier.where


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

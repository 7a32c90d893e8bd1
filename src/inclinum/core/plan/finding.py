"""What a limit says: a number against a limit, with a reason and ways out."""

from collections.abc import Iterable
from typing import Any, Generic, Literal, TypeVar

from inclinum.core.document import Document
from inclinum.core.document.names import AxleName

Severity = Literal["stops", "fix", "know"]
WORST_FIRST: dict[str, int] = {"stops": 0, "fix": 1, "know": 2}
PlannedT = TypeVar("PlannedT")
CureT = TypeVar("CureT")


class Cure(Document, Generic[PlannedT]):
    """A way out: the whole plan as it would be with one press."""

    title: str
    changes: tuple[PlannedT, ...]


class Finding(Document, Generic[CureT]):
    """One landmark or margin of the plan."""

    id: str
    axle: AxleName | None
    severity: Severity
    what: str
    value: float
    limit: float
    margin: float
    """How much is left; negative when the limit is passed. Same unit as value."""
    unit: Literal["mm", "deg", "%", "N/mm", ""]
    """Empty of what is no matter of more or less: its numbers only say that it is so, and are not shown."""
    why: str
    source: str
    settled_by: tuple[str, ...] = ()
    """Readings that nobody took and the number rests on: it is assumed then, and stops no plan alone."""
    wanted_rise: float | None = None
    """Rise of the axle that would settle it, mm, where height is the matter: ways to it become cures."""
    cures: tuple[CureT, ...] = ()
    ways_sought: bool = True
    """Whether ways to its height were looked for; while a slider is held there may be some that nobody looked for."""


FindingT = TypeVar("FindingT", bound=Finding[Any])


def worst_first(found: Iterable[FindingT]) -> list[FindingT]:
    """By severity; within one the finding furthest past its limit first."""
    return sorted(found, key=lambda f: (WORST_FIRST[f.severity], f.margin))


def assumed(finding: FindingT, readings: tuple[str, ...], machine: str) -> FindingT:
    """A finding whose number rests on what nobody gave: it says so, and stops nothing alone.

    Args:
        finding: as the limit told it.
        readings: what would settle it, in words; the finding stays as it is where there are none.
        machine: what the guess came with: an axle, a machine.
    """
    if not readings:
        return finding
    wanted = " and ".join(readings)
    return finding.model_copy(
        update={
            "severity": "fix" if finding.severity == "stops" else finding.severity,
            "why": f"{finding.why} Assumed with this kind of {machine}, not measured: {wanted}. "
            "Measure it and it is settled.",
            "source": f"assumed: nobody gave {wanted} ({finding.source})",
            "settled_by": readings,
        }
    )


def stated(changes: Iterable[Any], kind: type[FindingT]) -> list[FindingT]:
    """One line per change that is on and whose number is somebody's word, to say so beside what is worked out.

    Args:
        changes: the stack.
        kind: which machine's findings.
    """
    return [
        kind.model_validate(
            {
                "id": f"stated.{planned.id}",
                "axle": planned.change.where,
                "severity": "know",
                "what": f"{planned.change.title}, {planned.change.where}: stated, not computed",
                "value": planned.change.rise_tolerance(),
                "limit": 0.0,
                "margin": 0.0,
                "unit": "mm",
                "why": f"{planned.change.summary()}. Its height is taken at that word, springs, loads and stops as "
                "they were: read the height after it is done.",
                "source": "whoever states it",
            }
        )
        for planned in changes
        if planned.on and planned.change.stated
    ]

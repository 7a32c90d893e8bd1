"""What changed between two versions of a stage: in words for the job's history, and whole beside it."""

from collections.abc import Iterator
from typing import Any

from inclinum.core.document import Document, unit_of
from inclinum.core.document.identity import by_identity, is_entry
from inclinum.core.document.merge import in_words
from inclinum.jobfile import LONGEST_LINE

MOST = 8
LONGEST_VALUE = 90
"""Characters of a value in the words; eight changes of two values then stay below the longest line."""
Detail = list[dict[str, Any]]


def describe(stage: str, before: Document, after: Document) -> tuple[str, Detail]:
    """One line of words (the stage, and each field or item that changed), and the same whole: path, old, new."""
    changes = list(_compare(before.model_dump(mode="json"), after.model_dump(mode="json"), ""))
    if not changes:
        return f"{stage}: saved in another order", []
    more = f" and {len(changes) - MOST} more" if len(changes) > MOST else ""
    line = f"{stage}: " + "; ".join(_words(*c) for c in changes[:MOST]) + more
    return shortened(line, LONGEST_LINE), [{"path": path, "old": old, "new": new} for path, old, new in changes]


def shortened(text: str, longest: int) -> str:
    """A text that is no longer than that; an ellipsis tells that something was left out."""
    return text if len(text) <= longest else text[: longest - 1] + "…"


def _words(path: str, old: Any, new: Any) -> str:
    told_old, told_new = (shortened(in_words(v), LONGEST_VALUE) for v in (old, new))
    if isinstance(new, dict) and old is None and not is_entry(new):
        return f"{path} added: {shortened(in_words(new), 2 * LONGEST_VALUE)}"
    if isinstance(old, dict) and new is None and not is_entry(old):
        return f"{path} removed: {shortened(in_words(old), 2 * LONGEST_VALUE)}"
    return f"{shortened(path, LONGEST_VALUE)}: {told_old} → {told_new}"


def _compare(old: Any, new: Any, path: str) -> Iterator[tuple[str, Any, Any]]:
    if old == new:
        return
    if is_entry(old) or is_entry(new):
        yield path, old, new
    elif isinstance(old, dict) and isinstance(new, dict):
        for key in dict.fromkeys([*old, *new]):
            yield from _compare(old.get(key), new.get(key), f"{path} {_named(key)}".strip())
    elif isinstance(old, list) and isinstance(new, list):
        were, are = by_identity(old), by_identity(new)
        for label in dict.fromkeys([*were, *are]):
            if label not in were:
                yield path, None, are[label]
            elif label not in are:
                yield path, were[label], None
            else:
                yield from _compare(were[label], are[label], f"{path} {label}".strip())
    else:
        yield path, old, new


def _named(field: str) -> str:
    """A field as a person reads it, with its unit."""
    name, unit = unit_of(field)
    return f"{name.replace('_', ' ')}{f', {unit}' if unit else ''}"


def differences(old: Any, new: Any, path: str) -> str:
    """What changed between two values at a path, in words of one line."""
    return "; ".join(_words(*change) for change in list(_compare(old, new, path))[:MOST])

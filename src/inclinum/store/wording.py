"""What changed between two versions of a stage, in words for the job's history."""

from collections.abc import Iterator
from typing import Any

from inclinum.core.document import Document

IDENTITY = (
    ("id",), ("axle", "side", "quantity"), ("axle", "side", "angle"), ("station", "side"), ("step",),
    ("fastener", "axle", "side", "done_at"), ("quantity", "value_mm"),
)  # fmt: skip
"""Keys that tell items of a list apart, first match wins."""
MOST = 8


def describe(stage: str, before: Document, after: Document) -> str:
    """One line: the stage, and each field or item that changed, with its old and new value."""
    changes = list(_compare(before.model_dump(mode="json"), after.model_dump(mode="json"), ""))
    if not changes:
        return f"{stage}: saved in another order"
    more = f" and {len(changes) - MOST} more" if len(changes) > MOST else ""
    return f"{stage}: " + "; ".join(changes[:MOST]) + more


def _compare(old: Any, new: Any, path: str) -> Iterator[str]:
    if old == new:
        return
    if _is_entry(old) or _is_entry(new):
        yield f"{path}: {_short(old)} → {_short(new)}"
    elif isinstance(old, dict) and isinstance(new, dict):
        for key in dict.fromkeys([*old, *new]):
            yield from _compare(old.get(key), new.get(key), f"{path} {key.replace('_', ' ')}".strip())
    elif isinstance(old, list) and isinstance(new, list):
        were, are = _by_identity(old), _by_identity(new)
        for label in dict.fromkeys([*were, *are]):
            if label not in were:
                yield f"{path} added: {_short(are[label])}"
            elif label not in are:
                yield f"{path} removed: {_short(were[label])}"
            else:
                yield from _compare(were[label], are[label], f"{path} {label}".strip())
    else:
        yield f"{path}: {_short(old)} → {_short(new)}"


def _is_entry(value: Any) -> bool:
    return isinstance(value, dict) and value.keys() >= {"text", "value", "unit"}


def _by_identity(items: list[Any]) -> dict[str, Any]:
    """Items by what tells them apart; by their place where nothing does."""
    found = {}
    for n, item in enumerate(items):
        keys = next((k for k in IDENTITY if isinstance(item, dict) and all(name in item for name in k)), ())
        found[" ".join(str(item[k]) for k in keys) or str(n + 1)] = item
    return found


def _short(value: Any) -> str:
    """A value in a few words."""
    if value is None or value == "":
        return "nothing"
    if _is_entry(value):
        return str(value["text"])
    if isinstance(value, dict):
        parts = [f"{k.replace('_', ' ')} {_short(v)}" for k, v in value.items() if v not in (None, "", [], {})]
        return ", ".join(parts)
    if isinstance(value, list):
        return ", ".join(map(_short, value)) or "nothing"
    return str(value)

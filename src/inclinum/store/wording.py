"""What changed between two versions of a stage, in words for the job's history."""

from typing import Any

from inclinum.core.document import Document

IDENTITY = (
    ("id",), ("axle", "side", "quantity"), ("axle", "side", "angle"), ("station", "side"), ("step",),
    ("fastener", "axle", "side", "done_at"), ("quantity", "value_mm"),
)  # fmt: skip
"""Keys that tell items of a list apart, first match wins."""
MOST = 8


def describe(stage: str, before: Document, after: Document) -> str:
    """One line: the stage, and each field that changed with its old and new value."""
    old, new = _flat(before.model_dump(mode="json")), _flat(after.model_dump(mode="json"))
    changes = []
    for path in sorted(old.keys() | new.keys()):
        if old.get(path) == new.get(path) or path.endswith((".value", ".unit", ".tolerance", ".done_at", ".by")):
            continue
        name = path.removesuffix(".text").replace("_", " ")
        if path not in old:
            changes.append(f"{name}: {new[path]}")
        elif path not in new:
            changes.append(f"{name}: {old[path]} removed")
        else:
            changes.append(f"{name}: {old[path]} → {new[path]}")
    if not changes:
        return f"{stage}: saved without a change"
    more = f" and {len(changes) - MOST} more" if len(changes) > MOST else ""
    return f"{stage}: " + "; ".join(changes[:MOST]) + more


def _flat(value: Any, path: str = "") -> dict[str, Any]:
    """Path → leaf; items of lists go by what tells them apart, not by their place."""
    if isinstance(value, dict):
        found: dict[str, Any] = {}
        for key, part in value.items():
            found |= _flat(part, f"{path}.{key}" if path else key)
        return found
    if isinstance(value, list) and value and isinstance(value[0], dict):
        found = {}
        for n, item in enumerate(value):
            keys = next((k for k in IDENTITY if all(name in item for name in k)), ())
            label = " ".join(str(item[k]) for k in keys) or str(n)
            rest = {k: v for k, v in item.items() if k not in keys} or item
            found |= _flat(rest, f"{path}.{label}" if path else label)
        return found
    if value in (None, [], {}, ""):
        return {}
    return {path: value}

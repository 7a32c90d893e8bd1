"""What tells the items of a list apart in a document's JSON, and what in it is one value and not a thing with parts."""

from collections.abc import Sequence
from typing import Any

IDENTITY = (
    ("id",), ("axle", "side", "quantity"), ("axle", "side", "angle"), ("station", "side"), ("step",),
    ("key", "axle", "side"), ("fastener", "axle", "side"), ("place", "side"),
    ("end", "state"), ("use", "end"), ("axle", "side"), ("joint", "side", "text"), ("name",), ("key",),
)  # fmt: skip
"""Keys that tell items of a list apart, first match wins."""


def is_entry(value: Any) -> bool:
    """Whether it is a quantity as somebody typed it: text, value and unit belong together."""
    return isinstance(value, dict) and value.keys() >= {"text", "value", "unit"}


def label_of(item: Any) -> str:
    """What tells an item from others of its list; empty where nothing does."""
    keys = next((k for k in IDENTITY if isinstance(item, dict) and all(name in item for name in k)), ())
    return " ".join(str(item[k]) for k in keys if item[k] is not None)


def by_identity(items: Sequence[Any]) -> dict[str, Any]:
    """Items by what tells them apart; by their place where nothing does, or where two are told alike."""
    labels = [label_of(item) for item in items]
    alike = {label for label in labels if labels.count(label) > 1}
    return {
        label if label and label not in alike else f"{label} {n + 1}".strip(): item
        for n, (label, item) in enumerate(zip(labels, items, strict=True))
    }

"""The catalogue of changes, written from what each of them says of itself."""

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from inclinum.core.plan.change import Change

INTERNAL = ("type", "axle")
"""Fields that are no parameters."""


def catalogue(wings: Mapping[str, Sequence[type[Change[Any]]]]) -> str:
    """Every change of every kind of machine as a page of Markdown.

    Args:
        wings: changes by the name of the machines they are for.
    """
    lines = ["# Catalogue of changes", "", "Written by `scripts/catalogue` from the changes themselves; do not edit."]
    for machines, kinds in wings.items():
        lines += ["", f"## {machines}"]
        for kind in kinds:
            lines += _entry(kind)
    return "\n".join(lines) + "\n"


def _entry(kind: type[Change[Any]]) -> Iterator[str]:
    schema = kind.model_json_schema()
    doc = (kind.__doc__ or "").strip().split("\n\n")[0].replace("\n", " ")
    yield from ("", f"### {kind.title} (`{kind.model_fields['type'].default}`)", "", " ".join(doc.split()), "")
    yield f"- **Does:** {kind.equation}."
    yield f"- **Source:** {kind.source}."
    fixed = "as it is fixed: not where it is cut, drilled or welded for"
    goes_back = "no" if not kind.reversible else "yes" if kind.fabrication is Change.fabrication else fixed
    yield f"- **Goes back as it was:** {goes_back}."
    if kind.provides:
        takes = f"; **takes:** {', '.join(sorted(kind.takes))}" if kind.takes else ""
        yield f"- **Provides:** {kind.provides}{takes}"
    for name, field in schema["properties"].items():
        if name not in INTERNAL:
            yield f"- `{name}`: {_parameter(name, field, schema)}"


def _parameter(name: str, field: dict[str, Any], schema: dict[str, Any]) -> str:
    shape = field | next((b for b in field.get("anyOf", []) if b.get("type") != "null"), {})
    if "$ref" in shape:
        return f"a {schema['$defs'][shape['$ref'].rpartition('/')[2]].get('title', name)}"
    words = [shape.get("title") or name]
    low, high = (next((shape[k] for k in keys if k in shape), None) for keys in LIMITS)
    if low is not None and high is not None:
        words.append(f"{low:g} to {high:g} {shape.get('unit', '')}".strip())
    if "description" in shape:
        words.append(shape["description"])
    return ", ".join(words)


LIMITS = (("minimum", "exclusiveMinimum"), ("maximum", "exclusiveMaximum"))

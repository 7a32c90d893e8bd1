"""Validation errors as a path and a sentence."""

from collections.abc import Sequence
from difflib import get_close_matches
from functools import cache
from typing import Any, get_args

from pydantic_core import ErrorDetails

from inclinum.core.car.vehicle import AdjusterData
from inclinum.core.document import Document
from inclinum.core.kinematics import LINKAGES
from inclinum.core.kinematics.rear_end import REARS
from inclinum.core.machines import KINDS
from inclinum.core.part_sheets import SHEETS
from inclinum.core.springs.fitted import SPRINGS

MOST = 40
"""Complaints that are told one by one."""


class Complaint(Document):
    """What is wrong, and where."""

    path: str
    sentence: str


def complaints(errors: Sequence[ErrorDetails], model: type | None = None) -> list[Complaint]:
    """Every error of a failed validation, in document order.

    Args:
        errors: what Pydantic found.
        model: the model that was validated, to suggest the field that was probably meant.
    """
    listed = [Complaint(path=_path(e), sentence=_sentence(e, model)) for e in errors[:MOST]]
    if len(errors) > MOST:
        listed.append(Complaint(path="(the rest)", sentence=f"{len(errors) - MOST} more fields are wrong."))
    return listed


def _path(error: ErrorDetails) -> str:
    """``vehicle.front.coil.rate_n_per_mm`` or ``plan.changes[1].change.thickness_mm``."""
    path = ""
    for part in error["loc"]:
        if isinstance(part, int):
            path += f"[{part}]"
        elif part not in TAGS and not (part in SHEETS and path == "sheet"):
            path += f".{part}" if path else str(part)
    return path or str(error.get("ctx", {}).get("discriminator", "(the file)")).strip("'")


TAGS = {
    *(t.model_fields["type"].default for t in get_args(get_args(AdjusterData)[0])),
    *SPRINGS,
    *LINKAGES,
    *(c.model_fields["type"].default for kind in KINDS.values() for c in kind.changes),
    *REARS,
    *KINDS,
    "an axle",
    "a machine",
}
"""Names Pydantic puts into a path for the branch of a union; they are no keys of the file."""


def _sentence(error: ErrorDetails, model: type | None) -> str:
    kind, context = error["type"], error.get("ctx", {})
    given = _short(error["input"])
    match kind:
        case "missing":
            return "This field is missing; the file cannot be used without it."
        case "extra_forbidden":
            name = str(error["loc"][-1])
            near = get_close_matches(name, _known_names(model), 1) if model else []
            return f"“{name}” is not a field here" + (f"; did you mean “{near[0]}”?" if near else ".")
        case "finite_number":
            return "This must be an ordinary number, not infinity and not NaN."
        case "greater_than" | "greater_than_equal" | "less_than" | "less_than_equal":
            words = {
                "greater_than": "more than",
                "greater_than_equal": "at least",
                "less_than": "less than",
                "less_than_equal": "at most",
            }
            bound = next(iter(context.values()))
            return f"{given} is out of range: it must be {words[kind]} {bound:g}. Is the unit right?"
        case "value_error":
            text = str(context.get("error", error["msg"]))
            return text[0].upper() + text[1:] + ("" if text.endswith((".", "?")) else ".")
        case "float_parsing" | "float_type" | "int_parsing" | "int_type":
            return f"{given} is not a number; give it as a bare number in the unit its name ends in."
        case "union_tag_invalid" | "union_tag_not_found" | "literal_error":
            expected = context.get("expected_tags") or context.get("expected") or "one of the known kinds"
            return f"{given} is not known here; it must be {expected}."
        case "missing_argument" | "json_invalid" | "json_type":
            return "This is not JSON; send it again whole."
        case "string_too_long" | "too_long":
            most, what = context.get("max_length"), "characters" if kind == "string_too_long" else "entries"
            return f"This has more than {most} {what}; shorten it."
        case "string_too_short" | "too_short":
            least = context.get("min_length", 1)
            return (
                "This is empty; it needs a word or two."
                if least == 1
                else f"This needs at least {least} of them; given: {given}."
            )
        case "bool_parsing" | "bool_type":
            return f"{given} is neither yes nor no; give true or false."
        case "string_pattern_mismatch":
            return f"{given} holds a character that cannot stand here; use letters, digits, - and _."
        case "string_unicode":
            return "This text holds a character that is no text; type it again."
        case "int_from_float" | "int_parsing_size":
            return f"{given} is no whole number of a usual size."
        case "timezone_aware":
            return f"{given} lacks its zone; write it as 2026-05-04T07:30:00Z."
        case _:
            what = next((words for start, words in WANTED.items() if kind.startswith(start)), "what belongs here")
            return f"{given} is not {what}."


WANTED = {
    "string": "a text", "datetime": "a date with its time, such as 2026-05-04T07:30:00Z",
    "date": "a date, such as 2026-05-04", "uuid": "an id as an export has it", "tuple": "a list", "list": "a list",
    "dict": "a mapping of names to values", "model": "an object with named fields", "frozen": "open to change",
    "float": "a number", "int": "a number", "enum": "one of the known kinds", "union": "one of the known kinds",
}  # fmt: skip
"""Beginning of the kind of an error → what should have been there."""


def _short(value: Any) -> str:
    if isinstance(value, list | dict) and len(value) > 20:
        return "a list of many" if isinstance(value, list) else "an object of many fields"
    text = repr(value)
    return text if len(text) <= 60 else text[:57] + "…"


@cache
def _known_names(model: type) -> list[str]:
    names: set[str] = set()
    for definition in (schema := model.model_json_schema()).get("$defs", {}).values():  # type: ignore[attr-defined]
        names |= set(definition.get("properties", {}))
    return sorted(names | set(schema.get("properties", {})))

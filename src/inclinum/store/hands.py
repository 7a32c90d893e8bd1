"""Two hands on one stored document: made one entry by entry, or told apart as a conflict."""

from collections.abc import Mapping
from datetime import datetime
from typing import TypeVar

from pydantic import ValidationError

from inclinum.core.document import Document
from inclinum.core.document.merge import Merged, Whose, merged
from inclinum.store.errors import Conflict

DocumentT = TypeVar("DocumentT", bound=Document)


def both(
    base: Document | None,
    mine: DocumentT,
    theirs: DocumentT,
    chosen: Mapping[str, Whose],
    stored: tuple[int, str, datetime],
) -> DocumentT:
    """What both made of a document, made one.

    Args:
        base: as both began from it; None where the writer does not say: then every difference is asked about.
        mine, theirs: what each made of it.
        chosen: of entries that both changed, whose holds, by their paths.
        stored: version, person and time of theirs.

    Raises:
        Conflict: both changed the same entries, and it is not chosen whose holds; or what came of it cannot be.
    """
    asked = [] if base is None else [_made(base, mine, theirs, chosen)]
    # Each may be right by itself and both together wrong: then everything they have otherwise is asked about.
    for told in (*asked, _made(_unlike(mine, theirs), mine, theirs, chosen)):
        if told.contested:
            raise Conflict(theirs, *stored, told.contested)
        try:
            return type(mine).model_validate(told.value)
        except ValidationError:
            continue
    raise Conflict(theirs, *stored, _made(_unlike(mine, theirs), mine, theirs, {}).contested)


def _made(base: object, mine: Document, theirs: Document, chosen: Mapping[str, Whose]) -> Merged:
    began = base.model_dump(mode="json") if isinstance(base, Document) else base
    return merged(began, mine.model_dump(mode="json"), theirs.model_dump(mode="json"), chosen)


def _unlike(mine: Document, theirs: Document) -> dict[str, object]:
    """A beginning that has every difference changed by both."""
    here, there = mine.model_dump(mode="json"), theirs.model_dump(mode="json")
    return {key: value for key, value in here.items() if value == there.get(key)}

"""Two hands on one document: what only one of them changed is kept, what both changed is asked, entry by entry.

A merge of three: what both began from, mine, theirs. A quantity as it was typed is one entry; lists whose items tell
themselves apart are merged item by item, in the order of whoever put them in another one.
"""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal

from inclinum.core.document import Document, unit_of
from inclinum.core.document.identity import by_identity, is_entry, label_of

Whose = Literal["mine", "theirs"]


class Contested(Document):
    """One entry that both changed, each to something else."""

    path: str
    """Of the entry: by it a choice is named."""
    where: str
    """The same as a person reads it."""
    mine: str
    theirs: str


@dataclass
class Merged:
    """What came of it.

    Args:
        value: JSON; of what is contested and not chosen, theirs.
        contested: what has to be chosen.
    """

    value: Any
    contested: list[Contested] = field(default_factory=list)


ABSENT = object()


def merged(base: Any, mine: Any, theirs: Any, chosen: Mapping[str, Whose] = {}) -> Merged:
    """Three states of one document as JSON, made one.

    Args:
        base: what both began from.
        mine: what one made of it.
        theirs: what another made of it.
        chosen: of entries that both changed, whose holds, by path.

    >>> merged({"a": 1, "b": 1}, {"a": 2, "b": 1}, {"a": 1, "b": 3}).value
    {'a': 2, 'b': 3}
    >>> [(c.path, c.mine, c.theirs) for c in merged({"load": "x"}, {"load": "y"}, {"load": ""}).contested]
    [('load', 'y', 'nothing')]
    >>> merged({"load": "x"}, {"load": "y"}, {"load": "z"}, {"load": "mine"}).value
    {'load': 'y'}
    """
    found = Merged(None)
    found.value = _merged(base, mine, theirs, (), chosen, found.contested)
    return found


def _merged(
    base: Any, mine: Any, theirs: Any, path: tuple[str, ...], chosen: Mapping[str, Whose], contested: list[Contested]
) -> Any:
    if mine == theirs or theirs == base:
        return mine
    if mine == base:
        return theirs
    if _parts(mine) and _parts(theirs) and (_parts(base) or base is ABSENT) and _same_kind(mine, theirs):
        there = base if isinstance(base, dict) else {}
        every = list(dict.fromkeys([*theirs, *mine]))
        told = {
            key: _merged(there.get(key, ABSENT), mine.get(key, ABSENT), theirs.get(key, ABSENT),
                         (*path, key), chosen, contested)
            for key in every
        }  # fmt: skip
        return {key: value for key, value in told.items() if value is not ABSENT}
    if (
        isinstance(mine, list)
        and isinstance(theirs, list)
        and isinstance(base, list)
        and _told_apart(base, mine, theirs)
    ):
        return _list(base, mine, theirs, path, chosen, contested)
    name = "/".join(path)
    if name not in chosen:
        contested.append(Contested(path=name, where=_where(path), mine=_short(mine), theirs=_short(theirs)))
    return mine if chosen.get(name) == "mine" else theirs


def _parts(value: Any) -> bool:
    return isinstance(value, dict) and not is_entry(value)


def _same_kind(mine: dict[str, Any], theirs: dict[str, Any]) -> bool:
    """Whether their parts can be told one by one: a spring of another kind, or an aim said otherwise, is one thing."""
    return all(mine.get(k) == theirs.get(k) for k in ("type", "kind", "by", "archetype"))


def _told_apart(*lists: Sequence[Any]) -> bool:
    labelled = all(len(labels := [label_of(i) for i in items]) == len(set(labels)) and all(labels) for items in lists)
    return labelled or (len({len(items) for items in lists}) == 1 and any(isinstance(i, dict) for i in lists[0]))


def _list(
    base: list[Any], mine: list[Any], theirs: list[Any], path: tuple[str, ...], chosen: Mapping[str, Whose],
    contested: list[Contested],
) -> list[Any]:  # fmt: skip
    was, here, there = by_identity(base), by_identity(mine), by_identity(theirs)
    told = {
        label: _merged(was.get(label, ABSENT), here.get(label, ABSENT), there.get(label, ABSENT),
                       (*path, label), chosen, contested)
        for label in dict.fromkeys([*there, *here])
    }  # fmt: skip
    left = {label: value for label, value in told.items() if value is not ABSENT}
    order = _order(list(was), list(here), list(there), (*path, "order"), chosen, contested)
    return [left[label] for label in order if label in left]


def _order(
    was: list[str], mine: list[str], theirs: list[str], path: tuple[str, ...], chosen: Mapping[str, Whose],
    contested: list[Contested],
) -> list[str]:  # fmt: skip
    """The order of whoever put the items in another one, with what the other one has more after what it came after."""
    common = [label for label in was if label in mine and label in theirs]
    ours = [label for label in mine if label in common]
    others = [label for label in theirs if label in common]
    first, second = theirs, mine
    if ours != common:
        first, second = mine, theirs
        name = "/".join(path)
        if others not in (common, ours):
            if name not in chosen:
                contested.append(
                    Contested(path=name, where=_where(path), mine=", ".join(ours), theirs=", ".join(others))
                )
            if chosen.get(name) != "mine":
                first, second = theirs, mine
    order = list(first)
    for n, label in enumerate(second):
        if label not in order:
            before = next((p for p in reversed(second[:n]) if p in order), None)
            order.insert(order.index(before) + 1 if before is not None else len(order) if n else 0, label)
    return order


def _where(path: Iterable[str]) -> str:
    """A path as a person reads it: what a list is called says nothing where its items tell themselves."""
    words = [SAID.get(part, unit_of(part)[0].replace("_", " ")) for part in path]
    told = [w for n, w in enumerate(words) if not (n + 1 < len(words) and w in SAYS_NOTHING)]
    line = ", ".join(told)
    return line[:1].upper() + line[1:]


SAID = {
    "purpose": "what for", "load": "on board when heights are taken", "due": "wanted by",
    "reference": "height reference the owner means", "rides": "aboard", "override": "why it is built all the same",
    "rear_drop": "rear drop", "front_drop": "front drop", "hand_over": "hand over",
    "watch": "what to watch", "settled_on": "heights read again", "retorque_on": "bolts checked again",
}  # fmt: skip
"""Fields whose labels on the screen say more than their names."""
SAYS_NOTHING = {"corners", "stations", "angles", "scales", "changes", "change", "reading", "after", "tape", "sags"}


def _short(value: Any) -> str:
    return "left out" if value is ABSENT else in_words(value)


def in_words(value: Any) -> str:
    """A value in a few words: a quantity as it was typed, a thing by its parts."""
    if value is None or value in ("", [], {}):
        return "nothing"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if is_entry(value):
        return _typed(value)
    if isinstance(value, dict):
        told = ((unit_of(k), v) for k, v in value.items() if v not in (None, "", [], {}))
        return ", ".join(
            f"{name.replace('_', ' ')} {in_words(v)}{f' {unit}' if unit else ''}" for (name, unit), v in told
        )
    if isinstance(value, list):
        return ", ".join(map(in_words, value)) or "nothing"
    if isinstance(value, float):
        return f"{value:g}".replace("-", "−")
    return str(value)


def _typed(entry: dict[str, Any]) -> str:
    """What was typed, with its unit where it was typed without one."""
    text = str(entry["text"])
    return text if any(c.isalpha() or c in "\"'°" for c in text) else f"{text} {entry['unit']}"


Merge = Callable[[Any, Any, Any, Mapping[str, Whose]], Merged]

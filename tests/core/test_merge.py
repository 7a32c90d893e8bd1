"""Two hands on one document: a law over random edits, and what is asked."""

import copy
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from inclinum.core.document.merge import merged
from inclinum.demo import demo_bike_jobs, demo_jobs

BASES = [
    getattr(job, stage).model_dump(mode="json")
    for job in (demo_jobs()[-1], demo_bike_jobs()[-1])
    for stage in ("brief", "measure", "plan", "align", "prove")
]
Path = tuple[Any, ...]


def leaves(value: Any, path: Path = ()) -> list[Path]:
    """Paths of everything that one hand changes at once: a typed quantity is one thing."""
    if isinstance(value, dict) and not value.keys() >= {"text", "value", "unit"}:
        return [p for key, v in value.items() for p in leaves(v, (*path, key))]
    if isinstance(value, list) and value and isinstance(value[0], dict):
        return [p for n, v in enumerate(value) for p in leaves(v, (*path, n))]
    return [path]


TELLS = {
    "id",
    "axle",
    "side",
    "quantity",
    "angle",
    "station",
    "type",
    "kind",
    "by",
    "end",
    "state",
    "name",
    "key",
    "use",
}


def edited(value: Any, path: Path, mark: str) -> Any:
    out = copy.deepcopy(value)
    at = out
    for part in path[:-1]:
        at = at[part]
    at[path[-1]] = mark
    return out


def at(value: Any, path: Path) -> Any:
    for part in path:
        value = value[part]
    return value


@settings(deadline=None, max_examples=200)
@given(st.sampled_from(BASES), st.data())
def test_what_only_one_changed_is_kept_and_what_both_changed_is_asked(base: dict, data: st.DataObject) -> None:
    fields = [p for p in leaves(base) if p and p[-1] not in TELLS]
    mine_at = data.draw(st.lists(st.sampled_from(fields), unique=True, min_size=1, max_size=5))
    theirs_at = data.draw(st.lists(st.sampled_from(fields), unique=True, min_size=1, max_size=5))
    mine = theirs = base
    for path in mine_at:
        mine = edited(mine, path, "mine")
    for path in theirs_at:
        theirs = edited(theirs, path, "theirs")
    told = merged(base, mine, theirs)
    both = set(mine_at) & set(theirs_at)
    assert len(told.contested) == len(both)
    for path in fields:
        wanted = "theirs" if path in theirs_at else "mine" if path in mine_at else at(base, path)
        assert at(told.value, path) == wanted
    # The other way round it is the same, but for whose stands where it is asked.
    swapped = merged(base, theirs, mine)
    assert [c.path for c in swapped.contested] == [c.path for c in told.contested]
    chosen = merged(base, mine, theirs, {c.path: "mine" for c in told.contested})
    assert chosen.contested == []
    assert all(at(chosen.value, path) == "mine" for path in mine_at)


def test_items_come_and_go_by_what_tells_them_and_in_the_order_of_whoever_moved_them() -> None:
    a, b, c = ({"id": key, "on": True} for key in "abc")
    new, other = {"id": "n", "on": True}, {"id": "o", "on": True}
    assert merged([a, b], [a, b, new], [a, other, b]).value == [a, other, b, new]
    assert merged([a, b, c], [c, a, b], [a, b | {"on": False}, c]).value == [c, a, b | {"on": False}]
    assert merged([a, b], [b], [a, b]).value == [b]
    gone = merged([a, b], [b], [a | {"on": False}, b])
    assert [(c.path, c.mine) for c in gone.contested] == [("a", "left out")]
    assert merged([a, b], [b], [a | {"on": False}, b], {"a": "mine"}).value == [b]
    order = merged([a, b, c], [c, a, b], [b, a, c])
    assert [c.path for c in order.contested] == ["order"]
    assert merged([a, b, c], [c, a, b], [b, a, c], {"order": "mine"}).value == [c, a, b]


def test_what_is_asked_is_asked_in_the_words_of_the_screen() -> None:
    entry = {"text": "397", "value": 397.0, "tolerance": None, "unit": "mm"}
    corner = {"axle": "rear", "side": "left", "quantity": "hub_to_arch", "reading": entry}
    here, there = (corner | {"reading": entry | {"text": t}} for t in ("398 ± 1", "401"))
    (asked,) = merged({"corners": [corner]}, {"corners": [here]}, {"corners": [there]}).contested
    assert (asked.where, asked.mine, asked.theirs) == ("Rear left hub to arch, reading", "398 ± 1 mm", "401 mm")

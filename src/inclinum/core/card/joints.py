"""Where the parts of a machine are held together, and the shortest safe order of taking apart what has to be.

A joint says what must be open before it can be, how it is opened and closed, what is stored behind it, and which bolts
close it. A change names what it needs open; everything else on the machine stays as it is.
"""

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from graphlib import CycleError, TopologicalSorter

from inclinum.core.card.fastener import BLOCKED_MIN, Fastener, in_the_way
from inclinum.core.document.errors import DomainError

Minutes = tuple[float, float]


@dataclass(frozen=True)
class Handling:
    """One of the two things that are done with a joint.

    Args:
        text: what is done.
        caution, hold: what to mind, and what work stops for until it is so.
        people, minutes: it takes.
    """

    text: str
    caution: str | None = None
    hold: str | None = None
    people: int = 1
    minutes: Minutes = (2, 5)


@dataclass(frozen=True)
class Joint:
    """Where parts are held together.

    Args:
        key: by which other joints, and the steps of the card, know it.
        opening, closing: how it is parted and put together again.
        needs: joints that are open before it, those that the machine has.
        fasteners: their roles among the machine's data, tightened as it is closed.
        rubber: whether they clamp rubber, or want the load on: closed by hand, tightened where it rides.
        on_ground: whether they are cracked before it goes up and tightened when it is down again.
        both_first: whether it is open at both sides before anything else comes apart at either.
        stored: whether it is the last thing that holds back a spring: its opening has a hold, and a restraint.
        with_load: whether it is closed again only with the machine's own weight taken up where it rides.
        shared: whether a machine has one of it, and not one at each side.
        tools, consumables: it needs.
    """

    key: str
    opening: Handling
    closing: Handling
    needs: tuple[str, ...] = ()
    fasteners: tuple[str, ...] = ()
    rubber: bool = False
    on_ground: bool = False
    both_first: bool = False
    stored: bool = False
    with_load: bool = False
    shared: bool = False
    tools: tuple[str, ...] = ()
    consumables: tuple[str, ...] = ()
    new: str = ""
    """Its bolts are never used again: what goes in their place, where no change brings it by the joint's key."""
    given_up: Handling | None = None
    """How its place is left where the machine has no such joint any more; as it is closed where nothing is said."""


def closing_of(joint: Joint, after: Mapping[str, Joint]) -> Handling:
    """How a joint is closed on the machine as it is then: with other springs it may not be what it was.

    Args:
        joint: as it was opened.
        after: joints of the machine as it is planned, by key.
    """
    if joint.key in after:
        return after[joint.key].closing
    return joint.given_up or joint.closing


def opening_of(joint: Joint, bolts: Iterable[Fastener]) -> Handling:
    """How a joint is opened, with what is in the way of its bolts.

    Args:
        joint: to open.
        bolts: that close it, as the machine's data have them.
    """
    first = in_the_way(bolts)
    if not first:
        return joint.opening
    (low, high), (least, most) = joint.opening.minutes, BLOCKED_MIN
    return replace(joint.opening, text=f"{joint.opening.text} {first}", minutes=(low + least, high + most))


def in_order(joints: Mapping[str, Joint], wanted: Iterable[str]) -> tuple[Joint, ...]:
    """The joints to open, and no others: what is wanted and what stands in its way, in the order they are opened.

    Args:
        joints: of one side of a machine, by key; in the order that is usual where nothing else decides.
        wanted: keys of those something is done at.

    Raises:
        DomainError: one is wanted that the machine does not have, or two stand in each other's way.

    >>> step = Handling("")
    >>> found = {j.key: j for j in (Joint("wheel", step, step), Joint("hose", step, step, needs=("wheel",)))}
    >>> [j.key for j in in_order(found, ["hose"])]
    ['wheel', 'hose']
    """
    open_first: dict[str, tuple[str, ...]] = {}
    ahead = list(dict.fromkeys(wanted))
    while ahead:
        key = ahead.pop()
        if key not in joints:
            raise DomainError(f"There is no joint “{key}” to open here; there are {', '.join(joints)}.")
        if key not in open_first:
            open_first[key] = tuple(n for n in joints[key].needs if n in joints)
            ahead += open_first[key]
    usual = {key: n for n, key in enumerate(joints)}
    sorter = TopologicalSorter(open_first)
    try:
        sorter.prepare()
    except CycleError as error:
        raise DomainError(f"These joints stand in each other's way: {', '.join(error.args[1])}.") from None
    found: list[Joint] = []
    ready: list[str] = []
    while sorter.is_active():
        ready = sorted({*ready, *sorter.get_ready()}, key=lambda key: (not joints[key].both_first, usual[key]))
        key = ready.pop(0)
        sorter.done(key)
        found.append(joints[key])
    return tuple(found)


def innermost(opened: Sequence[Joint], wanted: Collection[str]) -> str:
    """Key of the joint at which something is done: of those it wants open the last to be opened; empty where none is.

    What was opened behind that one is closed again by then: nobody sets an adjuster with its bar on the bench.

    Args:
        opened: of one side, in the order they are opened.
        wanted: keys of those it wants open.
    """
    return next((j.key for j in reversed(opened) if j.key in wanted), "")

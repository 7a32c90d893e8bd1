"""What comes off a machine for a job: what goes back on, over to a new part, is kept, or goes for good."""

from collections.abc import Iterable
from typing import Literal

from inclinum.core.card.fastener import Fastener
from inclinum.core.card.joints import Joint
from inclinum.core.document import Document
from inclinum.core.document.names import AxleName, Side

Fate = Literal["back", "over", "keep", "away", "renewed"]
FATES: dict[Fate, str] = {
    "back": "goes back on",
    "over": "goes over to the new part",
    "keep": "keep it: the job has to go back one day",
    "renewed": "a new one goes in: throw it away",
    "away": "not needed again: the owner says whether it is given back or thrown away",
}


class TakenOff(Document):
    """A part, or the bolts of a joint, that lies on the bench: it gets a label."""

    axle: AxleName | None
    side: Side | None
    name: str
    fate: Fate
    count: int | None = 1
    """None where nobody counted them."""
    note: str = ""
    """Where it was, or which way round."""


def fate_of(*, reversible: bool, stays: bool) -> Fate:
    """What becomes of a part that another takes the place of.

    Args:
        reversible: whether the brief says that the job has to go back.
        stays: whether the change cannot be taken back.
    """
    return "keep" if reversible and not stays else "away"


def replaced(
    removed: Iterable[str], over: Iterable[str], fate: Fate, axle: AxleName | None, sides: Iterable[Side | None]
) -> list[TakenOff]:
    """Parts that others take the place of, at each side.

    Args:
        removed: what comes off for good.
        over: what of it goes over to the new part.
        fate: what becomes of what is removed.
        axle, sides: where.
    """
    named: list[tuple[str, Fate]] = [*((name, fate) for name in removed), *((name, "over") for name in over)]
    return [TakenOff(axle=axle, side=side, name=name, fate=becomes) for side in sides for name, becomes in named]


def bolts_of(joint: Joint, bolts: Iterable[Fastener], axle: AxleName, side: Side | None) -> list[TakenOff]:
    """The bolts of a joint that is opened: back on, or renewed."""
    return [
        TakenOff(
            axle=axle, side=side, name=bolt.name, count=bolt.count_per_side,
            fate="renewed" if bolt.renewed or joint.new else "back",
            note=joint.key.replace("_", " "),
        )
        for bolt in bolts
    ]  # fmt: skip


def listed(parts: Iterable[TakenOff], *fates: Fate) -> list[str]:
    """Parts of some fates, alike ones counted together, in words."""
    counted: dict[tuple[str, AxleName | None], int | None] = {}
    for part in parts:
        if part.fate in fates:
            counted[part.name, part.axle] = added(counted.get((part.name, part.axle), 0), part.count)
    return [f"{how_many(many, name)}{f', {axle}' if axle else ''}" for (name, axle), many in counted.items()]


def added(one: int | None, other: int | None) -> int | None:
    """Two counts together; nobody knows where nobody counted either."""
    return None if one is None or other is None else one + other


def how_many(count: int | None, name: str) -> str:
    """A part with its count, in words."""
    if count is None:
        return f"{name}, as many as come off"
    return f"{count} × {name}" if count > 1 else name

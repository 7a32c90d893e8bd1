"""Outlines of cards, remembered by what the card is made from: an act does not wait for a card to be laid out."""

import hashlib
from collections import OrderedDict
from typing import Any

from fastapi import Request

from inclinum.api.computing import computer_of
from inclinum.core.card.acts import Outline, outline_of
from inclinum.core.card.record import Build
from inclinum.core.document import Document
from inclinum.core.machines import card_of

REMEMBERED = 400
"""Cards in hand at once, and more."""
_known: OrderedDict[bytes, Outline] = OrderedDict()


async def of(request: Request, job: Any) -> Outline:
    """The outline of a job's card."""
    key = _key(job)
    if (known := _known.get(key)) is None:
        remember(job, known := await computer_of(request).run(request, _laid_out, job))
    _known.move_to_end(key)
    return known


def remember(job: Any, outline: Outline) -> None:
    """Keep an outline of a card that was laid out anyway."""
    _known[_key(job)] = outline
    while len(_known) > REMEMBERED:
        _known.popitem(last=False)


def _key(job: Any) -> bytes:
    """All that a card's steps are made from: not what is ticked or read, nor the proof."""
    made_from: Document = job.model_copy(
        update={"build": Build(found=job.build.found), "prove": type(job.prove)(), "title": "-", "id": "-"}
    )
    return hashlib.sha256(made_from.model_dump_json().encode()).digest()


def _laid_out(job: Any) -> Outline:
    return outline_of(card_of(job))

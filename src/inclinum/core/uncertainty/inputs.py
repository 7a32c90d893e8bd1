"""Which of the numbers that went in spread a result most, and how each is known better."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from inclinum.core.document import Document

NOTHING = 1e-6
"""An input with a smaller share of the variance than this is not listed."""


class InputShare(Document):
    """One input's part in the spread of a predicted height."""

    label: str
    share: float
    plus_minus: float
    """What this input alone spreads it by, mm."""
    better: str
    """How it is known better, in a sentence; empty where the shop says so itself."""


@dataclass(frozen=True)
class Input:
    """A number that went in, by what a person calls it, and how it is known better."""

    label: str
    better: str = ""


def ranked(inputs: Sequence[Input], plus_minus: Sequence[float]) -> tuple[InputShare, ...]:
    """Inputs by what they bring, most first; those that bring nothing are left out.

    Args:
        inputs: n of them, independent.
        plus_minus: what each alone spreads the result by, n of them, mm.

    Source: of independent inputs the variances add up.

    >>> [(i.label, round(i.share, 2)) for i in ranked([Input("tape"), Input("rate")], [3.0, -4.0])]
    [('rate', 0.64), ('tape', 0.36)]
    """
    total = math.fsum(by * by for by in plus_minus)
    if total <= 0:
        return ()
    brought = sorted(zip(plus_minus, inputs, strict=True), key=lambda each: -abs(each[0]))
    return tuple(
        InputShare.model_construct(label=i.label, share=by * by / total, plus_minus=abs(by), better=i.better)
        for by, i in brought
        if by * by / total > NOTHING
    )

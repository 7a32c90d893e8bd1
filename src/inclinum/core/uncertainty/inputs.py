"""Which of the numbers that went in spread a result most, and how each is known better."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from inclinum.core.document import Document
from inclinum.core.kinematics.rigid import Array

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


def ranked(inputs: Sequence[Input], plus_minus: Array) -> tuple[InputShare, ...]:
    """Inputs by what they bring, most first; those that bring nothing are left out.

    Args:
        inputs: n of them, independent.
        plus_minus: what each alone spreads the result by, (n,), mm.

    Source: of independent inputs the variances add up.

    >>> [(i.label, round(i.share, 2)) for i in ranked([Input("tape"), Input("rate")], np.array([3.0, -4.0]))]
    [('rate', 0.64), ('tape', 0.36)]
    """
    squares = plus_minus**2
    share = squares / total if (total := float(squares.sum())) > 0 else squares
    return tuple(
        InputShare(
            label=inputs[i].label, share=float(share[i]), plus_minus=float(abs(plus_minus[i])), better=inputs[i].better
        )
        for i in np.argsort(-share, kind="stable")
        if share[i] > NOTHING
    )

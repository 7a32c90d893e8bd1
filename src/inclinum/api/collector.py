"""The garbage collector of a process that serves: it leaves what is loaded alone, and does not come while one drags."""

import gc

OFTEN = 20_000
"""Records made before the youngest are looked at: an answer makes some thousands, nearly all gone when it is sent."""


def settle() -> None:
    """What is loaded now stays and is never walked again; what is made from now on is looked at seldom.

    Left at Python's own count it comes ten times in one answer, and walks everything remembered in one of them.
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(OFTEN, 20, 20)

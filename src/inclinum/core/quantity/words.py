"""Numbers as sentences have them."""


def plus_minus(value: float) -> str:
    """A ± to whole units: a few tenths are not told as none.

    >>> plus_minus(2.3), plus_minus(0.3), plus_minus(0.01)
    ('2', '0.3', '0')
    """
    whole, finer = f"{value:.0f}", f"{value:.1f}"
    return whole if whole != "0" or finer == "0.0" else finer


def signed(value: float, form: str = "g") -> str:
    """A number with its sign, and a true minus.

    Args:
        value: to tell.
        form: how, as after the sign in a format.

    >>> signed(-2.5), signed(7, "d"), signed(0.25, ".1f")
    ('−2.5', '+7', '+0.2')
    """
    return f"{value:+{form}}".replace("-", "−")

"""Numbers as sentences have them."""

import re


def plus_minus(value: float) -> str:
    """A ± to whole units: a few tenths are not told as none.

    >>> plus_minus(2.3), plus_minus(0.3), plus_minus(0.01)
    ('2', '0.3', '0')
    """
    whole, finer = f"{value:.0f}", f"{value:.1f}"
    return whole if whole != "0" or finer == "0.0" else finer


def numbers_in(text: str) -> set[str]:
    """Its numbers as they are written, without their signs.

    >>> sorted(numbers_in("up 3.33 turns (5 mm)"))
    ['3.33', '5']
    """
    return set(re.findall(r"\d+(?:\.\d+)?", text))


def below_horizontal(degrees: float, digits: int = 1) -> str:
    """Which way an arm points, positive for down.

    >>> below_horizontal(26.04), below_horizontal(-3.0)
    ('26.0° below horizontal', '3.0° above horizontal')
    """
    return f"{abs(degrees):.{digits}f}° {'below' if degrees >= 0 else 'above'} horizontal"


def signed(value: float, form: str = "g") -> str:
    """A number with its sign, and a true minus.

    Args:
        value: to tell.
        form: how, as after the sign in a format.

    >>> signed(-2.5), signed(7, "d"), signed(0.25, ".1f")
    ('−2.5', '+7', '+0.2')
    """
    return f"{value:+{form}}".replace("-", "−")

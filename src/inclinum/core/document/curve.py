"""A curve on a bench."""

from inclinum.core.document import Document


class Curve(Document):
    """One quantity over wheel travel, roll or steering; None where it is not reached."""

    name: str
    unit: str
    values: list[float | None]
    at_baseline: float | None

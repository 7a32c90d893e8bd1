"""Steps, hold points, parts, tools and time."""

from inclinum.core.procedure.card import LOOK_UP, Card, Step, card

__all__ = ["LOOK_UP", "Card", "Step", "card"]

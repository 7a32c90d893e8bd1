"""In which order rings, washers and spacers lie on one another: what a job comes apart again for when it is wrong."""

from dataclasses import dataclass

from inclinum.core.document import Document


class Layer(Document):
    """One of them, or what they lie between."""

    name: str
    thickness_mm: float | None = None
    """None of what they lie between: nobody measures it here."""
    new: bool = False
    """Whether the change brings it."""


@dataclass(frozen=True)
class Order:
    """Layers as they lie.

    Args:
        layers: one after the other.
        step: of the change's own steps, the one at which they are laid so.
        begins: where the first of them is.
    """

    layers: tuple[Layer, ...]
    step: int = 0
    begins: str = "from below"


def laid(*layers: tuple[str, float | None] | str, new: str, step: int = 0, begins: str = "from below") -> Order:
    """An order from names, and names with a thickness, mm; what is 0 mm thick is not there.

    >>> [layer.name for layer in laid("seat", ("ring", 5.0), ("washer", 0.0), "spring", new="ring").layers]
    ['seat', 'ring', 'spring']
    """
    named = [(layer, None) if isinstance(layer, str) else layer for layer in layers]
    there = [(name, thick) for name, thick in named if thick is None or thick > 0]
    return Order(tuple(Layer(name=n, thickness_mm=t, new=n == new) for n, t in there), step, begins)

"""What every bench sheet is."""

from abc import abstractmethod
from typing import Annotated, Any, Literal

from pydantic import Field

from inclinum.core.document import Document

Length = Annotated[float, Field(gt=0, le=5000)]
Distance = Annotated[float, Field(ge=-5000, le=5000)]
Force = Annotated[float, Field(gt=0, le=200_000)]
Rate = Annotated[float, Field(gt=0, le=5000)]
Ratio = Annotated[float, Field(gt=0.05, le=4)]
Modulus = Annotated[float, Field(gt=1000, le=500_000)]
Place = tuple[Distance, Distance]
"""x forward and z up, mm."""
Answer = dict[str, Any]
"""Results by name; every name ends in its unit, or has none."""


class Sheet(Document):
    """Base of the bench sheets. A subclass adds a literal ``kind`` and its inputs."""

    assumptions: tuple[Annotated[str, Field(max_length=4000)], ...] = Field(
        default=(), max_length=40, description="free notes; nothing is computed from them"
    )

    @abstractmethod
    def answer(self) -> Answer:
        """Everything that follows from the inputs.

        Raises:
            ValueError: the inputs contradict each other, with a sentence.
        """


class SpringData(Document):
    """A coil by rate and lengths."""

    rate_N_per_mm: Rate
    free_length_mm: Length
    solid_length_mm: Length


Order = Literal["tender_at_collar", "tender_at_far_end"]

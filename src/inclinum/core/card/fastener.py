"""Bolts and nuts with their maker's figures, and how each is got at."""

from collections.abc import Iterable
from typing import Literal

from pydantic import Field, model_validator

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import Name, Text

NOT_SAID = "not said"
Spanner = Literal[
    "not said", "8 mm", "10 mm", "11 mm", "12 mm", "13 mm", "14 mm", "15 mm", "16 mm", "17 mm", "18 mm", "19 mm",
    "21 mm", "22 mm", "24 mm", "27 mm", "30 mm", "32 mm", "36 mm", "41 mm", "46 mm", "hex 4", "hex 5", "hex 6",
    "hex 8", "hex 10", "hex 12", "hex 14", "star 25", "star 30", "star 40", "star 45", "star 50", "star 55",
    "hook spanner", "pin spanner",
]  # fmt: skip
"""Sizes across flats, and of what is turned otherwise."""
Way = Literal["not said", "front", "rear", "inside", "outside", "above", "below"]


class Fastener(Document):
    """A bolt or nut of the job, with the maker's figure where the shop has it."""

    name: Name
    count_per_side: int | None = Field(
        default=None, ge=1, le=20, description="left out where nobody counted; a card then says so"
    )
    torque_nm: float | None = Field(default=None, gt=0, le=2000)
    angle_deg: float | None = Field(default=None, gt=0, le=720, description="further turn after the torque")
    source: Text = Field(default="", description="where the figure stands; needed with a figure")
    renew: bool = Field(default=False, description="to be replaced each time it is undone")
    at_ride_height: bool = Field(default=False, description="clamps a rubber bush: tightened at ride height")

    spanner: Spanner = Field(default="not said", title="Spanner")
    turned: Literal["not said", "head", "nut"] = Field(
        default="not said", title="Turned at", description="the other end is held: the figure is for the end that turns"
    )
    goes_in_from: Way = Field(default="not said", title="Goes in from", description="so that its end touches nothing")
    thread_locker: bool = Field(default=False, title="Thread locker")
    blocked_by: Text = Field(
        default="", title="Cannot come out because of", description="what is in its way", examples=["the fuel tank"]
    )
    way_out: Literal["take that off first", "cut it and fit a new one"] = Field(
        default="take that off first", title="Then"
    )

    @property
    def renewed(self) -> bool:
        """Whether a new one goes in: its maker wants it, or there is no other way to get it out."""
        return self.renew or self.cut

    @property
    def cut(self) -> bool:
        """Whether it is cut to get it out."""
        return bool(self.blocked_by.strip()) and self.way_out == "cut it and fit a new one"

    @property
    def handling(self) -> str:
        """How it is got at and turned, in words; empty where nobody said."""
        said = [
            self.spanner if self.spanner != NOT_SAID else "",
            f"the {self.turned} is turned" if self.turned != NOT_SAID else "",
            f"goes in from {'the ' if self.goes_in_from in ('front', 'rear') else ''}{self.goes_in_from}"
            if self.goes_in_from != NOT_SAID
            else "",
            "thread locker" if self.thread_locker else "",
        ]
        return ", ".join(word for word in said if word)

    @model_validator(mode="after")
    def _figure_has_source(self) -> "Fastener":
        if self.torque_nm is not None and not self.source:
            raise DomainError(f"the torque of “{self.name}” has no source; name the sheet it stands on")
        return self


BLOCKED_MIN = (10.0, 40.0)
"""What a bolt that cannot come out adds to its step: from a cover to a tank. Our judgement."""


def in_the_way(bolts: Iterable[Fastener]) -> str:
    """What has to be done before bolts come out that cannot, in sentences; empty where all can."""
    return " ".join(
        f"The {b.name} cannot come out because of {b.blocked_by.strip().rstrip('.')}: "
        + ("cut it and fit a new one." if b.cut else "take that off first.")
        for b in bolts
        if b.blocked_by.strip()
    )


def spanners(bolts: Iterable[Fastener]) -> list[str]:
    """One line of the tools: every size the bolts want, in the order they are kept; none where nobody said."""
    sizes = {b.spanner for b in bolts} - {NOT_SAID}
    order = list(Spanner.__args__)  # type: ignore[attr-defined]
    found = sorted(sizes, key=order.index)
    return [f"Spanners and sockets: {', '.join(found)}"] if found else []

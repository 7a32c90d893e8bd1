"""Where practitioners disagree: what this shop does. Each has a default and its reason, told at the step."""

from typing import Literal

from pydantic import Field

from inclinum.core.card.fabrication import Routine, welded_once_proven
from inclinum.core.document import Document

HANGING = "This shop tightens rubber hanging; at ride height, the default, it stores nothing."
EXTREME = "This shop sets the rack's own way: to one known extreme. The default is the solved setting, near its target."
BY_FEEL = (
    "This shop tightens by feel where no figure is told; to a figure, recorded, is the default: it can be checked."
)


class ShopSchools(Document):
    """What the shop holds with on any machine, carried along from job to job."""

    torque: Literal["to figures", "by feel"] = Field(
        default="to figures", title="Bolts without a figure",
        description="their figure is looked up by default, and recorded: nobody can check what was felt",
    )  # fmt: skip

    def around(self, fabrication: Routine, what: str, *, on_brackets: bool) -> Routine:
        """What is done around a part that is fixed so.

        Args:
            fabrication: what it needs anyhow.
            what: the part, as a sentence begins with it.
            on_brackets: whether bolts of its own brackets hold it.
        """
        _ = what, on_brackets
        return fabrication


class Schools(ShopSchools):
    """What the shop holds with on four wheels."""

    bushes: Literal["at ride height", "hanging"] = Field(
        default="at ride height", title="Rubber bushes are tightened",
        description="at ride height by default: hanging, they are wound up for good",
    )  # fmt: skip
    first_camber: Literal["as solved", "at one extreme"] = Field(
        default="as solved", title="Eccentrics before the rack",
        description="as solved by default: near their target already; an extreme is found again without a mark",
    )  # fmt: skip
    brackets: Literal["bolts alone", "welded once proven"] = Field(
        default="bolts alone", title="Bolt-on brackets",
        description="bolts to torque alone by default: they come off again; welded, they stay, and are inspected",
    )  # fmt: skip

    def around(self, fabrication: Routine, what: str, *, on_brackets: bool) -> Routine:
        """Welded in the end, where the shop holds with that."""
        if on_brackets and not fabrication.one_way and self.brackets == "welded once proven":
            return welded_once_proven(what)
        return fabrication

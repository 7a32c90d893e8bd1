"""Where practitioners disagree: what this shop does. Each has a default and its reason, told at the step."""

from typing import Literal

from pydantic import Field

from inclinum.core.document import Document

HANGING = "This shop tightens rubber hanging; at ride height, the default, it stores nothing."
EXTREME = "This shop sets the rack's own way: to one known extreme. The default is the solved setting, near its target."


class Schools(Document):
    """What the shop holds with, carried along from job to job."""

    bushes: Literal["at ride height", "hanging"] = Field(
        default="at ride height", title="Rubber bushes are tightened",
        description="at ride height by default: hanging, they are wound up for good",
    )  # fmt: skip
    first_camber: Literal["as solved", "at one extreme"] = Field(
        default="as solved", title="Eccentrics before the rack",
        description="as solved by default: near their target already; an extreme is found again without a mark",
    )  # fmt: skip

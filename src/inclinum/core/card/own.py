"""Steps a shop has found out for itself, kept with the vehicle and offered on its next card."""

from typing import Literal

from pydantic import Field, model_validator

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import Key, Text

AtJoint = Literal[
    "wheel", "anti_roll_link", "lines", "pivots", "lateral_rod", "clamp", "strut_top", "damper_foot", "damper_top",
    "spring_on_unit", "spring_seat", "air", "u_bolts", "shackle", "pack", "bar", "adjuster", "stop", "subframe",
    "prop_shaft",
]  # fmt: skip
When = Literal["before_opening", "while_open", "after_closing"]


class OwnStep(Document):
    """A step of the shop's own at one place of the order."""

    text: Text = Field(min_length=3, title="What is done", examples=["Exhaust hanger off, it is in the way"])
    joint: AtJoint = Field(default="wheel", title="At which joint", description="only on cards that open it")
    when: When = Field(default="while_open", title="When")
    side: Literal["both", "left", "right"] = Field(default="both", title="At which side")
    caution: Text = ""
    tool: str = Field(default="", max_length=120, description="with its size")
    fastener: Key | None = Field(
        default=None, title="Tightened here", description="key of a bolt among the axle's fasteners"
    )
    part: str = Field(default="", max_length=120, title="Part that goes in", description="with its number")
    due: bool = Field(
        default=False, title="Due now", description="its joint is opened for it, whether or not a change needs it open"
    )
    people: int = Field(default=1, ge=1, le=6)
    minutes_least: float = Field(default=2, ge=0, le=600)
    minutes_most: float = Field(default=5, ge=0, le=600)

    @model_validator(mode="after")
    def _in_order(self) -> "OwnStep":
        if self.minutes_most < self.minutes_least:
            raise DomainError(f"the step “{self.text}” takes at most less than it takes at least")
        return self

"""What a shop has found out for itself at a joint, kept with the machine and shown on its next card."""

from collections.abc import Iterable
from typing import Literal

from pydantic import Field, model_validator
from pydantic.config import JsonDict

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import Key, PhotoId, Side, Text

AtJoint = Literal[
    "wheel", "anti_roll_link", "lines", "pivots", "lateral_rod", "clamp", "strut_top", "damper_foot", "damper_top",
    "spring_on_unit", "spring_seat", "air", "u_bolts", "shackle", "pack", "bar", "adjuster", "stop", "subframe",
    "prop_shaft",
]  # fmt: skip
AtBikeJoint = Literal[
    "rear_wheel", "weight_off", "damper_upper", "damper_lower", "rear_spring", "rod", "rocker", "front_wheel",
    "fork_guard", "fork_foot", "fork_cap", "top_clamp", "lower_clamp",
]  # fmt: skip
When = Literal["before_opening", "while_open", "after_closing"]
PHOTOGRAPHS: JsonDict = {"shows": "photographs"}


class OwnWork(Document):
    """A step of the shop's own at one place of the order. A subclass says at which joints there are any."""

    joint: str
    text: Text = Field(min_length=3, title="What is done", examples=["Exhaust hanger off, it is in the way"])
    when: When = Field(default="while_open", title="When")
    caution: Text = ""
    tool: str = Field(default="", max_length=120, description="with its size")
    fastener: Key | None = Field(
        default=None, title="Tightened here", description="key of a bolt among the fasteners there"
    )
    part: str = Field(default="", max_length=120, title="Part that goes in", description="with its number")
    due: bool = Field(
        default=False, title="Due now", description="its joint is opened for it, whether or not a change needs it open"
    )
    people: int = Field(default=1, ge=1, le=6)
    minutes_least: float = Field(default=2, ge=0, le=600)
    minutes_most: float = Field(default=5, ge=0, le=600)
    photos: tuple[PhotoId, ...] = Field(default=(), max_length=6, title="Photographs", json_schema_extra=PHOTOGRAPHS)

    @model_validator(mode="after")
    def _in_order(self) -> "OwnWork":
        if self.minutes_most < self.minutes_least:
            raise DomainError(f"the step “{self.text}” takes at most less than it takes at least")
        return self

    @property
    def told(self) -> str:
        """What is done, with its tool."""
        return f"{self.text}{f' Tool: {self.tool}.' if self.tool else ''}"


class OwnStep(OwnWork):
    """On four wheels."""

    joint: AtJoint = Field(  # pyright: ignore[reportIncompatibleVariableOverride] (frozen)
        default="wheel", title="At which joint", description="only on cards that open it"
    )
    side: Literal["both", "left", "right"] = Field(default="both", title="At which side")


class BikeOwnStep(OwnWork):
    """On two wheels."""

    joint: AtBikeJoint = Field(  # pyright: ignore[reportIncompatibleVariableOverride] (frozen)
        default="rear_wheel", title="At which joint", description="only on cards that open it"
    )


class KeptNote(Document):
    """What to mind where a joint is opened, or how it is got at: seen once, shown to whoever opens it next."""

    joint: Key = Field(min_length=1, title="At which joint", description="as its steps on the card call it")
    side: Literal["both", "left", "right"] = Field(default="both", title="At which side")
    text: Text = Field(min_length=2, title="What to mind", examples=["Nut is behind the tank strap"])
    photos: tuple[PhotoId, ...] = Field(default=(), max_length=6, title="Photographs", json_schema_extra=PHOTOGRAPHS)


def kept_at(notes: Iterable[KeptNote], joint: str, side: Side | None) -> tuple[KeptNote, ...]:
    """Of what is kept with a machine, what belongs to a joint; of one that both sides share, of either side.

    Args:
        notes: of an axle, or of a machine without sides.
        joint: its key.
        side: at which it is opened; None where it has none.
    """
    return tuple(n for n in notes if n.joint == joint and (side is None or n.side in ("both", side)))


def astray(notes: Iterable[KeptNote], joints: Iterable[str], where: str) -> list[str]:
    """Notes for joints that are not there, each in a sentence: no card would ever show them."""
    known = set(joints)
    return [
        f"“{n.text}” is kept at “{n.joint}”, and nothing {where} is called so: no step shows it."
        for n in notes
        if n.joint not in known
    ]

"""What was done at the machine: ticks, torques, and who says it is finished."""

from datetime import date

from pydantic import Field, model_validator

from inclinum.core.card.found import FoundOnTheWay
from inclinum.core.card.settings import SettingRecord
from inclinum.core.document import Document, Moment
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, Key, Name, Side, Text
from inclinum.core.quantity import Torque


class StepTick(Document):
    """A step of the card that was done."""

    step: Name
    done_at: Moment
    by: Name
    despite: Text = ""
    """Why what it stops for was passed over; empty where it was so, or where it stops for nothing."""
    minutes: float | None = Field(default=None, gt=0, le=6000)
    """It took, where somebody timed it."""
    work: Key = ""
    """What kind of step it was, by which its time is compared."""


class TorqueRecord(Document):
    """A torque that was read off the wrench."""

    fastener: Name
    axle: AxleName
    side: Side | None = None
    """None on a two-wheeler, which has no sides."""
    torque: Torque | None = None
    angle_deg: float | None = Field(default=None, ge=0, le=3600)
    """Turned, where the wrench told it."""
    by_feel: bool = False
    """Tightened to no figure: on record as such, and asked about."""
    done_at: Moment
    by: Name

    @model_validator(mode="after")
    def _one_of_both(self) -> "TorqueRecord":
        if (self.torque is None) != self.by_feel:
            raise DomainError("a bolt is tightened to a torque that was read, or by feel")
        return self


class Build(Document):
    """What was ticked, tightened, found and set."""

    ticks: tuple[StepTick, ...] = Field(default=(), max_length=1000)
    torques: tuple[TorqueRecord, ...] = Field(default=(), max_length=500)
    found: tuple[FoundOnTheWay, ...] = Field(default=(), max_length=100)
    settings: tuple[SettingRecord, ...] = Field(default=(), max_length=200)
    note: Text = ""

    @model_validator(mode="after")
    def _once(self) -> "Build":
        if len({f.id for f in self.found}) < len(self.found):
            raise DomainError("two things found on the way have the same id")
        if len({s.place for s in self.settings}) < len(self.settings):
            raise DomainError("a setting is noted twice at one place")
        return self


class HandOver(Document):
    """What the owner is told when the machine goes out."""

    watch: Text = Field(default="", title="What to watch", examples=["Knocks over humps, a tyre that rubs"])
    settled_on: date | None = Field(default=None, title="Heights read again on")
    retorque_on: date | None = Field(default=None, title="Bolts checked again on")


class SignOff(Document):
    """Who says the job is done."""

    by: Name
    at: Moment
    note: Text = ""
    missing: tuple[Text, ...] = Field(default=(), max_length=20)
    """What was not there when it was signed all the same."""
    despite: Text = ""
    """Why it was signed all the same."""
    covers: str = Field(default="", max_length=64)
    """Seal of what stood in the job then; empty on signatures of before there were seals."""
    sealed_as: int = Field(default=0, ge=0)
    """Version of the format the seal is of: one of another version cannot be compared."""
    brought_in_by: Name | None = None
    """Who brought the file in that it stood in; None where it was signed here."""
    brought_in_at: Moment | None = None

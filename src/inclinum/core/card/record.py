"""What was done at the machine: ticks, torques, and who says it is finished."""

from pydantic import Field

from inclinum.core.document import Document, Moment
from inclinum.core.document.names import AxleName, Name, Side, Text
from inclinum.core.quantity import Torque


class StepTick(Document):
    """A step of the card that was done."""

    step: Name
    done_at: Moment
    by: Name
    despite: Text = ""
    """Why what it stops for was passed over; empty where it was so, or where it stops for nothing."""


class TorqueRecord(Document):
    """A torque that was read off the wrench."""

    fastener: Name
    axle: AxleName
    side: Side | None = None
    """None on a two-wheeler, which has no sides."""
    torque: Torque
    done_at: Moment
    by: Name


class Build(Document):
    """What was ticked and tightened."""

    ticks: tuple[StepTick, ...] = Field(default=(), max_length=1000)
    torques: tuple[TorqueRecord, ...] = Field(default=(), max_length=500)
    note: Text = ""


class SignOff(Document):
    """Who says the job is done."""

    by: Name
    at: Moment
    note: Text = ""

"""What is done at the machine, one act at a time: a tick, a torque, something found, a setting that was read.

An act carries an id of its own, given where it was done, so that one that is sent twice is done once; and how long ago
it was done, so that an act that had to wait for a network keeps its time whatever the sender's clock says. Acts at
different places do not stand in each other's way: nothing has to be known of what others did meanwhile.
"""

from collections.abc import Iterable
from datetime import datetime, timedelta
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from inclinum.core.card.found import FOUND, FoundOnTheWay, NewFinding
from inclinum.core.card.record import Build, StepTick, TorqueRecord
from inclinum.core.card.settings import NewSetting, SettingRecord
from inclinum.core.card.steps import Card
from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, Name, Side
from inclinum.core.quantity import Torque

LONGEST_AGO_S = 90 * 24 * 3600.0
"""An act that waited longer in some browser is as old as this."""


class _Act(Document):
    """What every act carries."""

    id: UUID
    ago_s: float = Field(default=0, ge=0, le=LONGEST_AGO_S)
    """How long ago it was done, seconds, by the clock of whoever sends it."""


class Tick(_Act):
    """A step done, or not done after all."""

    do: Literal["tick"] = "tick"
    step: Name
    done: bool
    held: bool = False
    """What the step stops for is so."""
    despite: str = Field(default="", max_length=400)
    """Why it is passed over all the same."""
    minutes: float | None = Field(default=None, gt=0, le=6000)
    """It took, where it was timed."""


class Tighten(_Act):
    """A torque as it was read off the wrench, or a bolt tightened by feel."""

    do: Literal["torque"] = "torque"
    fastener: Name
    axle: AxleName
    side: Side | None = None
    torque: Torque | None = None
    angle_deg: float | None = Field(default=None, ge=0, le=3600)
    """Turned, where a wrench told it."""
    by_feel: bool = False


FindingId = Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[A-Za-z0-9-]+$")]


class Tell(_Act):
    """Something found on the way; what was told before is told anew, where it stood."""

    do: Literal["found"] = "found"
    key: FindingId
    """Of what is found: given by whoever tells it first."""
    again: bool = False
    """Whether it was told before: then it must still be there."""
    found: NewFinding


class TakeBack(_Act):
    """What was told of something found, taken back."""

    do: Literal["withdraw"] = "withdraw"
    key: FindingId


class Note(_Act):
    """A setting as it was read, before, after or both; a later reading takes the place of an earlier one."""

    do: Literal["setting"] = "setting"
    setting: NewSetting


Act = Annotated[Tick | Tighten | Tell | TakeBack | Note, Field(discriminator="do")]


class OutlineStep(Document):
    """What a tick has to know of a step."""

    hold: str = ""
    work: str = ""


class Outline(Document):
    """What acts have to know of a card, without the card."""

    steps: dict[str, OutlineStep]
    settings: frozenset[tuple[str, AxleName, Side | None]]
    stopped_by: str = ""
    """What stops the plan, where nobody has written why it is built all the same."""


def outline_of(card: Card) -> Outline:
    """What acts have to know of a card."""
    stopped = bool(card.stopped_by) and not card.override.strip()
    return Outline(
        steps={s.id: OutlineStep(hold=s.hold or "", work=s.work) for s in card.steps},
        settings=frozenset(row.place for row in card.settings),
        stopped_by=card.stopped_by[0] if stopped else "",
    )


def acted(build: Build, act: Act, outline: Outline, by: str, now: datetime) -> Build:
    """What was done so far, with one act more.

    Args:
        build: so far.
        act: what is done.
        outline: of the card.
        by: who does it.
        now: when it arrives; it was done ``act.ago_s`` before.

    Raises:
        DomainError: what it is about is not on the card; the step stops for something nobody says is so; the plan is
            stopped without a written override; or there is no room for more.
    """
    at = now - timedelta(seconds=act.ago_s)
    match act:
        case Tick():
            return _ticked(build, act, outline, by, at)
        case Tighten():
            record = TorqueRecord(
                fastener=act.fastener, axle=act.axle, side=act.side, torque=act.torque, by_feel=act.by_feel,
                angle_deg=act.angle_deg, done_at=at, by=by,
            )  # fmt: skip
            place = (act.fastener, act.axle, act.side)
            others = (t for t in build.torques if (t.fastener, t.axle, t.side) != place)
            return _with(build, torques=(*others, record))
        case Tell():
            return _found(build, act, by, at)
        case TakeBack():
            return _with(build, found=tuple(f for f in build.found if f.id != act.key))
        case Note():
            return _noted(build, act.setting, outline, by, at)


def _with(build: Build, **fields: Iterable[Document]) -> Build:
    """The same with other entries, looked at as a whole: there is an end to how many."""
    return Build.model_validate(dict(build) | fields)


def _ticked(build: Build, act: Tick, outline: Outline, by: str, at: datetime) -> Build:
    step = outline.steps.get(act.step)
    if step is None and act.step.startswith(FOUND) and any(f.step_id == act.step for f in build.found):
        step = OutlineStep()
    ticks = tuple(t for t in build.ticks if t.step != act.step)
    if not act.done:
        return _with(build, ticks=ticks)
    if step is None:
        raise DomainError("That step is no longer on the card: the plan was changed. Load the card again.")
    if outline.stopped_by:
        raise DomainError(f"The plan is stopped: {outline.stopped_by}. Cure it, or write why it is built all the same.")
    despite = act.despite.strip()
    if step.hold and not (act.held or despite):
        raise DomainError(f"Work stops at this step: {step.hold} Say that it is so, or write why it is passed over.")
    passed = despite if step.hold and not act.held else ""
    tick = StepTick(step=act.step, done_at=at, by=by, despite=passed, minutes=act.minutes, work=step.work)
    return _with(build, ticks=(*ticks, tick))


def _found(build: Build, act: Tell, by: str, at: datetime) -> Build:
    before = {f.id: f for f in build.found}
    if act.again and act.key not in before:
        raise DomainError("What was found there was taken back by somebody; tell it as new.")
    opened = before[act.key].follow_up if act.key in before else ""
    told = FoundOnTheWay(**dict(act.found), id=act.key, at=at, by=by, follow_up=opened)
    return _with(build, found=tuple((before | {act.key: told}).values()))


def _noted(build: Build, read: NewSetting, outline: Outline, by: str, at: datetime) -> Build:
    if read.place not in outline.settings:
        raise DomainError("That setting is no longer on the card: the plan was changed. Load the card again.")
    known = next((s for s in build.settings if s.place == read.place), read)
    values = {when: getattr(read, when) for when in ("before", "after")}
    kept = {when: getattr(known, when) if value is None else value for when, value in values.items()}
    record = SettingRecord(**dict(read) | kept, at=at, by=by)
    return _with(build, settings=(*(s for s in build.settings if s.place != record.place), record))

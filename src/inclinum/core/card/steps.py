"""A job card: what to have ready, and steps in a safe order with their cautions, figures and fasteners."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Any, Self

from inclinum.core.card import cautions
from inclinum.core.card.fastener import Fastener
from inclinum.core.card.found import FoundOnTheWay
from inclinum.core.card.joints import Handling
from inclinum.core.card.off import TakenOff, listed
from inclinum.core.card.order import Layer, Order
from inclinum.core.card.own import KeptNote
from inclinum.core.card.record import Build, TorqueRecord
from inclinum.core.card.schools import BY_FEEL, ShopSchools
from inclinum.core.card.settings import SettingRow, held_against
from inclinum.core.card.times import Taken, expected
from inclinum.core.document import Document
from inclinum.core.document.names import SIDES, AxleName, PhotoId, Side
from inclinum.core.quantity import newton_metres_to_pound_feet
from inclinum.core.quantity.words import numbers_in

LOOK_UP = "look up the maker's figure"
FELT = "by feel, as this shop does; the maker's figure is looked up by default"


class FastenerUse(Document):
    """A fastener as it is tightened in a step."""

    key: str
    name: str
    count: int | None
    """On one side; None where nobody counted."""
    torque_nm: float | None
    torque_lbf_ft: float | None
    angle_deg: float | None
    source: str
    """Where the figure stands; says to look it up where there is none."""
    renew: bool
    handling: str = ""
    """Spanner, which end is turned, from where it goes in, thread locker."""
    doubt: str = ""
    """What was read off the wrench, where it is far from the figure."""

    @classmethod
    def of(cls, key: str, fastener: Fastener) -> Self:
        """A fastener of the machine's data; a figure nobody has is looked up, never guessed."""
        torque = fastener.torque_nm
        return cls(
            key=key,
            name=fastener.name,
            count=fastener.count_per_side,
            torque_nm=torque,
            torque_lbf_ft=None if torque is None else newton_metres_to_pound_feet(torque),
            angle_deg=fastener.angle_deg,
            source=fastener.source if torque is not None else LOOK_UP,
            renew=fastener.renewed,
            handling=fastener.handling,
        )


TORQUE_SHARE = 0.1
"""A reading further from its figure than this share is asked about. Our judgement, no maker's tolerance."""


def doubted(
    fasteners: tuple[FastenerUse, ...], torques: Sequence[TorqueRecord], axle: AxleName | None, side: Side | None
) -> tuple[FastenerUse, ...]:
    """The fasteners of a step, those that were read far from their figure marked; a torque angle has no such figure.

    What is tightened on the whole machine stands in the book of its rear axle.
    """

    def marked(use: FastenerUse) -> FastenerUse:
        record = next((t for t in torques if (t.fastener, t.axle, t.side) == (use.key, axle or "rear", side)), None)
        if record is None:
            return use
        if record.torque is None:
            if use.source == FELT:
                return use
            return use.model_copy(update={"doubt": "tightened by feel, to no figure"})
        if use.angle_deg and record.angle_deg is not None:
            if abs(record.angle_deg - use.angle_deg) <= TORQUE_SHARE * use.angle_deg:
                return use
            said = f"{record.angle_deg:.0f}° were turned, {use.angle_deg:.0f}° is the figure: is it the right bolt?"
            return use.model_copy(update={"doubt": said})
        if use.torque_nm is None or use.angle_deg:
            return use
        read = record.torque.value
        if abs(read - use.torque_nm) <= TORQUE_SHARE * use.torque_nm:
            return use
        return use.model_copy(
            update={"doubt": f"{read:.0f} N·m was read, {use.torque_nm:.0f} N·m is the figure: is it the right bolt?"}
        )

    return tuple(marked(use) for use in fasteners)


class Step(Document):
    """One step."""

    id: str
    phase: str
    axle: AxleName | None = None
    side: Side | None = None
    """Neither on a step of the whole machine; no side on a two-wheeler."""
    joint: str = ""
    """What is opened, closed or set here, by the key its place in a drawing has; empty where it is nowhere."""
    text: str
    caution: str | None = None
    hold: str | None = None
    """Why work stops here until it is so."""
    figure: str | None = None
    """The number of this step, large."""
    fasteners: tuple[FastenerUse, ...] = ()
    people: int = 1
    minutes: tuple[float, float]
    kept: tuple[KeptNote, ...] = ()
    """What the shop has kept at this joint of this machine."""
    photos: tuple[PhotoId, ...] = ()
    """Of a step of the shop's own."""
    layers: tuple[Layer, ...] = ()
    """Rings, washers and spacers in the order they lie in."""
    layers_begin: str = ""
    """Where the first of them is."""
    timed: int = 0
    """From how many times of the shop's own its minutes are told; 0 where they are what is usual."""
    work: str = ""
    """What kind of step it is, by which its time is compared with those of other jobs."""

    @classmethod
    def of(cls, what: Handling, **where: Any) -> Self:
        """A step from what is done, with its id, phase and place."""
        return cls(
            text=what.text, caution=what.caution, hold=what.hold, people=what.people, minutes=what.minutes, **where
        )


def figure_at(figure: str | None, texts: Sequence[str]) -> int:
    """Number of the step a figure stands large at: the first that names all its numbers, or else the last."""
    numbers = numbers_in(figure or "")
    return next((n for n, text in enumerate(texts) if numbers and numbers <= numbers_in(text)), len(texts) - 1)


def laid_at(order: Order | None, step: int) -> dict[str, Any]:
    """Fields of a change's own step, by its number: the order that is laid there."""
    return {} if order is None or order.step != step else {"layers": order.layers, "layers_begin": order.begins}


class Preflight(Document):
    """To have before the vehicle goes up."""

    parts: list[str]
    hardware: list[str]
    tools: list[str]
    consumables: list[str]
    move_over: tuple[str, ...] = ()
    """From the old parts to the new ones."""
    keep: tuple[str, ...] = ()
    """Old parts, for the day the job goes back."""
    throw_away: tuple[str, ...] = ()
    """Old parts that nobody needs again, and bolts that are renewed."""


class Card(Document):
    """The card of a job."""

    title: str
    vehicle: str
    owner: str
    preflight: Preflight
    steps: list[Step]
    minutes: tuple[float, float]
    stopped_by: list[str]
    """What stops the plan; a card with any is built only with the override below."""
    override: str
    unused: tuple[str, ...] = ()
    """Figures of fasteners that were typed and that no step tightens to, each in a sentence."""
    settings: tuple[SettingRow, ...] = ()
    """What is set, read before and after."""
    timed: int = 0
    """Steps whose minutes are the shop's own."""
    off: tuple[TakenOff, ...] = ()
    """What comes off, each with what becomes of it."""
    certificate: str


def compose(
    steps: Iterable[Step],
    phases: Sequence[str],
    build: Build,
    taken: Taken,
    *,
    title: str,
    vehicle: str,
    owner: str,
    preflight: Preflight,
    stopped_by: list[str],
    override: str,
    unused: Iterable[str] = (),
    settings: Iterable[SettingRow] = (),
    kinds: Mapping[str, str],
    built: Mapping[AxleName, str],
    schools: ShopSchools,
    off: Iterable[TakenOff] = (),
) -> Card:
    """The card of any machine: its steps phase by phase, and what was read held against what it should be.

    Args:
        steps: in the order they are done within their phase.
        phases: in the order they are gone through.
        build: what was done so far.
        taken: minutes that steps of each kind took before.
        title, vehicle, owner, preflight: of the job.
        stopped_by: what stops the plan.
        override: why it is built all the same; empty where nobody may say so.
        unused: figures that no step uses, in sentences.
        settings: what is set, as the plan has it.
        kinds: of the changes, by their ids.
        built: how each end of the machine is built: the same step takes longer on another.
        schools: what the shop holds with.
        off: what comes off.
    """
    order = {phase: n for n, phase in enumerate(phases)}
    placed = sorted(steps, key=lambda s: order[s.phase])
    worked = (s.model_copy(update={"work": _work(s, kinds, built)}) for s in placed)
    told = (_felt(s) if schools.torque == "by feel" else s for s in worked)
    held = [_timed(_doubted(s, build), taken) for s in _with_found(list(told), build.found)]
    lying = tuple(off)
    now = [f for f in build.found if f.decision == "now"]
    parts = [f"{f.part} (found on the way)" for f in now if f.part]
    return Card(
        title=title,
        vehicle=vehicle,
        owner=owner,
        preflight=preflight.model_copy(
            update={
                "parts": [*preflight.parts, *parts],
                "move_over": tuple(listed(lying, "over")),
                "keep": tuple(listed(lying, "keep")),
                "throw_away": tuple(listed(lying, "away", "renewed")),
            }
        ),
        steps=held,
        minutes=(sum(s.minutes[0] for s in held), sum(s.minutes[1] for s in held)),
        stopped_by=stopped_by,
        override=override,
        unused=tuple(unused),
        settings=held_against(settings, build.settings),
        timed=sum(s.timed > 0 for s in held),
        off=lying,
        certificate=cautions.CERTIFICATE,
    )


def _felt(step: Step) -> Step:
    """Where the shop tightens by feel what has no figure; a maker's figure is a figure for everybody."""
    if all(f.torque_nm is not None for f in step.fasteners):
        return step
    felt = tuple(f if f.torque_nm is not None else f.model_copy(update={"source": FELT}) for f in step.fasteners)
    return step.model_copy(update={"text": f"{step.text} {BY_FEEL}", "fasteners": felt})


def _doubted(step: Step, build: Build) -> Step:
    return step.model_copy(update={"fasteners": doubted(step.fasteners, build.torques, step.axle, step.side)})


def _work(step: Step, kinds: Mapping[str, str], built: Mapping[AxleName, str]) -> str:
    """A step as it is called on every job alike: no side, and the kind of a change for its name."""
    key = ".".join(kinds.get(part, part) for part in step.id.split(".") if part not in SIDES)
    return f"{built[step.axle]} {key}" if step.axle else key


def _timed(step: Step, taken: Taken) -> Step:
    minutes, timed = expected(step.minutes, taken.get(step.work, ()))
    return step.model_copy(update={"minutes": minutes, "timed": timed})


def _with_found(steps: list[Step], found: Sequence[FoundOnTheWay]) -> list[Step]:
    """Steps with what was found on the way and is done now, each after the step it was found at.

    Work for a step that is no longer on the card is not lost: it follows the last step that belongs to an axle.
    """
    late = next((s.id for s in reversed(steps) if s.axle), steps[-1].id if steps else "")
    there = {s.id for s in steps}
    following: dict[str, list[FoundOnTheWay]] = {}
    for one in (f for f in found if f.decision == "now"):
        following.setdefault(one.step if one.step in there else late, []).append(one)
        there.add(one.step_id)

    def told(step: Step) -> Iterator[Step]:
        yield step
        for one in following.pop(step.id, ()):
            yield from told(_of_found(one, step))

    return [each for step in steps for each in told(step)]


def _of_found(found: FoundOnTheWay, at: Step) -> Step:
    part = f" Part: {found.part}." if found.part else ""
    return Step(
        id=found.step_id, phase=at.phase, axle=at.axle, side=at.side, joint=at.joint,
        text=f"Found on the way: {found.what.rstrip('.')}. {found.work.rstrip('.')}.{part}",
        minutes=(found.minutes_least, found.minutes_most),
    )  # fmt: skip

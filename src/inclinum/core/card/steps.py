"""A job card: what to have ready, and steps in a safe order with their cautions, figures and fasteners."""

from collections.abc import Iterable, Sequence
from typing import Self

from inclinum.core.card import cautions
from inclinum.core.card.fastener import Fastener
from inclinum.core.card.record import TorqueRecord
from inclinum.core.document import Document
from inclinum.core.document.names import AxleName, Side
from inclinum.core.quantity import newton_metres_to_pound_feet

LOOK_UP = "look up the maker's figure"


class FastenerUse(Document):
    """A fastener as it is tightened in a step."""

    key: str
    name: str
    count: int
    torque_nm: float | None
    torque_lbf_ft: float | None
    angle_deg: float | None
    source: str
    """Where the figure stands; says to look it up where there is none."""
    renew: bool
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
            renew=fastener.renew,
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
        if record is None or use.torque_nm is None or use.angle_deg:
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


class Preflight(Document):
    """To have before the vehicle goes up."""

    parts: list[str]
    hardware: list[str]
    tools: list[str]
    consumables: list[str]


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
    certificate: str


def compose(
    steps: Iterable[Step],
    phases: Sequence[str],
    torques: Sequence[TorqueRecord],
    *,
    title: str,
    vehicle: str,
    owner: str,
    preflight: Preflight,
    stopped_by: list[str],
    override: str,
    unused: Iterable[str] = (),
) -> Card:
    """The card of any machine: its steps phase by phase, each torque that was read held against its figure.

    Args:
        steps: in the order they are done within their phase.
        phases: in the order they are gone through.
        torques: as they were read.
        title, vehicle, owner, preflight: of the job.
        stopped_by: what stops the plan.
        override: why it is built all the same; empty where nobody may say so.
        unused: figures that no step uses, in sentences.
    """
    order = {phase: n for n, phase in enumerate(phases)}
    held = sorted(
        (s.model_copy(update={"fasteners": doubted(s.fasteners, torques, s.axle, s.side)}) for s in steps),
        key=lambda s: order[s.phase],
    )
    return Card(
        title=title,
        vehicle=vehicle,
        owner=owner,
        preflight=preflight,
        steps=held,
        minutes=(sum(s.minutes[0] for s in held), sum(s.minutes[1] for s in held)),
        stopped_by=stopped_by,
        override=override,
        unused=tuple(unused),
        certificate=cautions.CERTIFICATE,
    )

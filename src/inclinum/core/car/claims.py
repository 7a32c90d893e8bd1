"""What sellers say against what this vehicle does: kits, stated springs, and the sag that goes with tired ones."""

from inclinum.core.car.heights import hub_to_arch_before
from inclinum.core.car.job import Job, Kit
from inclinum.core.car.stance import inferred_load
from inclinum.core.car.stood import Stood
from inclinum.core.document import Document
from inclinum.core.document.names import AXLES, AxleName
from inclinum.core.plan import Share
from inclinum.core.quantity.constants import GRAVITY

WORTH_SAYING_MM = 3.0
"""Less of a difference than this is within what a tape can read twice."""


class KitEnd(Document):
    """One end of a kit: what is advertised, what it does here, and where the difference comes from."""

    axle: AxleName
    advertised_mm: float
    predicted_mm: float
    because: tuple[str, ...]


class KitPrediction(Document):
    """A kit against this vehicle."""

    name: str
    ends: tuple[KitEnd, ...]


def recovered(before: Stood, after: Stood, job: Job, name: AxleName) -> float:
    """Part of an axle's rise that is the sag of tired springs going out with them, mm; 0 where they stay."""
    as_new = job.measure.as_new(name)
    if as_new is None or not after.axle(name).axle.renewed:
        return 0.0
    return as_new.value - hub_to_arch_before(before, name)


def kits(job: Job, before: Stood, after: Stood, shares: list[Share]) -> list[KitPrediction]:
    """Every kit of the plan against its advertised figures."""
    return [
        KitPrediction(
            name=kit.name,
            ends=tuple(
                _end(job, before, after, kit, name, advertised, shares)
                for name in AXLES
                if (advertised := kit.front_mm if name == "front" else kit.rear_mm) is not None
            ),
        )
        for kit in job.plan.kits
    ]


def _end(
    job: Job, before: Stood, after: Stood, kit: Kit, name: AxleName, advertised: float, shares: list[Share]
) -> KitEnd:
    mine = [s for s in shares if s.id in kit.changes]
    predicted = sum(s.front if name == "front" else s.rear for s in mine)
    because = []
    if abs(predicted - advertised) > WORTH_SAYING_MM:
        because = [*_sag(job, before, after, name), *_load(before, name), *_elsewhere(job, before, name)]
        because = because or ["Nothing that was read of this vehicle explains it: the figure is for another one."]
    return KitEnd(axle=name, advertised_mm=advertised, predicted_mm=predicted, because=tuple(because))


def _sag(job: Job, before: Stood, after: Stood, name: AxleName) -> list[str]:
    sag = recovered(before, after, job, name)
    if abs(sag) <= WORTH_SAYING_MM:
        return []
    return [
        f"The springs that go out had sagged {sag:.0f} mm: a claim over a standard vehicle comes on top of that."
        if sag > 0
        else f"It stands {-sag:.0f} mm above what it did with healthy springs: a claim counts from there."
    ]


def _load(before: Stood, name: AxleName) -> list[str]:
    """Another load than the standard one stands elsewhere on the same spring."""
    stance = before.axle(name)
    standard = inferred_load(stance.axle.model_copy(update={"tired": 0.0}), 0.0)
    more = (stance.load - standard) / stance.wheel_rate
    if abs(more) <= WORTH_SAYING_MM:
        return []
    heavier = "more" if more > 0 else "less"
    return [
        f"This vehicle carries {2 * abs(stance.load - standard) / GRAVITY:.0f} kg {heavier} there than its data at "
        "their reference height: another rate carries that elsewhere."
    ]


def _elsewhere(job: Job, before: Stood, name: AxleName) -> list[str]:
    """A place beyond the axle moves more than the axle does."""
    aim = job.brief.aim(name)
    place = before.vehicle.station(aim.station) if aim.by == "station" else None
    if place is None:
        return []
    behind = -place.x_mm / before.vehicle.wheelbase_mm
    part = 1 - behind if name == "front" else behind
    if abs(part - 1) < 0.05:
        return []
    return [f"Read at “{place.name}” a rise of this axle shows {part:.2f} times as large."]


def claims_over_sag(job: Job, before: Stood, after: Stood) -> list[tuple[AxleName, float, float]]:
    """Axle, claim and the sag that comes on top of it, mm, of what is on and known by a claim; none without sag."""
    found = []
    for planned in job.plan.changes:
        change = planned.change
        if planned.on and change.claimed is not None:
            sag = recovered(before, after, job, change.axle)
            if abs(sag) > WORTH_SAYING_MM:
                found.append((change.axle, change.claimed, sag))
    return found

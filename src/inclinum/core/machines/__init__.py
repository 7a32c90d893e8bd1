"""Kinds of machine: each one registered object, so that nothing outside asks what a machine stands on.

A third kind (a trailer, a three-wheeler) is one more wing beside ``car`` and ``bike``, and one more entry here.
"""

from collections.abc import Mapping
from typing import Annotated, Any

from pydantic import Discriminator, Tag

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.card import bike_card
from inclinum.core.bike.changes import BIKE_CHANGES, PlannedBikeChange
from inclinum.core.bike.changes import begin as begin_on_bike
from inclinum.core.bike.job import BikeAlign, BikeBrief, BikeJob, BikeMeasurements, BikePlan, BikeProve
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.prediction import BikePrediction, predict_bike
from inclinum.core.bike.prediction import assess as assess_bike
from inclinum.core.bike.proof import BikeProof, prove_bike
from inclinum.core.bike.proof import before_and_after as before_and_after_of_bike
from inclinum.core.bike.proof import outcome as outcome_of_bike
from inclinum.core.bike.stance import CONDITIONS, Condition
from inclinum.core.bike.views import machine_view
from inclinum.core.bike.ways import BikeWay
from inclinum.core.bike.ways import ways as ways_of_bike
from inclinum.core.bike.windows import USUAL_WINDOWS
from inclinum.core.car.archetypes import ARCHETYPES, BODIES, SIZES, vehicle_of
from inclinum.core.car.archetypes.recognise import RECOGNISED
from inclinum.core.car.card import card
from inclinum.core.car.changes import CHANGE_TYPES, PlannedChange, begin
from inclinum.core.car.job import Align, AxleAim, Brief, Job, Measurements, Plan, Prove
from inclinum.core.car.limits import Case
from inclinum.core.car.prediction import Prediction, assess, predict
from inclinum.core.car.proof import Proof, before_and_after, outcome, prove
from inclinum.core.car.rack import mean_offsets
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.car.views import axle_view
from inclinum.core.car.ways import Way, ways
from inclinum.core.card.record import Build
from inclinum.core.card.steps import Card
from inclinum.core.card.times import NO_TIMES, Taken
from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AXLES, AxleName
from inclinum.core.machines.kind import Choice, MachineKind, Option
from inclinum.core.machines.pictures import pictures_of_bike, pictures_of_car
from inclinum.core.quantity import Length
from inclinum.core.shapes import By, Seen, ViewName, Whose
from inclinum.core.springs.fitted import SPRINGS


def _begin_on_car(job: Job, kind: str, axle: AxleName | None) -> PlannedChange:
    if axle is None:
        raise DomainError("On four wheels a change is one of an axle: say which.")
    return begin(kind, axle, job.vehicle, job.plan.changes)


def _ways_of_car(job: Job, axle: AxleName, rise: float) -> list[Way]:
    assessed = assess(job)
    return ways(Case(job, assessed.before, assessed.after), axle, rise)


def _car_seen(job: Job, axle: AxleName, view: ViewName, whose: Whose, by: By) -> Seen:
    assessed = assess(job)
    read = mean_offsets(assessed.before, job.measure, axle)
    return axle_view(assessed.before, assessed.after, axle, view, whose, read, by)


def _brief_of_car(owner: str, machine: Vehicle, last: Brief | None) -> Brief:
    """No change yet; the shop's limits, its shelf and its ways come along."""
    _ = machine
    level = AxleAim(rise=Length.model_validate("0"))
    along = {n: getattr(last, n) for n in ("local_limits", "shelf", "schools")} if last else {}
    return Brief(owner=owner, front=level, rear=level, **along)


def _title(axle: Axle) -> str:
    known = ARCHETYPES.get(axle.archetype)
    return known.title if known else axle.linkage.title


CAR = MachineKind(
    name="car", title="Four wheels", wheels=4, told_by="front", machine=Vehicle, job=Job,
    stages={"brief": Brief, "measure": Measurements, "plan": Plan, "align": Align, "build": Build, "prove": Prove},
    choices=(
        Choice("size", "Size", tuple(Option(s.name, s.title) for s in SIZES.values())),
        Choice("body", "Body", (Option("", "the usual one"), *(Option(k, t) for k, t in BODIES.items())),
               usual=True),
        *(
            Choice(end, f"{end.capitalize()} suspension",
                   tuple(Option(a.key, a.title, a.not_for, RECOGNISED[a.key])
                         for a in ARCHETYPES.values() if end in a.where), pictured=True)
            for end in AXLES
        ),
    ),
    set_up=lambda chosen, name, plate: vehicle_of(
        chosen["front"], chosen["rear"], chosen["size"], name, plate, body=chosen.get("body", "")
    ),
    brief=_brief_of_car, changes=CHANGE_TYPES, begin=_begin_on_car,
    predict=lambda job, _, ways: predict(job, ways=ways),
    ways=_ways_of_car, card=card, prove=prove, seen=_car_seen, outcome=outcome, before_and_after=before_and_after,
    proven_by="heights", pictures=pictures_of_car, archetypes=ARCHETYPES, springs=SPRINGS,
    listed=lambda v: (_title(v.front), _title(v.rear), len(v.front.tape) + len(v.rear.tape)),
)  # fmt: skip


def _brief_of_bike(owner: str, machine: Bike, last: BikeBrief | None) -> BikeBrief:
    """No change yet; the shop's shelf, windows and ways come along."""
    along = {n: getattr(last, n) for n in ("shelf", "windows", "schools")} if last else {}
    return BikeBrief(owner=owner, rear_drop=Length.model_validate("0"), use=machine.use, **along)


def _begin_on_bike(job: BikeJob, kind: str, end: AxleName | None) -> PlannedBikeChange:
    return begin_on_bike(kind, assess_bike(job).fitted.bike, job.plan.changes, end)


BIKE = MachineKind(
    name="bike", title="Two wheels", wheels=2, told_by="fork", machine=Bike, job=BikeJob,
    stages={"brief": BikeBrief, "measure": BikeMeasurements, "plan": BikePlan, "align": BikeAlign, "build": Build,
            "prove": BikeProve},
    choices=(
        Choice("archetype", "Kind of machine", tuple(Option(a.key, a.title) for a in BIKES.values()), pictured=True),
    ),
    set_up=lambda chosen, name, plate: BIKES[chosen["archetype"]].bike(name, plate),
    brief=_brief_of_bike, changes=BIKE_CHANGES, begin=_begin_on_bike,
    predict=lambda job, looked_at, ways: predict_bike(job, looked_at, ways=ways), conditions=CONDITIONS,
    ways=lambda job, end, rise: ways_of_bike(assess_bike(job).case(), end, rise), card=bike_card, prove=prove_bike,
    seen=lambda job, end, view, whose, by: machine_view(assess_bike(job), end, view, whose, by),
    outcome=outcome_of_bike, before_and_after=before_and_after_of_bike, proven_by="sags", pictures=pictures_of_bike,
    archetypes=BIKES,
    extras={"windows": tuple(USUAL_WINDOWS.values())},
    listed=lambda b: (
        f"Fork, {b.fork.springs.title.lower()}, {b.fork.stroke_mm:g} mm", b.rear.title, len(b.tape)
    ),
)  # fmt: skip
KINDS: dict[str, MachineKind] = {kind.name: kind for kind in (CAR, BIKE)}
"""Every kind by its name."""


def kind_of(document: Document) -> MachineKind:
    """The kind of a machine, or of a job on one.

    Raises:
        KeyError: the document is neither.
    """
    return next(k for k in KINDS.values() if isinstance(document, k.job | k.machine))


def kind_on(wheels: int) -> MachineKind:
    """The kind that the database keeps by a number of wheels. Raises KeyError."""
    return {k.wheels: k for k in KINDS.values()}[wheels]


def _name_of_machine(given: Any) -> str:
    """Name of the kind of a machine, given as its document or as what is to become one; the first where none fits."""
    if isinstance(given, Document):
        return kind_of(given).name
    fitting = (k.name for k in KINDS.values() if isinstance(given, Mapping) and k.told_by in given)
    return next(fitting, CAR.name)


def _name_of_job(given: Any) -> str:
    if isinstance(given, Document):
        return kind_of(given).name
    return _name_of_machine(given.get("vehicle") if isinstance(given, Mapping) else None)


AnyMachine = Annotated[
    Annotated[Vehicle, Tag("car")] | Annotated[Bike, Tag("bike")], Discriminator(_name_of_machine)
]  # fmt: skip
"""A machine of any kind, told apart by what only its kind has."""
AnyJob = Annotated[Annotated[Job, Tag("car")] | Annotated[BikeJob, Tag("bike")], Discriminator(_name_of_job)]
"""A job on a machine of any kind."""
AnyPrediction = Prediction | BikePrediction
AnyProof = Proof | BikeProof
AnyPlanned = PlannedChange | PlannedBikeChange
AnyWay = Way | BikeWay


class Offer(Document):
    """A kind of change at one end of a machine."""

    type: str
    axle: AxleName | None
    """Where; None beside both ends, or where the kind has one end only."""
    refused: str
    """Why it cannot be made there, in a sentence; empty where it can."""


def offers(job: Document) -> list[Offer]:
    """Every kind of change at every end, as the plan so far leaves the machine."""
    kind = kind_of(job)
    return [
        _offer(kind, job, change.model_fields["type"].default, end)
        for change in kind.changes
        for end in (change.ends() if len(change.ends()) > 1 else (None,))
    ]


def _offer(kind: MachineKind, job: Document, change: str, end: AxleName | None) -> Offer:
    try:
        kind.begin(job, change, end)
    except DomainError as no:
        return Offer(type=change, axle=end, refused=str(no))
    return Offer(type=change, axle=end, refused="")


def card_of(job: Document, taken: Taken = NO_TIMES) -> Card:
    """The job card of any machine.

    Args:
        job: on it.
        taken: minutes that steps of each kind took before, in this shop.

    Raises:
        ValueError: nothing can be predicted.
    """
    return kind_of(job).card(job, taken)


def proof_of(job: Document) -> AnyProof:
    """Readings after against the prediction, of any machine. Raises as :func:`card_of`."""
    return kind_of(job).prove(job)


def prediction_of(job: Document, conditions: tuple[Condition, ...] = (), *, ways: bool = True) -> AnyPrediction:
    """Everything that follows from a job on any machine.

    Args:
        job: on it.
        conditions: in which the planned machine is drawn; every one it can be drawn in where none is named.
        ways: whether a height that is missed is searched for what reaches it.

    Raises:
        ValueError: nothing can be predicted, or its kind is not drawn in conditions.
    """
    kind = kind_of(job)
    if conditions and not kind.conditions:
        raise DomainError(f"{kind.title} are drawn as they stand, in no condition: leave “{conditions[0]}” out.")
    return kind.predict(job, conditions or kind.conditions, ways)

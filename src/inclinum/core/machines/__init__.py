"""Kinds of machine: each one registered object, so that nothing outside asks what a machine stands on.

A third kind (a trailer, a three-wheeler) is one more wing beside ``car`` and ``bike``, and one more entry here.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.card import bike_card
from inclinum.core.bike.changes import BIKE_CHANGES
from inclinum.core.bike.job import BikeAlign, BikeBrief, BikeJob, BikeMeasurements, BikePlan, BikeProve
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.prediction import predict_bike
from inclinum.core.bike.proof import prove_bike
from inclinum.core.car.archetypes import ARCHETYPES
from inclinum.core.car.card import card
from inclinum.core.car.changes import CHANGE_TYPES
from inclinum.core.car.job import Align, Brief, Job, Measurements, Plan, Prove
from inclinum.core.car.prediction import predict
from inclinum.core.car.proof import prove
from inclinum.core.car.vehicle import Vehicle
from inclinum.core.card.record import Build
from inclinum.core.card.steps import Card
from inclinum.core.document import Document
from inclinum.core.document.names import StageName
from inclinum.core.plan import Change


@dataclass(frozen=True)
class MachineKind:
    """What a kind of machine brings.

    Args:
        name: in code.
        title: of its chapter in the catalogue.
        wheels: what it stands on, by which the database keeps kinds apart.
        machine: its document.
        job: the document of a job on it.
        stages: the document of each stage.
        archetypes: what it can be set up from.
        changes: what can be changed on it.
        predict: job → everything that follows from it.
        card: job → the steps of its plan.
        prove: job → readings after against the prediction.
        proven_by: what is read after, in a sentence.
    """

    name: str
    title: str
    wheels: int
    machine: type[Document]
    job: type[Document]
    stages: Mapping[StageName, type[Document]]
    archetypes: Mapping[str, Any]
    changes: tuple[type[Change[Any]], ...]
    predict: Callable[[Any], Any]
    card: Callable[[Any], Card]
    prove: Callable[[Any], Any]
    proven_by: str


CAR = MachineKind(
    name="car", title="Four wheels", wheels=4, machine=Vehicle, job=Job,
    stages={"brief": Brief, "measure": Measurements, "plan": Plan, "align": Align, "build": Build, "prove": Prove},
    archetypes=ARCHETYPES, changes=CHANGE_TYPES, predict=predict, card=card, prove=prove, proven_by="heights",
)  # fmt: skip
BIKE = MachineKind(
    name="bike", title="Two wheels", wheels=2, machine=Bike, job=BikeJob,
    stages={"brief": BikeBrief, "measure": BikeMeasurements, "plan": BikePlan, "align": BikeAlign, "build": Build,
            "prove": BikeProve},
    archetypes=BIKES, changes=BIKE_CHANGES, predict=predict_bike, card=bike_card, prove=prove_bike, proven_by="sags",
)  # fmt: skip
KINDS: dict[str, MachineKind] = {kind.name: kind for kind in (CAR, BIKE)}
"""Every kind by its name."""


def kind_of(document: Document) -> MachineKind:
    """The kind of a machine, or of a job on one.

    Raises:
        KeyError: the document is neither.
    """
    return next(k for k in KINDS.values() if isinstance(document, k.job | k.machine))


def card_of(job: Document) -> Card:
    """The job card of any machine. Raises ValueError where nothing can be predicted."""
    return kind_of(job).card(job)


def proof_of(job: Document) -> Any:
    """Readings after against the prediction, of any machine. Raises as :func:`card_of`."""
    return kind_of(job).prove(job)


def prediction_of(job: Document) -> Any:
    """Everything that follows from a job on any machine. Raises as :func:`card_of`."""
    return kind_of(job).predict(job)

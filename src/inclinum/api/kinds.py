"""What the product knows of each kind of machine: how it is set up, what can be changed on it, what its forms show."""

from functools import cache
from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel, Field

from inclinum.api.computing import Computed
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.machines import KINDS
from inclinum.core.machines.kind import Choice, MachineKind
from inclinum.core.machines.pictures import Picture
from inclinum.core.plan import Change

router = APIRouter(tags=["kinds"])
computed = APIRouter(route_class=Computed)


class OptionView(BaseModel):
    """One thing that can be chosen."""

    key: str
    title: str
    not_with: list[str]
    """Choices made before it that it does not go with."""
    tell: str
    """How it is told from what is like it."""


class ChoiceView(BaseModel):
    """A question that is answered to set a machine up."""

    name: str
    title: str
    options: list[OptionView]
    pictured: bool
    """Whether every option has a drawing."""


class ChangeKind(BaseModel):
    """A kind of change, with the schema of its parameters for the form."""

    type: str
    title: str
    ends: list[AxleName]
    """Where it can be added; empty where it is beside both."""
    place: str
    """What it is looked for under."""
    known_as: list[str]
    """Other names people know it by."""
    costs: str
    """What it gives up for what it gives."""
    reversible: bool
    stated: bool
    """Whether its number is somebody's word and not worked out."""
    brings_spring: bool
    """Whether other springs go in: their force is drawn on its card."""
    parameters: dict[str, Any]


class SpringKind(BaseModel):
    """A kind of spring, with the schema of its fields for the form."""

    type: str
    title: str
    parameters: dict[str, Any]


class KindView(BaseModel):
    """A kind of machine."""

    kind: str
    title: str
    choices: list[ChoiceView]
    changes: list[ChangeKind]
    springs: list[SpringKind]
    machine: dict[str, Any]
    brief: dict[str, Any]
    """Schemas for forms: titles, units and limits stand there only."""
    extras: dict[str, list[dict[str, Any]]]
    """What else its forms begin with."""


@router.get("/kinds", operation_id="kinds")
def kinds() -> dict[str, KindView]:
    """Every kind of machine by its name."""
    return _views()


class OfChoice(BaseModel):
    """A kind of machine, and a choice that is made where one is set up, by their names."""

    kind: str = Field(max_length=40)
    choice: str = Field(max_length=40)


@computed.post("/pictures", operation_id="pictures")
def pictures(wanted: OfChoice) -> dict[str, Picture]:
    """What such a machine can be set up from, drawn to scale, by what can be chosen; empty where nothing is drawn."""
    if wanted.kind not in KINDS:
        raise DomainError(f"There is no kind of machine “{wanted.kind}”; there are {', '.join(KINDS)}.")
    return dict(KINDS[wanted.kind].pictures(wanted.choice))


@cache
def _views() -> dict[str, KindView]:
    return {name: _view(kind) for name, kind in KINDS.items()}


def _view(kind: MachineKind) -> KindView:
    return KindView(
        kind=kind.name,
        title=kind.title,
        choices=[_choice(c) for c in kind.choices],
        changes=[_change(c) for c in kind.changes],
        springs=[
            SpringKind(type=t, title=k.title, parameters=k.model_json_schema())  # type: ignore[attr-defined]
            for t, k in kind.springs.items()
        ],
        machine=kind.machine.model_json_schema(),
        brief=kind.stages["brief"].model_json_schema(),
        extras={name: [d.model_dump(mode="json") for d in some] for name, some in kind.extras.items()},
    )


def _choice(choice: Choice) -> ChoiceView:
    return ChoiceView(
        name=choice.name,
        title=choice.title,
        options=[OptionView(key=o.key, title=o.title, not_with=list(o.not_with), tell=o.tell) for o in choice.options],
        pictured=choice.pictured,
    )


def _change(kind: type[Change[Any]]) -> ChangeKind:
    return ChangeKind(
        type=kind.model_fields["type"].default,
        title=kind.title,
        ends=list(kind.ends()),
        place=kind.place,
        known_as=list(kind.known_as),
        costs=kind.costs,
        reversible=kind.reversible,
        stated=kind.stated,
        brings_spring=kind.renews_springs,
        parameters=kind.model_json_schema(),
    )


router.include_router(computed)

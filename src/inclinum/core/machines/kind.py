"""What a kind of machine brings to the product."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from inclinum.core.card.steps import Card
from inclinum.core.card.times import Taken
from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, StageName
from inclinum.core.machines.pictures import Picture
from inclinum.core.plan import BeforeAfter, Change, Outcome
from inclinum.core.shapes import By, Seen, ViewName, Whose


@dataclass(frozen=True)
class Option:
    """One thing that can be chosen.

    Args:
        key: its name in a file.
        title: what a person calls it.
        not_with: choices made before it that it does not go with.
        tell: how it is told from what is like it.
    """

    key: str
    title: str
    not_with: tuple[str, ...] = ()
    tell: str = ""


@dataclass(frozen=True)
class Choice:
    """One question that has to be answered to set a machine up."""

    name: str
    title: str
    options: tuple[Option, ...]
    usual: bool = False
    """Whether it can be left open: then what is usual with the rest is taken."""
    pictured: bool = False
    """Whether every option of it has a drawing: room is kept for them before they come."""


@dataclass(frozen=True)
class MachineKind:
    """What a kind of machine brings: nothing outside asks what a machine stands on.

    Args:
        name: in code and in an address.
        title: what a person calls such machines.
        wheels: what it stands on, by which the database keeps kinds apart.
        told_by: a field that only its machine's document has.
        machine: its document.
        job: the document of a job on it.
        stages: the document of each stage.
        choices: what it is set up from, in the order it is asked.
        set_up: what was chosen, by name, with a name and a plate → a machine that works at once.
        brief: owner, machine, and the brief of the newest job on such a machine → what a new job begins with.
        changes: what can be changed on it.
        begin: job, type of change, end → a change to put on the stack.
        predict: job, conditions drawn, whether ways to a missed height are sought → everything that follows from it.
        conditions: in which the planned machine can be drawn; none where it is drawn as it stands.
        ways: job, end, rise there in mm → what reaches it.
        card: job, minutes that steps took before → the steps of its plan.
        prove: job → readings after against the prediction.
        seen: job, end, view, as planned or as found, moved how → pictures of it over its travel or between its locks.
        outcome: job → what it predicted and gave, in a line.
        before_and_after: job → its numbers as it came, as planned and as measured after.
        proven_by: what is read after, in a sentence.
        listed: machine → what it has in front, in the rear, and how many readings were taken on it.
        pictures: a choice of what it can be set up from → a drawing of each option that has one, by its key.
        archetypes: what it can be set up from, by key.
        springs: kinds of spring its forms offer, by type.
        extras: what else its forms begin with.
    """

    name: str
    title: str
    wheels: int
    told_by: str
    machine: type[Any]
    job: type[Any]
    stages: Mapping[StageName, type[Document]]
    choices: tuple[Choice, ...]
    set_up: Callable[[Mapping[str, str], str, str], Any]
    brief: Callable[[str, Any, Any], Document]
    changes: tuple[type[Change[Any]], ...]
    begin: Callable[[Any, str, AxleName | None], Any]
    predict: Callable[[Any, tuple[Any, ...], bool], Any]
    ways: Callable[[Any, AxleName, float], list[Any]]
    card: Callable[[Any, Taken], Card]
    prove: Callable[[Any], Any]
    seen: Callable[[Any, AxleName, ViewName, Whose, By], Seen]
    outcome: Callable[[Any], Outcome]
    before_and_after: Callable[[Any], list[BeforeAfter]]
    proven_by: str
    listed: Callable[[Any], tuple[str, str, int]]
    pictures: Callable[[str], Mapping[str, Picture]]
    archetypes: Mapping[str, Any]
    springs: Mapping[str, type[Document]] = field(default_factory=dict)
    extras: Mapping[str, tuple[Document, ...]] = field(default_factory=dict)
    conditions: tuple[str, ...] = ()

    def made(self, chosen: Mapping[str, str], name: str, plate: str) -> Any:
        """A machine set up from what was chosen.

        Raises:
            DomainError: something was not chosen, or is not among what there is.
        """
        for choice in self.choices:
            given = chosen.get(choice.name)
            if choice.usual and not given:
                continue
            if given not in {o.key for o in choice.options}:
                known = ", ".join(o.key for o in choice.options)
                said = f"There is no “{given}”" if given else f"“{choice.name}” is not chosen"
                raise DomainError(f"{choice.title}: {said}; there are {known}.")
        for name_of in chosen:
            if name_of not in {c.name for c in self.choices}:
                raise DomainError(f"“{name_of}” is nothing that is chosen for {self.title.lower()}.")
        return self.set_up(chosen, name, plate)

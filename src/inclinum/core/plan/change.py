"""What every change is: parameters with titles, units and limits, and a pure function machine → machine."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cache, lru_cache
from typing import Any, ClassVar, Generic, Protocol, Self, TypeVar

from pydantic import TypeAdapter, ValidationError, create_model

from inclinum.core.card.fabrication import BOLTED, Routine
from inclinum.core.card.order import Order
from inclinum.core.document import Document, unit_of
from inclinum.core.document.content import Same
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AXLES, AxleName, ChangeId, Side
from inclinum.core.plan.noted import Noted

MachineT = TypeVar("MachineT", bound=Document)


@dataclass(frozen=True)
class Search:
    """The one number of a change that it is searched by, where a height is wanted and the change asked for.

    Args:
        low, high: values it is searched between. The larger the value, the higher the body: a change for which that
            is not so has no search.
        step: it is sold, cut or set in steps of this.
    """

    low: float
    high: float
    step: float


class Change(Document, Generic[MachineT]):
    """Base of all changes. A subclass adds a literal ``type``; its other fields are its parameters."""

    title: ClassVar[str]
    reversible: ClassVar[bool] = True
    """Whether the machine can be put back as it came."""
    equation: ClassVar[str] = ""
    """What it does to a height or a length, in one line."""
    source: ClassVar[str] = ""
    """Where the equation comes from."""
    provides: ClassVar[str] = ""
    """What :meth:`at` sets, in a word that limits ask for: their ways out name a need, and no kind of change."""
    also_meets: ClassVar[frozenset[str]] = frozenset()
    """Needs beside that which its parameters meet: a complete unit is a damper, a spring and a preload as well."""
    takes: ClassVar[frozenset[str]] = frozenset()
    """What it uses up: ``room`` of the spring, ``thread`` of a stud. Ways out take less of it."""
    marks: ClassVar[frozenset[str]] = frozenset()
    """Fields that only note that something was done."""
    opens: ClassVar[frozenset[str]] = frozenset()
    """What has to be open for it, in words the card of its machine knows."""
    deep: ClassVar[int] = 0
    """How deep inside its place it is done; of two at one joint the deeper comes first, whatever the stack's order.

    A unit or damper is 3, what sits on its rod, lies in its leg or on a seat 2, the coil 1, what lies over all 0.
    """
    tools: ClassVar[tuple[str, ...]] = ()
    """Tools it needs beyond what every job has at hand."""
    place: ClassVar[str] = ""
    """Where on the machine it sits, in the word it is looked for under."""
    known_as: ClassVar[tuple[str, ...]] = ()
    """Other names people know it by."""
    costs: ClassVar[str] = ""
    """What it gives up for what it gives, in one line."""
    stated: ClassVar[bool] = False
    """Whether its number is somebody's word and not worked out; it is marked so wherever it shows."""
    offered: ClassVar[bool] = True
    """Whether it is a way to a height where nobody has put it on the plan: it needs no part that may not be there."""
    removes: ClassVar[tuple[str, ...]] = ()
    """Parts another takes the place of, at each side where it is made."""
    moves_over: ClassVar[tuple[str, ...]] = ()
    """What of them goes over to the new part."""
    renews_springs: ClassVar[bool] = False
    """Whether other springs go in: what the old ones had lost goes out with them."""
    on_brackets: ClassVar[bool] = False
    """Whether bolts of its own brackets hold it, which some shops weld once they are proven."""
    adds: ClassVar[bool] = False
    """Whether it comes on top of what is there, and does not replace it."""

    @property
    def where(self) -> str | None:
        """The axle it is done on; None beside both."""
        return None

    @property
    def stays(self) -> bool:
        """Whether the machine cannot be put back as it came after this one."""
        return not self.reversible or self.fabrication().one_way

    def fabrication(self) -> Routine:
        """What is cut, drilled or welded for it; nothing where it is bolted on."""
        return BOLTED

    @classmethod
    def ends(cls) -> tuple[AxleName, ...]:
        """Where such a change can be added; empty where it is beside both."""
        return AXLES

    def apply(self, machine: MachineT) -> MachineT:
        """The machine with this change made. Never alters its argument.

        Raises:
            ValueError: the machine cannot take it.
        """
        raise DomainError(f"The change “{self.title}” does not say what it changes.")

    def summary(self) -> str:
        """One line as it stands on the stack and on the card."""
        raise DomainError(f"The change “{self.title}” has no summary.")

    @property
    def size(self) -> float:
        """The one number it is known and searched by."""
        raise DomainError(f"The change “{self.title}” is not known by one number.")

    def sized(self) -> str:
        """Its name with that number, as a way to a height is offered."""
        return f"{self.title.lower()}, {self.summary()}"

    def at(self, value: Any) -> Self:
        """The same with what it :attr:`provides` set so; put together without validating anew.

        A search makes dozens of them a second, within limits it has asked for.
        """
        raise DomainError(f"The change “{self.title}” is not set by one number.")

    def met(self, need: str, value: Any) -> Self:
        """The same with a need met by its own parameters: what it :attr:`provides`, or one it :attr:`also_meets`."""
        _ = need
        return self.at(value)

    def less(self, by: float) -> tuple[Self | None, ...]:
        """Ways to take less of what it :attr:`takes`: itself smaller, or None for leaving it out; empty without one.

        Args:
            by: mm too much.
        """
        _ = by
        return ()

    def choices(self, machine: MachineT) -> dict[str, list[tuple[str, str]]]:
        """Of parameters that name a part of the machine, the parts there are: value and title.

        Args:
            machine: as the changes before this one leave it.
        """
        _ = machine
        return {}

    def opened(self, machine: MachineT) -> frozenset[str]:
        """What has to be open for it on a machine, in words the card of its wing knows; empty where nothing has.

        Args:
            machine: as the changes before this one leave it.
        """
        _ = machine
        return self.opens

    def parts(self, machine: MachineT) -> list[str]:
        """Parts to have before the machine goes up.

        Args:
            machine: as the changes before this one leave it.
        """
        _ = machine
        return []

    def needs_once(self, came: MachineT, planned: MachineT) -> dict[str, str]:
        """Parts that are needed once however many changes ask for them, by what they are; the last one's line counts.

        Args:
            came: the machine as it came.
            planned: as the whole plan leaves it.
        """
        _ = came, planned
        return {}

    def taken_off(self, machine: MachineT) -> tuple[str, ...]:
        """Parts that come off and do not go back on, at each side where it is made.

        Args:
            machine: as it came: what a change before this one puts on was never there to be taken off.
        """
        _ = machine
        return self.removes

    def steps(self, machine: MachineT) -> list[str]:
        """What to do when its place is open, in order; of a side, at each.

        Args:
            machine: as the changes before this one leave it.
        """
        _ = machine
        return []

    def settled(self, machine: MachineT) -> list[str]:
        """What is looked at once it stands on its wheels again, before its heights are read; once for both sides.

        Args:
            machine: as the changes before this one leave it.
        """
        _ = machine
        return []

    def order(self, machine: MachineT, side: Side | None) -> Order | None:
        """In which order the rings, washers and spacers of one of its steps lie; None where it has none.

        Args:
            machine: as the changes before this one leave it.
            side: of the machine; None where it has none, or both are alike.
        """
        _ = machine, side
        return None

    def noted(self, machine: MachineT, side: Side | None) -> tuple[Noted, ...]:
        """What is read before and after where it is made; empty where it has no setting.

        Args:
            machine: as the changes before this one leave it.
            side: of the machine; None where it has none.
        """
        _ = machine, side
        return ()


ChangeT = TypeVar("ChangeT")


class Planned(Document, Generic[ChangeT]):
    """A change on the stack, which can be switched off to see what it does."""

    id: ChangeId
    on: bool = True
    change: ChangeT


class _OnStack(Protocol):
    """What a stack holds, whatever machine it is for."""

    @property
    def id(self) -> str: ...
    @property
    def on(self) -> bool: ...
    @property
    def change(self) -> Any: ...


PlannedT = TypeVar("PlannedT", bound=_OnStack)


def made(change: Change[MachineT], machine: MachineT) -> MachineT:
    """The machine with one change made, what it changed of it validated anew.

    Raises:
        ValueError: the machine cannot take it, or would have a number that no such machine can have.
    """
    return _made(Same(change), Same(machine))


@lru_cache(maxsize=256)
def _made(of: Same[Change[Any]], on: Same[Any]) -> Any:
    """Once for a change and the machine it meets: prediction, shares, choices and card all ask."""
    change, machine = of.document, on.document
    try:
        changed = change.apply(machine)
        _look_over(machine, changed)
    except ValidationError as error:
        raise DomainError(_impossible(change, error)) from None
    return changed


def _look_over(was: Document, now: Document) -> None:
    """Validate what differs: a part as a whole where it holds no others, else its own numbers one by one.

    A whole machine takes longer to validate than its change to compute, and a live drag makes many.
    """
    had, has = vars(was), vars(now)
    fields = type(now).__pydantic_fields__
    differing = [n for n, value in has.items() if value is not had.get(n) and n in fields]
    if differing and not any(isinstance(has[n], Document) for n in fields):
        type(now).model_validate(now.model_dump())
        return
    for name in differing:
        part, before = has[name], had.get(name)
        if isinstance(part, Document) and isinstance(before, Document) and type(before) is type(part):
            _look_over(before, part)
        elif isinstance(part, Document):
            type(part).model_validate(part.model_dump())
        else:
            _field_of(type(now), name).validate_python({name: part})


@cache
def _field_of(model: type[Document], name: str) -> TypeAdapter[Any]:
    """What validates one field of a model by itself."""
    field = model.model_fields[name]
    return TypeAdapter(create_model(model.__name__, __base__=Document, **{name: (field.annotation, field)}))  # type: ignore[call-overload]


def _impossible(change: Change[Any], error: ValidationError) -> str:
    first = error.errors(include_url=False)[0]
    said = first["msg"].removeprefix("Value error, ").removeprefix("Input ")
    given = first["input"]
    outcome = f"leaves a machine that cannot be: {said}"
    if isinstance(given, int | float):
        name, unit = unit_of(str(first["loc"][-1]))
        outcome = f"would leave the {name.replace('_', ' ')} at {given:g} {unit}, which {said}"
    return f"The change “{change.title}” {outcome}. Make it smaller, or take it out."


def apply_all(machine: MachineT, stack: Sequence[_OnStack], *, searching: bool = False) -> MachineT:
    """The machine with every change that is on, in order. Raises ValueError where one cannot be made.

    Args:
        machine: as it came.
        stack: what is planned.
        searching: a search tries dozens of sizes within limits it has asked for; they are not validated anew, what it
            finds is.
    """
    if not searching:
        return in_turn(machine, stack)[-1]
    for planned in stack:
        if planned.on:
            machine = planned.change.apply(machine)
    return machine


def in_turn(machine: MachineT, stack: Sequence[_OnStack]) -> tuple[MachineT, ...]:
    """The machine as it came, then as each change that is on leaves it. Raises as ``apply_all``."""
    return _in_turn(Same(machine), Same(tuple(stack)))


@lru_cache(maxsize=64)
def _in_turn(came: Same[Any], stack: Same[tuple[_OnStack, ...]]) -> tuple[Any, ...]:
    """Once for a plan: prediction, shares, limits and card all ask, with one and the same stack."""
    machines = [came.document]
    for planned in stack.document:
        if planned.on:
            machines.append(made(planned.change, machines[-1]))
    return tuple(machines)


def at_their_place(machine: MachineT, stack: Sequence[PlannedT]) -> tuple[tuple[PlannedT, MachineT], ...]:
    """Every change that is on with the machine it meets: as those before it left it. Raises as ``apply_all``."""
    return tuple(zip((planned for planned in stack if planned.on), in_turn(machine, stack), strict=False))


def choices_of(machine: Document, stack: Sequence[_OnStack]) -> dict[str, dict[str, list[tuple[str, str]]]]:
    """Id of a change → parameter → parts of the machine it can name, where it names one. Raises as ``apply_all``.

    Args:
        machine: as it came.
        stack: what is planned; one that is off is asked as if it were on.
    """
    machines = iter(in_turn(machine, stack))
    found, meets = {}, next(machines)
    for planned in stack:
        if type(planned.change).choices is not Change.choices:
            found[planned.id] = planned.change.choices(meets)
        if planned.on:
            meets = next(machines)
    return found


def unused_id(stack: Sequence[_OnStack]) -> str:
    """An id no change of the stack has."""
    taken = {p.id for p in stack}
    return next(f"c{n}" for n in range(1, len(stack) + 2) if f"c{n}" not in taken)


KindT = TypeVar("KindT", bound=Change)


def begin(
    kind: str,
    kinds: Sequence[type[KindT]],
    planned: type[PlannedT],
    stack: Sequence[_OnStack],
    start: Callable[[type[KindT]], KindT],
) -> PlannedT:
    """A new change of a kind, with a free id, as it is put on the stack.

    Args:
        kind: its ``type``.
        kinds: those there are.
        planned: what the stack holds.
        stack: so far.
        start: makes one of a kind to begin with.

    Raises:
        ValueError: no such kind, or the machine cannot take it.
    """
    found = next((k for k in kinds if k.model_fields["type"].default == kind), None)
    if found is None:
        raise DomainError(f"There is no change “{kind}”.")
    try:
        started = start(found)
    except ValidationError as error:
        said = error.errors(include_url=False)[0]["msg"].removeprefix("Value error, ").removeprefix("Input ")
        raise DomainError(
            f"{found.title} cannot be begun with on this machine as it stands: one of its numbers {said}. Put the "
            "figures right that it begins with, or the changes before it."
        ) from None
    return planned.model_validate({"id": unused_id(stack), "change": started})  # type: ignore[attr-defined]


def millimetres(value: float) -> str:
    """A length for a sentence, without a useless .0."""
    return f"{value:g} mm"


def named(part: str, text: str) -> str:
    """A summary with its part number in front."""
    return f"{part}: {text}" if part else text

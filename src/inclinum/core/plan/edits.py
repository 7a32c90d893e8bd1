"""Edits of a plan that ways out and ways to a height are made of. They name needs, and no kind of change."""

from abc import ABC, abstractmethod
from collections.abc import Iterator, Sequence
from typing import Any, Generic, TypeVar

from inclinum.core.document import Document
from inclinum.core.plan.change import Change, Search, unused_id
from inclinum.core.plan.finding import Cure
from inclinum.core.plan.ways import Candidate

MachineT = TypeVar("MachineT", bound=Document)
ChangeT = TypeVar("ChangeT", bound=Change[Any])
PlannedT = TypeVar("PlannedT", bound=Any)
CureT = TypeVar("CureT", bound=Cure[Any])
Where = str | None


class PlanEdits(ABC, Generic[ChangeT, PlannedT, CureT]):
    """What a case of any kind of machine can do with its stack; the kind says what its changes are."""

    kinds: Sequence[type[ChangeT]]
    """Every change of this kind of machine."""
    planned_type: type[PlannedT]
    cure_type: type[CureT]

    @property
    @abstractmethod
    def changes(self) -> tuple[PlannedT, ...]:
        """The stack."""

    @abstractmethod
    def started(self, kind: type[ChangeT], where: Where) -> ChangeT:
        """A change of a kind to begin with, on the machine as planned. Raises ValueError where it cannot take one."""

    @abstractmethod
    def searched(self, change: ChangeT, where: Where) -> Search | None:
        """What a change is searched by on the machine as planned; None where no one number moves the body."""

    def candidates(self, where: Where) -> Iterator[Candidate[CureT]]:
        """Every change of an end that is searched by one number: the plan's own at another size, else one added."""
        for kind in self.kinds:
            if not kind.provides:
                continue
            there = self.planned(where, kind.provides)
            if not there and not kind.offered:
                continue
            try:
                change = there[-1].change if there else self.started(kind, where)
            except ValueError:
                continue
            if change.where != where or (search := self.searched(change, where)) is None:
                continue

            def sized_plan(size: float, change: ChangeT = change, there: list[PlannedT] = there) -> CureT:
                sized = change.at(float(size))
                if there:
                    return self.replacing(f"{str(where).capitalize()} {sized.sized()}", there[-1], sized)
                title = f"Add {where} {sized.sized()}" if sized.adds else f"{str(where).capitalize()} {sized.sized()}"
                return self.adding(title, sized)

            yield Candidate(search.low, search.high, search.step, sized_plan)

    def planned(self, where: Where, provides: str) -> list[PlannedT]:
        """Changes at one end that are on and provide something."""
        return [p for p in self.changes if p.on and p.change.where == where and p.change.provides == provides]

    def adding(self, title: str, change: ChangeT) -> CureT:
        """The plan with a change added at the end."""
        new = self.planned_type.model_construct(id=unused_id(self.changes), on=True, change=change)
        return self.cure_type.model_construct(title=title, changes=(*self.changes, new))

    def providing(self, title: str, where: Where, what: str, value: Any, *, anew: bool = True) -> list[CureT]:
        """The plan with a need met: by the change that does so already, else (``anew``) by one added.

        Empty where the machine cannot take such a change, or the value is none it can have.

        Args:
            title: of the way out.
            where: which end.
            what: the need, by the word the change :attr:`~inclinum.core.plan.Change.provides`.
            value: what it is set to.
            anew: whether a new change may be added for it.
        """
        there = [
            p for p in self.changes
            if p.on and p.change.where == where and (p.change.provides == what or what in p.change.also_meets)
        ]  # fmt: skip
        if not there:
            return self.adding_more(title, where, what, value) if anew else []
        try:
            return [self.replacing(title, there[-1], _checked(there[-1].change.met(what, value)))]
        except ValueError:
            return []

    def adding_more(self, title: str, where: Where, what: str, value: Any) -> list[CureT]:
        """The plan with one more change that provides something, whatever is there already; empty as above."""
        kind = next(k for k in self.kinds if k.provides == what)
        try:
            return [self.adding(title, _checked(self.started(kind, where).at(value)))]
        except ValueError:
            return []

    def replacing(self, title: str, planned: PlannedT, change: ChangeT) -> CureT:
        """The plan with one change put in another's place, not validated anew: a search makes dozens a second."""
        swapped = planned.model_copy(update={"change": change})
        changes = tuple(swapped if p.id == planned.id else p for p in self.changes)
        return self.cure_type.model_construct(title=title, changes=changes)

    def without(self, title: str, planned: PlannedT) -> CureT:
        """The plan without one change, not validated anew."""
        changes = tuple(p for p in self.changes if p.id != planned.id)
        return self.cure_type.model_construct(title=title, changes=changes)

    def taking_less(self, where: Where, what: str, too_much: float) -> list[CureT]:
        """Cures that take ``too_much`` mm less of what a change of an end uses up, or leave that change out."""
        cures = []
        for planned in self.changes:
            change = planned.change
            if not planned.on or change.where != where or what not in change.takes:
                continue
            for smaller in change.less(too_much):
                if smaller is None:
                    cures.append(self.without(f"Leave the {where} {change.title.lower()} out", planned))
                else:
                    title = f"{str(where).capitalize()} {smaller.sized()} instead of {change.size:g}"
                    cures.append(self.replacing(title, planned, smaller))
        return cures


def _checked(change: ChangeT) -> ChangeT:
    """The same change, validated. Raises ValueError where one of its numbers is none it can have."""
    return type(change).model_validate(change.model_dump())

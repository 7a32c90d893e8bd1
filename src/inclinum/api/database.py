"""The way to the database: one thread, one transaction, one connection for each piece of work."""

import time
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Annotated, Any, TypeVar
from urllib.parse import unquote

from anyio import CapacityLimiter, to_thread
from fastapi import Depends, Header, Request
from sqlalchemy.orm import Session, sessionmaker
from starlette.exceptions import HTTPException

from inclinum.store import shop
from inclinum.store.database import CONNECTIONS

Result = TypeVar("Result")
PEOPLE_KNOWN_S = 5.0
"""How long somebody who was on the list a moment ago need not be looked up again."""


@dataclass(frozen=True)
class Acting:
    """Who says to act. Whether the shop knows them is looked up with the work itself."""

    name: str


def acting_person(
    x_acting_person: Annotated[
        str, Header(max_length=400, description="name from the shop's list, percent-encoded")
    ] = "",
) -> Acting:
    """Name of the acting person, the one place where that is decided. Sign-in comes here."""
    return Acting(unquote(x_acting_person))


By = Annotated[Acting, Depends(acting_person)]


class Store:
    """Runs work in the database. No more pieces at once than there are connections, so that none waits for one."""

    def __init__(self, sessions: sessionmaker[Session]):
        self._sessions = sessions
        self._places = CapacityLimiter(CONNECTIONS)
        self._people: tuple[float, frozenset[str]] = (0.0, frozenset())

    async def __call__(
        self, work: Callable[..., Result], *given: Any, by: Acting | None = None, **named: Any
    ) -> Result:
        """``work(session, *given)`` in a transaction that is committed when this returns.

        Args:
            work: takes a session first.
            given: its other arguments.
            by: who acts; refused when the shop does not know them, else handed on by name as ``by``.
            named: its named arguments.
        """
        return await to_thread.run_sync(partial(self._work, work, given, by, named), limiter=self._places)

    def _work(self, work: Callable[..., Result], given: tuple[Any, ...], by: Acting | None, named: dict) -> Result:
        with self._sessions.begin() as session:
            if by is not None:
                self._known(session, by.name)
                named = named | {"by": by.name}
            return work(session, *given, **named)

    def _known(self, session: Session, name: str) -> None:
        """Refuse nobody, and somebody who is not on the shop's list; the list is asked for again after a while."""
        if not name:
            raise HTTPException(400, "Nobody is picked: choose who is working before saving.")
        if name in self._people[1] and time.monotonic() < self._people[0]:
            return
        people = frozenset(shop.people(session))
        self._people = (time.monotonic() + PEOPLE_KNOWN_S, people)
        if name not in people:
            shortened = name if len(name) <= 60 else name[:59] + "…"
            raise HTTPException(400, f"“{shortened}” is not on the shop's list; pick somebody who is.")


def _store(request: Request) -> Store:
    return request.app.state.store


Database = Annotated[Store, Depends(_store)]

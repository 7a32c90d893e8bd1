"""Who acts: the one place where that is decided. Today it is picked from the shop's list; sign-in comes here."""

from typing import Annotated
from urllib.parse import unquote

from fastapi import Depends, Header, HTTPException

from inclinum.api.database import Database
from inclinum.store import jobs


def acting_person(
    session: Database,
    x_acting_person: Annotated[str | None, Header(description="name from the shop's list, percent-encoded")] = None,
) -> str:
    """Name of the acting person. Refuses somebody who is not on the shop's list."""
    name = unquote(x_acting_person or "")
    if not name:
        raise HTTPException(400, "Nobody is picked: choose who is working before saving.")
    if name not in jobs.people(session):
        raise HTTPException(400, f"“{name}” is not on the shop's list; pick somebody who is.")
    return name


Acting = Annotated[str, Depends(acting_person)]

"""Owners, taken by their name."""

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from inclinum.store.models import Owner


def owner_named(session: Session, name: str) -> int:
    """Id of the owner of a name, a new one where there is none.

    Two writers may bring the same new name at once: the second waits for the first here and then finds it. Everybody
    takes owners before vehicles and vehicles before jobs, so that nobody waits in a circle.
    """
    known = select(Owner.id).where(Owner.name == name)
    if (found := session.scalar(known)) is not None:
        return found
    session.execute(insert(Owner).values(name=name).on_conflict_do_nothing(index_elements=["name"]))
    return session.scalars(known).one()

"""The shop and its people."""

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from inclinum.store.models import Event, Person, Shop

_PEOPLE, _NAME = select(Person.name).order_by(Person.id), select(Shop.name)


def people(session: Session) -> list[str]:
    """Everybody in the shop, in the order they came."""
    return list(session.scalars(_PEOPLE))


def shop_name(session: Session) -> str:
    """Name of the shop, empty before it has one."""
    return session.scalar(_NAME) or ""


def is_empty(session: Session) -> bool:
    """Whether nothing was ever put in."""
    return session.scalar(select(func.count()).select_from(Event)) == 0 and not people(session)


def found_shop(session: Session, name: str, people_names: tuple[str, ...]) -> None:
    """Name the shop and its people."""
    session.add(Shop(name=name))
    session.execute(insert(Person).on_conflict_do_nothing(), [{"name": n} for n in people_names])
    session.flush()

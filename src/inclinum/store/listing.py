"""Pages of lists, and what is searched in them."""

from typing import Any, Generic, TypeVar

from pydantic import BaseModel
from sqlalchemy import ColumnElement, or_
from sqlalchemy.orm import InstrumentedAttribute

Item = TypeVar("Item")


class Page(BaseModel, Generic[Item]):
    """A part of a list, and how long the whole is."""

    items: list[Item]
    total: int


def searched(words: str, *columns: InstrumentedAttribute[Any]) -> list[ColumnElement[bool]]:
    """Conditions that every word stands in one of the columns, whatever its case."""
    return [or_(*(c.icontains(word, autoescape=True) for c in columns)) for word in words.split()[:8]]

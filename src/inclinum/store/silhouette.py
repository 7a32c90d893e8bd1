"""What a machine looks like on a list: outline and wheels, out of its document without reading the rest."""

from typing import Any

from pydantic import ValidationError
from sqlalchemy import ColumnElement, func
from sqlalchemy.orm import InstrumentedAttribute

from inclinum.core.document import Document
from inclinum.core.document.outline import Shape


class Silhouette(Document):
    """Seen from its left, x forward of the front axle and z up, mm."""

    body: Shape
    wheelbase_mm: float
    radii: tuple[float, float]
    """Of the front and the rear wheel."""
    archetype: str
    """Of a two-wheeler: what it was set up from, whose picture stands for it."""


def silhouette_of(document: InstrumentedAttribute[dict[str, Any]]) -> ColumnElement[Any]:
    """The few fields of a machine's document that its silhouette is made of, as one column."""
    return func.jsonb_build_array(
        document["outline"]["body"], document["wheelbase_mm"], document["front"]["tyre_radius_mm"],
        document["rear"]["tyre_radius_mm"], document["archetype"], document["front_tyre_radius_mm"],
        document["rear_tyre_radius_mm"],
    ).label("silhouette")  # fmt: skip


def read_silhouette(found: Any) -> Silhouette | None:
    """A silhouette from that column; None of a document that is none of ours any more."""
    try:
        body, base, front, rear, archetype, bike_front, bike_rear = found
        return Silhouette(
            body=tuple(map(tuple, body or ())), wheelbase_mm=base, archetype=archetype or "",
            radii=(front or bike_front, rear or bike_rear),
        )  # fmt: skip
    except (ValidationError, TypeError, ValueError):
        return None

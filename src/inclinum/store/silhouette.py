"""What a machine looks like on a list: outline and wheels, out of its document without reading the rest."""

import json
from typing import Any

from pydantic import ValidationError
from sqlalchemy import ColumnElement, func
from sqlalchemy.orm import InstrumentedAttribute

from inclinum.core.car.vehicle import Outline
from inclinum.core.document import Document
from inclinum.core.document.names import AXLES
from inclinum.core.document.outline import Shape

MEASURED = ("front_overhang_mm", "rear_overhang_mm", "roof_mm")
WHEELS = ("wheel_centre", "wheel_centre_left")
"""What a linkage calls the middle of its left wheel."""


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
    axles = [document[end] for end in AXLES]
    return func.jsonb_build_array(
        document["outline"], document["wheelbase_mm"], document["archetype"], *(document[f] for f in MEASURED),
        document["front_tyre_radius_mm"],
        document["rear_tyre_radius_mm"], *(axle["tyre_radius_mm"] for axle in axles),
        *(axle["hub_to_arch_mm"] for axle in axles),
        *(func.coalesce(*(axle["linkage"]["points"][name] for name in WHEELS)) for axle in axles),
    ).label("silhouette")  # fmt: skip


def read_silhouette(found: Any) -> Silhouette | None:
    """A silhouette from that column; None of a document that is none of ours any more."""
    try:
        drawn, base, archetype, *ends, bike_front, bike_rear, front, rear, above_1, above_2, one, other = found
        outline = Outline() if drawn is None else Outline.model_validate_json(json.dumps(drawn))
        if one and other:
            outline = outline.sized(base, max(one[2] + above_1, other[2] + above_2), *ends)
        return Silhouette(
            body=outline.body, wheelbase_mm=base, archetype=archetype or "",
            radii=(front or bike_front, rear or bike_rear),
        )  # fmt: skip
    except (ValidationError, TypeError, ValueError, LookupError):
        return None

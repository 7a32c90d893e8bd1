"""What can be chosen to set a machine up, drawn by the same code as the machine that comes of it."""

from functools import cache

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.job import BikeBrief, BikeJob
from inclinum.core.bike.prediction import assess as assess_bike
from inclinum.core.bike.views import machine_view
from inclinum.core.car.archetypes import ARCHETYPES, SIZES, vehicle_of
from inclinum.core.car.job import AxleAim, Brief, Job
from inclinum.core.car.stood import stand_measured
from inclinum.core.car.views import axle_at_rest
from inclinum.core.document import Document
from inclinum.core.document.names import AXLES, AxleName
from inclinum.core.quantity import Length
from inclinum.core.shapes import Shape, bounds
from inclinum.core.shapes.shape import Point


class Picture(Document):
    """One drawing of something that can be chosen."""

    shapes: list[Shape]
    low: Point
    high: Point


def pictures_of_car(choice: str) -> dict[str, Picture]:
    """Of an end every archetype that is found there, from behind, as it stands, by its key; of other choices none."""
    return {key: _axle(key, end) for end in AXLES if end == choice for key, a in ARCHETYPES.items() if end in a.where}


@cache
def _axle(key: str, end: AxleName) -> Picture:
    size = next(s for s in ("car", *SIZES) if s not in ARCHETYPES[key].not_for)
    front, rear = (key, "trailing") if end == "front" else ("strut_front", key)
    vehicle = vehicle_of(front, rear, size, key)
    nothing = AxleAim(by="none")
    job = Job(id="picture", title=key, vehicle=vehicle, brief=Brief(owner="nobody", front=nothing, rear=nothing))
    return _framed(axle_at_rest(stand_measured(job), end, "behind"))


def pictures_of_bike(choice: str) -> dict[str, Picture]:
    """Every kind of two-wheeler from its side, with nobody on it, by its key; of other choices none."""
    return {key: _machine(key) for key in BIKES} if choice == "archetype" else {}


@cache
def _machine(key: str) -> Picture:
    archetype, brief = BIKES[key], BikeBrief(owner="nobody", rear_drop=Length.model_validate("0"))
    job = BikeJob(id="picture", title=key, vehicle=archetype.bike(archetype.title, ""), brief=brief)
    seen = machine_view(assess_bike(job), "rear", "side")
    return _framed(seen.frames[seen.at_ride])


def _framed(shapes: list[Shape]) -> Picture:
    room = bounds(shapes)
    assert room is not None, "a machine has parts"
    return Picture(shapes=shapes, low=(room[0], room[2]), high=(room[1], room[3]))

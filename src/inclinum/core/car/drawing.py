"""What a to-scale drawing shows, in ground axes: x forward of the front axle, y left, z up from the ground, mm.

The client only draws: every position before and after is computed here, on the same stances as the numbers.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal
from weakref import WeakKeyDictionary

import numpy as np

from inclinum.core.car.measured import CornerQuantity
from inclinum.core.car.parts import WheelParts
from inclinum.core.car.stance import Stance
from inclinum.core.car.stood import Stood
from inclinum.core.document import Document
from inclinum.core.document.names import AXLES, AxleName
from inclinum.core.kinematics import Poses, wheel_angles
from inclinum.core.kinematics.rigid import rotation
from inclinum.core.shapes import SIDE, Part, PlacedPhotograph, Shape, SidePhotograph, picture, placed

Polyline = list[tuple[float, float]]
Place = tuple[float, float, float]


class WheelDrawing(Document):
    """A left wheel: centre, contact, and its camber for the end elevation."""

    centre: Place
    contact: Place
    arch_top: tuple[float, float]
    """Top of the wheel arch above the hub, in the side elevation."""
    radius: float
    camber_deg: float


class TapeLine(Document):
    """Where the tape is held for a reading of the left side, from end to end; x forward, z up."""

    quantity: CornerQuantity | Literal["station"]
    axle: AxleName | None
    station: str = ""
    start: tuple[float, float]
    end: tuple[float, float]


class StanceDrawing(Document):
    """The vehicle at one stance."""

    body: Polyline
    glass: list[Polyline]
    stations: dict[str, tuple[float, float]]
    front: WheelDrawing
    rear: WheelDrawing
    parts: list[Shape]
    """What hangs under it, seen from the left: in a picture the front points to the left."""
    tape: list[TapeLine]
    """Every reading that can be drawn, as it lies here."""


class Drawing(Document):
    """Before and after, and how large everything is."""

    before: StanceDrawing
    after: StanceDrawing
    low: tuple[float, float]
    high: tuple[float, float]
    width_mm: float
    wheelbase_mm: float
    photograph: PlacedPhotograph | None = None
    """Of the vehicle as it came, where it belongs behind it."""


@dataclass(frozen=True)
class AxlePoses:
    """Where the wheels of an axle are, on the linkage of each stance."""

    before: Poses
    """As it came: one pose."""
    after: Poses
    """As planned: at rest, then at full droop."""


def draw(
    before: Stood, after: Stood, poses: dict[AxleName, AxlePoses], photograph: SidePhotograph | None = None
) -> Drawing:
    """Drawing of both stances, and the photograph where it belongs."""
    came = _as_it_came(before, {name: p.before for name, p in poses.items()})
    outline = before.vehicle.drawn
    every = [p for shape in (outline.body, *outline.glass) for p in shape]
    xs, zs = zip(*(every or ((-3000, 200), (600, 1800))), strict=True)
    return Drawing(
        before=came,
        after=_stance(after, {name: p.after for name, p in poses.items()}),
        low=(min(xs), 0.0),
        high=(max(xs), max(zs)),
        width_mm=outline.width_mm,
        wheelbase_mm=before.vehicle.wheelbase_mm,
        photograph=photograph and placed(photograph, *((x, z) for x, _, z in (came.front.centre, came.rear.centre))),
    )


_CAME: WeakKeyDictionary[Stood, StanceDrawing] = WeakKeyDictionary()


def _as_it_came(stood: Stood, poses: dict[AxleName, Poses]) -> StanceDrawing:
    """Drawn once: while a plan is dragged it stays as it is."""
    drawn = _CAME.get(stood)
    if drawn is None:
        drawn = _CAME[stood] = _stance(stood, poses)
    return drawn


class Ground:
    """Body axes at the reference height → ground axes at a stance.

    The wheel centre of the front axle stays where it is above the ground; the body moves about it.
    """

    def __init__(self, stood: Stood):
        self.turn = rotation(np.array([0.0, stood.pitch, 0.0]))
        front = stood.front
        self.pivot = np.array([0.0, 0.0, front.axle.linkage.hub_height + front.raised + front.axle.tyre_growth_mm])
        self.lift = np.array([0.0, 0.0, front.lift])

    def places(self, points: np.ndarray) -> list[Place]:
        """Body points (n, 3) seen from the ground, rounded to a hundredth."""
        seen = (points + self.lift - self.pivot) @ self.turn.T + self.pivot
        return [(x, y, z) for x, y, z in np.round(seen, 2).tolist()]

    def put(self, parts: Iterable[Part], axle_x: float) -> list[Part]:
        """Parts of an axle, told from its own wheel centre, where they are seen from the ground."""
        came = np.array([axle_x, 0.0, 0.0]) + self.lift - self.pivot
        return [part.placed(self.turn, self.turn @ came + self.pivot) for part in parts]

    def flat(self, line: Sequence[tuple[float, float]]) -> Polyline:
        """A line of the side elevation."""
        return [(x, z) for x, _, z in self.places(np.array([(x, 0.0, z) for x, z in line]).reshape(-1, 3))]


def _stance(stood: Stood, poses: dict[AxleName, Poses]) -> StanceDrawing:
    vehicle, ground = stood.vehicle, Ground(stood)
    outline = vehicle.drawn
    parts = {name: _parts(stood, name, poses[name]) for name in AXLES}
    wheels = {name: _wheel(stood.axle(name), poses[name], vehicle.axle_x(name), ground) for name in AXLES}
    stations = {s.name: ground.flat([(s.x_mm, s.height_mm)])[0] for s in vehicle.stations}
    to_ground = [
        TapeLine(quantity="station", axle=None, station=name, start=at, end=(at[0], 0.0))
        for name, at in stations.items()
    ]
    return StanceDrawing(
        body=ground.flat(outline.body),
        glass=[ground.flat(pane) for pane in outline.glass],
        stations=stations,
        front=wheels["front"],
        rear=wheels["rear"],
        parts=picture([p for name in AXLES for p in parts[name]], SIDE),
        tape=[line for name in AXLES for line in _tape(name, wheels[name], parts[name])] + to_ground,
    )


def _tape(axle: AxleName, wheel: WheelDrawing, parts: list[Part]) -> list[TapeLine]:
    """What the tape reads at a wheel: straight up and down at the hub, along the damper on its rod."""
    x, _, z = wheel.centre
    arch = wheel.arch_top
    found: list[tuple[CornerQuantity, tuple[float, float], tuple[float, float]]] = [
        ("hub_to_arch", (x, z), (x, arch[1])),
        ("tyre_radius", (x, z), (x, z - wheel.radius)),
        ("tyre_to_arch", (x, z + wheel.radius), (x, arch[1])),
    ]
    at = {p.role: [(px, pz) for px, _, pz in np.round(p.at, 1).tolist()] for p in parts}
    if "damper_rod" in at and "damper_body" in at:
        mouth = at["damper_body"][1]
        found.append(("exposed_rod", mouth, at["damper_rod"][1]))
        if "bump_stop" in at:
            found.append(("bump_stop_gap", mouth, at["bump_stop"][1]))
    return [TapeLine(quantity=q, axle=axle, start=a, end=b) for q, a, b in found]


def _parts(stood: Stood, name: AxleName, poses: Poses) -> list[Part]:
    wheel = WheelParts(stood.axle(name).of_side("left"), poses[[0]])
    return Ground(stood).put([*wheel.of_axle(0), *wheel.of_wheel(0)], stood.vehicle.axle_x(name))


def _wheel(stance: Stance, poses: Poses, axle_x: float, ground: Ground) -> WheelDrawing:
    corner, linkage = stance.corner, stance.axle.linkage
    at = poses.point(corner.body.points[corner.wheel])[0] + np.array([axle_x, 0.0, 0.0])
    centre = ground.places(at[None])[0]
    axis = poses.direction(wheel_angles.spin_axis(corner.camber, corner.toe))[0]
    contact = np.array(centre) + stance.axle.tyre_radius_mm * wheel_angles.down_in_wheel_plane(axis, np.zeros(3))[0]
    return WheelDrawing(
        centre=centre,
        arch_top=ground.flat([(axle_x, linkage.hub_height + stance.axle.hub_to_arch_mm)])[0],
        contact=(round(contact[0], 2), round(contact[1], 2), round(contact[2], 2)),
        radius=stance.axle.tyre_radius_mm,
        camber_deg=float(np.degrees(wheel_angles.camber(axis))),
    )

"""What a to-scale drawing shows, in ground axes: x forward of the front axle, y left, z up from the ground, mm.

The client only draws: every position before and after is computed here, on the same stances as the numbers.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from inclinum.core.car.stance import Stance
from inclinum.core.car.stood import Stood
from inclinum.core.document import Document
from inclinum.core.document.names import AxleName
from inclinum.core.kinematics import Poses, wheel_angles
from inclinum.core.kinematics.rigid import rotation

Polyline = list[tuple[float, float]]
Place = tuple[float, float, float]


class Member(Document):
    """A straight part of the linkage between two named points."""

    kind: str
    start: Place
    end: Place


class WheelDrawing(Document):
    """A left wheel: centre, contact, and its camber for the end elevation."""

    centre: Place
    contact: Place
    arch_top: tuple[float, float]
    """Top of the wheel arch above the hub, in the side elevation."""
    radius: float
    camber_deg: float
    members: list[Member]
    mirrored: bool
    """Whether the members are those of the left side, the right one being their mirror image."""


class StanceDrawing(Document):
    """The vehicle at one stance."""

    body: Polyline
    glass: list[Polyline]
    stations: dict[str, tuple[float, float]]
    front: WheelDrawing
    rear: WheelDrawing


class Drawing(Document):
    """Before and after, and how large everything is."""

    before: StanceDrawing
    after: StanceDrawing
    low: tuple[float, float]
    high: tuple[float, float]
    width_mm: float
    wheelbase_mm: float


@dataclass(frozen=True)
class AxlePoses:
    """Where the wheels of an axle are, on the linkage of each stance."""

    before: Poses
    """As it came: one pose."""
    after: Poses
    """As planned: at rest, then at full droop."""


def draw(before: Stood, after: Stood, poses: dict[AxleName, AxlePoses]) -> Drawing:
    """Drawing of both stances."""
    outline = before.vehicle.outline
    xs, zs = zip(*(outline.body or ((-3000, 200), (600, 1800))), strict=True)
    return Drawing(
        before=_stance(before, {name: p.before for name, p in poses.items()}),
        after=_stance(after, {name: p.after for name, p in poses.items()}),
        low=(min(xs), 0.0),
        high=(max(xs), max(zs)),
        width_mm=outline.width_mm,
        wheelbase_mm=before.vehicle.wheelbase_mm,
    )


class _Ground:
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

    def flat(self, line: Sequence[tuple[float, float]]) -> Polyline:
        """A line of the side elevation."""
        return [(x, z) for x, _, z in self.places(np.array([(x, 0.0, z) for x, z in line]).reshape(-1, 3))]


def _stance(stood: Stood, poses: dict[AxleName, Poses]) -> StanceDrawing:
    vehicle, ground = stood.vehicle, _Ground(stood)
    outline = vehicle.outline
    return StanceDrawing(
        body=ground.flat(outline.body),
        glass=[ground.flat(pane) for pane in outline.glass],
        stations={s.name: ground.flat([(s.x_mm, s.height_mm)])[0] for s in vehicle.stations},
        front=_wheel(stood.front, poses["front"], vehicle.axle_x("front"), ground),
        rear=_wheel(stood.rear, poses["rear"], vehicle.axle_x("rear"), ground),
    )


def _wheel(stance: Stance, poses: Poses, axle_x: float, ground: _Ground) -> WheelDrawing:
    corner, linkage = stance.corner, stance.axle.linkage
    shift = np.array([axle_x, 0.0, 0.0])
    drawn = linkage.members()
    names = sorted({n for m in drawn for n in m[1:]} | {corner.wheel})
    at = np.array([corner.place(n, poses)[0][0] for n in names])
    places = dict(zip(names, ground.places(shift + at), strict=True))
    centre = places[corner.wheel]
    axis = poses.direction(wheel_angles.spin_axis(corner.camber, corner.toe))[0]
    contact = np.array(centre) + stance.axle.tyre_radius_mm * wheel_angles.down_in_wheel_plane(axis, np.zeros(3))[0]
    return WheelDrawing(
        centre=centre,
        arch_top=ground.flat([(axle_x, linkage.hub_height + stance.axle.hub_to_arch_mm)])[0],
        contact=(round(contact[0], 2), round(contact[1], 2), round(contact[2], 2)),
        radius=stance.axle.tyre_radius_mm,
        camber_deg=float(np.degrees(wheel_angles.camber(axis))),
        members=[Member(kind=kind, start=places[a], end=places[b]) for kind, a, b in drawn],
        mirrored=not any("right" in n.split("_") for n in linkage.named_points()),
    )

"""The side elevation of a two-wheeler in ground axes: x forward, z up, mm, both wheels on the ground.

The body turns about the rear axle's station by the change of pitch and comes down by the drops; wheels stay on the
ground. Front to the right as drawn by the core; the client mirrors nothing.
"""

import cmath
import math
from collections.abc import Collection
from functools import lru_cache

from inclinum.core.bike.machine import Bike
from inclinum.core.bike.parts import ForkPlaces, side_parts
from inclinum.core.bike.stance import CONDITIONS, Attitude, BikeStance, Condition
from inclinum.core.document import Document
from inclinum.core.kinematics.rigid import Array
from inclinum.core.shapes import FROM_THE_RIGHT, PlacedPhotograph, Shape, SidePhotograph, picture, placed

Point = tuple[float, float]


class BikePose(Document):
    """One machine in one condition."""

    points: dict[str, Point]
    """Of the rear end, by name."""
    fork: ForkPlaces
    rear_axle: Point
    front_axle: Point
    rear_radius: float
    front_radius: float
    seat: Point
    stations: dict[str, Point]
    shapes: list[Shape]
    """Every part to scale, front to the right."""
    turn: float
    """Of the frame on the ground, counter-clockwise with the front to the right, rad."""


class BikeDrawing(Document):
    """Before, unladen and with the rider on, and planned."""

    before_unladen: BikePose
    before_laden: BikePose
    measured: BikePose
    """As it came with its points where the document and the tape put them, which is at full extension."""
    planned: dict[Condition, BikePose]
    """In the conditions that are looked at."""
    photograph: PlacedPhotograph | None = None
    """Of the machine as it came, unladen, where it belongs behind it."""


def draw(
    before: BikeStance,
    after: BikeStance,
    conditions: Collection[Condition] = CONDITIONS,
    photograph: SidePhotograph | None = None,
) -> BikeDrawing:
    """Both machines, and the photograph where it belongs.

    Args:
        before, after: as it came and as planned.
        conditions: in which the planned one is looked at; each costs as much as a tenth of the prediction.
        photograph: of the machine as it came.
    """
    came = _pose(before, before, "unladen")
    return BikeDrawing(
        before_unladen=came,
        photograph=photograph and placed(photograph, came.front_axle, came.rear_axle),
        before_laden=_pose(before, before, "laden"),
        measured=as_drawn(before),
        planned={c: _pose(after, before, c) for c in conditions},
    )


@lru_cache(maxsize=16)
def as_drawn(standing: BikeStance) -> BikePose:
    """A machine with its points where they are drawn, whatever the damper between its eyes measures."""
    return pose_of(standing, standing, 0.0, standing.bike.rear.arrays(), standing.attitude("extended", standing))


@lru_cache(maxsize=64)
def _pose(standing: BikeStance, came: BikeStance, condition: Condition) -> BikePose:
    return pose_of(
        standing,
        came,
        standing.ends[condition][0].sag,
        standing.rear_points[condition],
        standing.attitude(condition, came),
    )


def pose_of(
    standing: BikeStance, came: BikeStance, fork_sag: float, points: dict[str, Array], at: Attitude
) -> BikePose:
    """A machine drawn with its ends anywhere in their travel.

    Args:
        standing: the machine.
        came: as it came, where its steering, seat and stations hold.
        fork_sag: from the fork's full extension, mm.
        points: of the rear end in the frame.
        at: how it stands so.
    """
    bike, out = standing.bike, came.bike
    # In the frame the machine at full extension stands on a level line through both contact patches.
    # In the frame a point is x + iz: a turn is a product, and plain numbers are quicker than small arrays.
    where = {n: complex(*p.tolist()) for n, p in points.items()}
    axle, radius = where["axle"], bike.rear_tyre_radius_mm
    front_sag = fork_sag + bike.fork.raised_mm - out.fork.raised_mm
    front_sag += bike.fork.shortened_mm - out.fork.shortened_mm
    rake = _frame_rake(came)
    along = complex(-math.sin(rake), math.cos(rake))
    front = complex(_extended_wheelbase(came), out.front_tyre_radius_mm) + front_sag * along
    # Both wheels on the ground: the frame turns until they are, then moves so that the rear axle stands at x = 0.
    tilt = _tilt(front - axle, bike.front_tyre_radius_mm - radius)
    turn = cmath.rect(1.0, tilt)

    def ground(p: complex) -> Point:
        q = (p - axle) * turn
        return round(q.real, 1), round(q.imag + radius, 1)

    placed = {n: ground(p) for n, p in where.items()}
    # Tubes run beside the steering axis, ahead of it by the offset; the clamps join them to the head.
    back = 1j * bike.offset_mm * along
    reach = _fork_length(bike) - front_sag
    low_clamp, high_clamp = front + along * reach, front + along * (reach + HEAD_MM)
    tube_top = high_clamp + along * max(bike.fork.raised_mm, 0.0)
    bent = front + along * 0.55 * reach
    fork = ForkPlaces(
        slider=(ground(front), ground(bent)),
        tube=(ground(bent), ground(tube_top)),
        head=(ground(low_clamp + back), ground(high_clamp + back)),
        clamps=(ground(low_clamp), ground(high_clamp)),
    )
    sprocket = bike.drive.sprocket

    # Stations hold unladen as it came; they ride along with the body by the line through both axles.
    def station(x: float, z: float) -> Point:
        drop = at.rear_drop + (at.front_drop - at.rear_drop) * x / out.wheelbase_mm
        return round(x, 1), round(z - drop, 1)

    seat = station(bike.seat.x_mm, bike.seat.height_mm)
    stations = {p.name: station(p.x_mm, p.height_mm) for p in bike.clearances}
    body = tuple(tuple(ground(complex(*p)) for p in shape) for shape in bike.body)
    parts = side_parts(
        bike,
        body,
        standing.rear.sweep.lines,
        placed,
        fork,
        seat,
        stations,
        None if sprocket is None else ground(complex(*sprocket)),
    )
    return BikePose(
        points=placed,
        fork=fork,
        rear_axle=placed["axle"],
        front_axle=fork.slider[0],
        rear_radius=radius,
        front_radius=bike.front_tyre_radius_mm,
        seat=seat,
        stations=stations,
        shapes=picture(parts, FROM_THE_RIGHT),
        turn=tilt,
    )


def _tilt(span: complex, taller: float) -> float:
    """Turn that sets both wheels on the ground, rad.

    Args:
        span: from the rear to the front axle in the frame.
        taller: radius of the front wheel less that of the rear one, mm.
    """
    return math.asin(min(max(taller / abs(span), -1.0), 1.0)) - cmath.phase(span)


HEAD_MM = 150.0
"""Between the clamps, as drawn."""


def _fork_length(bike: Bike) -> float:
    """Axle to lower clamp at full extension, as drawn: stroke and what the bottomed clearance leaves."""
    return bike.fork.stroke_mm + bike.front_tyre_radius_mm + max(bike.fork.bottomed_clearance_mm, 0.0) + 40.0


def _frame_rake(came: BikeStance) -> float:
    """Rake in frame axes: what it is standing unladen less how the frame is pitched then, rad."""
    unladen = came.ends["unladen"]
    rake = math.radians(came.bike.rake_deg)
    down_front = unladen[0].sag * math.cos(rake)
    down_rear = unladen[1].height - came.rear.extended_height
    return rake - math.atan2(down_rear - down_front, came.bike.wheelbase_mm)


def _extended_wheelbase(came: BikeStance) -> float:
    """At full extension, mm: the stated one holds unladen, where the fork has slid back by its sag."""
    unladen = came.ends["unladen"]
    rake = math.radians(came.bike.rake_deg)
    back = unladen[0].sag * math.sin(rake)
    forward = came.rear_points["unladen"]["axle"][0] - came.rear_points["extended"]["axle"][0]
    return came.bike.wheelbase_mm + back + float(forward) + float(came.rear_points["extended"]["axle"][0])

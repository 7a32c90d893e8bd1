"""A rear end from calliper and tape: distances hole to hole and heights, fitted to the archetype's points.

Minimised is Σ((g(p) − m)/σ)² over the readings plus Σ((p − p₀)/σ₀)² over all coordinates, as for four wheels.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from inclinum.core.bike.job import BikeMeasurements
from inclinum.core.bike.machine import Bike
from inclinum.core.document import Document
from inclinum.core.document.content import Content
from inclinum.core.document.errors import DomainError
from inclinum.core.document.known import Provenance
from inclinum.core.fitting.posterior import CONTRADICTION_SIGMAS, Posterior, posterior
from inclinum.core.kinematics.rear_end import RearEnd, rear_sweep_of
from inclinum.core.kinematics.rigid import Array
from inclinum.core.uncertainty import COVERAGE

PRIOR_SIGMA_MM, CALLIPER_SIGMA_MM, HEIGHT_SIGMA_MM = 8.0, 0.3, 1.5
"""One standard deviation: of an archetype's point, of a calliper hole to hole, of a height from the ground."""
LEAST_SIGMA_MM = 0.05
"""What a point stated to be exact is taken to be good to: nobody finds the middle of a hole better."""
MEASURED_MM, SCALED_MM = 3.0, 13.0
STROKE, EXTENDED = "damper.stroke", "damper.extended"
WHOLE = {EXTENDED: "Damper, eye to eye, forced out", STROKE: "Damper, stroke"}
"""Readings of the damper itself. Forced out it is as long as its eyes are apart, so that one holds the points too."""


POINT_NAMES = {
    "axle": "rear axle", "pivot": "swing-arm pivot", "rocker_pivot": "rocker pivot",
    "rod_arm": "rod hole in the arm", "rod_frame": "rod hole in the frame", "rod_rocker": "rod hole in the rocker",
    "damper_rocker": "damper hole in the rocker", "damper_frame": "damper hole in the frame",
    "damper_arm": "damper hole in the arm", "stay_joint": "joint of both stays",
    "rocker_joint": "joint of rocker and stay", "damper_first": "damper, one eye", "damper_second": "damper, other eye",
}  # fmt: skip
"""What a person calls each point; others are their own words."""


def point_title(name: str) -> str:
    """What a person calls a point."""
    return POINT_NAMES.get(name, name.replace("_", " ")).capitalize()


@dataclass(frozen=True)
class BikePlace:
    """Where to measure: between two holes, or the height of one above the ground, wheel hanging just clear of it."""

    key: str
    points: tuple[str, ...]
    called: str = ""

    def value(self, points: dict[str, Array]) -> float:
        """What the calliper or tape would read, mm."""
        if len(self.points) == 1:
            return float(points[self.points[0]][1])
        return float(np.linalg.norm(points[self.points[0]] - points[self.points[1]]))

    @property
    def title(self) -> str:
        """In words."""
        if self.called:
            return self.called
        first, *other = (point_title(n) for n in self.points)
        return f"{first} to {other[0][0].lower()}{other[0][1:]}" if other else f"{first} above the ground"


def places(rear: RearEnd) -> tuple[BikePlace, ...]:
    """Where the calliper goes: every member's holes, rods, the damper's eyes, heights of what sits in the frame."""
    found: dict[str, BikePlace] = {}

    def add(*names: str) -> None:
        key = ".".join(sorted(names)) if len(names) == 2 else f"{names[0]}.height"
        found.setdefault(key, BikePlace(key, names))

    members = rear.members()
    for a, b in rear.rods:
        add(a, b)
    for member, names in members.items():
        if member != "frame":
            for other in names[1:]:
                add(names[0], other)
            if len(names) > 2:
                add(names[1], names[2])
    for name in members["frame"]:
        add(name)
    frame = members["frame"]
    for other in frame[1:]:
        add(frame[0], other)
    return tuple(found.values())


class BikeRow(Document):
    """One place of that list."""

    key: str
    title: str
    points: tuple[str, ...]
    fitted: float
    residual: float | None
    """Read less drawn, mm, where it was read."""


class RearPoint(Document):
    """A point of the rear end with what is known of it."""

    name: str
    title: str
    at: tuple[float, float]
    """At full extension: forward from the rear axle, up from the ground, mm."""
    source: Provenance
    plus_minus: float
    """Two standard deviations, mm."""
    fixed: bool
    """The rear axle: everything else is told from it."""


class BikeFit(Document):
    """The rear end as its readings make it."""

    rows: tuple[BikeRow, ...]
    misses: tuple[str, ...]
    next: tuple[str, ...]
    """Keys worth reading next, most first."""
    points: tuple[RearPoint, ...]
    ratio_percent: float
    """± of the installation ratio that comes from the points, %."""


@dataclass(frozen=True)
class Fitted:
    """Machine and what is known of it."""

    bike: Bike
    fit: BikeFit


def fitted(bike: Bike, readings: BikeMeasurements) -> Fitted:
    """The machine with its readings taken in, those of its own bench and those of the job, which come before them.

    Raises:
        ValueError: a reading of a place it does not have, or points that make no linkage that moves.
    """
    return _fitted(Content(bike, readings))


@lru_cache(maxsize=16)
def _fitted(machine: Content[Bike, BikeMeasurements]) -> Fitted:
    """One and the same as long as both say the same: everything that is remembered of a machine hangs on it."""
    bike, readings = machine.documents
    read = {t.key: t.reading for t in (*bike.tape, *readings.tape)}
    tape = tuple((k, r.value, r.tolerance) for k, r in read.items() if k != STROKE)
    known = tuple((n, k.tolerance_mm) for n, k in bike.known.items())
    rear, fit = _fit(bike.rear, tape, known)  # pyright: ignore[reportArgumentType] (hashable)
    whole = {k.removeprefix("damper.") + "_mm": read[k].value for k in WHOLE if k in read}
    damper = type(bike.damper).model_validate(bike.damper.model_dump() | whole) if whole else bike.damper
    fields: dict[str, object] = {"rear": rear, "damper": damper}
    if readings.seat is not None:
        fields["seat"] = bike.seat.model_copy(update={"height_mm": readings.seat.value})
    stroke = BikeRow(
        key=STROKE,
        title=WHOLE[STROKE],
        points=bike.rear.damper,
        fitted=damper.stroke_mm,
        residual=0.0 if STROKE in read else None,
    )
    extended, *others = fit.rows
    fit = fit.model_copy(update={"rows": (extended, stroke, *others)})
    return Fitted(bike.model_copy(update=fields), fit)


Tape = tuple[tuple[str, float, float | None], ...]


@lru_cache(maxsize=64)
def _fit(prior: RearEnd, tape: Tape, known_points: tuple[tuple[str, float], ...]) -> tuple[RearEnd, BikeFit]:
    points, stated = prior.arrays(), dict(known_points)
    listed = {p.key: p for p in (BikePlace(EXTENDED, prior.damper, WHOLE[EXTENDED]), *places(prior))}
    names = [n for n in points if n != "axle"]
    for name in stated:
        if name not in names:
            raise DomainError(f"It is said how well “{name}” is known, which is no point of this rear end that moves.")
    for key, _, _ in tape:
        if key not in listed:
            raise DomainError(f"There is no place “{key}” on this rear end; the list says what can be measured.")
    sigmas = np.array(
        [
            (t / COVERAGE if t else HEIGHT_SIGMA_MM if len(listed[k].points) == 1 else CALLIPER_SIGMA_MM)
            for k, _, t in tape
        ]
    )
    start = np.concatenate([points[n] for n in names])

    def moved(x: Array) -> dict[str, Array]:
        return points | dict(zip(names, (start + x).reshape(-1, 2), strict=True))

    def missed(x: Array) -> Array:
        at = moved(x)
        return np.array([(listed[k].value(at) - v) / s for (k, v, _), s in zip(tape, sigmas, strict=True)])

    each = [max(stated[n] / COVERAGE, LEAST_SIGMA_MM) if n in stated else PRIOR_SIGMA_MM for n in names]
    known = posterior(missed, np.repeat(each, 2))
    at = moved(known.shift)
    rear = prior.with_points({n: at[n] for n in names}) if tape else prior
    spread = COVERAGE * np.sqrt(np.diag(known.covariance).reshape(-1, 2).max(axis=1))
    plus_minus = dict(zip(names, np.round(spread, 2).tolist(), strict=True))
    read = {k: v - listed[k].value(rear.arrays()) for k, v, _ in tape}
    misses = [
        f"“{listed[k].title}” is off by {abs(read[k]):.1f} mm from what the other readings make of this rear end."
        for (k, _, _), s in zip(tape, sigmas, strict=True)
        if abs(read[k]) > CONTRADICTION_SIGMAS * s
    ]
    effect = _effect(rear, names)
    variance = float(known.variance(effect))
    return rear, BikeFit(
        rows=tuple(
            BikeRow(
                key=p.key,
                title=p.title,
                points=p.points,
                fitted=round(p.value(rear.arrays()), 2),
                residual=None if p.key not in read else round(read[p.key], 2),
            )
            for p in listed.values()
        ),
        misses=tuple(misses),
        next=tuple(_next(listed, {k for k, _, _ in tape}, rear, names, known, effect)),
        points=tuple(
            RearPoint(
                name=n,
                title=point_title(n),
                at=(round(place[0], 2), round(place[1], 2)),
                source=_source(plus_minus.get(n, 0.0)),
                plus_minus=plus_minus.get(n, 0.0),
                fixed=n == "axle",
            )
            for n, place in rear.named().items()
        ),
        ratio_percent=round(100 * COVERAGE * float(np.sqrt(variance)), 2),
    )


def _source(plus_minus: float) -> Provenance:
    return "measured" if plus_minus <= MEASURED_MM else "scaled" if plus_minus <= SCALED_MM else "assumed"


def _ratio(rear: RearEnd) -> float:
    linkage = rear.linkage()
    return float(linkage.distance(*rear.damper, linkage.poses(40.0))[1][0])


def _effect(rear: RearEnd, names: list[str], step: float = 0.5) -> Array:
    """d(ln ratio)/d(coordinate) a little into the travel, (2n,), 1/mm."""
    points, base, slopes = rear.arrays(), _ratio(rear), []
    for name in names:
        for axis in range(2):
            try:
                there = _ratio(rear.with_points({name: points[name] + step * np.eye(2)[axis]}))
            except ValueError:
                there = base
            slopes.append((there - base) / step / base)
    return np.array(slopes)


def _next(
    listed: dict[str, BikePlace], taken: set[str], rear: RearEnd, names: list[str], known: Posterior, effect: Array
) -> list[str]:
    """Places not read yet by how much of the ratio's spread they would take."""
    points, worth = rear.arrays(), {}
    for key, place in listed.items():
        if key in taken:
            continue
        slope = np.zeros(2 * len(names))
        for name in set(place.points) & set(names):
            for axis in range(2):
                up, down = (
                    place.value(points | {name: points[name] + s * 0.01 * np.eye(2)[axis]}) for s in (1.0, -1.0)
                )
                slope[2 * names.index(name) + axis] = (up - down) / 0.02
        sigma = HEIGHT_SIGMA_MM if len(place.points) == 1 else CALLIPER_SIGMA_MM
        worth[key] = float(known.gain(effect, slope, sigma))
    return sorted(worth, key=lambda k: -worth[k])[:4]


__all__ = ["BikeFit", "BikePlace", "BikeRow", "Fitted", "fitted", "places", "rear_sweep_of"]

"""An axle's own readings fitted, and everything that is shown of them."""

import numpy as np
from pydantic import ValidationError

from inclinum.core.car.fitting.retune import BUMP_STOP, DAMPER, SPRING, retuned
from inclinum.core.car.vehicle import Axle
from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.known import Known, Provenance
from inclinum.core.fitting.consequence import LIFT_MM, consequence_names
from inclinum.core.fitting.fit import Fit, Reading, fit
from inclinum.core.fitting.tape import Place, places
from inclinum.core.kinematics.rigid import Array


class TapeRow(Document):
    """One place where the tape goes."""

    key: str
    title: str
    angle: bool
    how: str
    points: tuple[str, ...]
    line: tuple[tuple[float, float, float], tuple[float, float, float]]
    """Where the tape is held, from end to end, at the reference height, mm."""
    fitted: float
    """What the geometry now gives there, mm or degrees."""
    residual: float | None
    """Read less fitted; None where nothing was read."""


class FitMiss(Document):
    """Readings that cannot all be right."""

    key: str
    sentence: str


class FitNext(Document):
    """What to measure next, and what it is good for."""

    key: str
    title: str
    narrows: tuple[float, ...]
    """By how much it would narrow the ± of every consequence, in their order."""
    worth: float


class Consequence(Document):
    """Something predicted, and its ± from the hardpoints alone, for a rise of 40 mm by the springs."""

    name: str
    unit: str
    plus_minus: float


class AxleFit(Document):
    """An axle fitted to its readings."""

    axle: Axle
    rows: tuple[TapeRow, ...]
    misses: tuple[FitMiss, ...]
    next: tuple[FitNext, ...]
    consequences: tuple[Consequence, ...]


def fit_axle(axle: Axle) -> AxleFit:
    """The axle with its hardpoints fitted to its readings, from the archetype it was scaled from.

    Raises:
        ValueError: the fitted points make no linkage that moves, or a reading is of a place this kind has not.
    """
    prior = axle.prior or axle.linkage
    listed = {p.key: p for p in places(prior)}
    readings = []
    for taken in axle.tape:
        place = listed.get(taken.key)
        if place is None:
            raise DomainError(f"The reading “{taken.key}” is of no place on this suspension.")
        if place.is_angle != (taken.angle is not None):
            raise DomainError(f"{place.title} is read as {'an angle' if place.is_angle else 'a length'}.")
        readings.append(Reading.of(place, taken.reading.value, taken.reading.tolerance))
    try:
        found = fit(prior, readings)
    except ValidationError as error:
        raise DomainError(
            str(error.errors()[0]["msg"]).removeprefix("Value error, ") + ": check the readings"
        ) from None
    angles = (0.0, 0.0) if prior.coupled else found.spread[1:3]
    fitted = axle.model_copy(
        update={
            "camber_change_tolerance_deg": round(min(20.0, angles[0]), 3),
            "toe_change_tolerance_deg": round(min(20.0, angles[1]), 3),
            "linkage": found.linkage if readings else prior,
            "prior": prior,
            "known": {k: v for k, v in axle.known.items() if k in (SPRING, DAMPER, BUMP_STOP)} | _known(found),
            # The spread of the ratio reaches every predicted height.
            "ratio_tolerance_percent": round(min(50.0, 100 * found.spread[0] / LIFT_MM), 2),
        }
    )
    fitted = retuned(fitted, axle.linkage)
    points, wheel = fitted.linkage.named_points(), fitted.linkage.wheel_name
    residuals = {r.place.key: v for r, v in zip(found.readings, found.residuals, strict=True)}
    return AxleFit(
        axle=Axle.model_validate(fitted.model_dump()),
        rows=tuple(
            TapeRow(
                key=p.key,
                title=p.title,
                angle=p.is_angle,
                how=p.how,
                points=p.points,
                line=_ends(p.line(points, wheel)),
                fitted=round(p.value(points, wheel), 2),
                residual=None if p.key not in residuals else round(residuals[p.key], 2),
            )
            for p in listed.values()
        ),
        misses=tuple(FitMiss(key=m.place.key, sentence=_sentence(m.place, m.by, m.against)) for m in found.misses),
        next=tuple(
            FitNext(
                key=n.place.key,
                title=n.place.title,
                narrows=n.narrows,
                worth=n.worth,
            )
            for n in found.next_to_measure()
        ),
        consequences=tuple(
            Consequence(name=name, unit=unit, plus_minus=plus_minus)
            for (name, unit), plus_minus in zip(consequence_names(fitted.linkage), found.spread, strict=True)
        ),
    )


def _ends(line: tuple[Array, Array]) -> tuple[tuple[float, float, float], tuple[float, float, float]]:
    (ax, ay, az), (bx, by, bz) = (np.round(end, 1).tolist() for end in line)
    return (ax, ay, az), (bx, by, bz)


def _known(found: Fit) -> dict[str, Known]:
    known: dict[str, Known] = {}
    for name in found.linkage.named_points():
        source: Provenance = found.source(name)  # type: ignore[assignment]
        known[name] = Known(source=source, tolerance_mm=round(min(found.plus_minus(name), 500.0), 1))
    return known


def _sentence(place: Place, by: float, against: Place | None) -> str:
    off = f"{abs(by):.1f}°" if place.is_angle else f"{abs(by):.0f} mm"
    if against is None:
        return f"“{place.title}” is off by {off} from everything this suspension can be."
    return f"“{place.title}” and “{against.title}” cannot both be right: off by {off}."

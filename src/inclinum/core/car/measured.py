"""What the tape says about the vehicle: readings that replace assumptions, and readings worth a second look."""

from typing import Literal

from inclinum.core.car.job import Measurements
from inclinum.core.car.stance import baseline_travel, ride_corner
from inclinum.core.car.vehicle import Vehicle
from inclinum.core.document import Document
from inclinum.core.document.names import AXLES, SIDES, AxleName

CornerQuantity = Literal["hub_to_arch", "tyre_radius", "bump_stop_gap", "exposed_rod", "tyre_to_arch"]

APART_MM = 6.0
"""Left and right of an axle further apart than this, as planned or after a job, are worth a look."""

QUANTITY_NAMES: dict[str, str] = {
    "hub_to_arch": "hub to arch",
    "tyre_radius": "tyre radius",
    "bump_stop_gap": "bump-stop gap",
    "exposed_rod": "exposed damper rod",
    "tyre_to_arch": "tyre to arch",
    "station": "height above ground",
    "camber": "camber",
    "toe": "toe",
    "caster": "caster",
    "rise": "rise",
    "torque": "torque",
    "scale": "wheel load",
    "rake": "rake",
}

Readable = Literal[
    "hub_to_arch", "tyre_radius", "bump_stop_gap", "exposed_rod", "tyre_to_arch", "station", "camber", "toe", "caster",
    "rise", "torque", "scale", "rake",
]  # fmt: skip
"""What is typed as a reading."""
POSSIBLE: dict[str, tuple[float, float]] = {
    "hub_to_arch": (50, 1200),
    "tyre_radius": (80, 800),
    "bump_stop_gap": (0, 300),
    "exposed_rod": (0, 500),
    "tyre_to_arch": (-150, 600),
    "station": (20, 3500),
    "camber": (-15, 15),
    "toe": (-10, 10),
    "caster": (-5, 20),
    "rise": (-300, 300),
    "torque": (0.5, 1500),
    "scale": (10, 6000),
    "rake": (-10, 10),
}
"""What a reading can be at all, mm, degree or N·m; anything else is a slip of the pen."""


_UNITS = dict.fromkeys(("camber", "toe", "caster", "rake"), "°") | {"torque": " N·m", "scale": " kg"}


def refusal(quantity: str, value: float, tolerance: float | None = None) -> str | None:
    """A sentence when a reading cannot be right whatever the vehicle; None when it can."""
    low, high = POSSIBLE[quantity]
    if quantity == "torque" and tolerance is not None:
        return "A torque is one number, as the wrench read it: leave the ± out."
    if low <= value <= high:
        return None
    unit = _UNITS.get(quantity, " mm")
    return (
        f"A {QUANTITY_NAMES[quantity]} of {value:.4g}{unit} cannot be right: "
        f"it lies between {low:g} and {high:g}{unit}. Is the unit right?"
    )


class Question(Document):
    """A reading that is possible but unlikely, asked where it was typed."""

    where: str
    """``axle.side.quantity``, or ``station.side``."""
    sentence: str


def as_measured(vehicle: Vehicle, readings: Measurements) -> Vehicle:
    """The vehicle with measured stop gaps, rods and tyres in place of the assumed ones."""
    for name in AXLES:
        axle = vehicle.axle(name)
        changed: dict[str, object] = {}
        now = baseline_travel(axle, readings.mean(name, "hub_to_arch"))
        damper_now = float(ride_corner(axle).damper_at(now))
        if (gap := readings.mean(name, "bump_stop_gap")) is not None:
            at = {"contact_mm": damper_now - gap} if axle.bump_stop.on_damper else {"contact_travel_mm": now + gap}
            changed["bump_stop"] = axle.bump_stop.model_copy(update=at)
        if (rod := readings.mean(name, "exposed_rod")) is not None:
            closed = damper_now - (rod - axle.damper.rod_hidden_mm)
            changed["damper"] = axle.damper.model_copy(update={"closed_mm": closed})
        if (radius := readings.mean(name, "tyre_radius")) is not None:
            changed["tyre_radius_mm"] = radius
        if changed:
            vehicle = vehicle.with_axle(name, **changed)
    return vehicle


def questions(
    vehicle: Vehicle, readings: Measurements, same_reference_as: Measurements | None = None
) -> list[Question]:
    """Readings that deserve a second look, each with the reason and a hint.

    Args:
        vehicle: as it came.
        readings: the round in question.
        same_reference_as: an earlier round to compare with, for readings after the job.
    """
    found: list[Question] = []
    for axle in AXLES:
        from_data_sheet = _expected(vehicle, readings, axle) if same_reference_as is None else {}
        for quantity, (sides_apart, from_data) in _LIKELY.items():
            for side in SIDES:
                reading = readings.corner(axle, side, quantity)
                if reading is None:
                    continue
                expected = from_data_sheet.get(quantity)
                if expected is not None and abs(reading.value - expected) > from_data:
                    found.append(
                        Question(
                            where=f"{axle}.{side}.{quantity}",
                            sentence=f"{reading.value:.0f} mm is {abs(reading.value - expected):.0f} mm "
                            f"{'more' if reading.value > expected else 'less'} than this vehicle's data gives "
                            f"({expected:.0f} mm): same reference, right corner?",
                        )
                    )
            left, right = (readings.corner(axle, s, quantity) for s in SIDES)
            if left and right and abs(left.value - right.value) > sides_apart:
                found.append(
                    Question(
                        where=f"{axle}.right.{quantity}",
                        sentence=f"Left and right differ by {abs(left.value - right.value):.0f} mm: same reference?",
                    )
                )
        found += _rod_against_gap(readings, axle)
    return found


_LIKELY: dict[str, tuple[float, float]] = {
    "hub_to_arch": (12, 60),
    "tyre_radius": (6, 25),
    "bump_stop_gap": (10, 30),
    "exposed_rod": (12, 40),
    "tyre_to_arch": (12, 60),
}
"""Per quantity: how far left and right, and reading and vehicle data, may lie apart before it is asked about."""


def _expected(vehicle: Vehicle, readings: Measurements, axle: AxleName) -> dict[str, float]:
    """What each corner quantity should read by the vehicle's data, mm."""
    data = vehicle.axle(axle)
    now = baseline_travel(data, readings.mean(axle, "hub_to_arch"))
    damper, stop = float(ride_corner(data).damper_at(now)), data.bump_stop
    gap = damper - stop.contact_mm if stop.contact_mm is not None else (stop.contact_travel_mm or 0.0) - now
    return {
        "hub_to_arch": data.hub_to_arch_mm,
        "tyre_radius": data.tyre_radius_mm,
        "bump_stop_gap": gap,
        "exposed_rod": damper - data.damper.closed_mm + data.damper.rod_hidden_mm,
        "tyre_to_arch": data.hub_to_arch_mm - now - data.tyre_radius_mm,
    }


def _rod_against_gap(readings: Measurements, axle: AxleName) -> list[Question]:
    found = []
    for side in SIDES:
        gap, rod = (readings.corner(axle, side, q) for q in ("bump_stop_gap", "exposed_rod"))
        if gap and rod and rod.value < gap.value:
            found.append(
                Question(
                    where=f"{axle}.{side}.exposed_rod",
                    sentence="Less rod shows than there is gap to the stop on it: are the two swapped?",
                )
            )
    return found

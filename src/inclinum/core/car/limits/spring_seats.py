"""A coil has to centre on its seats, and clear what stands inside it."""

from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Finding
from inclinum.core.plan import millimetres
from inclinum.core.springs.fitted import SeatedSpring

LOOSE_MM = 3.0
"""Our rule: a coil wider than its seat by more wanders on it."""
CLEAR_MM = 3.0
"""Our rule: a coil bows as it is pressed; so much is left beside what stands inside it."""


def check(case: Case) -> list[Finding]:
    """Per end of the springs of an axle, and for what stands inside them, where both diameters are known."""
    found = []
    for name, axle, _ in both_axles(case):
        spring, seats = axle.spring, axle.seats
        if not isinstance(spring, SeatedSpring) or spring.inside_mm is None or seats is None:
            continue
        inside = spring.inside_mm
        for end, seat in (("lower", seats.lower_mm), ("upper", seats.upper_mm)):
            if seat is None or 0 <= inside - seat <= LOOSE_MM:
                continue
            small = inside < seat
            ring = f"A reducing ring {millimetres(round((inside - seat) / 2, 1))} thick all round centres it"
            found.append(
                Finding(
                    id=f"spring_seat.{name}.{end}",
                    axle=name,
                    severity="stops" if small else "fix",
                    what=f"{name.capitalize()} springs {'do not go over' if small else 'wander on'} their {end} seat",
                    value=inside - seat,
                    limit=0.0 if small else LOOSE_MM,
                    margin=inside - seat if small else LOOSE_MM - (inside - seat),
                    unit="mm",
                    why=f"Inside {inside:g} mm, the seat centres on {seat:g} mm. "
                    + (
                        "An adapter ring seats it, and its thickness raises: put that ring on the plan."
                        if small
                        else f"{ring}; what it adds in height counts: put that ring on the plan."
                    ),
                    source="inside diameter of the spring, diameter of its seat",
                )
            )
        if seats.inside_mm is not None and (left := (inside - seats.inside_mm) / 2) < CLEAR_MM:
            found.append(
                Finding(
                    id=f"spring_seat.{name}.inside",
                    axle=name,
                    severity="stops" if left < 0 else "fix",
                    what=f"{name.capitalize()} springs {'do not clear' if left < 0 else 'rub on'} what is inside them",
                    value=left,
                    limit=CLEAR_MM,
                    margin=left - CLEAR_MM,
                    unit="mm",
                    why=f"Inside {inside:g} mm, and {seats.inside_mm:g} mm stand in it. A pressed coil bows and "
                    "wears through body or collar.",
                    source="inside diameter of the spring, thickest thing inside it",
                )
            )
    return found

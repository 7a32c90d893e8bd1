"""Hoses and wires reach their ends at full droop, and with the wheels turned: they never carry weight."""

import numpy as np

from inclinum.core.car.attached import FlexLine
from inclinum.core.car.carried import carried_at_locks
from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Cure, Finding
from inclinum.core.car.stance import Stance
from inclinum.core.document.names import AxleName
from inclinum.core.kinematics.rigid import Array


def spans(stance: Stance, line: FlexLine, travels: Array) -> Array:
    """Distance between the clips of a line at travels, (L, N), mm: straight ahead first, then at both locks.

    Args:
        stance: of its axle, as one wheel sees it.
        line: told on the left.
        travels: linkage travel, (N,), mm.

    Source: derived here: the hub's clip goes with the upright, steered by the rack or the box.
    """
    wheel = carried_at_locks(stance, travels)
    reached = np.linalg.norm(wheel.place(np.array(line.wheel)) - np.array(line.body), axis=-1)
    return reached.reshape(-1, travels.size)


def check(case: Case) -> list[Finding]:
    """One finding per line that is tight, or nearly, at full droop; of both wheels and locks the worse."""
    found = []
    for name, axle, stance in both_axles(case):
        for n, line in enumerate(axle.lines):
            worst = min((_of_wheel(case, name, stance.of_side(s), line, n) for s in axle.sides), key=lambda f: f.margin)
            if worst.margin < 0:
                found.append(worst)
    return found


def _of_wheel(case: Case, name: AxleName, stance: Stance, line: FlexLine, n: int) -> Finding:
    reached = spans(stance, line, np.array([stance.full_droop]))[:, 0]
    lock, longest = int(np.argmax(reached)), float(np.max(reached))
    left = line.length_mm - longest
    steered = lock > 0 and longest > float(reached[0]) + 0.5
    where = "at full droop and full lock" if steered else "at full droop"
    tight = left < 0
    return Finding(
        id=f"line.{name}.{n}",
        axle=name,
        severity="stops" if tight else "fix",
        what=f"{name.capitalize()} {line.name} {'is too short' if tight else 'is nearly tight'} {where}",
        value=left,
        limit=line.spare_mm,
        margin=left - line.spare_mm,
        unit="mm",
        why=f"Its clips are {longest:.0f} mm apart there and it is {line.length_mm:g} mm long. A hose or wire "
        "that holds "
        "the wheel tears: a longer one of the right approval, its clip moved, or less droop.",
        source="clips and length as measured, the linkage at full droop",
        cures=_strapped(case, name, stance, line) if left < line.spare_mm else (),
    )


def _strapped(case: Case, name: AxleName, stance: Stance, line: FlexLine) -> tuple[Cure, ...]:
    """Straps that end droop where the line still has its spare."""

    def has_its_spare(travels: np.ndarray) -> np.ndarray:
        return spans(stance, line, travels).max(axis=0) <= line.length_mm - line.spare_mm

    return tuple(case.strapped(name, stance, has_its_spare))

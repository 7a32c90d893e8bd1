"""Half-shafts: how far their joints bend, and how far the shaft is pulled out or pushed together."""

import math
from dataclasses import dataclass

import numpy as np

from inclinum.core.car.carried import at_ends, carried_at
from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Cure, Finding
from inclinum.core.car.stance import Stance
from inclinum.core.document.names import SIDES, AxleName
from inclinum.core.kinematics.rigid import Array, dot, unit
from inclinum.core.quantity.words import signed

ACROSS = np.array([0.0, 1.0, 0.0])
"""A differential's output points straight out; turned or tilted ones are read at the shaft itself."""


@dataclass(frozen=True)
class ShaftAngles:
    """A half-shaft at travels, each (N,), degrees and mm."""

    inner: Array
    outer: Array
    longer: Array
    """Than at the reference height with the linkage as it came."""


def shaft_angles(stance: Stance, travels: Array) -> ShaftAngles:
    """Angles of both joints and change of length of a half-shaft.

    Args:
        stance: of its axle, which has one.
        travels: linkage travel, (N,), mm.

    Source: derived here: angles of the shaft's line to the differential's output and to the hub's axis; its length is
    the distance of its joints.
    """
    shaft = stance.axle.half_shaft
    assert shaft is not None, "an axle without half-shafts has no angles of them"
    came = stance.axle.came or stance.axle.linkage
    centre = came.named_points()[stance.corner.wheel] if shaft.outer is None else np.array(shaft.outer)
    wheel = carried_at(stance, travels)
    line = wheel.place(centre) - np.array(shaft.inner)

    def between(axis: Array) -> Array:
        return np.degrees(np.arccos(np.clip(dot(unit(line), axis), -1.0, 1.0)))

    length = np.linalg.norm(line, axis=-1)
    return ShaftAngles(
        between(ACROSS), between(wheel.spin_axis()), length - float(np.linalg.norm(centre - np.array(shaft.inner)))
    )


def check(case: Case) -> list[Finding]:
    """Joints bent too far, and shafts out of plunge, at droop, ride height or bump; of both wheels the worse."""
    found = []
    for name, axle, stance in both_axles(case):
        if axle.half_shaft is None:
            continue
        before = case.before.axle(name)
        sides = SIDES if axle.right is not None else ("left",)
        worst: dict[str, Finding] = {}
        for side in sides:
            for finding in _of_wheel(case, name, before.of_side(side), stance.of_side(side)):
                if finding.id not in worst or finding.margin < worst[finding.id].margin:
                    worst[finding.id] = finding
        found += worst.values()
    return found


def _of_wheel(case: Case, name: AxleName, before: Stance, after: Stance) -> list[Finding]:
    shaft, ends = after.axle.half_shaft, at_ends(after)
    assert shaft is not None
    now = shaft_angles(after, np.array(list(ends.values())))
    was = shaft_angles(before, np.array(list(at_ends(before).values())))
    found = []
    for n, end in enumerate(ends):
        for joint, most in (("inner", shaft.inner_max_deg), ("outer", shaft.outer_max_deg)):
            angle, old = float(getattr(now, joint)[n]), float(getattr(was, joint)[n])
            if angle > most:
                found.append(
                    Finding(
                        id=f"half_shaft.{name}.{joint}.{end.replace(' ', '_')}",
                        axle=name,
                        severity="stops" if end == "ride height" else "fix",
                        what=f"{name.capitalize()} half-shaft, {joint} joint, bends {angle:.0f}° at {end}",
                        value=angle,
                        limit=most,
                        margin=most - angle,
                        unit="deg",
                        why=f"Its joint bends to {most:g}°; it was {old:.0f}° there before. Beyond, balls climb and "
                        "boots tear.",
                        source="angle of the joint from the vehicle's data, the linkage over its travel",
                        cures=_strapped(case, name, after, joint, most) if end == "full droop" else (),
                    )
                )
        longer, old = float(now.longer[n]), float(was.longer[n])
        most = shaft.plunge_out_mm if longer > 0 else shaft.plunge_in_mm
        if abs(longer) > most:
            way, does = ("longer", "pulls its joint apart") if longer > 0 else ("shorter", "is pushed solid")
            found.append(
                Finding(
                    id=f"half_shaft.{name}.plunge.{end.replace(' ', '_')}",
                    axle=name,
                    severity="stops" if end == "ride height" else "fix",
                    what=f"{name.capitalize()} half-shaft {does} at {end}",
                    value=longer,
                    limit=math.copysign(most, longer),
                    margin=most - abs(longer),
                    unit="mm",
                    why=f"It would have to be {abs(longer):.0f} mm {way} there than at the reference height and has "
                    f"{most:g} mm; it was {signed(old, '.0f')} mm before.",
                    source="plunge from the vehicle's data, distance of its joints over travel",
                )
            )
    return found


def _strapped(case: Case, name: AxleName, stance: Stance, joint: str, most: float) -> tuple[Cure, ...]:
    """Straps that end droop where the joint still bends no further than it may."""

    def bends_no_further(travels: np.ndarray) -> np.ndarray:
        return getattr(shaft_angles(stance, travels), joint) <= most

    return tuple(case.strapped(name, stance, bends_no_further))

"""Propeller-shaft joints: what they bend by, whether they cancel, and whether the shaft is long enough."""

import numpy as np

from inclinum.core.car.carried import at_ends
from inclinum.core.car.driveline import shaft_bends
from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.coupled import put_right
from inclinum.core.car.limits.finding import Finding
from inclinum.core.document.names import AxleName


def check(case: Case) -> list[Finding]:
    """Joints bent too far at droop, ride height or bump, joints that do not cancel at ride height, plunge used up."""
    found = []
    for name, axle, stance in both_axles(case):
        shaft, came = axle.prop_shaft, case.before.axle(name)
        if shaft is None:
            continue
        ends = at_ends(stance)
        now = shaft_bends(stance, came, np.array(list(ends.values())))
        was = shaft_bends(came, came, np.array(list(at_ends(came).values())))
        for n, end in enumerate(ends):
            for joint, angles, old in (("gearbox", now.gearbox, was.gearbox), ("pinion", now.pinion, was.pinion)):
                if shaft.most_deg is not None and angles[n] > shaft.most_deg:
                    found.append(_bent(name, joint, end, float(angles[n]), float(old[n]), shaft.most_deg))
            longer = float(now.longer[n]) - shaft.longer_mm
            most = shaft.plunge_out_mm if longer > 0 else shaft.plunge_in_mm
            if most is not None and abs(longer) > most:
                found.append(_plunge(name, end, longer, most))
        apart, before = float(now.mismatch[1]), float(was.mismatch[1])
        if apart > shaft.mismatch_deg and apart > before + SAME_DEG:
            found.append(
                Finding(
                    id=f"prop_shaft.{name}.mismatch",
                    axle=name,
                    severity="fix",
                    what=f"{name.capitalize()} propeller shaft: its joints differ by {apart:.1f}° at ride height",
                    value=apart,
                    limit=shaft.mismatch_deg,
                    margin=shaft.mismatch_deg - apart,
                    unit="deg",
                    why=f"They bend {now.gearbox[1]:.1f}° and {now.pinion[1]:.1f}°, and differed by {before:.1f}° "
                    "before. What does not cancel shakes the car twice a turn. Turn the pinion (wedge, arms of another "
                    "length) or lower the gearbox's end.",
                    source="both joints and their directions as measured, the solved axle",
                    cures=tuple(put_right(case, name)),
                )
            )
    return found


SAME_DEG = 0.05


def _bent(name: AxleName, joint: str, end: str, angle: float, old: float, most: float) -> Finding:
    return Finding(
        id=f"prop_shaft.{name}.{joint}.{end.replace(' ', '_')}",
        axle=name,
        severity="stops" if end == "ride height" else "fix",
        what=f"{name.capitalize()} propeller shaft bends {angle:.0f}° at the {joint}, at {end}",
        value=angle,
        limit=most,
        margin=most - angle,
        unit="deg",
        why=f"Its joint bends to {most:g}°; it was {old:.0f}° there before. Beyond, its yokes touch and break.",
        source="angle of the joint from the vehicle's data, the solved axle",
    )


def _plunge(name: AxleName, end: str, longer: float, most: float) -> Finding:
    way, does = ("longer", "is pulled apart") if longer > 0 else ("shorter", "is pushed solid")
    return Finding(
        id=f"prop_shaft.{name}.plunge.{end.replace(' ', '_')}",
        axle=name,
        severity="stops" if end == "ride height" else "fix",
        what=f"{name.capitalize()} propeller shaft {does} at {end}",
        value=abs(longer),
        limit=most,
        margin=most - abs(longer),
        unit="mm",
        why=f"It would have to be {abs(longer):.0f} mm {way} than it came; its splines allow {most:g} mm. A spacer on "
        "its flange, or a shaft of another length.",
        source="plunge from the vehicle's data, distance of its joints over travel",
    )

"""The brief: height wanted at each end, and how far the rake may change."""

import math

from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Finding
from inclinum.core.document.names import AXLES, AxleName


def check(case: Case) -> list[Finding]:
    """Aims missed by more than the brief allows, and a rake that changes more than it allows."""
    brief = case.job.brief
    found = []
    for name, _, stance in both_axles(case):
        aim = brief.aim(name)
        miss = stance.rise - aim.rise.value
        if abs(miss) > aim.tolerance_mm:
            found.append(
                Finding(
                    id=f"aim.{name}",
                    axle=name,
                    severity="fix",
                    what=f"{name.capitalize()} comes out {abs(miss):.0f} mm too {'high' if miss > 0 else 'low'}",
                    value=stance.rise,
                    limit=aim.rise.value,
                    margin=aim.tolerance_mm - abs(miss),
                    unit="mm",
                    why=f"The brief wants {aim.rise.value:+.0f} mm within ±{aim.tolerance_mm:g} mm.",
                    source="the brief",
                    wanted_rise=aim.rise.value,
                )
            )
    pitch = math.degrees(case.pitch_change)
    if abs(pitch) > brief.rake_change_max_deg:
        worse: AxleName = max(AXLES, key=lambda a: abs(case.after.axle(a).rise - brief.aim(a).rise.value))
        found.append(
            Finding(
                id="rake",
                axle=worse,
                severity="fix",
                what=f"The nose {'drops' if pitch > 0 else 'lifts'} by {abs(pitch):.2f}° of rake",
                value=pitch,
                limit=math.copysign(brief.rake_change_max_deg, pitch),
                margin=brief.rake_change_max_deg - abs(pitch),
                unit="deg",
                why="The brief keeps the rake: lamps, caster and load on the axles follow it.",
                source="the brief",
                wanted_rise=brief.aim(worse).rise.value,
            )
        )
    return found

"""The brief: height wanted at each end, and how far the rake may change."""

import math

from inclinum.core.car.aims import Aimed, told
from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Finding
from inclinum.core.document.names import AXLES, AxleName


def check(case: Case) -> list[Finding]:
    """Aims missed by more than the brief allows, and a rake that changes more than it allows.

    Where the brief gives a rake, or nothing for an end, a change of rake is what it wants.
    """
    brief = case.job.brief
    found = []
    wanted: dict[AxleName, Aimed] = {}
    for name, _, stance in both_axles(case):
        end, why = told(case.job, case.before, case.after, name)
        if why:
            found.append(
                Finding(
                    id=f"aim_untold.{name}",
                    axle=name,
                    severity="fix",
                    what=f"The {name} aim cannot be held against anything",
                    value=0.0,
                    limit=0.0,
                    margin=0.0,
                    unit="mm",
                    why=why,
                    source="the brief",
                )
            )
        if end is None:
            continue
        wanted[name] = end
        miss = end.missed(stance.rise)
        if not end.met(stance.rise):
            found.append(
                Finding(
                    id=f"aim.{name}",
                    axle=name,
                    severity="fix",
                    what=f"{name.capitalize()} comes out {abs(miss):.0f} mm too {'high' if miss > 0 else 'low'}",
                    value=stance.rise,
                    limit=end.rise,
                    margin=end.within - abs(miss),
                    unit="mm",
                    why=f"The brief wants {end.said} within {end.near}.",
                    source="the brief",
                    wanted_rise=end.rise,
                )
            )
    pitch = math.degrees(case.pitch_change)
    kept = not any(brief.aim(a).by in ("rake", "none") for a in AXLES)
    if wanted and kept and abs(pitch) > brief.rake_change_max_deg:
        worse = max(wanted, key=lambda a: abs(case.after.axle(a).rise - wanted[a].rise))
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
                wanted_rise=wanted[worse].rise,
            )
        )
    return found

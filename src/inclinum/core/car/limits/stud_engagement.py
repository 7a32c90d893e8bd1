"""A nut must sit on full thread: 1.0 × diameter in steel, and the whole nut."""

import math

from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Finding
from inclinum.core.plan import millimetres


def check(case: Case) -> list[Finding]:
    """One finding per axle whose strut-top studs are eaten up by spacers."""
    found = []
    for name, axle, _ in both_axles(case):
        top = axle.strut_top
        if top is None or axle.top_spacer_mm <= 0:
            continue
        standing = top.stud_length_mm - axle.top_spacer_mm if axle.stud_left_mm is None else axle.stud_left_mm
        thread = standing - top.washer_mm
        wanted = max(top.stud_diameter_mm, top.nut_height_mm)
        if thread >= wanted:
            continue
        short = wanted - thread
        studs = float(math.ceil(axle.top_spacer_mm + wanted + top.washer_mm))
        found.append(
            Finding(
                id=f"stud_engagement.{name}",
                axle=name,
                severity="stops",
                what=f"{name.capitalize()} strut-top nuts do not get full thread",
                value=thread,
                limit=wanted,
                margin=-short,
                unit="mm",
                why="A nut on half a thread strips or works off, and the strut leaves its tower.",
                source=f"1.0 × stud diameter ({top.stud_diameter_mm:g}) and full nut height ({top.nut_height_mm:g})",
                cures=(
                    *case.adding_more(
                        f"Longer studs: {millimetres(studs)} above the bare tower", name, "stud length", studs
                    ),
                    *case.taking_less(name, "thread", short),
                ),
            )
        )
    return found

"""Longer studs come nearer to the bonnet."""

import math

from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Cure, Finding
from inclinum.core.document.names import AxleName
from inclinum.core.plan import millimetres

WANTED_MM = 5.0
"""Our rule: a bonnet moves on its rubbers by a few millimetres."""


def check(case: Case) -> list[Finding]:
    """Where somebody measured the gap over the stud tips: studs grow up, a spacer under the tower takes them down."""
    found = []
    for name, axle, _ in both_axles(case):
        top, came = axle.strut_top, case.before.vehicle.axle(name)
        was = came.strut_top
        if top is None or was is None or was.bonnet_gap_mm is None:
            continue
        before, after = was.stud_length_mm - came.top_spacer_mm, top.stud_length_mm - axle.top_spacer_mm
        # What stands on the studs stands under the bonnet too.
        over = 0.0 if top.bonnet_gap_mm is None else was.bonnet_gap_mm - top.bonnet_gap_mm
        higher = after - before + over
        left = was.bonnet_gap_mm - higher
        if left >= WANTED_MM or higher <= 0:
            continue
        found.append(
            Finding(
                id=f"bonnet.{name}",
                axle=name,
                severity="stops" if left < 0 else "fix",
                what=f"The {name} strut-top studs {'meet' if left < 0 else 'come close to'} the bonnet",
                value=left,
                limit=WANTED_MM,
                margin=left - WANTED_MM,
                unit="mm",
                why=f"They stand {higher:.0f} mm higher than before, under {was.bonnet_gap_mm:g} mm of gap.",
                source="gap over the stud tips, as measured",
                cures=_shorter_studs(case, name, was.bonnet_gap_mm - over + before + axle.top_spacer_mm - WANTED_MM),
            )
        )
    return found


def _shorter_studs(case: Case, name: AxleName, length: float) -> tuple[Cure, ...]:
    """Studs of another length, whole mm, in place of those the plan has, where there can be such."""
    short = float(math.floor(length))
    title = f"{name.capitalize()} studs {millimetres(short)} above the bare tower"
    return tuple(case.providing(title, name, "stud length", short, anew=False))

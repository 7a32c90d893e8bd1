"""Inside the fork: both legs equal, coils that touch, and the parts that keep metal from metal."""

from inclinum.core.bike.limits.case import BikeCase, BikeCure, BikeFinding
from inclinum.core.springs.fork import CoilForkSprings

ALIKE_MM, ALIKE_RATE = 0.5, 0.02


def check(case: BikeCase) -> list[BikeFinding]:
    """Legs, coils, bottom-out parts."""
    return [*_legs(case), *_coils(case), *_parts(case)]


def _legs(case: BikeCase) -> list[BikeFinding]:
    springs = case.bike.fork.springs
    if not isinstance(springs, CoilForkSprings) or springs.legs == 1:
        return []
    apart = abs(springs.leg_preload("left") - springs.leg_preload("right"))
    right = springs.right or springs.left
    rates = abs(right.rate_n_per_mm - springs.left.rate_n_per_mm) / springs.left.rate_n_per_mm
    if apart <= ALIKE_MM and rates <= ALIKE_RATE:
        return []
    return [
        BikeFinding(
            id="fork.legs", axle="front", severity="fix", what="The two fork legs are not alike",
            value=round(apart, 1), limit=ALIKE_MM, margin=round(ALIKE_MM - apart, 1), unit="mm",
            why=f"Preload differs by {apart:.1f} mm and rate by {100 * rates:.0f} %: the fork twists and binds.",
            source="left against right",
        )
    ]  # fmt: skip


def _coils(case: BikeCase) -> list[BikeFinding]:
    fork, springs = case.bike.fork, case.bike.fork.springs
    if not isinstance(springs, CoilForkSprings) or not springs.left.solid_length_mm:
        return []
    used, room = springs.preload() + fork.stroke_mm, springs.left.room_mm
    if used <= room:
        return []
    laden = springs.preload() + case.after.ends["laden"][0].sag >= room
    return [
        BikeFinding(
            id="fork.coils", axle="front", severity="stops",
            what=f"The fork springs go solid {'under the rider' if laden else 'before it bottoms'}",
            value=round(used, 1), limit=round(room, 1), margin=round(room - used, 1), unit="mm",
            why="Coils would be the stop; a shorter spacer or springs with more stroke.",
            source="the springs' own lengths",
        )
    ]  # fmt: skip


def _parts(case: BikeCase) -> list[BikeFinding]:
    """Leaving the bottom-out parts out is refused as a plan; what it would cost is shown."""
    fork = case.bike.fork
    if fork.bottom_out_parts:
        return []
    force = float(fork.force(fork.stroke_mm))
    cures: list[BikeCure] = []
    for planned in case.job.plan.changes:
        if planned.on and (kept := planned.change.mended()) is not None:
            cures.append(case.replacing("Leave the bottom-out parts in", planned, kept))
    return [
        BikeFinding(
            id="fork.bottom_out", axle="front", severity="stops",
            what="Refused: the fork's bottom-out parts are left out",
            value=0.0, limit=1.0, margin=-1.0, unit="",
            why=f"They keep metal from metal: at full stroke the springs hold {force:.0f} N, a landing brings several "
            "times that, and nothing but the castings would take the rest. The height is free and can be had "
            "by springs, spacers or travel spacers made for it.",
            source="this tool's rule", cures=tuple(cures),
        )
    ]  # fmt: skip

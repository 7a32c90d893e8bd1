"""The rear's far ends: coils touching, the damper as the stop, the linkage ending first, gaps at full bump."""

import math

from inclinum.core.bike.limits.case import BikeCase, BikeFinding


def check(case: BikeCase) -> list[BikeFinding]:
    """Everything at or near full bump."""
    return [*_coils(case), *_on_rubber(case), *_damper(case), *_gaps(case)]


def _on_rubber(case: BikeCase) -> list[BikeFinding]:
    """Riding on the bump rubber: the height is the rubber's, and every bump goes into the frame."""
    rubber, rear = case.bike.damper.bumper, case.after.rear
    if rubber is None:
        return []
    open_left = case.after.ends["laden"][1].damper_length - (rear.extended - rear.stroke) - rubber.height_mm
    if open_left >= 0:
        return []
    wanted = round(case.bike.counted(case.bike.preload - open_left + 1), 1)
    return [
        BikeFinding(
            id="rear.on_rubber", axle="rear", severity="stops", what="The rear rides on its bump rubber",
            value=round(open_left, 1), limit=0.0, margin=round(open_left, 1), unit="mm",
            why=f"Under the rider its rubber is squeezed by {-open_left:.0f} mm before the wheel meets anything: the "
            "height is the rubber's, not the spring's. More preload, a stiffer spring, or less drop by the damper.",
            source="damper, rubber and load",
            cures=tuple(case.providing(f"Preload {wanted:g} mm", "rear", "rear preload", wanted)),
        )
    ]  # fmt: skip


def _coils(case: BikeCase) -> list[BikeFinding]:
    """Shortening at full bump against the spring's stroke; coils that touch under the rider stop the plan."""
    bike, rear = case.bike, case.after.rear
    room = bike.spring.stroke_mm
    used = bike.preload + bike.damper.stroke_mm
    laden = bike.preload + bike.damper.extended_mm - case.after.ends["laden"][1].damper_length
    if laden >= room:
        return [
            _finding(
                "rear.coils_laden", "stops", "The rear spring is solid under the rider", laden, room, room - laden,
                "Its coils touch before the load is carried: the machine has no rear suspension left.",
            )
        ]  # fmt: skip
    if used > room:
        length = bike.damper.extended_mm + bike.preload - room
        rise = rear.sweep.rise_at(length)
        lost = 0.0 if rise is None else rear.travel_at_full_stroke - (rise - rear.extended_rise)
        return [
            _finding(
                "rear.coils", "stops", "The rear spring goes solid before the damper is closed", used, room,
                room - used, f"Coils would be the stop and {lost:.0f} mm of wheel travel are lost.",
            )
        ]  # fmt: skip
    return []


def _damper(case: BikeCase) -> list[BikeFinding]:
    bike, rear, found = case.bike, case.after.rear, []
    if bike.damper.bumper is None:
        found.append(
            _finding(
                "rear.damper_stop", "fix", "The damper itself is the stop", 0.0, 1.0, -1.0,
                "No bump rubber is on its rod: metal meets metal inside. Fit the rubber the damper's maker lists.",
            )
        )  # fmt: skip
    if rear.linkage_ends_first:
        found.append(
            _finding(
                "rear.linkage_stop", "stops", "The linkage ends before the damper does",
                rear.travel_at_full_stroke, 0.0, -1.0,
                "Its members come into one line or run into each other: no rubber stops them.",
            )
        )  # fmt: skip
    was = case.before.bike.damper
    if bike.damper.stroke_mm > was.stroke_mm and not math.isclose(bike.damper.stroke_mm, was.stroke_mm, rel_tol=1e-5):
        found.append(
            _finding(
                "rear.stroke", "know", "The damper closes further than the one it came with",
                bike.damper.stroke_mm, was.stroke_mm, was.stroke_mm - bike.damper.stroke_mm,
                "The wheel goes further up than before: the gaps at full bump below are with this damper.",
            )
        )  # fmt: skip
    return found


def _gaps(case: BikeCase) -> list[BikeFinding]:
    """Gaps at full bump with the damper and tyre that are really fitted."""
    now, came, found = case.after, case.before, []
    up = now.ends["full"][1].height - came.ends["full"][1].height
    up += case.bike.rear_tyre_radius_mm - came.bike.rear_tyre_radius_mm
    front = case.bike.fork.stroke_mm - came.bike.fork.stroke_mm
    front += case.bike.fork.shortened_mm - came.bike.fork.shortened_mm
    front += case.bike.fork.raised_mm - came.bike.fork.raised_mm
    front += case.bike.front_tyre_radius_mm - came.bike.front_tyre_radius_mm
    for gap in case.bike.far_ends:
        left = gap.gap_mm - (up if gap.end == "rear" else front)
        if left >= gap.wanted_mm:
            continue
        cures = ()
        if gap.end == "rear" and left < 0:
            short = case.bike.damper
            less = (gap.wanted_mm - left) * float(now.rear.sweep.curve.ratio(now.rear.full_rise))
            stroke = round(short.stroke_mm - less, 1)
            if stroke > 10:
                title = f"Damper with {stroke:g} mm of stroke, or a spacer inside it"
                cures = tuple(case.providing(title, "rear", "rear damper", (short.extended_mm, stroke)))
        found.append(
            BikeFinding(
                id=f"gap.{gap.name}",
                axle=gap.end,
                severity="stops" if left < 0 else "fix",
                what=f"{gap.name.capitalize()}: {'they touch' if left < 0 else 'close'} at full bump",
                value=round(left, 1),
                limit=gap.wanted_mm,
                margin=round(left - gap.wanted_mm, 1),
                unit="mm",
                why=f"It came with {gap.gap_mm:g} mm; the wheel now goes {gap.gap_mm - left:.0f} mm further up.",
                source="the machine as measured",
                cures=cures,
            )
        )
    return found


def _finding(key: str, severity: str, what: str, value: float, limit: float, margin: float, why: str) -> BikeFinding:
    return BikeFinding(
        id=key,
        axle="rear",
        severity=severity,  # type: ignore[arg-type]
        what=what,
        value=round(value, 1),
        limit=round(limit, 1),
        margin=round(margin, 1),
        unit="mm",
        why=why,
        source="the parts' own lengths",
    )

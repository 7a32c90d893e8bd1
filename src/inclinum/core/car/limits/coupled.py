"""A solid axle that a lift has pushed aside, turned about itself, or steered: what puts it back."""

from collections.abc import Callable

import numpy as np

from inclinum.core.car.changes.geometry import structural
from inclinum.core.car.driveline import axle_turned, shaft_bends
from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Cure, Finding
from inclinum.core.car.stance import Stance
from inclinum.core.car.stood import stand_changed
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.kinematics import pair_name
from inclinum.core.kinematics.axles import LeafAxle
from inclinum.core.kinematics.refit import frame_points, links
from inclinum.core.plan import Severity

SHIFT_MM, CASTER_DEG, WHEEL_DEG = 3.0, 1.0, 5.0
"""Our rules: a shift that is seen from behind, a caster that is felt, a steering wheel that is seen to be off."""
TRIED_MM, TRIED_DEG, STEP_MM, STEP_DEG = 5.0, 1.0, 0.5, 0.5
ACROSS = 0.7
"""A link that lies across the vehicle by more than this share of its length holds the axle sideways."""


def check(case: Case) -> list[Finding]:
    """Lateral shift, caster of the kingpins, steering wheel off centre, of each solid axle."""
    found = []
    for name, axle, stance in both_axles(case):
        if not axle.linkage.coupled:
            continue
        before = case.before.axle(name)
        turned = axle_turned(before, stance)
        if abs(turned.shift_left) > SHIFT_MM:
            side = "left" if turned.shift_left > 0 else "right"
            rods = tuple(_lateral(stance))
            found.append(
                _told(
                    f"axle_shift.{name}",
                    name,
                    "fix",
                    f"{name.capitalize()} axle stands {abs(turned.shift_left):.0f} mm to the {side}",
                    turned.shift_left,
                    SHIFT_MM,
                    "mm",
                    "A lateral rod swings on an arc: as the body rises it pulls the axle to its own side. The car then "
                    "runs crabwise, and tyres come nearer to one side.",
                    _zeroed(case, name, lambda s, b=before: axle_turned(b, s).shift_left, lengths=rods),
                )
            )
        if axle.linkage.kind and getattr(axle.linkage, "steering", None) is not None:
            found += _steered(case, name, before, stance)
    return found


def _steered(case: Case, name: AxleName, before: Stance, stance: Stance) -> list[Finding]:
    turned, found = axle_turned(before, stance), []
    if _ahead(stance):
        found.append(
            Finding(
                id=f"links_ahead.{name}", axle=name, severity="know", what=f"The {name} axle's links run ahead of it",
                value=0.0, limit=1.0, margin=-1.0, unit="", source="the points of the axle",
                why="Under most they run back to the middle of the vehicle, and caster then goes the other way as the "
                "body rises. Look under it: if they do, the forward of their frame ends takes a minus.",
            )
        )  # fmt: skip
    if abs(turned.nose_up) > CASTER_DEG:
        way = "less" if turned.nose_up < 0 else "more"
        found.append(
            _told(
                f"kingpins.{name}", name, "fix", f"{name.capitalize()} kingpins have {abs(turned.nose_up):.1f}° {way} "
                "caster", turned.nose_up, CASTER_DEG, "deg",
                "The axle turns as its links swing. Less caster and it wanders, more and it is heavy; the pinion turns "
                "with it.",
                _zeroed(
                    case, name, lambda s: axle_turned(before, s).nose_up,
                    lengths=tuple(_along(stance)), brackets=tuple(_arm_brackets(stance)),
                    wedge=isinstance(stance.axle.linkage, LeafAxle),
                ),
            )
        )  # fmt: skip
    wheel, short = turned.steering_wheel, turned.drag_link_short
    if wheel is not None and short is not None and abs(wheel) > WHEEL_DEG:
        longer = "longer" if short > 0 else "shorter"
        found.append(
            _told(
                f"steering_wheel.{name}", name, "know", f"The steering wheel stands {abs(wheel):.0f}° off centre",
                wheel, WHEEL_DEG, "deg",
                f"Set the drag link {abs(short):.1f} mm {longer} before it is driven: the box is then on its middle.",
                [],
            )
        )  # fmt: skip
    return found


def put_right(case: Case, name: AxleName) -> list[Cure]:
    """Wedges or links that turn a pinion until both joints of its propeller shaft bend alike."""
    stance, came = case.after.axle(name), case.before.axle(name)

    def apart(tried: Stance) -> float:
        bends = shaft_bends(tried, came, np.array([tried.travel]))
        return float(bends.gearbox[0] - bends.pinion[0])

    leaf = isinstance(stance.axle.linkage, LeafAxle)
    return _zeroed(case, name, apart, lengths=tuple(_along(stance)), brackets=tuple(_arm_brackets(stance)), wedge=leaf)


def _told(
    key: str, name: AxleName, severity: Severity, what: str, value: float, limit: float, unit: str, why: str,
    cures: list[Cure],
) -> Finding:  # fmt: skip
    return Finding.model_validate(
        {
            "id": key, "axle": name, "severity": severity, "what": what, "value": value,
            "limit": float(np.copysign(limit, value)), "margin": limit - abs(value), "unit": unit, "why": why,
            "source": "the solved axle, planned against as it came", "cures": tuple(cures),
        }
    )  # fmt: skip


def _lateral(stance: Stance) -> list[str]:
    return [outer for outer, share in _shares_across(stance) if share > ACROSS]


def _along(stance: Stance) -> list[str]:
    """Links that lie along the vehicle; of a pair the left one stands for both."""
    return [o for o, share in _shares_across(stance) if share <= ACROSS and "right" not in o.split("_")]


def _arm_brackets(stance: Stance) -> list[str]:
    """Brackets of arms that are one with the axle and so have no length to set; the left one stands for both."""
    linkage = stance.axle.linkage
    on_links = {end for ends in links(linkage).values() for end in ends}
    return [
        n
        for n in frame_points(linkage)
        if n in structural(linkage) and n not in on_links and "right" not in n.split("_")
    ]


def _ahead(stance: Stance) -> bool:
    """Whether all that runs along the vehicle is held to its frame forward of the axle."""
    linkage = stance.axle.linkage
    if isinstance(linkage, LeafAxle):
        return False
    points, frame = linkage.named_points(), frame_points(linkage)
    held = [n for outer in _along(stance) for n in links(linkage)[outer] if n in frame] + _arm_brackets(stance)
    return bool(held) and all(points[n][0] > 0 for n in held)


def _shares_across(stance: Stance) -> list[tuple[str, float]]:
    points = stance.axle.linkage.named_points()
    found = []
    for outer, (one, other) in links(stance.axle.linkage).items():
        line = np.abs(points[one] - points[other])
        found.append((outer, float(line[1] / np.linalg.norm(line))))
    return found


def _zeroed(
    case: Case,
    name: AxleName,
    missed: Callable[[Stance], float],
    *,
    lengths: tuple[str, ...] = (),
    brackets: tuple[str, ...] = (),
    wedge: bool = False,
) -> list[Cure]:
    """Plans that bring what an axle is off by to nought: each tried, sized by what it does, and tried again."""
    now, found = missed(case.after.axle(name)), []

    def left(cures: list[Cure]) -> float | None:
        try:
            return missed(stand_changed(case.before, cures[0].changes, case.after).axle(name)) if cures else None
        except DomainError:
            return None

    for outer in lengths:

        def plan(by: float, outer: str = outer) -> list[Cure]:
            way = "longer" if by > 0 else "shorter"
            title = f"{name.capitalize()} {pair_name(outer)}: link {abs(by):g} mm {way}"
            return case.adding_more(title, name, "link length", (outer, by))

        found += _sized(plan, now, left, TRIED_MM, STEP_MM)
    for point in brackets:

        def dropped(by: float, point: str = point) -> list[Cure]:
            title = f"{name.capitalize()} {pair_name(point)} {abs(by):g} mm {'up' if by > 0 else 'down'}"
            return case.adding_more(title, name, "bracket", (point, by))

        found += _sized(dropped, now, left, -TRIED_MM, 1.0)
    if wedge:

        def turned(by: float) -> list[Cure]:
            title = f"{name.capitalize()} wedges {abs(by):g}°, thick end to the {'rear' if by > 0 else 'front'}"
            return case.adding_more(title, name, "wedge", by)

        found += _sized(turned, now, left, TRIED_DEG, STEP_DEG)
    return found[:2]


def _sized(
    plan: Callable[[float], list[Cure]], now: float, left: Callable[[list[Cure]], float | None], tried: float,
    step: float,
) -> list[Cure]:  # fmt: skip
    """The plan at the size that takes away most, in steps it is made in; empty where it takes less than half away."""
    first = left(plan(tried))
    if first is None or first == now:
        return []
    size = round(-now * tried / (first - now) / step) * step
    second = left(plan(size)) if size else None
    if second is None:
        return []
    # What it does is not quite straight: once more from there.
    if second != now and abs(second) > abs(now) / 10:
        size = round(-now * size / (second - now) / step) * step
        second = left(plan(size)) if size else None
    return plan(size) if second is not None and abs(second) < abs(now) / 2 else []

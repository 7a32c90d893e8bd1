"""Left and right stand at one height, or somebody knows why not."""

import math
from collections.abc import Callable
from functools import partial

from inclinum.core.car.changes import Change
from inclinum.core.car.corner_weights import by_its_side
from inclinum.core.car.limits.case import Case
from inclinum.core.car.limits.finding import Cure, Finding
from inclinum.core.car.measured import APART_MM
from inclinum.core.car.stood import stand_changed
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AXLES, AxleName, Side

TRIED = 5.0
"""Of its own unit, how much more a first look puts on one side: what it lifts there tells how much is wanted."""


def apart(case: Case, name: AxleName) -> float | None:
    """Left less right of the planned heights, less what the brief wants of that, mm; None where one was not read."""
    read = [case.job.measure.corner(name, side, "hub_to_arch") for side in ("left", "right")]
    if read[0] is None or read[1] is None:
        return None
    beyond = case.beyond
    return (
        read[0].value
        - read[1].value
        + beyond[name, "left"]
        - beyond[name, "right"]
        - (case.job.brief.aim(name).left_higher)
    )


def check(case: Case) -> list[Finding]:
    """One finding per axle that comes out leaning; what it came with is only told."""
    found = []
    for name in AXLES:
        planned = apart(case, name)
        if planned is None or abs(planned) <= APART_MM:
            continue
        axle = case.after.vehicle.axle(name)
        asked = bool(case.job.brief.aim(name).left_higher)
        than = " than the brief wants" if asked else ""
        made = axle.uneven or asked
        track = case.after.vehicle.axle(name).track_mm
        leans = f" The body leans by {math.degrees(math.atan(abs(planned) / track)):.1f}°, and camber with it."
        low: Side = "right" if planned > 0 else "left"
        found.append(
            Finding(
                id=f"sides.{name}",
                axle=name,
                severity="fix" if made else "know",
                what=f"{name.capitalize()} stands {abs(planned):.0f} mm lower on the {low}{than}",
                value=planned,
                limit=APART_MM,
                margin=APART_MM - abs(planned),
                unit="mm",
                why=(
                    "The brief wants a height of its own on each side: what is set wheel by wheel gives it."
                    if asked
                    else "Set so, the sides differ by more than a tape is wrong."
                    if made
                    else "It came so: a tired spring, a bent part, or a load on one side. Where no part is at fault, "
                    "springs that are set wheel by wheel level it, and shift load to the corner across."
                )
                + leans,
                source="heights read at both sides, the body on its four corners",
                cures=tuple(levelled(case, name, low, abs(planned))),
            )
        )
    return found


def levelled(case: Case, name: AxleName, low: Side, by: float) -> list[Cure]:
    """Plans that raise the low side of an axle by what it is lower, mm: what is set wheel by wheel, on the plan or new.

    Both sides lean on each other through bar and body: how much one lifts is found by trying it.
    """
    on = [p for p in case.changes if p.on and p.change.axle == name and p.change.one_side(low, 0.0) is not None]
    if on:
        tried = [(p.change, partial(case.replacing, planned=p)) for p in on]
    else:
        # Only what needs no part that may not be there: a ring goes on any seat, a thread has to be cut.
        tried = [
            (begun, case.adding) for kind in case.kinds if kind.offered and (begun := _begun(case, kind, name, low))
        ]
    return [cure for change, put in tried if (cure := _sized(case, change, low, by, put)) is not None]


def _begun(case: Case, kind: type[Change], name: AxleName, low: Side) -> Change | None:
    """A change of a kind that goes one side at a time, at nothing; None where the axle takes none."""
    try:
        begun = case.started(kind, name)
        return None if begun.one_side(low, 0.0) is None else begun.at(0.0)
    except DomainError:
        return None


def _sized(case: Case, change: Change, low: Side, by: float, put: Callable[..., Cure]) -> Cure | None:
    """The plan at the size that lifts the low side by what is wanted, in steps it is set in; None where none does."""

    def plan(size: float) -> Cure:
        sided = change.one_side(low, size)
        assert sided is not None, "it goes one side at a time"
        return put(title=f"{change.axle.capitalize()} {sided.sized()}", change=sided)

    search = case.searched(change, change.axle)
    step = search.step if search else 1.0
    try:
        lifted = _lifted(case, change.axle, low, plan(TRIED))
        if lifted <= 0:
            return None
        size = round(TRIED * by / lifted / step) * step
        left = abs(by - _lifted(case, change.axle, low, plan(size)))
    except DomainError:
        return None
    return plan(size) if size and left < APART_MM else None


def _lifted(case: Case, name: AxleName, low: Side, cure: Cure) -> float:
    """How much a plan lifts one side of an axle against the other beyond the present one, mm."""
    other: Side = "left" if low == "right" else "right"
    was = case.beyond
    then = by_its_side(case.job, case.before, stand_changed(case.before, cure.changes, case.after))
    return (then[name, low] - then[name, other]) - (was[name, low] - was[name, other])

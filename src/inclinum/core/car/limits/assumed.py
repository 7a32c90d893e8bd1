"""What nobody measured: a hard stop that rests on an archetype's guess is told as assumed, and stops no plan alone."""

from collections.abc import Callable
from dataclasses import dataclass

from inclinum.core.car.fitting.retune import BUMP_STOP, DAMPER, SPRING
from inclinum.core.car.limits.case import Case
from inclinum.core.car.limits.finding import Finding
from inclinum.core.car.vehicle import Axle
from inclinum.core.document.names import AXLES, AxleName
from inclinum.core.plan.finding import assumed


@dataclass(frozen=True)
class Part:
    """Something a hard stop lies at.

    Args:
        reading: what settles it, in the words it is listed by.
        known: whether a person gave it: on the job's axle, in its readings or in its plan.
    """

    reading: str
    known: Callable[[Case, AxleName, Axle], bool]


def _typed(axle: Axle, part: str) -> bool:
    """Data that came from no archetype were typed; those that did are assumed until that part is measured."""
    return not axle.archetype or (part in axle.known and axle.known[part].source == "measured")


def _solid_known(case: Case, name: AxleName, axle: Axle) -> bool:
    """A spring swapped in by the plan brings its own figure, unless it was copied from the assumed one."""
    fitted, planned = axle.coil, case.after.vehicle.axle(name).coil
    if not case.planned(name, "coil") or planned is None or fitted is None:
        return _typed(axle, SPRING)
    return _typed(axle, SPRING) or planned.solid_length_mm != fitted.solid_length_mm


SOLID = Part("the solid length of the springs", _solid_known)
STOP = Part(
    "the bump-stop gap", lambda case, name, axle: (
        case.job.measure.mean(name, "bump_stop_gap") is not None or _typed(axle, BUMP_STOP)
    ),
)  # fmt: skip
CLOSED = Part(
    "the exposed damper rod", lambda case, name, axle: (
        case.job.measure.mean(name, "exposed_rod") is not None or _typed(axle, DAMPER)
    ),
)  # fmt: skip
EXTENDED = Part("the damper's length, fully out", lambda case, name, axle: _typed(axle, DAMPER))

RESTS_ON: dict[str, tuple[Part, ...]] = {
    "coil_bind": (SOLID, STOP),
    "damper_closed": (CLOSED, STOP),
    "bump_gap": (STOP,),
    "droop_left": (EXTENDED,),
    "spring_loose": (EXTENDED,),
}
"""By the first part of a finding's id: what its number rests on beside the springs' own height."""


def unmeasured(case: Case) -> list[str]:
    """Per axle, what its limits were checked against and nobody gave: a sentence each, none where all is known."""
    sentences = []
    for name in AXLES:
        axle = case.job.vehicle.axle(name)
        parts = dict.fromkeys(p for parts in RESTS_ON.values() for p in parts)
        wanted = [
            p.reading for p in parts
            if not p.known(case, name, axle) and (p is not SOLID or case.after.vehicle.axle(name).spring.is_coil)
        ]  # fmt: skip
        planned = case.after.vehicle.axle(name)
        tyres = planned.tyre_growth_mm or planned.tyre_wider_mm or planned.wheel_out_mm
        if tyres and not axle.tyre_gaps:
            wanted.append("the gaps of the tyres to arch, guard and unit")
        if wanted:
            sentences.append(f"{name.capitalize()}: {', '.join(wanted)}.")
    return sentences


def told_as_assumed(case: Case, finding: Finding) -> Finding:
    """The finding as it is; or, where a part it rests on is only assumed, saying so and stopping nothing alone."""
    name = finding.axle
    parts = RESTS_ON.get(finding.id.partition(".")[0], ())
    if name is None or not parts:
        return finding
    axle = case.job.vehicle.axle(name)
    readings = tuple(p.reading for p in parts if not p.known(case, name, axle))
    return assumed(finding, readings, "axle")

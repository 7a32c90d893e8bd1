"""The sag bench: what each end sinks by, what it should, the preload that gives it, and which spring would suit.

Preload sets laden sag; unladen sag then tells the rate. Too little of it left means a spring too soft for the load,
wound up to hold it; too much means too stiff a spring. Both schools of choosing a spring stand side by side: by sag
(laden in the middle of its window, unladen in the middle of its own), and by ride frequency.
"""

import math
from dataclasses import replace
from functools import lru_cache
from typing import Literal

import numpy as np

from inclinum.core.bike.job import BikeJob, SagWindow, ShelfSpring
from inclinum.core.bike.machine import End, RearSpring
from inclinum.core.bike.stance import BikeStance
from inclinum.core.bike.windows import window_of
from inclinum.core.document import Document
from inclinum.core.equilibrium.rear_and_fork import ForkCarrying
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.springs.fork import CoilForkSprings

Verdict = Literal["right", "too soft", "too stiff", "set the preload first", "air: set the pressure", "nobody rides it"]


NOBODY: tuple[Verdict, str] = ("nobody rides it", "Add the rider to the brief: the rate is judged with the rider on.")


class SpringChoice(Document):
    """A spring on the shelf with the preload it would need and what it leaves."""

    part: str
    rate_n_per_mm: float
    preload_mm: float
    """Counted from the collar's zero."""
    preload_possible: bool
    unladen_sag_mm: float
    laden_sag_mm: float
    within: bool
    """Whether both sags lie in their windows."""
    on_shelf: int
    spring: RearSpring


class SagBench(Document):
    """One end."""

    end: End
    travel_mm: float
    unladen_mm: float
    laden_mm: float
    unladen_measured_mm: float | None
    laden_measured_mm: float | None
    window: SagWindow
    target_mm: float
    """Laden sag in the middle of its window."""
    preload_mm: float | None
    """Of the rear counted from its zero, of a fork leg at full extension; so is the next."""
    preload_for_target_mm: float | None
    spacer_for_target_mm: float | None
    """Of a fork: what its spacers are cut to."""
    topped_out: bool
    bottomed: bool
    laden_ok: bool
    unladen_ok: bool
    verdict: Verdict
    why: str
    rate_by_sag: float | None
    """Spring that would stand in the middle of both windows, N/mm."""
    rate_by_frequency: float | None
    """Spring that would give the frequency wanted with the rider on, N/mm."""
    frequency_hz: float
    softer: SpringChoice | None
    """Nearest on the shelf below the rate by sag, and above it."""
    stiffer: SpringChoice | None
    zero_question: str
    """Empty, or what has to be asked before the preload can be believed."""


NEAR = 0.6
"""A spring below this share of the rate wanted, or as far above it, is another machine's, and not offered."""


def sag_bench(job: BikeJob, standing: BikeStance, end: End) -> SagBench:
    """One end of the planned machine under its loads."""
    window = window_of(job, end)
    at = 1 if end == "rear" else 0
    unladen, laden = standing.ends["unladen"][at], standing.ends["laden"][at]
    rear = end == "rear"
    fork = standing.bike.fork
    travel = standing.rear.travel_at_full_stroke if rear else fork.stroke_mm
    target = (window.laden_low + window.laden_high) / 2 * travel
    preload = standing.bike.preload_mm if rear else fork.springs.preload()
    wanted, spacer = preload_for_sag(standing, target, end)
    laden_ok = window.laden_low * travel <= laden.sag <= window.laden_high * travel
    left = _unladen_at_target(standing, wanted, end)
    low, high = window.unladen_low * travel, window.unladen_high * travel
    air = not rear and not isinstance(fork.springs, CoilForkSprings)
    verdict, why = _verdict(left, wanted, low, high, air=air) if job.ridden else NOBODY
    load = standing.loads.rear_laden if rear else standing.loads.front_laden
    mass = load / GRAVITY
    wheel_rate = standing.rear.wheel_rate(laden.sag) if rear else standing.front.wheel_rate(laden.sag)
    by_sag = _rate_by_sag(standing, target, (low + high) / 2, end)
    middle = by_sag or standing.bike.spring.rate_n_per_mm
    near = [s for s in job.brief.shelf if rear and NEAR <= s.spring.rate_n_per_mm / middle <= 1 / NEAR]
    shelf = sorted(near, key=lambda s: s.spring.rate_n_per_mm)
    below = [s for s in shelf if s.spring.rate_n_per_mm <= middle][-1:]
    above = [s for s in shelf if s.spring.rate_n_per_mm > middle][:1]
    softer, stiffer = (_choice(s, standing, target, (low, high), window) for s in (below, above))
    return SagBench(
        end=end,
        travel_mm=travel,
        unladen_mm=unladen.sag,
        laden_mm=laden.sag,
        unladen_measured_mm=job.measure.sag(end, "unladen"),
        laden_measured_mm=job.measure.sag(end, "laden"),
        window=window,
        target_mm=target,
        preload_mm=preload,
        preload_for_target_mm=standing.bike.counted(wanted) if rear and wanted is not None else wanted,
        spacer_for_target_mm=spacer,
        topped_out=unladen.topped_out,
        bottomed=laden.bottomed,
        laden_ok=laden_ok,
        unladen_ok=low <= unladen.sag <= high,
        verdict=verdict,
        why=why,
        rate_by_sag=by_sag,
        rate_by_frequency=_rate_by_frequency(standing, laden.sag, mass, window.frequency_hz, end),
        frequency_hz=math.sqrt(max(wheel_rate, 0.0) * 1000 / mass) / (2 * math.pi),
        softer=softer,
        stiffer=stiffer,
        zero_question=_zero_question(standing) if rear else "",
    )


def _zero_question(standing: BikeStance) -> str:
    d = standing.bike.damper
    if d.zero_found == "hanging" and d.hidden_mm is None:
        return (
            "The preload's zero was found with the damper hanging: how much longer does it get when forced out? "
            "A top-out spring hides that much."
        )
    return ""


def preload_for_sag(standing: BikeStance, target: float, end: End) -> tuple[float | None, float | None]:
    """Preload that gives a laden sag, and the spacer of a fork for it, mm; None where there is none."""
    if end == "rear":
        return standing.rear.preload_for(standing.loads.rear_laden, target), None
    fork = standing.bike.fork
    springs = fork.springs
    if not isinstance(springs, CoilForkSprings) or not 0 < target < fork.stroke_mm:
        return None, None
    axial = standing.loads.front_laden * math.cos(standing.front.rake)

    air = 0.0 if springs.air is None else 2 * float(springs.air.force(target, fork.stroke_mm))
    each = (axial - air) / springs.legs
    if each <= 0:
        return None, None
    # The spring that pushes so much, and the spacer that holds it there.
    preload = springs.left.free_length_mm - springs.left.length_at(each) - target
    return preload, springs.spacer_for(preload)


def _unladen_at_target(standing: BikeStance, preload: float | None, end: End) -> float | None:
    """Unladen sag with the preload set for the laden target, mm; None where it cannot be set."""
    if preload is None:
        return None
    if end == "rear":
        return standing.rear.on_spring(preload=preload).at(standing.loads.rear_unladen).sag
    return _on_preload(standing.front, preload).at(standing.loads.front_unladen).sag


@lru_cache(maxsize=64)
def _on_preload(fork: ForkCarrying, preload: float) -> ForkCarrying:
    """Both legs on the spacer that gives a preload; one and the same for one preload."""
    assert isinstance(fork.springs, CoilForkSprings)
    spacer = fork.springs.spacer_for(preload)
    return replace(fork, springs=fork.springs.model_copy(update={"spacer_mm": spacer, "right_spacer_mm": None}))


def _verdict(left: float | None, preload: float | None, low: float, high: float, *, air: bool) -> tuple[Verdict, str]:
    """What the unladen sag at the target laden sag says of the rate."""
    if air:
        return "air: set the pressure", "An air spring is set by its pressure; the rate comes with it."
    if left is None or preload is None:
        return "set the preload first", "No preload reaches the laden target with this spring."
    if preload < 0:
        return "too stiff", f"Even with no preload it stands too high; on target it would be {-preload:.1f} mm loose."
    said = f"Laden sag on target leaves {left:.1f} mm unladen, wanted {low:.1f} to {high:.1f} mm"
    if left < low:
        return "too soft", f"{said}: too soft for the load, it has to be wound up to hold it."
    if left > high:
        return "too stiff", f"{said}: too stiff for the load, it hardly needs winding up."
    return "right", f"{said}: the rate suits the load."


def _rate_by_sag(standing: BikeStance, laden: float, unladen: float, end: End) -> float | None:
    """Rate and preload that meet both sags, two equations of the same spring; without preload where it would be less.

    Of a fork, one leg's.
    """
    loads = standing.loads
    if end == "front":
        fork, springs = standing.bike.fork, standing.bike.fork.springs
        if not isinstance(springs, CoilForkSprings):
            return None
        cosine = math.cos(standing.front.rake)
        air = np.zeros(2) if springs.air is None else 2 * springs.air.force(np.array([unladen, laden]), fork.stroke_mm)
        x1, x2 = unladen, laden
        f1, f2 = (
            (load * cosine - float(a)) / springs.legs
            for load, a in zip((loads.front_unladen, loads.front_laden), air, strict=True)
        )
    else:
        r = standing.rear

        def pressed(sag: float, load: float) -> tuple[float, float]:
            length, ratio, _ = r.sweep.curve.at(r.extended_rise + sag)
            return r.extended - float(length), load / float(ratio) / r.count - r.gas

        (x1, f1), (x2, f2) = pressed(unladen, loads.rear_unladen), pressed(laden, loads.rear_laden)
    if x2 <= x1 or f2 <= max(f1, 0.0):
        return None
    rate = (f2 - f1) / (x2 - x1)
    return rate if f2 / rate >= x2 else f2 / x2


def _rate_by_frequency(standing: BikeStance, sag: float, mass: float, hertz: float, end: End) -> float | None:
    """Spring rate at which the end rides at a frequency, N/mm: (k_wheel − F·dMR/dz)/(count·MR²)."""
    wanted = mass * (2 * math.pi * hertz) ** 2 / 1000
    if end == "front":
        springs, fork = standing.bike.fork.springs, standing.bike.fork
        if not isinstance(springs, CoilForkSprings):
            return None
        h = 1.0
        air = 0.0
        if springs.air is not None:
            ends = springs.air.force(np.array([max(sag - h, 0.0), sag + h]), fork.stroke_mm)
            air = 2 * float(ends[1] - ends[0]) / (sag + h - max(sag - h, 0.0))
        rate = (wanted * math.cos(standing.front.rake) ** 2 - air) / springs.legs
        return rate if rate > 0 else None
    r = standing.rear
    _, ratio, slope = r.sweep.curve.at(r.extended_rise + sag)
    push = standing.loads.rear_laden / float(ratio)
    rate = (wanted - push * float(slope)) / (r.count * float(ratio) ** 2)
    return rate if rate > 0 else None


def _choice(
    nearest: list[ShelfSpring], standing: BikeStance, target: float, unladen: tuple[float, float], window: SagWindow
) -> SpringChoice | None:
    """A spring of the shelf set to the laden target, as far as it may be wound up; None where there is none."""
    if not nearest:
        return None
    shelf, spring = nearest[0], nearest[0].spring
    end = standing.rear.on_spring(rate=spring.rate_n_per_mm)
    preload = end.preload_for(standing.loads.rear_laden, target)
    if preload is None:
        return None
    most = spring.max_preload_mm
    held = end.on_spring(preload=max(preload, 0.0) if most is None else min(max(preload, 0.0), most))
    free = held.at(standing.loads.rear_unladen).sag
    sunk = target if held.preload == preload else held.at(standing.loads.rear_laden).sag
    travel = standing.rear.travel_at_full_stroke
    return SpringChoice(
        part=spring.part,
        rate_n_per_mm=spring.rate_n_per_mm,
        preload_mm=standing.bike.counted(held.preload),
        preload_possible=preload >= 0 and (most is None or preload <= most),
        unladen_sag_mm=free,
        laden_sag_mm=sunk,
        within=unladen[0] <= free <= unladen[1] and window.laden_low * travel <= sunk <= window.laden_high * travel,
        on_shelf=shelf.count,
        spring=spring,
    )

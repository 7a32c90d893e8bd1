"""The sag bench: what each end sinks by, what it should, the preload that gives it, and which spring would suit.

Preload sets laden sag; unladen sag then tells the rate. Too little of it left means a spring too soft for the load,
wound up to hold it; too much means too stiff a spring. Both schools of choosing a spring stand side by side: by sag
(laden in the middle of its window, unladen in the middle of its own), and by ride frequency.
"""

import math
from collections.abc import Sequence
from functools import lru_cache
from typing import Literal

from inclinum.core.bike.job import BikeJob, SagWindow, ShelfSpring
from inclinum.core.bike.machine import End
from inclinum.core.bike.sprung import SpringChoice, SprungEnd, SprungFork, SprungRear
from inclinum.core.bike.stance import BikeStance
from inclinum.core.bike.windows import window_of
from inclinum.core.document import Document
from inclinum.core.equilibrium.rear_and_fork import ForkCarrying
from inclinum.core.quantity.constants import GRAVITY

Verdict = Literal["right", "too soft", "too stiff", "set the preload first", "air: set the pressure", "nobody rides it"]


NOBODY: tuple[Verdict, str] = ("nobody rides it", "Add the rider to the brief: the rate is judged with the rider on.")


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


def sag_bench(job: BikeJob, standing: BikeStance, end: End) -> SagBench:
    """One end of the planned machine under its loads."""
    window = window_of(job, end)
    read = job.measure.sag(end, "unladen"), job.measure.sag(end, "laden")
    loads = standing.loads
    if end == "front":
        fork = standing.front
        return _fork_bench(fork, loads.front_unladen, loads.front_laden, window, read, job.ridden)  # pyright: ignore[reportArgumentType] (hashable)
    rear = SprungRear(standing, loads.rear_unladen, loads.rear_laden)
    return _bench(rear, window, read, ridden=job.ridden, shelf=job.brief.shelf)


def preload_for_sag(standing: BikeStance, target: float, end: End) -> tuple[float | None, float | None]:
    """Preload that gives a laden sag, and the spacer of a fork for it, mm; None where there is none."""
    loads = standing.loads
    if end == "front":
        return SprungFork(standing.front, loads.front_unladen, loads.front_laden).preload_for(target)
    return SprungRear(standing, loads.rear_unladen, loads.rear_laden).preload_for(target)


@lru_cache(maxsize=64)
def _fork_bench(
    front: ForkCarrying,
    unladen: float,
    laden: float,
    window: SagWindow,
    read: tuple[float | None, float | None],
    ridden: bool,
) -> SagBench:
    """Remembered: while a rear end is planned the fork stays."""
    return _bench(SprungFork(front, unladen, laden), window, read, ridden=ridden)


def _bench(
    sprung: SprungEnd,
    window: SagWindow,
    read: tuple[float | None, float | None],
    *,
    ridden: bool,
    shelf: Sequence[ShelfSpring] = (),
) -> SagBench:
    travel = sprung.travel
    unladen, laden = sprung.at(sprung.unladen_load), sprung.at(sprung.laden_load)
    target = (window.laden_low + window.laden_high) / 2 * travel
    low, high = window.unladen_low * travel, window.unladen_high * travel
    wanted, spacer = sprung.preload_for(target)
    left = None if wanted is None else sprung.unladen_on(wanted)
    verdict, why = _verdict(left, wanted, low, high, air=sprung.set_by_pressure) if ridden else NOBODY
    mass = sprung.laden_load / GRAVITY
    by_sag = _rate_by_sag(sprung, target, (low + high) / 2)
    softer, stiffer = sprung.choices(shelf, by_sag, target, window)
    return SagBench(
        end=sprung.end,
        travel_mm=travel,
        unladen_mm=unladen.sag,
        laden_mm=laden.sag,
        unladen_measured_mm=read[0],
        laden_measured_mm=read[1],
        window=window,
        target_mm=target,
        preload_mm=sprung.preload,
        preload_for_target_mm=None if wanted is None else sprung.counted(wanted),
        spacer_for_target_mm=spacer,
        topped_out=unladen.topped_out,
        bottomed=laden.bottomed,
        laden_ok=window.laden_low * travel <= laden.sag <= window.laden_high * travel,
        unladen_ok=low <= unladen.sag <= high,
        verdict=verdict,
        why=why,
        rate_by_sag=by_sag,
        rate_by_frequency=sprung.rate_by_frequency(laden.sag, mass * (2 * math.pi * window.frequency_hz) ** 2 / 1000),
        frequency_hz=math.sqrt(max(sprung.wheel_rate(laden.sag), 0.0) * 1000 / mass) / (2 * math.pi),
        softer=softer,
        stiffer=stiffer,
        zero_question=sprung.zero_question,
    )


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


def _rate_by_sag(sprung: SprungEnd, laden: float, unladen: float) -> float | None:
    """Rate and preload that meet both sags, two equations of the same spring; without preload where it would be less.

    Of a fork, one leg's.
    """
    first, second = sprung.pressed(unladen, sprung.unladen_load), sprung.pressed(laden, sprung.laden_load)
    if first is None or second is None:
        return None
    (x1, f1), (x2, f2) = first, second
    if x2 <= x1 or f2 <= max(f1, 0.0):
        return None
    rate = (f2 - f1) / (x2 - x1)
    return rate if f2 / rate >= x2 else f2 / x2

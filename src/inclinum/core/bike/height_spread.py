"""What the tolerances of masses, springs, collars, linkage and clamps do to a predicted sag, drop and seat.

To the first order about where the machine stands: what both machines share cancels in a drop, and stays in a sag.
Sags are from each end's own full extension, of the fork along it. All ± are two standard deviations.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np

from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.machine import ENDS, End
from inclinum.core.bike.stance import BikeStance
from inclinum.core.document import Document
from inclinum.core.document.known import CALLIPER_MM, MADE_TO_MM, RATE_PERCENT, TAPE_MM
from inclinum.core.equilibrium.rear_and_fork import EndAt, ForkCarrying
from inclinum.core.kinematics.rigid import Array
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.springs.fork import AirForkSprings, AnyForkSprings, CoilForkSprings
from inclinum.core.uncertainty import Input, InputShare, ranked

STATES: tuple[Literal["unladen", "laden"], ...] = ("unladen", "laden")

HOLES_MM, COLLAR_MM, MASS_SHARE, PRESSURE_SHARE = 0.2, 1.0, 0.03, 0.03
"""± of a hole or rod by calliper, of a preload, and of a mass or an air pressure of which nobody said how well it is
known: our judgement."""

RATE = Input("rate of the fitted rear spring", "Two known loads and two lengths tell its rate to 1 or 2 %.")
NEW_RATE = Input("rate of the new rear spring", "Two known loads and two lengths tell its rate before it goes in.")
PRELOAD = Input("rear preload as it came", "Count it from zero again, the damper forced fully out.")
COLLAR = Input("rear preload as it is set", "Count it from zero with the damper forced fully out, twice.")
RATIO = Input("installation ratio", "Calliper the holes of the rear end that are listed first, and read its sags.")
READ = Input("sag as it was read", "Read it twice: hanging, then standing, bounced before each.")
RODS = Input("holes and rods that are changed", "Calliper old and new at the same holes, twice.")
DAMPER = Input("length of the new damper", "Measure it eye to eye, forced out, before it goes in.")
LEGS = Input("rate of the fitted fork springs", "Two known loads and two lengths tell it to 1 or 2 %.")
NEW_LEGS = Input("rate of the new fork springs", "Two known loads and two lengths tell it before they go in.")
AIR = Input("fork pressure as it came", "Read it with the wheel hanging, with the gauge it is pumped with.")
NEW_AIR = Input("fork pressure as it is set", "Pump it with the wheel hanging, and read it again after a ride.")
SPACER = Input("fork preload as it came", "Measure spacer and spring when the cap is off.")
NEW_SPACER = Input("fork preload as it is set", "Measure spacer, spring and the room for them before the cap goes on.")
TUBES = Input("tubes above the clamp", "Read both with a calliper from the same edge.")
INSIDE = Input("spacers inside the fork", "Read them with a calliper.")
STATED = {e: Input(f"what is stated of the {e}", "Ask who states it; the tape settles it after.") for e in ENDS}
TYRES = {e: Input(f"radius of the new {e} tyre", "Measure it mounted and pumped up.") for e in ENDS}
WEIGHT = {e: Input(f"what the {e} carries, no rider", "Weigh the machine, this wheel on the scale.") for e in ENDS}


class SagSpread(Document):
    """± of what is predicted of one end, mm."""

    drop: float
    """Of the body there, planned against before, rider on; down."""
    unladen: float
    """Of the planned sag, the machine on its own."""
    laden: float
    """The same with the rider on."""
    inputs: list[InputShare]
    """What spreads the drop most where the brief wants a height of this end and something moves it; else the sag."""


@dataclass(frozen=True)
class BikeSpread:
    """± of a two-wheeler's prediction, mm."""

    ends: dict[End, SagSpread]
    seat: float
    """Of its height as planned, unladen."""


@dataclass(frozen=True)
class Slopes:
    """How much further an end sags, unladen and laden.

    Args:
        rate: per share of its springs' rate, or of its air's pressure, mm.
        preload: per mm of it.
        load: per N at the axle, vertical.
        ratio: per share of the installation ratio, mm; 0 of a fork.
    """

    rate: tuple[float, float]
    preload: tuple[float, float]
    load: tuple[float, float]
    ratio: tuple[float, float]


NONE = (0.0, 0.0, 0.0, 0.0)


@lru_cache(maxsize=32)
def rear_slopes(standing: BikeStance) -> Slopes:
    """Of the rear; 0 where it is topped out or bottomed.

    Source: derived here: at rest n·(k·(P + x) + …)·MR = F, with x the damper's shortening; each slope is what that
    gains over the wheel rate. A ratio off by a share scales MR and x alike.
    """
    rear, loads = standing.rear, standing.loads

    def of(at: EndAt, load: float) -> tuple[float, float, float, float]:
        if at.topped_out or at.bottomed or (stiff := rear.wheel_rate(at.sag)) <= 0:
            return NONE
        shortened = rear.extended - at.damper_length
        pressed = max(0.0, rear.preload + shortened)
        per_mm = rear.count * rear.rate * at.ratio / stiff if pressed > 0 else 0.0
        return -per_mm * pressed, -per_mm, 1 / stiff, -load / stiff - per_mm * shortened

    unladen, laden = (standing.ends[c][1] for c in STATES)
    return Slopes(*zip(of(unladen, loads.rear_unladen), of(laden, loads.rear_laden), strict=True))


STEP_MM, STEP_SHARE = 0.1, 1e-3


@lru_cache(maxsize=32)
def fork_slopes(standing: BikeStance) -> Slopes:
    """Of the fork, along it; 0 where it is topped out or bottomed."""
    at = [standing.ends[c][0] for c in STATES]
    return Slopes(*zip(*(_along(standing.front, a) for a in at), strict=True))


@lru_cache(maxsize=256)
def _along(fork: ForkCarrying, at: EndAt) -> tuple[float, float, float, float]:
    """At one sag."""
    x = np.clip(at.sag + np.array([-STEP_MM, 0.0, STEP_MM]), 0.0, fork.stroke)
    whole = fork.force(x)
    stiff = float((whole[2] - whole[0]) / (x[2] - x[0]))
    if at.topped_out or at.bottomed or stiff <= 0:
        return NONE
    share, per_mm = _of_springs(fork, x, whole)
    return -share / stiff, -per_mm / stiff, math.cos(fork.rake) / stiff, 0.0


def _of_springs(fork: ForkCarrying, x: Array, whole: Array) -> tuple[float, float]:
    """Force at the middle of three travels: per share of the coils' rate or the air's pressure, and per mm of preload.

    The air over the oil of a coil fork is no part of its springs.
    """
    springs = fork.springs
    if isinstance(springs, CoilForkSprings):
        coils = whole if springs.air is None else whole - 2 * springs.air.force(x, fork.stroke)
        return float(coils[1]), float((coils[2] - coils[0]) / (x[2] - x[0]))
    assert isinstance(springs, AirForkSprings)
    harder = springs.model_copy(update={"gauge_n_per_mm2": springs.gauge_n_per_mm2 * (1 + STEP_SHARE)})
    return float(harder.force(x[1], fork.stroke) - whole[1]) / STEP_SHARE, 0.0


Moved = tuple[float, float, float, float]
"""A sag, mm: before unladen and laden, planned unladen and laden."""


@dataclass(frozen=True)
class _Effect:
    """What one input alone moves, mm."""

    what: Input
    rear: Moved = NONE
    front: Moved = NONE
    lower: tuple[float, float] = (0.0, 0.0)
    """The planned body, front and rear, whatever its sags."""


def bike_spread(job: BikeJob, before: BikeStance, after: BikeStance, ratio_percent: float) -> BikeSpread:
    """First-order spread of a two-wheeler's prediction.

    Args:
        job: with its brief's riders, its readings and its plan.
        before: as it came.
        after: as planned.
        ratio_percent: ± of the installation ratio that comes from the points of the rear end.
    """
    effects = [
        *_loads(job, before, after), *_rear(before, after, ratio_percent), *_front(before, after),
        *_of_the_body(job, before, after),
    ]  # fmt: skip
    what, cos = [*(e.what for e in effects), READ], math.cos(before.front.rake)
    drops: dict[End, list[tuple[float, float]]] = {
        "front": [_drop(e.front, cos, e.lower[0]) for e in effects],
        "rear": [_drop(e.rear, 1.0, e.lower[1]) for e in effects],
    }

    def of(end: End, sags: list[Moved]) -> SagSpread:
        drop = [laden for _, laden in drops[end]]
        wants = job.brief.aim(end) is not None or (end == "rear" and job.brief.rear_by != "drop")
        unladen, laden = (_of_sag(job, before, end, n, sags) for n in (0, 1))
        told = [*drop, 0.0] if wants and any(drop) else laden
        return SagSpread(drop=_all(drop), unladen=_all(unladen), laden=_all(laden), inputs=list(ranked(what, told)))

    seat = before.bike.seat.x_mm / before.bike.wheelbase_mm
    on_it = [(1 - seat) * r + seat * f for (r, _), (f, _) in zip(drops["rear"], drops["front"], strict=True)]
    read = job.measure.seat
    seat_read = TAPE_MM if read is None else read.plus_minus(job.measure.default_tolerance_mm)
    return BikeSpread(
        {"front": of("front", [e.front for e in effects]), "rear": of("rear", [e.rear for e in effects])},
        seat=math.hypot(_all(on_it), seat_read),
    )


def _drop(sags: Moved, along: float, lower: float) -> tuple[float, float]:
    """What an input moves the body's drop by, unladen and laden, mm: what both machines share is no drop."""
    return along * (sags[2] - sags[0]) + lower, along * (sags[3] - sags[1]) + lower


def _of_sag(job: BikeJob, before: BikeStance, end: End, n: int, sags: list[Moved]) -> list[float]:
    """What each input spreads a planned sag by, and after them the reading of the same sag before the job.

    Where that was read, what both machines share shows in it, and only what they do not share is left; how far the
    model missed it stands for what it may still miss. Without it, or where it says less, the model alone tells.
    """
    state, alone = STATES[n], [*(s[2 + n] for s in sags), 0.0]
    if (read := job.measure.sag(end, state)) is None:
        return alone
    missed = before.ends[state][ENDS.index(end)].sag - read
    off = math.hypot(missed, *(job.measure.plus_minus(end, s) for s in ("extended", state)))
    return min(alone, [*(s[2 + n] - s[n] for s in sags), off], key=_all)


def _all(each: Sequence[float]) -> float:
    """± of independent inputs together."""
    return math.hypot(*each)


def _loads(job: BikeJob, before: BikeStance, after: BikeStance) -> Iterator[_Effect]:
    """What rides along, at its station, and the machine itself on its wheels."""
    rears, forks = (rear_slopes(before), rear_slopes(after)), (fork_slopes(before), fork_slopes(after))
    for ride in (r for r in job.brief.rides if r.aboard):
        off = ride.mass.plus_minus(MASS_SHARE * ride.mass.value) * GRAVITY
        ahead = ride.x_mm / before.bike.wheelbase_mm
        said = "" if ride.mass.tolerance is not None else " (± assumed)"
        yield _Effect(
            Input(f"weight of {ride.name}{said}", "Weigh it as it rides, and type how good the scale is after ±."),
            rear=_both(rears, "load", (1 - ahead) * off, bare=False),
            front=_both(forks, "load", ahead * off, bare=False),
        )  # fmt: skip
    bike = before.bike
    yield _Effect(WEIGHT["rear"], rear=_both(rears, "load", MASS_SHARE * bike.sprung_rear_kg * GRAVITY))
    yield _Effect(WEIGHT["front"], front=_both(forks, "load", MASS_SHARE * bike.sprung_front_kg * GRAVITY))


def _rear(before: BikeStance, after: BikeStance, ratio_percent: float) -> Iterator[_Effect]:
    was, now = before.bike, after.bike
    slopes = rear_slopes(before), rear_slopes(after)
    kept = _same(was.spring, now.spring)
    yield _Effect(RATE, rear=_both(slopes, "rate", _rate(was.spring.rate_tolerance_percent), now=kept))
    if not kept:
        yield _Effect(NEW_RATE, rear=_both(slopes, "rate", _rate(now.spring.rate_tolerance_percent), was=False))
    # A spring that stays on its damper keeps its zero; what is counted from it anew is off by the counting.
    same_zero = kept and _same(was.damper, now.damper)
    yield _Effect(PRELOAD, rear=_both(slopes, "preload", COLLAR_MM, now=same_zero))
    if not same_zero or was.preload_mm != now.preload_mm:
        yield _Effect(COLLAR, rear=_both(slopes, "preload", COLLAR_MM, was=False))
    # An axle that hangs elsewhere hangs there by its ratio too.
    share, hangs = ratio_percent / 100, after.rear.extended_height - before.rear.extended_height
    yield _Effect(RATIO, rear=_both(slopes, "ratio", share), lower=_at("rear", -share * hangs))
    if was.rear.rods and not _same(was.rear, now.rear):
        # By the linkage as it came, which stays while the plan is dragged: the planned one's is a few per cent off it.
        yield _Effect(RODS, lower=_at("rear", math.sqrt(2) * HOLES_MM * before.drop_per_rod))
    if was.damper.extended_mm != now.damper.extended_mm:
        _, ratio, _ = after.rear.sweep.curve.at(after.rear.extended_rise)
        yield _Effect(DAMPER, lower=_at("rear", MADE_TO_MM / float(ratio)))


COILS, SPACERS = ("left", "right", "legs"), ("left", "right", "spacer_mm", "right_spacer_mm", "available_mm")
"""What the rate of a coil fork hangs on, and what its preload does."""


def _front(before: BikeStance, after: BikeStance) -> Iterator[_Effect]:
    was, now = before.bike.fork, after.bike.fork
    slopes = fork_slopes(before), fork_slopes(after)
    for what, slope, off, hangs_on in _known_of(was.springs, new=False):
        kept = all(_same(getattr(was.springs, f), getattr(now.springs, f, None)) for f in hangs_on)
        yield _Effect(what, front=_both(slopes, slope, off, now=kept))
    for what, slope, off, hangs_on in _known_of(now.springs, new=True):
        if not all(_same(getattr(was.springs, f, None), getattr(now.springs, f)) for f in hangs_on):
            yield _Effect(what, front=_both(slopes, slope, off, was=False))
    if was.raised_mm != now.raised_mm:
        yield _Effect(TUBES, lower=_at("front", CALLIPER_MM * math.cos(before.front.rake)))
    if was.shortened_mm != now.shortened_mm:
        yield _Effect(INSIDE, lower=_at("front", MADE_TO_MM * math.cos(before.front.rake)))


def _known_of(springs: AnyForkSprings, *, new: bool) -> tuple[tuple[Input, str, float, tuple[str, ...]], ...]:
    """Inputs of what holds a fork up: which, by what slope, ± of it, and the fields it stays the same with."""
    if isinstance(springs, CoilForkSprings):
        rate = _rate(springs.left.rate_tolerance_percent)
        return (
            (NEW_LEGS if new else LEGS, "rate", rate, COILS),
            (NEW_SPACER if new else SPACER, "preload", COLLAR_MM, SPACERS),
        )
    return ((NEW_AIR if new else AIR, "rate", PRESSURE_SHARE, ("area_mm2", "gauge_n_per_mm2", "volume_mm3")),)


def _of_the_body(job: BikeJob, before: BikeStance, after: BikeStance) -> Iterator[_Effect]:
    """What is only stated, and tyres of another radius."""
    for end in ENDS:
        told = [p.change.rise_tolerance() for p in job.plan.changes if p.on and p.change.where == end]
        yield _Effect(STATED[end], lower=_at(end, math.hypot(*told)))
    was, now = before.bike, after.bike
    if was.front_tyre_radius_mm != now.front_tyre_radius_mm:
        yield _Effect(TYRES["front"], lower=_at("front", TAPE_MM))
    if was.rear_tyre_radius_mm != now.rear_tyre_radius_mm:
        yield _Effect(TYRES["rear"], lower=_at("rear", TAPE_MM))


def _same(came: object, planned: object) -> bool:
    """Whether a part stayed as it was: most plans leave the very same one."""
    return came is planned or came == planned


def _at(end: End, by: float) -> tuple[float, float]:
    return (by, 0.0) if end == "front" else (0.0, by)


def _rate(told_percent: float | None) -> float:
    return (RATE_PERCENT if told_percent is None else told_percent) / 100


def _both(
    slopes: tuple[Slopes, Slopes], what: str, off: float, *, was: bool = True, now: bool = True, bare: bool = True
) -> Moved:
    """What an input that is off moves the sags by; 0 where it has no part in them: before, planned, or unladen."""
    (a, b), (c, d) = (getattr(s, what) for s in slopes)
    first, second = off * was, off * now
    return a * first * bare, b * first, c * second * bare, d * second

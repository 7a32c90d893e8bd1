"""Alignment of a whole vehicle at its planned height: every wheel solved, then what both sides make together."""

import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import lru_cache
from types import MappingProxyType

import numpy as np

from inclinum.core.car.adjusters import adjuster_of, read_of, setting_key
from inclinum.core.car.corner_weights import by_its_side
from inclinum.core.car.driveline import roll_steer
from inclinum.core.car.job import Job, Measurements, Prove
from inclinum.core.car.prediction import Assessed, assess
from inclinum.core.car.rack import rack_offsets
from inclinum.core.car.vehicle import (
    ANGLES,
    AdjusterData,
    AngleName,
    AngleTarget,
    ClampAdjuster,
    EccentricAdjuster,
    LinkAdjuster,
    TrackRodAdjuster,
    settable,
)
from inclinum.core.card.record import Build
from inclinum.core.document import Document
from inclinum.core.document.content import Content
from inclinum.core.document.names import AXLES, SIDES, AxleName, Side
from inclinum.core.kinematics.adjusting import AlignmentProblem, Solution
from inclinum.core.quantity.words import signed


class AngleResult(Document):
    """One angle of one wheel, degrees; toe is of one wheel."""

    angle: AngleName
    before: float
    """At the measured baseline: the rack's reading where there is one, else the vehicle's data."""
    read: bool
    """Whether the rack read it there."""
    planned: float
    """At the planned height with the adjusters left as they are."""
    achieved: float
    target: float | None
    """None where nobody has said what is wanted; then there is nothing to judge either."""
    window: float | None
    assumed: bool
    """Whether the target is only usual for such an axle."""
    remaining: float | None
    within: bool | None
    """None without a target, and with one that is only assumed."""
    missed_by_steps: bool
    """Whether the adjusters could get it within its window, and only the steps they are set in, or a choice, do not."""


class Setting(Document):
    """One adjuster of one wheel."""

    key: str
    name: str
    solved_mm: float
    set_mm: float
    """What a hand can set: whole detents or parts of a turn, or what the shop chose."""
    instruction: str
    read: str
    """What of it is read before and after."""
    read_in: str
    """Unit of that reading: an eccentric's mark is read in notches."""
    read_by: float
    """By how much the reading moves."""
    low_mm: float
    high_mm: float
    step_mm: float
    at_stop: bool
    eccentric: bool
    needed_mm: float | None
    """What would be needed without the stop, where the adjuster is at it."""
    extra_part: str


class WheelAlignment(Document):
    """One wheel."""

    axle: AxleName
    side: Side
    angles: list[AngleResult]
    settings: list[Setting]
    set_with: str
    """What is set at the left wheel and sets this one as well; empty where nothing is."""
    chosen: bool
    """Whether the shop chose a setting in place of a solved one."""
    toe_length_mm: float
    """Toe of this wheel as a length across the tyre, D·sin(toe) at the tyre's diameter."""
    within: bool | None
    """None where no angle of this wheel has a target."""


class AxleAlignment(Document):
    """What both wheels make together, degrees, None where it is not known; cross values are left less right."""

    axle: AxleName
    total_toe: float | None
    cross_camber: float | None
    cross_caster: float | None
    thrust_angle: float | None
    """(left toe − right toe)/2 of a rear axle: positive points the thrust line to the right."""


class Alignment(Document):
    """The specification for the rack."""

    wheels: list[WheelAlignment]
    axles: list[AxleAlignment]
    within: bool | None
    """Whether all that can be judged is within its window; None where nothing can be."""
    not_judged: list[str]
    """Sentences about what has no target, and what was read at one wheel of two."""
    left_over: list[str]
    """Sentences about what the adjusters cannot reach and what would."""


def align(job: Job) -> Alignment:
    """Every wheel at the planned height and attitude, solved where it has targets.

    Source: bounded least squares by ``kinematics.adjusting`` for each wheel; total toe is left + right, the
    thrust angle of a rear axle (left − right)/2, cross values left − right, as wheel alignment is commonly
    told.

    Raises:
        DomainError: as ``assess``.
    """
    # What is done at the machine and measured after sets no angle: at the hoist every tick asks again.
    return _aligned(Content(job.model_copy(update={"build": Build(), "prove": Prove()})))


@lru_cache(maxsize=16)
def _aligned(said: Content[Job]) -> Alignment:
    (job,) = said.documents
    assessed = assess(job)
    wheels = [wheel for axle in AXLES for wheel in _wheels(assessed, axle)]
    judged = [w.within for w in wheels if w.within is not None]
    return Alignment(
        wheels=wheels,
        axles=[
            _together(axle, [w for w in wheels if w.axle == axle], set(_read_at_one_wheel(job.measure, axle)))
            for axle in AXLES
        ],
        within=all(judged) if judged else None,
        not_judged=[
            *(s for axle in AXLES for s in _not_judged(axle, assessed.after.vehicle.axle(axle).targets)),
            *(s for axle in AXLES for s in _half_known(assessed, axle)),
        ],
        left_over=[sentence for w in wheels for sentence in _left_over(w, adjusted=bool(w.settings or w.set_with))],
    )


def _not_judged(axle: AxleName, targets: Mapping[AngleName, AngleTarget]) -> list[str]:
    make_known = "Type the maker's figures among the vehicle's targets."
    if not targets:
        return [
            f"The {axle} axle has no targets, so nothing can be judged there: its angles are shown as they are. "
            f"{make_known}"
        ]
    usual = " and ".join(name for name, target in targets.items() if target.assumed)
    if not usual:
        return []
    return [f"The targets of the {axle} {usual} are only usual for such an axle: aimed at, not judged. {make_known}"]


def _read_at_one_wheel(measure: Measurements, axle: AxleName) -> dict[AngleName, Side]:
    """Angles that the rack read at one wheel of two, and at which: what both make together is not known."""
    read: dict[AngleName, list[Side]] = {
        q: [side for side in SIDES if measure.angle(axle, side, q) is not None] for q in ANGLES
    }
    return {q: sides[0] for q, sides in read.items() if len(sides) == 1}


def _half_known(assessed: Assessed, axle: AxleName) -> list[str]:
    said = []
    for angle, side in _read_at_one_wheel(assessed.job.measure, axle).items():
        rod = angle == "toe" and _track_rod(assessed, axle) is not None
        rests = " One track rod sets both: its setting rests on that." if rod else ""
        said.append(
            f"The {axle} {angle} was read at the {side} wheel only: the other's is taken from the vehicle's figures, "
            f"and what both make together is not known.{rests} Read the other too."
        )
    return said


def _track_rod(assessed: Assessed, axle: AxleName) -> TrackRodAdjuster | None:
    return next((a for a in assessed.after.axle(axle).axle.adjusters if isinstance(a, TrackRodAdjuster)), None)


ALONE: Mapping[str, float] = MappingProxyType({})


def _wheels(assessed: Assessed, axle: AxleName) -> list[WheelAlignment]:
    """Both wheels of an axle: each by itself, or together where one track rod sets them.

    Source: derived here: a rod between both wheels sets what their toes make together; with the steering wheel set
    straight each has half of it.
    """
    problems = [_problem(assessed, axle, side) for side in SIDES]
    rod = _track_rod(assessed, axle)
    if rod is None:
        return [_wheel(assessed, axle, side, p) for side, p in zip(SIDES, problems, strict=True)]
    toes = [float(p.angles(np.zeros((1, len(p.adjusters))), ["toe"])["toe"][0]) for p in problems]
    each = sum(toes) / len(toes)
    left, right = (
        replace(p, offsets={**p.offsets, "toe": p.offsets["toe"] + each - toe})
        for p, toe in zip(problems, toes, strict=True)
    )
    first = _wheel(assessed, axle, "left", left)
    set_to = next(s.set_mm for s in first.settings if s.name == rod.name)
    return [first, _wheel(assessed, axle, "right", right, {rod.name: set_to})]


def _problem(assessed: Assessed, axle: AxleName, side: Side) -> AlignmentProblem:
    """A wheel at its planned travel and attitude, its angles as the rack and the lean of the body have them."""
    job, stance = assessed.job, assessed.after.axle(axle).of_side(side)
    data = stance.axle
    leans = _leans(assessed, axle, side)
    read = rack_offsets(assessed.before, job.measure, axle, side)
    offsets: dict[AngleName, float] = {q: read.get(q, 0.0) + leans.offsets.get(q, 0.0) for q in ANGLES}
    return AlignmentProblem(
        corner=stance.corner,
        travel=stance.travel - leans.rise,
        adjusters=[adjuster_of(a, data.linkage) for a in data.adjusters],
        targets={q: math.radians(t.target_deg) for q, t in data.targets.items()},
        weights={q: t.weight for q, t in data.targets.items()},
        pitch=assessed.after.pitch,
        offsets=offsets,
    )


def _wheel(
    assessed: Assessed, axle: AxleName, side: Side, problem: AlignmentProblem, with_left: Mapping[str, float] = ALONE
) -> WheelAlignment:
    """One wheel solved.

    Args:
        problem: of it.
        with_left: what is set at the left wheel and acts on this one as well, by name, mm.
    """
    job, data = assessed.job, assessed.after.axle(axle).of_side(side).axle
    read = rack_offsets(assessed.before, job.measure, axle, side)
    # Without a target there is nothing to solve for: what the shop chose is shown, else the adjusters left alone.
    alone = np.array([min(a.max_mm, max(a.min_mm, 0.0)) for a in data.adjusters])
    solved = problem.solve() if data.targets else problem.evaluate(alone)
    keys = [setting_key(axle, side, a.name) for a in data.adjusters]
    # What the shop chose stands. Of the rest the coarsest is set first, judged by what one step of it does to the
    # targets: each finer one then takes up what rounding the coarser ones left.
    held = {
        a.name: min(a.max_mm, max(a.min_mm, job.align.chosen[key]))
        for key, a in zip(keys, data.adjusters, strict=True)
        if key in job.align.chosen
    } | dict(with_left)
    # Where there are more of them than targets, one that hardly moves a target would take up what rounding leaves by
    # turns and turns, and move an angle nobody asked for: each stays near where all of them together are best.
    near = {
        a.name: (solved.values[a.name], NEAR_DEG / a.step_mm)
        for a in data.adjusters
        if len(data.adjusters) > len(data.targets)
    }
    for adjuster in _coarsest_first(problem, solved, data.adjusters):
        if adjuster.name not in held:
            rest = replace(problem, held=held, kept_near=near)
            best = (rest.solve() if data.targets else solved).values[adjuster.name]
            held[adjuster.name] = settable(adjuster, best)
    chosen = [held[a.name] for a in data.adjusters]
    stood = assessed.before.axle(axle).of_side(side)
    was = stood.motion(assessed.before.pitch)
    names: list[AngleName] = [q for q in ANGLES if getattr(was, q) is not None]
    rows = problem.angles(np.array([chosen, np.zeros(len(chosen))]), names)
    angles = [
        _angle(
            q,
            before=math.degrees(float(getattr(was, q)[0]) + read.get(q, 0.0)),
            read=q in read,
            planned=math.degrees(rows[q][1]),
            achieved=math.degrees(rows[q][0]),
            target=data.targets.get(q),
            solved=math.degrees(solved.remaining.get(q, 0.0)),
        )
        for q in names
    ]
    toe = float(rows["toe"][0])
    return WheelAlignment(
        axle=axle,
        side=side,
        angles=angles,
        settings=[
            _setting(key, a, value, solved, problem, n)
            for n, (key, a, value) in enumerate(zip(keys, data.adjusters, chosen, strict=True))
            if a.name not in with_left
        ],
        set_with=", ".join(with_left),
        chosen=any(key in job.align.chosen for key in keys),
        toe_length_mm=2 * data.tyre_radius_mm * math.sin(toe),
        within=all(judged) if (judged := [a.within for a in angles if a.within is not None]) else None,
    )


NEAR_DEG = 0.06
"""What a step away from where all adjusters together are best counts, as degrees missed."""


@dataclass(frozen=True)
class _Leaning:
    """What a body that leans, since springs are set wheel by wheel, does to one wheel.

    Args:
        rise: of this corner beyond its axle, mm.
        offsets: to its angles against the ground, rad.
    """

    rise: float = 0.0
    offsets: Mapping[AngleName, float] = field(default_factory=dict)


def _leans(assessed: Assessed, axle: AxleName, side: Side) -> _Leaning:
    """Source: derived here: a body that stands higher on the left leans to the right and takes wheels of their own
    along, tops to the right; a solid axle stays on the ground, and steers as it does in roll."""
    if not any(assessed.after.axle(n).axle.uneven for n in AXLES):
        return _Leaning()
    beyond = by_its_side(assessed.job, assessed.before, assessed.after)
    stance = assessed.after.axle(axle)
    to_the_right = math.atan((beyond[axle, "left"] - beyond[axle, "right"]) / stance.axle.track_mm)
    sign = 1 if side == "left" else -1
    if not stance.axle.linkage.coupled:
        return _Leaning(beyond[axle, side], {"camber": -sign * to_the_right})
    # Body over to the right is a bend to the left: into it is to the left, which is toe in of the right wheel.
    return _Leaning(0.0, {"toe": -sign * roll_steer(stance) * to_the_right})


def _coarsest_first(
    problem: AlignmentProblem, solved: Solution, adjusters: Sequence[AdjusterData]
) -> list[AdjusterData]:
    """Adjusters by the weighted change of angles that one settable step makes, largest first."""
    if not adjusters or not problem.targets:
        return list(adjusters)
    at = np.array([solved.values[a.name] for a in adjusters])
    misses = problem.misses(np.concatenate([at[None], at + np.diag([a.step_mm for a in adjusters])]))
    effect = np.linalg.norm(misses[1:] - misses[0], axis=1)
    return [adjusters[i] for i in np.argsort(-effect)]


def _angle(
    q: AngleName,
    *,
    before: float,
    read: bool,
    planned: float,
    achieved: float,
    target: AngleTarget | None,
    solved: float,
) -> AngleResult:
    remaining = None if target is None else achieved - target.target_deg
    within = None
    if target is not None and remaining is not None and not target.assumed:
        within = abs(remaining) <= target.window_deg + 1e-9
    return AngleResult(
        angle=q,
        before=before,
        read=read,
        planned=planned,
        achieved=achieved,
        target=target and target.target_deg,
        window=target and target.window_deg,
        assumed=target is not None and target.assumed,
        remaining=remaining,
        within=within,
        missed_by_steps=target is not None and within is False and abs(solved) <= target.window_deg + 1e-9,
    )


WIDE = 5.0
"""How many times its range an adjuster at its stop is let go, to tell what would be needed."""


def _setting(
    key: str, data: AdjusterData, value: float, solved: Solution, problem: AlignmentProblem, index: int
) -> Setting:
    stuck = bool(problem.targets) and data.name in solved.at_stop
    needed = None
    if stuck:
        wide = list(problem.adjusters)
        free = wide[index]
        wide[index] = replace(free, low=WIDE * free.low, high=WIDE * free.high)
        needed = replace(problem, adjusters=wide).solve().values[data.name]
    read, unit, by = read_of(data, value)
    return Setting(
        key=key,
        name=data.name,
        solved_mm=solved.values[data.name],
        set_mm=value,
        instruction=_instruction(data, value),
        read=read,
        read_in=unit,
        read_by=by,
        low_mm=data.min_mm,
        high_mm=data.max_mm,
        step_mm=data.step_mm,
        at_stop=stuck,
        eccentric=isinstance(data, EccentricAdjuster),
        needed_mm=needed,
        extra_part=data.extra_part,
    )


def _instruction(data: AdjusterData, value: float) -> str:
    """A setting as it is done with a spanner."""
    if abs(value) < 1e-9:
        return "leave as it is"
    if isinstance(data, LinkAdjuster | TrackRodAdjuster):
        turns = abs(value) / data.thread_pitch_mm
        return f"{_turns(turns, data.turn_step)} {'longer' if value > 0 else 'shorter'}"
    if isinstance(data, ClampAdjuster):
        return f"top of the wheel {abs(value):.2g} mm {'out' if value > 0 else 'in'}"
    x, y, z = (math.copysign(1.0, value) * c for c in data.direction)
    notches = ""
    if isinstance(data, EccentricAdjuster):
        turned = data.turned(value)
        angle = 360 * abs(turned) / data.notches
        notches = f"{abs(turned)} notch{'es' if abs(turned) > 1 else ''} ({angle:.0f}°) from the middle: "
    words = [
        ("out" if y > 0 else "in", abs(y)),
        ("forward" if x > 0 else "back", abs(x)),
        ("up" if z > 0 else "down", abs(z)),
    ]
    return f"{notches}{abs(value):.1f} mm {max(words, key=lambda w: w[1])[0]}"


def _turns(turns: float, step: float) -> str:
    """Turns with a vulgar fraction when the step is a half, quarter, eighth …"""
    denominator = round(1 / step)
    parts = round(turns * denominator)
    whole, rest = divmod(parts, denominator)
    if rest == 0:
        text = f"{whole}"
    else:
        common = math.gcd(rest, denominator)
        fraction = f"{rest // common}/{denominator // common}"
        text = f"{whole} {fraction}" if whole else fraction
    return f"{text} turn{'' if parts <= denominator else 's'}"


def _together(axle: AxleName, pair: list[WheelAlignment], half_known: Collection[AngleName]) -> AxleAlignment:
    achieved = {w.side: {a.angle: a.achieved for a in w.angles if a.angle not in half_known} for w in pair}

    def of_both(angle: AngleName, sign: int) -> float | None:
        left, right = (achieved[side].get(angle) for side in SIDES)
        return None if left is None or right is None else left + sign * right

    apart = of_both("toe", -1)
    return AxleAlignment(
        axle=axle,
        total_toe=of_both("toe", 1),
        cross_camber=of_both("camber", -1),
        cross_caster=of_both("caster", -1),
        thrust_angle=apart / 2 if apart is not None and axle == "rear" else None,
    )


def _left_over(wheel: WheelAlignment, *, adjusted: bool) -> list[str]:
    where = f"{wheel.axle} {wheel.side}"
    said = []
    for angle in wheel.angles:
        if angle.within is not False:
            continue
        assert angle.remaining is not None
        assert angle.target is not None
        assert angle.window is not None
        if not adjusted:
            cause = "this axle has no adjuster for it"
        elif angle.missed_by_steps and wheel.chosen:
            cause = "the settings that were chosen leave it there; the adjusters can reach it"
        elif angle.missed_by_steps:
            cause = "the adjusters can reach it, but not in the steps they are set in"
        else:
            cause = "the adjusters together cannot reach it"
        said.append(
            f"{angle.angle.capitalize()} {where} stays {abs(angle.remaining):.2f}° "
            f"{'above' if angle.remaining > 0 else 'below'} its target ({signed(angle.achieved, '.2f')}°, "
            f"wanted {signed(angle.target, '.2f')}° ± {angle.window:.2f}°): {cause}."
        )
    for setting in wheel.settings:
        if setting.at_stop and setting.needed_mm is not None:
            said.append(
                f"{setting.name.capitalize()} {where} is at its stop ({signed(setting.set_mm, '.1f')} mm); "
                f"{signed(setting.needed_mm, '.1f')} mm would be needed. {setting.extra_part}".strip()
            )
    return said

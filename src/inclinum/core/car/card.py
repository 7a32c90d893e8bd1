"""The job card: what to have ready, then every step in a safe order, made from the plan."""

from collections.abc import Iterable, Iterator
from typing import Literal, get_args

from inclinum.core.car.alignment import Alignment, align
from inclinum.core.car.job import Job
from inclinum.core.car.prediction import Prediction, predict
from inclinum.core.car.routines import Task, routine_of
from inclinum.core.car.vehicle import Axle
from inclinum.core.card import cautions
from inclinum.core.card.fastener import Fastener
from inclinum.core.card.steps import Card, FastenerUse, Preflight, Step, compose
from inclinum.core.document.names import AXLES, SIDES, AxleName, Side
from inclinum.core.plan import at_their_place

Phase = Literal[
    "Before it goes up", "Loosen on the ground", "Lift and support", "Take apart", "Swap", "Refit loosely",
    "To ride height", "Wheels and down", "Prove and align", "Hand over",
]  # fmt: skip
PHASES: tuple[Phase, ...] = get_args(Phase)


WORTH_SETTING_MM = 1.0
"""A drag link or an axle off by less is within what is read."""


def card(job: Job) -> Card:
    """The card of a job's plan. Raises as ``assess``."""
    prediction = predict(job)
    alignment = align(job)
    return compose(
        _steps(job, prediction, alignment), PHASES, job.build.torques, title=job.title, vehicle=job.vehicle.name,
        owner=job.brief.owner, preflight=_preflight(job),
        stopped_by=[f.what for f in prediction.findings if f.severity == "stops"], override=job.plan.override,
    )  # fmt: skip


def _worked(job: Job) -> list[AxleName]:
    """Axles that something is changed on."""
    return [a for a in AXLES if any(p.on and p.change.axle == a for p in job.plan.changes)]


def _preflight(job: Job) -> Preflight:
    placed = at_their_place(job.vehicle, job.plan.changes)
    parts = [part for a in AXLES for p, machine in placed if p.change.axle == a for part in p.change.parts(machine)]
    hardware, tools, consumables = [], [], []
    for axle in _worked(job):
        data = job.vehicle.axle(axle)
        routine = routine_of(data)
        for use in data.fasteners.values():
            if use.renew:
                hardware.append(f"{2 * use.count_per_side} × {use.name}, new ({axle})")
        tools += routine.tools
        consumables += routine.consumables
    common = ["Tape, square and chalk", "Jack and rated stands", "Torque wrench with a valid test date", "Wheel chocks"]
    return Preflight(
        parts=parts,
        hardware=hardware,
        tools=_once([*common, *tools]),
        consumables=_once(["Penetrating oil", "Brush and rag", *consumables]),
    )


def _once(items: Iterable[str]) -> list[str]:
    return list(dict.fromkeys(items))


def _steps(job: Job, prediction: Prediction, alignment: Alignment) -> Iterator[Step]:
    worked = _worked(job)
    yield Step(
        id="ready.heights",
        phase="Before it goes up",
        text=f"Read the heights at every corner once more, as in the brief: {job.brief.load or 'usual load'}, "
        "level ground, tyres to pressure.",
        minutes=(5, 10),
    )
    yield Step(
        id="ready.parts",
        phase="Before it goes up",
        text="Lay out every part, bolt and tool of the list. Left and right marked.",
        hold="Go on only when the list is complete.",
        minutes=(5, 15),
    )
    yield Step(
        id="ready.inspect",
        phase="Before it goes up",
        text="Look for rust, rounded heads, bolts that are boxed in, worn bushes. Oil what looks seized.",
        caution=cautions.HEAT,
        minutes=(5, 20),
    )
    for axle in worked:
        for side in SIDES:
            yield _task(
                job,
                axle,
                side,
                Task("wheel_crack", "Loosen on the ground", "Crack the wheel bolts, no more.", minutes=(1, 2)),
            )
    yield Step(
        id="lift.stands",
        phase="Lift and support",
        text="Chock, lift, stands under. Push the vehicle sideways: it must not move.",
        caution=cautions.STANDS,
        minutes=(8, 15),
    )
    for axle in worked:
        yield from _axle_steps(job, prediction, axle)
    yield from _closing(job, prediction, alignment, worked)


def _axle_steps(job: Job, prediction: Prediction, axle: AxleName) -> Iterator[Step]:
    data = job.vehicle.axle(axle)
    routine = routine_of(data).for_fasteners(data.fasteners)
    for task in (t for t in routine.apart if t.both_first):
        for side in SIDES:
            yield _task(job, axle, side, task)
    for side in SIDES:
        for task in (t for t in routine.apart if not t.both_first):
            yield _task(job, axle, side, task)
    for side in SIDES:
        for task in routine.before_swap:
            yield _task(job, axle, side, task)
        for planned, machine in at_their_place(job.vehicle, job.plan.changes):
            if planned.change.axle != axle:
                continue
            key = planned.id
            for m, text in enumerate(planned.change.steps(machine)):
                yield _task(job, axle, side, Task(f"{key}.{m}", "Swap", text, minutes=(2, 6)))
        for n, text in enumerate(data.orientation):
            yield _task(job, axle, side, Task(f"way{n}", "Swap", f"Which way round: {text}", minutes=(0.5, 1)))
        for task in (*routine.after_swap, *routine.refit):
            yield _task(job, axle, side, task)
    for side in SIDES:
        for task in routine.at_height:
            yield _task(job, axle, side, task, prediction)


def _closing(job: Job, prediction: Prediction, alignment: Alignment, worked: list[AxleName]) -> Iterator[Step]:
    for axle in worked:
        for side in SIDES:
            yield _task(
                job,
                axle,
                side,
                Task("wheel_on", "Wheels and down", "Wheel on, bolts crosswise by hand.", minutes=(2, 3)),
            )
    yield Step(
        id="down.lower",
        phase="Wheels and down",
        text="Lower to the ground.",
        caution=cautions.STANDS,
        minutes=(3, 6),
    )
    for axle in worked:
        for side in SIDES:
            yield _task(
                job, axle, side,
                Task("wheel_torque", "Wheels and down", "Wheel bolts crosswise to torque.", ("wheel",), minutes=(1, 2)),
            )  # fmt: skip
    for axle in AXLES:
        rise = prediction.axle(axle)
        rows = [h for h in prediction.heights if h.axle == axle and h.kind == "hub_to_arch"]
        wanted = ", ".join(f"{h.side} {h.after:.0f} ± {h.plus_minus:.0f} mm" for h in rows)
        yield Step(
            id=f"prove.{axle}.heights",
            phase="Prove and align",
            axle=axle,
            text=f"Bounce, roll a length, let it settle. Hub to arch should read {wanted} ({rise.rise:+.0f} mm).",
            figure=wanted,
            minutes=(4, 8),
        )
    for axle in AXLES:
        coupled = prediction.axle(axle).coupled
        short = coupled.drag_link_short_mm if coupled else None
        if short is not None and abs(short) >= WORTH_SETTING_MM:
            figure = f"{abs(short):.1f} mm {'longer' if short > 0 else 'shorter'}"
            yield Step(
                id=f"prove.{axle}.drag_link", phase="Prove and align", axle=axle,
                text=f"Drag link {figure} than it was, until the steering wheel stands straight with the wheels ahead; "
                "both ends with their thread, locked.",
                figure=figure, caution=cautions.BRAKES, minutes=(5, 15),
            )  # fmt: skip
        if coupled and axle in worked and abs(coupled.shift_left_mm) >= WORTH_SETTING_MM:
            side = "left" if coupled.shift_left_mm > 0 else "right"
            yield Step(
                id=f"prove.{axle}.shift", phase="Prove and align", axle=axle,
                text=f"The axle should stand {abs(coupled.shift_left_mm):.0f} mm further {side} than it did: measure "
                "rim to frame on both sides.",
                figure=f"{abs(coupled.shift_left_mm):.0f} mm {side}", minutes=(3, 6),
            )  # fmt: skip
    yield Step(
        id="prove.brakes",
        phase="Prove and align",
        text="Pedal, steering lock to lock, hoses and wires free at both ends of travel and at both locks.",
        caution=cautions.BRAKES,
        minutes=(5, 10),
    )
    for wheel in alignment.wheels:
        for setting in wheel.settings:
            yield Step(
                id=f"align.{setting.key}",
                phase="Prove and align",
                axle=wheel.axle,
                side=wheel.side,
                text=f"Baseline before the rack: {setting.name}, {setting.instruction}.",
                figure=setting.instruction,
                minutes=(5, 12),
            )
    yield Step(
        id="align.rack",
        phase="Prove and align",
        text="Drive straight to the rack, gently. Set to the alignment sheet at ride height.",
        hold="Not on the road at speed before the rack.",
        minutes=(30, 60),
    )
    yield Step(
        id="hand.lamps",
        phase="Hand over",
        text="Set the lamp aim. "
        + (f"Driver assistance: {job.vehicle.driver_assist}" if job.vehicle.driver_assist else ""),
        minutes=(5, 20),
    )
    yield Step(
        id="hand.road",
        phase="Hand over",
        text="Road test: straight running, braking, noises over a hump. Look at everything once more.",
        minutes=(15, 25),
    )
    yield Step(
        id="hand.retorque",
        phase="Hand over",
        text="Tell the owner when to come back for the re-torque, and what was changed. Hand over the sheets.",
        caution=cautions.CERTIFICATE,
        minutes=(5, 10),
    )


def _task(job: Job, axle: AxleName, side: Side, task: Task, prediction: Prediction | None = None) -> Step:
    data = job.vehicle.axle(axle)
    figure, hold = None, task.hold
    if task.at_ride_height and prediction:
        row = next(h for h in prediction.heights if (h.axle, h.side, h.kind) == (axle, side, "hub_to_arch"))
        figure = f"{row.after:.0f} mm hub to arch"
        turns = ", ".join(f"{arm} {deg:.0f}°" for arm, deg in prediction.axle(axle).wind_up_deg.items())
        stored = f"Tightened at full droop the bushes would store: {turns}. " if turns else ""
        hold = stored + cautions.RUBBER
    return Step(
        id=f"{axle}.{side}.{task.key}",
        phase=task.phase,  # type: ignore[arg-type]
        axle=axle,
        side=side,
        text=task.text,
        caution=task.caution,
        hold=hold,
        figure=figure,
        fasteners=tuple(FastenerUse.of(key, _fastener(data, key)) for key in task.fasteners),
        people=task.people,
        minutes=task.minutes,
    )


def _fastener(data: Axle, key: str) -> Fastener:
    """The fastener of a role; one the vehicle's data does not have is still tightened, by a looked-up figure."""
    return data.fasteners.get(key) or Fastener(name=key.replace("_", " "))

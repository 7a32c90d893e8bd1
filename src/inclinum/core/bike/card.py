"""The job card of a two-wheeler: stand and support, linkage order, fork, torque per bolt, sag and stand at the end."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from inclinum.core.bike.changes import BikeChange, apply_all, at_their_place
from inclinum.core.bike.changes.rear_preload import collar_step
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.joints import fastener_of, joints_of, reached, roles_of
from inclinum.core.bike.machine import Bike, End
from inclinum.core.bike.prediction import BikePrediction, predict_bike
from inclinum.core.card import cautions
from inclinum.core.card.fastener import spanners
from inclinum.core.card.joints import Joint, closing_of, in_order, innermost, opening_of
from inclinum.core.card.off import TakenOff, bolts_of, fate_of, how_many, replaced
from inclinum.core.card.own import When, astray, kept_at
from inclinum.core.card.settings import SettingRow
from inclinum.core.card.steps import Card, FastenerUse, Preflight, Step, compose, laid_at
from inclinum.core.card.times import NO_TIMES, Taken
from inclinum.core.document.names import AxleName
from inclinum.core.quantity.words import numbers_in

STAND = (
    "A stand that holds the frame, not the swing arm, and a strap forward from the bars: the machine must stay when a "
    "wheel leaves. Never on its side stand."
)
PHASES = (
    "Before it goes up", "Stand and support", "Rear apart", "Rear swap", "Rear together", "Fork", "Wheels and down",
    "Prove", "Hand over",
)  # fmt: skip


def bike_card(job: BikeJob, taken: Taken = NO_TIMES) -> Card:
    """The card of a job's plan.

    Args:
        job: with its plan, and what was done so far.
        taken: minutes that steps of each kind took before.

    Raises:
        ValueError: as ``assess``.
    """
    prediction = predict_bike(job, ())
    planned = apply_all(job.machine, job.plan.changes)
    return compose(
        _steps(job, prediction, planned), PHASES, job.build, taken, title=job.title, vehicle=job.vehicle.name,
        owner=job.brief.owner, preflight=_preflight(job),
        stopped_by=[f.what for f in prediction.findings if f.severity == "stops"],
        # What is refused is not built on anybody's word.
        override="" if prediction.refused else job.plan.override,
        unused=_unused(job.machine, _opened(job)), settings=_settings(job), off=_off_for_good(job),
        kinds={p.id: p.change.type for p in job.plan.changes},
        built={"rear": job.machine.rear.kind, "front": f"fork {job.machine.fork.springs.type}"},
        schools=job.brief.schools,
    )  # fmt: skip


Met = dict[str, tuple[BikeChange, Bike]]
"""Changes by id, each with the machine it meets at its place of the stack."""


def _on(job: BikeJob) -> Met:
    return {p.id: (p.change, bike) for p, bike in at_their_place(job.machine, job.plan.changes)}


def _opened(job: BikeJob) -> tuple[Joint, ...]:
    """What has to be opened for the whole plan, in the order it is opened."""
    words = {word for change, met in _on(job).values() for word in change.opened(met)}
    joints = joints_of(job.machine)
    due = [s.joint for s in job.machine.own_steps if s.due and s.joint in joints]
    return in_order(joints, [*(key for word in sorted(words) for key in reached(word, joints)), *due])


def _preflight(job: BikeJob) -> Preflight:
    met, joints = _on(job).values(), _opened(job)
    tools = ["Tape and calliper", "Stand that holds the frame, strap", "Torque wrench with a valid test date"]
    tools += [tool for c, _ in met for tool in c.tools]
    after = joints_of(apply_all(job.machine, job.plan.changes))
    handled = [*joints, *(after[j.key] for j in joints if j.key in after)]
    tools += [tool for j in handled for tool in j.tools]
    uses = [fastener_of(job.machine, role) for j in joints for role in j.fasteners]
    consumables = ["Brush and rag", *(["Thread locker as the maker says"] if joints else [])]
    consumables += [c for j in handled for c in j.consumables]
    return Preflight(
        parts=[
            *(p for c, bike in met for p in c.parts(bike)),
            *(s.part for s in job.machine.own_steps if s.part and s.joint in {j.key for j in joints}),
        ],
        hardware=[f"{how_many(f.count_per_side, f.name)}, new" for f in uses if f.renewed],
        tools=list(dict.fromkeys([*tools, *spanners(uses)])),
        consumables=list(dict.fromkeys(consumables)),
    )


def _unused(bike: Bike, opened: tuple[Joint, ...]) -> list[str]:
    """Figures somebody typed that no step of this plan tightens to, each in a sentence."""
    joints, here = joints_of(bike), {j.key for j in opened}
    used = roles_of(opened) | {s.fastener for s in bike.own_steps if s.fastener and s.joint in here}
    known = roles_of(joints.values()) | {s.fastener for s in bike.own_steps if s.fastener}
    nowhere = [
        f"“{s.text}” is due, and nothing on this machine is called “{s.joint}”: no step does it."
        for s in bike.own_steps
        if s.due and s.joint not in joints
    ]
    nowhere += astray(bike.notes, joints, "on this machine")
    return nowhere + [
        f"{f.name.capitalize()}, {f.torque_nm:g} N·m: "
        + ("not undone by this plan." if key in known else f"no step knows a bolt called “{key}”.")
        for key, f in bike.fasteners.items()
        if f.torque_nm is not None and key not in used
    ]


def _off_for_good(job: BikeJob) -> Iterator[TakenOff]:
    """What comes off: parts that others take the place of, and the bolts of every joint that is opened."""
    told: dict[TakenOff, None] = {}
    for change, _ in _on(job).values():
        fate = fate_of(reversible=job.brief.reversible, stays=job.brief.for_good(change))
        told |= dict.fromkeys(replaced(change.taken_off(job.machine), change.moves_over, fate, change.end, (None,)))
    yield from told
    for joint in _opened(job):
        bolts = [fastener_of(job.machine, role) for role in joint.fasteners]
        yield from bolts_of(joint, bolts, "front" if joint.key in FRONT else "rear", None)


def _settings(job: BikeJob) -> Iterator[SettingRow]:
    """What the changes set, read before and after."""
    for key, (change, met) in _on(job).items():
        for noted, name, unit, by in change.noted(met, None):
            yield SettingRow(
                key=f"{key}.{noted}",
                axle=change.end or "rear",
                side=None,
                steps=(f"{key}.0",),
                name=name,
                unit=unit,
                by=by,
            )


def _uses(bike: Bike, *roles: str) -> tuple[FastenerUse, ...]:
    return tuple(FastenerUse.of(role, fastener_of(bike, role)) for role in roles)


def _off(joint: Joint, phase: str, axle: AxleName, bike: Bike) -> Iterator[Step]:
    yield from _own(joint, "before_opening", phase, axle, bike)
    what = opening_of(joint, [fastener_of(bike, role) for role in joint.fasteners])
    kept = kept_at(bike.notes, joint.key, None)
    yield Step.of(what, id=f"{joint.key}.off", phase=phase, axle=axle, joint=joint.key, kept=kept)
    yield from _own(joint, "while_open", phase, axle, bike)


def _own(joint: Joint, when: When, phase: str, axle: AxleName, bike: Bike) -> Iterator[Step]:
    """The shop's own steps at a joint."""
    for n, own in enumerate(bike.own_steps):
        if own.joint == joint.key and own.when == when:
            yield Step(
                id=f"own{n}", phase=phase, axle=axle, joint=joint.key, text=own.told, caution=own.caution or None,
                people=own.people, minutes=(own.minutes_least, own.minutes_most), photos=own.photos,
                fasteners=_uses(bike, own.fastener) if own.fastener else (),
            )  # fmt: skip


def _together(joint: Joint, phase: str, axle: AxleName, bike: Bike, planned: Bike) -> Iterator[Step]:
    """A joint closed on the machine as it is then; bolts that clamp rubber are left to the machine on its wheels."""
    what = closing_of(joint, joints_of(planned))
    now = tuple(r for r in joint.fasteners if not fastener_of(bike, r).at_ride_height)
    if joint.fasteners and not now:
        what = replace(what, text=f"{what.text.replace('to torque', 'hand tight')} It clamps rubber.")
    yield Step.of(what, id=f"{joint.key}.on", phase=phase, axle=axle, joint=joint.key, fasteners=_uses(bike, *now))
    yield from _own(joint, "after_closing", phase, axle, bike)


FRONT = {"front_wheel", "top_clamp", "lower_clamp", "fork_cap", "fork_guard", "fork_foot"}
WHEELS = {"rear_wheel", "front_wheel"}


def _steps(job: BikeJob, prediction: BikePrediction, planned: Bike) -> Iterator[Step]:
    changes, bike = _on(job), job.machine
    rear, front, other = ({i: m for i, m in changes.items() if m[0].end == end} for end in ("rear", "front", None))

    def step(key: str, phase: str, text: str, minutes: tuple[float, float], **more: object) -> Step:
        return Step(id=key, phase=phase, text=text, minutes=minutes, **more)  # type: ignore[arg-type]

    linked = any(joint.key in ("rod", "rocker") for joint in _opened(job))
    yield step(
        "ready.sag", "Before it goes up",
        "Sags once more at both ends, extended, unladen and with the rider on, axle to the same marks. Note threads "
        "that show at the collar and tube above the top clamp.", (8, 15), people=2,
    )  # fmt: skip
    yield step(
        "ready.parts", "Before it goes up",
        "Lay out every part and tool of the list" + ("; holes of a new link by calliper." if linked else "."),
        (5, 12), hold="Go on only when the list is complete.",
    )  # fmt: skip
    opened = _opened(job)
    if opened or rear or front:
        yield step("stand.up", "Stand and support", "Frame on the stand, strap forward, both wheels just off the "
                   "ground.", (5, 10), caution=STAND, people=2)  # fmt: skip
    for joint in (j for j in opened if j.key in WHEELS):
        yield from _off(joint, "Stand and support", "front" if joint.key in FRONT else "rear", bike)
    behind = [j for j in opened if j.key not in FRONT | WHEELS]
    ahead = [j for j in opened if j.key in FRONT - WHEELS]
    yield from _EndOf(job, planned, "rear", rear, behind, ("Rear apart", "Rear swap", "Rear together")).steps()
    yield from _EndOf(job, planned, "front", front, ahead, ("Fork", "Fork", "Fork")).steps()
    for key, (change, met) in other.items():
        yield from _how(job, key, change, "Wheels and down")
        for m, text in enumerate(change.steps(met)):
            yield step(f"{key}.{m}", "Wheels and down", text, (8, 30), figure=_figure(change, met, text))
    for joint in (j for j in reversed(opened) if j.key in WHEELS):
        yield from _together(joint, "Wheels and down", "front" if joint.key in FRONT else "rear", bike, planned)
    pulled = bike.drive.kind in ("chain", "belt")
    set_up = f"brakes and {bike.drive.kind}" if pulled else "brakes"
    yield step("down.wheels", "Wheels and down", f"Wheels turn free; {set_up} as the maker says.", (4, 8))
    if pulled:
        slack = prediction.rear_curve.chain_slack or [0.0]
        travel = prediction.rear_curve.travel[slack.index(max(slack))]
        yield step(
            "down.chain", "Wheels and down",
            f"{bike.drive.kind.capitalize()} slack at its tightest, {travel:.0f} mm of wheel travel from full "
            "extension, to the maker's figure there.", (4, 8), figure=f"tightest at {travel:.0f} mm",
        )  # fmt: skip
    rubber = [r for j in opened for r in j.fasteners if fastener_of(bike, r).at_ride_height]
    if rubber:
        yield step(
            "down.rubber", "Wheels and down",
            "On its wheels, bounced and settled: bolts that clamp rubber to their figure, left hand tight until now.",
            (3, 8), fasteners=_uses(bike, *rubber), hold=cautions.RUBBER,
        )  # fmt: skip
    yield step("down.brakes", "Wheels and down", "Pump both brakes hard; bar lock to lock: no hose or cable pulls.",
               (3, 6), caution=cautions.BRAKES)  # fmt: skip
    for key, (change, met) in changes.items():
        for m, text in enumerate(change.settled(met)):
            yield step(f"{key}.settled{m}", "Prove", text, (2, 6))
    for key, (change, _) in changes.items():
        for m, told in enumerate(job.brief.around(change).after):
            yield Step.of(told, id=f"{key}.after{m}", phase="Prove", axle=change.end)
    yield from _proof(prediction, planned)


UNIT_IN = "damper_upper"
"""The joint that takes the unit in: until it is closed the collar is set on the bench, on the coil that is to stay."""


@dataclass(frozen=True)
class _EndOf:
    """The work at one end: apart, done, together.

    Args:
        job, planned: the job, and its machine as planned.
        end: which.
        changes: done there.
        opened: joints of that end, in the order they are opened; no wheel.
        phases: apart, swap, together.
    """

    job: BikeJob
    planned: Bike
    end: End
    changes: Met
    opened: list[Joint]
    phases: tuple[str, str, str]

    def steps(self) -> Iterator[Step]:
        """Work at a joint stands just before that joint is closed, when all behind it is home."""
        apart, swap, together = self.phases
        for joint in self.opened:
            yield from _off(joint, apart, self.end, self.job.machine)
        # Cut and welded before any new part hangs near it.
        for key, (change, _) in self.changes.items():
            yield from _how(self.job, key, change, swap)
        yield from self._done("", swap)
        for n, text in enumerate(self.job.machine.orientation if self.changes and self.end == "rear" else ()):
            yield Step(id=f"way{n}", phase=swap, axle=self.end, text=f"Which way round: {text}", minutes=(0.5, 1))
        for n, joint in enumerate(reversed(self.opened)):
            yield from self._done(joint.key, together if n else swap)
            yield from _together(joint, together, self.end, self.job.machine, self.planned)

    def _done(self, joint: str, phase: str) -> Iterator[Step]:
        """What the changes at a joint are done by, the deeper first."""
        for key, (change, met) in sorted(self.changes.items(), key=lambda item: -item[1][0].deep):
            at = self._done_at(change, met)
            for m, text in enumerate(change.steps(met)):
                if at == joint and not _sets(change, met, text):
                    yield self._step(key, m, text, phase, at)
        if joint == (UNIT_IN if any(j.key == UNIT_IN for j in self.opened) else ""):
            yield from self._collar(joint, phase)

    def _done_at(self, change: BikeChange, met: Bike) -> str:
        joints = joints_of(met)
        return innermost(self.opened, {key for word in change.opened(met) for key in reached(word, joints)})

    def _collar(self, joint: str, phase: str) -> Iterator[Step]:
        """The collar, set once, where the plan leaves it: what an earlier change says would be turned over again."""
        last = next((key for key, (change, _) in reversed(self.changes.items()) if change.sets_collar), None)
        if last is None:
            return
        change, met = self.changes[last]
        for m, text in enumerate(change.steps(met)):
            if _sets(change, met, text):
                yield self._step(last, m, text, phase, joint)

    def _step(self, key: str, m: int, text: str, phase: str, joint: str) -> Step:
        change, met = self.changes[key]
        return Step(
            id=f"{key}.{m}", phase=phase, axle=self.end, text=text, joint=joint, figure=_figure(change, met, text),
            minutes=(3, 10) if self.end == "rear" else (5, 20), **laid_at(change.order(met, None), m),
        )  # fmt: skip


def _sets(change: BikeChange, met: Bike, text: str) -> bool:
    """Whether a step is the one that sets the collar."""
    return change.sets_collar and text == collar_step(change.apply(met))


def _how(job: BikeJob, key: str, change: BikeChange, phase: str) -> Iterator[Step]:
    """What is cut, drilled or welded for a change, before its own steps."""
    for m, told in enumerate(job.brief.around(change).before):
        yield Step.of(told, id=f"{key}.how{m}", phase=phase, axle=change.end)


def _figure(change: BikeChange, met: Bike, text: str) -> str | None:
    """The number of a step, large, where the step is about it."""
    figure = change.figure(met)
    return figure if figure and numbers_in(figure) <= numbers_in(text) else None


def _proof(prediction: BikePrediction, planned: Bike) -> Iterator[Step]:
    for end in ("rear", "front"):
        bench = prediction.sags[end]
        yield Step(
            id=f"prove.{end}", phase="Prove", axle=end, people=2,
            text=f"{end.capitalize()} sag from its own full extension, axle to mark"
            + (" along the fork" if end == "front" else "")
            + f": unladen {bench.unladen_mm:.0f} mm, with the rider on {bench.laden_mm:.0f} mm.",
            figure=f"{bench.unladen_mm:.0f} / {bench.laden_mm:.0f} mm", minutes=(5, 10),
        )  # fmt: skip
    if prediction.stand is not None:
        yield Step(
            id="prove.stand", phase="Prove",
            text=f"On its side stand on level ground: it should lean {prediction.stand.lean_after_deg:.1f}°, "
            f"on the yard's slope {prediction.stand.lean_after_slope_deg:.1f}°. Push it at the bars: "
            "it must come back.",
            figure=f"{prediction.stand.lean_after_deg:.1f}°", minutes=(2, 4),
        )  # fmt: skip
    yield Step(
        id="prove.full", phase="Prove",
        text="Spring out or strapped down to full bump, slowly: tyre clear of guard, seat part and exhaust; fork "
        "bottomed clear of the lower clamp.", minutes=(5, 15), people=2,
        caution="Straps hold the machine's whole spring force: nobody in line.",
    )  # fmt: skip
    yield Step(
        id="hand.road", phase="Hand over", minutes=(15, 25),
        text="Ride it slowly, then on the road: straight running, braking, both locks. Headlamp aim set, rider on.",
    )  # fmt: skip
    yield Step(
        id="hand.tell", phase="Hand over", minutes=(5, 10), caution=cautions.CERTIFICATE,
        text="Tell the owner what changed, when to come back for the re-torque, and hand the sheet over.",
    )  # fmt: skip

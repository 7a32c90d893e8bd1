"""The job card: what to have ready, then every step in a safe order, grown from what has to be opened."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

from inclinum.core.car.alignment import Alignment, align
from inclinum.core.car.card_ends import HAND_OVER, PROVE, adjusted, baselines, closing, hand_over
from inclinum.core.car.changes import Change, PlannedChange, apply_all
from inclinum.core.car.job import Job
from inclinum.core.car.joints import (
    INSIDE,
    fastener_of,
    has_collar,
    joints_of,
    on_air,
    on_side,
    reached,
    roles_of,
    together,
)
from inclinum.core.car.prediction import Height, Prediction, predict
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.card import cautions
from inclinum.core.card.fastener import spanners
from inclinum.core.card.joints import Handling, Joint, closing_of, in_order, innermost, opening_of
from inclinum.core.card.off import TakenOff, added, bolts_of, fate_of, how_many, replaced
from inclinum.core.card.own import When, astray, kept_at
from inclinum.core.card.schools import HANGING
from inclinum.core.card.settings import SettingRow
from inclinum.core.card.steps import Card, FastenerUse, Preflight, Step, compose, figure_at, laid_at
from inclinum.core.card.times import NO_TIMES, Taken
from inclinum.core.document.names import AXLES, SIDES, AxleName, Side
from inclinum.core.plan import at_their_place
from inclinum.core.quantity.constants import GRAVITY

BEFORE, LOOSEN, LIFT = "Before it goes up", "Loosen on the ground", "Lift and support"
DOWN = "Wheels and down"


def _phase(axle: AxleName, part: str) -> str:
    return f"{axle.capitalize()} axle, {part}"


FIRST, BOTH, HEIGHT = "both sides first", "both sides", "to ride height"
PHASES = (
    BEFORE, LOOSEN, LIFT, *(_phase(a, part) for a in AXLES for part in (FIRST, BOTH, *SIDES, HEIGHT)),
    DOWN, PROVE, HAND_OVER,
)  # fmt: skip
"""Axle by axle, and side by side where an axle lets one side be done as the pattern for the other."""
WITH_WHEEL = {"wheel"}
"""Of what goes on with the wheel, and not while the rest of its corner is apart."""
LOADED = {"u_bolts", "shackle", "pack"}
"""What is tightened with the axle's load on it, whatever is done with rubber."""
WORTH_SLACKENING_MM = 1.0
"""Rubber is clamped anew where a wheel ends up at another height by more."""


def card(job: Job, taken: Taken = NO_TIMES) -> Card:
    """The card of a job's plan.

    Args:
        job: with its plan, and what was done so far.
        taken: minutes that steps of each kind took before.

    Raises:
        ValueError: as ``assess``.
    """
    prediction = predict(job, ways=False)
    alignment = align(job)
    axles = [_Worked(job, prediction, alignment, a) for a in AXLES]
    worked = [w for w in axles if w.changes or any(s.due for s in w.axle.own_steps)]
    return compose(
        _steps(job, prediction, alignment, worked), PHASES, job.build, taken, title=job.title,
        vehicle=job.vehicle.name, owner=job.brief.owner, preflight=_preflight(worked),
        stopped_by=[f.what for f in prediction.findings if f.severity == "stops"], override=job.plan.override,
        unused=[line for w in worked for line in w.unused()],
        settings=[*(row for w in worked for row in w.settings()), *adjusted(job, alignment)],
        off=[part for w in worked for part in w.off()],
        kinds={p.id: p.change.type for p in job.plan.changes},
        built={name: job.vehicle.axle(name).linkage.kind for name in AXLES}, schools=job.brief.schools,
    )  # fmt: skip


@dataclass(frozen=True)
class _Worked:
    """An axle, what is done on it, and what has to be open for that."""

    job: Job
    prediction: Prediction
    alignment: Alignment
    name: AxleName

    @cached_property
    def axle(self) -> Axle:
        return self.job.vehicle.axle(self.name)

    @cached_property
    def changes(self) -> list[tuple[PlannedChange, Vehicle]]:
        """What is on, each with the machine it meets."""
        placed = at_their_place(self.job.vehicle, self.job.plan.changes)
        return [(p, machine) for p, machine in placed if p.change.axle == self.name]

    @cached_property
    def collared(self) -> bool:
        """Whether its units have a collar that frees their springs: the thread stays, whatever spring stands on it."""
        turned = any(p.change.provides in ("collar", "ring") for p, _ in self.changes)
        # Of a unit that comes complete: what is planned after it is done inside it, what is planned before it is not.
        inside = [
            machine.axle(self.name)
            for p, machine in self.changes
            if any(INSIDE in reached(self.axle, word) for word in p.change.opened(machine))
        ]
        return turned or has_collar(self.axle) or (bool(inside) and all(map(has_collar, inside)))

    @cached_property
    def joints(self) -> dict[str, Joint]:
        return joints_of(self.axle, collared=self.collared)

    @cached_property
    def due(self) -> dict[Side, list[str]]:
        """Joints that are opened for what else is due there; empty where nothing is."""
        due = [s for s in self.axle.own_steps if s.due and s.joint in self.joints]
        found: dict[Side, list[str]] = {
            side: [on_side(self.axle, s.joint, side) for s in due if s.side in ("both", side)] for side in SIDES
        }
        return found if due else {}

    @cached_property
    def planned(self) -> Axle:
        return apply_all(self.job.vehicle, self.job.plan.changes).axle(self.name)

    @cached_property
    def after(self) -> dict[str, Joint]:
        """Joints of the axle as it is planned."""
        return joints_of(self.planned, collared=self.collared)

    @cached_property
    def added(self) -> list[Joint]:
        """What holds a spring that nothing held before: closed last of all, and never opened."""
        opened = {j.key for joints in self.opened.values() for j in joints}
        near = [j for j in self.after.values() if j.stored and j.key not in self.joints]
        return [j for j in near if any(j.key in self.after[k].needs for k in opened if k in self.after)]

    @cached_property
    def opened(self) -> dict[Side, tuple[Joint, ...]]:
        """What is opened at each side, in that order."""
        wanted: dict[Side, list[str]] = {
            side: [
                key
                for p, machine in self.changes
                if p.change.on_side(side)
                for word in sorted(p.change.opened(machine))
                for key in reached(self.axle, word, side)
            ]
            for side in SIDES
        }  # fmt: skip
        for side, keys in self.due.items():
            wanted[side] += keys
        for side in SIDES:
            if wanted[side] and "pivots" in self.joints and abs(self._rise(side)) >= WORTH_SLACKENING_MM:
                wanted[side] += ["pivots", *(["lateral_rod"] if "lateral_rod" in self.joints else [])]
        order = {side: in_order(self.joints, wanted[side]) for side in SIDES}
        every = [j for joints in order.values() for j in joints]
        # A bar holds both arms up; an axle is one piece, and so is a subframe both sides hang on.
        at_once = together(self.axle) or any(j.shared for j in every)
        also = {j.key for j in every if at_once or (j.both_first and j.key != "wheel")}
        return {
            side: in_order(self.joints, [*wanted[side], *(on_side(self.axle, key, side) for key in sorted(also))])
            for side in SIDES
        }

    @cached_property
    def at_once(self) -> bool:
        """Whether both sides come apart together."""
        return together(self.axle) or any(j.shared for j in self.opened["left"])

    def _rise(self, side: Side) -> float:
        row = self._height(side)
        return row.after - row.before

    def _height(self, side: Side) -> Height:
        return next(h for h in self.prediction.heights if (h.axle, h.side, h.kind) == (self.name, side, "hub_to_arch"))

    def unused(self) -> list[str]:
        """Figures somebody typed that no step of this plan tightens to, each in a sentence."""
        opened = [j for joints in self.opened.values() for j in joints]
        here = {j.key for j in opened}
        used = roles_of(opened) | {s.fastener for s in self.axle.own_steps if s.fastener and s.joint in here}
        known = roles_of(self.joints.values()) | {s.fastener for s in self.axle.own_steps if s.fastener}
        nowhere = [
            f"“{s.text}” is due at the {self.name}, and nothing there is called “{s.joint}”: no step does it."
            for s in self.axle.own_steps
            if s.due and s.joint not in self.joints
        ]
        nowhere += astray(self.axle.notes, self.joints, f"at the {self.name}")
        return nowhere + [
            f"{self.name.capitalize()} {f.name}, {f.torque_nm:g} N·m: "
            + ("not undone by this plan." if key in known else f"no step knows a bolt called “{key}”.")
            for key, f in self.axle.fasteners.items()
            if f.torque_nm is not None and key not in used
        ]

    def off(self) -> Iterator[TakenOff]:
        """What comes off: parts that others take the place of, and the bolts of every joint that is opened."""
        told: dict[TakenOff, None] = {}
        for change in (planned.change for planned, _ in self.changes):
            fate = fate_of(reversible=self.job.brief.reversible, stays=self.job.brief.for_good(change))
            sides: list[Side] = [side for side in SIDES if change.on_side(side)]
            off = replaced(change.taken_off(self.job.vehicle), change.moves_over, fate, self.name, sides)
            # Of two changes of one part only the first finds it there.
            told |= dict.fromkeys(off)
        yield from told
        for side in SIDES:
            for joint in self.opened[side]:
                if joint.shared and side != SIDES[0]:
                    continue
                bolts = [fastener_of(self.axle, role) for role in joint.fasteners]
                yield from bolts_of(joint, bolts, self.name, None if joint.shared else side)

    def settings(self) -> Iterator[SettingRow]:
        """What the changes set, read before and after at each side."""
        apart = any(self.opened.values())
        for planned, machine in self.changes:
            for side, told in _told_at(planned.change, machine).items():
                at = told if apart else None
                last = max(len(planned.change.steps(machine)) - 1, 0)
                joint = on_side(self.axle, self._joint(planned.id), side)
                steps = [self._id(at, f"{planned.id}.{last}")]
                if any(j.key == joint for j in self.opened[side]):
                    steps.insert(0, self._id(at, f"{joint}.off"))
                for key, name, unit, by in planned.change.noted(machine, side):
                    yield SettingRow(
                        key=f"{planned.id}.{key}", axle=self.name, side=told, steps=tuple(steps), name=name, unit=unit,
                        by=by,
                    )  # fmt: skip

    # Steps, in the order they are done.

    def crack(self) -> Iterator[Step]:
        """On the ground: what would turn the wheel in the air."""
        for side in SIDES:
            if self.opened[side]:
                yield self._step(
                    side, "wheel.crack", LOOSEN, Handling("Crack the wheel bolts, no more.", minutes=(1, 2))
                )

    def apart_and_together(self) -> Iterator[Step]:
        """First what holds both sides; then one as the pattern for the other, or both where they drop as one."""
        first = _phase(self.name, FIRST)
        for key in self.joints:
            for side in SIDES:
                for j in self.opened[side]:
                    if j.both_first and j.key == key:
                        yield from self._off(side, j, first)
        rest = {side: [j for j in self.opened[side] if not j.both_first] for side in SIDES}
        if not any(self.opened.values()):
            yield from self._made(None, _phase(self.name, BOTH))
            yield from self._done(None, _phase(self.name, BOTH))
        elif self.at_once:
            phase = _phase(self.name, BOTH)
            for joint in rest["left"]:
                for side, j in self._pair(joint):
                    yield from self._off(side, j, phase)
            for side in SIDES:
                yield from self._before(side, phase)
            for joint in reversed(rest["left"]):
                pair = self._pair(joint)
                for side, j in pair:
                    for one in (side,) if side else SIDES:
                        yield from self._done(one, phase, j.key)
                for side, j in pair:
                    yield from self._on(side, j, phase)
            for side in SIDES:
                yield from self._added(side, phase)
                yield from self._done(side, phase)
        else:
            for side in SIDES:
                phase = _phase(self.name, side)
                if self.opened[side]:
                    for j in rest[side]:
                        yield from self._off(side, j, phase)
                    yield from self._before(side, phase)
                    for j in reversed(rest[side]):
                        yield from self._done(side, phase, j.key)
                        yield from self._on(side, j, phase)
                    yield from self._added(side, phase)
                    yield from self._done(side, phase)
        yield from self._at_height()

    def _pair(self, joint: Joint) -> list[tuple[Side | None, Joint]]:
        """A joint of the left side and its like on the right; one that both share by itself."""
        if joint.shared:
            return [(None, joint)]
        return [("left", joint), ("right", self.joints[on_side(self.axle, joint.key, "right")])]

    def _done_at(self, side: Side, planned: PlannedChange, machine: Vehicle) -> str:
        """Key of the joint a change is done at; empty for what is done hanging, with all of this side home."""
        if planned.change.opened(machine) == WITH_WHEEL:
            return "wheel"
        wanted = {key for word in planned.change.opened(machine) for key in reached(self.axle, word, side)}
        return innermost([j for j in self.opened[side] if not j.both_first], wanted)

    def _before(self, side: Side, phase: str) -> Iterator[Step]:
        """With all of it apart, before any new part goes on."""
        yield from self._made(side, phase)
        for n, text in enumerate(self.axle.orientation):
            yield self._step(side, f"way{n}", phase, Handling(f"Which way round: {text}", minutes=(0.5, 1)))

    def _made(self, side: Side | None, phase: str) -> Iterator[Step]:
        """What is cut, drilled or welded: before any new part hangs near it."""
        for planned, machine in self.changes:
            at = _told_at(planned.change, machine)
            if side is None or side in at:
                for m, told in enumerate(self.job.brief.around(planned.change).before):
                    yield self._step(side and at[side], f"{planned.id}.how{m}", phase, told)

    def _done(self, side: Side | None, phase: str, joint: str = "") -> Iterator[Step]:
        """What the changes that are done at a joint are done by; of no side where nothing at all is opened."""
        for planned, machine in sorted(self.changes, key=lambda met: -met[0].change.deep):
            at = _told_at(planned.change, machine)
            if side and (side not in at or self._done_at(side, planned, machine) != joint):
                continue
            texts, figure = planned.change.steps(machine), planned.change.figure(side)
            large = figure_at(figure, texts)
            for m, text in enumerate(texts):
                told = Handling(text, minutes=(2, 6))
                large_here = figure if m == large else None
                step = self._step(side and at[side], f"{planned.id}.{m}", phase, told, figure=large_here)
                yield step.model_copy(update=laid_at(planned.change.order(machine, side), m))

    def _off(self, side: Side | None, joint: Joint, phase: str) -> Iterator[Step]:
        yield from self._own(side, joint, "before_opening", phase)
        bolts = [fastener_of(self.axle, role) for role in joint.fasteners]
        opening = self._step(side, f"{joint.key}.off", phase, opening_of(joint, bolts))
        yield opening.model_copy(update={"kept": kept_at(self.axle.notes, joint.key, side)})
        yield from self._own(side, joint, "while_open", phase)

    def _own(self, side: Side | None, joint: Joint, when: When, phase: str) -> Iterator[Step]:
        """The shop's own steps at a joint."""
        for n, own in enumerate(self.axle.own_steps):
            if own.joint != joint.key or own.when != when or (side and own.side not in ("both", side)):
                continue
            told = Handling(
                own.told, own.caution or None, people=own.people, minutes=(own.minutes_least, own.minutes_most)
            )
            step = self._step(side, f"own{n}", phase, told, (own.fastener,) if own.fastener else ())
            yield step.model_copy(update={"photos": own.photos})

    def _later(self, joint: Joint) -> tuple[str, ...]:
        """Roles of a joint that are tightened where it rides: all that clamp rubber, by its kind or by their data."""
        rubber = joint.rubber and not self._hanging(joint)
        return tuple(r for r in joint.fasteners if rubber or fastener_of(self.axle, r).at_ride_height)

    def _hanging(self, joint: Joint) -> bool:
        """Whether the shop tightens its rubber with the wheel hanging; what clamps a pack wants the load on anyway."""
        return self.job.brief.schools.bushes == "hanging" and joint.rubber and joint.key not in LOADED

    def _on(self, side: Side | None, joint: Joint, phase: str) -> Iterator[Step]:
        later = self._later(joint)
        closing = closing_of(joint, self.after)
        now, text = tuple(r for r in joint.fasteners if r not in later), closing.text
        if later and not joint.rubber:
            names = ", ".join(fastener_of(self.axle, r).name for r in later)
            told = text if now else text.replace("to torque", "hand tight")
            text = f"{told} Only hand tight, it clamps rubber: {names}."
        if self._hanging(joint) and now:
            text = f"{text.replace('hand tight', 'to torque')} {HANGING}"
            closing = replace(closing, caution=self._wound_up())
        yield self._step(side, f"{joint.key}.on", phase, replace(closing, text=text), now)
        yield from self._own(side, joint, "after_closing", phase)

    def _added(self, side: Side, phase: str) -> Iterator[Step]:
        for joint in self.added:
            yield self._step(side, f"{joint.key}.on", phase, joint.closing)

    def _at_height(self) -> Iterator[Step]:
        """What clamps rubber or wants the load on, where it rides; last the links of the bar, never forced."""
        phase = _phase(self.name, HEIGHT)
        if any(self.opened.values()):
            yield from baselines(self.job, self.alignment, self.name, phase)
        shared: dict[str, None] = {}
        for side in SIDES:
            here = [j for j in self.opened[side] if not j.with_load]
            shared |= {r: None for j in here if j.shared for r in self._later(j)}
            roles = tuple(dict.fromkeys(r for j in here if not j.shared for r in self._later(j)))
            if roles:
                yield self._tightened(side, roles, phase)
        if shared:
            bolts = ", ".join(fastener_of(self.axle, r).name for r in shared)
            tight = Handling(f"Still at ride height, to torque: {bolts}.", hold=cautions.RUBBER, minutes=(3, 8))
            yield self._step(None, "ride_height", phase, tight, tuple(shared))
        for key in self.joints:
            for side in SIDES:
                for j in self.opened[side]:
                    if j.with_load and j.key == key:
                        yield self._step(side, f"{j.key}.on", phase, j.closing, j.fasteners)
                        yield from self._own(side, j, "after_closing", phase)

    def _wound_up(self) -> str:
        """What rubber that is tightened hanging is turned by where it rides."""
        turns = ", ".join(f"{arm} {deg:.0f}°" for arm, deg in self.prediction.axle(self.name).wind_up_deg.items())
        return f"Tightened at full droop the bushes would store: {turns}. " if turns else ""

    def _tightened(self, side: Side, roles: tuple[str, ...], phase: str) -> Step:
        stored = self._wound_up()
        jack = "axle" if self.axle.linkage.coupled else "arm"
        kilos = self.prediction.axle(self.name).load_n / GRAVITY + self.axle.unsprung_kg
        bolts = ", ".join(fastener_of(self.axle, r).name for r in roles)
        return self._step(
            side, "ride_height", phase,
            Handling(
                f"Jack under the {jack} until the hub stands at ride height; it then carries about {kilos:.0f} kg on "
                f"this side, and a body that lifts off its stand is the limit. To torque: {bolts}.",
                cautions.STANDS, stored + cautions.RUBBER, minutes=(6, 12),
            ),
            roles, figure=f"{self._height(side).after:.0f} mm hub to arch",
        )  # fmt: skip

    def ready(self) -> Iterator[Step]:
        """What may still send the plan back."""
        for planned, machine in self.changes:
            for m, text in enumerate(planned.change.ready(machine)):
                yield self._step(None, f"{planned.id}.ready{m}", BEFORE, Handling(text, minutes=(2, 6)))

    def settled(self) -> Iterator[Step]:
        """What the changes want looked at with the weight on."""
        for planned, machine in self.changes:
            for m, text in enumerate(planned.change.settled(machine)):
                yield self._step(None, f"{planned.id}.settled{m}", PROVE, Handling(text, minutes=(2, 6)))

    def welded(self, when: Literal["after", "driven"]) -> Iterator[Step]:
        """What is left to do of what was cut or welded, before the road or after it; once for both sides."""
        for planned, _ in self.changes:
            for m, told in enumerate(getattr(self.job.brief.around(planned.change), when)):
                yield self._step(None, f"{planned.id}.{when}{m}", HAND_OVER, told)

    def down(self, part: str) -> Iterator[Step]:
        """Wheels on, and their bolts to torque on the ground."""
        for side in SIDES:
            for joint in (j for j in self.opened[side] if j.on_ground):
                if part == "on":
                    yield from self._done(side, DOWN, joint.key)
                    yield self._step(side, f"{joint.key}.on", DOWN, joint.closing)
                    yield from self._own(side, joint, "after_closing", DOWN)
                else:
                    tight = Handling("Wheel bolts crosswise to torque.", minutes=(1, 2))
                    yield self._step(side, f"{joint.key}.torque", DOWN, tight, joint.fasteners)

    def _id(self, side: Side | None, key: str) -> str:
        return ".".join(part for part in (self.name, side, key) if part)

    def _joint(self, key: str) -> str:
        """Of a step by its key: the joint itself, or the first one that a change wants open."""
        first = key.split(".")[0]
        if first in self.joints:
            return first
        if first == "ride_height":
            return "pivots" if "pivots" in self.joints else "wheel"
        for planned, machine in self.changes:
            if planned.id == first:
                words = sorted(planned.change.opened(machine))
                here = (k for k in planned.change.drawn_at if k in self.joints)
                return next(here, next((k for word in words for k in reached(self.axle, word)), ""))
        return ""

    def _step(
        self, side: Side | None, key: str, phase: str, what: Handling, roles: tuple[str, ...] = (),
        figure: str | None = None,
    ) -> Step:  # fmt: skip
        return Step.of(
            what,
            id=self._id(side, key),
            phase=phase,
            axle=self.name,
            side=side,
            joint=self._joint(key),
            figure=figure,
            fasteners=tuple(FastenerUse.of(role, fastener_of(self.axle, role)) for role in roles),
        )


def _told_at(change: Change, machine: Vehicle) -> dict[Side, Side | None]:
    """Sides a change is done at, each with the side its steps tell: a part that is there once is done with the left."""
    if change.across(machine):
        return {"left": None}
    return {side: side for side in SIDES if change.on_side(side)}


def _preflight(worked: list[_Worked]) -> Preflight:
    hardware, joints, bolts, parts = [], [], [], []
    handled: list[Joint] = []
    """As they are closed, and what is new."""
    for w in worked:
        parts += [part for p, machine in w.changes for part in p.change.parts(machine)]
        here = {j.key for joints in w.opened.values() for j in joints}
        parts += [f"{s.part} ({w.name})" for s in w.axle.own_steps if s.part and s.joint in here]
        planned, once = apply_all(w.job.vehicle, w.job.plan.changes), {}
        for change, _ in w.changes:
            once |= change.change.needs_once(w.job.vehicle, planned)
        count: dict[str, int | None] = {}
        for joint in (joint for side in SIDES for joint in w.opened[side]):
            joints.append(joint)
            if joint.new:
                once.setdefault(joint.key, f"{joint.new} ({w.name})")
            if joint.key in w.after:
                handled.append(w.after[joint.key])
            for use in (fastener_of(w.axle, role) for role in joint.fasteners):
                bolts.append(use)
                if use.renewed and not joint.new:
                    count[use.name] = added(count.get(use.name, 0), use.count_per_side)
        handled += w.added
        parts += once.values()
        hardware += [f"{how_many(n, name)}, new ({w.name})" for name, n in count.items()]
    common = ["Tape, square and chalk", "Torque wrench with a valid test date", *spanners(bolts)]
    lifted = ["Jack and rated stands", "Wheel chocks"] if joints else []
    locker = ["Thread locker as the maker says"] if any(b.thread_locker for b in bolts) else []
    return Preflight(
        parts=parts,
        hardware=hardware,
        tools=_once([*common, *lifted, *(t for j in (*joints, *handled) for t in j.tools)]),
        consumables=_once(
            [
                *(["Penetrating oil", "Brush and rag"] if joints else []),
                *locker,
                *(c for j in (*joints, *handled) for c in j.consumables),
            ]
        ),
    )


def _once(items: Iterable[str]) -> list[str]:
    return list(dict.fromkeys(items))


def _steps(job: Job, prediction: Prediction, alignment: Alignment, worked: list[_Worked]) -> Iterator[Step]:
    yield Step(
        id="ready.heights",
        phase=BEFORE,
        text=f"Read the heights at every corner once more, as in the brief: {job.brief.load or 'usual load'}, "
        "level ground, tyres to pressure.",
        minutes=(5, 10),
    )
    yield Step(
        id="ready.parts",
        phase=BEFORE,
        text="Lay out every part, bolt and tool of the list. Left and right marked.",
        hold="Go on only when the list is complete.",
        minutes=(5, 15),
    )
    for w in worked:
        yield from w.ready()
    open_somewhere = any(joints for w in worked for joints in w.opened.values())
    if open_somewhere:
        yield Step(
            id="ready.inspect",
            phase=BEFORE,
            text="Look for rust, rounded heads, bolts that are boxed in, worn bushes. Oil what looks seized.",
            caution=cautions.HEAT,
            minutes=(5, 20),
        )
        for w in worked:
            yield from w.crack()
        if any(on_air(job.vehicle.axle(a)) for a in AXLES):
            yield Step(
                id="lift.level", phase=LIFT, minutes=(2, 8), caution=cautions.AIR,
                text="Level control off, or in its service mode: on the stands it must neither fill nor empty a bag.",
                hold="Not lifted before the level control is off.",
            )  # fmt: skip
        yield Step(
            id="lift.stands",
            phase=LIFT,
            text="Chock, lift, stands under. Push the vehicle sideways: it must not move.",
            caution=cautions.STANDS,
            minutes=(8, 15),
        )
    for w in worked:
        yield from w.apart_and_together()
    for w in worked:
        yield from w.down("on")
    if open_somewhere:
        yield Step(id="down.lower", phase=DOWN, text="Lower to the ground.", caution=cautions.STANDS, minutes=(3, 6))
    for w in worked:
        yield from w.down("torque")
    if open_somewhere and any(on_air(apply_all(job.vehicle, job.plan.changes).axle(a)) for a in AXLES):
        yield Step(
            id="down.level", phase=DOWN, minutes=(3, 10), caution=cautions.AIR,
            text="Level control on again: let it level, read its fault store. Not driven with an empty bag.",
        )  # fmt: skip
    for w in worked:
        yield from w.settled()
    opened: list[AxleName] = [w.name for w in worked if any(w.opened.values())]
    yield from closing(job, prediction, alignment, [w.name for w in worked], opened)
    yield from hand_over(
        job, (s for w in worked for s in w.welded("after")), (s for w in worked for s in w.welded("driven"))
    )

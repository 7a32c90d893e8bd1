"""The job card of a two-wheeler: stand and support, linkage order, fork, torque per bolt, sag and stand at the end."""

from collections.abc import Iterator

from inclinum.core.bike.changes import BikeChange, apply_all, at_their_place
from inclinum.core.bike.changes.rear_preload import collar_step
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.prediction import BikePrediction, predict_bike
from inclinum.core.card import cautions
from inclinum.core.card.fastener import Fastener
from inclinum.core.card.steps import Card, FastenerUse, Preflight, Step, compose

STAND = (
    "A stand that holds the frame, not the swing arm, and a strap forward from the bars: the machine must stay when a "
    "wheel leaves. Never on its side stand."
)
FORK_CAP = (
    "The cap is pushed by the spring, and by air: let the pressure out first, bar weight off, face away, both hands on "
    "the last threads."
)
COMPRESSOR = (
    "A compressed coil holds enough energy to kill. Compressor made for this size, two hooks opposite, nobody in line."
)
PHASES = (
    "Before it goes up", "Stand and support", "Rear apart", "Rear swap", "Rear together", "Fork", "Wheels and down",
    "Prove", "Hand over",
)  # fmt: skip


def bike_card(job: BikeJob) -> Card:
    """The card of a job's plan. Raises as ``assess``."""
    prediction = predict_bike(job)
    planned = apply_all(job.machine, job.plan.changes)
    return compose(
        _steps(job, prediction, planned), PHASES, job.build.torques, title=job.title, vehicle=job.vehicle.name,
        owner=job.brief.owner, preflight=_preflight(job),
        stopped_by=[f.what for f in prediction.findings if f.severity == "stops"],
        # What is refused is not built on anybody's word.
        override="" if prediction.refused else job.plan.override,
    )  # fmt: skip


Met = dict[str, tuple[BikeChange, Bike]]
"""Changes by id, each with the machine it meets at its place of the stack."""


def _on(job: BikeJob) -> Met:
    return {p.id: (p.change, bike) for p, bike in at_their_place(job.machine, job.plan.changes)}


def _preflight(job: BikeJob) -> Preflight:
    met = _on(job).values()
    changes = [c for c, _ in met]
    tools = ["Tape and calliper", "Stand that holds the frame, strap", "Torque wrench with a valid test date"]
    tools += [tool for c in changes for tool in c.tools]
    return Preflight(
        parts=[p for c, bike in met for p in c.parts(bike)],
        hardware=[f"{f.count_per_side} × {f.name}, new" for f in job.machine.fasteners.values() if f.renew],
        tools=list(dict.fromkeys(tools)),
        consumables=["Grease for needle bearings", "Thread locker as the maker says", "Fork oil", "Brush and rag"],
    )


ROLES = (
    "rod_bolts", "rocker_pivot_bolt", "damper_upper_bolt", "damper_lower_bolt", "top_clamp_bolt", "lower_clamp_bolt",
    "fork_cap", "rear_axle", "front_axle",
)  # fmt: skip
"""Bolts the steps know where to tighten; others are listed at the end."""


def _others(bike: Bike) -> list[str]:
    """Bolts of the machine's data that no step knows, and that clamp no rubber."""
    return [key for key, f in bike.fasteners.items() if key not in ROLES and not f.at_ride_height]


def _uses(bike: Bike, *keys: str, settled: bool = False) -> tuple[FastenerUse, ...]:
    """Bolts with their figures; one nobody has a figure for is looked up, never guessed.

    Those that clamp rubber are left to the step at which the machine stands ``settled`` on its wheels.
    """
    found = []
    for key in keys:
        if not settled and key in bike.fasteners and bike.fasteners[key].at_ride_height:
            continue
        f = bike.fasteners.get(key) or Fastener(name=key.replace("_", " "))
        found.append(FastenerUse.of(key, f))
    return tuple(found)


def _steps(job: BikeJob, prediction: BikePrediction, planned: Bike) -> Iterator[Step]:
    changes, bike = _on(job), job.machine
    rear, front, other = ({i: m for i, m in changes.items() if m[0].end == end} for end in ("rear", "front", None))

    def step(key: str, phase: str, text: str, minutes: tuple[float, float], **more: object) -> Step:
        return Step(id=key, phase=phase, text=text, minutes=minutes, **more)  # type: ignore[arg-type]

    yield step(
        "ready.sag", "Before it goes up",
        "Sags once more at both ends, extended, unladen and with the rider on, axle to the same marks. Note threads "
        "that show at the collar and tube above the top clamp.", (8, 15), people=2,
    )  # fmt: skip
    yield step(
        "ready.parts", "Before it goes up", "Lay out every part and tool of the list; holes of a new link by calliper.",
        (5, 12), hold="Go on only when the list is complete.",
    )  # fmt: skip
    yield step("stand.up", "Stand and support", "Frame on the stand, strap forward, both wheels just off the ground.",
               (5, 10), caution=STAND, people=2)  # fmt: skip
    if rear:
        yield from _rear(job, rear)
    if front:
        yield from _front(front, bike)
    for key, (change, met) in other.items():
        for m, text in enumerate(change.steps(met)):
            yield step(f"{key}.{m}", "Wheels and down", text, (8, 30))
    axles = ["rear_axle"] * bool(rear) + ["front_axle"] * bool(front)
    listed = _others(bike)
    if listed:
        yield step(
            "down.others", "Wheels and down",
            "What else was undone, as the machine's data list it, to torque.", (2, 8), fasteners=_uses(bike, *listed),
        )  # fmt: skip
    yield step(
        "down.wheels", "Wheels and down", "Axles, brakes and chain as the maker says; wheels turn free.", (8, 15),
        fasteners=_uses(bike, *axles),
    )  # fmt: skip
    if bike.drive.kind in ("chain", "belt"):
        slack = prediction.rear_curve.chain_slack or [0.0]
        travel = prediction.rear_curve.travel[slack.index(max(slack))]
        yield step(
            "down.chain", "Wheels and down",
            f"{bike.drive.kind.capitalize()} slack at its tightest, {travel:.0f} mm of wheel travel from full "
            "extension, to the maker's figure there.", (4, 8), figure=f"tightest at {travel:.0f} mm",
        )  # fmt: skip
    rubber = [key for key, f in bike.fasteners.items() if f.at_ride_height]
    if rubber:
        yield step(
            "down.rubber", "Wheels and down",
            "On its wheels, bounced and settled: bolts that clamp rubber to their figure, left hand tight until now.",
            (3, 8), fasteners=_uses(bike, *rubber, settled=True), hold=cautions.RUBBER,
        )  # fmt: skip
    yield step("down.brakes", "Wheels and down", "Pump both brakes hard; bar lock to lock: no hose or cable pulls.",
               (3, 6), caution=cautions.BRAKES)  # fmt: skip
    yield from _proof(prediction, planned)


def _rear(job: BikeJob, rear: Met) -> Iterator[Step]:
    bike, changes = job.machine, [c for c, _ in rear.values()]
    opened = frozenset().union(*(c.opens for c in changes))
    linked, springs, damper_out = ("link" in opened, "spring" in opened, "damper" in opened)
    yield Step(
        id="rear.support", phase="Rear apart", axle="rear",
        text="Block under the rear wheel so that the damper carries nothing: its bolt turns by hand.",
        caution="The wheel and swing arm drop when the last bolt leaves: support them, fingers clear.",
        hold="The bolt turns by hand before it is pulled.", minutes=(4, 8),
    )  # fmt: skip
    if linked:
        yield Step(
            id="rear.link_out", phase="Rear apart", axle="rear",
            text="Rod off first, then the rocker from its pivot, then the damper's eye: each bolt marked with where it "
            "was. Needle rollers kept in their sleeves, seals set aside in order.", minutes=(10, 30),
        )  # fmt: skip
    if damper_out:
        each = " One side after the other, so that the other holds the arm." if bike.damper.count == 2 else ""
        yield Step(
            id="rear.damper_out", phase="Rear apart", axle="rear",
            text=f"Damper out: lower eye, then upper.{each} Reservoir and hose carried, never hung.", minutes=(6, 20),
        )  # fmt: skip
    if springs:
        yield Step(
            id="rear.compress", phase="Rear swap", axle="rear",
            text="Collar back, spring compressed until its seat is free.",
            caution=COMPRESSOR, hold="Spring loose on both seats before the seat clip is touched.", minutes=(6, 15),
        )  # fmt: skip
    # The collar is set once, where the plan leaves it: an earlier change's setting would be turned over again.
    collars = [key for key, (c, _) in rear.items() if c.sets_collar]
    for key, (change, met) in rear.items():
        for m, text in enumerate(change.steps(met)):
            if key in collars[:-1] and text == collar_step(change.apply(met)):
                continue
            yield Step(
                id=f"{key}.{m}", phase="Rear swap", axle="rear", text=text, minutes=(3, 10),
                figure=_figure(change, met, text),
            )  # fmt: skip
    for n, text in enumerate(bike.orientation):
        yield Step(id=f"way{n}", phase="Rear swap", axle="rear", text=f"Which way round: {text}", minutes=(0.5, 1))
    keys = (("rod_bolts", "rocker_pivot_bolt") if linked else ()) + (
        ("damper_upper_bolt", "damper_lower_bolt") if opened & {"damper", "damper eyes"} else ()
    )
    if keys:
        yield Step(
            id="rear.torque", phase="Rear together", axle="rear",
            text="Every bolt in loosely, bolt-head flats against the casting, then each to its figure with the swing "
            "arm where it carries the machine. Grease until it shows at every seal.",
            fasteners=_uses(bike, *keys), minutes=(8, 15),
        )  # fmt: skip
    yield Step(
        id="rear.free", phase="Rear together", axle="rear",
        text="Swing arm through its whole travel by hand, spring off or compressed by two: nothing touches, nothing "
        "binds.", people=2, minutes=(3, 8),
    )  # fmt: skip


def _front(front: Met, bike: Bike) -> Iterator[Step]:
    inside = any("fork cap" in c.opens for c, _ in front.values())
    if inside:
        yield Step(
            id="fork.caps", phase="Fork", axle="front",
            text="Caps cracked while the lower clamp still holds the tubes, one leg at a time; pressure let out.",
            caution=FORK_CAP, hold="Pressure out and weight off before a cap is turned.", minutes=(5, 12),
        )  # fmt: skip
    for key, (change, met) in front.items():
        for m, text in enumerate(change.steps(met)):
            yield Step(
                id=f"{key}.{m}", phase="Fork", axle="front", text=text, minutes=(5, 20),
                figure=_figure(change, met, text),
                fasteners=_uses(bike, "top_clamp_bolt", "lower_clamp_bolt") if "clamps" in change.opens else (),
            )  # fmt: skip
    yield Step(
        id="fork.equal", phase="Fork", axle="front",
        text="Both legs compared: tube above the clamp, oil level, spacer. Axle slides in without force.",
        hold="Both legs equal before the axle is tightened.", fasteners=_uses(bike, "fork_cap") if inside else (),
        minutes=(4, 8),
    )  # fmt: skip


def _figure(change: BikeChange, met: Bike, text: str) -> str | None:
    """The number of a step, large, where the step is about it."""
    figure = change.figure(met)
    named = figure and any(word in text for word in figure.split() if word.replace(".", "").isdigit())
    return figure if named else None


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

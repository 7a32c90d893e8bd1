"""The proof: readings after the job against what was predicted, and side against side."""

import math
from typing import Literal

import numpy as np

from inclinum.core.car.corner_weights import WHEELS
from inclinum.core.car.job import Job, Measurements
from inclinum.core.car.measured import APART_MM, Question, questions
from inclinum.core.car.prediction import Height, Prediction, assess, predict
from inclinum.core.car.vehicle import AngleName
from inclinum.core.document import Document
from inclinum.core.document.known import RACK_DEG
from inclinum.core.document.names import AXLES, SIDES, AxleName, Side
from inclinum.core.equilibrium.body import CORNERS
from inclinum.core.plan import BeforeAfter, Outcome, Verdict, verdict_of
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.uncertainty import COVERAGE
from inclinum.core.uncertainty.explain import Explanation, FourCorners, Hypothesis, explain, of_axle, of_corner


class HeightProof(Document):
    """One reading after, against its prediction."""

    label: str
    axle: AxleName | None
    side: Side
    before: float
    predicted: float
    plus_minus: float
    """Of prediction and reading together, mm."""
    after: float
    rise: float
    residual: float
    """Measured less predicted, mm."""
    sigmas: float
    within: bool


class SideProof(Document):
    """Left less right of one axle, before and after, mm."""

    axle: AxleName
    before: float | None
    after: float
    even: bool
    advice: str
    """Empty where they are even."""


class AngleProof(Document):
    """One rack reading after, against its target."""

    axle: AxleName
    side: Side
    angle: AngleName
    after: float
    target: float
    window: float
    plus_minus: float
    """Of the reading, degrees."""
    within: bool | None
    """None where the target is only usual for such an axle, and judges nothing."""
    clear: bool
    """Whether it would be judged so anywhere within its ±."""


class OneCause(Document):
    """One thing that would explain the four heights, at the value that explains them best."""

    label: str
    value: float
    unit: Literal["%", "kg", "mm"]
    explains: float
    """Part of the squares of all four residuals that it takes away."""
    left_mm: tuple[float, ...]
    """What would remain: front left, front right, rear left, rear right."""


class Proof(Document):
    """What the tape and the rack say after the job."""

    heights: list[HeightProof]
    sides: list[SideProof]
    angles: list[AngleProof]
    questions: list[Question]
    verdict: Verdict
    unread: list[str]
    """Corners whose height nobody read after."""
    causes: list[OneCause]
    """Where all four corners were measured: single causes of what is off, best first. Each may still be wrong."""


def prove(job: Job) -> Proof:
    """Compare the readings after with the prediction. Raises as ``assess``."""
    prediction, after = predict(job, ways=False), job.prove.after
    heights = [p for row in prediction.heights if (p := _height(row, after))]
    angles = _angles(job, after)
    sides = _sides(job, after, heights)
    judged = [*(h.within for h in heights), *(a.within for a in angles if a.within is not None)]
    read = {(h.axle, h.side) for h in heights}
    unread = [f"hub to arch, {axle} {side}" for axle, side in WHEELS if (axle, side) not in read]
    return Proof(
        heights=heights,
        sides=sides,
        angles=angles,
        questions=questions(job.vehicle, after, same_reference_as=job.measure),
        verdict=verdict_of([*judged, *(s.even for s in sides)], unread),
        unread=unread,
        causes=_causes(job, prediction, heights),
    )


SEAT_BEHIND, SEAT_BESIDE, BOOT_BEHIND = 0.45, 0.25, 1.05
"""Where somebody sits and where things lie: shares of wheelbase and track. Our judgement."""


def _causes(job: Job, prediction: Prediction, heights: list[HeightProof]) -> list[OneCause]:
    """What one thing would explain the residuals at the four corners; nothing where one of them was not read.

    Nothing either where each came out as predicted to within the tape: what is left then is noise, which anything
    explains.
    """
    read = {(h.axle, h.side): h.residual for h in heights if h.axle is not None}
    if set(read) != set(WHEELS) or max(map(abs, read.values())) <= job.measure.default_tolerance_mm:
        return []
    after, vehicle = assess(job).after, job.vehicle
    stances = [after.axle(axle) for axle, _ in WHEELS]
    lengths = [float(s.ride.spring_at(s.travel)) for s in stances]
    base, half = vehicle.wheelbase_mm, [vehicle.axle(axle).track_mm / 2 for axle, _ in WHEELS]
    planned = FourCorners(
        x=np.array([vehicle.axle_x(axle) for axle, _ in WHEELS]),
        y=np.array([h if side == "left" else -h for h, (_, side) in zip(half, WHEELS, strict=True)]),
        load=np.array([c.after_n for c in prediction.body.corners]),
        rate=np.array([float(s.ride.spring.stiffness(n)) for s, n in zip(stances, lengths, strict=True)]),
        ratio=np.array([float(s.ride.spring_length.ratio(s.travel)) for s in stances]),
        bars=(vehicle.front.anti_roll_n_per_mm, vehicle.rear.anti_roll_n_per_mm),
        wheel_rate=np.array([s.wheel_rate for s in stances]),
    )
    beside = 2 * SEAT_BESIDE * half[0]
    tried = [
        *(Hypothesis(f"{a} springs stiffer than their data", "rate", of_axle(a == "front")) for a in AXLES),
        Hypothesis("weight on the left front seat", "load", at=(-SEAT_BEHIND * base, beside)),
        Hypothesis("weight on the right front seat", "load", at=(-SEAT_BEHIND * base, -beside)),
        Hypothesis("weight at the very rear", "load", at=(-BOOT_BEHIND * base, 0.0)),
        *(
            Hypothesis(f"{a} {s} spring not down in its seat", "unseated", of_corner(c))
            for (a, s), c in zip(WHEELS, CORNERS, strict=True)
        ),
    ]
    try:
        found = explain(planned, np.array([read[w] for w in WHEELS]), tried, GRAVITY)
    except ValueError:
        return []
    return [_told(e) for e in found]


def _told(e: Explanation) -> OneCause:
    front_left, front_right, rear_left, rear_right = e.left.tolist()
    return OneCause(
        label=e.hypothesis.label,
        value=e.parameter * (100 if e.hypothesis.kind == "rate" else 1),
        unit={"rate": "%", "load": "kg", "unseated": "mm"}[e.hypothesis.kind],  # type: ignore[arg-type]
        explains=e.share,
        left_mm=(front_left, front_right, rear_left, rear_right),
    )


def _height(row: Height, after: Measurements) -> HeightProof | None:
    if row.kind == "station":
        reading = after.station(row.label, row.side)
    elif row.kind == "hub_to_arch" and row.axle:
        reading = after.corner(row.axle, row.side, "hub_to_arch")
    else:
        return None
    if reading is None:
        return None
    plus_minus = math.hypot(row.plus_minus, reading.plus_minus(after.default_tolerance_mm))
    residual = reading.value - row.after
    return HeightProof(
        label=row.label,
        axle=row.axle,
        side=row.side,
        before=row.before,
        predicted=row.after,
        plus_minus=plus_minus,
        after=reading.value,
        rise=reading.value - row.before,
        residual=residual,
        sigmas=COVERAGE * residual / plus_minus if plus_minus > 0 else 0.0,
        within=abs(residual) <= plus_minus,
    )


def _sides(job: Job, after: Measurements, heights: list[HeightProof]) -> list[SideProof]:
    """Left against right of each axle, less what the brief wants of that."""
    found = []
    planned = {(h.axle, h.side): h.predicted for h in heights if h.label == "hub to arch"}
    for axle in AXLES:
        pairs = [[m.corner(axle, s, "hub_to_arch") for s in SIDES] for m in (job.measure, after)]
        (left_before, right_before), (left, right) = pairs
        if left and right:
            before = left_before.value - right_before.value if left_before and right_before else None
            apart, wanted = left.value - right.value, job.brief.aim(axle).left_higher
            predicted = planned[axle, "left"] - planned[axle, "right"]
            even = abs(apart - wanted) <= APART_MM
            found.append(
                SideProof(
                    axle=axle, before=before, after=apart, even=even,
                    advice="" if even else _uneven(before, apart, predicted),
                )
            )  # fmt: skip
    return found


def _uneven(before: float | None, after: float, predicted: float) -> str:
    """Where to look: a difference that was there before, or that the plan makes, is none of what was built wrong."""
    if before is not None and abs(after - before) <= APART_MM:
        return "it came so: look for a tired spring or a bent part, not for what was built."
    if abs(after - predicted) <= APART_MM:
        return "the plan leans it so: level it with what is set wheel by wheel, and nothing else is wrong."
    return "look for a spring out of its pocket or a bush tightened hanging."


def _angles(job: Job, after: Measurements) -> list[AngleProof]:
    found = []
    for reading in after.angles:
        target = job.vehicle.axle(reading.axle).targets.get(reading.angle)
        if target is None:
            continue
        off = abs(reading.reading.value - target.target_deg)
        plus_minus = reading.reading.plus_minus(RACK_DEG)
        found.append(
            AngleProof(
                axle=reading.axle,
                side=reading.side,
                angle=reading.angle,
                after=reading.reading.value,
                target=target.target_deg,
                window=target.window_deg,
                plus_minus=plus_minus,
                clear=abs(target.window_deg - off) >= plus_minus - 1e-9,
                within=None if target.assumed else off <= target.window_deg + 1e-9,
            )
        )
    return found


def outcome(job: Job) -> Outcome:
    """What a job predicted and what it gave. Raises as ``assess``."""
    prediction = predict(job, ways=False)
    measured: dict[AxleName, float] = {}
    for axle in AXLES:
        before, after = (m.mean(axle, "hub_to_arch") for m in (job.measure, job.prove.after))
        if before is not None and after is not None:
            measured[axle] = after - before
    return Outcome(
        id=job.id,
        title=job.title,
        signed_off=job.prove.sign_off.at if job.prove.sign_off else None,
        predicted={a: prediction.axle(a).rise for a in AXLES},
        plus_minus={a: prediction.axle(a).plus_minus for a in AXLES},
        measured=measured,
        changes=[f"{p.change.title}, {p.change.axle}: {p.change.summary()}" for p in job.plan.changes if p.on],
    )


def before_and_after(job: Job) -> list[BeforeAfter]:
    """Hub to arch at every corner: as it came, as planned, as it was measured after. Raises as ``assess``."""
    proven = {(h.label, h.axle, h.side): h for h in prove(job).heights}
    return [
        BeforeAfter(
            label=f"hub to arch, {row.axle} {row.side}", unit="mm", before=row.before, planned=row.after,
            plus_minus=row.plus_minus, after=read.after if read else None, within=read.within if read else None,
        )
        for row in predict(job, ways=False).heights
        if row.kind == "hub_to_arch"
        for read in (proven.get((row.label, row.axle, row.side)),)
    ]  # fmt: skip

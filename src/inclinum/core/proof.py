"""The proof: readings after the job against what was predicted, and side against side."""

import math
from typing import Literal

from inclinum.core.document import Document, Moment
from inclinum.core.job import Job, Measurements
from inclinum.core.learn import COVERAGE
from inclinum.core.measured import Question, questions
from inclinum.core.prediction import Height, predict
from inclinum.core.vehicle import AXLES, SIDES, AngleName, AxleName, Side

APART_MM = 6.0
"""Left and right further apart than this after a job are worth a look, whatever the prediction."""


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


class AngleProof(Document):
    """One rack reading after, against its target."""

    axle: AxleName
    side: Side
    angle: AngleName
    after: float
    target: float
    window: float
    within: bool


class Proof(Document):
    """What the tape and the rack say after the job."""

    heights: list[HeightProof]
    sides: list[SideProof]
    angles: list[AngleProof]
    questions: list[Question]
    verdict: Literal["nothing measured", "within", "outside"]


def prove(job: Job) -> Proof:
    """Compare the readings after with the prediction. Raises as ``assess``."""
    prediction, after = predict(job), job.prove.after
    heights = [p for row in prediction.heights if (p := _height(row, after))]
    angles = _angles(job, after)
    sides = _sides(job, after)
    if not heights and not angles:
        verdict = "nothing measured"
    else:
        good = all(h.within for h in heights) and all(a.within for a in angles) and all(s.even for s in sides)
        verdict = "within" if good else "outside"
    return Proof(
        heights=heights,
        sides=sides,
        angles=angles,
        questions=questions(job.vehicle, after, same_reference_as=job.measure),
        verdict=verdict,
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
    tolerance = after.default_tolerance_mm if reading.tolerance is None else reading.tolerance
    plus_minus = math.hypot(row.plus_minus or 0.0, tolerance)
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


def _sides(job: Job, after: Measurements) -> list[SideProof]:
    found = []
    for axle in AXLES:
        pairs = [[m.corner(axle, s, "hub_to_arch") for s in SIDES] for m in (job.measure, after)]
        (left_before, right_before), (left, right) = pairs
        if left and right:
            found.append(
                SideProof(
                    axle=axle,
                    before=left_before.value - right_before.value if left_before and right_before else None,
                    after=left.value - right.value,
                    even=abs(left.value - right.value) <= APART_MM,
                )
            )
    return found


def _angles(job: Job, after: Measurements) -> list[AngleProof]:
    found = []
    for reading in after.angles:
        target = job.vehicle.axle(reading.axle).targets.get(reading.angle)
        if target is None:
            continue
        found.append(
            AngleProof(
                axle=reading.axle,
                side=reading.side,
                angle=reading.angle,
                after=reading.reading.value,
                target=target.target_deg,
                window=target.window_deg,
                within=abs(reading.reading.value - target.target_deg) <= target.window_deg + 1e-9,
            )
        )
    return found


class Outcome(Document):
    """A job in one line, for comparing it with others: mean rise of both sides per axle, mm."""

    id: str
    title: str
    signed_off: Moment | None
    predicted: dict[AxleName, float]
    plus_minus: dict[AxleName, float]
    measured: dict[AxleName, float]
    """Axles that were measured before and after."""
    changes: list[str]


def outcome(job: Job) -> Outcome:
    """What a job predicted and what it gave. Raises as ``assess``."""
    prediction = predict(job)
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

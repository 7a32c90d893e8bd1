"""Readings after a two-wheeler's job against what was predicted."""

import math
from typing import Literal

from inclinum.core.bike.changes import apply_all
from inclinum.core.bike.job import BikeJob, BikeMeasurements
from inclinum.core.bike.machine import ENDS, End
from inclinum.core.bike.prediction import predict_bike
from inclinum.core.document import Document
from inclinum.core.document.names import AxleName
from inclinum.core.plan import BeforeAfter, Outcome, Verdict, verdict_of

SETTLED_MM = math.sqrt(7.0)
"""± that settling and a shifting rider leave in a sag: with two readings of ±1 mm it makes 3 mm. Our judgement."""
SEAT_MM = math.sqrt(15.0)
"""The same of a seat's height: with a reading of ±1 mm it makes 4 mm."""


SAGS: dict[End, str] = {"front": "fork sag", "rear": "rear sag"}
STATES: tuple[Literal["unladen", "laden"], ...] = ("unladen", "laden")


class SagProof(Document):
    """One sag after, against its prediction, mm."""

    end: End
    state: Literal["unladen", "laden"]
    before: float | None
    predicted: float
    plus_minus: float
    after: float
    residual: float
    within: bool


class BikeProof(Document):
    """What the tape says after the job."""

    sags: list[SagProof]
    rear_drop: SagProof | None
    """Of the rear with the rider on, told by the readings from axle to mark: only where the mark stayed."""
    seat_after: float | None
    seat_predicted: float
    seat_plus_minus: float
    """Of prediction and reading together, mm; of the prediction alone where it was not read."""
    seat_within: bool | None
    """None where it was not read."""
    verdict: Verdict
    unread: list[str]
    """Ends the plan works on whose sag nobody read after."""


def prove_bike(job: BikeJob) -> BikeProof:
    """Compare. Raises as ``assess``."""
    prediction, after = predict_bike(job, ()), job.prove.after
    sags = []
    for end in ENDS:
        for state in STATES:
            read = after.sag(end, state)
            if read is None:
                continue
            bench = prediction.sags[end]
            says = bench.unladen_mm if state == "unladen" else bench.laden_mm
            read_to = (after.plus_minus(end, s) for s in ("extended", state))
            plus_minus = math.hypot(SETTLED_MM, *read_to, getattr(prediction.spread[end], state))
            sags.append(
                SagProof(
                    end=end,
                    state=state,
                    before=job.measure.sag(end, state),
                    predicted=says,
                    plus_minus=plus_minus,
                    after=read,
                    residual=read - says,
                    within=abs(read - says) <= plus_minus,
                )
            )
    # From the axle to a mark above it the tyre does not come in.
    planned = apply_all(job.machine, job.plan.changes)
    above_axle = prediction.rear_drop_mm + planned.rear_tyre_radius_mm - job.machine.rear_tyre_radius_mm
    drop = _drop(job, after, above_axle, prediction.plus_minus_mm)
    seat, predicted = after.seat, prediction.planned.unladen.seat_mm
    spread = prediction.seat_plus_minus_mm
    if seat is not None:
        spread = math.hypot(SEAT_MM, seat.plus_minus(after.default_tolerance_mm), spread)
    seated = None if seat is None else abs(seat.value - predicted) <= spread
    by_marks = sags if drop is None else [*sags, drop]
    judged = [s.within for s in by_marks] + ([] if seated is None else [seated])
    read = {s.end for s in by_marks}
    worked_on = {p.change.where for p in job.plan.changes if p.on}
    unread = [f"{SAGS[end]}, rider on" for end in ENDS if end in worked_on - read]
    return BikeProof(
        sags=sags,
        rear_drop=drop,
        seat_after=None if seat is None else seat.value,
        seat_predicted=predicted,
        seat_plus_minus=spread,
        seat_within=seated,
        verdict=verdict_of(judged, unread),
        unread=unread,
    )


def _drop(job: BikeJob, after: BikeMeasurements, says: float, spread: float) -> SagProof | None:
    was, now = job.measure.sag_reading("rear", "laden"), after.sag_reading("rear", "laden")
    if was is None or now is None:
        return None
    read_to = (readings.plus_minus("rear", "laden") for readings in (job.measure, after))
    plus_minus = math.hypot(SETTLED_MM, *read_to, spread)
    return SagProof(
        end="rear",
        state="laden",
        before=was,
        predicted=says,
        plus_minus=plus_minus,
        after=was - now,
        residual=was - now - says,
        within=abs(was - now - says) <= plus_minus,
    )


def outcome(job: BikeJob) -> Outcome:
    """What a job predicted and what it gave, rider on. Raises as ``assess``."""
    prediction, proof = predict_bike(job, ()), prove_bike(job)
    measured: dict[AxleName, float] = {}
    if proof.rear_drop is not None:
        # The mark tells the body against the axle; a smaller wheel lets both down.
        measured["rear"] = -prediction.rear_drop_mm - proof.rear_drop.residual
    return Outcome(
        id=job.id,
        title=job.title,
        signed_off=job.prove.sign_off.at if job.prove.sign_off else None,
        predicted={"front": -prediction.front_drop_mm, "rear": -prediction.rear_drop_mm},
        plus_minus={end: prediction.spread[end].drop for end in ENDS},
        measured=measured,
        changes=[f"{p.change.title}: {p.change.summary()}" for p in job.plan.changes if p.on],
    )


def before_and_after(job: BikeJob) -> list[BeforeAfter]:
    """Sags and the seat: as it came, as planned, as they were measured after. Raises as ``assess``."""
    prediction, proof = predict_bike(job, ()), prove_bike(job)
    proven = {(s.end, s.state): s for s in proof.sags}
    rows = []
    for end in ENDS:
        bench = prediction.sags[end]
        for state in STATES:
            says = bench.unladen_mm if state == "unladen" else bench.laden_mm
            read = proven.get((end, state))
            rows.append(
                BeforeAfter(
                    label=f"{end} sag, {'rider on' if state == 'laden' else state}", unit="mm",
                    before=job.measure.sag(end, state), planned=says,
                    plus_minus=getattr(prediction.spread[end], state),
                    after=read.after if read else None, within=read.within if read else None,
                )
            )  # fmt: skip
    seat = BeforeAfter(
        label="seat, unladen", unit="mm", before=prediction.before.unladen.seat_mm, planned=proof.seat_predicted,
        plus_minus=prediction.seat_plus_minus_mm, after=proof.seat_after, within=proof.seat_within,
    )  # fmt: skip
    return [*rows, seat]

"""Job card and alignment sheet as printable pages."""

from markupsafe import Markup

from inclinum.core.bike.card import bike_card
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.prediction import predict_bike
from inclinum.core.car.alignment import Alignment, align
from inclinum.core.car.card import Card, card
from inclinum.core.car.job import Job
from inclinum.core.car.prediction import predict
from inclinum.core.card.record import Build
from inclinum.core.card.times import NO_TIMES, Taken
from inclinum.core.quantity.words import plus_minus
from inclinum.report.drawing import side_elevation
from inclinum.report.pages import page, pdf


def _passed(build: Build) -> dict[str, str]:
    """Why holds were passed over, by step."""
    return {t.step: t.despite for t in build.ticks if t.despite}


def card_html(job: Job, taken: Taken = NO_TIMES) -> str:
    """The job card as a page. Raises as ``assess``."""
    made: Card = card(job, taken)
    prediction = predict(job, ways=False)
    phases = list(dict.fromkeys(s.phase for s in made.steps))
    return page(
        "card.html",
        card=made,
        phases=[(p, [s for s in made.steps if s.phase == p]) for p in phases],
        job=job,
        passed=_passed(job.build),
        prediction=prediction,
        elevation=Markup(side_elevation(prediction.drawing)),
    )


def bike_card_html(job: BikeJob, taken: Taken = NO_TIMES) -> str:
    """The job card of a two-wheeler as a page. Raises as ``assess``."""
    made, prediction = bike_card(job, taken), predict_bike(job, ())
    phases = list(dict.fromkeys(s.phase for s in made.steps))
    was, now, s = prediction.before, prediction.planned, prediction.steering
    lines = [
        ("Rear comes down", "", f"{prediction.rear_drop_mm:+.0f} ± {plus_minus(prediction.plus_minus_mm)}", "mm"),
        ("Rear sag", f"{was.laden.rear_sag_mm:.0f}", f"{now.laden.rear_sag_mm:.0f}", "mm"),
        ("Fork sag, along the fork", f"{was.laden.front_sag_mm:.0f}", f"{now.laden.front_sag_mm:.0f}", "mm"),
        ("Trail", f"{s.trail_before_mm:.1f}", f"{s.trail_after_mm:.1f}", "mm"),
        ("Rake", f"{s.rake_before_deg:.2f}", f"{s.rake_after_deg:.2f}", "°"),
        ("Seat", f"{prediction.reach.seat_before_mm:.0f}", f"{prediction.reach.seat_after_mm:.0f}", "mm"),
    ]
    return page(
        "bike_card.html",
        passed=_passed(job.build),
        card=made,
        phases=[(p, [t for t in made.steps if t.phase == p]) for p in phases],
        job=job,
        rows=lines,
    )


def alignment_html(job: Job) -> str:
    """The one-page alignment sheet. Raises as ``assess``."""
    alignment: Alignment = align(job)
    return page(
        "alignment.html",
        job=job,
        alignment=alignment,
        prediction=predict(job, ways=False),
        axles={a.axle: a for a in alignment.axles},
    )


def card_pdf(job: Job | BikeJob, taken: Taken = NO_TIMES) -> bytes:
    """The job card of any machine as PDF. Raises as ``assess``."""
    return pdf(card_html(job, taken) if isinstance(job, Job) else bike_card_html(job, taken))


def alignment_pdf(job: Job) -> bytes:
    """The alignment sheet as PDF. Raises as ``assess``."""
    return pdf(alignment_html(job))

"""What goes out of the shop on paper beside card and alignment sheet: quotation, labels, hand-over sheet.

Of any kind of machine: each is put together from the card and from what its kind tells of before and after.
"""

from inclinum.core.bike.job import BikeJob
from inclinum.core.car.job import Job
from inclinum.core.card.found import DECIDED
from inclinum.core.card.off import FATES
from inclinum.core.card.steps import Card
from inclinum.core.card.times import NO_TIMES, Taken
from inclinum.core.machines import card_of, kind_of, prediction_of
from inclinum.report.pages import page, pdf

AnyJob = Job | BikeJob


def quotation_html(job: AnyJob, taken: Taken = NO_TIMES) -> str:
    """Parts and hours of a plan as ranges; prices are the shop's to write in. Raises as ``card_of``."""
    made = card_of(job, taken)
    phases = list(dict.fromkeys(s.phase for s in made.steps))
    hours = [(p, *_hours([s.minutes for s in made.steps if s.phase == p])) for p in phases]
    return page(
        "quotation.html",
        job=job,
        card=made,
        changes=_changes(job),
        hours=hours,
        total=_hours([made.minutes]),
        together=max((s.people for s in made.steps), default=1),
        findings=_open(job),
    )


def labels_html(job: AnyJob) -> str:
    """A label for every part that comes off, with what becomes of it. Raises as ``card_of``."""
    made = card_of(job)
    return page("labels.html", job=job, off=made.off, fates=FATES)


def hand_over_html(job: AnyJob) -> str:
    """What the owner takes along: what was changed, measured, found and left, and when to come back.

    Raises:
        ValueError: as ``card_of``.
    """
    made: Card = card_of(job)
    holds = {s.id: s.hold for s in made.steps}
    passed = [(holds.get(t.step) or t.step, t.despite, t.by) for t in job.build.ticks if t.despite]
    return page(
        "hand_over.html",
        job=job,
        card=made,
        changes=_changes(job),
        rows=kind_of(job).before_and_after(job),
        findings=_open(job),
        passed=passed,
        found=[(f, DECIDED[f.decision]) for f in job.build.found],
        torqued=sum(not t.by_feel for t in job.build.torques),
        by_feel=sum(t.by_feel for t in job.build.torques),
    )


def _changes(job: AnyJob) -> list[tuple[str, str, str, bool]]:
    """Where, what, how much, and whether it stays: every change that is on."""
    on = [p.change for p in job.plan.changes if p.on]
    return [(c.where or "", c.title, c.summary(), job.brief.for_good(c)) for c in on]


def _open(job: AnyJob) -> list[str]:
    """What stands against the plan as it is."""
    return [f.what for f in prediction_of(job).findings if f.severity in ("stops", "fix")]


def _hours(minutes: list[tuple[float, float]]) -> tuple[float, float]:
    return sum(m[0] for m in minutes) / 60, sum(m[1] for m in minutes) / 60


def quotation_pdf(job: AnyJob, taken: Taken = NO_TIMES) -> bytes:
    """The quotation as PDF. Raises as ``card_of``."""
    return pdf(quotation_html(job, taken))


def labels_pdf(job: AnyJob) -> bytes:
    """The labels as PDF. Raises as ``card_of``."""
    return pdf(labels_html(job))


def hand_over_pdf(job: AnyJob) -> bytes:
    """The hand-over sheet as PDF. Raises as ``card_of``."""
    return pdf(hand_over_html(job))

"""Preload against its limits: loose springs, more than the spring's maker allows, a zero that cannot be believed."""

from inclinum.core.bike.limits.case import BikeCase, BikeCure, BikeFinding
from inclinum.core.bike.machine import End
from inclinum.core.plan.finding import Severity
from inclinum.core.springs.fork import CoilForkSprings


def check(case: BikeCase) -> list[BikeFinding]:
    """Both ends."""
    found = []
    bike = case.bike
    most = bike.spring.max_preload_mm
    if most is not None and bike.preload > most:
        found.append(
            _said(
                "rear", "stops", "More rear preload than the spring may have", bike.preload, most,
                "Its maker's figure; a stiffer spring needs less.", "the spring's maker",
                *_collar(case, most),
            )
        )  # fmt: skip
    if bike.preload < 0:
        found.append(
            _said(
                "rear", "fix", "The rear spring is loose at full extension", bike.preload, 0.0,
                "It rattles and can leave its seat.", "the collar",
                *_collar(case, 1.0),
            )
        )  # fmt: skip
    zero = bike.damper.threads_at_zero_mm
    if zero is not None and zero + bike.preload_mm < 0:
        found.append(
            _said(
                "rear", "stops", "The collar has no thread left to go back to", zero + bike.preload_mm, 0.0,
                "This spring with its washer is longer than the thread lets the collar go back: it has at least "
                f"{-zero:g} mm of preload.", "the thread that shows at zero",
                *_collar(case, -zero - bike.zero_hides),
            )
        )  # fmt: skip
    springs = bike.fork.springs
    if isinstance(springs, CoilForkSprings):
        preload = springs.preload()
        if preload < 0:
            spacer = max(0.0, round(springs.spacer_for(2.0), 1))
            found.append(
                _said(
                    "front", "fix", "The fork springs are loose at full extension", preload, 0.0,
                    "They rattle against the caps.", "spacer + spring − room",
                    *case.providing(f"Spacers {spacer:g} mm", "front", "fork spacer", spacer),
                )
            )  # fmt: skip
        if springs.max_preload_mm is not None and preload > springs.max_preload_mm:
            spacer = max(0.0, round(springs.spacer_for(springs.max_preload_mm), 1))
            found.append(
                _said(
                    "front", "stops", "More fork preload than the springs may have", preload, springs.max_preload_mm,
                    "Their maker's figure.", "the springs' maker",
                    *case.providing(f"Spacers {spacer:g} mm", "front", "fork spacer", spacer),
                )
            )  # fmt: skip
    if question := case.sags["rear"].zero_question:
        found.append(
            _said("rear", "know", "The zero of the rear preload is not known", 0.0, 0.0, question, "the measurement")
        )
    return found


def _collar(case: BikeCase, preload: float) -> list[BikeCure]:
    """The collar set to a shortening of the spring, where it can be counted."""
    counted = round(case.bike.counted(preload), 1)
    return case.providing(f"Preload {counted:g} mm", "rear", "rear preload", counted)


def _said(
    end: End, severity: Severity, what: str, value: float, limit: float, why: str, source: str, *cures: BikeCure
) -> BikeFinding:
    margin = value - limit if value < limit else limit - value
    return BikeFinding(
        id=f"preload.{end}.{what[:12]}", axle=end, severity=severity, what=what, value=round(value, 1), limit=limit,
        margin=round(margin, 1), unit="mm", why=why, source=source, cures=cures,
    )  # fmt: skip

"""The rear spring over its damper: its bore against the body it stands around."""

from inclinum.core.bike.limits.case import BikeCase, BikeFinding
from inclinum.core.plan.finding import Severity

RUBS_MM = 2.0
"""Our rule: a spring grows and bows as it closes; with less room than this across it rubs on the body."""
LOOSE_MM = 10.0
"""Our rule: with more than this across, the seats no longer keep it in the middle."""


def check(case: BikeCase) -> list[BikeFinding]:
    """Only where somebody measured both."""
    bore, body = case.bike.spring.inner_diameter_mm, case.bike.damper.body_diameter_mm
    if bore is None or body is None:
        return []
    room = bore - body
    across = f"{room:.1f} mm of room across"
    if room <= 0:
        why = "Its bore is smaller than the body: order one with a larger bore."
        return [_said("stops", "does not go over the damper body", bore, body, why)]
    if room < RUBS_MM:
        return [_said("fix", "rubs on the damper body", bore, body + RUBS_MM, f"It bows as it closes: {across}.")]
    if room > LOOSE_MM:
        why = f"{across}: seats or reducing rings of its bore must centre it."
        return [_said("know", "stands loosely around the damper", bore, body + LOOSE_MM, why)]
    return []


def _said(severity: Severity, what: str, value: float, limit: float, why: str) -> BikeFinding:
    margin = limit - value if severity == "know" else value - limit
    return BikeFinding(
        id="rear.bore", axle="rear", severity=severity, what=f"The rear spring {what}", value=round(value, 1),
        limit=round(limit, 1), margin=round(margin, 1), unit="mm", why=why, source="spring and damper by calliper",
    )  # fmt: skip

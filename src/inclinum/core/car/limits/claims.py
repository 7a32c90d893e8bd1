"""A claim over a standard vehicle comes on top of the sag that goes with tired springs."""

from inclinum.core.car.claims import claims_over_sag
from inclinum.core.car.limits.case import Case
from inclinum.core.car.limits.finding import Finding
from inclinum.core.quantity.words import signed


def check(case: Case) -> list[Finding]:
    """One line per claim for springs that replace ones that had sagged."""
    found = []
    for name, claim, sag in claims_over_sag(case.job, case.before, case.after):
        rise = case.after.axle(name).rise
        adds = f"adds to {sag:.0f} mm of sag" if sag > 0 else f"counts from {-sag:.0f} mm lower"
        stands = "below" if sag > 0 else "above"
        found.append(
            Finding(
                id=f"claim.{name}",
                axle=name,
                severity="know",
                what=f"The stated {signed(claim)} mm {adds}",
                value=rise,
                limit=claim,
                margin=-abs(rise - claim),
                unit="mm",
                why=f"A seller's figure is over a standard vehicle. This one stands {abs(sag):.0f} mm {stands} what it "
                f"did with healthy springs, so the owner sees {signed(rise, '.0f')} mm.",
                source="height with healthy springs against the height as found",
            )
        )
    return found

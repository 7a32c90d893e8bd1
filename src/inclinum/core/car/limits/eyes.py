"""Eyes of a damper or unit fit the bolts they go on, or have sleeves."""

from inclinum.core.car.changes.bored import FITS_MM
from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Cure, Finding
from inclinum.core.document.names import AxleName


def check(case: Case) -> list[Finding]:
    """One finding per end whose eye and bolt are known and do not match."""
    found = []
    for name, axle, _ in both_axles(case):
        damper = axle.damper
        for end, bore, bolt in (
            ("upper", damper.upper_bore_mm, damper.upper_bolt_mm),
            ("lower", damper.lower_bore_mm, damper.lower_bolt_mm),
        ):  # fmt: skip
            if bore is None or bolt is None or 0 <= bore - bolt <= FITS_MM:
                continue
            tight = bore < bolt
            found.append(
                Finding(
                    id=f"eye.{name}.{end}",
                    axle=name,
                    severity="stops" if tight else "fix",
                    what=f"{name.capitalize()} dampers, {end} eye: {bore:g} mm on a {bolt:g} mm bolt",
                    value=bore - bolt,
                    limit=0.0 if tight else FITS_MM,
                    margin=bore - bolt if tight else FITS_MM - (bore - bolt),
                    unit="mm",
                    why="It does not go on. A bolt of another size is its maker's matter; nothing is drilled out."
                    if tight
                    else f"It knocks, and the bolt bends. Sleeves {bore:g} × {bolt:g} mm, as long as the eye is wide.",
                    source="bore of the eye, diameter of its bolt",
                    cures=() if tight else tuple(_sleeved(case, name)),
                )
            )
    return found


def _sleeved(case: Case, name: AxleName) -> list[Cure]:
    return [
        case.replacing(f"{name.capitalize()} sleeves ordered with the {p.change.title.lower()}", p, with_them)
        for p in case.changes
        if p.on and p.change.axle == name and (with_them := p.change.with_sleeves()) is not None
    ]

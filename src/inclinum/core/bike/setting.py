"""A laden sag dragged to where it should be: the plan with the preload, or the spacers, that give it."""

from inclinum.core.bike.limits import BikeCase, BikeCure
from inclinum.core.bike.machine import End
from inclinum.core.bike.sag import preload_for_sag
from inclinum.core.document.errors import DomainError


def set_sag(case: BikeCase, end: End, sag: float) -> BikeCure:
    """The plan that puts the laden sag of an end at a value, mm.

    Raises:
        ValueError: nothing that can be set gives it, with the reason.
    """
    preload, spacer = preload_for_sag(case.after, sag, end)
    if end == "rear":
        if preload is None:
            raise DomainError(f"{sag:.0f} mm is beyond the rear's travel.")
        counted = round(case.bike.counted(preload), 1)
        if counted < 0:
            most = case.after.rear.on_spring(preload=-case.bike.zero_hides).at(case.after.loads.rear_laden).sag
            raise DomainError(f"With no preload at all it sags {most:.0f} mm; more takes a softer spring.")
        return case.providing(f"Preload {counted:g} mm", "rear", "rear preload", min(counted, 100.0))[0]
    if spacer is None:
        raise DomainError("No spacer gives that: the fork stands on air, or the sag is beyond its travel.")
    if spacer < 0:
        raise DomainError("Even without a spacer the springs hold it higher; more sag takes softer springs.")
    return case.providing(f"Spacers {spacer:.1f} mm", "front", "fork spacer", round(min(spacer, 500.0), 1))[0]

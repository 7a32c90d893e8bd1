"""“Keep the steering as it was”: the fork raise that leaves the trail unchanged, clipped to what the fork allows."""

import math

import numpy as np

from inclinum.core.bike.stance import BikeStance
from inclinum.core.document import Document
from inclinum.core.kinematics import attitude

NOTICED_MM = 1.5
"""Our rule: less change of trail than this is not felt, and is within what a tape gives."""


class Steering(Document):
    """What the fork has to do, rider on, mm and degrees."""

    trail_before_mm: float
    trail_after_mm: float
    rake_before_deg: float
    rake_after_deg: float
    raise_wanted_mm: float
    """Tubes above the top clamp that would leave the trail as it was."""
    raise_allowed_mm: float
    """The same, within the clamp zone and the clearance when bottomed."""
    raise_now_mm: float
    trail_left_mm: float
    """What remains of the change at the allowed raise."""
    kept: bool
    """Whether the trail is as it was, as far as anybody would notice."""
    clipped: bool
    clipped_by: str
    supplier_raise_mm: float | None
    trail_by_supplier_mm: float | None
    """Trail with the supplier's fixed figure."""


def steering(came: BikeStance, planned: BikeStance, supplier: float | None) -> Steering:
    """The steering of the planned machine against what it was, with the rider on."""
    before, after = came.attitude("laden", came), planned.attitude("laden", came)
    bike, fork, was = planned.bike, planned.bike.fork, came.bike
    rake0 = math.radians(was.rake_deg)

    def trail_at(raised: float) -> float:
        lower = (raised - fork.raised_mm) * math.cos(rake0)
        change = attitude.rake_change(after.front_drop + lower, after.rear_drop, was.wheelbase_mm)
        return float(attitude.trail(bike.front_tyre_radius_mm, bike.offset_mm, rake0 + change))

    wanted_rake = attitude.rake_of_trail(bike.front_tyre_radius_mm, bike.offset_mm, before.trail)
    drop = after.rear_drop - was.wheelbase_mm * np.tan(wanted_rake - rake0)
    wanted = fork.raised_mm + float(drop - after.front_drop) / math.cos(rake0)
    low, high, by = fork.raised_mm, fork.raised_mm, "a single crown is not raised in clamps"
    if fork.crown == "double":
        low, high = fork.raise_least_mm, max(fork.most_raise, fork.raise_least_mm)
        by = "where the tube steps" if fork.most_raise >= fork.raise_most_mm else "the clearance when bottomed"
        if wanted < low:
            by = "the lower end of the clamp zone"
    allowed = float(np.clip(wanted, low, high))
    clipped = abs(allowed - wanted) > 0.05
    return Steering(
        trail_before_mm=before.trail,
        trail_after_mm=after.trail,
        rake_before_deg=math.degrees(before.rake),
        rake_after_deg=math.degrees(after.rake),
        raise_wanted_mm=wanted,
        raise_allowed_mm=allowed,
        raise_now_mm=fork.raised_mm,
        trail_left_mm=trail_at(allowed) - before.trail,
        kept=abs(after.trail - before.trail) <= NOTICED_MM,
        clipped=clipped,
        clipped_by=by if clipped else "",
        supplier_raise_mm=supplier,
        trail_by_supplier_mm=None if supplier is None else trail_at(supplier),
    )

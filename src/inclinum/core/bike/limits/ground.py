"""Ground clearance at named points, and the chain over the travel."""

import numpy as np

from inclinum.core.bike.limits.case import BikeCase, BikeFinding
from inclinum.core.bike.stance import Attitude
from inclinum.core.kinematics import attitude
from inclinum.core.kinematics.rear_end import chain_slack_change
from inclinum.core.plan import Severity

KEPT_SHARE = 0.85
"""Our rule: a machine that loses more than this much of its clearance grounds where it did not."""


def check(case: BikeCase) -> list[BikeFinding]:
    """Clearances under the rider, then the chain."""
    came = case.before
    was, now = came.attitude("laden", came), case.attitude
    found = []
    heights = {p.name: p.height_mm for p in came.bike.clearances}
    for point in case.bike.clearances:

        def over_ground(height: float, a: Attitude, x: float = point.x_mm) -> float:
            return height - float(attitude.drop_at(x, a.front_drop, a.rear_drop, came.bike.wheelbase_mm))

        before, after = over_ground(heights[point.name], was), over_ground(point.height_mm, now)
        least = KEPT_SHARE * before if point.keep_mm is None else point.keep_mm
        if after < least:
            found.append(
                BikeFinding(
                    id=f"ground.{point.name}", axle=None, severity=_severity(after, point.keep_mm),
                    what=f"{point.name.capitalize()} comes close to the ground", value=round(after, 0),
                    limit=round(least, 0), margin=round(after - least, 0), unit="mm",
                    why=f"{before:.0f} mm with the rider on before, {after:.0f} mm as planned.",
                    source="the machine as measured",
                )
            )  # fmt: skip
    return [*found, *_chain(case)]


def _severity(after: float, keep: float | None) -> Severity:
    if after <= 0:
        return "stops"
    return "know" if keep is None else "fix"


def _chain(case: BikeCase) -> list[BikeFinding]:
    drive = case.bike.drive
    if drive.sprocket is None:
        return []
    points = case.after.rear_points
    slack = chain_slack_change(drive.sprocket, np.stack([p["axle"] for p in points.values()]))
    tightest = list(points)[int(slack.argmax())]
    spare = abs(float(slack[list(points).index("unladen")]))
    return [
        BikeFinding(
            id="chain", axle="rear", severity="know", what=f"The chain is tightest {_WORDS[tightest]}",
            value=round(spare, 1), limit=0.0, margin=round(spare, 1), unit="mm",
            why=f"Set its slack there; unladen the axle is then {spare:.1f} mm nearer the sprocket.",
            source="axle path and front sprocket",
        )
    ]  # fmt: skip


_WORDS = {"extended": "fully extended", "unladen": "unladen", "laden": "with the rider on", "full": "at full bump"}

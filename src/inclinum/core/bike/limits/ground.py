"""Ground clearance at named points, and the chain over the travel."""

import numpy as np

from inclinum.core.bike.limits.case import BikeCase, BikeFinding
from inclinum.core.kinematics import attitude
from inclinum.core.kinematics.rear_end import chain_slack_change

KEPT_SHARE = 0.85
"""Our rule: a machine that loses more than this much of its clearance grounds where it did not."""


def check(case: BikeCase) -> list[BikeFinding]:
    """Clearances under the rider, then the chain."""
    came = case.before
    was, now = came.attitude("laden", came), case.attitude
    found = []
    for point in came.bike.clearances:
        before, after = (
            point.height_mm - float(attitude.drop_at(point.x_mm, a.front_drop, a.rear_drop, came.bike.wheelbase_mm))
            for a in (was, now)
        )
        if after < KEPT_SHARE * before:
            found.append(
                BikeFinding(
                    id=f"ground.{point.name}", axle=None, severity="stops" if after <= 0 else "know",
                    what=f"{point.name.capitalize()} comes close to the ground", value=round(after, 0),
                    limit=round(KEPT_SHARE * before, 0), margin=round(after - KEPT_SHARE * before, 0), unit="mm",
                    why=f"{before:.0f} mm with the rider on before, {after:.0f} mm as planned.",
                    source="the machine as measured",
                )
            )  # fmt: skip
    return [*found, *_chain(case)]


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

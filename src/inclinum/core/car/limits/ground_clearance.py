"""Ground clearance where it is wanted, and what hangs lowest once that is out of the way."""

from inclinum.core.car.ground import ground_points
from inclinum.core.car.limits.case import Case
from inclinum.core.car.limits.finding import Finding
from inclinum.core.document.names import AxleName


def check(case: Case) -> list[Finding]:
    """Places that come lower than is to be kept there; and which one is lowest, when the plan changes which."""
    points = ground_points(case.job, case.before, case.after)
    found = []
    for point in points:
        keep = point.station.keep_mm
        assert keep is not None, "only such places are ground points"
        if point.after >= keep:
            continue
        ends: dict[str, AxleName] = {"front_axle": "front", "rear_axle": "rear"}
        axle = ends.get(point.station.on) or (
            "front" if point.station.x_mm > -case.after.vehicle.wheelbase_mm / 2 else "rear"
        )
        moves = point.station.on == "body"
        found.append(
            Finding(
                id=f"ground.{point.station.name}",
                axle=axle,
                severity="fix",
                what=f"“{point.station.name}” stands {point.after:.0f} mm above the ground",
                value=point.after,
                limit=keep,
                margin=point.after - keep,
                unit="mm",
                why=f"{keep:g} mm are to be kept there; it was {point.before:.0f} mm. "
                + (
                    "Taller springs, or the other end with it."
                    if moves
                    else "It hangs on the axle: only a bigger tyre lifts it, or moving it on the axle."
                ),
                source="clearance wanted, from the vehicle's data",
                wanted_rise=case.after.axle(axle).rise + keep - point.after if moves else None,
            )
        )
    return found + _lowest(case)


def _lowest(case: Case) -> list[Finding]:
    points = ground_points(case.job, case.before, case.after)
    if len(points) < 2:
        return []
    first, second = points[:2]
    was = min(points, key=lambda p: p.before)
    moved = f" Before it was “{was.station.name}”." if was is not first else ""
    return [
        Finding(
            id="lowest",
            axle=None,
            severity="know",
            what=f"Lowest is “{first.station.name}” at {first.after:.0f} mm",
            value=first.after,
            limit=second.after,
            margin=0.0,
            unit="mm",
            why=f"Next comes “{second.station.name}” at {second.after:.0f} mm: where the first is moved or cut "
            "away, that "
            f"one is hit.{moved}",
            source="places with a clearance to keep",
        )
    ]

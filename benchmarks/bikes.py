"""What the whole prediction of a two-wheeler costs. Run: .venv/bin/python benchmarks/bikes.py

Every run gets another link, as while one is dragged, so that no geometry is remembered; beside it the same job with
its geometry remembered, and one plain solve of the same linkage at its positions as a yardstick.
"""

import statistics
import time
from collections.abc import Callable

import numpy as np

from inclinum.api.collector import settle
from inclinum.core.bike.changes import PlannedBikeChange, begin
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.prediction import assess, predict_bike
from inclinum.demo import demo_bike_jobs

RUNS = 80
MORE = (
    "rear_damper", "rear_spring", "fork_raise", "side_stand", "seat_foam",
    "rear_preload", "fork_springs", "fork_oil", "fork_spacer", "tyres", "part_moved",
)  # fmt: skip
"""Stacked on the link, which is the first."""


def median(work: Callable[[int], object]) -> tuple[float, float]:
    """Median and 95th percentile of many runs after a warm-up, ms."""
    work(0)
    times = []
    for n in range(1, RUNS):
        start = time.perf_counter()
        work(n)
        times.append(1e3 * (time.perf_counter() - start))
    return statistics.median(times), float(np.quantile(times, 0.95))


def main() -> None:
    """Print the table."""
    job = demo_bike_jobs()[-1]
    planned = job.plan.changes[0]

    def dragged(n: float, more: tuple[PlannedBikeChange, ...] = ()) -> object:
        change = planned.change.model_copy(update={"rod_mm": planned.change.rod_mm + 0.01 * n})  # type: ignore[union-attr]
        stack = (planned.model_copy(update={"change": change}), *more)
        # As the screen asks while a part is dragged: the machine is drawn as it is looked at, no ways to a height.
        stacked = job.model_copy(update={"plan": job.plan.model_copy(update={"changes": stack})})
        return predict_bike(stacked, ("laden",), ways=False)

    stack = (planned,)
    for kind in MORE:
        stack = (*stack, begin(kind, assess(job).fitted.bike, stack))

    settle()  # as the server does before it serves
    rear = assess(job).after.bike.rear
    linkage = Bike.model_validate(job.vehicle.model_dump()).rear.linkage()
    rise = np.linspace(0.0, 190.0, 39)
    yardstick = median(lambda _: linkage.poses(rise))
    print(f"{'':44}{'median':>10}{'95 %':>10}   wanted")
    for name, (middle, high), wanted in (
        ("whole prediction, the link dragged", median(dragged), "10 ms"),
        ("six changes, the link dragged", median(lambda n: dragged(n + 0.5, stack[1:6])), "10 ms"),
        ("twelve changes, the link dragged", median(lambda n: dragged(n + 0.25, stack[1:])), "10 ms"),
        ("whole prediction, nothing new", median(lambda _: predict_bike(job, ("laden",))), ""),
        (f"yardstick: {rise.size} positions of a {rear.kind.replace('_', ' ')}", yardstick, ""),
    ):
        print(f"{name:44}{middle:7.1f} ms{high:7.1f} ms   {wanted}")


if __name__ == "__main__":
    main()

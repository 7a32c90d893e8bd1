"""What the whole prediction of a two-wheeler costs. Run: .venv/bin/python benchmarks/bikes.py

Every run gets another link, as while one is dragged, so that no geometry is remembered; beside it the same job with
its geometry remembered, and one plain solve of the same linkage at its positions as a yardstick. They take turns, one
run each: on a machine whose minutes are quick and slow all of them have the same ones.
"""

import statistics
import time
from collections.abc import Callable, Sequence

import numpy as np

from inclinum.api.collector import settle
from inclinum.core.bike.changes import PlannedBikeChange, begin
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.prediction import assess, predict_bike
from inclinum.demo import demo_bike_jobs

RUNS = 150
MORE = (
    "rear_damper", "rear_spring", "fork_raise", "side_stand", "seat_foam",
    "rear_preload", "fork_springs", "fork_oil", "fork_spacer", "tyres", "part_moved",
)  # fmt: skip
"""Stacked on the link, which is the first."""


def in_turn(works: Sequence[Callable[[int], object]]) -> list[list[float]]:
    """Times of many runs of each after a warm-up, ms."""
    times: list[list[float]] = [[] for _ in works]
    for n in range(RUNS + 1):
        for work, took in zip(works, times, strict=True):
            start = time.perf_counter()
            work(n)
            took.append(1e3 * (time.perf_counter() - start))
    return [took[1:] for took in times]


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
    measured: tuple[tuple[str, Callable[[int], object], str], ...] = (
        ("whole prediction, the link dragged", dragged, "10 ms"),
        ("six changes, the link dragged", lambda n: dragged(n + 0.5, stack[1:6]), "10 ms"),
        ("twelve changes, the link dragged", lambda n: dragged(n + 0.25, stack[1:]), "10 ms"),
        ("whole prediction, nothing new", lambda _: predict_bike(job, ("laden",)), ""),
        (f"yardstick: {rise.size} positions of a {rear.kind.replace('_', ' ')}", lambda _: linkage.poses(rise), ""),
    )
    print(f"{'':44}{'median':>10}{'95 %':>10}{'yardsticks':>13}   wanted")
    every = in_turn([work for _, work, _ in measured])
    for (name, _, wanted), took in zip(measured, every, strict=True):
        many = statistics.median(a / b for a, b in zip(took, every[-1], strict=True))
        print(f"{name:44}{statistics.median(took):7.1f} ms{np.quantile(took, 0.95):7.1f} ms{many:13.1f}   {wanted}")


if __name__ == "__main__":
    main()

"""How long a whole prediction takes on the server, and over HTTP. Run: .venv/bin/python benchmarks/prediction.py

Machines differ and are noisy: next to each time stands its ratio to a fixed piece of arithmetic (stacked 6×6 solves)
timed in the same run. The budget of a live drag is 60 ms for the 95th percentile on the server. While something is
dragged no ways to a missed height are sought; they are once it is let go.
"""

import statistics
import time
from collections.abc import Callable

import numpy as np

from inclinum.api.collector import settle
from inclinum.core.car.changes import PlannedChange, StrutTopSpacer
from inclinum.core.car.job import Job, Plan
from inclinum.core.car.prediction import predict
from inclinum.demo import demo_jobs

RUNS = 200
BUDGET_MS = 60.0


def milliseconds(work: Callable[[int], object], runs: int = RUNS) -> list[float]:
    """Time of each of several runs, after a warm-up, ms."""
    for n in range(5):
        work(n)
    times = []
    for n in range(runs):
        start = time.perf_counter()
        work(n)
        times.append(1000 * (time.perf_counter() - start))
    return times


def dragged(job: Job, n: int) -> Job:
    """The job with its spacer at another thickness each time, so that nothing is answered from memory."""
    spacer = StrutTopSpacer(axle="front", thickness_mm=5 + (n % 100) / 8)
    changes = (*job.plan.changes, PlannedChange.model_validate({"id": "drag", "change": spacer}))
    return job.model_copy(update={"plan": Plan(changes=changes)})


def twelve(job: Job, n: int) -> Job:
    """The same on a stack of twelve changes."""
    more = tuple(
        PlannedChange.model_validate(
            {"id": f"drag{i}", "change": StrutTopSpacer(axle="front", thickness_mm=2 + ((n + i) % 100) / 80)}
        )
        for i in range(12 - len(job.plan.changes))
    )
    return job.model_copy(update={"plan": Plan(changes=(*job.plan.changes, *more))})


def main() -> None:
    """Print the table."""
    job = demo_jobs()[-1]
    settle()  # as the server does before it serves
    rng = np.random.default_rng(1)
    matrices, right = rng.standard_normal((20_000, 6, 6)) + 6 * np.eye(6), rng.standard_normal((20_000, 6, 1))
    yardstick = statistics.median(milliseconds(lambda _: np.linalg.solve(matrices, right), 20))
    body = [dragged(job, n).model_dump_json() for n in range(100)]
    rows = {
        "prediction, spacer dragged": milliseconds(lambda n: predict(dragged(job, n), ways=False)),
        "on a stack of twelve changes": milliseconds(lambda n: predict(twelve(job, n), ways=False)),
        "the same from JSON to JSON": milliseconds(
            lambda n: predict(Job.model_validate_json(body[n % 100]), ways=False).model_dump_json()
        ),
        "let go: with ways to the height": milliseconds(lambda n: predict(dragged(job, n))),
        "the same on twelve changes": milliseconds(lambda n: predict(twelve(job, n))),
    }
    print(f"yardstick: 20,000 stacked 6×6 solves {yardstick:.1f} ms")
    print(f"{'':34}{'median':>9}{'95 %':>9}{'/ yardstick':>13}")
    for name, times in rows.items():
        p95 = float(np.percentile(times, 95))
        verdict = "" if p95 < BUDGET_MS else f"   over the budget of {BUDGET_MS:.0f} ms"
        print(
            f"{name:34}{statistics.median(times):8.1f} {p95:8.1f} {statistics.median(times) / yardstick:12.2f}{verdict}"
        )


if __name__ == "__main__":
    main()

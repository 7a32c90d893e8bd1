"""What the batched linkage solver gains over one position at a time. Run: .venv/bin/python benchmarks/linkage.py

Everything is measured in one run beside two yardsticks: ``scipy.optimize.root`` on the same constraints, position by
position, and the floor, the stacked 6×6 solves alone. Machines differ: compare the ratios.
"""

import statistics
import time
import tracemalloc
from collections.abc import Callable

import numpy as np
from scipy.optimize import root

from inclinum.api.collector import settle
from inclinum.core.car.archetypes import ARCHETYPES, SIZES
from inclinum.core.car.draws import sample_vehicle
from inclinum.core.equilibrium.body import LinearCorner, SprungBody, centre_of
from inclinum.core.kinematics import Adjustment, Corner
from inclinum.core.kinematics.body import _LEVER_MM, _System
from inclinum.core.kinematics.rigid import Array, rotation
from inclinum.demo import demo_jobs

POSITIONS, SAMPLES, FEW = 61, 4000, 9
TRAVEL = np.linspace(-75.0, 75.0, POSITIONS)


def median(work: Callable[[], object], runs: int) -> float:
    """Median time of several runs after a warm-up, s."""
    work()
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return statistics.median(times)


def one_by_one(corner: Corner, travel: Array) -> Array:
    """Every position by a general root finder, warm-started from the one before: centre and turn, (N, 6)."""
    system = _System(corner.body, 1, Adjustment())  # type: ignore[arg-type]
    row = np.zeros(1, dtype=int)

    def residual(x: Array, z: float) -> Array:
        turn = rotation(x[3:] / _LEVER_MM)[None]
        return system.residual_and_jacobian(np.array([[z]]), row, (system.centre0 + x[:3])[None], turn)[0][0]

    found = np.zeros((travel.size, 6))
    order = np.argsort(np.abs(travel))
    for n, i in enumerate(order):
        near = found[order[np.argmin(np.abs(travel[order[:n]] - travel[i]))]] if n else np.zeros(6)
        near = np.where(np.abs(near) < 1e-3, 1e-3, near)  # its numeric slopes need something to take a share of
        found[i] = root(residual, near, args=(travel[i],), tol=1e-10).x
    return found


def floor(count: int) -> float:
    """Stacked 6×6 solves alone, s per system."""
    rng = np.random.default_rng(1)
    matrices, right = rng.standard_normal((count, 6, 6)) + 6 * np.eye(6), rng.standard_normal((count, 6, 1))
    return median(lambda: np.linalg.solve(matrices, right), 15) / count


def whole_vehicle(front: Corner, rear: Corner) -> object:
    """Four corners over 61 positions with all angles, both sides of an axle in one batch, and the body at rest."""
    motions = [c.sweep(np.concatenate([TRAVEL, TRAVEL[::-1]])) for c in (front, rear)]
    loads = np.array([3900.0, 3900.0, 3100.0, 3100.0])
    x, y = np.array([0.0, 0.0, -2690.0, -2690.0]), np.array([765.0, -765.0, 765.0, -765.0])
    weight, cx, cy = centre_of(loads * [1.02, 0.98, 1.0, 1.0], x, y)
    body = SprungBody([LinearCorner(f, 24.0) for f in loads], x, y)
    return motions, body.rest(weight, (cx, cy))


def main() -> None:
    """Print the table."""
    settle()  # as the server does before it serves
    size = SIZES["car"]
    five = ARCHETYPES["five_link"].linkage(size).corner(size.tyre_radius_mm, -0.01, 0.002)
    base = floor(20_000)
    alone = median(lambda: one_by_one(five, TRAVEL), 3)
    swept = median(lambda: five.body.poses(TRAVEL), 60)
    exact = five.body.poses(TRAVEL).centre - five.body.poses(np.zeros(1)).centre
    assert np.abs(one_by_one(five, TRAVEL)[:, :3] - exact).max() < 1e-5, "both must find the same positions"

    rng = np.random.default_rng(2)
    few = np.linspace(-60.0, 60.0, FEW)
    names = [n for n in five.body.points if n.endswith(("_inner", "_outer"))]

    def sampled(count: int) -> Adjustment:
        return Adjustment({n: rng.normal(0, 2.0, (count, 3)) for n in names}, placed_anew=True)

    many = sampled(SAMPLES)
    fewer = sampled(SAMPLES // 2)
    pairs = [
        (median(lambda: five.body.poses(few, many), 1), median(lambda: five.body.poses(few, fewer), 1))
        for _ in range(9)
    ]
    batch, half = (statistics.median(p[i] for p in pairs) for i in (0, 1))
    front = ARCHETYPES["wishbones"].linkage(size).corner(size.tyre_radius_mm, -0.01, 0.002)
    vehicle = median(lambda: whole_vehicle(front, five), 60)
    job = demo_jobs()[-1]
    uncertain = median(lambda: sample_vehicle(job, SAMPLES), 3)
    tracemalloc.start()
    sample_vehicle(job, SAMPLES)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()

    per, per_batch = swept / POSITIONS, batch / (SAMPLES * FEW)
    per_alone = alone / POSITIONS
    print(f"floor: one stacked 6×6 solve {1e6 * base:.2f} µs")
    print(f"one position by scipy.optimize.root {1e6 * per_alone:.0f} µs")
    print(f"{'':58}{'time':>10}{'times faster':>14}{'× floor':>9}   wanted")
    rows = (
        (f"five-link, {POSITIONS} positions", swept, per_alone / per, per / base, "40 times"),
        (
            f"five-link, {SAMPLES} samples × {FEW} positions",
            batch,
            per_alone / per_batch,
            per_batch / base,
            "150 times",
        ),
    )
    for name, took, faster, over, wanted in rows:
        print(f"{name:58}{1e3 * took:8.1f} ms{faster:14.0f}{over:9.1f}   {wanted}")
    print(f"{'cost of twice the samples':58}{batch / half:8.2f} ×{'':23}   2 or less")
    print(f"{'whole vehicle, 4 × 61 positions, angles and rest':58}{1e3 * vehicle:8.1f} ms{'':23}   8 ms")
    print(f"{'whole vehicle, 4000-sample uncertainty':58}{1e3 * uncertain:8.0f} ms{'':23}   2000 ms")
    print(f"{'its memory at most':58}{peak / 1e6:8.0f} MB{'':23}   400 MB")


if __name__ == "__main__":
    main()

"""Ten thousand jobs: lists, opening, outcomes and saves over HTTP in this process, and how PostgreSQL goes about it.

Times are told beside a yardstick of the same minute; the plans are printed to be looked at.

    .venv/bin/python benchmarks/store.py [JOBS]
"""

import statistics
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from fastapi.testclient import TestClient
from sqlalchemy import text

from inclinum.api.app import create_app
from inclinum.launch.cluster import Cluster
from inclinum.launch.demo import load_demo
from inclinum.store.database import migrate, open_engine

WHO = {"x-acting-person": "Ines%20Tarrow"}
VAN = "van-2025-front-springs"
IN_HAND = "van-2026-washed-out-track"
COPIES = (
    (
        "job", "id",
        "id || '-' || n AS id, title || ' ' || n AS title, created_at - n * interval '1 hour' AS created_at",
    ),
    ("stage", "job_id", "job_id || '-' || n AS job_id"),
    *(
        (table, "job_id", f"nextval(pg_get_serial_sequence('{table}', 'id')) AS id, job_id || '-' || n AS job_id")
        for table in ("measurement", "torque_record", "event")
    ),
)  # fmt: skip
WANTED_MS = {"list of jobs": 60, "last page": 60, "open a job": 120, "outcomes": 100}


def copied(table: str, key: str, changed: str) -> str:
    """SQL that copies the demo's rows of a table once for each number."""
    names = [part.rsplit(" AS ", 1)[1] for part in changed.split(", ") if " AS " in part]
    changed_columns = ", ".join(names)
    return f"""
        INSERT INTO {table} ({changed_columns}, :rest)
        SELECT {changed}, :rest FROM {table}, generate_series(1, :n) n WHERE {key} IN (SELECT id FROM first)
    """


def main() -> None:
    """Fill, ask, tell."""
    jobs = int(sys.argv[1]) if len(sys.argv) > 1 else 10_000
    with tempfile.TemporaryDirectory(prefix="inclinum-bench-") as folder:
        Path(folder).chmod(0o755)
        cluster = Cluster(Path(folder))
        cluster.create()
        cluster.start()
        try:
            migrate(cluster.url)
            engine = open_engine(cluster.url)
            load_demo(engine)
            with engine.begin() as connection:
                connection.execute(text("SET LOCAL statement_timeout = 0"))
                connection.execute(text("CREATE TEMP TABLE first AS SELECT id FROM job"))
                many = jobs // connection.execute(text("SELECT count(*) FROM first")).scalar_one()
                for table, key, changed in COPIES:
                    names = {part.rsplit(" AS ", 1)[1] for part in changed.split(", ") if " AS " in part}
                    rest = [
                        c for c in connection.execute(
                            text("SELECT column_name FROM information_schema.columns WHERE table_name = :t"
                                 " AND table_schema = 'public'"), {"t": table}
                        ).scalars() if c not in names
                    ]  # fmt: skip
                    sql = copied(table, key, changed).replace(":rest", ", ".join(f'"{c}"' for c in rest))
                    connection.execute(text(sql), {"n": many})
            with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
                connection.execute(text("VACUUM ANALYZE"))
                total = connection.execute(text("SELECT count(*) FROM job")).scalar_one()
            ask(engine, total)
        finally:
            cluster.stop()


def ask(engine, total: int) -> None:
    """Every question many times, and what the database makes of it."""
    with TestClient(create_app(engine), "http://127.0.0.1", headers=WHO) as client:
        version = [client.get(f"/api/jobs/{IN_HAND}").json()["versions"]["plan"]]
        plan = client.get(f"/api/jobs/{IN_HAND}").json()["job"]["plan"]

        def save() -> None:
            plan["override"] = f"{time.perf_counter()}"
            body = {"kind": "car", "version": version[0], "section": plan}
            answer = client.put(f"/api/jobs/{IN_HAND}/plan", json=body)
            version[0] = answer.json()["version"]

        def get(address: str) -> Callable[[], object]:
            return lambda: client.get(address).raise_for_status()

        questions: dict[str, Callable[[], object]] = {
            "list of jobs": get("/api/jobs"),
            "last page": get(f"/api/jobs?offset={total - 50}"),
            "by title": get("/api/jobs?order=title"),
            "its last page": get(f"/api/jobs?order=title&offset={total - 50}"),
            "last saved": get("/api/jobs?order=saved"),
            "its end": get(f"/api/jobs?order=saved&offset={total - 50}"),
            "search": get("/api/jobs?words=washed+9999"),
            "vehicles": get("/api/vehicles"),
            "open a job": get(f"/api/jobs/{VAN}"),
            "outcomes": get(f"/api/jobs/{VAN}/outcomes"),
            "save a stage": save,
        }
        began = time.perf_counter()
        client.get(f"/api/jobs/{VAN}/outcomes").raise_for_status()
        print(f"{total} jobs; outcomes when first asked for: {time.perf_counter() - began:.1f} s")
        print(f"{'':14} {'median':>8} {'p95':>8} {'wanted':>7}   times the yardstick")
        for name, question in questions.items():
            took, yards = [], []
            for _ in range(60):
                began = time.perf_counter()
                question()
                took.append(1000 * (time.perf_counter() - began))
                began = time.perf_counter()
                sum(n * n for n in range(20_000))
                yards.append(1000 * (time.perf_counter() - began))
            cut = sorted(took)
            ratio = statistics.median(took) / statistics.median(yards)
            print(f"{name:14} {statistics.median(cut):8.1f} {cut[56]:8.1f} {WANTED_MS.get(name, ''):>7}   {ratio:5.1f}")
    plans = {
        "open jobs": "SELECT id FROM job WHERE signed_off IS NULL ORDER BY due ASC, title, id LIMIT 50",
        "finished jobs": "SELECT id FROM job WHERE signed_off IS NOT NULL ORDER BY signed_off DESC, id LIMIT 50",
        "jobs of a vehicle": "SELECT id FROM job WHERE vehicle_id = 1 ORDER BY created_at DESC, id DESC LIMIT 40",
        "lines of a job": f"SELECT what FROM event WHERE job_id = '{VAN}' ORDER BY id DESC LIMIT 200",
        "newest brief": "SELECT s.document FROM stage s JOIN job j ON j.id = s.job_id WHERE s.name = 'brief' AND "
        "j.wheels = 4 ORDER BY j.created_at DESC, j.id DESC LIMIT 5",
    }
    with engine.connect() as connection:
        for name, sql in plans.items():
            lines = connection.execute(text(f"EXPLAIN (ANALYZE, COSTS OFF, TIMING OFF) {sql}")).scalars().all()
            print(f"\n{name}\n  " + "\n  ".join(lines[:6]))


if __name__ == "__main__":
    main()

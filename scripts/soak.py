"""A start of one's own under many hands: writers, readers, predictions, imports, and kills of server and database.

Each writer has a stage of a job to itself in which it counts on; every count that was acknowledged has to be in that
job's history once, in order, and the last of them in the job. Bounded in time, requests and clients; loopback only.
"""

import argparse
import asyncio
import json
import os
import random
import signal
import statistics
import subprocess
import sys
import tempfile
import time
from collections import Counter, defaultdict
from contextlib import AsyncExitStack, suppress
from pathlib import Path
from typing import Any

import httpx

from inclinum.launch.cluster import free_port
from scripts import soak_hands

WHO = {"x-acting-person": "Ines%20Tarrow"}
MOST_REQUESTS = 400_000
COME_WITHIN_S = 10
"""Clients come one by one."""
STAGES = ("brief", "measure", "plan", "align", "prove")
FIELD = {"brief": "purpose", "measure": "note", "plan": "override", "align": "note", "prove": None}
PASSES = (httpx.TransportError, httpx.TimeoutException)


class Soak:
    """One run."""

    def __init__(self, chosen: argparse.Namespace, folder: Path):
        self.chosen, self.folder = chosen, folder
        self.port = free_port()
        self.address = f"http://127.0.0.1:{self.port}"
        self.until = 0.0
        self.requests = 0
        self.took: dict[str, list[float]] = defaultdict(list)
        self.statuses: Counter[str] = Counter()
        self.wrong: list[str] = []
        self.acknowledged: dict[tuple[str, str], list[int]] = defaultdict(list)
        self.unsure: dict[tuple[str, str], set[int]] = defaultdict(set)
        self.kills: Counter[str] = Counter()
        self.memory: list[tuple[float, int]] = []
        self.jobs: list[str] = []
        self.told = ""

    # --- the application ---

    def start(self) -> None:
        out = (self.folder / "out.log").open("wb")
        self.process = subprocess.Popen(
            [sys.executable, "-m", "inclinum.launch", "--port", str(self.port), "--data", str(self.folder / "data")],
            stdout=out, stderr=out, start_new_session=True,
        )  # fmt: skip
        for _ in range(600):
            with suppress(httpx.HTTPError):
                if httpx.get(f"{self.address}/api/shop", timeout=5).status_code == 200:
                    return
            time.sleep(0.2)
        raise SystemExit(f"It does not start; see {out.name}")

    def postmaster(self) -> int:
        return int((self.folder / "data" / "cluster" / "postmaster.pid").read_text().split()[0])

    def server(self) -> int:
        children = Path(f"/proc/{self.process.pid}/task/{self.process.pid}/children").read_text().split()
        return next(int(c) for c in children if int(c) != self.postmaster())

    def workers(self) -> list[int]:
        server = self.server()
        return [int(c) for c in Path(f"/proc/{server}/task/{server}/children").read_text().split()]

    # --- asking ---

    async def ask(
        self, client: httpx.AsyncClient, kind: str, method: str, address: str, **given: Any
    ) -> httpx.Response | None:
        """An answer, or None where the server was away; what is neither success, 409 nor away is noted as wrong."""
        self.requests += 1
        began = time.perf_counter()
        try:
            answer = await client.request(method, address, **given)
        except PASSES as error:
            self.statuses[f"{kind}: away ({type(error).__name__})"] += 1
            if not self.chosen.kills:
                self.wrong.append(f"{kind} {address}: {type(error).__name__}")
            await asyncio.sleep(0.5)
            return None
        self.took[kind].append(time.perf_counter() - began)
        self.statuses[f"{kind}: {answer.status_code}"] += 1
        if answer.status_code == 503:
            if not self.chosen.kills:
                self.wrong.append(f"{kind} {address}: 503 {answer.text[:200]}")
            await asyncio.sleep(0.5)
            return None
        if answer.status_code not in (200, 204, 409):
            self.wrong.append(f"{kind} {method} {address}: {answer.status_code} {answer.text[:200]}")
        return answer

    def goes_on(self) -> bool:
        return time.monotonic() < self.until and self.requests < MOST_REQUESTS

    async def pause(self) -> None:
        await asyncio.sleep(random.uniform(0.2, 1.8) * self.chosen.think)

    # --- clients ---

    async def writer(self, client: httpx.AsyncClient, job_id: str, stage: str) -> None:
        key, n, version = (job_id, stage), 0, None
        section: dict[str, Any] = {}
        await asyncio.sleep(random.uniform(0, COME_WITHIN_S))
        while self.goes_on():
            if version is None:
                answer = await self.ask(client, "open", "GET", f"/api/jobs/{job_id}")
                if answer is None:
                    continue
                view = answer.json()
                version, section = view["versions"][stage], view["job"][stage]
                stands = self.count_in(stage, section)
                # What was on its way when the server died may have arrived or not; here it is seen which.
                for m in list(self.unsure[key]):
                    if m == stands:
                        self.acknowledged[key].append(m)
                    self.unsure[key].discard(m)
            n += 1
            self.put_count(stage, section, n)
            self.unsure[key].add(n)
            answer = await self.ask(
                client,
                "save",
                "PUT",
                f"/api/jobs/{job_id}/{stage}",
                json={"kind": "car", "version": version, "section": section},
            )
            if answer is not None and answer.status_code == 200:
                version = answer.json()["version"]
                self.acknowledged[key].append(n)
                self.unsure[key].discard(n)
            else:
                if answer is not None:
                    self.wrong.append(f"{key}: a clash with oneself: {answer.text[:200]}")
                    self.unsure[key].discard(n)
                version = None
            await self.pause()

    def put_count(self, stage: str, section: dict[str, Any], n: int) -> None:
        reading = {"text": f"{300 + n % 500}", "value": 300.0 + n % 500, "tolerance": None, "unit": "mm"}
        corner = {"axle": "rear", "side": "left", "quantity": "hub_to_arch", "reading": reading}
        if stage == "prove":
            section["after"] |= {"note": f"count {n}", "corners": [corner]}
        else:
            section[FIELD[stage]] = f"count {n}"
            if stage == "measure":
                section["corners"] = [corner]

    def count_in(self, stage: str, section: dict[str, Any]) -> int:
        text = section["after"]["note"] if stage == "prove" else section[FIELD[stage]]
        return int(text.removeprefix("count ")) if text.startswith("count ") else 0

    async def reader(self, client: httpx.AsyncClient) -> None:
        await asyncio.sleep(random.uniform(0, COME_WITHIN_S))
        while self.goes_on():
            job = random.choice(self.jobs)
            kind, address = random.choice(
                [
                    ("shop", "/api/shop"), ("shop", "/api/shop"), ("list", "/api/jobs"), ("vehicles", "/api/vehicles"),
                    ("open", f"/api/jobs/{job}"), ("history", f"/api/jobs/{job}/history"),
                    ("file", f"/api/jobs/{job}/file"),
                ]
            )  # fmt: skip
            await self.ask(client, kind, "GET", address)
            await self.pause()

    async def predictor(self, client: httpx.AsyncClient, job: dict[str, Any]) -> None:
        mine = json.loads(json.dumps(job))
        await asyncio.sleep(random.uniform(0, COME_WITHIN_S))
        while self.goes_on():
            mine["plan"]["changes"][0]["on"] = random.random() < 0.5
            mine["brief"]["front"]["rise"] = f"{random.uniform(-20, 30):.1f}"
            await self.ask(client, "predict", "POST", "/api/predict", json=mine)
            await self.pause()

    async def importer(self, client: httpx.AsyncClient, text: str, n: int) -> None:
        file = json.loads(text)
        turn = 0
        await asyncio.sleep(random.uniform(0, COME_WITHIN_S))
        while self.goes_on():
            turn += 1
            file["job"]["id"] = f"brought-{n}"
            file["job"]["brief"]["owner"] = f"Owner {turn}"
            await self.ask(client, "import", "POST", "/api/jobs/import", json=file)
            await self.pause()
            await self.ask(client, "delete", "DELETE", f"/api/jobs/brought-{n}")
            self.wrong = [w for w in self.wrong if not w.startswith(f"delete DELETE /api/jobs/brought-{n}: 404")]
            await self.pause()

    async def killer(self) -> None:
        while self.goes_on():
            await asyncio.sleep(random.uniform(*self.chosen.every))
            if not self.goes_on() or time.monotonic() > self.until - 15:
                return
            with suppress(OSError, ValueError, IndexError, StopIteration):
                what, pid = random.choice(
                    [("server", self.server()), ("database", self.postmaster()), ("worker", self.workers()[0])]
                )
                os.kill(pid, signal.SIGKILL)
                self.kills[what] += 1

    async def watcher(self) -> None:
        while self.goes_on():
            with suppress(OSError, ValueError, StopIteration):
                for line in Path(f"/proc/{self.server()}/status").read_text().splitlines():
                    if line.startswith("VmRSS"):
                        self.memory.append((time.monotonic(), int(line.split()[1])))
            await asyncio.sleep(5)

    # --- the run ---

    async def run(self) -> None:
        async with AsyncExitStack() as stack:

            async def browser() -> httpx.AsyncClient:
                """A client with a connection of its own, as each browser has."""
                return await stack.enter_async_context(
                    httpx.AsyncClient(base_url=self.address, headers=WHO, timeout=60, verify=False, trust_env=False)
                )

            client = await browser()
            listed = (await client.get("/api/jobs")).json()["items"]
            first = next(j["id"] for j in listed if j["kind"] == "car" and not j["signed_off"])
            text = (await client.get(f"/api/jobs/{first}/file")).text
            job = json.loads(text)["job"]
            writers, readers = self.chosen.clients * 3 // 8, self.chosen.clients * 3 // 8
            predictors = self.chosen.clients - writers - readers - 2
            for n in range(-(-writers // len(STAGES))):
                file = json.loads(text)
                file["job"] |= {"id": f"soak-{n}", "title": f"Soak {n}"}
                answer = await client.post("/api/jobs/import", json=file)
                assert answer.status_code == 200, answer.text
                self.jobs.append(f"soak-{n}")
            self.until = time.monotonic() + 60 * self.chosen.minutes
            places = [(j, s) for j in self.jobs for s in STAGES][:writers]
            work = [self.writer(await browser(), *place) for place in places]
            work += [self.reader(await browser()) for _ in range(readers)]
            work += [self.predictor(await browser(), job) for _ in range(predictors)]
            work += [self.importer(await browser(), text, n) for n in range(2)]
            work += [self.watcher()] + ([self.killer()] if self.chosen.kills else [])
            if self.chosen.hands:
                work += [self.ticking(text, await browser())]
            await asyncio.gather(*work)
            await asyncio.sleep(3)
            await self.compare(client)

    async def ticking(self, text: str, client: httpx.AsyncClient) -> None:
        """Browsers on cards of their own."""
        self.told, wrong = await soak_hands.many(self.address, text, self.chosen.hands, self.until, client)
        self.wrong += wrong

    async def compare(self, client: httpx.AsyncClient) -> None:
        """Every acknowledged save against what is stored."""
        for job_id in self.jobs:
            for _ in range(60):
                with suppress(*PASSES):
                    if (await client.get(f"/api/jobs/{job_id}")).status_code == 200:
                        break
                await asyncio.sleep(1)
            view = (await client.get(f"/api/jobs/{job_id}")).json()
            lines: list[dict[str, Any]] = []
            before: int | None = None
            while True:
                at = f"&before={before}" if before else ""
                page = (await client.get(f"/api/jobs/{job_id}/history?limit=200{at}")).json()
                lines += page
                if len(page) < 200:
                    break
                before = page[-1]["id"]
            for stage in STAGES:
                key = (job_id, stage)
                if key not in self.acknowledged:
                    continue
                heard = Counter(
                    int(part["new"].removeprefix("count "))
                    for line in lines
                    if line["what"].startswith(f"{stage}:")
                    for part in line["detail"] or ()
                    if str(part["new"]).startswith("count ")
                )
                for n in self.acknowledged[key]:
                    if heard[n] != 1:
                        self.wrong.append(f"{key}: count {n} was acknowledged and is there {heard[n]} times")
                stands = self.count_in(stage, view["job"][stage])
                if stands not in {self.acknowledged[key][-1]} | self.unsure[key]:
                    self.wrong.append(f"{key}: {stands} stands, {self.acknowledged[key][-1]} was acknowledged last")

    def stop(self) -> None:
        self.process.send_signal(signal.SIGTERM)
        with suppress(subprocess.TimeoutExpired):
            self.process.wait(60)

    def tell(self) -> int:
        saves = sum(map(len, self.acknowledged.values()))
        print(
            f"{self.chosen.clients} clients, {self.chosen.minutes:g} minutes, "
            f"{self.requests} requests, {saves} saves acknowledged"
        )
        print("killed:", dict(self.kills) or "nothing")
        for kind, took in sorted(self.took.items()):
            cut = sorted(took)
            print(
                f"  {kind:9} {len(cut):7} answers, median {1000 * statistics.median(cut):7.1f} ms, "
                f"p95 {1000 * cut[int(0.95 * (len(cut) - 1))]:7.1f} ms, longest {1000 * cut[-1]:7.0f} ms"
            )
        print("  " + ", ".join(f"{k} × {n}" for k, n in sorted(self.statuses.items())))
        if len(self.memory) > 8:
            quarter = len(self.memory) // 4
            early, late = (
                statistics.median(m for _, m in part) / 1024
                for part in (self.memory[quarter : 2 * quarter], self.memory[-quarter:])
            )
            print(f"memory of the server: {early:.0f} MB in the second quarter, {late:.0f} MB in the last")
            if not self.kills and late > 1.3 * early + 20:
                self.wrong.append("memory grows")
        if self.told:
            print(self.told)
        for sentence in self.wrong[:40]:
            print("WRONG", sentence)
        print("nothing lost, nothing doubled" if not self.wrong else f"{len(self.wrong)} things went wrong")
        return 1 if self.wrong else 0


def main() -> int:
    arguments = argparse.ArgumentParser(description=__doc__)
    arguments.add_argument("--minutes", type=float, default=10, help="at most 60")
    arguments.add_argument("--clients", type=int, default=48, help="at most 400")
    arguments.add_argument(
        "--think", type=float, default=1.0, help="seconds a client waits between two requests, on average"
    )
    arguments.add_argument(
        "--every", type=float, nargs=2, default=(15.0, 35.0), help="seconds between two kills, from and to"
    )
    arguments.add_argument("--no-kills", dest="kills", action="store_false")
    arguments.add_argument("--hands", type=int, default=2, help="browsers that tick cards, at most 6")
    arguments.add_argument("--seed", type=int, default=None)
    chosen = arguments.parse_args()
    chosen.minutes, chosen.clients = min(60, chosen.minutes), max(8, min(400, chosen.clients))
    chosen.hands = max(0, min(6, chosen.hands))
    seed = chosen.seed if chosen.seed is not None else random.randrange(10_000)
    random.seed(seed)
    print(f"seed {seed}")
    with tempfile.TemporaryDirectory(prefix="inclinum-soak-") as folder:
        Path(folder).chmod(0o755)
        soak = Soak(chosen, Path(folder))
        soak.start()
        try:
            asyncio.run(soak.run())
        finally:
            soak.stop()
        return soak.tell()


if __name__ == "__main__":
    sys.exit(main())

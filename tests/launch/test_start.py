"""``./start``'s second half as it is run: what dies is started again, and nothing is left behind when it ends."""

import io
import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from threading import Event, Thread

import httpx
import pytest
from PIL import Image

from inclinum.launch.cluster import free_port

PATIENCE_S = 90
WHO = {"x-acting-person": "Ines%20Tarrow"}


def until(true: Callable[[], object], what: str) -> None:
    """Wait for it."""
    end = time.monotonic() + PATIENCE_S
    while time.monotonic() < end:
        with suppress(httpx.HTTPError, OSError, LookupError, ValueError, StopIteration):
            if true():
                return
        time.sleep(0.1)
    pytest.fail(f"{what}: not within {PATIENCE_S} s")


@dataclass
class Running:
    """A start of one's own, on a data folder with an awkward name."""

    data: Path
    port: int
    log: Path

    def start(self) -> None:
        with self.log.open("ab") as out:
            self.process = subprocess.Popen(
                [sys.executable, "-m", "inclinum.launch", "--port", str(self.port), "--data", str(self.data)],
                stdout=out, stderr=out, start_new_session=True,
            )  # fmt: skip
        until(self.answers, "the first answer")

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def answers(self) -> bool:
        return httpx.get(f"{self.address}/api/shop", timeout=5).json()["name"] != ""

    def postmaster(self) -> int:
        return int((self.data / "cluster" / "postmaster.pid").read_text().split()[0])

    def children(self) -> list[int]:
        found = Path(f"/proc/{self.process.pid}/task/{self.process.pid}/children").read_text()
        return [int(pid) for pid in found.split()]

    def serving(self) -> int:
        return next(p for p in self.children() if p != self.postmaster())

    def everything(self) -> list[int]:
        """Every process that works on these data or answers for them."""
        mine = [str(self.data), f"--port\0{self.port}"]
        found = []
        for path in Path("/proc").glob("[0-9]*/cmdline"):
            with suppress(OSError):
                if any(word in path.read_bytes().decode(errors="replace") for word in mine):
                    found.append(int(path.parent.name))
        return found


def own(folder: Path) -> list[Path]:
    """The folder and those around it that pytest made, and nothing of the machine's."""
    return [p for p in (folder, *folder.parents) if any(q.name.startswith("pytest-of-") for q in (p, *p.parents))]


@pytest.fixture(scope="module")
def running(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Running]:
    folder = tmp_path_factory.mktemp("start")
    for parent in own(folder):
        with suppress(PermissionError):
            parent.chmod(0o755)
    made = Running(folder / 'it\'s $HOME für "alle"', free_port(), folder / "out.log")
    made.start()
    yield made
    for pid in made.everything():
        with suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)


def owner(pid: int) -> int:
    return Path(f"/proc/{pid}").stat().st_uid


def test_nothing_that_answers_runs_as_root(running: Running) -> None:
    assert running.serving() != running.process.pid
    if os.geteuid() == 0:
        assert owner(running.serving()) == owner(running.postmaster()) != 0
    for log in (running.data / "logs").iterdir():
        assert log.stat().st_mode & 0o777 == 0o600, log
    card = httpx.get(f"{running.address}/api/jobs/van-2026-washed-out-track/card.pdf", timeout=60)
    assert card.content.startswith(b"%PDF"), "all that paper needs is loaded"
    for kind in ("JPEG", "PNG", "WEBP"):
        picture = io.BytesIO()
        Image.new("RGB", (20, 10), "grey").save(picture, kind)
        kept = httpx.post(f"{running.address}/api/photos", content=picture.getvalue(), headers=WHO, timeout=60)
        assert kept.status_code == 200, "all that photographs need is loaded"
    for end in ("front", "rear"):
        drawn = httpx.post(f"{running.address}/api/pictures", json={"kind": "car", "choice": end}, timeout=60)
        assert len(drawn.json()) > 5, "drawn before anybody asks: all of them take longer than any one answer may"
    page = httpx.get(f"{running.address}/jobs/anything/plan")
    assert "Inclinum" in page.text


def test_a_second_start_on_the_same_data_is_told_of_the_first(running: Running) -> None:
    again = subprocess.run(
        [sys.executable, "-m", "inclinum.launch", "--port", str(free_port()), "--data", str(running.data)],
        capture_output=True, text=True, timeout=60,
    )  # fmt: skip
    assert again.returncode == 1
    assert f"in use already by Inclinum at {running.address}" in again.stderr
    assert running.answers()


def test_a_server_that_dies_is_started_again_and_keeps_what_it_acknowledged(running: Running) -> None:
    job = f"{running.address}/api/jobs/van-2026-washed-out-track"
    view = httpx.get(job).json()
    section = view["job"]["brief"] | {"purpose": "said before it died"}
    body = {"kind": "car", "version": view["versions"]["brief"], "section": section}
    assert httpx.put(f"{job}/brief", json=body, headers=WHO).status_code == 200
    first = running.serving()
    os.kill(first, signal.SIGKILL)
    until(lambda: running.serving() != first and running.answers(), "another server")
    assert httpx.get(job).json()["job"]["brief"]["purpose"] == "said before it died"


def test_a_server_killed_while_steps_are_ticked_loses_nothing_it_acknowledged(running: Running) -> None:
    job = f"{running.address}/api/jobs/saloon-2026-collar-kit"
    steps = httpx.get(f"{job}/card", timeout=60).json()["steps"]
    version, acknowledged = httpx.get(job).json()["versions"]["build"], []
    under_way, seen = Event(), Event()

    def kill_in_the_middle() -> None:
        while under_way.wait() and not seen.is_set():
            under_way.clear()
            os.kill(running.serving(), signal.SIGKILL)

    killer = Thread(target=kill_in_the_middle)
    killer.start()
    with httpx.Client(headers=WHO, timeout=60) as kept_open:
        for step in steps:
            body = {"version": version, "step": step["id"], "done": True, "held": True}
            # By what is kept, not by the clock: a slow machine has ticked nothing in a second. What is sent over the
            # open connection is lost with the server; what comes a moment later waits for the next one, so: again.
            if len(acknowledged) in (3, 9, 15, 21):
                under_way.set()
            try:
                answer = kept_open.post(f"{job}/build/tick", json=body)
            except httpx.HTTPError:
                break  # killed in the middle of this one: nobody was told that it is done
            if answer.status_code != 200:
                break
            acknowledged.append(step["id"])
            version = answer.json()["version"]
    seen.set()
    under_way.set()
    killer.join()
    assert 3 <= len(acknowledged) < len(steps), "it was killed while steps were ticked"
    until(running.answers, "another server")
    build = httpx.get(job).json()
    kept = [t["step"] for t in build["job"]["build"]["ticks"]]
    assert kept[: len(acknowledged)] == acknowledged
    assert len(kept) - len(acknowledged) in (0, 1), "the one in the air is there whole, or not at all"
    assert build["versions"]["build"] == 1 + len(kept)
    after = {"version": build["versions"]["build"], "step": steps[-1]["id"], "done": True, "held": True}
    assert httpx.post(f"{job}/build/tick", json=after, headers=WHO, timeout=30).status_code == 200


def test_a_computing_process_that_dies_is_replaced(running: Running) -> None:
    server = running.serving()
    job = httpx.get(f"{running.address}/api/jobs/van-2026-washed-out-track").json()["job"]
    workers = Path(f"/proc/{server}/task/{server}/children").read_text().split()
    os.kill(int(workers[0]), signal.SIGKILL)
    until(
        lambda: (
            httpx.post(f"{running.address}/api/predict", json=job, timeout=20).status_code == 200
            and running.serving() != server
        ),
        "a prediction from another process",
    )


def test_a_database_that_dies_is_started_again(running: Running) -> None:
    first = running.postmaster()
    os.kill(first, signal.SIGKILL)
    until(lambda: running.postmaster() != first and running.answers(), "another database")


def test_what_is_away_is_told_as_such_and_nothing_else(running: Running) -> None:
    first, server = running.postmaster(), running.serving()
    os.kill(first, signal.SIGQUIT)
    statuses = set()
    end = time.monotonic() + 5
    while time.monotonic() < end:
        answer = httpx.get(f"{running.address}/api/shop", timeout=20)
        statuses.add(answer.status_code)
        if answer.status_code == 503:
            assert "database does not answer" in answer.json()["sentence"]
    assert statuses <= {200, 503}
    assert running.answers()
    assert running.serving() == server, "the database comes back where it was, and whoever serves stays"


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGHUP, signal.SIGKILL])
def test_however_it_ends_nothing_is_left_behind(running: Running, how: signal.Signals) -> None:
    database = running.postmaster()
    running.process.send_signal(how)
    running.process.wait(60)
    until(lambda: not Path(f"/proc/{database}").exists() and not running.everything(), f"the end after {how.name}")
    for note in ("password", "cluster/postmaster.pid"):
        (running.data / note).write_text("")
    running.start()
    assert running.answers(), "an empty password and an empty note of a process are no reason not to start"


@pytest.mark.parametrize(
    ("words", "given"),
    [
        ("is no port", {"INCLINUM_PORT": "eighty"}),
        ("is no port", {"INCLINUM_PORT": "70000"}),
        ("cannot be used", {"INCLINUM_DATA": "/proc/nowhere"}),
        ("cannot be used", {"INCLINUM_DATA": "/dev/null/data"}),
    ],
)
def test_what_stands_in_the_way_is_a_sentence_with_a_way_out(words: str, given: dict[str, str]) -> None:
    done = subprocess.run(
        [sys.executable, "-m", "inclinum.launch"], env=os.environ | {"INCLINUM_PORT": str(free_port())} | given,
        capture_output=True, text=True, timeout=60,
    )  # fmt: skip
    assert done.returncode == 1
    assert words in done.stderr
    assert "Traceback" not in done.stderr
    assert "INCLINUM_" in done.stderr, "the way out"


def test_backup_and_restore_from_the_command_line_serving_and_not(running: Running, tmp_path: Path) -> None:
    def inclinum(*words: str) -> subprocess.CompletedProcess[str]:
        command = [sys.executable, "-m", "inclinum.cli", *words]
        return subprocess.run(command, capture_output=True, text=True, timeout=120)

    job = f"{running.address}/api/jobs/van-2026-washed-out-track"
    archive = tmp_path / "shop.backup"
    made = inclinum("backup", str(archive), "--data", str(running.data))
    assert made.returncode == 0, made.stderr
    assert "every count and hash agrees" in made.stdout
    assert archive.stat().st_mode & 0o777 == 0o600
    assert httpx.delete(job, headers=WHO).status_code == 204
    refused = inclinum("restore", str(archive), "--data", str(running.data))
    assert (refused.returncode, "--replace" in refused.stderr) == (2, True)
    put = inclinum("restore", str(archive), "--data", str(running.data), "--replace")
    assert put.returncode == 0, put.stderr
    until(lambda: httpx.get(job, timeout=20).status_code == 200, "the job that was deleted")

    other = tmp_path / "another shop"
    for parent in own(tmp_path):
        with suppress(PermissionError):
            parent.chmod(0o755)
    put = inclinum("restore", str(archive), "--data", str(other))
    assert put.returncode == 0, put.stderr
    again = inclinum("backup", str(tmp_path / "again.backup"), "--data", str(other))
    assert again.stdout.split(":")[1] == made.stdout.split(":")[1]

"""The API against its own description, in short: whatever it allows and does not allow is asked for."""

import random
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import httpx
import pytest
from scripts.fuzz import LEFT_OUT
from sqlalchemy import Engine

from inclinum.api.app import create_app
from tests.api.test_client import BUILD
from tests.serving import served


@pytest.fixture
def address(engine: Engine) -> Iterator[str]:
    with served(create_app(engine, BUILD)) as here:
        # It is put together once, when it is first asked for: a busy machine takes longer than its reader waits.
        assert httpx.get(f"{here}/api/openapi.json", timeout=120).status_code == 200
        yield here


@pytest.mark.parametrize(
    ("method", "phases", "examples"), [("--include-method", "coverage,fuzzing", 4), ("--exclude-method", "fuzzing", 3)]
)
def test_every_answer_is_as_described(address: str, tmp_path: Path, method: str, phases: str, examples: int) -> None:
    seed = random.randrange(10_000)
    done = subprocess.run(
        [
            Path(sys.executable).parent / "schemathesis", "run", f"{address}/api/openapi.json", "--checks", "all",
            "--exclude-checks", LEFT_OUT, "--header", "x-acting-person: Ines%20Tarrow", "--seed", str(seed),
            "--max-examples", str(examples), "--phases", phases, method, "GET", "--continue-on-failure",
            "--request-timeout", "60", "--no-color", "--warnings", "off",
        ],
        cwd=tmp_path, capture_output=True, text=True, timeout=500, check=False,
    )  # fmt: skip
    assert done.returncode == 0, f"seed {seed}\n{done.stdout[-6000:]}"
    assert "Tested: " in done.stdout

"""Every answer to every job of the demo, as the command line gives it; and what differs from an earlier run.

A change of structure changes no number: keep the answers before it, compare after it. Only files and the command
line are used, so that the same script runs on both sides of a change.

    scripts/answers FOLDER                  writes job files and answers
    scripts/answers FOLDER --against OTHER  and compares them field by field
"""

import argparse
import json
import math
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from typer.testing import CliRunner

from inclinum.cli import app

NEAR = 1e-9
"""Numbers closer than this, of themselves or of one, are the same: sums in another order differ in the last digit."""
COMMANDS = ("predict", "align", "card", "prove", "check")


def job_files(folder: Path) -> list[Path]:
    """The demo's jobs as files, from the folder they were once written to or else from the demo."""
    kept = sorted(folder.glob("*.inclinum.json"))
    if kept:
        return kept
    from inclinum.demo import demo_bike_jobs, demo_jobs
    from inclinum.jobfile import BikeFile, JobFile, write

    folder.mkdir(parents=True, exist_ok=True)
    files = [(j.id, JobFile(job=j)) for j in demo_jobs()] + [(j.id, BikeFile(job=j)) for j in demo_bike_jobs()]
    for name, document in files:
        (folder / f"{name}.inclinum.json").write_text(write(document))
    return sorted(folder.glob("*.inclinum.json"))


def answer(command: str, file: Path) -> Any:
    """What a command says to a file: its JSON, or its refusal in words."""
    done = CliRunner().invoke(app, [command, str(file)])
    if done.exception is not None and not isinstance(done.exception, SystemExit):
        raise done.exception
    return json.loads(done.stdout) if done.exit_code < 2 else {"refused": done.stderr.strip()}


def differences(was: Any, now: Any, path: str = "") -> Iterator[str]:
    """Every place two answers differ at."""
    if isinstance(was, dict) and isinstance(now, dict):
        for key in was.keys() | now.keys():
            if key not in was or key not in now:
                yield f"{path}.{key}: only {'before' if key in was else 'now'}"
            else:
                yield from differences(was[key], now[key], f"{path}.{key}")
    elif isinstance(was, list) and isinstance(now, list):
        if len(was) != len(now):
            yield f"{path}: {len(was)} before, {len(now)} now"
        for n, (one, other) in enumerate(zip(was, now, strict=False)):
            yield from differences(one, other, f"{path}[{n}]")
    elif isinstance(was, float | int) and isinstance(now, float | int) and not isinstance(was, bool):
        if not math.isclose(was, now, rel_tol=NEAR, abs_tol=NEAR):
            yield f"{path}: {was!r} before, {now!r} now"
    elif was != now:
        yield f"{path}: {was!r} before, {now!r} now"


def main() -> None:
    """Write, and compare."""
    asked = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    asked.add_argument("folder", type=Path)
    asked.add_argument("--against", type=Path)
    given = asked.parse_args()
    given.folder.mkdir(parents=True, exist_ok=True)
    found = 0
    for file in job_files(given.against or given.folder):
        name = file.name.removesuffix(".inclinum.json")
        heard = {command: answer(command, file) for command in COMMANDS}
        (given.folder / f"{name}.answers.json").write_text(json.dumps(heard, ensure_ascii=False, indent=1))
        if given.against:
            was = json.loads((given.against / f"{name}.answers.json").read_text())
            for line in sorted(differences(was, heard)):
                print(f"{name}{line}")
                found += 1
    if given.against:
        print(f"{found} differences")
    sys.exit(1 if found else 0)


if __name__ == "__main__":
    main()

"""Small wrongs put into the core one at a time, and whether a test notices.

Mutants are drawn by seed from all that can be made of ``src/inclinum/core``: a sign turned, a comparison shifted, a
number off by one. First the tests run once to learn which of them touch which line; then each mutant meets those that
touch its own line, quickest first, in a copy of the tree. Those that no test notices are printed: each is a law
without a guard, or a line that nothing hangs on.

    scripts/mutants [--count 60] [--seed N] [--only core/limits] [--map FILE]
"""

import argparse
import ast
import difflib
import json
import random
import re
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

from cosmic_ray.ast import ast_nodes, get_ast_from_path
from cosmic_ray.mutating import mutate_code
from cosmic_ray.plugins import get_operator, operator_names
from coverage import CoverageData

ROOT = Path(__file__).parents[1]
CORE = Path("src/inclinum/core")
TESTED = ["tests/core", "tests/reference", "tests/cli"]
NO_NUMBERS = re.compile(r"Bit|Shift|Invert|Eq_Is|Is_Eq|IsNot_NotEq|TrueWithFalse")
"""Operators that no float takes, which whatever runs the line notices, and such as change no meaning: ``is`` for
equal words, a ``zip`` that is not strict. Neither says anything of the tests.
"""
PICTURES = re.compile(r"drawing|outline")
"""Modules whose numbers are the look of a picture and no law."""
MOST_TESTS, MOST_SECONDS = 250, 150
"""Tests and seconds a mutant is given: what the nearest do not notice, hardly any will."""
PATIENT = ["-q", "-p", "no:cacheprovider", "-p", "no:warnings", "--hypothesis-seed=0"]


def places(path: Path, operators: list[str]) -> Iterator[tuple[str, int, int]]:
    """Where operators can change a module: operator, occurrence and line."""
    nodes = list(ast_nodes(get_ast_from_path(path)))
    for operator in operators:
        made = get_operator(operator)()
        starts = (start[0] for node in nodes for start, _ in made.mutation_positions(node))
        yield from ((operator, occurrence, line) for occurrence, line in enumerate(starts))


def counting(path: Path) -> set[int]:
    """Lines that compute something: no annotations, no docstrings, no words of a form or of an error."""
    tree, out = ast.parse(path.read_text()), set[int]()
    for node in ast.walk(tree):
        if isinstance(node, ast.FunctionDef):
            for part in node.body:
                if isinstance(part, ast.Expr) and isinstance(part.value, ast.Constant):
                    continue
                out |= set(range(part.lineno, (part.end_lineno or part.lineno) + 1))
    return out


def drawn(count: int, seed: int, only: str) -> list[tuple[Path, str, int, int]]:
    """Mutants by seed, each of another module and line as far as there are so many."""
    chance = random.Random(seed)
    operators = [o for o in operator_names() if not get_operator(o).arguments() and not NO_NUMBERS.search(o)]
    found: list[tuple[Path, str, int, int]] = []
    for path in sorted((ROOT / CORE).rglob("*.py")):
        if (only and only not in str(path)) or PICTURES.search(path.name):
            continue
        lines = counting(path)
        found += [(path, operator, n, line) for operator, n, line in places(path, operators) if line in lines]
    chance.shuffle(found)
    seen: set[tuple[Path, int]] = set()
    chosen = []
    for mutant in found:
        if len(chosen) == count:
            break
        if (mutant[0], mutant[3]) not in seen:
            seen.add((mutant[0], mutant[3]))
            chosen.append(mutant)
    return chosen


def touching(kept: Path | None) -> dict[str, dict[int, list[str]]]:
    """Module → line → tests that run it, quickest first."""
    if kept is not None and kept.exists():
        heard = json.loads(kept.read_text())
        return {module: {int(n): tests for n, tests in lines.items()} for module, lines in heard.items()}
    with tempfile.TemporaryDirectory() as folder:
        data, durations = Path(folder) / "coverage", Path(folder) / "report.xml"
        run = [sys.executable, "-m", "pytest", *TESTED, *PATIENT, "-n", "2", f"--cov={CORE}", "--cov-context=test",
               "--cov-report=", f"--junitxml={durations}"]  # fmt: skip
        done = subprocess.run(run, cwd=ROOT, env=_env({"COVERAGE_FILE": str(data)}), check=False)
        if done.returncode:
            sys.exit("The tests are red as they are: mend them first.")
        took = _took(durations)
        covered = CoverageData(str(data))
        covered.read()
        found: dict[str, dict[int, list[str]]] = {}
        for module in covered.measured_files():
            lines = covered.contexts_by_lineno(module)
            found[str(Path(module).relative_to(ROOT))] = {
                n: sorted({c.partition("|")[0] for c in tests if c}, key=lambda t: took.get(_plain(t), 1.0))
                for n, tests in lines.items()
            }
    if kept is not None:
        kept.write_text(json.dumps(found))
    return found


def _plain(test: str) -> str:
    return test.replace(".py", "").replace("/", ".")


def _took(report: Path) -> dict[str, float]:
    from xml.etree import ElementTree

    cases = ElementTree.parse(report).iter("testcase")
    return {f"{c.get('classname')}::{c.get('name')}": float(c.get("time", 1)) for c in cases}


def _env(more: dict[str, str]) -> dict[str, str]:
    import os

    return os.environ | more


def noticed(tree: Path, module: Path, code: str, tests: list[str]) -> str:
    """``killed``, ``survived`` or ``hung``: what the tests of a copied tree say of a changed module."""
    target = tree / module
    as_it_was = target.read_text()
    target.write_text(code)
    listed = tree / "listed"
    listed.write_text("\n".join(tests[:MOST_TESTS]))
    try:
        done = subprocess.run(
            [sys.executable, "-m", "pytest", "-x", *PATIENT, f"@{listed}"], cwd=tree, timeout=MOST_SECONDS,
            env=_env({"PYTHONPATH": str(tree / "src"), "PYTHONDONTWRITEBYTECODE": "1"}), check=False,
            stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
        )  # fmt: skip
    except subprocess.TimeoutExpired:
        return "hung"  # somebody would notice: counted with the noticed, told apart
    finally:
        target.write_text(as_it_was)
    return "survived" if done.returncode == 0 else "killed"


def main() -> None:
    """Draw, try, tell."""
    asked = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    asked.add_argument("--count", type=int, default=60)
    asked.add_argument("--seed", type=int, default=random.randrange(10_000))
    asked.add_argument("--only", default="", help="part of a path")
    asked.add_argument("--map", type=Path, help="keep, or take, which tests touch which line")
    given = asked.parse_args()
    print(f"seed {given.seed}")
    tests, began = touching(given.map), time.monotonic()
    survivors, killed = [], 0
    with tempfile.TemporaryDirectory(prefix="inclinum-mutants-") as folder:
        tree = Path(folder)
        for name in ("src", "tests", "docs", "pyproject.toml"):
            where = ROOT / name
            shutil.copytree(where, tree / name) if where.is_dir() else shutil.copy(where, tree / name)
        for path, operator, occurrence, line in drawn(given.count, given.seed, given.only):
            module = path.relative_to(ROOT)
            code = path.read_text()
            changed = mutate_code(code, get_operator(operator)(), occurrence)
            if changed is None or changed == code:
                continue
            its = tests.get(str(module), {}).get(line, [])
            verdict = noticed(tree, module, changed, its) if its else "survived"
            heard = [d for d in difflib.unified_diff(code.splitlines(), changed.splitlines(), n=0, lineterm="")
                    if d[:1] in "+-" and d[:3] not in ("+++", "---")]  # fmt: skip
            print(f"{verdict:9} {module}:{line} {' → '.join(t[1:].strip() for t in heard)}", flush=True)
            if verdict != "survived":
                killed += 1
            else:
                survivors.append((module, line, heard, len(its)))
    total = killed + len(survivors)
    print(f"\n{killed} of {total} noticed ({100 * killed / max(total, 1):.0f} %), "
          f"{(time.monotonic() - began) / 60:.0f} minutes, seed {given.seed}")  # fmt: skip
    for module, line, heard, count in survivors:
        print(f"\n{module}:{line}, touched by {count} tests")
        print("\n".join(heard))


if __name__ == "__main__":
    main()

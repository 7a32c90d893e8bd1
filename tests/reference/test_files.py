"""Every reference case through a file and the command line, as somebody else would run it."""

import json
from pathlib import Path
from typing import Any

import pytest
from typer.testing import CliRunner

from inclinum.cli import app
from tests.reference.cases import HERE

LINKAGE_KEYS = ("spring_on_link", "reference_line", "effective_radius_factor")
SWEPT = sorted(
    p for p in HERE.glob("kinematics-*.json") if not p.name.startswith(("kinematics-alignment", "kinematics-body"))
)
BENCH = (
    "progressive-coil", "dual-rate-stack", "leaf-pack", "torsion-bar", "air-levelling", "damper-brackets",
    "whole-vehicle", "rear-linkage", "fork", "rake-trail-stand", "coil-wire", "spring-swap", "spacers", "stations",
    "uncertainty", "reconcile",
)  # fmt: skip


def axle(data: dict[str, Any]) -> dict[str, Any]:
    """The axle document of a case."""
    linkage = {"kind": data["kind"], "points": data["points"]} | {k: data[k] for k in LINKAGE_KEYS if k in data}
    if "rack_axis" in data:
        linkage["steering"] = {"kind": "rack", "axis": data["rack_axis"]}
    document: dict[str, Any] = {"linkage": linkage, "side": data["side"], "tyre_radius_mm": data["tyre_radius"]}
    if "static" in data:
        document["static"] = data["static"]
    if bar := data.get("torsion_bar"):
        document["spring"] = {
            "type": "torsion_bar",
            "diameter_mm": bar["diameter_mm"],
            "length_mm": bar["length_mm"],
            "shear_modulus_n_per_mm2": bar["shear_modulus_N_per_mm2"],
            "free_angle_deg": bar["free_angle_below_horizontal_deg"],
        }
    return document


def answer(tmp_path: Path, body: dict[str, Any], *options: str) -> dict[str, Any]:
    file = tmp_path / "case.json"
    file.write_text(json.dumps(body))
    command, *rest = options
    done = CliRunner().invoke(app, [command, str(file), *rest])
    assert done.exit_code == 0, done.output
    return json.loads(done.output)


def agrees(got: Any, want: Any, tolerance: Any, limit: float | None, path: str) -> None:
    """Every wanted number within the tolerance of the nearest enclosing key; everything else exactly."""
    if isinstance(want, dict):
        for key, value in want.items():
            known = isinstance(tolerance, dict) and key in tolerance
            inner = tolerance[key] if known else tolerance
            agrees(
                got[key], value, inner if isinstance(inner, dict) else tolerance,
                inner if isinstance(inner, int | float) else limit, f"{path}.{key}",
            )  # fmt: skip
    elif isinstance(want, list):
        assert len(got) == len(want), path
        for i, value in enumerate(want):
            agrees(got[i], value, tolerance, limit, f"{path}[{i}]")
    elif isinstance(want, float):
        assert limit is not None, path
        assert got == pytest.approx(want, abs=limit, rel=0), path
    else:
        assert got == want, path


@pytest.mark.parametrize("path", SWEPT, ids=lambda p: p.stem)
def test_suspensions_swept(path: Path, tmp_path: Path) -> None:
    data = json.loads(path.read_text())
    body = {"format": "inclinum-axle", "version": 1, "axle": axle(data)}
    if "grid" in data:
        heave, roll = (sorted({row[i] for row in data["grid"]}) for i in (0, 1))
        got = answer(
            tmp_path, body, "sweep",
            "--heave", f"{heave[0]}:{heave[-1]}:{heave[1] - heave[0]}",
            "--roll", f"{roll[0]}:{roll[-1]}:{roll[1] - roll[0]}",
        )  # fmt: skip
        assert got["grid"] == data["grid"]
        agrees(got, data["expect"], data["tolerance"], None, "")
        return
    z = data["travel_mm"]
    travel = f"{z[0]}:{z[-1]}:{z[1] - z[0]}"
    got = answer(tmp_path, body, "sweep", "--travel", travel)
    assert got["travel_mm"] == z
    agrees(got, data["expect"], data["tolerance"], None, "")
    if steered := data.get("steered"):
        got = answer(tmp_path, body, "sweep", "--travel", travel, "--rack", str(steered["rack_mm"]))
        agrees(got, steered["expect"], data["tolerance"], None, "steered")


def test_a_right_wheel_is_the_mirror_image(tmp_path: Path) -> None:
    data = json.loads((HERE / "kinematics-double-wishbone-public.json").read_text())
    points = {n: [x, -y, z] for n, (x, y, z) in data["points"].items()}
    right = axle(data | {"side": "right", "points": points})
    body = {"format": "inclinum-axle", "version": 1, "axle": right}
    z = data["travel_mm"]
    # The rack to the left pulls the right wheel's toe the other way: it is the left wheel with the rack to the right.
    mirrored = answer(tmp_path, body, "sweep", "--travel", f"{z[0]}:{z[-1]}:15", "--rack", "-20")
    agrees(mirrored, data["steered"]["expect"], data["tolerance"], None, "")


@pytest.mark.parametrize("kind", BENCH)
def test_bench_sheets(kind: str, tmp_path: Path) -> None:
    data = json.loads((HERE / f"statics-{kind}-public.json").read_text())
    body = {"format": "inclinum-sheet", "version": 1, "sheet": {"kind": kind} | data["given"]}
    agrees(answer(tmp_path, body, "predict"), data["expect"], data["tolerance"], None, kind)


def test_body_attitude(tmp_path: Path) -> None:
    data = json.loads((HERE / "kinematics-body-attitude-public.json").read_text())
    sheet = {
        "kind": "body-attitude",
        "corners": {end: axle(corner) for end, corner in data["corners"].items()},
        "wheelbase_mm": data["wheelbase_mm"],
        "rise_mm": data["rise_mm"],
    }
    got = answer(tmp_path, {"format": "inclinum-sheet", "version": 1, "sheet": sheet}, "predict")
    agrees(got, data["expect"], data["tolerance"], None, "")


@pytest.mark.parametrize("path", sorted(HERE.glob("kinematics-alignment-*.json")), ids=lambda p: p.stem)
def test_alignment(path: Path, tmp_path: Path) -> None:
    data = json.loads(path.read_text())
    sheet = {"kind": "alignment", "corner": axle(data | {"kind": data["corner_kind"]})}
    sheet |= {k: data[k] for k in ("planned_travel_mm", "adjusters", "targets", "weights")}
    got = answer(tmp_path, {"format": "inclinum-sheet", "version": 1, "sheet": sheet}, "predict")
    agrees(got, data["expect"], data["tolerance"], None, "")

"""Reading the reference cases and comparing against them, as their README says."""

import json
from pathlib import Path
from typing import Any

import numpy as np

HERE = Path(__file__).parent


def case(name: str) -> dict[str, Any]:
    """One public case by its short name."""
    return json.loads((HERE / f"{name}-public.json").read_text())


def assert_close(got: dict[str, Any], expect: dict[str, Any], tolerance: dict[str, Any]) -> None:
    """Every key of ``got`` that the case expects agrees within its own tolerance, nulls included."""
    assert got.keys() & expect.keys(), "nothing to compare"
    for key in got.keys() & expect.keys():
        want = expect[key]
        if want is None or isinstance(want, bool | str):
            assert got[key] == want, key
            continue
        if isinstance(want, dict):
            nested = tolerance.get(key, tolerance)
            limits = nested if isinstance(nested, dict) else dict.fromkeys(want, nested)
            assert_close(got[key], want, limits)
            continue
        np.testing.assert_allclose(
            np.asarray(got[key], dtype=float), np.asarray(want, dtype=float), rtol=0, atol=tolerance[key], err_msg=key
        )

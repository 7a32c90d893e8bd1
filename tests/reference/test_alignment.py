"""Alignment solves against an independent solver: one that reaches its targets, one at a stop."""

import numpy as np
import pytest

from inclinum.core.kinematics import StrutLinkage
from inclinum.core.kinematics.adjusting import AlignmentProblem, LinkLength, Slot
from tests.reference.cases import assert_close, case


@pytest.mark.parametrize("name", ["kinematics-alignment-macpherson", "kinematics-alignment-macpherson-at-stop"])
def test_adjusters_are_solved_together(name: str) -> None:
    data = case(name)
    linkage = StrutLinkage.model_validate({"kind": "macpherson", "points": data["points"]})
    corner = linkage.corner(data["tyre_radius"], *(np.radians(v) for v in data["static"].values()))
    adjusters = [
        Slot(a["name"], a["point"], tuple(a["slot_direction"]), a["min"], a["max"])
        if a["type"] == "slot"
        else LinkLength(a["name"], a["link"][1], a["min"], a["max"])
        for a in data["adjusters"]
    ]
    strip = {"camber_deg": "camber", "toe_deg": "toe", "caster_deg": "caster"}
    solution = AlignmentProblem(
        corner,
        data["planned_travel_mm"],
        adjusters,
        {strip[k]: np.radians(v) for k, v in data["targets"].items()},  # pyright: ignore[reportArgumentType]
        {strip[k]: v for k, v in data["weights"].items()},  # pyright: ignore[reportArgumentType]
    ).solve()

    def degrees(angles: dict) -> dict[str, float]:
        return {f"{q}_deg": float(np.degrees(v)) for q, v in angles.items()}

    assert solution.kingpin_inclination is not None
    got = {
        "adjusters": solution.values,
        "moves_mm": solution.values,
        "before": degrees(solution.before),
        "achieved": degrees(solution.achieved)
        | {"kingpin_inclination_deg": float(np.degrees(solution.kingpin_inclination))},
        "remaining": degrees(solution.remaining),
        "weighted_cost": solution.weighted_cost,
    }
    assert_close(got, data["expect"], data["tolerance"])
    assert solution.at_stop == data["expect"]["at_stop"]

"""Kinematics of strut and semi-trailing corners against an independent solver."""

import numpy as np
import pytest

from inclinum.core.kinematics import SemiTrailingLinkage, StrutLinkage
from tests.reference.cases import assert_close, case

KINDS = {"macpherson": StrutLinkage, "semi_trailing_arm": SemiTrailingLinkage}


@pytest.mark.parametrize("name", ["kinematics-macpherson", "kinematics-semi-trailing-arm"])
def test_sweep_agrees_with_the_independent_solver(name: str) -> None:
    data = case(name)
    linkage = KINDS[data["kind"]].model_validate({"kind": data["kind"], "points": data["points"]})
    corner = linkage.corner(
        data["tyre_radius"], np.radians(data["static"]["camber_deg"]), np.radians(data["static"]["toe_deg"])
    )
    motion = corner.sweep(np.array(data["travel_mm"]))
    assert motion.reachable.all()
    got = {
        "camber_deg": np.degrees(motion.camber),
        "toe_deg": np.degrees(motion.toe),
        "half_track_change_mm": motion.half_track_change(corner.sweep(np.zeros(1)).contact),
        "roll_centre_height_by_patch_travel_mm": motion.roll_centre_height,
        "spring_length_mm": motion.spring_length,
        "spring_installation_ratio": motion.spring_ratio,
        "damper_length_mm": motion.damper_length,
        "damper_installation_ratio": motion.damper_ratio,
        "wheel_centre_fore_aft_mm": motion.poses.centre[:, 0] - data["points"]["wheel_centre"][0],
    }
    if data["kind"] == "macpherson":
        assert motion.caster is not None
        assert motion.kingpin_inclination is not None
        got |= {
            "caster_deg": np.degrees(motion.caster),
            "kingpin_inclination_deg": np.degrees(motion.kingpin_inclination),
            "scrub_radius_mm": motion.scrub_radius,
            "mechanical_trail_mm": motion.mechanical_trail,
        }
    assert got.keys() <= data["expect"].keys()
    assert_close(got, data["expect"], data["tolerance"])

"""One rod sets the toe of both wheels of a steered solid axle: what it does, what the rack finds, who may have one."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from inclinum.core.car.alignment import WheelAlignment, align
from inclinum.core.car.archetypes import ARCHETYPES, SIZES
from inclinum.core.car.card import card
from inclinum.core.car.changes import AdjusterFitted
from inclinum.core.car.job import AngleReading, Job
from inclinum.core.car.vehicle import Axle, TrackRodAdjuster
from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.axles import AxleSteering, steered_axle
from inclinum.core.kinematics.steered import toe_by_track_rod
from tests.core.test_every_change import job_on

STEERED = tuple(k for k, a in ARCHETYPES.items() if a.steered)


def steering(at: tuple[float, float, float]) -> AxleSteering:
    """Upright kingpins 1200 mm apart, the rod's left end ``at``."""
    x, y, z = at
    return AxleSteering(
        kingpin_left_lower=(0.0, 600.0, 200.0), kingpin_left_upper=(0.0, 600.0, 400.0),
        drag_link_box=(200.0, -300.0, 400.0), drag_link_knuckle=(150.0, 600.0, 400.0),
        track_rod_left=at, track_rod_right=(x, -y, z),
    )  # fmt: skip


@pytest.mark.parametrize(("ahead", "toe"), [(150.0, -1), (-150.0, 1)])
def test_a_rod_ahead_of_the_axle_made_longer_turns_both_wheels_out_and_one_behind_it_in(ahead: float, toe: int) -> None:
    """Arms of 150 mm: 3 mm turn one knuckle by 3/150 rad, and with the steering wheel straight each by half."""
    turned = toe_by_track_rod(steering((ahead, 600.0, 300.0)), np.array([3.0, 0.0, -3.0]))
    assert turned == pytest.approx([toe * 0.01, 0.0, -toe * 0.01], abs=2e-6)


@given(st.floats(-5, 5))
def test_the_rod_is_as_long_as_it_was_made_with_each_knuckle_turned_by_half(longer: float) -> None:
    of = steering((150.0, 671.0, 300.0))
    each = float(toe_by_track_rod(of, np.array(longer)))
    # Seen from above, each knuckle's arm turned in by that much, the left one clockwise.
    c, s = math.cos(each), math.sin(each)
    across = 600 + 71 * c - 150 * s
    assert 2 * across == pytest.approx(2 * 671 + longer, abs=0.02 * abs(longer)), "the rod lies straight across"


def read(job: Job, left: float, right: float, end: str = "front") -> Job:
    toes = tuple(
        AngleReading.model_validate({"axle": end, "side": side, "angle": "toe", "reading": {"text": f"{toe}"}})
        for side, toe in (("left", left), ("right", right))
    )
    return job.model_copy(update={"measure": job.measure.model_copy(update={"angles": toes})})


def with_target(job: Job, toe: float, window: float = 0.1) -> Job:
    wanted = job.vehicle.front.targets["toe"].model_copy(
        update={"target_deg": toe, "window_deg": window, "assumed": False}
    )
    front = job.vehicle.front.model_copy(update={"targets": {"toe": wanted}})
    return job.model_copy(update={"vehicle": job.vehicle.model_copy(update={"front": front})})


def toe_of(wheel: WheelAlignment) -> tuple[float, float, float]:
    (row,) = (a for a in wheel.angles if a.angle == "toe")
    return row.before, row.planned, row.achieved


@pytest.mark.parametrize("key", STEERED)
def test_what_the_rack_read_of_both_wheels_is_set_by_one_rod(key: str) -> None:
    job = with_target(read(job_on(key, "front"), 0.30, -0.06), 0.0)
    left, right = align(job).wheels[:2]
    assert (toe_of(left)[0], toe_of(right)[0]) == pytest.approx((0.30, -0.06))
    assert (toe_of(left)[1], toe_of(right)[1]) == pytest.approx((0.12, 0.12)), "the steering wheel set straight"
    (rod,) = left.settings
    assert rod.set_mm == pytest.approx(0.75), "of 0.16° each mm, in eighths of a turn of 3 mm"
    assert rod.instruction == "1/4 turn longer"
    assert not right.settings
    assert right.set_with == "track rod"
    assert toe_of(left)[2] == toe_of(right)[2] == pytest.approx(0.0, abs=0.03)
    assert left.within
    assert right.within
    assert align(job).axles[0].total_toe == pytest.approx(2 * toe_of(left)[2])
    caster = [next(a.achieved for a in w.angles if a.angle == "caster") for w in (left, right)]
    before = [next(a.planned for a in w.angles if a.angle == "caster") for w in (left, right)]
    assert caster == before, "a knuckle turns about its kingpin"
    steps = {s.id: s.text for s in card(job).steps}
    assert "track rod, 1/4 turn longer" in steps["align.front.left.track rod"]
    assert "align.front.right.track rod" not in steps


def test_a_rod_at_its_end_says_what_would_be_needed_and_one_the_shop_chose_stands() -> None:
    job = with_target(read(job_on("radius_arm_axle", "front"), 1.5, 1.5), -2.0)
    found = align(job)
    left, right = found.wheels[:2]
    assert left.settings[0].at_stop
    assert left.settings[0].set_mm == 15.0
    assert toe_of(left)[2] == toe_of(right)[2] == pytest.approx(1.5 - 15 * 0.1602, abs=0.1)
    assert any("would be needed" in s for s in found.left_over)
    assert not any("has no adjuster" in s for s in found.left_over)
    chosen = job.model_copy(update={"align": job.align.model_copy(update={"chosen": {"front.left.track rod": 3.0}})})
    left, right = align(chosen).wheels[:2]
    assert left.settings[0].set_mm == 3.0
    assert toe_of(left)[2] == toe_of(right)[2] == pytest.approx(1.5 - 3 * 0.1602, abs=0.02)


def test_only_a_steered_solid_axle_has_one_and_only_one() -> None:
    rod = TrackRodAdjuster().model_dump()
    for key, end, said in (
        ("wishbones", "front", "is a steered solid axle's"), ("four_link_axle", "rear", "is a steered solid axle's"),
        ("four_link_axle", "front", "has one track rod"),
    ):  # fmt: skip
        axle = ARCHETYPES[key].axle(SIZES["off_roader"], end)  # type: ignore[arg-type]
        with pytest.raises(ValidationError, match=said):
            Axle.model_validate(axle.model_dump() | {"adjusters": [*(a.model_dump() for a in axle.adjusters), rod]})
    assert steered_axle(ARCHETYPES["four_link_axle"].linkage(SIZES["car"], "rear")) is None
    with pytest.raises(DomainError, match="set its track rod, which is among its figures"):
        AdjusterFitted.start("front", ARCHETYPES["four_link_axle"].axle(SIZES["car"], "front"))


@pytest.mark.parametrize("end", ["front", "rear"])
def test_a_toe_read_at_one_wheel_is_not_told_as_what_both_make_together(end: str) -> None:
    key = "radius_arm_axle" if end == "front" else "five_link"
    both = read(job_on(key, end), 0.30, -0.06, end)  # type: ignore[arg-type]
    one = both.model_copy(update={"measure": both.measure.model_copy(update={"angles": both.measure.angles[:1]})})
    nothing = one.model_copy(update={"measure": one.measure.model_copy(update={"angles": ()})})
    known, half, unread = (next(a for a in align(job).axles if a.axle == end) for job in (both, one, nothing))
    assert known.total_toe is not None
    assert unread.total_toe is not None, "as the vehicle's figures have it"
    assert (half.total_toe, half.thrust_angle) == (None, None)
    assert half.cross_camber is not None, "nobody read it at either: both are as the figures have them"
    wheels = {w.side: w for w in align(one).wheels if w.axle == end}
    assert {side: a.read for side, w in wheels.items() for a in w.angles if a.angle == "toe"} == {
        "left": True, "right": False,
    }  # fmt: skip
    (said,) = (s for s in align(one).not_judged if "wheel only" in s)
    assert said.startswith(
        f"The {end} toe was read at the left wheel only: the other's is taken from the vehicle's figures"
    )
    assert ("One track rod sets both" in said) == (end == "front")
    assert not any("wheel only" in s for job in (both, nothing) for s in align(job).not_judged)


def test_a_toe_read_at_the_right_wheel_only_is_told_of_the_right_one() -> None:
    both = read(job_on("radius_arm_axle", "front"), 0.30, -0.06)
    right = both.model_copy(update={"measure": both.measure.model_copy(update={"angles": both.measure.angles[1:]})})
    found = align(right)
    assert any(s.startswith("The front toe was read at the right wheel only") for s in found.not_judged)
    assert [toe_of(w)[:2] for w in found.wheels[:2]] == [pytest.approx((0.0, -0.03)), pytest.approx((-0.06, -0.03))]
    assert found.axles[0].total_toe is None

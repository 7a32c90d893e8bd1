"""Signs and sizes that nothing else pins down, each worked by hand: turn one and a test here says so."""

import math
from typing import Any

import numpy as np
import pytest

from inclinum.core.car.archetypes import ARCHETYPES, SIZES
from inclinum.core.car.changes import PlannedChange, SeatSpacer
from inclinum.core.car.job import Brief, Job, LocalLimit, Plan
from inclinum.core.car.limits import Finding
from inclinum.core.car.prediction import assess, predict
from inclinum.core.car.proof import prove
from inclinum.core.document.names import AXLES, AxleName
from inclinum.core.kinematics import LeafAxle
from inclinum.core.kinematics.leaf import LeafBody
from inclinum.core.springs.fitted import DamperData
from tests.core.test_prediction import with_changes


def found(job: Job, key: str) -> Finding | None:
    return next((f for f in predict(job).findings if f.id == key), None)


def fitted(job: Job, end: AxleName, **fields: Any) -> Job:
    return job.model_copy(update={"vehicle": job.vehicle.with_axle(end, **fields)})


def briefed(job: Job, **fields: Any) -> Job:
    return job.model_copy(update={"brief": Brief.model_validate(job.brief.model_dump() | fields)})


@pytest.mark.parametrize("end", AXLES)
def test_droop_left_is_from_the_ride_point_down_to_the_damper_fully_out(in_hand: Job, end: AxleName) -> None:
    job = with_changes(in_hand)
    ride = assess(job).after.axle(end)
    damper = ride.axle.damper
    for left, severity in ((6.0, "fix"), (-4.0, "stops")):
        # As long, fully out, as it is with the wheel so far below the ride point.
        out = float(ride.ride.damper_at(ride.travel - left))
        extended = DamperData.model_validate(damper.model_dump() | {"extended_mm": out})
        answer = found(fitted(job, end, damper=extended), f"droop_left.{end}")
        assert answer is not None
        assert answer.value == pytest.approx(left, abs=0.05)
        assert answer.severity == severity
    assert found(job, f"droop_left.{end}") is None


def test_the_rake_by_hand_and_only_beyond_what_the_brief_allows(in_hand: Job) -> None:
    job = with_changes(in_hand, SeatSpacer(axle="rear", thickness_mm=24))
    rises = [predict(job).axle(end).rise for end in AXLES]
    # A tail up by so much over the wheelbase puts the nose down.
    down = math.degrees(math.atan((rises[1] - rises[0]) / job.vehicle.wheelbase_mm))
    assert down > 0.3
    answer = found(briefed(job, rake_change_max_deg=down - 0.05), "rake")
    assert answer is not None
    assert answer.value == pytest.approx(down, abs=1e-6)
    assert answer.limit == pytest.approx(down - 0.05, abs=1e-6)
    assert answer.margin == pytest.approx(-0.05, abs=1e-6)
    assert "drops" in answer.what
    assert found(briefed(job, rake_change_max_deg=down + 0.05), "rake") is None
    lifted = with_changes(in_hand, SeatSpacer(axle="rear", thickness_mm=-24))
    nose_up = found(briefed(lifted, rake_change_max_deg=0.1), "rake")
    assert nose_up is not None
    assert nose_up.value < 0
    assert nose_up.limit == -0.1
    assert "lifts" in nose_up.what


@pytest.mark.parametrize(("quantity", "off", "way"), [("lamp_height_min", 15, 1), ("lamp_height_max", -15, -1)])
def test_lamps_too_low_go_up_and_lamps_too_high_come_down(in_hand: Job, quantity: str, off: float, way: int) -> None:
    job = with_changes(in_hand)
    now = predict(job).lamp_height_mm
    assert now is not None
    rule = LocalLimit.model_validate({"quantity": quantity, "value_mm": now + off, "text": "the yard's rule"})
    ruled = briefed(job, local_limits=[rule.model_dump()])
    answer = found(ruled, f"local_{quantity}")
    assert answer is not None
    assert answer.margin == pytest.approx(-15, abs=1e-6)
    assert answer.wanted_rise is not None
    # The lamp sits a little ahead of the axle: it moves about as much as the axle does, and one more for the rounding.
    assert answer.wanted_rise - predict(job).front.rise == pytest.approx(way * 16, abs=0.01)
    assert answer.cures
    for cure in answer.cures:
        healed = predict(ruled.model_copy(update={"plan": Plan(changes=cure.changes)}))
        assert healed.lamp_height_mm is not None
        assert way * (healed.lamp_height_mm - (now + off)) >= 0, cure.title


def test_a_spacer_in_doubt_is_in_the_height_by_one_over_the_ratio(in_hand: Job) -> None:
    def spread(tolerance: float) -> float:
        return predict(
            with_changes(in_hand, SeatSpacer(axle="rear", thickness_mm=12, tolerance_mm=tolerance))
        ).rear.plus_minus

    ride = assess(with_changes(in_hand, SeatSpacer(axle="rear", thickness_mm=12))).after.rear
    alone = 4.0 * float(ride.ride.spring.stiffness(ride.ride.spring_at(ride.travel)))
    alone *= float(ride.ride.spring_length.ratio(ride.travel)) / ride.wheel_rate
    assert alone == pytest.approx(4.0 / float(ride.ride.spring_length.ratio(ride.travel)), rel=0.15)
    assert spread(4.0) == pytest.approx(math.hypot(spread(0.0), alone), rel=0.01)
    two = (
        SeatSpacer(axle="rear", thickness_mm=6, tolerance_mm=3),
        SeatSpacer(axle="rear", thickness_mm=6, tolerance_mm=4),
    )
    both = with_changes(in_hand, *two)
    assert predict(both).rear.plus_minus == pytest.approx(math.hypot(spread(0.0), 5 / 4 * alone), rel=0.01)
    off = tuple(p.model_copy(update={"on": False}) if p.id == "t1" else p for p in both.plan.changes)
    kept: tuple[PlannedChange, ...] = off
    one = both.model_copy(update={"plan": both.plan.model_copy(update={"changes": kept})})
    assert predict(one).rear.plus_minus == pytest.approx(math.hypot(spread(0.0), 3 / 4 * alone), rel=0.05)


def test_a_ratio_in_doubt_is_its_own_share_of_the_rise(in_hand: Job) -> None:
    """A ring lifts by its thickness over the ratio: two per cent of the one are two per cent of the other."""
    lifted = with_changes(in_hand, SeatSpacer(axle="rear", thickness_mm=20))
    for percent in (2.0, 6.0):
        answer = predict(fitted(lifted, "rear", ratio_tolerance_percent=percent)).rear
        share = next(i for i in answer.inputs if i.label == "installation ratio")
        assert share.plus_minus == pytest.approx(answer.rise * percent / 100, rel=0.2)


def test_a_leaf_axle_steers_the_way_its_eyes_lead_it() -> None:
    """Fixed eye 600 ahead of the seat and 100 above it: a wheel that rises goes rearwards.

    The arm to the joint is 0.75 of 608.3 mm and falls 9.46°: 10 mm up are 10·tan 9.46° = 1.67 mm back. Rolled so that
    the left rises by 10 and the right falls by 10 the axle turns by 2·1.67 mm over twice the distance of the packs,
    left wheel back, which is a turn to the left.
    """
    axle = ARCHETYPES["leaf_axle"].linkage(SIZES["pick_up"])
    assert isinstance(axle, LeafAxle)
    given = axle.points.arrays()
    y = 500.0
    seat = np.array([0.0, y, 300.0])
    points = given | {
        "seat": seat, "fixed_eye": seat + np.array([600, 0, 100]), "shackle_eye": seat + np.array([-600, 0, 100]),
        "shackle_body": seat + np.array([-600, 0, 190]), "wheel_centre_left": np.array([0.0, 750.0, 330.0]),
        "wheel_centre_right": np.array([0.0, -750.0, 330.0]), "centre": np.array([0.0, 0.0, 330.0]),
    }  # fmt: skip
    body = LeafBody(points)
    back = float(body.pack(np.array([10.0])).fore_aft[0])
    assert back == pytest.approx(-1.67, abs=0.5)
    turn = body.poses(np.zeros(1), roll=math.asin(10 / y)).turn[0]
    yaw = math.atan2(turn[1, 0], turn[0, 0])
    assert yaw == pytest.approx(1.67 * 2 / (2 * y), rel=0.3)


@pytest.mark.parametrize(
    ("before", "after", "says"),
    [((400, 400), (420, 409), "bush tightened hanging"), ((400, 389), (420, 409), "it came so"),
     (None, (420, 409), "bush"), ((400, 389), (420, 418), ""), ((389, 400), (420, 409), "bush")],
)  # fmt: skip
def test_a_difference_of_the_sides_that_was_there_before_is_not_laid_on_the_job(
    in_hand: Job, before: tuple[int, int] | None, after: tuple[int, int], says: str
) -> None:
    def read(values: tuple[int, int] | None) -> list[dict[str, Any]]:
        pair = zip(("left", "right"), values or (), strict=False)
        return [{"axle": "front", "side": s, "quantity": "hub_to_arch", "reading": f"{v}"} for s, v in pair]

    data = in_hand.model_dump()
    data["measure"]["corners"] = read(before)
    data["prove"]["after"] = {"corners": read(after)}
    side = prove(Job.model_validate(data)).sides[0]
    assert (says in side.advice) if says else side.advice == ""
    assert side.even == (says == "")

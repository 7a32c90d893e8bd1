"""The drawing tells the truth: it stands on the same numbers as the figures."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from inclinum.core.car.changes import SeatSpacer
from inclinum.core.car.job import Job
from inclinum.core.car.parts import WheelParts
from inclinum.core.car.prediction import Prediction, assess, predict
from inclinum.core.car.vehicle import Vehicle
from inclinum.core.document.names import AXLES
from inclinum.core.shapes import Bar
from inclinum.demo import demo_jobs
from inclinum.report.drawing import side_elevation
from tests.core.test_every_change import job_on
from tests.core.test_prediction import with_changes

RIGID = ("arm", "rod", "hub", "damper_body")


def stands(found: Prediction) -> None:
    """Wheels on the ground, hubs under their arches as the heights say."""
    for name in ("front", "rear"):
        for stance, pick in ((found.drawing.before, "before"), (found.drawing.after, "after")):
            wheel = getattr(stance, name)
            assert wheel.contact[2] == pytest.approx(wheel.centre[2] - wheel.radius, abs=1.0)
            rows = [h for h in found.heights if h.axle == name and h.kind == "hub_to_arch"]
            mean = sum(getattr(h, pick) for h in rows) / len(rows)
            assert wheel.arch_top[1] - wheel.centre[2] == pytest.approx(mean, abs=0.6)


def test_hubs_stand_under_their_arches(in_hand: Job) -> None:
    found = predict(in_hand)
    stands(found)
    assert found.drawing.after.front.radius == 311.5, "the measured tyre"


@settings(deadline=None, max_examples=12)
@given(st.floats(1, 35), st.floats(1, 35))
def test_and_do_so_whatever_is_planned(front: float, rear: float) -> None:
    changes = (SeatSpacer(axle="front", thickness_mm=front), SeatSpacer(axle="rear", thickness_mm=rear))
    found = predict(with_changes(demo_jobs()[-1], *changes))
    stands(found)
    # Wheels stay where they are on the ground; the body moves.
    assert found.drawing.after.rear.centre[2] == pytest.approx(found.drawing.before.rear.centre[2], abs=0.6)


def test_the_body_rises_at_each_station_as_the_heights_say(in_hand: Job) -> None:
    found = predict(in_hand)
    for row in (h for h in found.heights if h.kind == "station"):
        before, after = (s.stations[row.label] for s in (found.drawing.before, found.drawing.after))
        assert after[1] - before[1] == pytest.approx(row.change, abs=0.1)


def test_parts_keep_their_lengths(in_hand: Job) -> None:
    """Arms, rods and uprights are as long hanging as on the stop: whatever bends or stretches is drawn wrong."""
    stood = assess(in_hand)
    for name in AXLES:
        stance = stood.after.axle(name)
        travels = np.array([stance.full_droop, stance.travel, stance.bump_end])
        wheel = WheelParts(stance, stance.corner.body.poses(travels))
        every = [[p for p in wheel.of_wheel(n) if isinstance(p, Bar) and p.role in RIGID] for n in range(3)]
        assert every[0]
        for parts in zip(*every, strict=True):
            lengths = [float(np.linalg.norm(p.at[1] - p.at[0])) for p in parts]
            assert lengths == pytest.approx([lengths[0]] * 3, abs=0.05), parts[0].name


def test_the_printed_elevation_has_one_scale(in_hand: Job) -> None:
    found = predict(in_hand)
    svg = side_elevation(found.drawing, width_px=640)
    circles = [part.split("/>")[0] for part in svg.split("<circle")[1:]]
    at = [{k: float(p.split(f'{k}="')[1].split('"')[0]) for k in ("cx", "cy", "r")} for p in circles]
    scale = (at[1]["cx"] - at[0]["cx"]) / (found.drawing.after.front.centre[0] - found.drawing.after.rear.centre[0])
    assert at[0]["r"] / found.drawing.after.front.radius == pytest.approx(scale, rel=0.01)
    assert 'stroke-dasharray="5 3"' in svg, "as measured is dashed"


def test_a_body_is_drawn_as_long_and_as_high_as_it_was_measured_its_arches_where_they_are() -> None:
    came = job_on("strut_front", "front").vehicle
    sizes = {"front_overhang_mm": 910.0, "rear_overhang_mm": 1240.0, "roof_mm": 1702.0}
    sized = Vehicle.model_validate(came.model_dump() | sizes)
    body, was = np.array(sized.drawn.body), np.array(came.drawn.body)
    assert body[:, 0].max() == pytest.approx(910)
    assert body[:, 0].min() == pytest.approx(-sized.wheelbase_mm - 1240)
    assert body[:, 1].max() == pytest.approx(1702)
    arches = (np.abs(was[:, 0]) < came.outline.arch_radius_mm) & (was[:, 1] < came.waist_mm)
    assert arches.sum() > 10
    assert body[arches] == pytest.approx(was[arches], abs=0.06), "arches stay round, and about their wheels"
    assert came.drawn is came.outline
    drawing = predict(job_on("strut_front", "front").model_copy(update={"vehicle": sized})).drawing
    assert max(x for x, _ in drawing.before.body) == pytest.approx(910, abs=15)
    for odd, told in (({"front_overhang_mm": 150.0}, "inside the wheel arch"), ({"roof_mm": 620.0}, "lower than")):
        with pytest.raises(ValueError, match=told):
            Vehicle.model_validate(came.model_dump() | odd)

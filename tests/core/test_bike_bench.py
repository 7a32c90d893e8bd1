"""The two-wheel bench: what is drawn is rigid and stands on the ground, readings and points do what they say."""

from itertools import pairwise
from math import cos, hypot, sin

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from inclinum.core.bike.archetypes import BIKES, BikeArchetype
from inclinum.core.bike.bench import bike_bench
from inclinum.core.bike.changes import RearLink
from inclinum.core.bike.changes.rear_link import holes
from inclinum.core.bike.fit import fitted
from inclinum.core.bike.job import BikeMeasurements
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.prediction import predict_bike
from inclinum.core.kinematics.rear_end import AnyRear, RearSweep
from inclinum.jobfile.points_csv import PointsError, read_rear_points, write_rear_points
from tests.core.test_bike import job_on

REARS: TypeAdapter[AnyRear] = TypeAdapter(AnyRear)
ALL = [pytest.param(a, id=a.key) for a in BIKES.values()]
LINKED = ("linkage_frame", "linkage_arm")


@pytest.mark.parametrize("archetype", ALL)
@settings(deadline=None, max_examples=6)
@given(seed=st.integers(0, 10_000))
def test_a_motion_found_from_another_is_its_own(archetype: BikeArchetype, seed: int) -> None:
    rng = np.random.default_rng(seed)
    rear = REARS.validate_python({"kind": archetype.kind} | archetype.points)
    other = rear.with_points({n: at + rng.uniform(-5, 5, 2) for n, at in rear.arrays().items() if n != "axle"})
    try:
        alone = RearSweep(other)
    except ValueError:
        assume(False)
        return
    led = RearSweep(other, near=RearSweep(rear))
    assert led.rises == alone.rises
    np.testing.assert_allclose(led.curve.lengths, alone.curve.lengths, atol=1e-7)
    np.testing.assert_allclose(led.curve.ratios, alone.curve.ratios, atol=1e-7)


@pytest.mark.parametrize("key", LINKED)
def test_the_other_assembly_of_a_rocker_is_not_led_astray(key: str) -> None:
    """Drawn with its rod hole on the other side of the line from pivot to rod, the same parts move otherwise."""
    rear = REARS.validate_python({"kind": BIKES[key].kind} | BIKES[key].points)
    p = rear.arrays()
    away = next(end for end in rear.rods[0] if end != "rod_rocker")
    line = (p[away] - p["rocker_pivot"]) / np.linalg.norm(p[away] - p["rocker_pivot"])
    across = np.array([-line[1], line[0]])

    def mirrored(name: str) -> np.ndarray:
        return p[name] - 2 * ((p[name] - p["rocker_pivot"]) @ across) * across

    other = rear.with_points({"rod_rocker": mirrored("rod_rocker"), "damper_rocker": mirrored("damper_rocker")})
    lengths = [hypot(*(q["rod_rocker"] - q[away])) for q in (rear.arrays(), other.arrays())]
    assert lengths[0] == pytest.approx(lengths[1], abs=1e-3), "the same rod"
    results = []
    for near in (None, RearSweep(rear)):
        try:
            results.append(RearSweep(other, near=near).curve.lengths)
        except ValueError as error:
            results.append(str(error))
    if isinstance(results[0], str):
        assert results[0] == results[1]
    else:
        np.testing.assert_allclose(results[0], results[1], atol=1e-7)


@pytest.mark.parametrize("archetype", ALL)
def test_every_frame_is_rigid_and_stands_on_the_ground(archetype: BikeArchetype) -> None:
    bike = archetype.bike("x")
    view = bike_bench(bike)
    points = bike.rear.arrays()
    for pose in view.poses:
        at = pose.points
        assert pose.rear_axle[1] == pytest.approx(bike.rear_tyre_radius_mm, abs=0.06)
        assert pose.front_axle[1] == pytest.approx(bike.front_tyre_radius_mm, abs=0.06)
        for member, names in bike.rear.members().items():
            for a, b in pairwise(n for n in names if n in at):
                drawn = hypot(at[a][0] - at[b][0], at[a][1] - at[b][1])
                assert drawn == pytest.approx(hypot(*(points[a] - points[b])), abs=0.2), (member, a, b)
    first = view.poses[0]
    c, s = cos(first.turn), sin(first.turn)
    assert first.points.keys() == points.keys()
    for name, (x, z) in first.points.items():  # full extension is drawn as the document has it, turned on its tyres
        px, pz = points[name]
        dz = pz - points["axle"][1]
        assert x == pytest.approx(c * px - s * dz, abs=0.06)
        assert z == pytest.approx(s * px + c * dz + bike.rear_tyre_radius_mm, abs=0.06)
    assert view.eyes_apart_mm is None
    assert not view.questions
    assert [p.name for p in view.fit.points if p.fixed] == ["axle"]


def test_bench_and_job_say_the_same_of_a_machine() -> None:
    bike = BIKES["shaft_tourer"].bike("x")
    view, answer = bike_bench(bike), predict_bike(job_on(bike)).before
    assert view.rear.sag_mm == pytest.approx(answer.unladen.rear_sag_mm, abs=0.05)
    assert view.front.sag_mm == pytest.approx(answer.unladen.front_sag_mm, abs=0.05)
    assert view.rear.travel_mm == pytest.approx(answer.rear_travel_mm, abs=1e-6)
    assert view.rear.load_n == pytest.approx(bike.sprung_rear_kg * 9.80665)
    assert "chain slack" not in {c.name for c in view.curves}, "a shaft has no chain"


def test_leverage_of_a_damper_straight_to_the_arm_by_hand() -> None:
    """Axle and eye turn about the pivot: leverage is axle's rise over eye's movement along the damper."""
    data = BIKES["twin_dampers"].points
    bike = BIKES["twin_dampers"].bike("x")
    axle, pivot, top, eye = (np.array(data[n], dtype=float) for n in ("axle", "pivot", "damper_frame", "damper_arm"))
    unit = (top - eye) / np.linalg.norm(top - eye)
    arm, out = eye - pivot, axle - pivot
    along = -arm[1] * unit[0] + arm[0] * unit[1]
    by_hand = out[0] / along
    leverage = next(c for c in bike_bench(bike).curves if c.name == "leverage")
    assert leverage.values[0] == pytest.approx(by_hand, rel=2e-5)  # the damper's length is rounded


def with_tape(bike: Bike, **read: str) -> Bike:
    tape = [{"key": k.replace("__", "."), "reading": v} for k, v in read.items()]
    return Bike.model_validate(bike.model_dump() | {"tape": tape})


def test_tape_on_the_bench_is_tape_in_the_job_and_the_jobs_comes_before() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    bench = with_tape(bike, rod_arm__rod_rocker="121", axle__pivot="555.5")
    job = BikeMeasurements.model_validate({"tape": [{"key": "rod_arm.rod_rocker", "reading": "121"},
                                                    {"key": "axle.pivot", "reading": "555.5"}]})  # fmt: skip
    assert fitted(bench, BikeMeasurements()).bike.rear == fitted(bike, job).bike.rear
    later = BikeMeasurements.model_validate({"tape": [{"key": "axle.pivot", "reading": "561"}]})
    row = {r.key: r.fitted for r in fitted(bench, later).fit.rows}
    assert row["axle.pivot"] == pytest.approx(561, abs=0.1)
    assert row["rod_arm.rod_rocker"] == pytest.approx(121, abs=0.1)
    with pytest.raises(ValidationError, match=r"axle\.pivot is there twice"):
        Bike.model_validate(bike.model_dump() | {"tape": [{"key": "axle.pivot", "reading": "1"}] * 2})


def test_the_damper_forced_out_holds_its_eyes() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    taken = fitted(with_tape(bike, damper__extended="306"), BikeMeasurements())
    one, other = (np.array(taken.bike.rear.named()[n]) for n in taken.bike.rear.damper)
    assert taken.bike.damper.extended_mm == 306
    assert float(np.linalg.norm(one - other)) == pytest.approx(306, abs=0.1)
    assert taken.fit.rows[0].residual == pytest.approx(0, abs=0.1)


def test_eyes_further_apart_than_the_damper_are_asked_about() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    moved = bike.model_copy(update={"rear": bike.rear.with_points({"damper_frame": np.array([370.0, 522.0])})})
    view = bike_bench(moved)
    assert view.eyes_apart_mm == pytest.approx(322.4, abs=1.0)
    assert "its eyes are drawn" in view.questions[0]
    mended = moved.damper.model_copy(update={"extended_mm": view.eyes_apart_mm})
    assert not bike_bench(moved.model_copy(update={"damper": mended})).questions


def test_a_rear_end_that_carries_nothing_is_asked_about() -> None:
    bike = BIKES["downhill"].bike("x")
    heavy = bike.model_copy(update={"sprung_rear_kg": 200.0})
    assert not bike_bench(bike).questions
    asked = bike_bench(heavy)
    assert asked.rear.sag_mm == pytest.approx(asked.rear.travel_mm)
    assert "The rear end does not carry the machine" in asked.questions[0]


def test_the_centre_stand_of_a_lowered_and_of_a_raised_machine() -> None:
    bike = BIKES["shaft_tourer"].bike("x")
    assert bike.centre_stand is not None
    unchanged = predict_bike(job_on(bike)).centre_stand
    assert unchanged is not None
    assert (unchanged.clear_before_mm, unchanged.lifted_more_mm) == (bike.centre_stand.wheel_clear_mm, 0.0)
    for change, finding in ((-12.0, "stand.centre"), (9.0, "stand.centre_short")):
        damper = {"type": "rear_damper", "stroke_mm": bike.damper.stroke_mm,
                  "extended_mm": bike.damper.extended_mm + change}  # fmt: skip
        answer = predict_bike(job_on(bike, [damper]))
        stand, at = answer.centre_stand, answer.planned.unladen
        assert stand is not None
        # The wheel hangs by what the axle sits higher in the frame at full extension; the frame is lifted where the
        # stand is, half way to the pivot, by the line through both drops.
        assert stand.clear_after_mm - stand.clear_before_mm == pytest.approx(answer.full_extension_rise_mm)
        share = bike.rear.named()["pivot"][0] / 2 / bike.wheelbase_mm
        by_line = at.rear_drop_mm + (at.front_drop_mm - at.rear_drop_mm) * share
        assert stand.lifted_more_mm == pytest.approx(by_line)
        assert np.sign(by_line) == -np.sign(change)
        assert finding in {f.id for f in answer.findings}


def test_points_of_a_rear_end_as_a_table_and_back() -> None:
    rear = BIKES["linkage_frame"].bike("x").rear
    assert read_rear_points(write_rear_points(rear), rear) == rear.named()
    pasted = "Damper hole in the frame\t370,5\t20 in\nrocker_pivot; 431; 255"
    with pytest.raises(PointsError, match="line 2, column 1"):
        read_rear_points(pasted.replace("\t", ";").replace("rocker_pivot", "rocket"), rear)
    got = read_rear_points(pasted.replace("\t", ";"), rear)
    assert got == {"damper_frame": (370.5, 508.0), "rocker_pivot": (431.0, 255.0)}
    with pytest.raises(PointsError, match="two coordinates, this line has 1"):
        read_rear_points("pivot; 560", rear)
    with pytest.raises(PointsError, match="The rear axle stays at"):
        read_rear_points("axle; 5; 318", rear)


def test_a_link_dragged_gives_what_it_gives_alone() -> None:
    """The planned machine is found from the one it came from; told alone, as a machine, it is the same."""
    bike = BIKES["linkage_frame"].bike("x")
    hole, rod = holes(bike.rear)
    link = {"type": "rear_link", "hole_mm": round(hole, 1), "rod_mm": round(rod + 5, 1)}
    led = predict_bike(job_on(bike, [link])).planned
    alone = predict_bike(job_on(RearLink.model_validate(link).apply(bike))).before
    assert led.laden.rear_sag_mm == pytest.approx(alone.laden.rear_sag_mm, abs=1e-4)
    assert led.leverage_laden == pytest.approx(alone.leverage_laden, abs=1e-6)
    assert led.laden.arm_angle_deg != predict_bike(job_on(bike)).planned.laden.arm_angle_deg

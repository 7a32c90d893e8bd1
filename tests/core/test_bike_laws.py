"""Laws that hold on every two-wheeler, whatever its kind: statics, rigid bodies, files, and plans nobody would draw."""

from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from hypothesis import assume, event, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from inclinum.core.bike.archetypes import BIKES, BikeArchetype
from inclinum.core.bike.changes import BIKE_CHANGES, PlannedBikeChange, begin
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.machine import ENDS, Bike, End
from inclinum.core.bike.prediction import BikePrediction, assess, predict_bike
from inclinum.core.bike.setting import set_sag
from inclinum.core.kinematics.plane import PlanarLinkage
from inclinum.core.springs.fork import CoilForkSprings
from inclinum.jobfile import BikeFile, read_job, write
from tests.core.test_bike import job_on

few = settings(deadline=None, max_examples=10)
machines = st.sampled_from(list(BIKES.values()))
shares = st.floats(0.2, 0.45)


@few
@given(archetype=machines, end=st.sampled_from(ENDS), share=shares, kilos=st.floats(50, 120))
def test_a_sag_that_was_set_is_the_sag_it_stands_at(
    archetype: BikeArchetype, end: End, share: float, kilos: float
) -> None:
    bike = archetype.bike("x")
    rider = {"name": "rider", "mass": f"{kilos:.0f}", "x_mm": 0.38 * bike.wheelbase_mm}
    job = job_on(bike, rides=[rider])
    travel = predict_bike(job).sags[end].travel_mm
    try:
        cure = set_sag(assess(job).case(), end, share * travel)
    except ValueError as error:
        why = str(error)
        event(why)
        assert_sentence(why)
        return
    answer = predict_bike(job.model_copy(update={"plan": job.plan.model_copy(update={"changes": cure.changes})}))
    # Collars and spacers are set to a tenth of a millimetre, which the leverage multiplies.
    assert answer.sags[end].laden_mm == pytest.approx(share * travel, abs=0.4)
    other: End = "front" if end == "rear" else "rear"
    assert answer.sags[other].laden_mm == pytest.approx(predict_bike(job).sags[other].laden_mm, abs=1e-6)


@few
@given(archetype=machines, share=st.floats(0.05, 0.95), kilos=st.floats(2, 80), x=st.floats(-200, 900))
def test_loads_are_shared_by_the_station_and_moments_balance(
    archetype: BikeArchetype, share: float, kilos: float, x: float
) -> None:
    bike = archetype.bike("x")
    rides = [{"name": "rider", "mass": "75", "x_mm": share * bike.wheelbase_mm},
             {"name": "box", "role": "luggage", "mass": f"{kilos:.1f}", "x_mm": x}]  # fmt: skip
    answer = predict_bike(job_on(bike, rides=rides))
    kg = round(kilos, 1)
    added = [now - bare for bare, now in (answer.front_load_n, answer.rear_load_n)]
    assert sum(added) == pytest.approx(9.80665 * (75 + kg))
    assert added[0] * bike.wheelbase_mm == pytest.approx(9.80665 * (75 * share * bike.wheelbase_mm + kg * x))


@few
@given(archetype=machines, up=st.floats(0, 12))
def test_tubes_raised_lower_the_front_by_their_cosine(archetype: BikeArchetype, up: float) -> None:
    bike = archetype.bike("x")
    assume(bike.fork.crown == "double")
    job = job_on(bike, [{"type": "fork_raise", "raised_mm": bike.fork.raised_mm + up}])
    answer = predict_bike(job)
    assert answer.front_drop_mm == pytest.approx(up * np.cos(np.radians(bike.rake_deg)))
    assert answer.rear_drop_mm == pytest.approx(0.0, abs=1e-9)
    steeper = answer.before.laden.rake_deg - answer.planned.laden.rake_deg
    assert steeper == pytest.approx(
        np.degrees(
            np.arctan2(answer.planned.laden.front_drop_mm - answer.planned.laden.rear_drop_mm, bike.wheelbase_mm)
            - np.arctan2(answer.before.laden.front_drop_mm - answer.before.laden.rear_drop_mm, bike.wheelbase_mm)
        )
    )


@few
@given(archetype=machines, taller=st.floats(-12, 12))
def test_taller_tyres_at_both_ends_lift_everything_alike(archetype: BikeArchetype, taller: float) -> None:
    bike = archetype.bike("x")
    tyres = {"type": "tyres", "front_radius_mm": bike.front_tyre_radius_mm + taller,
             "rear_radius_mm": bike.rear_tyre_radius_mm + taller}  # fmt: skip
    answer = predict_bike(job_on(bike, [tyres]))
    assert answer.front_drop_mm == pytest.approx(-taller)
    assert answer.rear_drop_mm == pytest.approx(-taller)
    assert answer.planned.laden.seat_mm == pytest.approx(answer.before.laden.seat_mm + taller)
    assert answer.planned.laden.rake_deg == pytest.approx(answer.before.laden.rake_deg)
    grown = taller * np.tan(np.radians(answer.before.laden.rake_deg))
    assert answer.planned.laden.trail_mm - answer.before.laden.trail_mm == pytest.approx(grown)
    for was, now in answer.clearances.values():
        assert now - was == pytest.approx(taller)


@few
@given(archetype=machines, dx=st.floats(-300, 300), dz=st.floats(-100, 200))
def test_where_a_linkage_stands_and_which_way_it_looks_does_not_come_into_it(
    archetype: BikeArchetype, dx: float, dz: float
) -> None:
    rear = archetype.bike("x").rear
    rise = np.linspace(0, 60, 7)

    def lengths(points: dict[str, np.ndarray]) -> np.ndarray:
        linkage = PlanarLinkage(points, rear.members(), rear.rods, "axle")
        return linkage.distance(*rear.damper, linkage.poses(rise))[0]

    here = lengths(rear.arrays())
    np.testing.assert_allclose(lengths({n: np.add(p, (dx, dz)) for n, p in rear.arrays().items()}), here, atol=1e-7)
    np.testing.assert_allclose(lengths({n: p * [-1, 1] for n, p in rear.arrays().items()}), here, atol=1e-7)


@few
@given(archetype=machines, loads=st.lists(st.floats(20, 4000), min_size=2, max_size=6))
def test_more_load_never_stands_higher(archetype: BikeArchetype, loads: list[float]) -> None:
    standing = assess(job_on(archetype.bike("x"))).before
    ordered = sorted(loads)
    rear = [standing.rear.at(load) for load in ordered]
    front = [standing.front.at(load) for load in ordered]
    for ends in (rear, front):
        assert all(a.sag <= b.sag + 1e-9 for a, b in pairwise(ends))
    for load, at in zip(ordered, rear, strict=True):
        if not at.topped_out and not at.bottomed:
            assert float(standing.rear.force(at.sag)) == pytest.approx(load, rel=2e-3, abs=1.0)


def some_plan(bike: Bike, data: st.DataObject) -> list[PlannedBikeChange]:
    """A stack of changes with numbers anywhere their forms let them be."""
    stack: list[PlannedBikeChange] = []
    for kind in data.draw(st.lists(st.sampled_from(BIKE_CHANGES), max_size=4, unique=True)):
        name = kind.model_fields["type"].default
        try:
            begun = begin(name, bike, tuple(stack))
        except ValueError:
            continue
        fields: dict[str, Any] = begun.change.model_dump()
        for key, schema in kind.model_json_schema()["properties"].items():
            low = schema.get("minimum", schema.get("exclusiveMinimum"))
            high = schema.get("maximum", schema.get("exclusiveMaximum"))
            if (
                isinstance(fields[key], float | int)
                and low is not None
                and high is not None
                and data.draw(st.booleans())
            ):
                fields[key] = round(data.draw(st.floats(low, high)), 1)
        try:
            change = type(begun.change).model_validate(fields)
        except ValidationError:
            continue
        stack.append(begun.model_copy(update={"change": change}))
    return stack


@settings(deadline=None, max_examples=40)
@given(archetype=machines, data=st.data())
def test_any_plan_is_predicted_or_refused_in_a_sentence_and_survives_its_file(
    archetype: BikeArchetype, data: st.DataObject
) -> None:
    bike = archetype.bike("x")
    job = job_on(bike)
    stack = some_plan(bike, data)
    planned = BikeJob.model_validate(job.model_dump() | {"plan": {"changes": [p.model_dump() for p in stack]}})
    assert read_job(write(BikeFile(job=planned))) == BikeFile(job=planned)
    try:
        answer = predict_bike(planned)
    except ValidationError as error:
        # A part that cannot be is refused by its own document; a number that is none would be told as such.
        assert_told(error)
        return
    except ValueError as error:
        assert_sentence(str(error))
        return
    assert_finite(answer)
    assert -sum(s.rear for s in answer.shares) == pytest.approx(answer.rear_drop_mm, abs=1e-6)
    assert -sum(s.front for s in answer.shares) == pytest.approx(answer.front_drop_mm, abs=1e-6)


def assert_sentence(text: str) -> None:
    assert text[:1].isupper() or text[:1] == "“", text
    assert text.rstrip().endswith((".", "?")), text


def assert_told(error: ValidationError) -> None:
    assert {e["type"] for e in error.errors()} == {"value_error"}, error


def assert_finite(answer: BikePrediction) -> None:
    def walk(value: Any, path: str) -> None:
        if isinstance(value, dict):
            for key, inner in value.items():
                walk(inner, f"{path}.{key}")
        elif isinstance(value, list | tuple):
            for n, inner in enumerate(value):
                walk(inner, f"{path}[{n}]")
        elif isinstance(value, float):
            assert np.isfinite(value), path

    walk(answer.model_dump(), "")


def test_a_fork_is_its_springs_and_its_air() -> None:
    """By hand: two legs of k·(preload + x), and A·(p0·(V0/(V0 − A·x))^n − p0) twice."""
    fork = BIKES["linkage_frame"].bike("x").fork
    assert isinstance(fork.springs, CoilForkSprings)
    springs, x = fork.springs, 0.4 * fork.stroke_mm
    steel = 2 * springs.left.rate_n_per_mm * (springs.leg_preload() + x)
    air = springs.air
    by_hand = steel
    if air is not None:
        v0 = air.volume(fork.stroke_mm)
        p0 = air.pressure_n_per_mm2
        by_hand += 2 * air.area_mm2 * (p0 * (v0 / (v0 - air.area_mm2 * x)) ** air.exponent - p0)
    assert float(fork.force(x)) == pytest.approx(by_hand)

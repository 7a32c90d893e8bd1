"""The body on its four corners, loads from scales, springs of every kind in a job, and the sampled vehicle."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from inclinum.core.car.archetypes import ARCHETYPES, SIZES
from inclinum.core.car.card import card
from inclinum.core.car.draws import sample_vehicle
from inclinum.core.car.job import AxleAim, Brief, Job, Measurements, Plan, ScaleReading
from inclinum.core.car.prediction import assess, predict
from inclinum.core.car.stance import inferred_load, ride_corner, stand
from inclinum.core.car.vehicle import Vehicle
from inclinum.core.document.known import Known
from inclinum.core.document.names import AXLES, SIDES
from inclinum.core.equilibrium.body import BarOffset, LinearCorner, SprungBody, centre_of
from inclinum.core.quantity import Length, Mass
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.springs import DualRateStack, LeafPack, StackSpring, TableStop, TopOut
from inclinum.core.springs.air import AirBag
from inclinum.core.springs.fitted import SPRINGS, BumpStopData, StackCoil, StackData, TopOutData
from inclinum.core.springs.spring import PerSample, Toleranced
from inclinum.demo import demo_fleet
from tests.conftest import plain_coil

X, Y = np.array([0.0, 0.0, -2600.0, -2600.0]), np.array([750.0, -750.0, 760.0, -760.0])


@settings(deadline=None, max_examples=40)
@given(
    st.lists(st.floats(2000, 6000), min_size=4, max_size=4),
    st.lists(st.floats(15, 60), min_size=4, max_size=4),
    st.floats(0, 20),
    st.floats(-400, 400),
)
def test_a_body_at_rest_is_in_balance(loads: list[float], rates: list[float], bar: float, shift: float) -> None:
    """Whatever is put where: corner forces carry the weight, and their moments about its centre vanish."""
    start = np.array(loads)
    weight, x, y = centre_of(start, X, Y)
    body = SprungBody(
        [LinearCorner(f, k) for f, k in zip(start, rates, strict=True)], X, Y, (BarOffset(bar), BarOffset(bar))
    )
    rest = body.rest(weight * 1.1, (x + shift, y))
    assert rest.load.sum() == pytest.approx(1.1 * weight)
    assert (rest.load * (X - x - shift)).sum() / weight == pytest.approx(0, abs=1e-6)
    assert (rest.load * (Y - y)).sum() / weight == pytest.approx(0, abs=1e-6)
    # Bars move load across, never along: each axle's total is that of its springs.
    springs = start + np.array(rates) * rest.travel
    assert rest.load[:2].sum() == pytest.approx(springs[:2].sum())


def test_many_bodies_in_one_batch_are_the_single_ones() -> None:
    loads = np.array([4000.0, 3900.0, 3000.0, 3100.0])
    rates = np.array([20.0, 25.0, 30.0])
    weight, x, y = centre_of(loads, X, Y)
    together = SprungBody([LinearCorner(f, rates) for f in loads], X, Y).rest(np.full(3, weight + 800), (x, y + 20))
    for i, k in enumerate(rates):
        alone = SprungBody([LinearCorner(f, k) for f in loads], X, Y).rest(weight + 800, (x, y + 20))
        np.testing.assert_allclose(together.travel[i], alone.travel, atol=1e-9)


def weighed(job: Job, kilograms: dict[tuple[str, str], float]) -> Job:
    scales = tuple(
        ScaleReading.model_validate({"axle": a, "side": s, "reading": Mass.model_validate(f"{v:.1f} kg")})
        for (a, s), v in kilograms.items()
    )
    return job.model_copy(update={"measure": job.measure.model_copy(update={"scales": scales})})


def test_scales_win_over_springs_and_a_difference_is_told(in_hand: Job) -> None:
    springs = predict(in_hand).body
    agreeing = {(c.axle, c.side): c.spring_says_n / GRAVITY + 38 for c in springs.corners}
    same = predict(weighed(in_hand, agreeing)).body
    assert same.disagreements == ()
    assert all(c.by_scales for c in same.corners)
    assert same.cross_before == pytest.approx(springs.cross_before, abs=1e-4)
    heavy = agreeing | {("front", "left"): agreeing["front", "left"] + 90}
    answer = predict(weighed(in_hand, heavy)).body
    assert len(answer.disagreements) == 1
    corner = next(c for c in answer.corners if (c.axle, c.side) == ("front", "left"))
    spring = f"the spring at its height {corner.spring_says_n / GRAVITY:.0f} kg"
    assert "At the front left the scales say" in answer.disagreements[0]
    assert spring in answer.disagreements[0]
    assert answer.corners[0].before_n == pytest.approx(springs.corners[0].before_n + 90 * GRAVITY, abs=1)
    assert answer.cross_before > springs.cross_before


def test_an_even_plan_raises_the_four_corners_as_it_raises_the_axles(in_hand: Job) -> None:
    found = predict(in_hand)
    for axle in AXLES:
        rises = [c.rise_mm for c in found.body.corners if c.axle == axle]
        assert np.mean(rises) == pytest.approx(found.axle(axle).rise, abs=0.25)
    assert sum(c.after_n for c in found.body.corners) == pytest.approx(sum(c.before_n for c in found.body.corners))


def bare_job(vehicle: Vehicle, owner: str = "Yard") -> Job:
    level = AxleAim(rise=Length.model_validate("0"))
    return Job(id="j", title="j", vehicle=vehicle, brief=Brief(owner=owner, front=level, rear=level))


@pytest.mark.parametrize(("vehicle", "owner"), demo_fleet(), ids=lambda v: getattr(v, "plate", ""))
def test_every_vehicle_of_the_fleet_can_have_a_job(vehicle: Vehicle, owner: str) -> None:
    job = bare_job(vehicle, owner)
    found = predict(job)
    for axle in AXLES:
        assert found.axle(axle).rise == pytest.approx(0, abs=1e-3)
        assert 1.0 < found.axle(axle).frequency_before < 2.0
    assert [f.id for f in found.findings if f.severity == "stops"] == []
    lower = job.model_copy(
        update={
            "measure": Measurements.model_validate(
                {
                    "corners": [
                        {"axle": a, "side": s, "quantity": "hub_to_arch",
                         "reading": f"{vehicle.axle(a).hub_to_arch_mm - 12:g}"}
                        for a in AXLES for s in SIDES
                    ]
                }
            )
        }
    )  # fmt: skip
    loaded = predict(lower)
    for axle in AXLES:
        assert loaded.axle(axle).load_n > found.axle(axle).load_n, "lower on the same springs is more load"
    changes = [
        {"id": f"c{n}", "change": {"type": "bump_stop_swap", "axle": a,
                                   "height_mm": vehicle.axle(a).bump_stop.height_mm + 6}}
        for n, a in enumerate(AXLES)
    ]  # fmt: skip
    made = card(job.model_copy(update={"plan": Plan.model_validate({"changes": changes})}))
    assert len({s.id for s in made.steps}) == len(made.steps)
    assert any(s.hold for s in made.steps)


def test_a_stack_in_a_vehicle_rides_where_its_bench_sheet_says() -> None:
    axle = ARCHETYPES["wishbones_long"].axle(SIZES["side_by_side"], "front")
    ride = ride_corner(axle)
    extended = float(ride.damper_length.length(ride.window().droop_limit or 0.0))
    tender, main = StackCoil(rate_n_per_mm=40, free_length_mm=150, solid_length_mm=60), StackCoil(
        rate_n_per_mm=70, free_length_mm=320, solid_length_mm=120
    )  # fmt: skip
    data = StackData(tender=tender, main=main, preload_mm=6, gap_mm=30, length_extended_mm=extended)
    stacked = axle.model_copy(update={"spring": data, "spring_offset_mm": 0.0})
    load = inferred_load(stacked, 0.0)
    at = stand(stacked, 0.0, load, "front")
    assert at.travel == pytest.approx(0, abs=1e-6)
    stack = DualRateStack(StackSpring(40, 150, 60), StackSpring(70, 320, 120), 6, 30)
    pressed = extended - float(ride.spring_length.length(0.0))
    assert load == pytest.approx(stack.force_at(pressed) * float(ride.spring_length.ratio(0.0)), rel=1e-9)
    cross, by = stack.crossover
    assert by == "stop"
    steps = stack.spring(extended)
    assert float(steps.stiffness(extended - cross - 1)) == pytest.approx(70)
    assert float(steps.stiffness(extended - cross + 1)) == pytest.approx(40 * 70 / 110)


def test_the_other_order_of_a_stack_swaps_the_shares() -> None:
    near = DualRateStack(StackSpring(30, 150, 60), StackSpring(60, 300, 100), 10, 20)
    far = DualRateStack(StackSpring(30, 150, 60), StackSpring(60, 300, 100), 10, 20, "tender_at_far_end")
    # Of each mm the tender takes two thirds: at the collar it brings the divider to the stop twice as soon.
    assert near.crossover == (pytest.approx(30), "stop")
    assert far.crossover == (pytest.approx(60), "stop")
    assert near.with_preload(6).gap == pytest.approx(20 + 6 / 3)
    assert far.with_preload(6).gap == pytest.approx(20 + 6 * 2 / 3)


@pytest.mark.parametrize(
    "spring",
    [
        LeafPack(30, 140, 25, 60),
        AirBag(160, 7000, -10, 1.2e6, 0.6, 1.3),
        DualRateStack(StackSpring(30, 150, 60), StackSpring(60, 300, 100), 10, 20).spring(420),
        Toleranced(LeafPack(30, 140), 1.1, 4.0),
        PerSample([LeafPack(30, 140), LeafPack(35, 120)]),
        TopOut(80, 10),
    ],
    ids=lambda s: type(s).__name__,
)
def test_stiffness_is_the_slope_of_the_force(spring: object) -> None:
    low, high = (90, 230) if isinstance(spring, AirBag) else (-40, 130)
    length = np.linspace(low, high, 171)[:, None] * np.ones(2)
    h = 1e-4
    slope = -(spring.force(length + h) - spring.force(length - h)) / (2 * h)  # type: ignore[attr-defined]
    answer = spring.stiffness(length)  # type: ignore[attr-defined]
    if isinstance(spring, TopOut):
        slope = -slope  # it pulls the harder the longer it is
    off = np.abs(slope - answer) > 1e-3 * (1 + np.abs(answer))
    assert off.sum() <= 8, "only at a corner of the curve may the two differ"


def test_stops_by_table_and_over_the_axle() -> None:
    stop = TableStop((0, 10, 30), (0, 200, 3000))
    assert stop.force(np.array([-5, 5, 20, 40])).tolist() == [0, 100, 1600, 4400]
    axle = ARCHETYPES["four_link_axle"].axle(SIZES["off_roader"], "rear")
    low = axle.model_copy(update={"bump_stop": axle.bump_stop.model_copy(update={"contact_travel_mm": 20.0})})
    assert ride_corner(low).window().stop_contact == 20
    assert float(ride_corner(low).wheel_force(40.0)) > float(ride_corner(axle).wheel_force(40.0))
    for bad in ({"height_mm": 40, "max_compression_mm": 20}, {"height_mm": 40, "max_compression_mm": 20,
                "contact_mm": 400, "table": [[0, 0], [10, 50], [5, 90]]}):  # fmt: skip
        with pytest.raises(ValueError, match=r"give contact_mm|does not rise at 5 mm"):
            BumpStopData.model_validate(bad)


def test_a_top_out_spring_lowers_what_hangs_near_full_extension() -> None:
    axle = ARCHETYPES["wishbones"].axle(SIZES["car"], "front")
    caught = axle.model_copy(update={"top_out": TopOutData(rate_n_per_mm=60, contact_mm=axle.damper.extended_mm - 15)})
    plain, held = ride_corner(axle), ride_corner(caught)
    droop = plain.window().droop_limit
    assert droop is not None
    assert float(held.wheel_force(droop)) < float(plain.wheel_force(droop))
    assert float(held.wheel_force(0.0)) == float(plain.wheel_force(0.0))


def test_samples_spread_as_first_order_says_where_the_response_is_straight(in_hand: Job) -> None:
    vehicle = in_hand.vehicle
    for name in AXLES:  # hardpoints known exactly: what is left is tape, springs and spacers
        exact = {n: Known(source="measured", tolerance_mm=0) for n in vehicle.axle(name).linkage.named_points()}
        vehicle = vehicle.with_axle(name, known=exact, ratio_tolerance_percent=0)
    in_hand = in_hand.model_copy(update={"vehicle": vehicle})
    answer = predict(in_hand)
    drawn = sample_vehicle(in_hand, 3000, seed=5)
    for wheel in [w for w in drawn if w.side == "left"]:  # the first-order ± is told with the left tape's
        row = next(h for h in answer.heights if (h.axle, h.side, h.kind) == (wheel.axle, wheel.side, "hub_to_arch"))
        assert wheel.height.mean() == pytest.approx(row.after, abs=1.0)
        assert row.plus_minus is not None
        assert 2 * wheel.height.std() == pytest.approx(row.plus_minus, rel=0.12)
    # On scales, right side only, the load and its ± come from there, and both ways agree still.
    heavy = weighed(in_hand, {("rear", "right"): 520.0})
    row = next(h for h in predict(heavy).heights if (h.axle, h.side, h.kind) == ("rear", "left", "hub_to_arch"))
    wheel = next(w for w in sample_vehicle(heavy, 3000, seed=5) if (w.axle, w.side) == ("rear", "left"))
    assert wheel.height.mean() == pytest.approx(row.after, abs=1.0)
    assert 2 * wheel.height.std() == pytest.approx(row.plus_minus, rel=0.12)
    again = sample_vehicle(in_hand, 3000, seed=5)
    np.testing.assert_array_equal(drawn[0].camber, again[0].camber)


def test_hardpoints_known_better_give_angles_known_better() -> None:
    vehicle = next(v for v, _ in demo_fleet() if v.plate == "Q-0112")
    front = vehicle.front
    known = {n: k.model_copy(update={"tolerance_mm": 2.0}) for n, k in front.known.items()}
    sharp = vehicle.model_copy(update={"front": front.model_copy(update={"known": known})})
    vague, better = (sample_vehicle(bare_job(v), 800)[0] for v in (vehicle, sharp))
    assert better.toe.std() < 0.5 * vague.toe.std() or vague.toe.std() < 1e-6


def test_a_spring_has_to_fit_its_suspension(in_hand: Job) -> None:
    assert set(SPRINGS) == {
        "coil_spring", "progressive_coil", "dual_rate_stack", "spring_table", "leaf_pack", "torsion_bar", "air_spring",
    }  # fmt: skip
    leaf = next(v for v, _ in demo_fleet() if v.plate == "Q-0233").rear
    with pytest.raises(ValueError, match="two seats for a spring, but a leaf pack is fitted"):
        type(leaf).model_validate(in_hand.vehicle.rear.model_dump() | {"spring": leaf.spring})
    with pytest.raises(ValueError, match="sprung by a leaf pack, not by a coil"):
        type(leaf).model_validate(leaf.model_dump() | {"spring": plain_coil(in_hand.vehicle, "rear")})
    assert assess(in_hand).before.front.load > 0


def test_cargo_lowers_its_own_corner_most_and_too_much_is_told(in_hand: Job) -> None:
    def loaded(*cargo: dict) -> Job:
        brief = Brief.model_validate(in_hand.brief.model_dump() | {"cargo": cargo})
        return in_hand.model_copy(update={"brief": brief})

    bare = predict(in_hand).body
    assert bare.with_cargo == ()
    stove = {"name": "stove", "mass_kg": 90, "behind_front_axle_mm": 2740, "left_mm": 500}
    body = predict(loaded(stove)).body
    sunk = [c.rise_mm - w for c, w in zip(body.corners, body.with_cargo, strict=True)]
    assert sunk[2] == max(sunk)
    assert sunk[2] > sunk[3] > abs(sunk[0]) - 3
    # By hand: 90 kg over the rear axle on two wheel rates of about 27 N/mm sink its middle by 90·9.81/54 = 16 mm.
    assert (sunk[2] + sunk[3]) / 2 == pytest.approx(
        90 * GRAVITY / (2 * predict(in_hand).rear.wheel_rate_after), rel=0.1
    )
    assert body.cargo_roll_deg < 0, "the left side goes down"
    assert body.cargo_trouble == ""
    heavy = predict(loaded(stove | {"mass_kg": 1500})).body
    assert "the rear left" in heavy.cargo_trouble
    assert "solid stop" in heavy.cargo_trouble

"""Bench sheets away from the public cases: negative, saturated, told otherwise, each against numbers worked by hand."""

import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from inclinum.core.car.card import card
from inclinum.core.car.changes import SeatSpacer, StrutTopSpacer
from inclinum.core.car.corner_weights import WHEELS
from inclinum.core.car.job import Job
from inclinum.core.car.limits import Finding
from inclinum.core.car.prediction import assess, predict
from inclinum.core.car.proof import prove
from inclinum.core.equilibrium.body import BarOffset, LinearCorner, SprungBody, centre_of
from inclinum.core.part_sheets import AnySheet, Sheet
from inclinum.core.uncertainty.explain import FourCorners, Hypothesis, explain, of_axle, of_corner
from tests.core.test_prediction import with_changes

REFERENCE = Path(__file__).parents[1] / "reference"
SHEETS: TypeAdapter[Sheet] = TypeAdapter(AnySheet)


def sheet(kind: str, **changed: Any) -> Sheet:
    """A public case with some of its inputs changed."""
    given_ = json.loads((REFERENCE / f"statics-{kind}-public.json").read_text())["given"]
    return SHEETS.validate_python({"kind": kind} | given_ | changed)


def test_a_coil_by_its_outside_diameter() -> None:
    by_outside = sheet("coil-wire", coil_mean_diameter_mm=None, coil_outside_diameter_mm=131.5).answer()
    assert by_outside["mean_diameter_mm"] == 118.0
    assert by_outside["coil_rate_N_per_mm"] == pytest.approx(23.5750882, abs=1e-6)
    tight = sheet("coil-wire", full_bump_travel_mm=130).answer()
    # 262 − 0.93·130 = 141.1; less 135 solid leaves 6.1 of the 8.5 wanted.
    assert tight["coil_bind_margin_at_full_bump_mm"] == pytest.approx(6.1)
    assert tight["margin_ok"] is False
    with pytest.raises(ValidationError, match="mean or the outside"):
        sheet("coil-wire", coil_outside_diameter_mm=131.5)


def test_a_swap_by_table_by_scales_and_out_of_reach() -> None:
    given_ = json.loads((REFERENCE / "statics-spring-swap-public.json").read_text())
    outcome, want = given_["given"]["spring_length"], given_["expect"]
    table = sheet("spring-swap", spring_length={"table": outcome["table"]}).answer()
    assert table["ride_height_change_mm"] == pytest.approx(want["ride_height_change_mm"], abs=0.01)
    assert table["wheel_rate_after_N_per_mm"] == pytest.approx(want["wheel_rate_after_N_per_mm"], abs=0.01)
    wrong = outcome | {"table": outcome["table"] | {"length_mm": [n + 1 for n in outcome["table"]["length_mm"]]}}
    with pytest.raises(ValidationError, match=r"differ by 1\.00 mm"):
        sheet("spring-swap", spring_length=wrong)
    # A lower spring on a straight ratio of 0.8: 3952 N at 248; 40·(L0 − L) = 3952 at L = L0 − 98.8 = 236.2: 14.75 down.
    straight = {"Lb_mm": 248, "a_ratio": 0.8}
    new = {"rate_N_per_mm": 40, "free_length_mm": 335}
    lower = sheet("spring-swap", spring_length=straight, new_spring=new).answer()
    assert lower["ride_height_change_mm"] == pytest.approx(-14.75)
    assert lower["new_spring_slack_at_full_droop_mm"] == pytest.approx(248 + 0.8 * 95 - 335)
    assert lower["margin_ok"] is None, "no solid length was given"
    weighed = sheet("spring-swap", spring_length=straight, sprung_load_at_wheel_N=3000, new_spring=new).answer()
    # 3000/0.8/40 = 93.75 of shortening: 241.25 long, 6.75/0.8 down.
    assert weighed["ride_height_change_mm"] == pytest.approx(-8.4375)
    soft = sheet("spring-swap", new_spring={"rate_N_per_mm": 5, "free_length_mm": 300}).answer()
    assert soft["ride_height_change_mm"] is None
    assert soft["new_spring_force_N"] is None


def test_spacers_taken_out_and_a_stop_that_carries() -> None:
    straight = {"Lb_mm": 238, "a_ratio": 0.96}
    damper = {"Lb_mm": 452, "a_ratio": 0.96}
    out = sheet("spacers", spring_length=straight, damper_length=damper, spacer_thickness_change_mm=-12).answer()
    for where in ("spring_seat_spacer", "strut_top_spacer"):
        assert out[where]["ride_height_change_mm"] == pytest.approx(-12.5), "−12/0.96"
    assert out["estimate_seat_t_over_MR_mm"] == out["estimate_top_t_over_MR_mm"] == pytest.approx(-12.5)
    # Damper out at 528: 79.1667 down; with 12 mm out of the top it is so at 66.6667. The seat leaves it as it was.
    assert out["spring_seat_spacer"]["droop_limit_travel_mm"] == pytest.approx(-79.16667, abs=1e-4)
    assert out["strut_top_spacer"]["droop_limit_travel_mm"] == pytest.approx(-66.66667, abs=1e-4)
    stop = {"extended_length_mm": 528, "stop_contact_length_mm": 450, "stop_max_compression_mm": 38,
            "stop_coefficient_N_per_mm_power": 40, "stop_power": 1}  # fmt: skip
    rides = sheet("spacers", spring_length=straight, damper_length=damper, damper=stop,
                  spacer_thickness_change_mm=-12).answer()["spring_seat_spacer"]  # fmt: skip
    # Contact at 2.0833 down. Both push 0.96: 31·(95 + 0.96z) + 40·(0.96z − 2) = 31·107 → 68.16z = 452.
    assert rides["ride_travel_mm"] == pytest.approx(452 / 68.16)
    assert rides["bump_stop_force_at_ride_N"] == pytest.approx(40 * (0.96 * 452 / 68.16 - 2))
    assert rides["rides_on_bump_stop"] is True
    assert rides["gap_to_bump_stop_from_ride_mm"] == pytest.approx(2 / 0.96 - 452 / 68.16)


def test_stations_backwards_alone() -> None:
    both = {"readings": [{"x_mm": 0, "height_change_mm": -30}, {"x_mm": -2600, "height_change_mm": -10}],
            "reading_sigma_mm": 3}  # fmt: skip
    outcome = sheet("stations", front_axle_x_mm=0, wheelbase_mm=2600, forward=None, inverse=both).answer()
    assert outcome == {
        "inverse_front_axle_change_mm": pytest.approx(-30), "inverse_rear_axle_change_mm": pytest.approx(-10),
        "inverse_front_axle_sigma_mm": pytest.approx(3), "inverse_rear_axle_sigma_mm": pytest.approx(3),
    }  # fmt: skip
    # Read half way and at the rear axle: the front is twice the one less the other, its error √5 as large.
    half = {"readings": [{"x_mm": -1300, "height_change_mm": 8}, {"x_mm": -2600, "height_change_mm": 2}],
            "reading_sigma_mm": 1}  # fmt: skip
    outcome = sheet("stations", front_axle_x_mm=0, wheelbase_mm=2600, forward=None, inverse=half).answer()
    assert outcome["inverse_front_axle_change_mm"] == pytest.approx(14)
    assert outcome["inverse_front_axle_sigma_mm"] == pytest.approx(5**0.5)


def test_uncertainty_with_scales_has_no_share_of_the_old_spring_and_checks_it() -> None:
    inputs = {"baseline_height_mm": 402, "k1_N_per_mm": 38, "L01_mm": 352, "k2_N_per_mm": 44, "L02_mm": 372,
              "Lb_mm": 248, "a_ratio": 0.78, "b_per_mm": 0, "scale_load_N": 3200}  # fmt: skip
    sigmas = {"baseline_height_mm": 1, "k1_N_per_mm": 1.1, "L01_mm": 1.5, "k2_N_per_mm": 0.9, "L02_mm": 1.5,
              "Lb_mm": 2, "a_ratio": 0.012, "scale_load_N": 30}  # fmt: skip
    outcome = sheet(
        "uncertainty", load_from="scales", inputs=inputs, standard_deviations=sigmas, samples=40_000
    ).answer()
    # 3200/0.78/44 = 93.2401 of shortening: 278.7599 long, 30.7599/0.78 = 39.4358 up.
    assert outcome["predicted_ride_height_change_mm"] == pytest.approx(39.4358, abs=1e-3)
    by = dict(zip(outcome["inputs_in_order"], outcome["contribution_of_each_input_mm"], strict=True))
    assert by["k1_N_per_mm"] == by["L01_mm"] == 0
    assert by["scale_load_N"] == pytest.approx(30 / 0.78**2 / 44, abs=1e-3)
    assert by["L02_mm"] == pytest.approx(1.5 / 0.78, abs=1e-3)
    assert by["k2_N_per_mm"] == pytest.approx(0.9 * 93.2401 / 44 / 0.78, abs=1e-3)
    assert set(outcome["ranking_largest_first"]) == set(sigmas) - {"k1_N_per_mm", "L01_mm"}
    assert outcome["ranking_largest_first"][:2] == ["Lb_mm", "k2_N_per_mm"], "2/0.78 against 2.445"
    # 38·104·0.78 = 3082.56; the difference's parts: 30, 44.46, 89.232, 59.28, 47.424.
    assert outcome["spring_check_difference_N"] == pytest.approx(117.44)
    assert outcome["spring_check_sigma_N"] == pytest.approx(128.85, abs=0.02)
    near = 5 * outcome["sampling_error_of_sampled_sigma_mm"]
    assert outcome["sampled_sigma_height_mm"] == pytest.approx(outcome["sigma_linear_mm"], abs=near + 0.02)
    assert outcome["samples_without_ride_height"] == 0
    with pytest.raises(ValidationError, match="give scale_load_N"):
        sheet("uncertainty", load_from="scales")


def test_a_load_taken_off_a_bag() -> None:
    less = sheet("air-levelling", added_load_at_wheel_N=-900).answer()
    # Levelled again it needs (3500 − 900)/0.72/7000 N/mm².
    assert less["loaded_and_levelled_gauge_pressure_N_per_mm2"] == pytest.approx(0.515873, abs=1e-6)
    assert less["loaded_valves_closed_travel_mm"] < -20
    with pytest.raises(ValueError, match="leave nothing on the bag"):
        sheet("air-levelling", added_load_at_wheel_N=-3500).answer()


def test_a_leaf_pack_with_helpers_a_block_taken_out_and_the_u_bolts_margin() -> None:
    data = json.loads((REFERENCE / "statics-leaf-pack-public.json").read_text())["given"]
    helper = {"leaves": 1, "width_mm": 60, "thickness_mm": 10, "length_mm": 900, "contact_deflection_mm": 100}
    pack = data["new_pack"] | {"helper": helper}
    outcome = sheet("leaf-pack", new_pack=pack, block_thickness_mm=-25).answer()
    # 8/3·206000·60·1000/900³ = 45.2126; 41.2845 alone to 100 mm, then both: 100 + (4600 − 4128.45)/86.4971.
    assert outcome["new_pack"]["helper_rate_N_per_mm"] == pytest.approx(45.2126, abs=1e-3)
    assert outcome["new_pack"]["rate_with_helper_N_per_mm"] == pytest.approx(86.4971, abs=1e-3)
    assert outcome["new_pack"]["deflection_from_free_mm"] == pytest.approx(105.4516, abs=1e-3)
    assert outcome["height_change_by_block_mm"] == -25
    # Pack 49.5 + 10, tube 76, seat 12, plate 10, washer 3, nut 12, threads 4.5; no block: 177 of 190.
    assert outcome["u_bolt_leg_length_mm"] == pytest.approx(177)
    assert outcome["u_bolt_margin_mm"] == pytest.approx(13)
    assert sheet("leaf-pack").answer()["u_bolt_margin_mm"] == pytest.approx(-2)


X, Y = np.array([0.0, 0.0, -2700.0, -2700.0]), np.array([770.0, -770.0, 760.0, -760.0])
PLANNED = FourCorners(X, Y, np.array([4150.0, 4020.0, 3350.0, 3290.0]), np.array([32.0, 32.0, 36.0, 36.0]),
                      np.array([0.94, 0.94, 0.78, 0.78]))  # fmt: skip
THINGS = [Hypothesis("front", "rate", of_axle(True)), Hypothesis("rear", "rate", of_axle(False)),
          Hypothesis("seat", "load", at=(-1200, -380)), Hypothesis("boot", "load", at=(-2900, 0)),
          *(Hypothesis(c, "unseated", of_corner(c)) for c in ("FL", "FR", "RL", "RR"))]  # fmt: skip


@settings(deadline=None, max_examples=25)
@given(which=st.integers(0, 7), size=st.floats(-1, 1))
def test_a_single_cause_is_found_again(which: int, size: float) -> None:
    """A planted cause explains all of its own residuals, with its sign, and nothing explains them better.

    Without bars an equal force on both sides of an axle only bends that axle: rises are worked out corner by corner.
    """
    cause = THINGS[which]
    if abs(size) < 0.1:
        return
    value = {"rate": 0.3 * size, "load": 120 * size, "unseated": 14 * size}[cause.kind]
    rate, load = PLANNED.rate * PLANNED.ratio**2, PLANNED.load.copy()
    weight, x, y = centre_of(load, X, Y)
    at, total, force = (x, y), weight, load
    mine = np.array(cause.corners)
    if cause.kind == "rate":
        force, rate = load * (1 + value * mine), rate * (1 + value * mine)
    elif cause.kind == "unseated":
        force = load + mine * PLANNED.rate * PLANNED.ratio * value
    else:
        more = value * 9.80665
        total = weight + more
        at = ((weight * x + more * cause.at[0]) / total, (weight * y + more * cause.at[1]) / total)
    residual = SprungBody([LinearCorner(f, k) for f, k in zip(force, rate, strict=True)], X, Y).rest(total, at).rise
    best = explain(PLANNED, residual, THINGS, 9.80665)[0]
    assert best.share == pytest.approx(1, abs=1e-6)
    found = next(e for e in explain(PLANNED, residual, THINGS, 9.80665) if e.hypothesis is cause)
    assert found.parameter == pytest.approx(value, rel=1e-3)
    assert np.abs(found.left).max() < 1e-2


def test_a_spring_that_does_not_sit_is_named_in_the_proof(in_hand: Job) -> None:
    """Measured as predicted but for what 9 mm under the front right spring do, worked out on the planned corners."""
    outcome, after = predict(in_hand), assess(in_hand).after
    readings = {(h.axle, h.side): h.after for h in outcome.heights if h.axle and h.kind == "hub_to_arch"}
    stances = [after.axle(axle) for axle, _ in WHEELS]
    load, rate = np.array([c.after_n for c in outcome.body.corners]), np.array([s.wheel_rate for s in stances])
    ride = stances[1].ride
    z = stances[1].travel
    push = np.zeros(4)
    push[1] = float(ride.spring.stiffness(ride.spring_at(z)) * ride.spring_length.ratio(z))
    x = np.array([after.vehicle.axle_x(axle) for axle, _ in WHEELS])
    y = np.array([s.axle.track_mm / 2 for s in stances]) * np.array([1, -1, 1, -1])
    bars = (BarOffset(after.vehicle.front.anti_roll_n_per_mm), BarOffset(after.vehicle.rear.anti_roll_n_per_mm))
    weight, *at = centre_of(load, x, y)
    for high in (9.0, -6.0):
        force = load + push * high
        body = SprungBody([LinearCorner(f, k) for f, k in zip(force, rate, strict=True)], x, y, bars)
        off: dict[tuple[str, str], float] = dict(
            zip(WHEELS, body.rest(weight, (at[0], at[1])).rise.tolist(), strict=True)
        )
        corners = [{"axle": a, "side": s, "quantity": "hub_to_arch", "reading": f"{v + off[a, s]:.3f}"}
                   for (a, s), v in readings.items()]  # fmt: skip
        job = Job.model_validate(in_hand.model_dump() | {"prove": {"after": {"corners": corners}}})
        first = prove(job).causes[0]
        assert first.label == "front right spring not down in its seat"
        assert (first.value, first.unit) == (pytest.approx(high, abs=0.05), "mm")
        assert first.explains > 0.999
    assert prove(in_hand.model_copy(update={"prove": type(in_hand.prove)()})).causes == []


def test_spacers_taken_out_in_a_job(in_hand: Job) -> None:
    axle = in_hand.vehicle.front
    spaced = in_hand.model_copy(update={"vehicle": in_hand.vehicle.with_axle("front", top_spacer_mm=10.0)})
    out = with_changes(spaced, StrutTopSpacer(axle="front", thickness_mm=-10))
    put = with_changes(in_hand, StrutTopSpacer(axle="front", thickness_mm=10))
    assert axle.top_spacer_mm == 0
    assert predict(out).front.rise == pytest.approx(-predict(put).front.rise, abs=0.4)
    assert predict(out).front.rise < -8
    thinner = with_changes(in_hand, SeatSpacer(axle="rear", thickness_mm=-6))
    assert predict(thinner).rear.rise < -5
    assert any("Take out 6 mm at the seat" in s.text for s in card(thinner).steps)
    assert card(thinner).preflight.parts == []
    with pytest.raises(ValueError, match="have 0 mm of spacer to take out, not 10"):
        predict(with_changes(in_hand, StrutTopSpacer(axle="front", thickness_mm=-10)))
    cures: list[Finding] = predict(thinner).findings
    assert not any("instead of -6" in c.title for f in cures for c in f.cures)

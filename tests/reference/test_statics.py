"""Springs, ride points, stations and spread against independent numbers."""

import numpy as np

from inclinum.core.equilibrium import (
    Damper,
    QuadraticLength,
    RideCorner,
    frequency,
    swap_estimate,
)
from inclinum.core.kinematics import wheel_angles
from inclinum.core.kinematics.rigid import Array
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.springs import BumpStop, CoilSpring, bind_margin_wanted, wire_rate, wire_solid_length
from inclinum.core.uncertainty import propagate, sample
from tests.reference.cases import assert_close, case

NO_DAMPER = Damper(extended=1e6, closed=0.0, stop_contact=0.0)
UNUSED = QuadraticLength(500.0, 1.0, 0.0)


def length_curve(given: dict) -> QuadraticLength:
    return QuadraticLength(given["Lb_mm"], given["a_ratio"], given["b_per_mm"])


def test_coil_wire() -> None:
    data = case("statics-coil-wire")
    g = data["given"]
    rate = wire_rate(g["wire_diameter_mm"], g["coil_mean_diameter_mm"], g["active_coils"], g["G_N_per_mm2"])
    solid = wire_solid_length(g["wire_diameter_mm"], g["total_coils"])
    spring = CoilSpring(rate, g["free_length_mm"], solid, g["active_coils"])
    curve = QuadraticLength(g["spring_length_at_baseline_mm"], g["installation_ratio"], 0.0)
    corner = RideCorner(curve, UNUSED, spring, NO_DAMPER, search=(-200.0, 200.0))
    wanted = bind_margin_wanted(spring.active_coils)
    at_bump = float(corner.spring_at(g["full_bump_travel_mm"]))
    got = {
        "coil_rate_N_per_mm": rate,
        "solid_length_mm": solid,
        "spring_force_at_baseline_N": corner.spring_force(0.0),
        "wheel_load_at_baseline_N": corner.wheel_force(0.0),
        "spring_length_at_full_bump_mm": at_bump,
        "coil_bind_margin_at_full_bump_mm": at_bump - solid,
        "required_margin_mm": wanted,
        "margin_ok": at_bump - solid >= wanted,
        "travel_where_margin_equals_required_mm": corner.travel_of_spring(solid + wanted),
        "travel_where_coil_is_solid_mm": corner.travel_of_spring(solid),
    }
    assert_close(got, data["expect"], data["tolerance"])


def test_spring_swap() -> None:
    data = case("statics-spring-swap")
    g = data["given"]
    curve = length_curve(g["spring_length"])
    old = CoilSpring(g["old_spring"]["rate_N_per_mm"], g["old_spring"]["free_length_mm"])
    n = g["new_spring"]
    new = CoilSpring(n["rate_N_per_mm"], n["free_length_mm"], n["solid_length_mm"], n["active_coils"])
    before, after = (RideCorner(curve, UNUSED, s, NO_DAMPER) for s in (old, new))
    load = float(before.wheel_force(0.0))
    z = float(after.ride_travel(load))
    droop, bump = g["full_droop_travel_mm"], g["full_bump_travel_mm"]
    got = {
        "old_spring_force_N": before.spring_force(0.0),
        "sprung_load_at_wheel_N": load,
        "sprung_mass_kg": load / GRAVITY,
        "new_ride_travel_mm": z,
        "ride_height_change_mm": -z,
        "new_spring_force_N": after.spring_force(z),
        "new_spring_length_at_ride_mm": after.spring_at(z),
        "installation_before_ratio": curve.ratio(0.0),
        "installation_after_ratio": curve.ratio(z),
        "wheel_rate_before_N_per_mm": before.wheel_rate(0.0),
        "wheel_rate_after_N_per_mm": after.wheel_rate(z),
        "ride_frequency_before_Hz": frequency(before.wheel_rate(0.0), load),
        "ride_frequency_after_Hz": frequency(after.wheel_rate(z), load),
        "old_spring_slack_at_full_droop_mm": before.spring_at(droop) - old.free_length,
        "new_spring_slack_at_full_droop_mm": after.spring_at(droop) - new.free_length,
        "coil_bind_margin_at_full_bump_mm": after.spring_at(bump) - new.solid_length,
        "required_margin_mm": bind_margin_wanted(new.active_coils),
        "estimate_ride_height_change_by_dLs_over_MR_mm": swap_estimate(
            old, new, float(before.spring_force(0.0)), float(curve.ratio(0.0))
        ),
    }
    assert_close(got, data["expect"], data["tolerance"])


def test_spacers() -> None:
    data = case("statics-spacers")
    g, t = data["given"], data["given"]["spacer_thickness_change_mm"]
    d = g["damper"]
    damper = Damper(d["extended_length_mm"], 0.0, d["stop_contact_length_mm"])
    stop = BumpStop(d["stop_max_compression_mm"], d["stop_coefficient_N_per_mm_power"], d["stop_power"])
    spring = CoilSpring(g["spring_rate_N_per_mm"], g["spring_free_length_mm"])
    search = (g["search_travel_from_mm"], g["search_travel_to_mm"])

    def corner(seat: float, top: float) -> RideCorner:
        return RideCorner(
            length_curve(g["spring_length"]),
            length_curve(g["damper_length"]),
            spring,
            damper,
            stop,
            seat + top,
            top,
            search,
        )

    load = float(corner(0, 0).wheel_force(0.0))
    assert abs(load - data["expect"]["sprung_load_at_wheel_N"]) < data["tolerance"]["sprung_load_at_wheel_N"]
    for name, fitted in {
        "before": corner(0, 0),
        "spring_seat_spacer": corner(t, 0),
        "strut_top_spacer": corner(0, t),
    }.items():
        z, window = float(fitted.ride_travel(load)), fitted.window()
        assert window.droop_limit is not None
        assert window.stop_contact is not None
        assert window.bump_limit is not None
        got = {
            "ride_travel_mm": z,
            "ride_height_change_mm": -z,
            "droop_limit_travel_mm": window.droop_limit,
            "bump_stop_contact_travel_mm": window.stop_contact,
            "bump_limit_travel_mm": window.bump_limit,
            "droop_left_from_ride_mm": z - window.droop_limit,
            "gap_to_bump_stop_from_ride_mm": window.stop_contact - z,
            "bump_left_from_ride_mm": window.bump_limit - z,
            "bump_stop_force_at_ride_N": fitted.stop_force(z),
            "rides_on_bump_stop": z > window.stop_contact,
        }
        assert_close(got, data["expect"][name], data["tolerance"])


def test_stations() -> None:
    data = case("statics-stations")
    g, expect = data["given"], data["expect"]
    xf, base = g["front_axle_x_mm"], g["wheelbase_mm"]
    f, r = g["forward"]["front_axle_change_mm"], g["forward"]["rear_axle_change_mm"]
    rises, spread = wheel_angles.axle_rises(
        np.array([[s["x_mm"], s["height_change_mm"]] for s in g["inverse"]["readings"]]), xf, base
    )
    sigma = g["inverse"]["reading_sigma_mm"] * np.sqrt((spread**2).sum(axis=1))
    got = {
        "height_change_at_station_mm": {
            s["label"]: wheel_angles.rise_at(s["x_mm"], f, r, xf, base) for s in g["forward"]["stations"]
        },
        "pitch_change_nose_down_positive_deg": np.degrees(wheel_angles.pitch_nose_down(f, r, base)),
        "inverse_front_axle_change_mm": rises[0],
        "inverse_rear_axle_change_mm": rises[1],
        "inverse_front_axle_sigma_mm": sigma[0],
        "inverse_rear_axle_sigma_mm": sigma[1],
    }
    assert got.keys() == expect.keys()
    assert_close(got, expect, data["tolerance"])


def test_uncertainty() -> None:
    data = case("statics-uncertainty")
    g, expect, tolerance = data["given"], data["expect"], data["tolerance"]
    names = expect["inputs_in_order"]

    def height(rows: Array) -> Array:
        at = dict(zip(names, rows.T, strict=True))
        curve = QuadraticLength(at["Lb_mm"], at["a_ratio"], at["b_per_mm"])
        old = RideCorner(curve, UNUSED, CoilSpring(at["k1_N_per_mm"], at["L01_mm"]), NO_DAMPER)
        new = RideCorner(curve, UNUSED, CoilSpring(at["k2_N_per_mm"], at["L02_mm"]), NO_DAMPER)
        return at["baseline_height_mm"] - new.ride_travel(old.wheel_force(0.0))

    values = np.array([g["inputs"][n] for n in names])
    sigmas = np.array([g["standard_deviations"][n] for n in names])
    spread = propagate(height, values, sigmas)
    count = 100_000
    drawn = sample(height, values, sigmas, count, seed=7)
    got = {
        "predicted_ride_height_mm": spread.value,
        "sigma_linear_mm": spread.sigma,
        "contribution_of_each_input_mm": spread.contribution,
        "variance_share": spread.share,
    }
    assert_close(got, expect, tolerance)
    assert [names[i] for i in np.argsort(-spread.share)] == expect["ranking_largest_first"]
    wider = np.sqrt(1e6 / count)
    assert abs(drawn.mean() - expect["sampled_mean_height_mm"]) < wider * tolerance["sampled_mean_height_mm"]
    assert abs(drawn.std() - expect["sampled_sigma_height_mm"]) < wider * tolerance["sampled_sigma_height_mm"]

"""A part of each sheet to begin with, invented: numbers that belong together and are nobody's."""

from typing import Any

EXAMPLES: dict[str, dict[str, Any]] = {
    "coil-wire": {
        "wire_diameter_mm": 12.4, "coil_outside_diameter_mm": 128.0, "active_coils": 6.5, "total_coils": 8.0,
        "free_length_mm": 345.0, "spring_length_at_baseline_mm": 236.0, "installation_ratio": 0.88,
        "full_bump_travel_mm": 78.0,
    },
    "spring-swap": {
        "spring_length": {"Lb_mm": 241.0, "a_ratio": 0.81, "b_per_mm": 0.0003},
        "old_spring": {"rate_N_per_mm": 33.0, "free_length_mm": 348.0},
        "new_spring": {
            "rate_N_per_mm": 37.0, "free_length_mm": 362.0, "solid_length_mm": 149.0, "active_coils": 6.5,
        },
        "full_droop_travel_mm": -88.0, "full_bump_travel_mm": 74.0,
    },
    "spacers": {
        "spring_length": {"Lb_mm": 229.0, "a_ratio": 0.94}, "damper_length": {"Lb_mm": 441.0, "a_ratio": 0.94},
        "spring_rate_N_per_mm": 28.5, "spring_free_length_mm": 337.0,
        "damper": {
            "extended_length_mm": 516.0, "stop_contact_length_mm": 388.0, "stop_max_compression_mm": 34.0,
            "stop_coefficient_N_per_mm_power": 2.0, "stop_power": 2.0,
        },
        "spacer_thickness_change_mm": 12.0,
    },
    "stations": {
        "front_axle_x_mm": 0.0, "wheelbase_mm": 2710.0,
        "forward": {
            "front_axle_change_mm": 30.0, "rear_axle_change_mm": 44.0,
            "stations": [{"label": "front bumper", "x_mm": 790.0}, {"label": "tow ball", "x_mm": -3680.0}],
        },
    },
    "progressive-coil": {
        "wire_diameter_mm": 14.1,
        "groups": [
            {"label": "close", "mean_diameter_mm": 112.0, "active_coils": 2.0, "clearance_per_coil_mm": 4.5},
            {"label": "wide", "mean_diameter_mm": 112.0, "active_coils": 4.5, "clearance_per_coil_mm": 15.0},
        ],
        "spring_shortening_mm": [0, 15, 30, 45, 60],
    },
    "dual-rate-stack": {
        "tender": {"rate_N_per_mm": 41.0, "free_length_mm": 152.0, "solid_length_mm": 78.0},
        "main": {"rate_N_per_mm": 63.0, "free_length_mm": 304.0, "solid_length_mm": 141.0},
        "preload_turns": 4.0, "collar_pitch_mm": 2.0, "gap_divider_to_stop_at_full_extension_mm": 44.0,
        "installation_ratio": 0.71, "sprung_load_at_wheel_N": 1390.0, "damper_stroke_mm": 196.0,
        "spring_travels_mm": [0, 40, 80, 120, 160], "extra_preload_turns": 2.0,
    },
    "leaf-pack": {
        "sprung_load_per_pack_N": 4150.0,
        "old_pack": {"leaves": 6, "width_mm": 63.0, "thickness_mm": 6.5, "length_mm": 1240.0, "free_arch_mm": 158.0},
        "new_pack": {"leaves": 7, "width_mm": 63.0, "thickness_mm": 6.5, "length_mm": 1240.0, "free_arch_mm": 171.0},
        "block_thickness_mm": 20.0, "fixed_eye_to_axle_mm": 605.0, "eye_to_eye_mm": 1240.0,
        "u_bolt": {
            "axle_tube_height_mm": 72.0, "seat_mm": 10.0, "plate_mm": 12.0, "washer_mm": 3.0, "nut_mm": 13.0,
            "pitch_mm": 1.5,
        },
    },
    "torsion-bar": {
        "bar": {"diameter_mm": 24.6, "active_length_mm": 590.0}, "sprung_load_at_wheel_N": 3050.0,
        "arm_length_mm": 385.0, "free_angle_deg": 24.0,
        "splines": {"inner_teeth": 36, "outer_teeth": 39, "target_height_change_mm": 28.0},
    },
    "air-levelling": {
        "installation_ratio": 0.78, "sprung_load_at_wheel_N": 3220.0, "added_load_at_wheel_N": 640.0,
        "bag": {
            "height_at_baseline_mm": 172.0, "area_at_baseline_mm2": 6600.0, "area_slope_mm2_per_mm": -12.0,
            "volume_at_baseline_mm3": 1_220_000.0,
        },
        "quick_travels_mm": [-40, -20, 0, 20, 40],
    },
    "damper-brackets": {
        "damper": {"extended_length_mm": 528.0, "closed_length_mm": 322.0},
        "lower_mount_at_baseline_xz_mm": [40.0, -80.0], "ride_travel_mm": -30.0, "bump_stop_gap_at_baseline_mm": 68.0,
        "bump_stop_full_compression_mm": 28.0,
        "upper_holes": [
            {"label": "as it is", "xz_mm": [120.0, 334.0]}, {"label": "one up", "xz_mm": [124.0, 359.0]},
            {"label": "two up", "xz_mm": [128.0, 384.0]},
        ],
    },
    "fork": {
        "rake_deg": 26.2, "spring_rate_per_leg_N_per_mm": 8.4, "spring_free_length_mm": 318.0,
        "spacer_length_mm": 132.0, "available_length_at_full_extension_mm": 436.0, "stroke_mm": 138.0,
        "slider_travels_mm": [0, 30, 60, 90, 120], "sprung_mass_on_front_axle_without_rider_kg": 69.0,
        "rider_mass_on_front_axle_kg": 31.0, "target_laden_sag_along_fork_mm": 34.0,
        "clamps": {
            "fork_raised_mm": 8.0, "tube_step_limit_mm": 22.0, "bottomed_clearance_mm": 31.0,
            "required_bottomed_clearance_mm": 10.0,
        },
    },
    "rear-linkage": {
        "frame": {
            "arm_pivot_xz_mm": [0.0, 0.0], "arm_length_mm": 552.0, "rod_point_along_arm_mm": 208.0,
            "rod_point_above_arm_mm": -36.0, "rocker_pivot_xz_mm": [-118.0, -146.0],
            "rocker_damper_hole_radius_mm": 92.0, "rocker_angle_R1_to_R2_deg": 9.0, "damper_top_xz_mm": [-164.0, 112.0],
            "damper_extended_mm": 322.0, "damper_stroke_mm": 50.0, "search_arm_angle_deg": [-9.0, 15.0],
        },
        "original_link": {"rocker_rod_hole_radius_mm": 82.0, "rod_length_mm": 116.0},
        "lowering_link": {"rocker_rod_hole_radius_mm": 82.0, "rod_length_mm": 121.0},
        "spring": {"rate_N_per_mm": 118.0, "preload_shortening_mm": 11.0, "collar_pitch_mm": 1.5},
        "sprung_mass_on_rear_axle_without_rider_kg": 73.0, "rider_mass_on_rear_axle_kg": 54.0,
        "target_laden_sag_mm": 40.0, "travel_table_mm": [0, 30, 60, 90],
    },
    "rake-trail-stand": {
        "rake_deg": 25.6, "front_tyre_radius_mm": 298.0, "fork_offset_mm": 34.0, "wheelbase_mm": 1452.0,
        "front_axle_x_mm": 1452.0, "fork_raised_mm": 10.0, "rear_drop_mm": 26.0, "target_trail_mm": 101.0,
        "seat_x_mm": 495.0,
        "stand": {
            "x_mm": 640.0, "lateral_distance_mm": 241.0, "foot_height_upright_mm": 61.0,
            "leg_angle_from_vertical_deg": 33.0,
        },
    },
}  # fmt: skip
"""By the kind of the sheet; those of whole vehicles are jobs, and have none."""

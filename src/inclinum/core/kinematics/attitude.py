"""Steering geometry, heights, stand and reach of a two-wheeler whose ends have moved.

Drops are of the body at the axle stations, down positive, mm; x forward from the rear axle. Rake is from vertical.
Scalars or arrays that broadcast; angles in rad.
"""

import numpy as np

from inclinum.core.kinematics.rigid import Array

Number = Array | float


def trail(tyre_radius: Number, offset: Number, rake: Number) -> Array:
    """(R·sin ε − offset)/cos ε, mm: how far the patch lies behind where the steering axis meets the ground."""
    return (tyre_radius * np.sin(rake) - offset) / np.cos(rake)


def rake_of_trail(tyre_radius: Number, offset: Number, wanted: Number) -> Array:
    """The rake at which the trail is ``wanted``, rad: R·sin ε − t·cos ε = offset solved for ε."""
    return np.arctan2(wanted, tyre_radius) + np.arcsin(offset / np.hypot(tyre_radius, wanted))


def rake_change(front_drop: Number, rear_drop: Number, wheelbase: Number) -> Array:
    """atan((r − f)/wheelbase): the rake grows when the rear goes down more, rad."""
    return np.arctan2(np.asarray(rear_drop) - front_drop, wheelbase)


def drop_at(x: Number, front_drop: Number, rear_drop: Number, wheelbase: Number) -> Array:
    """Drop of a station by the line through both axles, mm."""
    return np.asarray(rear_drop) + (np.asarray(front_drop) - rear_drop) * x / wheelbase


def front_drop(fork_raised: Number, rake: Number) -> Array:
    """Of the body at the front-axle station when the tubes go up in their clamps: h·cos ε, mm."""
    return fork_raised * np.cos(rake)


def raise_for_rake_change(change: Number, rear_drop: Number, rake: Number, wheelbase: Number) -> Array:
    """How far the tubes have to go up so that the rake changes by no more than ``change`` (rad), mm."""
    return (rear_drop - wheelbase * np.tan(change)) / np.cos(rake)


def stand_lean(foot_height: Number, lateral: Number) -> Array:
    """Lean on the side stand, rad: atan(h0/s), the foot h0 above ground with the machine upright, s beside it."""
    return np.arctan2(foot_height, lateral)


def stand_shortening(drop: Number, lean: Number, splay: Number) -> Array:
    """How much shorter along its leg a stand has to be to restore the lean, mm: Δ/(cos γ + tan(lean)·sin γ)."""
    return drop / (np.cos(splay) + np.tan(lean) * np.sin(splay))


def on_slope(lean: Number, slope: Number) -> Array:
    """Lean against the vertical on ground that falls by ``slope`` (rad) towards the stand."""
    return np.asarray(lean) + slope


def leg_for_both_feet(seat_height: Number, seat_width: Number) -> Array:
    """Leg length that reaches the ground on both sides over the edge of the seat, mm: hypot(h, w/2)."""
    return np.hypot(seat_height, np.asarray(seat_width) / 2)


def leg_for_one_foot(seat_height: Number, seat_width: Number, lean: Number) -> Array:
    """Leg length for one foot with the machine leaned to it, mm: the hip comes down by the lean and the half width."""
    return seat_height * np.cos(lean) - np.asarray(seat_width) / 2 * np.sin(lean)

"""Steering geometry, heights, stand and reach of a two-wheeler whose ends have moved.

Drops are of the body at the axle stations, down positive, mm; x forward from the rear axle. Rake is from vertical.
Scalars or arrays that broadcast; angles in rad.
"""

import numpy as np

from inclinum.core.kinematics.rigid import Array

Number = Array | float


def trail(tyre_radius: Number, offset: Number, rake: Number) -> Array:
    """(R·sin ε − offset)/cos ε, mm: how far the patch lies behind where the steering axis meets the ground.

    Args:
        tyre_radius: R, loaded, mm.
        offset: of the wheel's axle ahead of the steering axis, square to it, mm.
        rake: ε from vertical, rad.

    Source: derived here: the axis passes the axle at the offset and meets the ground R·tan ε ahead of below it.

    >>> round(float(trail(300.0, 40.0, np.radians(26.0))), 2)
    101.82
    """
    return (tyre_radius * np.sin(rake) - offset) / np.cos(rake)


def rake_of_trail(tyre_radius: Number, offset: Number, wanted: Number) -> Array:
    """The rake at which the trail is ``wanted``, rad: R·sin ε − t·cos ε = offset solved for ε.

    Source: derived here: R·sin ε − t·cos ε = hypot(R, t)·sin(ε − atan(t/R)). The inverse of :func:`trail`.

    >>> round(float(np.degrees(rake_of_trail(300.0, 40.0, trail(300.0, 40.0, np.radians(26.0))))), 9)
    26.0
    """
    return np.arctan2(wanted, tyre_radius) + np.arcsin(offset / np.hypot(tyre_radius, wanted))


def rake_change(front_drop: Number, rear_drop: Number, wheelbase: Number) -> Array:
    """atan((r − f)/wheelbase): the rake grows when the rear goes down more, rad.

    Source: derived here: the line through both axle stations of a rigid body turns.
    """
    return np.arctan2(np.asarray(rear_drop) - front_drop, wheelbase)


def drop_at(x: Number, front_drop: Number, rear_drop: Number, wheelbase: Number) -> Array:
    """Drop of a station by the line through both axles, mm: r + (f − r)·x/wheelbase.

    Source: derived here: a rigid body, small pitch.
    """
    return np.asarray(rear_drop) + (np.asarray(front_drop) - rear_drop) * x / wheelbase


def front_drop(fork_raised: Number, rake: Number) -> Array:
    """Of the body at the front-axle station when the tubes go up in their clamps: h·cos ε, mm.

    Source: derived here: the clamps slide down along the steering axis, of which the vertical part counts.

    >>> round(float(front_drop(20.0, np.radians(26.0))), 2)
    17.98
    """
    return fork_raised * np.cos(rake)


def raise_for_rake_change(change: Number, rear_drop: Number, rake: Number, wheelbase: Number) -> Array:
    """How far the tubes have to go up so that the rake changes by no more than ``change`` (rad), mm.

    Source: derived here: :func:`rake_change` and :func:`front_drop` solved for h.
    """
    return (rear_drop - wheelbase * np.tan(change)) / np.cos(rake)


def stand_lean(foot_height: Number, lateral: Number) -> Array:
    """Lean on the side stand, rad: atan(h0/s), the foot h0 above ground with the machine upright, s beside it.

    Source: derived here: it leans about the tyres' line until the foot is down; tyres as edges.

    >>> round(float(np.degrees(stand_lean(60.0, 240.0))), 2)
    14.04
    """
    return np.arctan2(foot_height, lateral)


def stand_shortening(drop: Number, lean: Number, splay: Number) -> Array:
    """How much shorter along its leg a stand has to be to restore the lean, mm: Δ/(cos γ + tan(lean)·sin γ).

    Args:
        drop: Δ of the frame at the stand, mm.
        lean: as it was, rad.
        splay: γ of the leg from vertical, outward, rad.

    Source: derived here: a foot shortened by s rises by s·cos γ and comes in by s·sin γ; (h0 − Δ + s·cos γ)/(s0 −
    s·sin γ) is to stay tan(lean).
    """
    return drop / (np.cos(splay) + np.tan(lean) * np.sin(splay))


def on_slope(lean: Number, slope: Number) -> Array:
    """Lean against the vertical on ground that falls by ``slope`` (rad) towards the stand, rad.

    Source: derived here: the ground and the machine on it turn together.
    """
    return np.asarray(lean) + slope


def leg_for_both_feet(seat_height: Number, seat_width: Number) -> Array:
    """Leg length that reaches the ground on both sides over the edge of the seat, mm: hypot(h, w/2).

    Source: derived here: a right triangle from the middle of the seat over its edge to the ground.
    """
    return np.hypot(seat_height, np.asarray(seat_width) / 2)


def leg_for_one_foot(seat_height: Number, seat_width: Number, lean: Number) -> Array:
    """Leg length for one foot with the machine leaned to it, mm: the hip comes down by the lean and the half width.

    Source: derived here: the seat's edge turns about the tyres' line, h·cos(lean) − (w/2)·sin(lean).
    """
    return seat_height * np.cos(lean) - np.asarray(seat_width) / 2 * np.sin(lean)

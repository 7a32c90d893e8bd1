"""Equilibrium: where a corner, an axle and a vehicle come to rest."""

from inclinum.core.equilibrium.corner import Damper, RideCorner, Window, frequency, ride_travels, swap_estimate
from inclinum.core.kinematics.length_curve import LengthCurve, QuadraticLength, SampledLength, ScaledLength

__all__ = [
    "Damper",
    "LengthCurve",
    "QuadraticLength",
    "RideCorner",
    "SampledLength",
    "ScaledLength",
    "Window",
    "frequency",
    "ride_travels",
    "swap_estimate",
]

"""A linkage given a spring, a damper and a stop that suit it: an axle that stands where it should.

Everything is worked out from the linkage itself: the spring carries the load at the reference height at the wanted
ride frequency, the damper ends the droop, the stop ends the bump.
"""

from dataclasses import dataclass
from typing import Any

import numpy as np

from inclinum.core.car.archetypes.size import Size
from inclinum.core.car.vehicle import Axle
from inclinum.core.kinematics import AnyLinkage, ArmAngle, Corner, LeafAxle, PointHeight
from inclinum.core.quantity.constants import ATMOSPHERE, GRAVITY
from inclinum.core.springs.coil import STEEL_SHEAR_MODULUS
from inclinum.core.springs.fitted import AirSpringData, Coil, LeafPackData, SpringData, TorsionBarData
from inclinum.core.springs.leaf import STEEL_MODULUS

STOP_SHARE = 0.35
"""Part of the bump travel over which the stop is squeezed."""
HELD_MM = 8.0
"""Shortening a default coil keeps at full droop."""
BIND_ROOM_MM = 18.0
"""Room left in a default coil at full bump."""


@dataclass(frozen=True)
class Ride:
    """What the springs of an archetype are chosen for."""

    load: float
    """Sprung, at one wheel, N."""
    frequency: float
    bump: float
    droop: float

    @property
    def wheel_rate(self) -> float:
        """N/mm."""
        return self.load / GRAVITY * (2 * np.pi * self.frequency) ** 2 / 1000


def axle_on(linkage: AnyLinkage, size: Size, ride: Ride, *, air: bool = False, **fields: Any) -> Axle:
    """An axle at rest at its reference height.

    Args:
        linkage: with points for spring and damper.
        size: for tyre and arch.
        ride: load, frequency and travel.
        air: whether a bag stands where the coil would.
        fields: further fields of the axle.
    """
    corner = linkage.corner(size.tyre_radius_mm, 0.0, 0.0)
    spring, offset = _spring(linkage, corner, ride, air=air)
    damper = corner.sweep(np.array([-ride.droop, ride.bump * (1 - STOP_SHARE), ride.bump])).damper_length
    assert damper is not None
    extended, contact, solid = (round(float(v), 1) for v in damper)
    closed = round(solid - max(6.0, 0.06 * (extended - solid)), 1)
    return Axle.model_validate(
        {
            "linkage": linkage,
            "tyre_radius_mm": size.tyre_radius_mm,
            "camber_deg": 0.0 if linkage.coupled else -0.6,
            "toe_deg": 0.0 if linkage.coupled else 0.08,
            "hub_to_arch_mm": size.hub_to_arch_mm,
            "spring": spring,
            "spring_offset_mm": offset,
            "damper": {"extended_mm": extended, "closed_mm": closed, "rod_hidden_mm": 10},
            "bump_stop": _stop(linkage, ride, contact, solid),
            "unsprung_kg": 75 if linkage.coupled else 38,
        }
        | fields
    )


def _stop(linkage: AnyLinkage, ride: Ride, contact: float, solid: float) -> dict[str, float]:
    """On the damper of independent corners, over the axle of coupled ones; it holds four times the load when solid."""
    room = ride.bump * STOP_SHARE if linkage.coupled else contact - solid
    where = {"contact_travel_mm": ride.bump - room} if linkage.coupled else {"contact_mm": contact}
    return where | {
        "height_mm": round(room / 0.66, 1),
        "max_compression_mm": round(room, 1),
        "coefficient": round(3 * ride.load / room**2, 3),
        "power": 2,
    }


def _spring(linkage: AnyLinkage, corner: Corner, ride: Ride, *, air: bool) -> tuple[SpringData, float]:
    """The spring, and how much shorter it is than the distance of its points."""
    h = 1.0
    motion = corner.sweep(np.array([-h, 0.0, h]))
    assert motion.spring_length is not None
    assert motion.spring_ratio is not None
    length, ratio = float(motion.spring_length[1]), float(motion.spring_ratio[1])
    slope = float(motion.spring_ratio[2] - motion.spring_ratio[0]) / (2 * h)
    force = ride.load / ratio
    rate = max((ride.wheel_rate - force * slope) / ratio**2, 0.25 * ride.wheel_rate / ratio**2)
    if corner.spring is not None and not isinstance(corner.spring, ArmAngle | PointHeight):
        at_droop = corner.sweep(-ride.droop).spring_length
        assert at_droop is not None
        # Still a little pressed at full droop, so that it stays on its seats.
        rate = min(rate, force / (float(at_droop[0]) - length + HELD_MM))
    if isinstance(corner.spring, ArmAngle):
        return _bar(rate, force, length), 0.0
    if isinstance(corner.spring, PointHeight):
        assert isinstance(linkage, LeafAxle)
        return _leaf(linkage, rate, force), 0.0
    around_strut = linkage.kind == "macpherson" and corner.spring == corner.damper
    share = 0.5 if around_strut else 0.55 if length > 330 else 0.97
    installed = round(share * length, 1)
    if air:
        return bag(installed, rate, force), length - installed
    return _coil(corner, ride, installed, length, round(rate, 1), force), round(length - installed, 2)


def _coil(corner: Corner, ride: Ride, installed: float, length: float, rate: float, force: float) -> Coil:
    at_bump = corner.sweep(ride.bump).spring_length
    assert at_bump is not None
    squeezed = installed - (length - float(at_bump[0]))
    return Coil(
        rate_n_per_mm=rate,
        free_length_mm=round(installed + force / rate, 1),
        solid_length_mm=round(max(squeezed - BIND_ROOM_MM, 0.25 * installed), 1),
        active_coils=6,
        rate_tolerance_percent=8,
        free_length_tolerance_mm=8,
    )


def _bar(rate: float, torque: float, angle: float) -> TorsionBarData:
    """Diameter for a bar of a metre, and the free angle that carries the load."""
    bar_length = 1000.0
    diameter = round((rate * 32 * bar_length / (np.pi * STEEL_SHEAR_MODULUS)) ** 0.25, 1)
    real = np.pi * STEEL_SHEAR_MODULUS * diameter**4 / (32 * bar_length)
    return TorsionBarData(
        diameter_mm=diameter,
        length_mm=bar_length,
        free_angle_deg=round(float(np.degrees(angle + torque / real)), 2),
        free_angle_tolerance_deg=1.5,
        rate_tolerance_percent=6,
    )


def _leaf(linkage: LeafAxle, rate: float, force: float) -> LeafPackData:
    """Leaves of the thickness that gives the rate; arch as the points have it."""
    p = linkage.points
    length = abs(p.fixed_eye[0] - p.shackle_eye[0])
    leaves, width = 4, 60.0
    thickness = round((3 * rate * length**3 / (8 * STEEL_MODULUS * leaves * width)) ** (1 / 3), 2)
    real = 8 / 3 * STEEL_MODULUS * leaves * width * thickness**3 / length**3
    arch = (p.fixed_eye[2] + p.shackle_eye[2]) / 2 - p.seat[2]
    return LeafPackData(
        leaves=leaves,
        width_mm=width,
        thickness_mm=thickness,
        length_mm=round(length, 1),
        free_arch_mm=round(arch + force / real, 1),
        arch_mm=round(arch, 1),
        rate_tolerance_percent=8,
        free_length_tolerance_mm=8,
    )


def bag(height: float, rate: float, force: float) -> AirSpringData:
    """A bag at 0.6 N/mm², its volume such that it has the rate."""
    pressure, atmosphere = 0.6, ATMOSPHERE
    area = force / pressure
    return AirSpringData(
        height_mm=height,
        area_mm2=round(area, 0),
        volume_mm3=round((pressure + atmosphere) * area**2 / rate, 0),
        gauge_pressure_n_per_mm2=pressure,
        rate_tolerance_percent=8,
        free_length_tolerance_mm=5,
    )

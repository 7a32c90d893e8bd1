"""A rocker linkage on the bench: sags, another link at the same spring and load, preload back to the target sag."""

from typing import Literal

import numpy as np
from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.equilibrium.rear_and_fork import RearCarrying
from inclinum.core.kinematics.rear_end import RockerOnFrame, rear_sweep_of
from inclinum.core.kinematics.rigid import Array
from inclinum.core.part_sheets.base import Answer, Distance, Length, Place, Rate, Sheet
from inclinum.core.quantity.constants import GRAVITY


class LinkageFrame(Document):
    """Everything but the link: the swing arm, the rocker's pivot and damper hole, the damper."""

    arm_pivot_xz_mm: Place
    arm_length_mm: Length
    rod_point_along_arm_mm: Distance
    rod_point_above_arm_mm: Distance
    rocker_pivot_xz_mm: Place
    rocker_damper_hole_radius_mm: Length
    rocker_angle_R1_to_R2_deg: float = Field(ge=-360, le=360)
    rocker_branch_sign: Literal[1, -1] = 1
    damper_top_xz_mm: Place
    damper_extended_mm: Length
    damper_stroke_mm: Length
    search_arm_angle_deg: tuple[float, float] = Field(description="arm angle below horizontal looked through")


class Link(Document):
    """The rod hole of the rocker and the rod."""

    rocker_rod_hole_radius_mm: Length
    rod_length_mm: Length


class PreloadedSpring(Document):
    """Spring, its shortening at full extension, and the damper's gas."""

    rate_N_per_mm: Rate
    preload_shortening_mm: float = Field(ge=0, le=300)
    collar_pitch_mm: float = Field(gt=0, le=20)
    damper_gas_force_N: float = Field(default=0, ge=0, le=5000)


class RearLinkage(Sheet):
    """Two links of one rear end.

    Source: plane four-bar closed by circles, exact; virtual work on the damper's leverage for the load at the axle.
    No friction.
    """

    kind: Literal["rear-linkage"] = "rear-linkage"
    gravity_m_per_s2: float = Field(default=GRAVITY, gt=1, le=30)
    frame: LinkageFrame
    original_link: Link
    lowering_link: Link
    spring: PreloadedSpring
    sprung_mass_on_rear_axle_without_rider_kg: float = Field(gt=0, le=1000)
    rider_mass_on_rear_axle_kg: float = Field(ge=0, le=500)
    target_laden_sag_mm: float = Field(gt=0, le=500)
    travel_table_mm: tuple[float, ...] = Field(default=(), max_length=400)

    def answer(self) -> Answer:
        """Both links, and the second with its preload set anew."""
        unladen = self.sprung_mass_on_rear_axle_without_rider_kg * self.gravity_m_per_s2
        laden = unladen + self.rider_mass_on_rear_axle_kg * self.gravity_m_per_s2
        preload = self.spring.preload_shortening_mm
        original, lowering = self._carrying(self.original_link, preload), self._carrying(self.lowering_link, preload)
        datum = original.extended_height

        def answer_for(end: RearCarrying, *, drop: bool) -> Answer:
            found: Answer = {
                "full_extension_axle_rise_mm": end.extended_height - datum,
                "travel_at_full_stroke_mm": None if end.linkage_ends_first else end.travel_at_full_stroke,
                "preload_shortening_mm": end.preload,
            }
            for name, load in (("unladen", unladen), ("laden", laden)):
                at = end.at(load)
                found |= {
                    f"{name}_sag_mm": at.sag,
                    f"{name}_axle_rise_from_original_full_extension_mm": at.height - datum,
                    f"{name}_topped_out": at.topped_out,
                    f"{name}_damper_length_mm": at.damper_length,
                    f"{name}_installation_ratio": at.ratio,
                }
                if drop:
                    found[f"rear_axle_drop_{name}_mm"] = at.height - original.at(load).height
            return found

        reset = lowering.preload_for(laden, self.target_laden_sag_mm)
        return {
            "unladen_axle_load_N": unladen,
            "laden_axle_load_N": laden,
            "original": answer_for(original, drop=False),
            "original_table": self._table(original),
            "lowering_link_same_preload": answer_for(lowering, drop=True),
            "lowering_link_table": self._table(lowering),
            "preload_change_for_target_laden_sag_turns": None
            if reset is None
            else (reset - preload) / self.spring.collar_pitch_mm,
            "lowering_link_preload_reset": None
            if reset is None
            else answer_for(self._carrying(self.lowering_link, reset), drop=True),
        }

    def _table(self, end: RearCarrying) -> Answer:
        travel = np.array(self.travel_table_mm)
        length, ratio, _ = end.sweep.curve.at(end.extended_rise + travel)
        reached = end.extended_rise + travel <= end.sweep.rises[1]
        listed = [[float(v) if ok else None for v, ok in zip(a, reached, strict=True)] for a in (length, ratio)]
        return {
            "travel_from_full_extension_mm": [float(t) for t in travel],
            "damper_length_mm": listed[0],
            "installation_ratio": listed[1],
        }

    def _carrying(self, link: Link, preload: float) -> RearCarrying:
        return RearCarrying(
            sweep=rear_sweep_of(self._rear(link), 0.0, self.frame.damper_extended_mm),  # pyright: ignore[reportArgumentType] (hashable)
            rate=self.spring.rate_N_per_mm,
            preload=preload,
            extended=self.frame.damper_extended_mm,
            stroke=self.frame.damper_stroke_mm,
            gas=self.spring.damper_gas_force_N,
        )

    def _rear(self, link: Link) -> RockerOnFrame:
        """The linkage drawn at the arm angle nearest to the middle of the search at which it closes."""
        low, high = self.frame.search_arm_angle_deg
        for angle in sorted(np.linspace(low, high, 25), key=lambda a: abs(a - (low + high) / 2)):
            drawn = self._drawn(link, float(np.radians(angle)))
            if drawn is not None:
                return drawn
        raise DomainError("The rod reaches the rocker at no arm angle of the search: check its length and the holes.")

    def _drawn(self, link: Link, phi: float) -> RockerOnFrame | None:
        f = self.frame
        pivot, rocker = np.array(f.arm_pivot_xz_mm), np.array(f.rocker_pivot_xz_mm)
        along, above = np.array([-np.cos(phi), -np.sin(phi)]), np.array([-np.sin(phi), np.cos(phi)])
        s = pivot + f.rod_point_along_arm_mm * along + f.rod_point_above_arm_mm * above
        away = s - rocker
        distance, r1 = float(np.hypot(*away)), link.rocker_rod_hole_radius_mm
        cosine = (r1**2 + distance**2 - link.rod_length_mm**2) / (2 * r1 * distance)
        if abs(cosine) >= 1:
            return None
        psi = float(np.arctan2(away[1], away[0])) + f.rocker_branch_sign * float(np.arccos(cosine))
        beta = float(np.radians(f.rocker_angle_R1_to_R2_deg))

        def hole(radius: float, angle: float) -> Array:
            return rocker + radius * np.array([np.cos(angle), np.sin(angle)])

        points = {
            "axle": pivot + f.arm_length_mm * along,
            "pivot": pivot,
            "rocker_pivot": rocker,
            "rod_arm": s,
            "rod_rocker": hole(r1, psi),
            "damper_rocker": hole(f.rocker_damper_hole_radius_mm, psi + beta),
            "damper_frame": np.array(f.damper_top_xz_mm),
        }
        return RockerOnFrame.model_validate({n: tuple(float(c) for c in p) for n, p in points.items()})

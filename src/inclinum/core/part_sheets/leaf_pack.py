"""Another leaf pack, a block, a longer shackle, and the U-bolts that must reach round it all."""

from typing import Literal

from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.part_sheets.base import Answer, Force, Length, Modulus, Sheet
from inclinum.core.springs.leaf import STEEL_MODULUS, LeafPack, block_rise, leaf_rate, shackle_rise, u_bolt_leg


class Helper(Document):
    """Leaves that join after the main pack has bent so far."""

    leaves: int = Field(ge=1, le=10)
    width_mm: Length
    thickness_mm: float = Field(gt=0, le=40)
    length_mm: Length
    contact_deflection_mm: float = Field(ge=0, le=500)
    liner_mm: float = Field(default=0, ge=0, le=20)


class Pack(Document):
    """Main leaves alike."""

    leaves: int = Field(ge=1, le=20)
    width_mm: Length
    thickness_mm: float = Field(gt=0, le=40)
    length_mm: Length
    free_arch_mm: float = Field(ge=-200, le=800)
    liner_mm: float = Field(default=0, ge=0, le=20)
    helper: Helper | None = None

    def pack(self, modulus: float) -> LeafPack:
        """As the ride layer uses it."""
        rate = leaf_rate(self.leaves, self.width_mm, self.thickness_mm, self.length_mm, modulus)
        if (h := self.helper) is None:
            return LeafPack(rate, self.free_arch_mm)
        extra = leaf_rate(h.leaves, h.width_mm, h.thickness_mm, h.length_mm, modulus)
        return LeafPack(rate, self.free_arch_mm, extra, h.contact_deflection_mm)

    @property
    def thickness(self) -> float:
        """Of the pack with its liners, mm."""
        main = self.leaves * self.thickness_mm + (self.leaves - 1) * self.liner_mm
        return main + (self.helper.leaves * (self.helper.thickness_mm + self.helper.liner_mm) if self.helper else 0.0)


class UBolt(Document):
    """What the U-bolt clamps besides pack and block."""

    axle_tube_height_mm: float = Field(gt=0, le=500, description="of the tube, or the half of it that is seated")
    seat_mm: float = Field(ge=0, le=200)
    plate_mm: float = Field(ge=0, le=100)
    washer_mm: float = Field(ge=0, le=30)
    nut_mm: float = Field(ge=0, le=60)
    threads_beyond_nut: float = Field(default=3, ge=0, le=20)
    pitch_mm: float = Field(gt=0, le=5)
    leg_length_on_hand_mm: float | None = Field(default=None, gt=0, le=1000)


class LeafPackSheet(Sheet):
    """Old pack against new at one load.

    Source: beam of uniform strength (textbooks of strength of materials) where leaves are given; arch at ride =
    free arch − deflection; U-bolts and block: sums of lengths, derived here.
    """

    kind: Literal["leaf-pack"] = "leaf-pack"
    E_N_per_mm2: Modulus = STEEL_MODULUS
    sprung_load_per_pack_N: Force
    spring_position: Literal["over axle", "under axle"] = "over axle"
    old_pack: Pack
    new_pack: Pack
    block_thickness_mm: float = Field(default=0, ge=-400, le=400, description="negative for a block taken out")
    shackle_length_change_mm: float = Field(default=0, ge=-300, le=300)
    fixed_eye_to_axle_mm: Length
    eye_to_eye_mm: Length
    u_bolt: UBolt | None = None

    def answer(self) -> Answer:
        """Rates, arches, what each part brings, and the U-bolt's leg."""
        old, new = self._pack(self.old_pack), self._pack(self.new_pack)
        by_pack = new["ride_arch_mm"] - old["ride_arch_mm"]
        by_block = block_rise(self.block_thickness_mm, spring_over_axle=self.spring_position == "over axle")
        by_shackle = shackle_rise(self.shackle_length_change_mm, self.fixed_eye_to_axle_mm, self.eye_to_eye_mm)
        result: Answer = {
            "old_pack": old,
            "new_pack": new,
            "height_change_by_pack_mm": by_pack,
            "height_change_by_block_mm": by_block,
            "height_change_by_shackle_mm": by_shackle,
            "height_change_by_shackle_rule_of_half_mm": self.shackle_length_change_mm / 2,
            "height_change_total_mm": by_pack + by_block + by_shackle,
        }
        if (u := self.u_bolt) is not None:
            leg = u_bolt_leg(
                self.new_pack.thickness, max(0.0, self.block_thickness_mm), u.axle_tube_height_mm, u.seat_mm,
                u.plate_mm, u.washer_mm, u.nut_mm, u.threads_beyond_nut * u.pitch_mm,
            )  # fmt: skip
            result["u_bolt_leg_length_mm"] = leg
            if u.leg_length_on_hand_mm is not None:
                result["u_bolt_on_hand_long_enough"] = u.leg_length_on_hand_mm >= leg
                result["u_bolt_shortfall_mm"] = max(0.0, leg - u.leg_length_on_hand_mm)
                result["u_bolt_margin_mm"] = u.leg_length_on_hand_mm - leg
        return result

    def _pack(self, data: Pack) -> Answer:
        pack = data.pack(self.E_N_per_mm2)
        bent = pack.deflection(self.sprung_load_per_pack_N)
        return {
            "pack_rate_N_per_mm": pack.rate,
            "deflection_from_free_mm": bent,
            "ride_arch_mm": data.free_arch_mm - bent,
            "rate_at_ride_N_per_mm": pack.rate_at(bent),
            "helper_rate_N_per_mm": pack.helper_rate,
            "rate_with_helper_N_per_mm": pack.rate + pack.helper_rate,
            "helper_in_contact": bent > pack.helper_contact,
            "pack_thickness_mm": data.thickness,
        }

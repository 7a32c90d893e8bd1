"""How big a vehicle is: what an archetype is scaled to before anything is measured."""

from typing import Literal

from pydantic import Field

from inclinum.core.document import Document

SizeName = Literal["small_car", "car", "van", "pick_up", "off_roader", "side_by_side"]
BodyName = Literal["hatchback", "saloon", "estate", "coupe", "van", "pick_up", "off_roader", "open"]


class Size(Document):
    """Rough measures of a class of vehicles; every one of them is replaced by what is measured."""

    name: SizeName
    title: str
    body: BodyName
    wheelbase_mm: float = Field(gt=1000, le=6000)
    half_track_mm: float = Field(gt=300, le=1200, description="of the wheel centres")
    tyre_radius_mm: float = Field(gt=150, le=600, description="loaded")
    front_load_n: float = Field(gt=500, le=30_000, description="sprung, at one wheel")
    rear_load_n: float = Field(gt=500, le=30_000)
    hub_to_arch_mm: float = Field(gt=150, le=1000)
    bump_mm: float = Field(gt=20, le=400, description="travel from ride to full bump")
    droop_mm: float = Field(gt=20, le=400)
    frequency_hz: float = Field(gt=0.8, le=3)

    @property
    def scale(self) -> float:
        """Of arm lengths fore and aft and up and down, against the nominal drawing."""
        return self.tyre_radius_mm / NOMINAL_RADIUS


NOMINAL_RADIUS, NOMINAL_HALF_TRACK = 315.0, 760.0
"""Loaded tyre radius and half track that the archetypes are drawn for, mm."""

SIZES: dict[str, Size] = {
    s.name: s
    for s in (
        Size(
            name="small_car", title="Small car, about 1.0 t", body="hatchback", wheelbase_mm=2450, half_track_mm=710,
            tyre_radius_mm=285, front_load_n=2700, rear_load_n=1900, hub_to_arch_mm=355, bump_mm=85, droop_mm=80,
            frequency_hz=1.35,
        ),
        Size(
            name="car", title="Car, about 1.5 t", body="saloon", wheelbase_mm=2690, half_track_mm=765,
            tyre_radius_mm=312, front_load_n=3900, rear_load_n=3100, hub_to_arch_mm=370, bump_mm=90, droop_mm=85,
            frequency_hz=1.3,
        ),
        Size(
            name="van", title="Van, about 2 t", body="van", wheelbase_mm=3050, half_track_mm=810, tyre_radius_mm=325,
            front_load_n=5200, rear_load_n=4600, hub_to_arch_mm=410, bump_mm=95, droop_mm=90, frequency_hz=1.45,
        ),
        Size(
            name="pick_up", title="Pick-up, about 2 t", body="pick_up", wheelbase_mm=3150, half_track_mm=785,
            tyre_radius_mm=365, front_load_n=5100, rear_load_n=3500, hub_to_arch_mm=470, bump_mm=100, droop_mm=95,
            frequency_hz=1.5,
        ),
        Size(
            name="off_roader", title="Off-roader, about 2 t", body="off_roader", wheelbase_mm=2550, half_track_mm=760,
            tyre_radius_mm=375, front_load_n=4300, rear_load_n=4100, hub_to_arch_mm=500, bump_mm=110, droop_mm=105,
            frequency_hz=1.35,
        ),
        Size(
            name="side_by_side", title="Side-by-side, about 0.8 t", body="open", wheelbase_mm=2250, half_track_mm=680,
            tyre_radius_mm=335, front_load_n=1500, rear_load_n=1900, hub_to_arch_mm=480, bump_mm=150, droop_mm=112,
            frequency_hz=1.25,
        ),
    )
}  # fmt: skip

"""Archetypes: a suspension of a kind, scaled to a class of vehicle, that works at once and is then fitted to a tape."""

from dataclasses import dataclass, field
from typing import Any, cast

from pydantic import TypeAdapter

from inclinum.core.car.archetypes import drawings as d
from inclinum.core.car.archetypes.outline import BODIES, outline
from inclinum.core.car.archetypes.size import NOMINAL_HALF_TRACK, NOMINAL_RADIUS, SIZES, BodyName, Size
from inclinum.core.car.archetypes.sprung import Ride, axle_on
from inclinum.core.car.vehicle import Axle, Vehicle, VehicleStation
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.kinematics import AnyLinkage
from inclinum.core.kinematics.axles import steered_axle
from inclinum.core.quantity.constants import GRAVITY

_LINKAGES: TypeAdapter[AnyLinkage] = TypeAdapter(AnyLinkage)
_RACK = {"steering": {"kind": "rack", "axis": (0, 1, 0)}}


_SCREWED = {
    "tie_outer": "tie rod", "toe_link_outer": "toe link", "camber_arm_outer": "camber arm",
    "camber_outer": "camber link",
}  # fmt: skip
"""Links that usually have a thread, by their outer point."""


@dataclass(frozen=True)
class Archetype:
    """A suspension as it is usually found.

    Args:
        key: its name in a file.
        title: what a person calls it.
        where: the ends of a vehicle it is found at.
        kind: of linkage.
        points: as drawn.
        options: further fields of the linkage.
        air: whether it is usually on air.
        not_for: sizes it has too little room for.
        steered: whether a solid axle's wheels are steered by drag link and track rod, where it is the front one.
        links_at: the end its points are drawn for, where its links run from the axle towards the middle of the
            vehicle; at the other end they run the other way. None of what looks the same at both.
    """

    key: str
    title: str
    where: tuple[AxleName, ...]
    kind: str
    points: d.Points
    options: dict[str, Any] = field(default_factory=dict)
    air: bool = False
    not_for: tuple[str, ...] = ()
    steered: bool = False
    links_at: AxleName | None = None

    def linkage(self, size: Size, end: AxleName = "front") -> AnyLinkage:
        """The linkage of a vehicle of that size: across by its track, else by its tyre; only a front one steers."""
        s, across = size.scale, size.half_track_mm / NOMINAL_HALF_TRACK

        def scaled(at: tuple[float, float, float], ahead: float = 1.0) -> tuple[float, float, float]:
            x, y, z = at
            up = size.tyre_radius_mm + (z - NOMINAL_RADIUS) * s
            return round(ahead * x * s, 1), round(y * across, 1), round(up, 1)

        ahead = 1.0 if self.links_at in (None, end) else -1.0
        points = {name: scaled(at, ahead) for name, at in self.points.items()}
        document = {"kind": self.kind, "points": points} | self.options
        if end == "rear":
            document.pop("steering", None)
        elif self.steered:
            document["steering"] = {n: scaled(at) for n, at in d.AXLE_STEERING.items()} | {
                "box_arm_mm": 160, "box_ratio": 17,
            }  # fmt: skip
        return _LINKAGES.validate_python(document)

    def axle(self, size: Size, end: AxleName) -> Axle:
        """The axle of a vehicle of that size, standing at its reference height."""
        load = size.front_load_n if end == "front" else size.rear_load_n
        frequency = size.frequency_hz * (1.0 if end == "front" else 1.08)
        linkage = self.linkage(size, end)
        axle = axle_on(linkage, size, Ride(load, frequency, size.bump_mm, size.droop_mm), air=self.air)
        extra: dict[str, Any] = {"archetype": self.key, "prior": linkage}
        if self.kind == "twist_beam":
            extra["anti_roll_n_per_mm"] = round(0.5 * Ride(load, frequency, 1, 1).wheel_rate, 1)
        if not linkage.coupled:
            # Nobody has said what is wanted: settings aim at the angles it has, until the maker's figures are typed in.
            extra["targets"] = {
                "camber": {"target_deg": axle.camber_deg, "window_deg": 0.75, "assumed": True},
                "toe": {"target_deg": axle.toe_deg, "window_deg": 0.15, "weight": 5, "assumed": True},
            }
            extra["adjusters"] = [
                {"type": "link_length", "name": name, "outer": outer, "min_mm": -12, "max_mm": 12,
                 "thread_pitch_mm": 1.5}
                for outer, name in _SCREWED.items()
                if outer in linkage.named_points()
            ]  # fmt: skip
        elif steered_axle(linkage) is not None:
            extra["targets"] = {"toe": {"target_deg": 0.0, "window_deg": 0.15, "weight": 5, "assumed": True}}
            extra["adjusters"] = [{"type": "track_rod"}]
        return Axle.model_validate(axle.model_dump() | extra)


ARCHETYPES: dict[str, Archetype] = {
    a.key: a
    for a in (
        Archetype("strut_front", "Strut", ("front",), "macpherson", d.STRUT_FRONT, _RACK),
        Archetype("strut_arm_spring", "Strut, spring on the lower arm", ("front",), "macpherson", d.STRUT_ARM_SPRING,
                  _RACK),
        Archetype("strut_rear", "Strut with toe link", ("rear",), "macpherson", d.STRUT_REAR),
        Archetype("wishbones", "Double wishbone, coil-over on the lower arm", ("front", "rear"), "double_wishbone",
                  d.WISHBONES, _RACK),
        Archetype("wishbones_upper", "Double wishbone, spring on the upper arm", ("front",), "double_wishbone",
                  d.WISHBONES_UPPER, _RACK | {"spring_on": "upper_arm", "damper_on": "upper_arm"},
                  not_for=("side_by_side",)),
        Archetype("wishbones_torsion", "Double wishbone, torsion bar", ("front",), "double_wishbone",
                  d.WISHBONES_TORSION, _RACK | {"torsion_bar_on": "lower_arm"}),
        Archetype("wishbones_rocker", "Double wishbone, push rod and rocker", ("front", "rear"), "double_wishbone",
                  d.WISHBONES_ROCKER, _RACK | {"spring_on": "rocker", "damper_on": "rocker"},
                  not_for=("side_by_side",)),
        Archetype("wishbones_long", "Long double wishbones, side-by-side", ("front", "rear"), "double_wishbone",
                  d.WISHBONES_LONG, _RACK),
        Archetype("five_link", "Five-link", ("rear",), "five_link", d.FIVE_LINK,
                  {"spring_on_link": {"link": "spring_link", "fraction": 0.6},
                   "reference_line": {"lower": "front_lower_outer", "upper": "upper_front_outer"}}),
        Archetype("h_arm", "H-arm and camber link", ("rear",), "multi_link", d.H_ARM, d.H_ARM_PARTS),
        Archetype("semi_trailing", "Semi-trailing arm", ("rear",), "semi_trailing_arm", d.SEMI_TRAILING),
        Archetype("trailing", "Trailing arm, coil", ("rear",), "trailing_arm", d.TRAILING),
        Archetype("trailing_torsion", "Trailing arm, torsion bar", ("rear",), "trailing_arm_torsion",
                  d.TRAILING_TORSION),
        Archetype("twist_beam", "Twist beam", ("rear",), "twist_beam", d.TWIST_BEAM),
        Archetype("swing_arm", "Swing arm", ("rear",), "swing_arm", d.SWING),
        Archetype("four_link_axle", "Solid axle, four links", ("rear", "front"), "solid_axle_four_link", d.FOUR_LINK,
                  steered=True, links_at="rear"),
        Archetype("four_link_air", "Solid axle, four links, air springs", ("rear",), "solid_axle_four_link",
                  d.FOUR_LINK, air=True),
        Archetype("three_link_axle", "Solid axle, three links and lateral rod", ("front", "rear"),
                  "solid_axle_three_link", d.THREE_LINK, steered=True, links_at="rear"),
        Archetype("parallel_link_axle", "Solid axle, parallel links and lateral rod", ("rear", "front"),
                  "solid_axle_parallel_links", d.PARALLEL_LINKS, steered=True, links_at="rear"),
        Archetype("radius_arm_axle", "Solid axle, radius arms and lateral rod", ("front",), "solid_axle_radius_arms",
                  d.RADIUS_ARMS, steered=True),
        Archetype("watt_axle", "Solid axle, Watt linkage", ("rear",), "solid_axle_watt", d.WATT),
        Archetype("leaf_axle", "Leaf-sprung axle", ("rear",), "leaf_axle", d.LEAF_REAR),
        Archetype("leaf_axle_front", "Leaf-sprung front axle", ("front",), "leaf_axle", d.LEAF_FRONT, steered=True),
    )
}  # fmt: skip


def vehicle_of(
    front: str, rear: str, size: str, name: str, plate: str = "", description: str = "", body: str = ""
) -> Vehicle:
    """A working vehicle from two archetypes and a size, its body drawn as such a body is; the usual one if left empty.

    Raises:
        ValueError: there is no such archetype or size, or it is not found at that end of a vehicle.
    """
    if size not in SIZES:
        raise DomainError(f"There is no size “{size}”; there are {', '.join(SIZES)}.")
    measures, axles = SIZES[size], {}
    ends: tuple[tuple[AxleName, str], ...] = (("front", front), ("rear", rear))
    for end, key in ends:
        if key not in ARCHETYPES:
            raise DomainError(f"There is no archetype “{key}”; there are {', '.join(ARCHETYPES)}.")
        if end not in ARCHETYPES[key].where:
            raise DomainError(f"“{ARCHETYPES[key].title}” is not found at the {end}.")
        if size in ARCHETYPES[key].not_for:
            raise DomainError(
                f"“{ARCHETYPES[key].title}” has not the travel of a {measures.title.split(',')[0].lower()}."
            )
        axles[end] = ARCHETYPES[key].axle(measures, end)
    base = measures.wheelbase_mm
    return Vehicle(
        name=name,
        plate=plate,
        description=description or measures.title,
        mass_kg=round(2 * (measures.front_load_n + measures.rear_load_n) / GRAVITY + 4 * 45, -1),
        wheelbase_mm=base,
        front=axles["front"],
        rear=axles["rear"],
        stations=tuple(
            VehicleStation(name=name, x_mm=round(along * base), height_mm=round(high * measures.tyre_radius_mm))
            for name, along, high in (
                ("front bumper", 0.28, 1.25),
                ("sill middle", -0.5, 0.8),
                ("rear bumper", -1.28, 1.3),
            )
        ),
        outline=outline(measures, cast(BodyName, body) if body in BODIES else None),
    )


__all__ = ["ARCHETYPES", "BODIES", "SIZES", "Archetype", "Size", "vehicle_of"]

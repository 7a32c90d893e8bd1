"""The rest of the island's service fleet: every archetype is found on one of them. All of it is invented."""

from functools import cache

from inclinum.core.car.archetypes import vehicle_of
from inclinum.core.car.attached import FlexLine
from inclinum.core.car.fitting import fit_axle
from inclinum.core.car.vehicle import Axle, TapeReading, Vehicle, VehicleStation
from inclinum.core.document.names import AxleName
from inclinum.core.fitting import places
from inclinum.core.quantity import Angle, Length

FLEET: tuple[tuple[str, str, str, str, str, str, str], ...] = (
    ("Gorrel Cask, vineyard pick-up", "Q-0233", "Terrace Growers", "pick_up", "wishbones_torsion", "leaf_axle",
     "Carries grapes down the terraces; sits low behind when it does."),
    ("Veddic Halyard, rescue estate", "Q-0112", "Island Rescue", "car", "wishbones", "five_link",
     "Long estate with stretcher and pump, about 1.9 t laden."),
    ("Mordle Skip, ferry crew's side-by-side", "Q-0740", "Sound Ferries", "side_by_side", "wishbones_long", "trailing",
     "Open two-seater for slipways and dunes."),
    ("Tarsk Dot, harbour master's runabout", "Q-0051", "Harbour Office", "small_car", "strut_front", "twist_beam",
     "Small hatchback, never far from the quay."),
    ("Gorrel Beacon, lighthouse off-roader", "Q-0307", "Lights and Buoys", "off_roader", "radius_arm_axle", "watt_axle",
     "Short off-roader on two solid axles."),
    ("Gorrel Flint, quarry off-roader", "Q-0311", "Flint Quarry", "off_roader", "leaf_axle_front", "four_link_axle",
     "Leaves in front, coils behind: somebody improved it once."),
    ("Oriel Ledger, doctor's saloon", "Q-0088", "Island Surgery", "car", "strut_front", "strut_rear",
     "Quiet saloon with a bag in the boot."),
    ("Veddic Carrel, school bus", "Q-0419", "Island School", "van", "wishbones_upper", "four_link_air",
     "Fourteen seats; the rear is held level by air."),
    ("Tarsk Penny, baker's old car", "Q-0007", "Mill Bakery", "small_car", "wishbones_torsion", "trailing_torsion",
     "Torsion bars at both ends, older than the baker."),
    ("Oriel Plover, museum coupé", "Q-0003", "Island Museum", "small_car", "wishbones", "swing_arm",
     "Rear engine, swing axles, driven with respect."),
    ("Sarn Bramble, hill-climb special", "Q-0555", "Juno Veyle", "car", "wishbones_rocker", "h_arm",
     "Built in the yard over three winters."),
    ("Gorrel Heron, ranger's off-roader", "Q-0321", "Shore Rangers", "off_roader", "three_link_axle", "leaf_axle",
     "Three links and a rod in front, leaves behind."),
    ("Veddic Churn, dairy van", "Q-0430", "High Pasture Dairy", "van", "strut_front", "semi_trailing",
     "Twin of the post van, with a cold box."),
    ("Tarn Ferrule, small estate", "Q-0151", "Island Library", "car", "strut_arm_spring", "twist_beam",
     "Springs on the lower arms in front, dampers by themselves."),
    ("Skerry Drover, pick-up", "Q-0338", "Kelp Works", "off_roader", "three_link_axle", "parallel_link_axle",
     "Four links alongside each other and a rod behind."),
)  # fmt: skip
"""Name, plate, owner, size, front and rear archetype, and a word about it."""

BODY = {"Q-0112": "estate", "Q-0003": "coupe", "Q-0555": "coupe", "Q-0151": "estate", "Q-0338": "pick_up",
        "Q-0007": "saloon"}  # fmt: skip
"""Whose body is another than is usual for its size."""

FIXED = "Q-0112"
"""Whose rear wheels cannot be set as it came."""
STEERED = "Q-0088"
"""Whose rack was measured to its locks."""

TAPED: dict[tuple[str, AxleName], dict[str, float]] = {
    ("Q-0233", "rear"): {
        "wheel_centre.apart": 6, "fixed_eye.height": -9, "shackle_eye.height": 4, "shackle_body.height": 6,
        "fixed_eye.seat": 14, "shackle_eye.seat": -11, "shackle_body.shackle_eye": -5, "seat.apart": 8,
    },
    ("Q-0112", "front"): {
        "wheel_centre.apart": -8, "lower_outer.height": 5, "lower_front.height": 7, "lower_rear.height": -4,
        "lower_front.lower_outer": 12, "lower_rear.lower_outer": 9, "upper_outer.height": -6,
        "lower_outer.upper_outer": -7, "tie_inner.height": 3, "tie_outer.height": 2, "tie_inner.tie_outer": 10,
    },
    ("Q-0740", "front"): {
        "wheel_centre.apart": 14, "lower_outer.height": 4, "lower_front.height": 10, "lower_front.lower_outer": -15,
        "damper_body.height": 12, "damper_body.damper_arm": 10,
    },
}  # fmt: skip
"""Readings taken on some of them, told as what the tape read less what the archetype has, mm."""


@cache
def demo_fleet() -> tuple[tuple[Vehicle, str], ...]:
    """Vehicles with their owners."""
    found = []
    for name, plate, owner, size, front, rear, word in FLEET:
        vehicle = vehicle_of(front, rear, size, name, plate, word, BODY.get(plate, ""))
        for (taped, end), readings in TAPED.items():
            if taped == plate:
                vehicle = vehicle.model_copy(update={end: _taped(vehicle.axle(end), readings)})
        if plate == FIXED:
            vehicle = vehicle.with_axle("rear", adjusters=())
        if plate == STEERED:
            vehicle = vehicle.with_axle("front", full_lock=64.0)
        found.append((_with_figures(vehicle) if plate == STONES else vehicle, owner))
    return tuple(found)


STONES = "Q-0307"
"""Whose owner has had its clearances, a hose and its balance measured."""


def _with_figures(vehicle: Vehicle) -> Vehicle:
    """Places that may touch the ground, a brake hose, a centre of gravity."""
    base = vehicle.wheelbase_mm
    stations = (
        *vehicle.stations,
        VehicleStation(name="rear damper mount", x_mm=-base, height_mm=232, on="rear_axle", keep_mm=250),
        VehicleStation(name="gearbox guard", x_mm=round(-0.45 * base), height_mm=268, keep_mm=240),
    )
    hose = FlexLine(name="brake hose", body=(120, 300, 760), wheel=(30, 420, 470), length_mm=430)
    rear = vehicle.rear.model_copy(update={"lines": (hose,)})
    return vehicle.model_copy(update={"stations": stations, "rear": rear, "cg_height_mm": 720})


def _taped(axle: Axle, offsets: dict[str, float]) -> Axle:
    points, wheel = axle.linkage.named_points(), axle.linkage.wheel_name
    tape = []
    for place in places(axle.linkage):
        if place.key in offsets:
            text = f"{place.value(points, wheel) + offsets[place.key]:.0f}"
            tape.append(
                TapeReading(key=place.key, angle=Angle.model_validate(text))
                if place.is_angle
                else TapeReading(key=place.key, length=Length.model_validate(text))
            )
    return fit_axle(axle.model_copy(update={"tape": tuple(tape)})).axle

"""The yard that keeps the island's service fleet at the right height."""

from inclinum.core.car.job import LocalLimit

SHOP_NAME = "Slipway Yard, Quillisay"
PEOPLE = ("Ines Tarrow", "Bram Okkel", "Juno Veyle")
OWNERS = ("Quillisay Post",)

LOCAL_LIMITS = (
    LocalLimit(
        quantity="rise",
        value_mm=45,
        text="Island council: no body lift beyond 45 mm at either axle without an inspection.",
    ),
    LocalLimit(
        quantity="lamp_height_max", value_mm=790, text="Island council: lamp centres at most 790 mm above the road."
    ),
    LocalLimit(
        quantity="lamp_height_min", value_mm=520, text="Island council: lamp centres at least 520 mm above the road."
    ),
)

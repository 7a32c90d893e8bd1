"""What a step says of a change: its number at the step it is about, and the same number taken back."""

import pytest

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.card import bike_card
from inclinum.core.car.card import card
from inclinum.core.car.job import Job, Plan
from inclinum.core.document.names import AxleName
from inclinum.core.quantity.words import numbers_in
from tests.core.test_bike import job_on as bike_job_on
from tests.core.test_card_laws import planned
from tests.core.test_every_change import job_on


def with_first(job: Job, **fields: object) -> Job:
    """With other figures of its first change."""
    first = job.plan.changes[0]
    changed = first.change.model_validate(first.change.model_dump() | fields)
    return job.model_copy(update={"plan": Plan(changes=(first.model_copy(update={"change": changed}),))})


@pytest.mark.parametrize(
    ("key", "end", "kind", "fields", "figure", "says"),
    [
        ("leaf_axle", "rear", "wedge", {"angle_deg": 3.5, "thick_end": "front"}, "3.5°, thick end to the front",
         "3.5° wedge"),
        ("leaf_axle", "rear", "leaves_changed", {"leaves_by": -1, "arch_by_mm": -12}, "−1 in each pack",
         "1 leaf fewer in each pack, free arch −12 mm"),
        ("leaf_axle", "rear", "leaves_changed", {"leaves_by": 0, "arch_by_mm": 8}, None, "As many leaves as before"),
        ("leaf_axle", "rear", "re_arched", {"by_mm": -15}, "free arch −15 mm", "−15 mm, left and right"),
        ("strut_front", "front", "stop_raised", {"by_mm": -8}, "−8 mm", "8 mm of packer out, bolt shorter"),
        ("strut_front", "front", "mount_spacer", {"thickness_mm": -6}, "−6 mm", "6 mm of spacer off"),
        ("strut_front", "front", "damper_extension", {"longer_mm": -25}, "−25 mm eye to eye",
         "25 mm shorter eye to eye"),
        ("strut_front", "front", "wheel_offset", {"out_mm": -12}, "−12 mm each side", "12 mm further in at each side"),
        ("strut_front", "front", "subframe_lowered", {"by_mm": -10}, "10 mm higher", "10 mm of spacer out"),
        ("wishbones_torsion", "front", "torsion_bars", {}, "arm 10.0° above horizontal", "Set the arm 10.0° above"),
        ("four_link_air", "rear", "air_height", {"rise_mm": -30}, "−30 mm", "levels it −30 mm"),
        ("strut_front", "front", "coil_over", {"collar_to_top_mm": 301.4}, "collar 301.4 mm", "collar 301.4 mm from"),
    ],
)  # fmt: skip
def test_a_change_and_its_opposite_are_told_as_they_are(
    key: str, end: AxleName, kind: str, fields: dict[str, object], figure: str | None, says: str
) -> None:
    job = planned(job_on(key, end), end, kind)
    if kind == "torsion_bars":
        spring = job.plan.changes[0].change.model_dump()["spring"]
        fields = {"spring": spring | {"free_angle_deg": -10.0}}
    steps = [s for s in card(with_first(job, **fields)).steps if ".left.c1." in s.id or s.id.startswith(f"{end}.c1.")]
    about = [s for s in steps if says in s.text]
    assert about, [s.text for s in steps]
    assert [s.figure for s in steps if s.figure] == ([figure] if figure else [])
    assert figure is None or about[0].figure == figure


def test_a_collar_is_turned_on_the_unit_that_is_in_and_a_tyre_goes_on_with_its_wheel() -> None:
    """Whatever the stack says: nobody turns the collar of a unit that lies on the bench with the wheel hanging."""
    job = planned(job_on("strut_front", "front"), "front", "collar", "tyres", "coil_over", "limit_strap")
    order = [s.id for s in card(job).steps]
    by = {p.change.type: f"front.left.{p.id}.0" for p in job.plan.changes}
    assert (
        order.index(by["coil_over"])
        < order.index("front.left.strut_top.on")
        < order.index(by["collar"])
        < order.index("front.left.ride_height")
        < order.index(by["tyres"])
        < order.index("front.left.wheel.on")
    )
    assert order.index("front.left.lines.on") < order.index(by["limit_strap"]) < order.index("front.left.ride_height")


def test_what_may_send_the_plan_back_is_read_before_anything_is_lifted() -> None:
    made = card(planned(job_on("strut_front", "front"), "front", "stated_springs"))
    order = [s.id for s in made.steps]
    assert order.index("ready.parts") < order.index("front.c1.ready0") < order.index("front.left.wheel.crack")
    assert "Read rate and free length" in made.steps[order.index("front.c1.ready0")].text


def test_two_wheels_say_what_is_taken_back_as_well() -> None:
    came = BIKES["linkage_frame"].bike("Law")
    for change, says in (
        ({"type": "seat_foam", "lower_mm": -12}, "12 mm on"),
        ({"type": "side_stand", "shorter_mm": -9, "bent_out_deg": -2}, "9 mm longer along its leg, bent in 2°"),
        ({"type": "fork_travel", "shorter_mm": 15}, "15 mm on both"),
        ({"type": "fork_travel", "shorter_mm": 15, "bottom_out_parts": False}, "left out"),
    ):
        steps = [s for s in bike_card(bike_job_on(came, [change])).steps if s.id.startswith("c1.")]
        about = [s for s in steps if says in s.text]
        assert about, [s.text for s in steps]
        assert about[0].figure is not None
        assert numbers_in(about[0].figure) <= numbers_in(about[0].text)

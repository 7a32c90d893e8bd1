"""Rings, washers and spacers in the order they lie in: at the step that lays them, with what each side gets."""

import pytest

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.card import bike_card
from inclinum.core.car.card import card
from inclinum.core.car.changes import Block, MountSpacer, SeatSpacer, StrutTopSpacer, TopPlate
from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import StrutTop
from inclinum.core.document.names import AxleName
from tests.core.test_attached import with_front
from tests.core.test_bike import job_on as bike_job_on
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import job_on

Laid = list[tuple[str, float | None]]
TOP = StrutTop(stud_length_mm=60, stud_diameter_mm=8, nut_height_mm=8, washer_mm=2.5)
STACK = (
    {"thickness_mm": 8, "lies": "tower_to_plate"},
    {"thickness_mm": 3, "lies": "plate_to_nut"},
    {"thickness_mm": 5, "lies": "tower_to_plate"},
)


def laid(key: str, end: AxleName, change: Change, side: str = "left") -> Laid:
    job = job_on(key, end)
    job = with_front(job, strut_top=TOP) if end == "front" else job
    steps = [s for s in card(on(job, change)).steps if s.layers and s.side == side]
    assert len(steps) <= 1, "at one step of a side"
    return [(layer.name, layer.thickness_mm) for s in steps for layer in s.layers]


RING = "spacer, chamfer to the seat"
CASES: list[tuple[str, AxleName, Change, Laid]] = [
    ("wishbones_long", "rear", SeatSpacer(axle="rear", thickness_mm=10),
     [("seat", None), (RING, 10), ("isolator", None), ("spring", None)]),
    ("wishbones_long", "rear", SeatSpacer(axle="rear", thickness_mm=10, lies="above"),
     [("spring", None), ("isolator", None), (RING, 10), ("upper seat", None)]),
    ("wishbones_long", "rear", SeatSpacer(axle="rear", thickness_mm=-10), []),
    ("strut_front", "front", StrutTopSpacer(axle="front", thickness_mm=12),
     [("top mount", None), ("spacer", 12), ("tower", None), ("washer", 2.5), ("nut", None)]),
    ("strut_front", "front", MountSpacer(axle="front", thickness_mm=5),
     [("shoulder of the rod", None), ("spacer", 5), ("top mount", None), ("rod nut", None)]),
    ("strut_front", "front", TopPlate(axle="front", stack=STACK),  # type: ignore[arg-type]
     [("plate", None), ("spacer", 8), ("spacer", 5), ("tower", None), ("washer", 2.5), ("spacer", 3), ("nut", None)]),
    ("leaf_axle", "rear", Block(axle="rear", height_mm=25), [("axle tube", None), ("block", 25), ("pack", None)]),
]  # fmt: skip


@pytest.mark.parametrize(("key", "end", "change", "wanted"), CASES)
def test_layers_lie_as_they_are_laid(key: str, end: AxleName, change: Change, wanted: Laid) -> None:
    assert laid(key, end, change) == wanted


def test_each_side_has_its_own_ring_and_one_without_has_none() -> None:
    apart = SeatSpacer(axle="rear", thickness_mm=10, right_mm=4)
    assert [dict(laid("wishbones_long", "rear", apart, side))[RING] for side in ("left", "right")] == [10, 4]
    alone = SeatSpacer(axle="rear", thickness_mm=10, right_mm=0)
    assert laid("wishbones_long", "rear", alone, "right") == []


def test_a_second_block_lies_on_the_first() -> None:
    two = on(job_on("leaf_axle", "rear"), Block(axle="rear", height_mm=25), Block(axle="rear", height_mm=10))
    last = [s for s in card(two).steps if s.layers and s.side == "left"][-1]
    told = [(layer.name, layer.thickness_mm) for layer in last.layers]
    assert told == [("axle tube", None), ("block that is there", 25), ("block", 10), ("pack", None)]


def test_a_seat_washer_lies_between_collar_and_coil() -> None:
    spring = {"rate_n_per_mm": 70, "free_length_mm": 220, "stroke_mm": 140, "seat_washer_mm": 3}
    made = bike_card(bike_job_on(BIKES["linkage_frame"].bike("x"), [{"type": "rear_spring", "spring": spring}]))
    (step,) = [s for s in made.steps if s.layers]
    assert "washer" in step.text
    assert step.layers_begin == "from the collar"
    assert [(n.name, n.thickness_mm, n.new) for n in step.layers] == [
        ("collar", None, False), ("seat washer", 3, True), ("spring", None, False), ("seat and clip", None, False)
    ]  # fmt: skip

"""Changes: pure functions with parameters that tell their title, unit and limits."""

import ast
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

import inclinum.core
from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.changes import StandLeg
from inclinum.core.car.changes import (
    CHANGE_TYPES,
    BumpStopSwap,
    Change,
    LongerStuds,
    PlannedChange,
    SeatSpacer,
    SpringSwap,
    StrutTopSpacer,
    apply_all,
    begin,
)
from inclinum.core.car.stance import ride_corner
from inclinum.core.document import unit_of
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AXLES, AxleName
from inclinum.core.machines import KINDS as MACHINES
from inclinum.core.plan import Candidate, Cure, nearest
from inclinum.core.plan.change import made
from inclinum.demo.van import van
from tests.conftest import plain_coil

KINDS = [k.model_fields["type"].default for k in CHANGE_TYPES]


def planned(*changes: Change) -> tuple[PlannedChange, ...]:
    return tuple(PlannedChange.model_validate({"id": f"t{n}", "change": c}) for n, c in enumerate(changes))


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("axle", AXLES)
def test_every_kind_begins_on_every_axle_or_says_why_not(kind: str, axle: AxleName) -> None:
    vehicle = van()
    try:
        new, why = begin(kind, axle, vehicle, ()), ""
    except DomainError as no:
        new, why = None, str(no)
    if new is None:
        # What the strut and the semi-trailing arm of the van have no place for; every archetype: test_every_change.
        assert f" {axle} axle" in why
        leaf = {"leaf_packs", "leaves_changed", "re_arched", "helper_leaf", "block", "shackle", "over_axle", "wedge"}
        other = {"torsion_bars", "torsion_reindex", "torsion_adjuster", "air_height", "anti_roll_links", "prop_shaft"}
        other |= {"crossover_ring"}
        apart = (
            {"strut_top_spacer", "top_plate", "longer_studs", "coil_over", "arm_length"}
            if axle == "rear"
            else {"damper_holes"}
        )
        assert kind in leaf | other | apart
        return
    assert new.change.axle == axle
    assert new.change.summary()
    assert all(isinstance(line, str) and line for line in (*new.change.parts(vehicle), *new.change.steps(vehicle)))
    other = "rear" if axle == "front" else "front"
    if not new.change.touches(other):
        assert new.change.apply(vehicle).axle(other) == vehicle.axle(other), "the other axle is left alone"
    assert vehicle == van(), "a change never alters its argument"


@pytest.mark.parametrize("kind", CHANGE_TYPES)
def test_every_number_of_a_form_has_a_title_a_limit_and_where_it_needs_one_a_unit(kind: type[Change]) -> None:
    schema = kind.model_json_schema()
    tables = [schema["properties"], *(d["properties"] for d in schema.get("$defs", {}).values())]
    numbers = 0
    for table in tables:
        for name, field in table.items():
            shape = field | next((b for b in field.get("anyOf", []) if b.get("type") != "null"), {})
            if shape.get("type") not in ("number", "integer"):
                continue
            numbers += 1
            assert shape["title"], name
            assert {"minimum", "exclusiveMinimum"} & shape.keys(), name
            assert {"maximum", "exclusiveMaximum"} & shape.keys(), name
            if name.endswith("_mm"):
                assert shape["unit"] == unit_of(name)[1], name
    assert numbers >= 1


def test_spacers_add_up_whatever_their_order() -> None:
    parts = (SeatSpacer(axle="front", thickness_mm=4), SeatSpacer(axle="front", thickness_mm=7))
    one, other = apply_all(van(), planned(*parts)), apply_all(van(), planned(*reversed(parts)))
    assert one == other
    assert one.front.seat_spacer_mm == 11


def test_what_is_off_is_not_there() -> None:
    (change,) = planned(SeatSpacer(axle="front", thickness_mm=4))
    assert apply_all(van(), (change.model_copy(update={"on": False}),)) == van()


def test_a_strut_top_spacer_takes_the_same_room_from_spring_and_damper() -> None:
    before, after = (ride_corner(v.front) for v in (van(), StrutTopSpacer(axle="front", thickness_mm=9).apply(van())))
    assert float(before.spring_at(0.0) - after.spring_at(0.0)) == pytest.approx(9)
    assert float(before.damper_at(0.0) - after.damper_at(0.0)) == pytest.approx(9)


def test_a_seat_spacer_leaves_the_damper_its_room() -> None:
    before, after = (ride_corner(v.rear) for v in (van(), SeatSpacer(axle="rear", thickness_mm=9).apply(van())))
    assert float(before.spring_at(0.0) - after.spring_at(0.0)) == pytest.approx(9)
    assert float(before.damper_at(0.0)) == float(after.damper_at(0.0))


@given(st.floats(20, 140))
def test_a_taller_stop_of_the_same_stuff_carries_the_same_at_the_same_share_of_its_height(height: float) -> None:
    before = van().rear.bump_stop
    after = BumpStopSwap(axle="rear", height_mm=height).apply(van()).rear.bump_stop
    assert before.contact_mm is not None
    assert after.contact_mm == pytest.approx(before.contact_mm + height - before.height_mm)

    scale = height / before.height_mm
    assert after.max_compression_mm / before.max_compression_mm == pytest.approx(scale)
    for share in (0.2, 0.5):
        forces = [s.coefficient * (share * s.height_mm) ** s.power for s in (before, after)]
        assert forces[1] == pytest.approx(forces[0])


def test_new_studs_make_an_old_thread_reading_void() -> None:
    measured = StrutTopSpacer(axle="front", thickness_mm=12, stud_left_mm=9)
    stack = planned(measured, LongerStuds(axle="front", stud_length_mm=40))
    front = apply_all(van(), stack).front
    assert front.stud_left_mm is None
    assert front.strut_top is not None
    assert front.strut_top.stud_length_mm == 40


def test_a_change_that_does_not_fit_its_axle_names_it() -> None:
    with pytest.raises(ValueError, match="rear axle has no strut top.*spring-seat spacer"):  # noqa: RUF043
        StrutTopSpacer(axle="rear", thickness_mm=5).apply(van())
    with pytest.raises(ValueError, match="There is no change “wings”"):
        begin("wings", "front", van(), ())


@pytest.mark.parametrize("thickness", [-61, 81, float("nan"), float("inf")])
def test_impossible_parameters_are_refused(thickness: float) -> None:
    with pytest.raises(ValidationError):
        SeatSpacer(axle="front", thickness_mm=thickness)


def test_ids_on_a_stack_stay_free_of_each_other() -> None:
    stack: tuple[PlannedChange, ...] = ()
    for _ in range(5):
        stack = (*stack, begin("seat_spacer", "rear", van(), stack))
    assert len({p.id for p in stack}) == 5
    without = stack[:1] + stack[2:]
    assert begin("seat_spacer", "rear", van(), without).id not in {p.id for p in without}


def test_a_swap_to_the_same_spring_only_makes_it_another_pair() -> None:
    coil = plain_coil(van(), "front")
    assert SpringSwap(axle="front", coil=coil).apply(van()) == van().with_axle("front", renewed=True)


def test_a_machine_that_a_change_makes_impossible_is_refused_by_the_part_it_spoils() -> None:
    """Each number of a changed machine is held to what such a machine can have, however it came about."""
    bike = BIKES["linkage_frame"].bike("x")
    assert bike.stand is not None
    shorter = StandLeg(shorter_mm=120)
    once = made(shorter, bike)
    assert once.stand is not None
    assert once.stand.foot_height_mm > bike.stand.foot_height_mm
    with pytest.raises(DomainError, match=r"“Side stand” would leave the foot height at .* mm, which should be less"):
        made(shorter, made(shorter, once))
    # What a change leaves alone stays the very same part: nothing else is worked out anew.
    assert once.fork is bike.fork
    vehicle = van()
    assert made(SeatSpacer(axle="rear", thickness_mm=10), vehicle).front is vehicle.front


def test_nothing_that_asks_a_change_names_its_kind() -> None:
    """Ways, cures, card, spread and answers of both wings know changes by what they say of themselves."""
    kinds = {k for kind in MACHINES.values() for k in kind.changes}
    classes, types = {k.__name__ for k in kinds}, {k.model_fields["type"].default for k in kinds}
    core = Path(inclinum.core.__file__).parent
    asking = [f for wing in MACHINES for f in (core / wing).rglob("*.py") if f.parent.name != "changes"]
    assert len(asking) > 60
    for file in asking:
        nodes = list(ast.walk(ast.parse(file.read_text())))
        imported = {a.name for n in nodes if isinstance(n, ast.ImportFrom) for a in n.names}
        compared = {
            side.value
            for n in nodes if isinstance(n, ast.Compare)
            for side in (n.left, *n.comparators) if isinstance(side, ast.Constant)
        }  # fmt: skip
        assert not imported & classes, file
        assert not compared & types, file


@pytest.mark.parametrize("falls", [False, True])
def test_the_nearest_size_is_found_whichever_way_it_moves_the_body_and_where_some_sizes_cannot_be(falls: bool) -> None:
    """Sizes 0 to 10 in halves; the first ones stand nowhere. 3.1 mm per unit up or down: 12 mm is nearest at 4.0."""
    sign = -1.0 if falls else 1.0

    def rises(cures: list[Cure[Any]]) -> np.ndarray:
        sizes = np.array([float(c.title) for c in cures])
        return np.where(sizes < 2, np.nan, sign * 3.1 * sizes)

    sized = Candidate(0.0, 10.0, 0.5, lambda size: Cure(title=f"{size}", changes=()))
    assert [c.title for c in nearest([sized], rises, sign * 12.0, 0.0)] == ["4.0"]
    assert [c.title for c in nearest([sized], rises, sign * 30.0, 0.0)] == ["9.5"], "the largest ones count too"
    assert nearest([sized], rises, -sign * 12.0, 0.0) == [], "the other way it does not go"
    assert nearest([sized], rises, sign * 12.0, sign * 12.1) == [], "the plan is nearer as it is"


def test_what_is_searched_says_what_it_provides() -> None:
    """Ways to a height pass by what provides nothing."""
    for machine in MACHINES.values():
        for kind in machine.changes:
            searched = any("search" in vars(k) for k in kind.__mro__ if k.__name__ not in ("Change", "BikeChange"))
            assert not searched or kind.provides, kind

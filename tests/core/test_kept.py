"""What a shop has found out for itself at a joint: on the next card of either kind of machine; told where astray."""

import pytest

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.card import bike_card
from inclinum.core.bike.joints import joints_of
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.prediction import assess
from inclinum.core.bike.views import machine_view
from inclinum.core.car.card import card
from inclinum.core.card.fastener import Fastener
from inclinum.core.card.own import BikeOwnStep, KeptNote, OwnStep
from inclinum.core.document.names import SIDES
from tests.core.test_bike import job_on as bike_job_on
from tests.core.test_card_laws import planned
from tests.core.test_every_change import job_on

PHOTO = "a" * 64


def bike() -> Bike:
    return BIKES["linkage_frame"].bike("x")


def lowered(machine: Bike) -> list[dict]:  # type: ignore[type-arg]
    points = machine.rear.arrays()
    rod = float(abs(complex(*(points["rod_arm"] - points["rod_rocker"]))))
    hole = float(abs(complex(*(points["rod_rocker"] - points["rocker_pivot"]))))
    return [{"type": "rear_link", "hole_mm": round(hole, 1), "rod_mm": round(rod + 3, 1)}]


def test_a_note_stands_where_its_joint_is_opened_on_its_side_and_nowhere_else() -> None:
    notes = (
        KeptNote(joint="damper_foot", side="left", text="Head behind the tank strap", photos=(PHOTO,)),
        KeptNote(joint="wheel", text="Locking bolt: its key is in the lid"),
        KeptNote(joint="bar", text="Grease it"),
    )
    plain = planned(job_on("wishbones", "front"), "front", "damper_swap")
    front = plain.vehicle.front.model_copy(update={"notes": notes})
    made = card(plain.model_copy(update={"vehicle": plain.vehicle.model_copy(update={"front": front})}))
    told = {(s.id, n.text) for s in made.steps for n in s.kept}
    assert told == {
        ("front.left.damper_foot.off", notes[0].text),
        *((f"front.{side}.wheel.off", notes[1].text) for side in SIDES),
    }
    assert next(n for s in made.steps for n in s.kept if n.photos).photos == (PHOTO,)
    assert made.unused == ("“Grease it” is kept at “bar”, and nothing at the front is called so: no step shows it.",)
    assert [s.text for s in made.steps] == [s.text for s in card(plain).steps], "a note is no step"


def test_a_photograph_of_the_shops_own_step_is_shown_with_it() -> None:
    own = OwnStep(text="Heat shield off", joint="damper_foot", photos=(PHOTO,))
    plain = planned(job_on("wishbones", "front"), "front", "damper_swap")
    front = plain.vehicle.front.model_copy(update={"own_steps": (own,)})
    made = card(plain.model_copy(update={"vehicle": plain.vehicle.model_copy(update={"front": front})}))
    assert {s.id: s.photos for s in made.steps if s.photos} == {f"front.{side}.own0": (PHOTO,) for side in SIDES}


def test_two_wheels_have_their_own_steps_and_notes_too() -> None:
    steps = (
        BikeOwnStep(joint="rod", text="Exhaust hanger loose", when="before_opening", tool="socket 13"),
        BikeOwnStep(joint="rod", text="Bush pressed in", part="Bush, 12 bore", fastener="hanger"),
        BikeOwnStep(joint="rod", text="Hanger tight again", when="after_closing", fastener="hanger"),
        BikeOwnStep(joint="fork_cap", text="Oil is due", part="Fork oil", due=True),
        BikeOwnStep(joint="fork_guard", text="Not on this one", due=True),
    )
    hanger = Fastener(name="exhaust hanger bolt", torque_nm=21, source="sheet")
    machine = bike().model_copy(
        update={
            "own_steps": steps, "fasteners": {"hanger": hanger},
            "notes": (KeptNote(joint="rod", text="Left bolt first"), KeptNote(joint="clutch", text="Adjust")),
        }
    )  # fmt: skip
    made, bare = (bike_card(bike_job_on(b, lowered(bike()))) for b in (machine, bike()))
    ids = [s.id for s in made.steps]
    order = ["own0", "rod.off", "own1", "rod.on", "own2"]
    assert [ids.index(i) for i in order] == sorted(ids.index(i) for i in order)
    at = {s.id: s for s in made.steps}
    assert at["own0"].text == "Exhaust hanger loose Tool: socket 13."
    assert [f.torque_nm for f in at["own2"].fasteners] == [21]
    assert [n.text for n in at["rod.off"].kept] == ["Left bolt first"]
    assert "fork_cap.off" in ids, "opened for what is due, though no change needs it"
    assert "fork_cap.off" not in [s.id for s in bare.steps]
    assert {"Bush, 12 bore", "Fork oil"} <= set(made.preflight.parts)
    assert [line.split("”")[0] for line in made.unused] == ["“Not on this one", "“Adjust"]
    with pytest.raises(ValueError, match="no bolt of this machine"):
        Bike.model_validate(machine.model_dump() | {"fasteners": {}})


@pytest.mark.parametrize("key", list(BIKES))
def test_every_joint_of_a_machine_is_marked_where_it_is(key: str) -> None:
    """Axles at their wheels, clamps above one another on the steering axis, eyes at the damper's ends."""
    machine = BIKES[key].bike("x")
    seen = machine_view(assess(bike_job_on(machine)), "rear", "side", "found")
    at = {s.key: s.at for s in seen.joints}
    assert {s.name for s in seen.joints} == set(joints_of(machine)), "each has its place"
    rear, front = at["rear_wheel.0"], at["front_wheel.0"]
    assert rear == pytest.approx((0, machine.rear_tyre_radius_mm), abs=0.2)
    assert front[1] == pytest.approx(machine.front_tyre_radius_mm, abs=0.2)
    assert front[0] == pytest.approx(machine.wheelbase_mm, rel=0.06)
    low, high, spring = at["damper_lower.0"], at["damper_upper.0"], at["rear_spring.0"]
    assert low[1] <= spring[1] <= high[1]
    assert spring == pytest.approx(((low[0] + high[0]) / 2, (low[1] + high[1]) / 2), abs=0.1)
    eyes = complex(*high) - complex(*low)
    stood = assess(bike_job_on(machine)).before.ends["laden"][1].damper_length
    assert abs(eyes) == pytest.approx(stood, abs=0.3)
    if "top_clamp.0" in at:
        assert front[1] < at["lower_clamp.0"][1] < at["top_clamp.0"][1] <= at.get("fork_cap.0", (0, 1e9))[1]
        assert at["top_clamp.0"][0] < at["lower_clamp.0"][0] < front[0], "leaning back"

"""Documents refuse what cannot be, each with the part's name and a sentence."""

from datetime import UTC, datetime

import pytest
from pydantic import TypeAdapter, ValidationError

from inclinum.core.car.job import Job, Measurements
from inclinum.core.car.measured import POSSIBLE, as_measured, refusal
from inclinum.core.car.stood import stand_measured
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.card.fastener import Fastener
from inclinum.core.document import Moment
from inclinum.core.document.content import Content
from inclinum.core.springs.fitted import Coil
from inclinum.core.springs.fork import Fork
from inclinum.demo import demo_bike_jobs, demo_jobs
from inclinum.demo.van import van
from tests.conftest import plain_coil


def front(**changed: object) -> dict:
    return van().front.model_dump() | changed


@pytest.mark.parametrize(
    ("data", "sentence"),
    [
        (front(damper={"extended_mm": 300, "closed_mm": 400}), "longer closed than extended"),
        (
            front(adjusters=[{"type": "slot", "name": "plate", "point": "nowhere", "direction": (0, 1, 0),
                              "min_mm": -1, "max_mm": 1, "step_mm": 0.5}]),
            "“plate” moves nowhere, which this suspension does not have",
        ),
        (front(tyre_radius_mm=-1), "greater than"),
        (front(hub_to_arch_mm=3880), "less than"),
        (front(wings=2), "Extra inputs"),
    ],
)  # fmt: skip
def test_an_axle_that_cannot_be(data: dict, sentence: str) -> None:
    with pytest.raises(ValidationError, match=sentence):
        Axle.model_validate(data)


def test_a_caster_target_needs_a_steering_axis() -> None:
    rear = van().rear.model_dump() | {"targets": {"caster": {"target_deg": 4, "window_deg": 1}}}
    with pytest.raises(ValidationError, match="needs a steering axis"):
        Axle.model_validate(rear)


def test_a_torque_without_a_source_is_no_torque() -> None:
    with pytest.raises(ValidationError, match="“bolt” has no source"):
        Fastener(name="bolt", torque_nm=50)
    assert Fastener(name="bolt").torque_nm is None


def test_stations_are_named_once_and_the_lamp_is_one_of_them() -> None:
    data = van().model_dump()
    with pytest.raises(ValidationError, match="two stations have the same name"):
        Vehicle.model_validate(data | {"stations": [*data["stations"], data["stations"][0]]})
    with pytest.raises(ValidationError, match="“eyes” is not among the stations"):
        Vehicle.model_validate(data | {"headlamp": "eyes"})


def test_a_reading_is_there_once() -> None:
    reading = {"axle": "front", "side": "left", "quantity": "hub_to_arch", "reading": "387"}
    with pytest.raises(ValidationError, match="corner reading front left hub_to_arch is there twice"):
        Measurements.model_validate({"corners": [reading, reading]})
    station = {"station": "sill", "side": "left", "reading": "230"}
    with pytest.raises(ValidationError, match="station reading sill left is there twice"):
        Measurements.model_validate({"stations": [station, station]})


@pytest.mark.parametrize("job_id", ["", "a b", "../etc", "x" * 65, "naïve"])
def test_ids_are_such_as_an_address_can_carry(in_hand: Job, job_id: str) -> None:
    with pytest.raises(ValidationError):
        Job.model_validate(in_hand.model_dump() | {"id": job_id})


def test_moments_have_a_zone_and_are_kept_in_utc() -> None:
    moment = TypeAdapter(Moment)
    assert moment.validate_python("2026-05-01T10:00:00+02:00") == datetime(2026, 5, 1, 8, tzinfo=UTC)
    with pytest.raises(ValidationError):
        moment.validate_python("2026-05-01T10:00:00")


def test_free_tables_are_kept_in_order_so_that_a_file_is_always_written_the_same() -> None:
    axle = van().front
    shuffled = axle.model_dump() | {"fasteners": dict(reversed(axle.model_dump()["fasteners"].items()))}
    assert Axle.model_validate(shuffled).model_dump_json() == axle.model_dump_json()


def test_documents_cannot_be_altered() -> None:
    with pytest.raises(ValidationError, match="frozen"):
        plain_coil(van(), "front").rate_n_per_mm = 5  # type: ignore[misc]


def test_a_coil_shorter_than_solid_names_both_lengths() -> None:
    with pytest.raises(ValidationError, match=r"longer solid \(200 mm\) than free \(180 mm\)"):
        Coil(rate_n_per_mm=30, free_length_mm=180, solid_length_mm=200)


@pytest.mark.parametrize("quantity", POSSIBLE)
def test_every_reading_has_bounds_and_a_sentence_beyond_them(quantity: str) -> None:
    low, high = POSSIBLE[quantity]
    assert refusal(quantity, low) is None
    assert refusal(quantity, high) is None
    for value in (low - 1, high + 1):
        assert "Is the unit right?" in (refusal(quantity, value) or "")


def test_the_tape_replaces_what_was_assumed(in_hand: Job) -> None:
    measured = as_measured(in_hand.vehicle, in_hand.measure)
    assert measured.front.tyre_radius_mm == 311.5
    assert measured.rear.tyre_radius_mm == 312
    # Rod 109.5 with 12 hidden when closed: 97.5 mm of stroke are left; the gap is 50.5 of them.
    assert measured.front.bump_stop.contact_mm is not None
    stroke = measured.front.bump_stop.contact_mm - measured.front.damper.closed_mm
    assert stroke == pytest.approx(109.5 - 12 - 50.5)
    untouched = as_measured(in_hand.vehicle, Measurements())
    assert untouched == in_hand.vehicle


def test_documents_are_one_key_where_they_say_the_same_and_two_where_they_do_not() -> None:
    came = demo_jobs()[-1]
    again = Job.model_validate(came.model_dump())
    other = came.vehicle.model_copy(update={"wheelbase_mm": came.vehicle.wheelbase_mm + 1})
    assert Content(came.vehicle, came.measure) == Content(again.vehicle, again.measure)
    assert len({Content(came.vehicle, came.measure), Content(again.vehicle, again.measure)}) == 1
    assert Content(came.vehicle, came.measure) != Content(other, came.measure)
    assert stand_measured(came) is stand_measured(again)
    assert stand_measured(came) is not stand_measured(came.model_copy(update={"vehicle": other}))


def test_a_copy_keeps_what_was_given_and_forgets_what_was_worked_out() -> None:
    fork = demo_bike_jobs()[-1].vehicle.fork
    room = fork.most_raise
    tight = fork.model_copy(update={"raise_most_mm": room - 1.5})
    assert tight.most_raise == room - 1.5
    assert tight.model_fields_set == fork.model_fields_set | {"raise_most_mm"}
    assert tight == Fork.model_validate(fork.model_dump() | {"raise_most_mm": room - 1.5}) != fork
    deep = fork.model_copy(deep=True)
    assert deep == fork
    assert deep.springs is not fork.springs

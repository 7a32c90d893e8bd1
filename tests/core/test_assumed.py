"""What nobody measured is told as assumed: it stops no plan alone, and an axle as it is set up is free of stops."""

from typing import Any

import pytest

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.prediction import predict_bike
from inclinum.core.car.archetypes import ARCHETYPES, SIZES, vehicle_of
from inclinum.core.car.archetypes.respring import kinds_for, respring
from inclinum.core.car.changes import BumpStopSwap, SpringSwap
from inclinum.core.car.job import Job, Measurements
from inclinum.core.car.limits import Finding
from inclinum.core.car.prediction import predict
from inclinum.core.document.known import Known
from inclinum.core.document.names import AXLES, SIDES, AxleName
from inclinum.core.springs.fitted import Coil
from tests.core.test_bike import job_on
from tests.core.test_prediction import with_changes
from tests.core.test_whole import bare_job

FITS: list[tuple[str, str, AxleName]] = [
    (s, k, end) for s in SIZES for k, a in ARCHETYPES.items() if s not in a.not_for for end in a.where
]


@pytest.mark.parametrize("size", list(SIZES))
def test_every_axle_as_it_is_set_up_and_on_every_spring_stands_free(size: str) -> None:
    for _, key, end in (f for f in FITS if f[0] == size):
        front, rear = (key if end == e else _other(e, size) for e in AXLES)
        vehicle = vehicle_of(front, rear, size, "x")
        for kind in kinds_for(vehicle.axle(end)):
            answer = predict(bare_job(vehicle.model_copy(update={end: respring(vehicle.axle(end), kind)})))
            close = [(f.id, f.value) for f in answer.findings if f.severity != "know"]
            assert not close, f"{key} {end} on {kind}"
            assert answer.axle(end).rise == pytest.approx(0, abs=1e-3)


def _other(end: AxleName, size: str) -> str:
    return next(k for s, k, e in FITS if (s, e) == (size, end))


def read(job: Job, quantity: str, end: AxleName, value: float) -> Job:
    corners = [*job.measure.model_dump()["corners"],
               *({"axle": end, "side": s, "quantity": quantity, "reading": f"{value:g}"} for s in SIDES)]  # fmt: skip
    data = job.measure.model_dump() | {"corners": corners}
    return job.model_copy(update={"measure": Measurements.model_validate(data)})


def found(job: Job, key: str) -> Finding | None:
    return next((f for f in predict(job).findings if f.id == key), None)


def test_a_stop_that_was_never_measured_does_not_stop_and_the_reading_settles_it() -> None:
    vehicle = vehicle_of("strut_front", "five_link", "car", "x")
    # It came 60 mm lower than a car of its kind stands: by the archetype's stop it would sit on it.
    low = read(bare_job(vehicle), "hub_to_arch", "front", vehicle.front.hub_to_arch_mm - 60)
    guessed = found(low, "bump_gap.front")
    assert guessed is not None
    assert guessed.value < 0
    assert guessed.severity == "fix"
    assert guessed.settled_by == ("the bump-stop gap",)
    assert "not measured: the bump-stop gap" in guessed.why
    assert guessed.source.startswith("assumed")
    assert not predict(low).stopped
    # The gap is there: nothing to say. There is none: now it is known, and it stops.
    assert found(read(low, "bump_stop_gap", "front", 45), "bump_gap.front") is None
    none = found(read(low, "bump_stop_gap", "front", 1), "bump_gap.front")
    assert none is not None
    assert none.settled_by == ()
    assert none.severity == "fix", "a millimetre of gap is close, not on it"
    typed = vehicle.with_axle("front", known={"bump_stop": Known(source="measured", tolerance_mm=2)})
    sure = found(low.model_copy(update={"vehicle": typed}), "bump_gap.front")
    assert sure is not None
    assert sure.severity == "stops"
    by_hand = found(low.model_copy(update={"vehicle": vehicle.with_axle("front", archetype="")}), "bump_gap.front")
    assert by_hand is not None
    assert by_hand.severity == "stops", "a document without an archetype was written by somebody"


def test_coils_of_a_spring_the_plan_brings_are_its_own() -> None:
    vehicle = vehicle_of("strut_front", "five_link", "car", "x")
    job = read(bare_job(vehicle), "bump_stop_gap", "front", 55)
    fitted = vehicle.front.coil
    assert fitted is not None
    long = fitted.model_copy(update={"solid_length_mm": fitted.free_length_mm - 60, "part": "N1"})
    answer = found(with_changes(job, SpringSwap(axle="front", coil=long)), "coil_bind.front")
    assert answer is not None
    assert answer.severity == "stops", "its solid length was given"
    high = BumpStopSwap(axle="front", height_mm=20)
    same = fitted.model_copy(update={"free_length_mm": fitted.free_length_mm + 1})
    lower = with_changes(job, SpringSwap(axle="front", coil=same), high)
    copied = found(lower, "coil_bind.front")
    assert copied is None or copied.settled_by == ("the solid length of the springs",)


def test_a_coil_without_a_stamp_is_told_by_its_wire() -> None:
    wire = {"wire_mm": 12, "outside_mm": 112, "active_coils": 6, "total_coils": 7.5}
    coil = Coil.model_validate({"free_length_mm": 320, "wire": wire})
    # G·d⁴/(8·D³·n) with G = 79 300 N/mm², D = 100 mm: 79300·20736/(8e6·6) = 34.26; 7.5 coils of 12 mm: 90 mm.
    assert coil.rate_n_per_mm == pytest.approx(34.26, abs=0.02)
    assert coil.solid_length_mm == pytest.approx(90, abs=0.1)
    assert coil.active_coils == 6
    stamped: dict[str, Any] = {"free_length_mm": 320, "rate_n_per_mm": 52, "solid_length_mm": 90, "wire": wire}
    with pytest.raises(ValueError, match=r"its wire and coils give 34\.\d N/mm, it is told as 52: which spring is it"):
        Coil.model_validate(stamped)


def test_a_two_wheeler_as_set_up_does_not_speak_for_makers() -> None:
    """Its archetype's allowed preload is a guess: told as one until somebody typed it."""
    bike = BIKES["linkage_frame"].bike("x")
    assert bike.spring.max_preload_mm is not None
    over = {"type": "rear_preload", "preload_mm": bike.spring.max_preload_mm + 6}
    answer = next(f for f in predict_bike(job_on(bike, [over])).findings if "More rear preload" in f.what)
    assert answer.severity == "fix"
    assert answer.source.startswith("assumed")
    assert "the preload the spring's maker allows" in answer.why
    spring = bike.spring.model_copy(update={"max_preload_mm": bike.spring.max_preload_mm + 2})
    typed = bike.model_copy(update={"spring": spring})
    sure = next(f for f in predict_bike(job_on(typed, [over])).findings if "More rear preload" in f.what)
    assert sure.severity == "stops"
    assert sure.source == "the spring's maker"


def test_nothing_found_is_not_all_well_where_nothing_was_measured() -> None:
    job = bare_job(vehicle_of("strut_front", "five_link", "car", "x"))
    answer = predict(job)
    assert not answer.findings
    front = "the solid length of the springs, the bump-stop gap, the exposed damper rod, the damper's length, fully out"
    assert answer.unmeasured == [f"Front: {front}.", f"Rear: {front}."]
    # A reading takes its own part off the list of its own axle, and no other.
    less = predict(read(job, "bump_stop_gap", "rear", 40)).unmeasured
    assert less == [f"Front: {front}.", f"Rear: {front.replace('the bump-stop gap, ', '')}."]
    typed = job.vehicle.with_axle("front", archetype="").with_axle("rear", archetype="")
    assert predict(job.model_copy(update={"vehicle": typed})).unmeasured == []


def test_a_two_wheeler_says_what_nobody_gave_of_what_it_has() -> None:
    bike = BIKES["cantilever"].bike("x")
    said = predict_bike(job_on(bike)).unmeasured[0]
    assert said.startswith("The rear spring's stroke until its coils touch;")
    assert "clevis" not in said, "it has none"
    stroke = bike.spring.model_copy(update={"stroke_mm": bike.spring.stroke_mm + 3})
    assert "coils touch" not in predict_bike(job_on(bike.model_copy(update={"spring": stroke}))).unmeasured[0]
    assert predict_bike(job_on(bike.model_copy(update={"archetype": ""}))).unmeasured == []

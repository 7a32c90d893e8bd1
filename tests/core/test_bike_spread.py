"""± of a two-wheeler: each input by itself, held against the machine predicted with that input off by a little."""

import math
from collections.abc import Callable
from typing import Any

import pytest

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.changes.rear_link import holes
from inclinum.core.bike.height_spread import COLLAR_MM, MASS_SHARE, PRESSURE_SHARE
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.prediction import BikePrediction, predict_bike
from inclinum.core.bike.proof import prove_bike
from inclinum.core.document.errors import DomainError
from inclinum.core.document.known import CALLIPER_MM, RATE_PERCENT
from tests.core.test_bike import job_on
from tests.core.test_bike_by_hand import machine
from tests.core.test_bike_limits import deep

NO_AIM: dict[str, Any] = {"rear_drop": None, "front_drop": None}
BOTH: dict[str, Any] = {"rear_drop": "10", "front_drop": "0"}


def alone(answer: BikePrediction, end: str, label: str) -> float:
    """What one input spreads by; 0 where it is not listed."""
    return next((i.plus_minus for i in answer.spread[end].inputs if i.label.startswith(label)), 0.0)  # type: ignore[index]


def sag_or_drop(job: BikeJob, end: str) -> float:
    """What the inputs of that end are told of: nothing here moves the front, so its sag."""
    answer = predict_bike(job)
    if end == "front":
        return answer.planned.laden.front_sag_mm
    return answer.planned.laden.rear_sag_mm if job.brief.rear_drop is None else answer.rear_drop_mm


Off = Callable[[BikeJob], BikeJob]
SMALL = 1e-4


def figure(path: str, *, share: float = 0.0, by: float = 0.0) -> Off:
    """The machine with one of its figures off."""

    def off(job: BikeJob) -> BikeJob:
        value: Any = job.vehicle
        for key in path.split("."):
            value = getattr(value, key)
        return job.model_copy(update={"vehicle": deep(job.vehicle, path, value * (1 + share) + by)})

    return off


def zero(job: BikeJob) -> BikeJob:
    """The collar's zero off: whatever is counted from it is off by the same."""
    data = job.model_dump()
    data["vehicle"]["preload_mm"] += SMALL
    for planned in data["plan"]["changes"]:
        if planned["change"]["type"] == "rear_preload":
            planned["change"]["preload_mm"] += SMALL
    return BikeJob.model_validate(data)


def heavier(job: BikeJob) -> BikeJob:
    data = job.model_dump()
    data["brief"]["rides"] = [r | {"mass": f"{r['mass']['value'] * (1 + SMALL):.9f}"} for r in data["brief"]["rides"]]
    return BikeJob.model_validate(data)


RATE = RATE_PERCENT / 100 / SMALL
OFF: list[tuple[str, str, Off, float]] = [
    # End, input, the machine off by a little, and how many times that its ± is.
    ("rear", "rate of the fitted rear spring", figure("spring.rate_n_per_mm", share=SMALL), RATE),
    ("rear", "rear preload as it came", zero, COLLAR_MM / SMALL),
    ("rear", "weight of rider", heavier, MASS_SHARE / SMALL),
    ("rear", "what the rear carries", figure("sprung_rear_kg", share=SMALL), MASS_SHARE / SMALL),
    ("front", "weight of rider", heavier, MASS_SHARE / SMALL),
    ("front", "what the front carries", figure("sprung_front_kg", share=SMALL), MASS_SHARE / SMALL),
]
ON_COILS: list[tuple[str, str, Off, float]] = [
    ("front", "fork preload as it came", figure("fork.springs.spacer_mm", by=SMALL), COLLAR_MM / SMALL),
    ("front", "rate of the fitted fork springs", figure("fork.springs.left.rate_n_per_mm", share=SMALL), RATE),
]
ON_AIR: list[tuple[str, str, Off, float]] = [
    ("front", "fork pressure as it came", figure("fork.springs.gauge_n_per_mm2", share=SMALL), PRESSURE_SHARE / SMALL),
]
PLANS: dict[str, tuple[dict[str, Any], list[dict[str, Any]]]] = {
    "as it came": (NO_AIM, []),
    "collar set": (BOTH, [{"type": "rear_preload", "preload_mm": 3}]),
}


def bikes() -> dict[str, Bike]:
    """With forks on coils, with air over their oil, and on air alone; springs of one rate."""
    found = {k: BIKES[k].bike("x") for k in ("linkage_frame", "shaft_tourer", "twin_dampers", "downhill", "mountain")}
    return {k: b if b.fork.springs.type == "air" else deep(b, "fork.springs.left.soft_closes_mm", 0.0)
            for k, b in found.items()}  # fmt: skip


@pytest.mark.parametrize("key", list(bikes()))
@pytest.mark.parametrize("plan", list(PLANS))
def test_each_input_spreads_as_the_machine_moves_with_it(key: str, plan: str) -> None:
    brief, changes = PLANS[plan]
    job = job_on(bikes()[key], changes, **brief)
    answer, met = predict_bike(job), 0
    for end, label, off, scale in [*OFF, *(ON_AIR if job.vehicle.fork.springs.type == "air" else ON_COILS)]:
        moved = abs(sag_or_drop(off(job), end) - sag_or_drop(job, end)) * scale
        assert alone(answer, end, label) == pytest.approx(moved, rel=0.02, abs=0.02), (end, label)
        met += moved > 0.02
    assert met >= 3


def test_what_is_typed_after_plus_minus_counts() -> None:
    """A rider weighed to ±1 kg on a constant ratio; ± of the seat's own reading is ± of the planned seat."""
    bike = machine()

    def told(mass: str) -> float:
        job = job_on(bike, rides=[{"name": "r", "mass": mass, "x_mm": 0}], rear_drop=None)
        return alone(predict_bike(job), "rear", "weight of r")

    # 9.80665 N over a wheel rate of 14.95 N/mm.
    assert told("40 ± 1") == pytest.approx(9.80665 / 14.95, rel=0.01)
    assert told("40") == pytest.approx(0.03 * 40 * 9.80665 / 14.95, rel=0.01)
    job = job_on(bike, rides=[])
    for typed, known in (("800 ± 6", 6.0), ("800", CALLIPER_MM)):
        read = job.model_copy(update={"measure": type(job.measure).model_validate({"seat": typed})})
        assert predict_bike(read).seat_plus_minus_mm == pytest.approx(known)


def test_a_rider_who_is_badly_known_spreads_nothing_of_the_machine_alone() -> None:
    def told(mass: str) -> BikePrediction:
        return predict_bike(job_on(machine(), rides=[{"name": "r", "mass": mass, "x_mm": 500}], rear_drop=None))

    sure, unsure = told("40 ± 0"), told("40 ± 9")
    assert unsure.seat_plus_minus_mm == sure.seat_plus_minus_mm, "told unladen"
    for end in ("front", "rear"):
        assert unsure.spread[end].unladen == sure.spread[end].unladen
        assert unsure.spread[end].laden > sure.spread[end].laden


def test_a_ratio_that_is_off_by_hand() -> None:
    """On k = 60, P = 10, MR = 0.4997 and F = 1199 N: s = F/(k·MR²) − P/MR, so ds/dlnMR = −2F/(k·MR²) + P/MR."""
    answer = predict_bike(job_on(machine(), rides=[], rear_drop=None))
    load, ratio = 60.0 * 39.996 * 0.499713, 0.499713
    slope = -2 * load / (60.0 * ratio**2) + 10 / ratio
    assert alone(answer, "rear", "installation ratio") == pytest.approx(
        abs(slope) * answer.fit.ratio_percent / 100, rel=0.02
    )


def test_a_ratio_that_is_off_moves_where_the_axle_hangs_too() -> None:
    """A damper 8 mm shorter, and the same on a machine whose damper has a thousandth more lever."""
    job = job_on(machine(), [{"type": "rear_damper", "extended_mm": 292, "stroke_mm": 72}], rides=[], rear_drop="10")
    answer = predict_bike(job)
    back = deep(deep(job.vehicle, "rear.damper_arm", (299.7, 300)), "rear.damper_frame", (299.7, 600))
    moved = predict_bike(job.model_copy(update={"vehicle": back})).rear_drop_mm - answer.rear_drop_mm
    assert abs(moved) > 1e-3
    share = answer.fit.ratio_percent / 100
    assert alone(answer, "rear", "installation ratio") == pytest.approx(abs(moved) * share / 1e-3, rel=0.05)


def test_a_rod_read_by_calliper_before_and_after() -> None:
    """√2 · 0.2 mm of rod by its drop per millimetre, at the damper length it has: the load adds some 3 % to that."""
    bike = BIKES["linkage_frame"].bike("x")
    hole, rod = holes(bike.rear)

    def longer(by: float) -> BikePrediction:
        return predict_bike(job_on(bike, [{"type": "rear_link", "hole_mm": hole, "rod_mm": rod + by}], **BOTH))

    slope = (longer(4.05).rear_drop_mm - longer(3.95).rear_drop_mm) / 0.1
    assert alone(longer(4.0), "rear", "holes and rods") == pytest.approx(math.sqrt(2) * 0.2 * slope, rel=0.05)


def test_a_sag_that_was_read_before_takes_what_both_machines_share() -> None:
    """Read at 58 where the model says 60: the rest is 2 mm of miss and two readings of ±1; the change adds its own."""
    bike = machine()
    sags = [
        {"end": "rear", "state": "extended", "reading": "500 ± 1"},
        {"end": "rear", "state": "unladen", "reading": "442 ± 1"},
    ]
    plain = job_on(bike, rides=[])
    read = plain.model_copy(update={"measure": type(plain.measure).model_validate({"sags": sags})})
    assert predict_bike(plain).spread["rear"].unladen > 5
    assert predict_bike(read).spread["rear"].unladen == pytest.approx(math.sqrt(2**2 + 1 + 1), abs=0.02)
    # After the job it is judged by that, the readings after and what settling leaves (√7).
    after = {"after": {"sags": [s | {"reading": r} for s, r in zip(sags, ("500 ± 1", "441.5 ± 1"), strict=True)]}}
    proof = prove_bike(read.model_copy(update={"prove": type(read.prove).model_validate(after)}))
    assert proof.sags[0].plus_minus == pytest.approx(math.sqrt(7 + 2 + 6), abs=0.02)


def said(axle: str, by: float) -> dict[str, Any]:
    return {"type": "bike_stated", "axle": axle, "what": "Plate", "rise_mm": 5, "tolerance_mm": by}


RAKE = math.cos(math.radians(BIKES["linkage_frame"].bike("x").rake_deg))


@pytest.mark.parametrize(
    ("change", "end", "label", "by"),
    [
        # A unit made to ±0.5 mm, on a damper that stands at half the arm with the wheel hanging.
        ({"type": "rear_damper", "extended_mm": 297, "stroke_mm": 80}, "rear", "length of the new damper", 0.5 / 0.5),
        ({"type": "rear_preload", "preload_mm": 14}, "rear", "rear preload as it is set", 2.0),
        ({"type": "fork_travel", "shorter_mm": 12}, "front", "spacers inside the fork", 0.5),
        ({"type": "fork_raise", "raised_mm": 6}, "front", "tubes above the clamp", CALLIPER_MM),
        ({"type": "tyres", "front_radius_mm": 333, "rear_radius_mm": 305}, "front", "radius of the new front", 2.0),
        ({"type": "tyres", "front_radius_mm": 333, "rear_radius_mm": 305}, "rear", "radius of the new rear", 2.0),
        (said("front", 4), "front", "what is stated", 4.0),
        (said("rear", 3), "rear", "what is stated", 3.0),
    ],
)  # fmt: skip
def test_what_is_changed_brings_its_own(change: dict[str, Any], end: str, label: str, by: float) -> None:
    """Along the fork times cos(rake) where it is the fork's; the rear by the machine that is worked out by hand."""
    bike = machine() if end == "rear" else BIKES["linkage_frame"].bike("x")
    answer = predict_bike(job_on(bike, [change], **BOTH))
    along = RAKE if change["type"].startswith("fork") else 1.0
    assert alone(answer, end, label) == pytest.approx(by * along, rel=0.02)
    other = "front" if end == "rear" else "rear"
    assert alone(answer, other, label) == 0


def test_a_seat_moves_with_both_ends() -> None:
    """Stated ±4 at the front and ±3 at the rear, the seat at 30 % of the wheelbase, read to ±0: hypot(1.2, 2.1)."""
    bike = machine(seat={"x_mm": 420, "height_mm": 850, "width_mm": 200})
    plan = [said("front", 4), said("rear", 3)]
    job = job_on(bike, plan, rides=[])
    read = job.model_copy(update={"measure": type(job.measure).model_validate({"seat": "850 ± 0"})})
    assert predict_bike(read).seat_plus_minus_mm == pytest.approx(math.hypot(1.2, 2.1))


def test_a_mark_of_the_front_is_spread_by_the_front() -> None:
    """Tubes raised: a millimetre of calliper along the tube, and nothing of the rear."""
    bike = BIKES["linkage_frame"].bike("x")
    answer = predict_bike(job_on(bike, [{"type": "fork_raise", "raised_mm": bike.fork.raised_mm + 8}], **BOTH))
    assert answer.spread["front"].drop == pytest.approx(CALLIPER_MM * math.cos(math.radians(bike.rake_deg)), rel=1e-6)
    assert answer.spread["rear"].drop == 0


def test_points_of_which_it_is_said_how_well_they_are_known_tell_the_ratio_so() -> None:
    """All known four times as well, the ratio is; one that is no point of the rear end is refused by its name."""
    came = BIKES["linkage_frame"].bike("x")
    names = [n for n in came.rear.arrays() if n != "axle"]
    known = {n: {"source": "measured", "tolerance_mm": 4.0} for n in names}
    sure = Bike.model_validate(came.model_dump() | {"known": known})
    plain, told = (predict_bike(job_on(b)).fit for b in (came, sure))
    assert told.ratio_percent == pytest.approx(plain.ratio_percent / 4, rel=0.01)
    assert {p.plus_minus for p in told.points if not p.fixed} == {4.0}
    wrong = Bike.model_validate(came.model_dump() | {"known": {"exhaust": {"source": "measured", "tolerance_mm": 1}}})
    with pytest.raises(DomainError, match="“exhaust”"):
        predict_bike(job_on(wrong))

"""A ± that somebody typed changes an answer, whatever it was typed with."""

import json
import math
from collections.abc import Iterator
from typing import Any

import pytest

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.prediction import predict_bike
from inclinum.core.bike.proof import prove_bike
from inclinum.core.car.job import Job
from inclinum.core.car.measured import refusal
from inclinum.core.car.prediction import predict
from inclinum.core.car.proof import AngleProof, Proof, prove
from inclinum.core.document.known import ASSUMED_RADIUS_MM, RACK_DEG, TAPE_MM
from inclinum.core.document.names import AXLES, SIDES
from inclinum.demo import demo_bike_jobs
from tests.core.test_bike import job_on as bike_job_on

CORNER = {"hub_to_arch": "390", "tyre_radius": "332", "bump_stop_gap": "44", "exposed_rod": "80", "tyre_to_arch": "60"}


def _full(job: Job) -> dict[str, Any]:
    """Everything that can be read, before and after; without scales, which tell the load in place of the springs."""
    data = job.model_dump(mode="json")
    where = [(axle, side) for axle in AXLES for side in SIDES]
    angles = [
        {"axle": a, "side": s, "angle": angle, "reading": "0.2"} for a, s in where for angle in ("camber", "toe")
    ] + [{"axle": "front", "side": s, "angle": "caster", "reading": "4"} for s in SIDES]
    corners = [{"axle": a, "side": s, "quantity": q, "reading": v} for a, s in where for q, v in CORNER.items()]
    stations = [{"station": s["name"], "side": "left", "reading": "300"} for s in data["vehicle"]["stations"]]
    data["measure"] = {"corners": corners, "stations": stations, "angles": angles}
    hubs = [c for c in corners if c["quantity"] == "hub_to_arch"]
    data["prove"] = {"after": {"corners": hubs, "stations": stations, "angles": angles}}
    return data


def _entries(node: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    if isinstance(node, dict):
        if {"text", "tolerance", "unit"} <= node.keys():
            yield path
        for key, value in node.items():
            yield from _entries(value, (*path, key))
    elif isinstance(node, list):
        for n, value in enumerate(node):
            yield from _entries(value, (*path, n))


def _at(data: Any, path: tuple[Any, ...]) -> Any:
    for key in path:
        data = data[key]
    return data


def _typed(data: dict[str, Any], path: tuple[Any, ...], text: str) -> dict[str, Any]:
    other = json.loads(json.dumps(data))
    _at(other, path[:-1])[path[-1]] = {"text": text, "unit": _at(data, path)["unit"]}
    return other


def _unheard(data: dict[str, Any], answer: Any, stages: tuple[str, ...]) -> list[str]:
    """Entries of some stages whose ± changes nothing of the answer."""
    came = answer(data)
    return [
        ".".join(map(str, path))
        for path in _entries(data)
        if path[0] in stages and not (known := _at(data, path))["tolerance"]
        and answer(_typed(data, path, known["text"] + " ± 2.7")) == came
    ]  # fmt: skip


def test_each_that_was_typed_on_a_car_is_heard(in_hand: Job) -> None:
    def answer(data: dict[str, Any]) -> str:
        job = Job.model_validate(data)
        return predict(job).model_dump_json() + prove(job).model_dump_json()

    data = Job.model_validate(_full(in_hand)).model_dump(mode="json")
    quiet = _unheard(data, answer, ("brief", "measure", "prove"))
    assert quiet == []


@pytest.mark.parametrize("n", range(len(demo_bike_jobs())))
def test_each_that_was_typed_on_a_two_wheeler_is_heard(n: int) -> None:
    def answer(data: dict[str, Any]) -> str:
        job = BikeJob.model_validate(data)
        return predict_bike(job).model_dump_json() + prove_bike(job).model_dump_json()

    data = demo_bike_jobs()[n].model_dump(mode="json")
    data["measure"]["seat"] = {"text": "812", "unit": "mm", "value": 812.0, "tolerance": None}
    # A sag read worse than the machine's own numbers tell it leaves the prediction to them: not here.
    quiet = [e for e in _unheard(data, answer, ("brief", "measure", "prove")) if not e.startswith("measure.sags")]
    assert quiet == []


def test_a_planned_angle_is_as_good_as_the_rack(in_hand: Job) -> None:
    """Both wheels read to ±0.3 and ±0.4: the mean to 0.25; unread, what the hardpoints do over the rise alone."""

    def read(left: str, right: str) -> Job:
        angles = [{"axle": "front", "side": s, "angle": "camber", "reading": r}
                  for s, r in zip(SIDES, (left, right), strict=True)]  # fmt: skip
        data = in_hand.model_dump()
        return Job.model_validate(data | {"measure": data["measure"] | {"angles": angles}})

    bare = in_hand.model_copy(update={"measure": in_hand.measure.model_copy(update={"angles": ()})})
    hardpoints = predict(bare).front.angle_plus_minus.camber_deg
    assert hardpoints > 0
    for job, rack in ((read("-1 ± 0.3", "-1 ± 0.4"), 0.25), (read("-1", "-1"), RACK_DEG / math.sqrt(2))):
        found = predict(job).front.angle_plus_minus
        assert found.camber_deg == pytest.approx(math.hypot(hardpoints, rack))
        assert found.caster_deg is None


def test_the_travel_left_is_as_good_as_what_was_read_and_the_height(in_hand: Job) -> None:
    """Gaps read to ±3 and ±4 make 2.5 mm of damper, over its ratio of wheel; the rod likewise."""
    data = in_hand.model_dump()
    corners = [c for c in data["measure"]["corners"] if c["quantity"] in ("hub_to_arch", "tyre_radius")]
    for quantity, value in (("bump_stop_gap", 40), ("exposed_rod", 75)):
        corners += [
            {"axle": "front", "side": s, "quantity": quantity, "reading": f"{value} ± {by}"}
            for s, by in zip(SIDES, (3, 4), strict=True)
        ]
    job = Job.model_validate(data | {"measure": data["measure"] | {"corners": corners}})
    front, rear = predict(job).front, predict(job).rear
    assert in_hand.vehicle.front.bump_stop.on_damper
    # A strut shortens by next to all that the wheel rises.
    for found in (front.travel_after.gap_plus_minus, front.travel_after.closed_plus_minus):
        assert found == pytest.approx(math.hypot(2.5, front.plus_minus), rel=0.02)
        assert front.travel_before.gap_plus_minus == pytest.approx(2.5, rel=0.1)
    assert rear.travel_after.gap_plus_minus is rear.travel_after.closed_plus_minus is None


def test_an_arch_over_the_ground_is_as_good_as_the_tyre_is_known(in_hand: Job) -> None:
    data = in_hand.model_dump()
    hubs = [c for c in data["measure"]["corners"] if c["quantity"] == "hub_to_arch"]
    tyres = [{"axle": "front", "side": s, "quantity": "tyre_radius", "reading": "330 ± 3"} for s in SIDES]
    gap = {"axle": "front", "side": "left", "quantity": "tyre_to_arch", "reading": "61 ± 4"}
    job = Job.model_validate(data | {"measure": data["measure"] | {"corners": [*hubs, *tyres, gap]}})
    answer = predict(job)
    rows = {(h.axle, h.side, h.kind): h for h in answer.heights}
    for axle, tyre in (("front", 3 / math.sqrt(2)), ("rear", ASSUMED_RADIUS_MM)):
        hub, ground = (rows[axle, "left", kind] for kind in ("hub_to_arch", "arch_to_ground"))
        assert ground.plus_minus == pytest.approx(math.hypot(hub.plus_minus, tyre))
        assert (hub.measured, ground.measured) == (True, axle == "front")
    between = rows["front", "left", "tyre_to_arch"]
    assert between.after - between.before == pytest.approx(rows["front", "left", "hub_to_arch"].change)
    assert between.plus_minus == pytest.approx(math.hypot(answer.front.plus_minus, 4))
    assert ("front", "right", "tyre_to_arch") not in rows


@pytest.mark.parametrize(
    ("read", "within", "clear"),
    [("+0.00", True, True), ("+0.00 ± 0.9", True, False), ("over", False, True), ("over ± 0.5", False, False)],
)
def test_an_angle_is_judged_by_its_number_and_says_where_its_tolerance_leaves_it_open(
    in_hand: Job, read: str, within: bool, clear: bool
) -> None:
    target = in_hand.vehicle.front.targets["camber"]
    angle = target.target_deg + (0.0 if read.startswith("+") else target.window_deg + 0.1)
    typed = f"{angle:.6f}" + read[read.find(" ") :] if " " in read else f"{angle:.6f}"
    reading = {"axle": "front", "side": "left", "angle": "camber", "reading": typed}
    data = in_hand.model_dump()
    job = Job.model_validate(data | {"prove": {"after": {"angles": [reading]}}})
    found: AngleProof = prove(job).angles[0]
    assert (found.within, found.clear) == (within, clear)


def test_what_was_not_read_is_not_as_predicted(in_hand: Job) -> None:
    """One corner, or the rack alone, proves no more than itself; all four do, and one that is off tells either way."""
    rows = [h for h in predict(in_hand).heights if h.kind == "hub_to_arch"]
    corners = [{"axle": h.axle, "side": h.side, "quantity": "hub_to_arch", "reading": f"{h.after:.1f}"} for h in rows]
    target = in_hand.vehicle.front.targets["camber"]
    camber = [{"axle": "front", "side": "left", "angle": "camber", "reading": f"{target.target_deg:.2f}"}]

    def proved(**after: Any) -> Proof:
        return prove(Job.model_validate(in_hand.model_dump() | {"prove": {"after": after}}))

    assert (proved().verdict, len(proved().unread)) == ("nothing measured", 4)
    one = proved(corners=corners[:1])
    assert one.verdict == "in part"
    assert one.unread == ["hub to arch, front right", "hub to arch, rear left", "hub to arch, rear right"]
    assert (proved(angles=camber).verdict, len(proved(angles=camber).unread)) == ("in part", 4)
    assert (proved(corners=corners).verdict, proved(corners=corners).unread) == ("within", [])
    off = corners[0] | {"reading": f"{rows[0].after + 40:.1f}"}
    assert proved(corners=[off]).verdict == "outside"


def test_an_end_of_a_two_wheeler_that_was_worked_on_and_not_read_is_told() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    preload = {"type": "rear_preload", "preload_mm": bike.preload_mm}
    raised = {"type": "fork_raise", "raised_mm": 4}

    def proved(plan: list[dict[str, Any]], *ends: str) -> tuple[str, list[str]]:
        job = bike_job_on(bike, plan)
        laden = predict_bike(job).planned.laden
        depth = {"rear": laden.rear_sag_mm, "front": laden.front_sag_mm}
        sags = [
            {"end": e, "state": s, "reading": f"{600 - (depth[e] if s == 'laden' else 0):.1f}"}
            for e in ends for s in ("extended", "laden")
        ]  # fmt: skip
        found = prove_bike(BikeJob.model_validate(job.model_dump() | {"prove": {"after": {"sags": sags}}}))
        return found.verdict, found.unread

    assert proved([preload, raised], "rear") == ("in part", ["fork sag, rider on"])
    assert proved([preload, raised], "front") == ("in part", ["rear sag, rider on"])
    assert proved([preload, raised], "rear", "front") == ("within", [])
    assert proved([preload], "rear") == ("within", [])


def test_a_torque_has_no_tolerance() -> None:
    assert "leave the ± out" in (refusal("torque", 66.0, 2.0) or "")
    assert refusal("torque", 66.0) is None
    assert refusal("hub_to_arch", 390.0, TAPE_MM) is None

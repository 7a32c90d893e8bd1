"""Settings side by side: damper holes and pairs of teeth, each by what the whole product says when it is set so."""

import math
from typing import Any

import numpy as np
import pytest

from inclinum.core.car.archetypes import ARCHETYPES
from inclinum.core.car.changes import DamperHoles, Stated, TorsionReindex
from inclinum.core.car.changes.damper_holes import Hole
from inclinum.core.car.job import Job
from inclinum.core.car.prediction import assess, predict
from inclinum.core.car.setting_table import SettingTable
from inclinum.core.car.vehicle import VehicleStation
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.quantity import Length
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import AT, job_on

HOLES = (Hole(name="one up", up_mm=25), Hole(name="two up", up_mm=50), Hole(name="three up", up_mm=75))


def figure(cell: str) -> float:
    return float(cell.replace("−", "-"))


def table(job: Job) -> SettingTable:
    return predict(job).settings["c0"]


def wanting(job: Job, end: AxleName, rise: float) -> Job:
    aim = job.brief.aim(end).model_copy(update={"rise": Length.model_validate(f"{rise:g}")})
    return job.model_copy(update={"brief": job.brief.model_copy(update={end: aim})})


def test_a_mount_up_at_the_axle_shortens_the_damper_by_what_its_lean_leaves() -> None:
    """Damper points written down: with the lower one up by 25 the damper is as much shorter as their distance says."""
    job = job_on("four_link_axle", "rear")
    points = job.vehicle.rear.linkage.named_points()
    top, foot = points["damper_left_body"], points["damper_left_axle"]
    shorter = float(np.linalg.norm(top - foot) - np.linalg.norm(top - foot - np.array([0, 0, 25.0])))
    one = assess(on(job, DamperHoles(axle="rear", holes=HOLES, hole="one up")))
    was, now = (float(s.ride.damper_at(0.0)) for s in (one.before.rear, one.after.rear))
    assert was - now == pytest.approx(shorter, abs=0.02)
    assert one.after.rear.rise == pytest.approx(0, abs=1e-6), "the spring stands by itself"
    lean = math.degrees(math.acos((top - foot)[2] / np.linalg.norm(top - foot)))
    row = table(on(job, DamperHoles(axle="rear", holes=HOLES))).rows[0]
    assert figure(row.cells[3]) == pytest.approx(lean, abs=0.6)
    # The same mount on the frame moves the window the other way.
    frame = assess(on(job, DamperHoles(axle="rear", mount="frame", holes=HOLES, hole="one up"))).after.rear
    assert float(frame.ride.damper_at(0.0)) > was + 20


def test_the_best_hole_is_the_highest_where_the_stop_still_lands_first() -> None:
    """Each row is what the product says with that hole; the marked one the highest of those with 3 mm left."""
    job = job_on("four_link_axle", "rear")
    rows = table(on(job, DamperHoles(axle="rear", holes=HOLES))).rows
    assert [r.name for r in rows] == ["as it is", "one up", "two up", "three up"]
    assert [r.now for r in rows] == [True, False, False, False]
    left: dict[str, float] = {}
    for row in rows:
        assert isinstance(row.change, DamperHoles)
        after = assess(on(job, row.change)).after.rear
        stop = after.axle.bump_stop
        assert stop.contact_travel_mm is not None or stop.contact_mm is not None
        at_stop = (
            stop.contact_mm - stop.stop().max_compression
            if stop.contact_mm is not None
            else float(after.ride.damper_at((stop.contact_travel_mm or 0.0) + stop.stop().max_compression))
        )
        left[row.name] = float(at_stop) - after.axle.damper.closed_mm
        assert figure(row.cells[0]) == pytest.approx(left[row.name], abs=0.51)
        assert figure(row.cells[1]) == pytest.approx(after.travel - after.full_droop, abs=0.51)
    heights = {"as it is": 0, "one up": 25, "two up": 50, "three up": 75}
    good = [n for n in left if left[n] >= 3]
    best = max(good, key=heights.__getitem__) if good else None
    assert [r.name for r in rows if r.best] == ([best] if best else [])


def test_of_several_good_holes_the_highest_is_marked() -> None:
    """A damper that closes 60 mm later keeps its stroke in every hole: the top one is best."""
    job = job_on("four_link_axle", "rear")
    damper = job.vehicle.rear.damper
    shorter = damper.model_copy(update={"closed_mm": damper.closed_mm - 60})
    job = job.model_copy(update={"vehicle": job.vehicle.with_axle("rear", damper=shorter)})
    low = (Hole(name="two up", up_mm=20), Hole(name="one up", up_mm=10), Hole(name="down", up_mm=-10))
    assert [r.name for r in table(on(job, DamperHoles(axle="rear", holes=low))).rows if r.best] == ["two up"]


@pytest.mark.parametrize(("key", "end"), AT)
def test_holes_go_on_every_damper_that_does_not_hold_its_wheel(key: str, end: AxleName) -> None:
    job = job_on(key, end)
    change = DamperHoles(axle=end, holes=(Hole(name="up", up_mm=15),), hole="up")
    if key.startswith("strut"):
        with pytest.raises(DomainError, match="hold its wheels"):
            predict(on(job, change))
        return
    answer = predict(on(job, change))
    assert len(answer.settings["c0"].rows) == 2, ARCHETYPES[key].title


@pytest.mark.parametrize(
    ("fields", "said"), [({"hole": "nowhere"}, "no hole “nowhere”"), ({"holes": (HOLES[0], HOLES[0])}, "one name")]
)
def test_a_hole_that_is_not_in_the_list_is_refused(fields: dict[str, Any], said: str) -> None:
    with pytest.raises((ValueError, DomainError), match=said):
        DamperHoles.model_validate({"axle": "rear", "holes": HOLES} | fields)


def test_the_nearest_pair_of_teeth_is_marked_and_is_what_it_says() -> None:
    """Of all pairs within the window none comes nearer to the wanted height: tried one by one here."""
    job = wanting(job_on("wishbones_torsion", "front"), "front", 17)
    change = TorsionReindex(axle="front", inner_teeth=30, outer_teeth=32)
    found = table(on(job, change))
    assert len(found.rows) == 7
    best = next(r for r in found.rows if r.best)
    assert isinstance(best.change, TorsionReindex)
    assert figure(best.cells[1]) == pytest.approx(predict(on(job, best.change)).front.rise, abs=0.06)
    angle = 360 * (best.change.inner_by / 30 - best.change.outer_by / 32)
    assert figure(best.cells[0]) == pytest.approx(angle, abs=0.006)
    near = abs(figure(best.cells[1]) - 17)
    for inner in range(-6, 7):
        for outer in range(-6, 7):
            if abs(360 * (inner / 30 - outer / 32)) > 9:
                continue
            tried = predict(on(job, change.model_copy(update={"inner_by": inner, "outer_by": outer}))).front.rise
            assert abs(tried - 17) > near - 0.06
    angles = [figure(r.cells[0]) for r in found.rows]
    assert angles == sorted(angles)


def test_without_an_aim_pairs_are_shown_around_what_is_set() -> None:
    job = job_on("wishbones_torsion", "front")
    none = job.brief.front.model_copy(update={"by": "none"})
    job = job.model_copy(update={"brief": job.brief.model_copy(update={"front": none})})
    found = table(on(job, TorsionReindex(axle="front", inner_teeth=30, outer_teeth=32, inner_by=1, outer_by=1)))
    assert "what is set now" in found.note
    assert next(r for r in found.rows if r.best).now
    assert predict(on(job, Stated(axle="front", what="word", rise_mm=3))).settings == {}


def test_the_ground_point_on_a_mount_goes_up_with_it() -> None:
    """A bracket 232 above the ground, hung 25 higher: 257, on the axle still, and the next one is lowest then."""
    job = job_on("four_link_axle", "rear")
    base = job.vehicle.wheelbase_mm
    stations = (
        VehicleStation(name="damper mount", x_mm=-base, height_mm=232, on="rear_axle", keep_mm=250),
        VehicleStation(name="guard", x_mm=-base / 2, height_mm=245, keep_mm=200),
    )
    job = job.model_copy(update={"vehicle": job.vehicle.model_copy(update={"stations": stations})})
    hung = DamperHoles(axle="rear", holes=HOLES, hole="one up", ground="damper mount")
    answer = predict(on(job, hung))
    assert not [f for f in answer.findings if f.id == "ground.damper mount"]
    lowest = next(f for f in answer.findings if f.id == "lowest")
    assert (lowest.value, lowest.limit) == (245, 257)
    assert [f.value for f in predict(on(job, hung.model_copy(update={"hole": "as it is"}))).findings
            if f.id == "ground.damper mount"] == [232]  # fmt: skip
    with pytest.raises(DomainError, match="No station “guard” hangs on the rear axle"):
        predict(on(job, hung.model_copy(update={"ground": "guard"})))

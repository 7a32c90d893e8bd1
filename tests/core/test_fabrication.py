"""What is cut, drilled or welded; bolts by feel; adjusters read before and after: on card and against the brief."""

import math
from datetime import UTC, datetime
from typing import Any, Literal

import pytest

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.card import bike_card
from inclinum.core.bike.prediction import predict_bike
from inclinum.core.car.card import card
from inclinum.core.car.changes import AdjusterFitted, BracketMoved, DamperHoles, DamperSwap, Stated
from inclinum.core.car.job import Job
from inclinum.core.car.prediction import predict
from inclinum.core.car.vehicle import AngleTarget, EccentricAdjuster, LinkAdjuster
from inclinum.core.card.fastener import Fastener
from inclinum.core.card.record import Build, TorqueRecord
from inclinum.core.card.schools import Schools
from inclinum.core.card.settings import SettingRecord
from inclinum.core.card.steps import Card
from inclinum.core.document.names import SIDES
from inclinum.core.kinematics.refit import frame_points
from tests.core.test_attached import with_rear
from tests.core.test_bike import job_on as bike_job_on
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import job_on

WELDERS = "licensed welder"


def ids(made: Card) -> list[str]:
    return [s.id for s in made.steps]


def held_with(job: Job, **schools: Any) -> Job:
    return job.model_copy(update={"brief": job.brief.model_copy(update={"schools": Schools(**schools)})})


def undone(job: Job) -> bool:
    return any(f.id.startswith("undone") for f in predict(job).findings)


def brackets(how: Literal["bolted_on", "cut_and_welded"] = "bolted_on") -> list[Any]:
    return [
        BracketMoved(
            axle="rear",
            point=next(iter(frame_points(job_on("four_link_axle", "rear").vehicle.rear.linkage))),
            up_mm=-20,
            how=how,
        ),
        DamperHoles(axle="rear", holes=({"name": "upper", "up_mm": 30},), hole="upper", how=how),  # type: ignore[arg-type]
    ]


@pytest.mark.parametrize("n", [0, 1])
def test_what_is_cut_and_welded_has_its_routine_in_order_and_does_not_go_back(n: int) -> None:
    """Marked on both sides before a spark, tacked before welded, inspected before the road; at each side its own."""
    job = job_on("four_link_axle", "rear")
    welded, bolted = (on(job, brackets(how)[n]) for how in ("cut_and_welded", "bolted_on"))
    made, plain = card(welded), card(bolted)
    order = ids(made)
    for side in SIDES:
        at = [order.index(f"rear.{side}.c0.how{m}") for m in range(4)]
        assert at == sorted(at)
        opened = max(i for i, step in enumerate(order) if step.startswith(f"rear.{side}") and step.endswith(".off"))
        assert opened < at[0] < at[-1] < order.index(f"rear.{side}.c0.0"), "in its open place, before the part goes on"
        marked, cleared, cut, watched = (made.steps[i] for i in at)
        assert "Nothing is cut" in (marked.hold or "")
        assert "Battery off" in cleared.text or "battery off" in cleared.text
        assert cleared.people == cut.people == 2
        assert WELDERS in cut.text
        assert "fire" in watched.text
    assert order.index("rear.c0.after0") < order.index("hand.road"), "inspected before the road"
    assert made.steps[order.index("rear.c0.after0")].hold
    assert not [s for s in plain.steps if ".how" in s.id or ".after" in s.id or "weld" in s.text.lower()]
    assert (undone(welded), undone(bolted)) == (True, False)


def test_no_new_part_hangs_near_what_is_cut_or_welded() -> None:
    """New dampers beside brackets that are welded: heat and sparks first, then what has oil and rubber in it."""
    swapped = DamperSwap(axle="rear", extended_mm=420, closed_mm=280)
    at = [*ids(card(on(job_on("three_link_axle", "rear"), swapped, brackets("cut_and_welded")[1])))]
    for side in SIDES:
        hot = [n for n, i in enumerate(at) if i.startswith(f"rear.{side}.c1.how")]
        new = [n for n, i in enumerate(at) if i.startswith(f"rear.{side}.") and (".c0." in i or i.endswith(".on"))]
        assert len(hot) >= 3
        assert max(hot) < min(new)


def test_body_work_is_tried_before_it_is_drilled_and_says_its_holes() -> None:
    job = job_on("leaf_axle", "rear")
    told = {"axle": "rear", "what": "Arch extension", "rise_mm": 0.0}
    made = card(on(job, Stated(**told, how="body_work", drill_mm=7.5)))  # type: ignore[arg-type]
    tried, drilled, edges = (next(s for s in made.steps if s.id == f"rear.c0.how{m}") for m in range(3))
    assert "Nothing is drilled" in (tried.hold or "")
    assert "to 7.5 mm" in drilled.text
    assert "deburred" in edges.text
    template = card(on(job, Stated(**told, how="body_work")))  # type: ignore[arg-type]
    assert "its template says" in next(s.text for s in template.steps if s.id == "rear.c0.how1")
    assert undone(on(job, Stated(**told, how="body_work")))  # type: ignore[arg-type]
    with pytest.raises(ValueError, match=r"holes of 7.5 mm are body work"):
        Stated(**told, drill_mm=7.5)  # type: ignore[arg-type]


def test_a_shop_that_welds_what_is_proven_does_so_after_the_road_and_then_it_stays() -> None:
    job = on(job_on("four_link_axle", "rear"), brackets()[1])
    welding = held_with(job, brackets="welded once proven")
    order = ids(card(welding))
    first = order.index("rear.c0.driven0")
    assert order.index("hand.road") < first < order.index("rear.c0.driven1") < order.index("hand.retorque")
    step = card(welding).steps[first]
    assert "the default" in step.text
    assert step.hold
    assert not [i for i in ids(card(job)) if ".driven" in i]
    assert (undone(welding), undone(job)) == (True, False)
    spring = held_with(on(job_on("four_link_axle", "rear"), Stated(axle="rear", what="x", rise_mm=5)),
                       brackets="welded once proven")  # fmt: skip
    assert not undone(spring), "only what hangs on brackets of its own"


def test_a_bicycle_stand_that_is_cut_is_welded_off_the_machine() -> None:
    bike = BIKES["linkage_frame"].bike("x")
    cut, other = (
        bike_job_on(bike, [{"type": "side_stand", "shorter_mm": 12, "how": how}])
        for how in ("cut_and_welded", "bolted_on")
    )
    texts = {s.id: s.text for s in bike_card(cut).steps}
    assert "off the machine" in texts["c1.how0"]
    assert WELDERS in texts["c1.how2"]
    assert ids(bike_card(cut)).index("c1.after0") < ids(bike_card(cut)).index("hand.road")
    assert not [i for i in ids(bike_card(other)) if ".how" in i]
    found = [[f.id for f in predict_bike(j).findings if f.id.startswith("undone")] for j in (cut, other)]
    assert [bool(f) for f in found] == [True, False]


def test_by_feel_is_told_and_asked_about_only_where_somebody_has_a_figure() -> None:
    """The school is for bolts without a figure; a maker's figure counts in every shop."""
    job = on(job_on("wishbones", "front"), AdjusterFitted.start("front", job_on("wishbones", "front").vehicle.front))
    figures = {"wheel": Fastener(name="wheel bolt", torque_nm=100, source="sheet")}
    front = job.vehicle.front.model_copy(update={"fasteners": figures})
    job = job.model_copy(update={"vehicle": job.vehicle.model_copy(update={"front": front})})
    at = datetime(2026, 3, 2, tzinfo=UTC)
    uses = [(s, f) for s in card(job).steps if s.axle == "front" and s.side == "left" for f in s.fasteners]
    assert {f.torque_nm is None for _, f in uses} == {True, False}
    felt = tuple(
        TorqueRecord(fastener=f.key, axle="front", side="left", by_feel=True, done_at=at, by="A") for _, f in uses
    )
    worked = job.model_copy(update={"build": Build(torques=felt)})
    for school, wanted in (("to figures", {True}), ("by feel", {False})):
        made = card(held_with(worked, torque=school))
        found = [(s, f) for s in made.steps if s.axle == "front" and s.side == "left" for f in s.fasteners]
        assert {bool(f.doubt) for _, f in found if f.torque_nm is None} == wanted
        assert {bool(f.doubt) for _, f in found if f.torque_nm is not None} == {True}
        told = [s for s in made.steps if s.side == "left" and "the default" in s.text and "by feel" in s.text]
        assert bool(told) == (school == "by feel")


def test_adjusters_are_read_before_and_after_each_in_its_own_unit() -> None:
    """An eccentric of 6 mm and 24 notches is read in notches, 15° each; a link by its length; both with their sign."""
    job = job_on("wishbones_long", "rear")
    point = next(iter(frame_points(job.vehicle.rear.linkage)))
    cam = EccentricAdjuster(name="cam bolt", point=point, direction=(0, 1, 0), eccentricity_mm=6, notches=24)
    for lean in (-0.25, 0.25):
        target = {"camber": AngleTarget(target_deg=job.vehicle.rear.camber_deg + lean, window_deg=0.3)}
        made = card(on(with_rear(job, targets=target, adjusters=()), AdjusterFitted(axle="rear", adjuster=cam)))
        rows = [r for r in made.settings if r.key.startswith("align.")]
        assert {r.side for r in rows} == {"left", "right"}
        for row in rows:
            assert row.unit == "notches"
            assert row.by == int(row.by) != 0
            (step,) = row.steps
            told = next(s for s in made.steps if s.id == step).text
            assert f"{abs(int(row.by))} notch" in told
            angle = math.radians(15 * row.by)
            assert f"{abs(6 * math.sin(angle)):.1f} mm {'out' if row.by > 0 else 'in'}" in told
    extreme = held_with(on(with_rear(job, targets=target, adjusters=()), AdjusterFitted(axle="rear", adjuster=cam)),
                        first_camber="at one extreme")  # fmt: skip
    assert not [r for r in card(extreme).settings if r.key.startswith("align.")], "an extreme is found without a mark"


def test_a_link_that_was_set_the_wrong_way_is_asked_about() -> None:
    job = job_on("strut_front", "front")
    link = LinkAdjuster(name="track rod", outer="tie_outer", min_mm=-15, max_mm=15, thread_pitch_mm=1.5)
    target = {"toe": AngleTarget(target_deg=job.vehicle.front.toe_deg + 0.4, window_deg=0.05)}
    front = job.vehicle.front.model_copy(update={"targets": target, "adjusters": (link,)})
    job = job.model_copy(update={"vehicle": job.vehicle.model_copy(update={"front": front})})
    (row,) = [r for r in card(job).settings if r.side == "left" and r.key.startswith("align.")]
    assert row.unit == "mm"
    at = datetime(2026, 3, 2, tzinfo=UTC)

    def read(moved: float) -> str:
        record = SettingRecord(key=row.key, axle="front", side="left", before=300, after=300 + moved, at=at, by="A")
        build = Build(settings=(record,))
        made = card(job.model_copy(update={"build": build}))
        return next(r.doubt for r in made.settings if r.place == record.place)

    assert not read(row.by)
    assert "the plan says" in read(-row.by)

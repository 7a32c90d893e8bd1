"""A rod across an axle and a link in its middle are there once: one part, one step, one reading; out is out."""

import pytest

from inclinum.core.car.archetypes import ARCHETYPES
from inclinum.core.car.card import card
from inclinum.core.car.changes import ArmLength, BracketMoved, Change, JointMoved, apply_all
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.kinematics.refit import arms, frame_points, links
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import job_on

AXLES: list[tuple[str, AxleName]] = [
    (k, end) for k, a in ARCHETYPES.items() if a.kind.startswith("solid_axle") for end in a.where
]


def every(key: str, end: AxleName) -> list[Change]:
    """Every link longer, every mount of the frame lower, welded where it can be."""
    linkage = job_on(key, end).vehicle.axle(end).linkage
    long = [ArmLength(axle=end, outer=n, longer_mm=4) for n in (*arms(linkage), *links(linkage)) if "right" not in n]
    low = [
        BracketMoved(axle=end, point=n, up_mm=-12, how="cut_and_welded")
        for n in frame_points(linkage)
        if "right" not in n
    ]
    return [*long, *low]


@pytest.mark.parametrize(("key", "end"), AXLES)
def test_what_is_there_once_is_done_and_read_once_and_a_pair_at_both_sides(key: str, end: AxleName) -> None:
    for change in every(key, end):
        job = on(job_on(key, end), change)
        name = change.outer if isinstance(change, ArmLength) else change.point  # type: ignore[attr-defined]
        once = "left" not in name.split("_")
        made = card(job)
        steps = [s for s in made.steps if "c0" in s.id.split(".") and s.phase != "Hand over"]
        assert steps, name
        for text in {s.text for s in steps}:
            sides = [s.side for s in steps if s.text == text]
            assert sides == ([None] if once else ["left", "right"]), (name, text)
            assert not once or not any(said in text for said in ("both sides alike", "both sides as mirror"))
        assert len({s.id for s in made.steps}) == len(made.steps)
        rows = [r for r in made.settings if r.key.startswith("c0.")]
        assert [r.side for r in rows] in ([], [None] if once else ["left", "right"])
        for row in rows:
            # Where it is opened, and where it is set: each is a step of the card, on that side.
            assert len(row.steps) == 2
            assert [next(s.side for s in made.steps if s.id == i) for i in row.steps] == [row.side] * 2
        (part,) = (p for p in made.preflight.parts if p.startswith(("1 × ", "2 × ")) and f"({end})" in p)
        assert part.startswith("1 × " if once else "2 × ")


@pytest.mark.parametrize("out", [9.0, -9.0])
def test_out_is_away_from_the_middle_on_whichever_side_a_point_is(out: float) -> None:
    for key, end in AXLES:
        job = job_on(key, end)
        at = job.vehicle.axle(end).linkage.named_points()
        for name in frame_points(job.vehicle.axle(end).linkage):
            if "right" in name or not at[name][1]:
                continue
            moved = on(job, BracketMoved(axle=end, point=name, out_mm=out))
            if name == "arm_left_body":
                # The arms are one with the axle, which the lateral rod holds: their pivots do not go sideways.
                with pytest.raises(DomainError, match=r"does not go out or in.*Leave that at 0"):
                    apply_all(moved.vehicle, moved.plan.changes)
                both = BracketMoved(axle=end, point=name, out_mm=out, up_mm=-10)
                with pytest.raises(DomainError, match="does not go out or in"):
                    apply_all(moved.vehicle, on(job, both).plan.changes)
                continue
            now = apply_all(moved.vehicle, moved.plan.changes).axle(end).linkage.named_points()
            assert abs(now[name][1]) == pytest.approx(abs(at[name][1]) + out), (key, name)
            other = now.get(name.replace("left", "right"), now[name])
            assert abs(other[1]) == pytest.approx(abs(now[name][1])), "its mirror image with it"


def test_a_joint_on_the_axle_goes_out_against_the_axle() -> None:
    """A lateral rod whose end on the axle stands 8 mm further out pulls the axle 8 mm to the other side."""
    job = job_on("parallel_link_axle", "rear")
    moved = on(job, JointMoved(axle="rear", point="lateral_rod_axle", out_mm=8))
    planned = apply_all(moved.vehicle, moved.plan.changes)
    was, now = (v.axle("rear").linkage.named_points()["wheel_centre_left"][1] for v in (job.vehicle, planned))
    assert now - was == pytest.approx(-8, abs=0.3), "its links, which run a little inwards, hold it back a little"

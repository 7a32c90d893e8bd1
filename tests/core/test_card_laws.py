"""Laws of the card: what is opened is closed, nothing is tightened that was not opened, nothing springs out unheld."""

from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from inclinum.core.car.card import DOWN, HEIGHT, card
from inclinum.core.car.changes import CHANGE_TYPES, PlannedChange, apply_all
from inclinum.core.car.changes.arm_length import ArmLength
from inclinum.core.car.job import Job, Plan
from inclinum.core.car.joints import WORDS, captive, fastener_of, joints_of, on_air, on_side, reached, together
from inclinum.core.car.prediction import predict
from inclinum.core.car.vehicle import Axle
from inclinum.core.card import cautions
from inclinum.core.card.fastener import Fastener
from inclinum.core.card.joints import Handling, Joint, in_order
from inclinum.core.card.own import OwnStep
from inclinum.core.card.schools import Schools
from inclinum.core.card.steps import Card, Step
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import SIDES, AxleName, Side
from inclinum.core.kinematics.mounts import stand_together
from inclinum.core.kinematics.refit import arms, links
from inclinum.core.quantity.words import numbers_in
from tests.core.test_every_change import AT, KINDS, begun, equipped, job_on


def planned(job: Job, end: AxleName, *kinds: str) -> Job:
    """The job with those of the changes that its axle takes, one after the other."""
    changes: list[PlannedChange] = []
    for kind in kinds:
        so_far = job.model_copy(update={"plan": Plan(changes=tuple(changes))})
        begins = begun(kind, end, so_far)
        if not isinstance(begins, str):
            changes.append(begins)
    return job.model_copy(update={"plan": Plan(changes=tuple(changes))})


def of_side(made: Card, end: AxleName, side: Side) -> list[Step]:
    """Steps of a side, with those of what both sides share."""
    return [s for s in made.steps if s.axle == end and s.side in (side, None)]


def keys(steps: list[Step], what: str) -> list[str]:
    """Joints that are opened (``off``) or closed (``on``), in the order of the steps."""
    return [s.id.split(".")[-2] for s in steps if s.id.endswith(f".{what}")]


def named(end: AxleName, side: Side, joint: Joint, what: str) -> str:
    return f"{end}.{joint.key}.{what}" if joint.shared else f"{end}.{side}.{joint.key}.{what}"


def holds(job: Job, end: AxleName) -> int:
    """Every law on the card of a job; how many joints were opened.

    Each law is named by the sentence of its assertion.
    """
    made = card(job)
    axle = job.vehicle.axle(end)
    at = {s.id: n for n, s in enumerate(made.steps)}
    assert len(at) == len(made.steps), "every step has its own name"
    turned = any(p.change.provides in ("collar", "ring") for p in job.plan.changes)
    joints = joints_of(axle, collared=turned)
    count, built = 0, apply_all(job.vehicle, job.plan.changes).axle(end)
    after = joints_of(built)
    for side in SIDES:
        steps = of_side(made, end, side)
        opened, closed = keys(steps, "off"), keys(steps, "on")
        count += len(opened)
        assert len(set(opened)) == len(opened), "nothing is opened twice"
        new = set(closed) - set(opened)
        assert sorted(opened) == sorted(k for k in closed if k not in new), "nothing opened stays open"
        assert all(k in after and k not in joints and after[k].stored for k in new), "nor is closed that was not open"
        if on_air(built) and set(opened) - {"wheel", "lines"}:
            said = [s.text for s in steps if s.id.endswith((".on", ".off"))]
            assert not any("compressor" in text for text in said if "to torque" in text), "no coil, none pressed"
        for key in opened:
            joint = joints[key]
            before = [n for n in joint.needs if n in joints]
            assert all(opened.index(n) < opened.index(key) for n in before), f"{key}: no step before its precondition"
            off = made.steps[at[named(end, side, joint, "off")]]
            if joint.stored:
                assert off.hold, f"{key}: what is stored behind it is held back before it is opened"
                assert off.caution or key == "spring_seat", f"{key}: and its danger is said at that step"
            assert off.text, key
        if on_air(axle):
            lets_go = {"damper_foot", "damper_top", "clamp", "strut_top", "spring_on_unit", "spring_seat"} & set(opened)
            assert all(opened.index("air") < opened.index(k) for k in lets_go), "no unit comes off under pressure"
        inner = [k for k in closed if k not in new and not (joints[k].with_load or joints[k].on_ground)]
        assert inner == [k for k in reversed(opened) if k in inner], "closed in reverse"
        tightened = [use.key for s in steps for use in s.fasteners]
        due = [role for key in opened for role in joints[key].fasteners]
        assert sorted(tightened) == sorted(set(due)), "each opened bolt is tightened once, and no other"
        rubber = {role for key in opened if joints[key].rubber for role in joints[key].fasteners}
        for s in steps:
            if rubber & {use.key for use in s.fasteners}:
                assert s.phase.endswith(HEIGHT), "rubber is clamped where it rides, never hanging"
                assert cautions.RUBBER in (s.hold or "")
        lets_down = {"clamp", "damper_foot", "spring_seat", "u_bolts", "subframe", "bar"} & set(opened)
        assert not lets_down or "lines" in opened, "no hose or wire carries what hangs"
        first = [at[f"{end}.{s}.{k}.off"] for s in SIDES for k in ("anti_roll_link",) if f"{end}.{s}.{k}.off" in at]
        others = [at[named(end, side, joints[k], "off")] for k in opened if not joints[k].both_first]
        if first and others:
            assert len(first) == 2
            assert max(first) < min(others), "both ends of the bar before anything else comes apart"
        if opened:
            for p in job.plan.changes:
                mine = [at[s.id] for s in steps if s.id.startswith(f"{end}.{side}.{p.id}.")]
                wanted = {k for word in p.change.opened(job.vehicle) for k in reached(axle, word, side)} & set(opened)
                for key in wanted:
                    off_at, on_at = (at[named(end, side, joints[key], what)] for what in ("off", "on"))
                    assert all(off_at < n < on_at for n in mine), f"{p.change.type}: it is done while its place is open"
                hot = [n for n in mine if ".how" in made.steps[n].id]
                work = [n for n in mine if n not in hot]
                if work and (figure := p.change.figure(side)):
                    large = [made.steps[n] for n in work if made.steps[n].figure]
                    assert [s.figure for s in large] == [figure], f"{p.change.type}: its number stands large, once"
                    assert numbers_in(figure) <= numbers_in(large[0].text), (
                        f"{p.change.type}: at the step that names it"
                    )
                inside = [k for k in inner if not joints[k].both_first]
                ons = {k: at[named(end, side, joints[k], "on")] for k in inside}
                assert not hot or max(hot) < min(ons.values()), "no new part near a weld"
                for other in job.plan.changes:
                    theirs = [at[s.id] for s in steps if s.id.startswith(f"{end}.{side}.{other.id}.")]
                    if work and theirs and other.change.opens == p.change.opens and other.change.deep > p.change.deep:
                        assert max(theirs) < min(work), "of two at one place the deeper comes first"
                mouth = next((k for k in reversed(opened) if k in wanted and k in inside), None)
                behind = inside[: inside.index(mouth)] if mouth else inside
                assert not work or all(ons[k] < min(work) for k in behind), f"{p.change.type}: behind it all is home"
                if p.change.opens == {"wheel"}:
                    on_hub = [made.steps[n].phase for n in work]
                    assert set(on_hub) == {DOWN}, "what goes on the hub goes on with the wheel"
        if "wheel" in opened:
            order = [f"wheel.{what}" for what in ("crack", "off", "on", "torque")]
            places = [at[f"{end}.{side}.{what}"] for what in order]
            assert places == sorted(places)
            assert places[0] < at["lift.stands"] < places[1], "cracked on the ground, off when it stands"
            assert places[2] < at["down.lower"] < places[3], "and tight when it is down again"
            assert made.steps[places[3]].phase == DOWN
    at_once = together(axle) or any(joints[k].shared for k in keys(of_side(made, end, "left"), "off"))
    if at_once:
        here = [s for s in made.steps if s.axle == end and s.side and s.id.endswith(".off")]
        pairs = [(s.side, s.id.split(".")[-2]) for s in here]
        assert len(pairs) % 2 == 0
        for (one, key), (other, like) in list(pairwise(pairs))[::2]:
            assert (one, other) == ("left", "right"), "what drops as one is let down as one"
            assert on_side(axle, key, "right") == like
    elif count:
        work = [s.side for s in made.steps if s.axle == end and s.phase.endswith((" left", " right"))]
        assert sum(a != b for a, b in pairwise(work)) <= 1, "one side is done before the other is opened"
    tools = " ".join(made.preflight.tools).lower()
    squeezed = captive(axle) and any(
        k == "spring_on_unit" for side in SIDES for k in keys(of_side(made, end, side), "off")
    )
    inside = [
        n for n, p in enumerate(job.plan.changes)
        if any("spring_on_unit" in reached(axle, word) for word in p.change.opened(job.vehicle))
    ]  # fmt: skip
    # A complete unit that is in before anything is done inside one is freed by its collar, the old one is not.
    units = [n for n, p in enumerate(job.plan.changes) if p.change.type == "coil_over"]
    freed = turned or axle.damper.collar or "stack" in axle.spring.type or (inside and units and units[0] < inside[0])
    assert ("compressor" in tools) == bool(squeezed and not freed)
    assert ("lift.stands" in at) == bool(count), "what opens nothing lifts nothing"
    return count


@pytest.mark.parametrize("full", [False, True], ids=["bare", "equipped"])
@pytest.mark.parametrize(("key", "end"), AT)
def test_every_change_on_every_archetype_has_a_card_that_holds_the_laws(key: str, end: AxleName, full: bool) -> None:
    job = equipped(job_on(key, end), end) if full else job_on(key, end)
    opened = {}
    for kind in KINDS:
        one = planned(job, end, kind)
        if one.plan.changes:
            opened[kind] = holds(one, end)
    assert opened["load"] == opened["stated"] == 0, "weight and a stated rise open nothing"
    assert opened["tyres"] == 2, "a wheel at each side"
    assert all(n > 2 for kind, n in opened.items() if kind in ("spring_swap", "damper_swap", "leaf_packs", "subframe"))


@settings(deadline=None, max_examples=60)
@given(at=st.sampled_from(AT), first=st.sampled_from(KINDS), second=st.sampled_from(KINDS), full=st.booleans())
def test_and_so_has_every_pair_of_changes(at: tuple[str, AxleName], first: str, second: str, full: bool) -> None:
    job = job_on(*at)
    holds(planned(equipped(job, at[1]) if full else job, at[1], first, second), at[1])


STANDS_ON = {
    ("strut_arm_spring", "lower_outer"): {"spring"},
    ("wishbones", "lower_outer"): {"damper foot"},
    ("wishbones_upper", "upper_outer"): {"damper foot"},
    ("wishbones_torsion", "lower_outer"): {"damper foot"},
    ("wishbones_rocker", "lower_outer"): {"point:rod_outer"},
    ("wishbones_long", "lower_outer"): {"damper foot"},
    ("five_link", "spring_link_outer"): {"spring"},
    ("h_arm", "arm_outer_front"): {"spring"},
}
"""By how each of them is built: a unit or a damper by its foot, a coil by itself, the rod of a rocker."""


@pytest.mark.parametrize(("key", "end"), AT)
def test_an_arm_is_parted_at_its_own_ends_and_nowhere_else(key: str, end: AxleName) -> None:
    """What else stands on the same upright stays: another arm's joint, the strut, its spring."""
    job = job_on(key, end)
    linkage = job.vehicle.axle(end).linkage
    members = [m for m in linkage.members() if m[0] in ("arm", "rod")]
    for outer in (*arms(linkage), *links(linkage)):
        legs = [m[1:] for m in members if outer in m[1:]]
        # An arm with two outer joints is parted at both: they hang on the same inner pivots.
        own = {name for leg in legs for name in leg} | {o for _, i, o in members if i in {a for a, _ in legs}}
        change = ArmLength(axle=end, outer=outer, longer_mm=5)
        words = change.opened(job.vehicle)
        stands = {"damper foot", "spring", "point:rod_outer"} & words
        assert {w.removeprefix("point:") for w in words - stands} == own
        assert stands == STANDS_ON.get((key, outer), set()), "and what stands on it comes off it first"
    if key == "strut_front":
        opened = keys(of_side(card(planned(job, end, "arm_length")), end, "left"), "off")
        assert "lower_outer" in opened
        assert not {"spring_on_unit", "strut_top", "clamp"} & set(opened)


def test_inside_a_unit_the_damper_comes_first_then_its_stop_then_the_coil_whatever_the_stack_says() -> None:
    stacks = (
        ("mount_spacer", "spring_swap", "bump_stop_swap", "damper_swap"),
        ("mount_spacer", "spring_swap", "seat_spacer", "damper_swap"),  # a ring lies on its seat before the coil
    )
    for stack in stacks:
        job = planned(job_on("strut_front", "front"), "front", *stack)
        assert len(job.plan.changes) == 4
        holds(job, "front")
        at = [s.id for s in card(job).steps]
        for side in SIDES:
            first = [at.index(f"front.{side}.{p.id}.0") for p in job.plan.changes]
            assert first == sorted(first, reverse=True), "planned the other way round"
            assert at.index(f"front.{side}.spring_on_unit.off") < first[-1]


def test_a_unit_with_a_collar_frees_what_is_planned_after_it_and_the_old_one_wants_its_compressor() -> None:
    job = job_on("strut_front", "front")
    for stack, pressed in (
        (("coil_over", "spring_swap"), False),
        (("damper_swap", "coil_over"), True),
        (("damper_swap", "coil_over", "spring_swap"), True),
    ):
        several = planned(job, "front", *stack)
        assert len(several.plan.changes) == len(stack)
        holds(several, "front")
        text = next(s.text for s in card(several).steps if s.id == "front.left.spring_on_unit.off")
        assert text.startswith("Compress") == pressed


@pytest.mark.parametrize(("key", "end"), AT)
def test_what_two_changes_open_is_what_each_of_them_opens(key: str, end: AxleName) -> None:
    """Nothing is opened for a pair that neither needs; what both need is opened once."""
    job = job_on(key, end)

    def opened(*kinds: str) -> set[str]:
        made = card(planned(job, end, *kinds))
        return {s.id for s in made.steps if s.id.endswith(".off") and not s.id.endswith("pivots.off")}

    for one, other in (("bump_stop_swap", "tyres"), ("damper_swap", "spring_swap"), ("tyres", "subframe")):
        assert opened(one, other) == opened(one) | opened(other)


@pytest.mark.parametrize(("key", "end"), AT)
def test_every_word_of_a_change_is_a_place_on_every_axle(key: str, end: AxleName) -> None:
    axle = job_on(key, end).vehicle.axle(end)
    joints = joints_of(axle)
    for word in WORDS:
        assert set(reached(axle, word)) <= set(joints), word
    for kind in CHANGE_TYPES:
        assert kind.opens <= set(WORDS), kind.title
    with pytest.raises(DomainError, match="No change is done at"):
        reached(axle, "exhaust")
    assert ("spring_on_unit" in joints) == (captive(axle) or (on_air(axle) and stand_together(axle.linkage)))


def test_joints_are_opened_in_the_order_their_needs_give_and_in_no_circle() -> None:
    step = Handling("")
    joints = {
        j.key: j
        for j in (
            Joint("a", step, step, needs=("b",)), Joint("b", step, step, needs=("missing",)),
            Joint("c", step, step, needs=("a", "b")), Joint("d", step, step), Joint("e", step, step, both_first=True),
        )
    }  # fmt: skip
    assert [j.key for j in in_order(joints, ["c", "e"])] == ["e", "b", "a", "c"]
    assert in_order(joints, []) == ()
    with pytest.raises(DomainError, match="no joint “f”"):
        in_order(joints, ["f"])
    joints["b"] = Joint("b", step, step, needs=("c",))
    with pytest.raises(DomainError, match="in each other's way"):
        in_order(joints, ["a"])


def steps_of(job: Job) -> dict[str, Step]:
    return {s.id: s for s in card(job).steps}


def test_a_tower_plate_needs_no_compressor_and_a_collar_frees_a_spring_by_hand() -> None:
    job = equipped(job_on("strut_front", "front"), "front")
    plain = job.model_copy(
        update={"vehicle": job.vehicle.with_axle("front", spring=job_on("strut_front", "front").vehicle.front.spring)}
    )
    plate = planned(plain, "front", "strut_top_spacer")
    assert "front.left.strut_top.off" in steps_of(plate)
    assert "front.left.spring_on_unit.off" not in steps_of(plate), "the unit stays together"
    assert not any("compressor" in t for t in card(plate).preflight.tools)
    inside = planned(plain, "front", "mount_spacer")
    assert "Compress" in steps_of(inside)["front.left.spring_on_unit.off"].text
    damper = plain.vehicle.front.damper.model_copy(update={"collar": True})
    collared = plain.model_copy(update={"vehicle": plain.vehicle.with_axle("front", damper=damper)})
    freed = steps_of(planned(collared, "front", "mount_spacer"))["front.left.spring_on_unit.off"]
    assert "no compressor" in freed.text
    assert "still presses" in (freed.hold or "")


def test_another_kind_of_spring_is_closed_up_as_what_it_is() -> None:
    """A unit's coil gives way to a bag: no compressor on the way back; a bag on an arm is filled before any weight."""

    unit = card(planned(job_on("wishbones", "front"), "front", "air_springs", "air_height")).steps
    ids = {s.id: s for s in unit}
    assert "Compress the spring" in ids["front.left.spring_on_unit.off"].text
    assert "Clamp rings on the beads" in ids["front.left.spring_on_unit.on"].text
    order = [s.id for s in unit]
    assert order.index("front.left.damper_foot.on") < order.index("front.left.air.on") < order.index("down.lower")
    assert "before any weight" in ids["front.left.air.on"].text
    assert "lift.level" not in ids, "it had no level control when it was lifted"
    assert order.index("down.lower") < order.index("down.level") < order.index("prove.front.heights")
    assert "overnight" in ids["front.c1.settled0"].text
    assert order.index("down.level") < order.index("front.c1.settled0") < order.index("prove.front.heights")

    # And the other way: what the bag was fed by is put out of service, and its coil is watched into its seats.
    bags = card(planned(job_on("four_link_air", "rear"), "rear", "spring_swap")).steps
    ids, order = {s.id: s for s in bags}, [s.id for s in bags]
    assert order.index("lift.level") < order.index("lift.stands")
    assert ids["lift.level"].hold
    assert "capped" in ids["rear.left.air.on"].text
    assert ids["rear.left.spring_seat.off"].caution is None
    assert ids["rear.left.spring_seat.on"].caution == cautions.SPRING
    assert "down.level" not in ids, "no level to come back to"


def test_one_collar_alone_opens_one_wheel_alone() -> None:
    job = planned(job_on("strut_front", "front"), "front", "collar")
    one = job.plan.changes[0].change.model_copy(update={"by_mm": 6.0, "right_mm": 0.0})
    made = card(
        job.model_copy(update={"plan": Plan(changes=(job.plan.changes[0].model_copy(update={"change": one}),))})
    )
    assert {s.side for s in made.steps if s.id.endswith("wheel.off")} == {"left"}


def test_what_an_axle_has_once_is_opened_once_with_both_sides_free() -> None:
    job = planned(job_on("three_link_axle", "rear"), "rear", "spring_swap")
    made = card(job)
    lateral = [s for s in made.steps if s.id == "rear.lateral_rod.off"]
    tight = [s for s in made.steps for f in s.fasteners if f.key == "lateral_rod"]
    assert len(lateral) == len(tight) == 1
    assert lateral[0].side is None
    lowered = card(planned(job_on("strut_front", "front"), "front", "subframe_lowered"))
    at = {s.id: n for n, s in enumerate(lowered.steps)}
    assert at["front.left.lines.off"] < at["front.subframe.off"] > at["front.right.lines.off"]


def test_the_jack_at_ride_height_carries_the_wheel_load_and_the_wheel() -> None:
    job = planned(job_on("trailing", "rear"), "rear", "seat_spacer")
    text = steps_of(job)["rear.left.ride_height"].text
    found = predict(job).rear
    kilos = found.load_n / 9.80665 + job.vehicle.rear.unsprung_kg
    assert f"about {kilos:.0f} kg" in text
    assert 150 < kilos < 700


def test_a_step_of_the_shops_own_stands_at_its_place_and_only_where_its_joint_is_opened() -> None:
    job = job_on("strut_front", "front")
    data = job.vehicle.front.model_dump() | {
        "fasteners": {"shield": {"name": "heat shield bolt", "torque_nm": 11, "source": "shop book"}},
        "own_steps": [
            {"text": "Heat shield off", "joint": "clamp", "when": "before_opening", "tool": "10 mm socket"},
            {"text": "Heat shield on", "joint": "clamp", "when": "after_closing", "fastener": "shield", "side": "left"},
        ],
    }  # fmt: skip
    fitted = job.vehicle.model_copy(update={"front": Axle.model_validate(data)})
    job = job.model_copy(update={"vehicle": fitted})
    made = card(planned(job, "front", "strut_top_spacer" if job.vehicle.front.strut_top else "spring_swap"))
    at = {s.id: n for n, s in enumerate(made.steps)}
    by_id = {s.id: s for s in made.steps}
    assert at["front.left.own0"] + 1 == at["front.left.clamp.off"]
    assert at["front.right.own0"] + 1 == at["front.right.clamp.off"]
    assert at["front.left.own1"] == at["front.left.clamp.on"] + 1
    assert "front.right.own1" not in at, "it is done on the left alone"
    assert "10 mm socket" in by_id["front.left.own0"].text
    assert [(f.key, f.torque_nm) for f in by_id["front.left.own1"].fasteners] == [("shield", 11)]
    assert made.unused == ()
    wheels = card(planned(job, "front", "tyres"))
    assert not [s for s in wheels.steps if ".own" in s.id]
    assert wheels.unused == ("Front heat shield bolt, 11 N·m: not undone by this plan.",)
    with pytest.raises(ValueError, match="not among the axle's fasteners"):
        Axle.model_validate(data | {"fasteners": {}})


def test_what_is_meant_on_both_sides_names_none() -> None:
    """A mount of a whole axle has a left and a right point; a change moves both, its step stands at either wheel."""
    moved = begun("bracket_moved", "rear", job := job_on("four_link_axle", "rear"))
    assert not isinstance(moved, str)
    assert moved.change.point.split("_")[1] == "left"  # type: ignore[union-attr]
    made = card(job.model_copy(update={"plan": Plan(changes=(moved,))}))
    done = [s.text for s in made.steps if s.id.endswith(f"{moved.id}.0")]
    assert len(done) == 2
    assert len(set(done)) == 1
    assert "left" not in done[0].partition("moved")[0]


def test_what_else_is_due_in_there_is_done_in_one_taking_apart() -> None:
    """Opened for it where no change opens it, once where one does, its part on the list; what has no place is told."""
    due = OwnStep(text="New hose, bled after", joint="lines", part="Brake hose, left", side="left", due=True)
    astray = OwnStep(text="Grease the bar", joint="bar", due=True)
    plain = planned(job_on("wishbones", "front"), "front", "spring_swap")
    rear = plain.vehicle.rear.model_copy(update={"own_steps": (due, astray)})
    front = plain.vehicle.front.model_copy(update={"own_steps": (due,)})
    job = plain.model_copy(update={"vehicle": plain.vehicle.model_copy(update={"rear": rear, "front": front})})
    made, bare = card(job), card(plain)
    ids = [s.id for s in made.steps]
    assert keys(of_side(made, "rear", "left"), "off") == ["wheel", "lines"], "opened for it alone"
    assert keys(of_side(made, "rear", "right"), "off") == []
    assert keys(of_side(made, "front", "left"), "off") == keys(of_side(bare, "front", "left"), "off"), "once"
    for end in ("front", "rear"):
        order = [f"{end}.left.lines.off", f"{end}.left.own0", f"{end}.left.lines.on"]
        assert [ids.index(i) for i in order] == sorted(ids.index(i) for i in order)
        assert f"Brake hose, left ({end})" in made.preflight.parts
    assert any("Grease the bar" in line and "no step does it" in line for line in made.unused)
    alone = rear.model_copy(update={"own_steps": (astray,)})
    told = card(plain.model_copy(update={"vehicle": plain.vehicle.model_copy(update={"rear": alone})})).unused
    assert any("Grease the bar" in line for line in told), "on an axle where nothing else is done as well"


def test_the_shops_own_school_is_followed_and_its_default_is_told() -> None:
    plain = planned(job_on("wishbones", "front"), "front", "spring_swap", "adjuster_fitted")
    hanging = plain.model_copy(
        update={
            "brief": plain.brief.model_copy(
                update={"schools": Schools(bushes="hanging", first_camber="at one extreme")}
            )
        }
    )
    made, usual = card(hanging), card(plain)
    for side in SIDES:
        steps = {s.id: s for s in of_side(made, "front", side)}
        pivots = steps[f"front.{side}.pivots.on"]
        assert "to torque" in pivots.text
        assert "default" in pivots.text
        assert "would store" in (pivots.caution or "")
        assert [f.key for f in pivots.fasteners] == ["arm_pivot"]
        assert not any(s.phase.endswith(HEIGHT) and s.fasteners for s in steps.values()), "nothing left for later"
        extreme = [s for s in steps.values() if s.figure == "one extreme"]
        assert len(extreme) == 1
        assert "default" in extreme[0].text
        used = sorted(f.key for s in steps.values() for f in s.fasteners)
        assert used == sorted(f.key for s in of_side(usual, "front", side) for f in s.fasteners), "each bolt once"
    packs = planned(job_on("leaf_axle", "rear"), "rear", "leaf_packs")
    loaded = packs.model_copy(update={"brief": hanging.brief})
    late = [f.key for s in card(loaded).steps if s.phase.endswith(HEIGHT) for f in s.fasteners]
    assert {"u_bolt", "shackle"} <= set(late), "a pack is clamped with the load on, whatever the school"


def test_a_bolt_says_how_it_is_got_at_and_what_is_in_its_way() -> None:
    job = planned(job_on("strut_front", "front"), "front", "spring_swap")
    axle = job.vehicle.front
    (role, *_) = joints_of(axle)["clamp"].fasteners
    clamp = fastener_of(axle, role).model_copy(
        update={"name": "clamp bolt", "spanner": "18 mm", "turned": "nut", "goes_in_from": "rear",
                "thread_locker": True, "blocked_by": "the drive shaft.", "count_per_side": 2}
    )  # fmt: skip

    def with_clamp(**more: object) -> Card:
        bolt = Fastener.model_validate(clamp.model_dump() | more)
        front = axle.model_copy(update={"fasteners": {**axle.fasteners, role: bolt}})
        return card(job.model_copy(update={"vehicle": job.vehicle.model_copy(update={"front": front})}))

    plain = {s.id: s for s in card(job).steps}
    told = with_clamp()
    steps = {s.id: s for s in told.steps}
    off = steps["front.left.clamp.off"]
    assert off.text.endswith("The clamp bolt cannot come out because of the drive shaft: take that off first.")
    usual = plain["front.left.clamp.off"].minutes
    assert off.minutes == (usual[0] + 10, usual[1] + 40)
    use = next(f for f in steps["front.left.clamp.on"].fasteners if f.key == role)
    assert use.handling == "18 mm, the nut is turned, goes in from the rear, thread locker"
    assert not use.renew
    assert "Spanners and sockets: 18 mm" in told.preflight.tools
    assert "Thread locker as the maker says" in told.preflight.consumables
    cut = with_clamp(way_out="cut it and fit a new one")
    assert "cut it and fit a new one." in next(s.text for s in cut.steps if s.id == "front.left.clamp.off")
    assert "4 × clamp bolt, new (front)" in cut.preflight.hardware, "what is cut is renewed"
    assert "4 × clamp bolt, front" in cut.preflight.throw_away
    free = with_clamp(blocked_by=" ", way_out="cut it and fit a new one")
    assert not any("clamp bolt, new" in line for line in free.preflight.hardware), "nothing in its way, nothing cut"


def test_an_adjuster_is_set_with_its_bar_home_again() -> None:
    """The bar is unloaded by its adjuster, drawn, turned and home; only then does the bolt find its new place."""
    job = job_on("wishbones_torsion", "front")
    bars = {"id": "c1", "change": {"type": "torsion_reindex", "axle": "front", "inner_by": 5, "outer_by": 4}}
    bolts = {"id": "c2", "change": {"type": "torsion_adjuster", "axle": "front", "turns": 2}}
    made = card(job.model_copy(update={"plan": Plan.model_validate({"changes": [bars, bolts]})}))
    for side in SIDES:
        order = [s.id.removeprefix(f"front.{side}.") for s in of_side(made, "front", side)]
        wanted = ["adjuster.off", "bar.off", "c1.0", "bar.on", "c2.0", "adjuster.on"]
        assert [i for i in order if i in wanted] == wanted

"""What is drawn against what is computed: lengths of coils, rods, stops, hoses and leaves, read off the shapes."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.job import BikeBrief, BikeJob
from inclinum.core.bike.machine import ENDS
from inclinum.core.bike.prediction import assess as assess_bike
from inclinum.core.bike.prediction import predict_bike
from inclinum.core.bike.views import machine_view
from inclinum.core.car.archetypes import ARCHETYPES, BODIES, vehicle_of
from inclinum.core.car.archetypes.recognise import RECOGNISED
from inclinum.core.car.attached import FlexLine, TyreGap
from inclinum.core.car.bench import axle_bench, bench_drawn
from inclinum.core.car.changes import Block, SeatSpacer
from inclinum.core.car.limits.flex_lines import spans
from inclinum.core.car.limits.tyre_gaps import left
from inclinum.core.car.parts import WheelParts, look_of
from inclinum.core.car.prediction import assess, predict
from inclinum.core.car.stance import Stance
from inclinum.core.car.views import _steered, axle_view
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AXLES, AxleName
from inclinum.core.machines import KINDS
from inclinum.core.machines.pictures import pictures_of_bike, pictures_of_car
from inclinum.core.quantity import Length
from inclinum.core.shapes import (
    ABOVE,
    BEHIND,
    FROM_THE_RIGHT,
    SIDE,
    VIEWS,
    Bar,
    Coil,
    Curve,
    Disc,
    Part,
    Ribbon,
    Shape,
    SidePhotograph,
    View,
    bounds,
    placed,
)
from inclinum.core.springs.fitted import Coil as CoilData
from inclinum.core.springs.fitted import LeafPackData, SeatedSpring
from inclinum.demo import demo_bike_jobs, demo_jobs
from tests.core.test_attached import with_front, with_rear
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import AT, job_on
from tests.core.test_sides import read


def parts_at(stance: Stance, *travels: float) -> list[list[Part]]:
    wheel = WheelParts(stance.of_side("left"), stance.corner.body.poses(np.array(travels)))
    return [wheel.of_wheel(n) for n in range(len(travels))]


def only(parts: list[Part], name: str) -> Part:
    found = [p for p in parts if p.name.startswith(name)]
    assert len(found) == 1, (name, [p.name for p in parts])
    return found[0]


def long(part: Part) -> float:
    return float(np.linalg.norm(part.at[1] - part.at[0]))


@given(st.floats(60, 400), st.floats(3.0, 12.0))
def test_a_coil_fills_its_length_and_its_turns_share_what_the_wires_leave(length: float, turns: float) -> None:
    wire = 8.0
    coil = Coil("coil", np.array([[0, 0, 0], [0, 0, length]]), mean=100, wire=wire, turns=turns)
    at = coil.heights(np.array([0.0, 1.0, turns - 1.0, turns]))
    solid = wire * (turns + 1)
    assert at[0] == pytest.approx(wire / 2)
    if length < solid:
        return
    assert at[3] == pytest.approx(length - wire / 2)
    # Between the flat ends every turn rises alike; solid, each lies on the one before.
    pitch = (at[2] - at[1]) / (turns - 2)
    assert pitch == pytest.approx((length - 3 * wire) / (turns - 2))
    assert pitch >= wire - 1e-9
    drawn = coil.seen(SIDE)
    assert len(drawn) == round(2 * turns)
    room = bounds(drawn)
    assert room is not None
    assert room[1] - room[0] == pytest.approx(100 + wire, abs=2.5)
    assert room[3] - room[2] <= length + 0.2


def test_pressed_solid_its_turns_touch() -> None:
    spring = CoilData(rate_n_per_mm=30, free_length_mm=320, solid_length_mm=135, active_coils=6)
    look = look_of(spring)
    coil = Coil("coil", np.array([[0, 0, 0], [0, 0, 135.0]]), mean=look.mean, wire=look.wire, turns=look.turns)
    pitch = float(np.diff(coil.heights(np.array([2.0, 3.0])))[0])
    assert pitch == pytest.approx(look.wire)


def test_a_wheel_is_as_large_as_it_is_from_every_side_and_a_bar_as_thick() -> None:
    tyre = Disc("tyre", np.array([[100.0, 700, 310]]), axis=np.array([0.0, 1, 0]), radius=310, width=205)
    for view, across, up in ((SIDE, 620, 620), (BEHIND, 205, 620), (ABOVE, 205, 620)):
        room = bounds(tyre.seen(view))
        assert room is not None
        assert (room[1] - room[0], room[3] - room[2]) == pytest.approx((across, up), abs=0.5)
    # Seen from behind the left is on the left, from the left the front is, from above the front is on top.
    assert bounds(tyre.seen(BEHIND))[1] < 0  # type: ignore[index]
    assert (bounds(tyre.seen(ABOVE))[2] + bounds(tyre.seen(ABOVE))[3]) / 2 == pytest.approx(100)  # type: ignore[index]
    ahead = Disc("tyre", np.array([[500.0, 0, 0]]), axis=np.array([0.0, 1, 0]), radius=10, width=10)
    assert bounds(ahead.seen(SIDE))[1] < 0  # type: ignore[index]
    assert tyre.mirrored().at[0] == pytest.approx([100, -700, 310])
    bar = Bar("arm", np.array([[0, 0, 0], [300.0, 0, 400]]), wide=30)
    corners = np.array(bar.seen(SIDE)[0].line)
    assert np.linalg.norm(corners[1] - corners[0]) == pytest.approx(500, abs=0.3) or np.linalg.norm(
        corners[2] - corners[1]
    ) == pytest.approx(30, abs=0.3)
    end_on = Bar("arm", np.array([[0, 0, 0], [0, 400.0, 5]]), wide=30).seen(SIDE)[0]
    assert (len(end_on.line), end_on.wide) == (1, 30)


def test_rod_and_stop_are_drawn_as_far_out_and_as_squeezed_as_they_are() -> None:
    """At droop the stop has its height and the rod is out; it touches the body where the window says; then it gives."""
    stance = assess(job_on("strut_front", "front")).after.front
    window, axle = stance.window, stance.axle
    assert window.stop_contact is not None
    assert axle.bump_stop.contact_mm is not None
    travels = (stance.full_droop, stance.travel, window.stop_contact, stance.bump_end)
    seen = parts_at(stance, *travels)
    heights = [long(only(p, "bump stop")) for p in seen]
    assert heights[:3] == pytest.approx([axle.bump_stop.height_mm] * 3, abs=0.05)
    squeezed = axle.bump_stop.contact_mm - float(stance.ride.damper_at(stance.bump_end))
    assert squeezed > 5
    assert axle.bump_stop.height_mm - heights[3] == pytest.approx(squeezed, abs=0.05)
    rods = [long(only(p, "damper rod")) for p in seen]
    lengths = [float(stance.ride.damper_at(z)) for z in travels]
    assert np.diff(rods) == pytest.approx(np.diff(lengths), abs=0.05)
    bodies = {round(long(only(p, "damper,")), 2) for p in seen}
    assert len(bodies) == 1, "a body does not stretch"
    stop, body = only(seen[2], "bump stop"), only(seen[2], "damper,")
    assert stop.at[1] == pytest.approx(body.at[1], abs=0.1), "it lands on the body"


def test_a_spring_is_as_long_as_its_force_says_and_a_ring_as_thick() -> None:
    below = on(job_on("wishbones_long", "rear"), SeatSpacer(axle="rear", thickness_mm=14))
    parts = parts_at(assess(below).after.rear, 0.0)[0]
    ring, coil = only(parts, "seat raised"), only(parts, "spring,")
    assert long(ring) == pytest.approx(14, abs=0.01)
    assert ring.at[1] == pytest.approx(coil.at[0], abs=5.1), "the coil stands on its seat, and that on the ring"
    assert ring.at[1][2] < coil.at[0][2]
    assert not [p for p in parts if p.name == "spring spacer"]
    job = on(job_on("wishbones_long", "rear"), SeatSpacer(axle="rear", thickness_mm=14, lies="above"))
    stance = assess(job).after.rear
    for parts, z in zip(
        parts_at(stance, stance.travel, stance.bump_end), (stance.travel, stance.bump_end), strict=True
    ):
        assert long(only(parts, "spring,")) == pytest.approx(float(stance.ride.spring_at(z)), abs=0.05)
        ring, coil = only(parts, "spring spacer"), only(parts, "spring,")
        assert long(ring) == pytest.approx(14, abs=0.01)
        assert ring.at[0] == pytest.approx(coil.at[1], abs=0.01), "it lies on the coil"
        assert ring.at[1][2] > ring.at[0][2], "and takes its room from the coil, not from above the mount"
    # Hanging lower than it is long, a coil stands loose: it stays as long as it is free.
    assert isinstance(stance.axle.spring, CoilData)
    short = stance.axle.spring.model_copy(update={"free_length_mm": stance.axle.spring.free_length_mm - 120})
    shorter = replace(stance, axle=stance.axle.model_copy(update={"spring": short}))
    loose = WheelParts(shorter, stance.corner.body.poses(np.array([stance.full_droop])))
    assert float(stance.ride.spring_at(stance.full_droop)) > short.free_length_mm
    assert long(only(loose.of_wheel(0), "spring,")) == pytest.approx(short.free_length_mm, abs=0.05)


def test_a_pack_has_its_leaves_through_eyes_and_seat_and_a_block_its_height() -> None:
    job = on(job_on("leaf_axle", "rear"), Block(axle="rear", height_mm=40))
    stance = assess(job).after.rear
    pack = stance.axle.spring
    assert isinstance(pack, LeafPackData)
    parts = parts_at(stance, stance.travel)[0]
    leaves = [p for p in parts if isinstance(p, Ribbon)]
    assert len(leaves) == pack.leaves
    poses = stance.corner.body.poses(np.array([stance.travel]))
    eye, seat, shackle = (stance.corner.place(n, poses)[0][0] for n in ("fixed_eye", "seat", "shackle_eye"))
    main = leaves[0].at
    assert main[0] == pytest.approx(eye, abs=0.5)
    assert main[-1] == pytest.approx(shackle, abs=0.5)
    away = np.linalg.norm(main - seat, axis=1).min()
    assert away < 30, "the main leaf goes through the seat"
    below = [float(leaf.at[:, 2].min()) for leaf in leaves]
    assert np.diff(below) == pytest.approx(-(pack.thickness_mm + pack.liner_mm), abs=1.0)
    assert long(only(parts, "block")) == pytest.approx(40, abs=0.01)
    hub = float(stance.corner.place("wheel_centre_left", poses)[0][0][2])
    bolts = [p for p in parts if p.name == "U-bolt"]
    assert len(bolts) == 2
    for bolt in bolts:
        high, low = bolt.at[:, 2].max(), bolt.at[:, 2].min()
        assert high > seat[2], "round the pack"
        assert low < hub - 40, "and round the tube"


@pytest.mark.parametrize(("length", "tight"), [(520.0, False), (300.0, True)])
def test_a_hose_hangs_from_clip_to_clip_as_long_as_it_is(length: float, *, tight: bool) -> None:
    body, wheel = (60.0, 450.0, 560.0), (40.0, 640.0, 300.0)
    job = with_rear(
        job_on("trailing", "rear"), lines=(FlexLine(name="hose", body=body, wheel=wheel, length_mm=length),)
    )
    stance = assess(job).after.rear
    drawn = only(parts_at(stance, 0.0)[0], "hose")
    assert isinstance(drawn, Curve)
    assert drawn.at[0] == pytest.approx(body, abs=0.01)
    assert drawn.at[-1] == pytest.approx(wheel, abs=0.6)
    assert (drawn.role == "hose_tight") == tight
    if not tight:
        arc = float(np.sum(np.linalg.norm(np.diff(drawn.at, axis=0), axis=1)))
        assert arc == pytest.approx(length, rel=0.01)
        assert drawn.at[:, 2].min() < min(body[2], wheel[2]) + 1, "it hangs, and does not rise"


def test_a_crank_is_drawn_between_its_rods_and_a_spring_beside_its_arm_stands_on_a_pan() -> None:
    """At ±60 mm of travel: the crank's ends are the rods' ends, all as long as they were made."""
    watt = assess(job_on("watt_axle", "rear")).before.rear.of_side("left")
    drawn = WheelParts(watt, watt.corner.body.poses(np.array([-60.0, 0.0, 60.0])))
    came = watt.corner.body.points
    crank = [only(drawn.of_axle(n), "crank") for n in range(3)]
    for rod, end in (("watt_upper", 0), ("watt_lower", 1)):
        for n in range(3):
            bar = next(p for p in drawn.of_axle(n) if isinstance(p, Bar) and np.allclose(p.at[0], came[f"{rod}_body"]))
            assert bar.at[1] == pytest.approx(crank[n].at[end])
            assert long(bar) == pytest.approx(np.linalg.norm(came[rod] - came[f"{rod}_body"]), abs=1e-6)
    # Rods level at ride and 523 mm long: either way they pull its ends apart by about 60²/(2·523) mm.
    assert all(abs(crank[n].at[0][1] - crank[1].at[0][1]) == pytest.approx(3.4, abs=1.2) for n in (0, 2))

    beam = assess(job_on("twist_beam", "rear")).before.rear
    (there,) = parts_at(beam, 0.0)
    pan, seat = (
        only(there, "spring pan, sketched"),
        beam.corner.place("spring_arm", beam.corner.body.poses(np.zeros(1))),
    )
    assert pan.at[1] == pytest.approx(seat[0][0])
    arms = [p for p in there if isinstance(p, Bar) and p.role == "arm" and p is not pan]
    apart = min(np.linalg.norm(np.cross(pan.at[0] - a.at[0], a.at[1] - a.at[0])) / long(a) for a in arms)
    assert apart == pytest.approx(0, abs=1e-6), "from a place of its arm"
    (five,) = parts_at(assess(job_on("five_link", "rear")).before.rear, 0.0)
    assert not [p for p in five if p.name.startswith("spring pan")], "on its link it needs none"


@pytest.mark.parametrize(("key", "end"), AT)
def test_every_archetype_is_drawn_over_its_whole_travel_from_every_side(key: str, end: AxleName) -> None:
    stood = assess(job_on(key, end))
    stance = stood.after.axle(end)
    for name in VIEWS:
        seen = axle_view(stood.before, stood.after, end, name)
        assert seen.travel[0] == pytest.approx(stance.full_droop - stance.travel, abs=0.06)
        assert seen.travel[-1] == pytest.approx(stance.bump_end - stance.travel, abs=0.06)
        assert seen.travel[seen.at_ride] == 0
        assert {len(t.values) for t in seen.told} == {len(seen.frames)}
        roles = {s.role for s in seen.frames[0]}
        assert {"tyre", "damper_body", "damper_rod"} <= roles
        springs = {"coil", "leaf", "air", "bar"} & roles
        assert springs, key
        every = [p for frame in seen.frames for s in frame for p in s.line]
        assert np.isfinite(np.array(every)).all()
        tyres = [_middle(next(s for s in frame if s.role == "tyre")) for frame in seen.frames]
        if name == "side":
            rises = np.diff([z for _, z in tyres])
            assert rises == pytest.approx(np.diff(seen.travel), abs=0.35), "the wheel goes up by its travel"
        else:
            assert sum(s.role == "tyre" for s in seen.frames[0]) == 2


def test_what_is_told_beside_a_picture_is_what_the_panel_tells() -> None:
    """Camber and toe where it rides, with what a rack read; gap at the stop and damper left as in the travel bars."""
    job = demo_jobs()[-1]
    answer = predict(job)
    for axle in AXLES:
        for whose, angles, travel in (
            ("planned", answer.axle(axle).angles_after, answer.axle(axle).travel_after),
            ("found", answer.axle(axle).angles_before, answer.axle(axle).travel_before),
        ):
            seen = KINDS["car"].seen(job, axle, "behind", "found" if whose == "found" else "planned", "travel")
            told = {t.name: t.values[seen.at_ride] for t in seen.told}
            assert told["camber"] == pytest.approx(angles.camber_deg, abs=2e-3), (axle, whose)
            assert told["toe, one wheel"] == pytest.approx(angles.toe_deg, abs=2e-3)
            assert travel.gap is not None
            assert told["wheel to bump stop"] == pytest.approx(travel.gap, abs=0.06)
            assert seen.travel[-1] == pytest.approx(travel.bump - travel.ride, abs=0.06)
            assert seen.travel[0] == pytest.approx(travel.droop - travel.ride, abs=0.06)


def _middle(shape: Shape) -> tuple[float, float]:
    room = bounds([shape])
    assert room is not None
    return (room[0] + room[1]) / 2, (room[2] + room[3]) / 2


def test_the_whole_vehicle_stands_on_the_ground_and_rises_with_its_plan() -> None:
    job = on(job_on("wishbones_long", "rear"), SeatSpacer(axle="rear", thickness_mm=20))
    answer = predict(job)
    lowest = [bounds([s])[2] for s in answer.drawing.after.parts if s.role == "tyre"]  # type: ignore[index]
    assert lowest == pytest.approx([0.0, 0.0], abs=1.0)
    tops = [max(v for s in one.drawing.after.parts if s.role == "spacer" for _, v in s.line) for one in (answer,)]
    assert tops[0] > 500


def test_the_tape_lies_where_it_is_read() -> None:
    """Ends of every reading against the numbers: hub to arch, radius, tread to arch, rod, gap at the stop, stations."""
    job = read(job_on("strut_front", "front"))
    answer = predict(job)
    stood = assess(job)
    lines = {(t.axle, t.quantity, t.station): t for t in answer.drawing.before.tape}

    def length(key: tuple[AxleName | None, str, str]) -> float:
        return math.dist(lines[key].start, lines[key].end)

    for axle in AXLES:
        stance = stood.before.axle(axle)
        hub = next(h.before for h in answer.heights if (h.axle, h.side, h.kind) == (axle, "left", "hub_to_arch"))
        assert length((axle, "hub_to_arch", "")) == pytest.approx(hub, abs=0.6)
        assert length((axle, "tyre_radius", "")) == pytest.approx(stance.axle.tyre_radius_mm, abs=0.1)
        assert length((axle, "tyre_to_arch", "")) == pytest.approx(hub - stance.axle.tyre_radius_mm, abs=0.7)
        assert lines[axle, "tyre_radius", ""].end[1] == pytest.approx(0, abs=2), "down to the ground"
    stance = stood.before.front
    contact = stance.axle.bump_stop.contact_mm
    assert contact is not None
    gap = float(stance.ride.damper_at(stance.travel)) - contact
    # Seen from the side a damper that leans inwards is a little shorter.
    assert length(("front", "bump_stop_gap", "")) == pytest.approx(gap, rel=0.03)
    rod = lines["front", "exposed_rod", ""]
    assert rod.start == lines["front", "bump_stop_gap", ""].start, "both begin where the rod leaves its body"
    for station in job.vehicle.stations:
        line = lines[None, "station", station.name]
        assert line.end[1] == 0
        assert line.start[0] == line.end[0]


@pytest.mark.parametrize("key", BIKES)
def test_a_two_wheeler_stands_on_both_wheels_with_its_spring_as_long_as_it_is(key: str) -> None:
    brief = BikeBrief(owner="Shop", rear_drop=Length.model_validate("0"))
    stood = assess_bike(BikeJob(id="drawn", title=key, vehicle=BIKES[key].bike(key, "X-1"), brief=brief))
    bike = stood.after.bike
    for end in ENDS:
        seen = machine_view(stood, end, "side")
        for frame in (seen.frames[0], seen.frames[seen.at_ride], seen.frames[-1]):
            lowest = [s.line[0][1] - s.wide / 2 for s in frame if s.role == "tyre"]
            assert lowest == pytest.approx([0, 0], abs=0.3)
        assert seen.travel[seen.at_ride] == 0
    slides = machine_view(stood, "front", "side").told[0].values
    assert (slides[0], slides[-1]) == pytest.approx((bike.fork.stroke_mm, 0), abs=0.1)
    seen = machine_view(stood, "rear", "side")
    coils = [[s for s in frame if s.role in ("coil", "coil_behind")] for frame in (seen.frames[0], seen.frames[-1])]
    spans = [np.array([p for s in shapes for p in s.line]) for shapes in coils]
    # Along the damper, from its seat to its collar: the farthest strands less what they are wide.
    lengths = [_along(frame, span) for frame, span in zip((seen.frames[0], seen.frames[-1]), spans, strict=True)]
    closes = float(next(t for t in seen.told if t.name.startswith("damper")).values[0])
    assert lengths[0] - lengths[1] == pytest.approx(closes, abs=3.0)
    wire = coils[0][0].wide
    assert lengths[0] + wire == pytest.approx(min(bike.spring.free_length_mm - bike.preload, 1e9), abs=3.0)
    with pytest.raises(DomainError, match="from its side"):
        machine_view(stood, "rear", "above")


def _along(frame: list[Shape], points: np.ndarray) -> float:
    eyes = np.array([s.line[0] for s in frame if s.role == "bush"][:2])
    along = (eyes[1] - eyes[0]) / np.linalg.norm(eyes[1] - eyes[0])
    far = points @ along
    return float(far.max() - far.min())


def test_look_of_a_coil_by_calliper_is_what_was_measured() -> None:
    spring = job_on("strut_front", "front").vehicle.front.spring
    assert isinstance(spring, SeatedSpring)
    assert look_of(spring).sketched
    assert math.isfinite(look_of(spring).mean)


@pytest.mark.parametrize("body", BODIES)
def test_a_body_is_as_tall_as_such_bodies_are_and_leaves_its_wheels_room(body: str) -> None:
    vehicle = vehicle_of("strut_front", "trailing", "car", "drawn", body=body)
    outline = vehicle.outline
    tall = max(z for shape in (outline.body, *outline.glass) for _, z in shape)
    assert 1100 < tall < 2300
    assert (tall > 1800) == (body == "van")
    # Over each hub the body begins at the arch's edge, and has no corner inside the wheel.
    for axle_x, axle in ((0.0, vehicle.front), (-vehicle.wheelbase_mm, vehicle.rear)):
        hub = axle.linkage.hub_height
        for x, z in outline.body:
            assert math.hypot(x - axle_x, z - hub) >= axle.hub_to_arch_mm - 1
        above = [z for x, z in outline.body if abs(x - axle_x) < 60]
        assert min(above) == pytest.approx(hub + axle.hub_to_arch_mm, abs=6)


def test_every_archetype_says_how_it_is_told_and_has_its_picture() -> None:
    assert set(RECOGNISED) == set(ARCHETYPES)
    assert len(set(RECOGNISED.values())) == len(RECOGNISED)
    front, rear, bikes = pictures_of_car("front"), pictures_of_car("rear"), pictures_of_bike("archetype")
    assert {*((k, "front") for k in front), *((k, "rear") for k in rear)} == set(AT)
    assert set(bikes) == set(BIKES)
    assert pictures_of_car("body") == pictures_of_bike("front") == {}
    for kind in KINDS.values():
        for choice in kind.choices:
            wanted = {o.key for o in choice.options} if choice.pictured else set()
            assert set(kind.pictures(choice.name)) == wanted, choice.name
    for picture in (*front.values(), *rear.values(), *bikes.values()):
        assert picture.high[0] - picture.low[0] > 900
        assert len(picture.shapes) > 25


def test_a_rack_turns_both_wheels_between_its_locks_and_left_is_left() -> None:
    job = with_front(job_on("strut_front", "front"), full_lock=60.0)
    stood = assess(job)
    stance = stood.after.front
    seen = axle_view(stood.before, stood.after, "front", "above", by="lock")
    assert (seen.by, seen.unit, seen.ends) == ("lock", "°", ("right lock", "left lock"))
    left, right = (np.array(t.values) for t in seen.told)
    assert (np.diff(left) > 0).all()
    assert (np.diff(right) > 0).all(), "both wheels go the same way"
    assert left == pytest.approx(-right[::-1], abs=0.02), "a left turn is a right turn in the mirror"
    # The rack as the steering curve has it, at 60 mm either way; toe in of a left wheel is a turn to the right.
    ends = stance.corner.sweep(
        np.array([stance.travel]), adjusted=stance.corner.steered(np.array([-60.0, 0.0, 60.0]))
    ).toe
    turns = np.degrees(ends[:, 0] - ends[1, 0])
    assert sorted(left[[0, -1]]) == pytest.approx(sorted(-turns[[0, 2]]), abs=0.5)
    assert left[-1] > 15
    # Seen from above with the front on top, at left lock the front edge of the left tyre is further left than its rear.
    tyres = [[s for s in frame if s.role == "tyre"] for frame in seen.frames]
    outline = np.array(max(tyres[-1], key=lambda s: -_middle(s)[0]).line)
    assert outline[outline[:, 1].argmax(), 0] < outline[outline[:, 1].argmin(), 0] - 50
    racks = [[u for s in seen.frames[n] if s.role == "rack" for u, _ in s.line] for n in (0, 12, 24)]
    assert [max(r) - min(r) for r in racks] == pytest.approx([max(racks[1]) - min(racks[1])] * 3, abs=0.3)
    assert max(racks[1]) == pytest.approx(-min(racks[1]), abs=0.3), "it lies across the middle"
    assert abs(min(racks[2]) - min(racks[0])) == pytest.approx(120, abs=0.5), "pushed by its travel, both ways"


def test_a_solid_axle_turns_its_wheels_about_their_kingpins_and_the_track_rod_stays_as_long() -> None:
    job = with_front(job_on("three_link_axle", "front"), full_lock=32.0)
    stood = assess(job)
    seen = axle_view(stood.before, stood.after, "front", "above", by="lock")
    left, right = (np.array(t.values) for t in seen.told)
    assert left[-1] == pytest.approx(32, abs=0.6), "the inner wheel by its lock"
    assert right[0] == pytest.approx(-32, abs=0.6)
    assert 15 < right[-1] < 45
    assert right[-1] != pytest.approx(32, abs=0.2), "the outer one as the rod takes it"
    longs = [
        long(p)
        for n in (0, 12, 24)
        for p in _steered(stood.after.front, "front").left.of_axle(n)
        if p.name.startswith("track rod")
    ]
    assert longs == pytest.approx([longs[1]] * 3, abs=0.1)
    with pytest.raises(DomainError, match="rear axle is not steered"):
        axle_view(stood.before, stood.after, "rear", "above", by="lock")
    unknown = assess(with_front(job_on("three_link_axle", "front"), full_lock=None))
    assert not axle_view(unknown.before, unknown.after, "front", "above").locks
    with pytest.raises(DomainError, match="enter its full lock"):
        axle_view(unknown.before, unknown.after, "front", "above", by="lock")


def test_what_comes_together_is_told_at_its_place_as_the_limits_have_it() -> None:
    line = FlexLine(name="hose", body=(60.0, 450.0, 560.0), wheel=(40.0, 640.0, 300.0), length_mm=420.0)
    gap = TyreGap(name="guard", gap_mm=60.0, at=(150.0, 560.0, 420.0), keep_mm=10)
    job = with_front(
        job_on("strut_front", "front"), lines=(line,), tyre_gaps=(gap,), tyre_width_mm=205.0, full_lock=50.0
    )
    stood = assess(job)
    stance, before = stood.after.front, stood.before.front
    seen = axle_view(stood.before, stood.after, "front", "behind")
    near = {n.name: n for n in reversed(seen.near)}
    travels = np.array(seen.travel) + stance.travel
    contact = stance.window.stop_contact
    assert contact is not None
    assert near["stop"].mm == pytest.approx(contact - travels, abs=0.1)
    assert near["damper open"].mm[0] == pytest.approx(0, abs=0.6), "hanging, it is all the way out"
    assert near["hose"].mm == pytest.approx(line.length_mm - spans(stance, line, travels)[0], abs=0.15)
    assert [n.mm[seen.at_ride] for n in seen.near if n.name == "guard"] == pytest.approx([60.0, 60.0], abs=0.1), (
        "as it was read, where it was read"
    )
    # Each adjuster and each joint is on its own side, seen from behind.
    for spot in (*seen.adjusters, *seen.joints):
        u, side = spot.at[0], "left" if "left" in spot.key.split(".") else "right"
        assert (u < 0) == (side == "left") or abs(u) < 1, spot.key
    joints = {s.key: s.at for s in seen.joints}
    assert joints["left.strut_top"][1] > joints["left.clamp"][1] > 0
    both = [min(n.mm) for n in seen.near if n.name == "guard"]
    assert len(both) == 2, "at both wheels"
    locked = [min(n.mm) for n in axle_view(stood.before, stood.after, "front", "above", by="lock").near]
    assert min(*both, *locked) >= left(gap, before, stance) - 2.0
    at_stop = near["stop"].at[-1]
    drawn = next(s for s in seen.frames[-1] if s.role == "bump_stop")
    assert abs(at_stop[0]) == pytest.approx(abs(_middle(drawn)[0]), abs=60), "where the stop is drawn"
    assert at_stop[0] < 0, "and on the left from behind"


@pytest.mark.parametrize(("key", "end"), AT)
def test_the_bench_draws_every_archetype_where_its_points_are(key: str, end: AxleName) -> None:
    axle = job_on(key, end).vehicle.axle(end)
    bench, drawn = axle_bench(axle), bench_drawn(axle)
    assert {len(frames) for frames in drawn.views.values()} == {len(bench.travel)}
    wheel = np.array(bench.frames[bench.wheel])
    for n in (0, 20, 40):
        tyres = [_middle(s) for s in drawn.views["side"][n] if s.role == "tyre"]
        assert len(tyres) == 1
        assert tyres[0][1] == pytest.approx(wheel[n][2], abs=0.3)
        behind = sorted(_middle(s)[0] for s in drawn.views["behind"][n] if s.role == "tyre")
        assert behind[0] == pytest.approx(-wheel[n][1], abs=3.0), "the left wheel on the left"
        assert len(behind) == 2
    assert drawn.right == []


def test_a_right_wheel_of_its_own_is_drawn_at_its_own_points() -> None:
    axle = job_on("strut_front", "front").vehicle.front
    points = dict(axle.linkage.points)
    x, y, z = points["lower_outer"]
    points["lower_outer"] = (x, y, z - 20)
    own = type(axle.linkage).model_validate(axle.linkage.model_dump() | {"points": points})
    bench = axle_bench(axle.model_copy(update={"right": own}))
    assert bench.right is not None
    drawn = bench_drawn(axle.model_copy(update={"right": own}))
    assert len(drawn.right) == len(bench.right.travel)
    at = np.array(bench.right.frames["lower_outer"][20])
    places = [p for s in drawn.right[20] if s.role == "joint" for p in s.line]
    assert min(np.hypot(-u - at[0], v - at[2]) for u, v in places) < 1.0


def side_photograph(front: tuple[float, float], rear: tuple[float, float]) -> SidePhotograph:
    return SidePhotograph(photo="0" * 64, width=1000, height=500, front=front, rear=rear)


def test_a_photograph_stands_on_the_wheels_of_the_drawing_whichever_way_it_looks() -> None:
    # 600 of 1000 points are 3000 mm: 5 mm each. The wheels stand 200 points from the bottom, 300 from the top.
    left = placed(side_photograph((0.2, 0.6), (0.8, 0.6)), (0.0, 320.0), (-3000.0, 320.0))
    assert (left.corner, left.right, left.down) == ((1000, 1820), (-4000, 1820), (1000, -680))
    # Taken from the other side it is turned over, and stands the same.
    right = placed(side_photograph((0.8, 0.6), (0.2, 0.6)), (0.0, 320.0), (-3000.0, 320.0))
    assert (right.corner, right.right, right.down) == ((-4000, 1820), (1000, 1820), (-4000, -680))
    # A camera held askew: the wheels are level in the drawing all the same.
    askew = placed(side_photograph((0.2, 0.6), (0.8, 0.7)), (0.0, 320.0), (-3000.0, 320.0))
    for share, wheel in (((0.2, 0.6), (0.0, 320.0)), ((0.8, 0.7), (-3000.0, 320.0))):
        corner, right, down = (np.array(p) for p in (askew.corner, askew.right, askew.down))
        at = corner + share[0] * (right - corner) + share[1] * (down - corner)
        assert at == pytest.approx(wheel, abs=0.2)
    with pytest.raises(ValidationError, match="too near each other"):
        side_photograph((0.5, 0.6), (0.55, 0.6))


def test_a_photograph_belongs_to_the_machine_as_it_came() -> None:
    picture_of = side_photograph((0.2, 0.6), (0.8, 0.6))
    for job, predicted in ((demo_jobs()[-1], predict), (demo_bike_jobs()[-1], predict_bike)):
        measure = job.measure.model_copy(update={"photograph": picture_of})
        drawing = predicted(job.model_copy(update={"measure": measure})).drawing  # type: ignore[arg-type]
        assert drawing.photograph is not None
        wide = abs(drawing.photograph.right[0] - drawing.photograph.corner[0])
        base = job.vehicle.wheelbase_mm
        assert 0.6 * wide == pytest.approx(base, rel=0.02)
        with pytest.raises(ValidationError, match="under Measure"):
            type(job.prove).model_validate({"after": {"photograph": picture_of.model_dump()}})


@pytest.mark.parametrize("view", [*VIEWS.values(), FROM_THE_RIGHT])
def test_a_coil_is_wound_one_way_from_whichever_side_it_is_seen(view: View) -> None:
    """Nobody says which way: as it is drawn, what is in front goes up to the left, what is behind to the right."""
    along = np.eye(3)[view.up[0]] * view.up[1]
    coil = Coil("coil", np.array([[10.0, 20.0, 30.0], np.array([10.0, 20.0, 30.0]) + 300 * along]), wire=10, turns=8)
    seen = coil.seen(view)
    assert {s.role for s in seen} == {"coil", "coil_behind"}
    for shape in seen:
        (u, v), (to, top) = shape.line[0], shape.line[-1]
        assert top >= v
        assert (to - u < 0) == (shape.role == "coil")

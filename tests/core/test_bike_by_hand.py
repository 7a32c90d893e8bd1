"""Two-wheelers by hand: numbers worked out on paper for a machine simple enough for it, each sign pinned once.

The swing arm lies level, 600 mm long; the damper stands upright on its middle, 300 mm eye to eye at full extension.
With the axle 60 mm up (sin θ = 0.1, cos θ = 0.994987) the lower eye is at (301.504, 330): the damper is 270.004 mm
long, its ratio 298.325 / 596.992 = 0.499713.
"""

from typing import Any

import pytest

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.card import bike_card
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.prediction import predict_bike
from inclinum.core.bike.proof import prove_bike
from inclinum.core.card.steps import Card
from inclinum.core.kinematics import attitude
from tests.core.test_bike import job_on
from tests.core.test_bike_limits import deep

SHORTENED, RATIO = 300 - 270.00419, 0.499713
RATE, PRELOAD = 60.0, 10.0
SPRUNG = RATE * (PRELOAD + SHORTENED) * RATIO / 9.80665
"""kg that stand 60 mm deep: 122.28."""
RIDER = {"name": "r", "mass": "40", "x_mm": 0}


def machine(**fields: Any) -> Bike:
    base = BIKES["cantilever"].bike("x").model_dump()
    spring = {"rate_n_per_mm": RATE, "free_length_mm": 200, "stroke_mm": 120, "max_preload_mm": 15}
    bike = Bike.model_validate(
        base
        | {
            "rear": {"kind": "direct", "axle": (0, 300), "pivot": (600, 300), "damper_arm": (300, 300),
                     "damper_frame": (300, 600)},
            "damper": {"extended_mm": 300, "stroke_mm": 80, "collar_pitch_mm": 1.5},
            "spring": spring, "preload_mm": PRELOAD, "sprung_rear_kg": SPRUNG, "rear_tyre_radius_mm": 300,
            "drive": {"kind": "none"}, "wheelbase_mm": 1400,
        }
    )  # fmt: skip
    for path, value in fields.items():
        bike = deep(bike, path.replace("__", "."), value)
    return bike


def swap(**spring: Any) -> dict[str, Any]:
    kept = {"rate_n_per_mm": RATE, "free_length_mm": 200, "stroke_mm": 120, "max_preload_mm": 15}
    return {"type": "rear_spring", "spring": kept | spring}


def card_of(bike: Bike, *changes: dict[str, Any], **brief: Any) -> Card:
    return bike_card(job_on(bike, list(changes), **brief))


def collars(card: Card) -> list[str]:
    return [s.figure for s in card.steps if s.text.startswith("Collar") and s.figure]


def sag(bike: Bike, *changes: dict[str, Any]) -> float:
    return predict_bike(job_on(bike, list(changes))).planned.unladen.rear_sag_mm


def test_it_stands_as_worked_out() -> None:
    answer = predict_bike(job_on(machine(), rides=[RIDER]))
    assert answer.planned.unladen.rear_sag_mm == pytest.approx(60.0, abs=0.01)
    # Another 392.27 N: ratio 0.499 and rate 60·0.499² = 14.93 N/mm less F·dMR/dz ≈ 2400·1.9e-5.
    assert answer.planned.laden.rear_sag_mm - 60.0 == pytest.approx(392.27 / 14.95, rel=0.01)


def test_the_washer_is_in_the_count_and_the_collar_is_where_the_plan_left_it() -> None:
    came = machine()
    assert sag(machine(spring__seat_washer_mm=6)) == pytest.approx(60.0, abs=0.01)
    assert sag(came, swap(seat_washer_mm=6)) == pytest.approx(60.0, abs=0.01)
    answer = predict_bike(job_on(came, [swap(seat_washer_mm=15) | {"preload_mm": 15}]))
    assert answer.preload_mm == 15
    assert not [f for f in answer.findings if f.id.startswith("preload")], "15 mm is what its maker allows"
    # 5 mm more of preload lift the axle by 5/0.4997.
    assert answer.planned.unladen.rear_sag_mm == pytest.approx(60 - 5 / RATIO, abs=0.03)
    # Collar of 1.5 mm a turn: 15 mm are 10 turns; a swap alone goes back to the 10 mm it came with.
    assert collars(card_of(came, swap() | {"preload_mm": 15})) == ["10.00 turns · 15 mm"]
    assert collars(card_of(came, swap())) == ["6.67 turns · 10 mm"]
    assert collars(card_of(came, swap(), {"type": "rear_preload", "turns": 4})) == ["4.00 turns · 6 mm"], "set once"
    damper = {"type": "rear_damper", "extended_mm": 300, "stroke_mm": 80}
    assert collars(card_of(came, damper)) == ["6.67 turns · 10 mm"]


def test_a_zero_found_hanging_hides_its_millimetres_and_is_told_so() -> None:
    hanging = machine(damper__zero_found="hanging", damper__hidden_mm=4, preload_mm=14)
    assert sag(hanging) == pytest.approx(60.0, abs=0.01), "14 counted less 4 hidden"
    for changes in ([{"type": "rear_preload", "preload_mm": 14}], [swap()]):
        text = " ".join(s.text for s in card_of(hanging, *changes).steps)
        assert "only hanging" in text
        assert "(forced, 4 mm longer)" in text
        assert "forced fully out" not in text
    answer = predict_bike(job_on(hanging, [{"type": "rear_preload", "preload_mm": 22}]))
    over = next(f for f in answer.findings if "More rear preload" in f.what)
    assert (over.value, over.limit) == (18, 15)
    assert over.cures[0].title == "Preload 19 mm", "counted from the zero that hides 4"
    bench = predict_bike(job_on(hanging)).sags["rear"]
    bare = predict_bike(job_on(machine())).sags["rear"]
    assert (bench.preload_mm, bare.preload_mm) == (14, 10), "the panel counts as the collar does"
    assert bench.preload_for_target_mm == pytest.approx((bare.preload_for_target_mm or 0) + 4)
    assert "forced fully out" in " ".join(s.text for s in card_of(machine(), swap()).steps)


def test_a_longer_spring_finds_zero_further_back_on_the_thread() -> None:
    bike = machine(damper__threads_at_zero_mm=11)
    # 5 mm of spring and 2 of washer: zero shows 4 mm, and 10 mm of preload 14.
    steps = " ".join(s.text for s in card_of(bike, swap(free_length_mm=205, seat_washer_mm=2)).steps)
    assert "Then 14 mm of thread show" in steps
    answer = predict_bike(job_on(bike, [swap(free_length_mm=230)]))
    found = next(f for f in answer.findings if "no thread left" in f.what)
    assert found.value == pytest.approx(11 - 30 + 10)
    assert found.severity == "stops"
    other = {"type": "rear_damper", "extended_mm": 290, "stroke_mm": 80}
    with pytest.raises(ValueError, match="collar at zero first"):
        predict_bike(job_on(bike, [other, {"type": "rear_preload", "threads_mm": 23}]))


def test_a_step_is_told_on_the_machine_as_it_is_by_then() -> None:
    bike = machine()
    springs = bike.fork.springs
    assert springs.type == "coil"
    free = springs.left.free_length_mm + 30
    spring = {"rate_n_per_mm": springs.left.rate_n_per_mm, "free_length_mm": free}
    # With springs 30 mm longer the spacer that leaves 2 mm of preload is room + 2 − spring.
    spacer = springs.available_mm + 2 - free
    stack = [{"type": "fork_springs", "spring": spring}, {"type": "fork_spacer", "spacer_mm": spacer}]
    text = next(s.text for s in card_of(bike, *stack).steps if s.id == "c2.0")
    assert "2.0 mm of preload remains" in text
    assert predict_bike(job_on(bike, stack)).sags["front"].preload_mm == pytest.approx(2.0)


def test_tyres_are_in_the_drop_but_not_between_axle_and_mark() -> None:
    bike = machine()
    lower = {"type": "tyres", "front_radius_mm": bike.front_tyre_radius_mm, "rear_radius_mm": 288}
    answer = predict_bike(job_on(bike, [lower], rear_drop="12"))
    assert answer.rear_drop_mm == pytest.approx(12.0)
    assert answer.aim_met
    assert not [f for f in answer.findings if f.id == "aim.rear"], "panel and finding tell one drop"
    missed = predict_bike(job_on(bike, [lower], rear_drop="30"))
    finding = next(f for f in missed.findings if f.id == "aim.rear")
    assert finding.value == pytest.approx(missed.rear_drop_mm)
    # The mark on the frame is as far above the axle as it was.
    reads = [{"end": "rear", "state": "laden", "reading": "500"}]
    job = BikeJob.model_validate(
        job_on(bike, [lower], rear_drop="12").model_dump()
        | {"measure": {"sags": reads}, "prove": {"after": {"sags": reads}}}
    )
    drop = prove_bike(job).rear_drop
    assert drop is not None
    assert drop.predicted == pytest.approx(0.0)
    assert drop.residual == pytest.approx(0.0)


def test_a_fork_that_came_shortened_is_drawn_and_judged_as_it_came() -> None:
    bike, came = machine(), machine(fork__shortened_mm=20)
    one, other = (predict_bike(job_on(b)).drawing.before_unladen for b in (bike, came))
    assert other.turn == pytest.approx(one.turn, abs=1e-9)
    assert other.front_axle == one.front_axle
    gap = {"name": "tyre to guard", "end": "front", "gap_mm": 12, "wanted_mm": 5}
    answer = predict_bike(job_on(Bike.model_validate(came.model_dump() | {"far_ends": [gap]})))
    assert not [f for f in answer.findings if f.id.startswith("gap")], "as it came it has its 12 mm"
    # Made 10 mm shorter, the extended front comes down 10·cos 26°.
    shorter = {"type": "fork_travel", "shorter_mm": 10}
    planned = predict_bike(job_on(came, [shorter]))
    down = planned.planned.extended.front_drop_mm - planned.before.extended.front_drop_mm
    assert down == pytest.approx(10 * 0.898794, abs=1e-3)
    # The frame as drawn turns by as much as the told rake: rear and front down apart over the wheelbase.
    turned = planned.drawing.planned["extended"].turn - planned.drawing.measured.turn
    told_turn = planned.planned.extended.rake_deg - planned.before.extended.rake_deg
    assert abs(turned) * 57.29578 == pytest.approx(abs(told_turn), abs=0.02)


def test_the_chain_is_tightest_where_the_axle_is_furthest_from_its_sprocket() -> None:
    # 40 mm ahead of the pivot: furthest in line, 640; 60 mm up it is hypot(636.992, 60) = 639.812 away.
    ahead = machine(drive={"kind": "chain", "sprocket": (640, 300)})
    found = next(f for f in predict_bike(job_on(ahead)).findings if f.id == "chain")
    assert "fully extended" in found.what
    assert found.value == pytest.approx(0.2, abs=0.05)
    assert predict_bike(job_on(ahead)).rear_curve.chain_slack[-1] < 0  # type: ignore[index]
    # 40 mm behind it: 560 in line, more above and below.
    behind = machine(drive={"kind": "chain", "sprocket": (560, 300)})
    answer = predict_bike(job_on(behind))
    assert "at full bump" in next(f for f in answer.findings if f.id == "chain").what
    step = next(s for s in card_of(behind).steps if s.id == "down.chain")
    assert step.figure == f"tightest at {answer.planned.rear_travel_mm:.0f} mm"


def test_reach_by_hand() -> None:
    # Over the edge of a seat 200 wide and 750 high: hypot(750, 100); leaned 30°: 800·0.866025 − 100·0.5.
    assert attitude.leg_for_both_feet(750.0, 200.0) == pytest.approx(756.637, abs=1e-3)
    assert attitude.leg_for_one_foot(800.0, 200.0, 0.5235988) == pytest.approx(642.820, abs=1e-3)
    bike = machine(seat={"x_mm": 0, "height_mm": 900, "width_mm": 200, "foam_mm": 30})
    answer = predict_bike(job_on(bike, rides=[], inseam_mm=700, sole_mm=20)).reach
    assert answer.seat_after_mm == pytest.approx(900.0)
    assert answer.both_missing_after_mm == pytest.approx(905.539 - 720, abs=1e-2)
    # 5° of lean: 900·0.996195 − 100·0.087156 = 887.860.
    assert answer.one_missing_after_mm == pytest.approx(887.860 - 720, abs=1e-2)


def test_the_plus_minus_by_hand() -> None:
    """A millimetre of preload in doubt is 60·0.4997/14.95 = 2.0 mm of height; the linkage's own share adds to it."""
    bike = machine()
    answer = predict_bike(job_on(bike, [{"type": "rear_preload", "preload_mm": 14}], rides=[]))
    assert answer.rear_drop_mm == pytest.approx(-4 / RATIO, rel=0.01)
    linkage = answer.rear_drop_mm * answer.fit.ratio_percent / 100
    assert answer.plus_minus_mm == pytest.approx((2.0**2 + linkage**2) ** 0.5, rel=0.02)
    # Another spring brings both rates' 4 %: each 0.04·60·(10 + 29.996)·0.4997/14.95 → 3.2 mm of height, and a zero of
    # its own beside the fitted one's.
    swapped = predict_bike(job_on(bike, [swap(rate_n_per_mm=60.001)], rides=[]))
    assert swapped.plus_minus_mm == pytest.approx((2 * 2.0**2 + 2 * 3.208**2) ** 0.5, rel=0.02)
    # Told to 1 %, the new one brings a quarter of that.
    told = predict_bike(job_on(bike, [swap(rate_n_per_mm=60.001, rate_tolerance_percent=1)], rides=[]))
    assert told.plus_minus_mm == pytest.approx((2 * 2.0**2 + 3.208**2 + 0.802**2) ** 0.5, rel=0.02)
    # A plan that moves nothing is off by nothing, and its sag by what the machine is not known of.
    still = predict_bike(job_on(bike, [], rides=[]))
    assert still.plus_minus_mm == 0
    assert [i.label for i in still.spread["rear"].inputs][:1] == ["installation ratio"]


@pytest.mark.parametrize(
    ("bore", "severity", "margin"), [(48.0, "stops", -2.0), (51.0, "fix", -1.0), (56.0, None, 0), (62.0, "know", -2.0)]
)
def test_the_spring_goes_over_its_damper(bore: float, severity: str | None, margin: float) -> None:
    bike = machine(damper__body_diameter_mm=50.0)
    found = [f for f in predict_bike(job_on(bike, [swap(inner_diameter_mm=bore)])).findings if f.id == "rear.bore"]
    assert [f.severity for f in found] == ([severity] if severity else [])
    assert all(f.margin == margin for f in found)


def test_the_springs_of_the_shelf_by_hand() -> None:
    # Full stroke, 220 mm of damper: cos θ + sin θ = (3 − (220/300)²)/2, so sin θ = 0.26757 and 160.54 mm of travel.
    # The laden window is put around 60 mm, the one without rider from 20 to 28 mm.
    travel = 160.54
    window = {"use": "road", "end": "rear", "laden_low": 58 / travel, "laden_high": 62 / travel,
              "unladen_low": 20 / travel, "unladen_high": 28 / travel, "frequency_hz": 1.5}  # fmt: skip
    shelf = [
        {"spring": {"part": f"S{rate}", "rate_n_per_mm": rate, "free_length_mm": 200, "stroke_mm": 120,
                    "max_preload_mm": most}}
        for rate, most in ((38, 60), (40, 60), (50, 60), (52, 60))
    ]  # fmt: skip
    brief = {"rides": [RIDER], "windows": [window], "shelf": shelf, "use": "road"}
    answer = predict_bike(job_on(machine(), **brief))
    bench = answer.sags["rear"]
    # 1199.2 N and 392.27 N press 3184.8 N through the ratio: so much preload for 60 N/mm.
    force = (SPRUNG * 9.80665 + 392.27) / RATIO
    assert bench.preload_for_target_mm == pytest.approx(force / 60 - SHORTENED, abs=0.02)
    assert bench.preload_for_target_mm == pytest.approx(23.08, abs=0.02)
    # 24 mm without rider: 288.0 mm of damper, ratio 0.499983, 2398.5 N; (3184.8 − 2398.5) N over 17.996 mm.
    assert bench.rate_by_sag == pytest.approx(43.69, abs=0.05)
    found = next(f for f in answer.findings if f.id == "rate.rear")
    assert "too stiff" in found.what, "on target 60 N/mm stands 34 mm deep without rider"
    assert [c.title for c in found.cures] == ["S40 40 N/mm, preload 49.6 mm", "S50 50 N/mm, preload 33.7 mm"]
    set_up = found.cures[1].changes[-1].change
    assert predict_bike(job_on(machine(), [set_up.model_dump()], **brief)).planned.laden.rear_sag_mm == pytest.approx(
        60.0, abs=0.05
    )
    # One that may be wound up 20 mm only stands deeper than the target, as deep as on the machine set so.
    short = [{"spring": shelf[1]["spring"] | {"max_preload_mm": 20}}]
    held = predict_bike(job_on(machine(), **brief | {"shelf": short})).sags["rear"].softer
    assert held is not None
    assert (held.preload_mm, held.preload_possible, held.within) == (20.0, False, False)
    swapped = {"type": "rear_spring", "spring": short[0]["spring"], "preload_mm": 20}
    stands = predict_bike(job_on(machine(), [swapped], **brief)).planned
    assert held.laden_sag_mm == pytest.approx(stands.laden.rear_sag_mm, abs=1e-6)
    assert held.unladen_sag_mm == pytest.approx(stands.unladen.rear_sag_mm, abs=1e-6)
    assert held.laden_sag_mm > 75
    far = [s["spring"] | {"rate_n_per_mm": r} for s, r in zip(shelf, (26, 74, 20, 90), strict=True)]
    bare = predict_bike(job_on(machine(), **brief | {"shelf": [{"spring": s} for s in far]})).sags["rear"]
    assert (bare.softer, bare.stiffer) == (None, None), "three fifths of 43.7 and less, five thirds and more"
    wound = next(f for f in answer.findings if f.id == "sag.rear.laden").cures[0].title
    assert wound == f"Preload 23.1 mm, {(23.1 - PRELOAD) / 1.5:.1f} turns on"

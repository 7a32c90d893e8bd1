"""From archetype and tape to a geometry: measured things are honoured, contradictions told, the rest stays near."""

import itertools

import numpy as np
import pytest

from inclinum.core.car.archetypes import ARCHETYPES, SIZES, Archetype, vehicle_of
from inclinum.core.car.bench import axle_bench
from inclinum.core.car.fitting import fit_axle
from inclinum.core.car.stance import inferred_load, ride_corner
from inclinum.core.car.vehicle import Axle, TapeReading
from inclinum.core.document.names import AxleName
from inclinum.core.fitting import Reading, fit, places
from inclinum.core.fitting.consequence import consequences
from inclinum.core.fitting.posterior import Posterior, posterior
from inclinum.core.fitting.tape import free_points
from inclinum.core.kinematics import AnyLinkage
from inclinum.core.quantity import Length

CAR = SIZES["car"]
ALL = list(ARCHETYPES.values())
named = pytest.mark.parametrize("archetype", ALL, ids=lambda a: a.key)


def other_one(linkage: AnyLinkage, seed: int) -> AnyLinkage:
    """A vehicle that is not quite the archetype: every joint somewhere else, the sides alike."""
    rng, flip, moved = np.random.default_rng(seed), np.array([1.0, -1.0, 1.0]), {}
    points = linkage.named_points()
    seats: dict[tuple[float, ...], np.ndarray] = {}
    for name, at in points.items():
        if not name.startswith("wheel_centre") and "right" not in name.split("_"):
            # A damper inside its spring goes where the spring goes.
            moved[name] = seats.setdefault(tuple(at), at + rng.normal(0, 10, 3))
            if "left" in name.split("_") and (twin := name.replace("left", "right")) in points:
                moved[twin] = moved[name] * flip
    return linkage.with_points(moved)  # type: ignore[return-value]


def read(linkage: AnyLinkage, keys: set[str] | None = None) -> list[Reading]:
    points, wheel = linkage.named_points(), linkage.wheel_name
    return [Reading.of(p, p.value(points, wheel), None) for p in places(linkage) if keys is None or p.key in keys]


@pytest.mark.parametrize(
    ("archetype", "size"),
    [pytest.param(a, s, id=f"{a.key}-{s}") for a in ALL for s in SIZES if s not in a.not_for],
)
def test_choosing_an_archetype_gives_an_axle_that_stands(archetype: Archetype, size: str) -> None:
    end: AxleName = archetype.where[0]
    axle = Axle.model_validate(archetype.axle(SIZES[size], end).model_dump())
    ride, load = ride_corner(axle), inferred_load(axle, 0.0)
    wanted = SIZES[size].front_load_n if end == "front" else SIZES[size].rear_load_n
    assert load == pytest.approx(wanted, rel=0.01)
    assert float(ride.ride_travel(load)) == pytest.approx(0, abs=0.01)
    window = ride.window()
    assert window.droop_limit == pytest.approx(-SIZES[size].droop_mm, abs=1)
    assert window.bump_limit is not None
    assert window.stop_contact is not None
    assert window.bump_limit == pytest.approx(SIZES[size].bump_mm, abs=3)
    assert 0 < window.stop_contact < window.bump_limit


@named
def test_readings_of_another_vehicle_are_honoured(archetype: Archetype) -> None:
    prior = archetype.linkage(CAR)
    found = fit(prior, read(other_one(prior, 4)))
    for reading, residual in zip(found.readings, found.residuals, strict=True):
        assert abs(residual) < 1.5 * reading.sigma, reading.place.key
    assert found.misses == []


def test_a_fit_comes_nearer_to_the_truth_than_the_archetype() -> None:
    z = np.array([-50.0, 0.0, 50.0])
    nearer = 0
    for key in ("strut_front", "wishbones", "semi_trailing", "h_arm", "five_link"):
        prior = ARCHETYPES[key].linkage(CAR)
        truth = other_one(prior, 7)
        fitted = fit(prior, read(truth)).linkage

        def camber(linkage: AnyLinkage) -> np.ndarray:
            motion = linkage.corner(312.0, 0.0, 0.0).sweep(z)
            return np.degrees(motion.camber - motion.camber[1])

        nearer += np.abs(camber(fitted) - camber(truth)).max() < np.abs(camber(prior) - camber(truth)).max()
    assert nearer == 5


def test_what_was_not_measured_stays_near_the_archetype() -> None:
    prior = ARCHETYPES["wishbones"].linkage(CAR)
    raised = Reading.of(next(p for p in places(prior) if p.key == "upper_outer.height"), 500.0, None)
    found = fit(prior, [raised])
    was, now = prior.named_points(), found.linkage.named_points()
    assert now["upper_outer"][2] == pytest.approx(500, abs=0.3)
    for name in was:
        if name != "upper_outer":
            assert np.abs(now[name] - was[name]).max() < 1e-3, name
    assert found.plus_minus("upper_outer") > 40, "its other two coordinates are as unknown as before"


def test_readings_that_cannot_both_be_right_are_told_with_how_much() -> None:
    axle = ARCHETYPES["trailing_torsion"].axle(CAR, "rear")
    points, wheel = axle.linkage.named_points(), axle.linkage.wheel_name
    by_key = {p.key: p for p in places(axle.linkage)}
    texts = {k: f"{by_key[k].value(points, wheel):.0f}" for k in by_key if not by_key[k].is_angle}
    # The two pivots are level in height and 90 mm further from the wheel than they are ahead of it.
    texts["pivot_outer.wheel_centre"] = f"{float(texts['pivot_outer.wheel_centre']) + 60:.0f}"
    tape = tuple(TapeReading(key=k, length=Length.model_validate(t)) for k, t in texts.items())
    found = fit_axle(axle.model_copy(update={"tape": tape}))
    assert found.misses
    first = found.misses[0].sentence
    assert "cannot both be right: off by" in first
    assert "mm" in first
    clean = fit_axle(axle.model_copy(update={"tape": tape[:1]}))
    assert clean.misses == ()


@pytest.mark.parametrize("key", ["strut_front", "five_link", "four_link_axle", "leaf_axle"])
def test_the_next_reading_named_is_the_one_that_narrows_most(key: str) -> None:
    """Taking the first one named must leave less spread than taking any other one would."""
    prior = ARCHETYPES[key].linkage(CAR)
    start = fit(prior, read(prior, {f"{prior.wheel_name}.apart"}))
    best, *others = start.next_to_measure(count=4)

    def left_over(place: str) -> float:
        after = np.array(fit(prior, read(prior, {f"{prior.wheel_name}.apart", place})).spread)
        before = np.array(start.spread)
        matters = before > 1e-3
        return float(np.mean((after[matters] / before[matters]) ** 2))

    assert left_over(best.place.key) < 1 - 0.5 * best.worth
    for other in others:
        assert left_over(best.place.key) <= left_over(other.place.key) + 0.02


def test_the_batch_of_consequences_is_what_single_changes_do() -> None:
    linkage = ARCHETYPES["semi_trailing"].linkage(CAR)
    names = free_points(linkage)
    slopes = consequences(linkage, names)
    i, h = names.index("pivot_outer"), 0.5
    points = linkage.named_points()

    def camber_change(shift: float) -> float:
        moved = linkage.with_points({"pivot_outer": points["pivot_outer"] + [0, 0, shift]})
        motion = moved.corner(312.0, 0.0, 0.0).sweep(np.array([-40.0, 0.0]))
        return float(np.degrees(motion.camber[0] - motion.camber[1]))

    assert slopes[1, 3 * i + 2] == pytest.approx((camber_change(h) - camber_change(-h)) / (2 * h), rel=1e-3)


@named
def test_a_fit_does_not_unload_springs_nobody_measured(archetype: Archetype) -> None:
    axle = archetype.axle(CAR, archetype.where[0])
    points, wheel = axle.linkage.named_points(), axle.linkage.wheel_name
    place = next(p for p in places(axle.linkage) if p.how == "height")
    reading = TapeReading(key=place.key, length=Length.model_validate(f"{place.value(points, wheel) + 12:.0f}"))
    fitted = fit_axle(axle.model_copy(update={"tape": (reading,)})).axle
    ratio = inferred_load(fitted, 0.0) / inferred_load(axle, 0.0)
    assert 0.8 < ratio < 1.25, "only the motion ratio may change what the wheel carries"
    assert fit_axle(fitted).axle.linkage == fitted.linkage, "fitting again changes nothing"


@named
def test_the_bench_draws_every_archetype(archetype: Archetype) -> None:
    bench = axle_bench(archetype.axle(CAR, archetype.where[0]))
    assert bench.trouble == ""
    assert {m.start for m in bench.members} | {m.end for m in bench.members} <= bench.frames.keys()
    assert bench.roll_centre is not None
    wheel = np.array(bench.frames[bench.wheel])
    np.testing.assert_allclose(wheel[:, 2] - wheel[np.argmin(np.abs(bench.travel)), 2], bench.travel, atol=0.11)
    force = next(c for c in bench.curves if c.name == "wheel force")
    kept = [v for v in force.values if v is not None]
    assert all(b >= a for a, b in itertools.pairwise(kept)), "more bump, more force"
    if bench.instant_centre and not bench.coupled:
        # The drawn construction: the line from the contact patch to the instant centre meets the centre line there.
        i = int(np.argmin(np.abs(bench.travel)))
        contact = np.array([wheel[i, 1], wheel[i, 2] - bench.tyre_radius])
        centre = np.array(bench.instant_centre[1:])
        at_middle = contact[1] + (centre[1] - contact[1]) * contact[0] / (contact[0] - centre[0])
        assert at_middle == pytest.approx(bench.roll_centre[2], abs=8)


def test_a_vehicle_is_refused_in_words() -> None:
    with pytest.raises(ValueError, match="is not found at the rear"):
        vehicle_of("strut_front", "strut_front", "car", "x")
    with pytest.raises(ValueError, match="has not the travel of a side-by-side"):
        vehicle_of("wishbones_upper", "trailing", "side_by_side", "x")
    with pytest.raises(ValueError, match="There is no size “lorry”"):
        vehicle_of("strut_front", "trailing", "lorry", "x")


def test_what_one_more_reading_takes_off_is_what_it_takes_off() -> None:
    """The gain foretold for a reading is the difference of the variances without and with it."""
    prior, effect, slope, sigma = np.array([2.0, 3.0, 1.5]), np.array([1.0, -2.0, 0.5]), np.array([0.6, 0.8, -0.3]), 0.7

    def known(readings: int) -> Posterior:
        return posterior(lambda x: np.array([(slope @ x - 1.0) / sigma] * readings), prior)

    none, one = known(0), known(1)
    assert none.variance(effect) == pytest.approx(4 + 4 * 9 + 0.25 * 2.25)
    assert none.gain(effect, slope, sigma) == pytest.approx(none.variance(effect) - one.variance(effect), rel=1e-6)
    assert one.gain(effect, slope, sigma) < none.gain(effect, slope, sigma)

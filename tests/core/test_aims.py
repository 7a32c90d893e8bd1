"""Aims as people say them: each is a rise worked by hand, is met by that rise, and its ways out lead there."""

import math

import pytest
from pydantic import ValidationError

from inclinum.core.car.changes import SeatSpacer, Stated, Tyres
from inclinum.core.car.job import AxleAim, Brief, CornerReading, Job, Measurements, StationReading
from inclinum.core.car.prediction import Prediction, predict
from inclinum.core.car.vehicle import VehicleStation
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AXLES, SIDES
from inclinum.core.quantity import Angle, Length
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import job_on


def mm(value: float) -> Length:
    return Length.model_validate(f"{value:.3f}")


NOTHING = AxleAim(by="none")


def untold(job: Job) -> str:
    """Why an aim cannot be held against anything: the rest is worked out all the same."""
    answer = predict(job)
    assert (answer.front.aim, answer.front.aim_met) == (None, None)
    return next(f.why for f in answer.findings if f.id == "aim_untold.front")


def wanting(front: AxleAim, rear: AxleAim = NOTHING) -> Job:
    """A car read at 400 mm (front) and 390 mm (rear) from hub to arch, with wheels of its own radius."""
    job = job_on("wishbones", "front")
    corners = [
        CornerReading(axle=axle, side=side, quantity="hub_to_arch", reading=mm(value))
        for axle, value in zip(AXLES, (400.0, 390.0), strict=True)
        for side in SIDES
    ]
    gaps = [CornerReading(axle="front", side=s, quantity="tyre_to_arch", reading=mm(72)) for s in SIDES]
    stations = tuple(StationReading(station="front bumper", side=s, reading=mm(410)) for s in SIDES)
    brief = Brief(owner="Shop", front=front, rear=rear)
    return job.model_copy(
        update={"brief": brief, "measure": Measurements(corners=(*corners, *gaps), stations=stations)}
    )


def level(by: float = 0.0) -> AxleAim:
    return AxleAim(by="rake", rake=Angle.model_validate(f"{by:g}"))


RADIUS = job_on("wishbones", "front").vehicle.front.tyre_radius_mm
REAR_RADIUS = job_on("wishbones", "front").vehicle.rear.tyre_radius_mm
BASE = job_on("wishbones", "front").vehicle.wheelbase_mm
GROWN = Tyres(axle="front", radius_mm=RADIUS + 10)


@pytest.mark.parametrize(
    ("aim", "plain", "on_bigger_tyres"),
    [
        (AxleAim(rise=mm(20)), 20, 20),
        (AxleAim(by="hub_to_arch", height=mm(425)), 25, 25),
        (AxleAim(by="arch_to_ground", height=mm(430 + RADIUS)), 30, 20),
        (AxleAim(by="tyre_to_arch", height=mm(90)), 18, 28),
        # The bumper stands 0.28 wheelbases ahead: it rises 1.28 of what the front does, less 0.28 of the rear's 0.
        (AxleAim(by="station", station="front bumper", height=mm(410 + 32)), 32 / 1.28, 32 / 1.28 - 10),
        # Level with the rear arch, which stands at 390 + its radius.
        (level(), 390 + REAR_RADIUS - 400 - RADIUS, 390 + REAR_RADIUS - 400 - RADIUS - 10),
        (level(1.0), 390 + REAR_RADIUS - 400 - RADIUS - BASE * math.tan(math.radians(1)), None),
    ],
    ids=lambda a: a.by if isinstance(a, AxleAim) else "",
)
def test_an_aim_is_the_rise_that_meets_it(aim: AxleAim, plain: float, on_bigger_tyres: float | None) -> None:
    assert predict(wanting(aim)).front.aim == pytest.approx(plain, abs=5e-3)
    if on_bigger_tyres is not None:
        assert predict(on(wanting(aim), GROWN)).front.aim == pytest.approx(on_bigger_tyres, abs=5e-3)


def test_a_station_over_the_rear_counts_what_the_front_does() -> None:
    """The rear bumper at 1.28 wheelbases: 1.28 rear less 0.28 front; a front up by 10 asks 2.19 more of the rear."""
    job = wanting(AxleAim(rise=mm(10)), AxleAim(by="station", station="rear bumper", height=mm(500)))
    station = job.vehicle.station("rear bumper")
    assert station is not None
    now = predict(job).rear.aim
    lifted = predict(on(job, Stated(axle="front", rise_mm=10, what="a word"))).rear.aim
    assert now is not None
    assert lifted is not None
    assert lifted - now == pytest.approx(10 * 0.28 / 1.28, abs=1e-3)


@pytest.mark.parametrize(
    ("aim", "by", "said"),
    [
        (AxleAim(by="arch_to_ground", height=mm(430 + RADIUS)), 30, "above the ground"),
        (AxleAim(by="station", station="front bumper", height=mm(442)), 25, "“front bumper” 442 mm"),
        (level(0), 390 + REAR_RADIUS - 400 - RADIUS, "level from arch to arch"),
    ],
)
def test_a_missed_aim_says_what_was_wanted_and_the_rise_meets_it(aim: AxleAim, by: float, said: str) -> None:
    job = wanting(aim)
    missed = predict(job)
    met = predict(on(job, Stated(axle="front", rise_mm=by, what="a word")))
    assert missed.front.aim_met is False
    assert said in next(f.why for f in missed.findings if f.id == "aim.front")
    assert met.front.aim_met is True
    assert [f for f in met.findings if f.id == "aim.front"] == []


@pytest.mark.parametrize(
    ("aim", "wanted", "within", "near"),
    [
        (AxleAim(rise=Length.model_validate("20 ± 8"), tolerance_mm=2), 20, 8, "±8 mm"),
        (AxleAim(rise=mm(20), tolerance_mm=2), 20, 2, "±2 mm"),
        # The wider of both sides.
        (AxleAim(by="hub_to_arch", height=Length.model_validate("425 ± 1"), right=Length.model_validate("425 ± 4")),
         25, 4, "±4 mm"),
        # At the bumper: 1.28 of what the axle does, so the axle has less room.
        (AxleAim(by="station", station="front bumper", height=Length.model_validate("442 ± 16")), 25, 12.5, "±16 mm"),
        (AxleAim(by="rake", rake=Angle.model_validate("0 ± 0.2")), 390 + REAR_RADIUS - 400 - RADIUS,
         BASE * math.tan(math.radians(0.2)), "±0.2°"),
    ],
)  # fmt: skip
def test_a_tolerance_typed_with_what_is_wanted_says_how_near_counts(
    aim: AxleAim, wanted: float, within: float, near: str
) -> None:
    def by(rise: float) -> Prediction:
        return predict(on(wanting(aim), Stated(axle="front", rise_mm=round(rise, 3), what="a word")))

    for side in (-1, 1):
        assert by(wanted + side * (within - 0.1)).front.aim_met is True
        missed = by(wanted + side * (within + 0.1))
        assert missed.front.aim_met is False
        finding = next(f for f in missed.findings if f.id == "aim.front")
        assert finding.margin == pytest.approx(-0.1, abs=5e-3)
        assert f"within {near}." in finding.why


def test_a_rake_is_met_when_the_arches_stand_so() -> None:
    """2° nose down over the wheelbase: read off the heights as planned."""
    job = wanting(NOTHING, level(2.0))
    aim = predict(job).rear.aim
    assert aim is not None
    heights = predict(on(job, Stated(axle="rear", rise_mm=aim, what="a word"))).heights
    front, rear = (
        next(h.after for h in heights if h.kind == "arch_to_ground" and h.axle == axle) for axle in ("front", "rear")
    )
    assert math.degrees(math.atan2(rear - front, BASE)) == pytest.approx(2.0, abs=1e-3)


def test_without_an_aim_nothing_is_judged_by_height() -> None:
    answer = predict(on(wanting(NOTHING, NOTHING), SeatSpacer(axle="front", thickness_mm=30)))
    assert answer.front.aim is answer.front.aim_met is None
    assert answer.rake_within
    assert [f.id for f in answer.findings if f.id.startswith(("aim", "rake"))] == []


@pytest.mark.parametrize(
    ("fields", "said"),
    [
        ({"by": "hub_to_arch"}, "needs that height"),
        ({"by": "station", "height": "430"}, "name of the station"),
        ({"by": "rake"}, "0 is level"),
    ],
)
def test_half_an_aim_is_refused_with_what_it_lacks(fields: dict[str, str], said: str) -> None:
    with pytest.raises((ValidationError, DomainError), match=said):
        AxleAim.model_validate(fields)


def test_two_rakes_have_nothing_to_stand_on() -> None:
    with pytest.raises((ValidationError, DomainError), match="follows from the other end"):
        Brief(owner="Shop", front=level(), rear=level(1))


@pytest.mark.parametrize(("station", "said"), [("boot sill", "none of this vehicle's stations"), ("rear bumper", "%")])
def test_a_station_that_is_not_there_or_over_the_other_axle_is_refused(station: str, said: str) -> None:
    assert said in untold(wanting(AxleAim(by="station", station=station, height=mm(400))))


def test_it_fits_under_a_height_by_its_highest_place_and_lower_is_as_good() -> None:
    """A roof box at 1,650 mm, 40 % of the wheelbase back: a front end 20 lower takes 12 off it."""
    low = wanting(AxleAim(by="fits_under", height=mm(1638), tolerance_mm=1))
    box = VehicleStation(name="roof box", x_mm=-0.4 * BASE, height_mm=1650)
    job = low.model_copy(update={"vehicle": low.vehicle.model_copy(update={"stations": (*low.vehicle.stations, box)})})
    read = tuple(StationReading(station="roof box", side=s, reading=mm(1650)) for s in SIDES)
    job = job.model_copy(update={"measure": job.measure.model_copy(update={"stations": read})})
    answer = predict(job)
    assert answer.front.aim == pytest.approx(-12 / 0.6, abs=0.01)
    assert answer.front.aim_met is False
    finding = next(f for f in answer.findings if f.id == "aim.front")
    assert "fit under 1638 mm (“roof box” is its highest place)" in finding.why
    lowered = predict(on(job, Stated(axle="front", what="Cut", rise_mm=-60)))
    assert lowered.front.aim_met is True
    # With the rear 30 lower it is 12 lower already.
    rear = predict(on(job, Stated(axle="rear", what="Cut", rise_mm=-30)))
    assert rear.front.aim == pytest.approx(0, abs=0.01)
    # Bumpers are no roof: with them alone nobody knows what it fits under.
    nowhere = low.model_copy(update={"vehicle": low.vehicle})
    assert "Nothing says how high" in untold(nowhere)


def test_each_corner_can_have_its_own_height() -> None:
    """Both read at 400: 410 left and 420 right want 15 at the middle, and 10 between the sides."""
    job = wanting(AxleAim(by="hub_to_arch", height=mm(410), right=mm(420)))
    assert predict(job).front.aim == pytest.approx(15)
    finding = next(f for f in predict(job).findings if f.id == "sides.front")
    assert finding.what == "Front stands 10 mm lower on the right than the brief wants"
    assert finding.severity == "fix"
    cured = [predict(job.model_copy(update={"plan": job.plan.model_copy(update={"changes": c.changes})})) for c in
             finding.cures]  # fmt: skip
    assert cured
    assert all("sides.front" not in {f.id for f in c.findings} for c in cured)
    alike = predict(wanting(AxleAim(by="hub_to_arch", height=mm(410), right=mm(410))))
    assert "sides.front" not in {f.id for f in alike.findings}
    with pytest.raises(ValidationError, match="otherwise on the right"):
        AxleAim(by="fits_under", height=mm(1700), right=mm(1690))


def test_sag_is_told_from_where_droop_ends() -> None:
    """A wheel that stands 62 mm above full droop: the rise that gives it, and longer dampers ask for more."""
    job = wanting(AxleAim(by="sag", height=mm(62)))
    answer = predict(job)
    assert answer.front.aim is not None
    stands = answer.front.travel_after.ride - answer.front.travel_after.droop
    assert answer.front.aim == pytest.approx(stands - 62, abs=1e-6)
    met = predict(on(job, Stated(axle="front", rise_mm=round(answer.front.aim, 3), what="a word")))
    assert met.front.aim_met
    assert met.front.travel_after.ride - met.front.travel_after.droop == pytest.approx(62, abs=0.01)
    assert "62 mm of sag" in met.front.aim_said

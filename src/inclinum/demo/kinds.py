"""One job of each further kind of work on the island's fleet. All of it is invented."""

from collections.abc import Sequence
from datetime import date
from functools import cache

from inclinum.core.car.changes import (
    AdjusterFitted,
    AirHeight,
    ArmLength,
    Block,
    BracketMoved,
    Change,
    CoilOver,
    Collar,
    DamperExtension,
    DamperHoles,
    JointMoved,
    LeafPacks,
    LimitStrap,
    Load,
    PlannedChange,
    SeatSpacer,
    Shackle,
    SpringSwap,
    Stated,
    StatedSprings,
    StopTrimmed,
    SubframeLowered,
    TorsionReindex,
    Tyres,
    Wedge,
    WheelOffset,
    begin,
)  # fmt: skip
from inclinum.core.car.changes.damper_holes import Hole
from inclinum.core.car.job import AxleAim, Brief, CornerReading, Job, Kit, Measurements, Plan
from inclinum.core.car.vehicle import EccentricAdjuster, LinkAdjuster, Vehicle
from inclinum.core.document.names import AXLES, SIDES, AxleName
from inclinum.core.quantity import Angle, Length
from inclinum.core.springs.fitted import LeafPackData
from inclinum.demo.fleet import demo_fleet
from inclinum.demo.shop import LOCAL_LIMITS


def _job(
    number: str, plate: str, title: str, purpose: str, aims: tuple[str, str], changes: Sequence[Change],
    lower: tuple[float, float] = (0.0, 0.0), due: int = 12, reversible: bool = True,
) -> Job:  # fmt: skip
    """A job on a vehicle of the fleet.

    Args:
        aims: front and rear, as typed.
        changes: in order.
        lower: how much lower than its data each end was read, mm.
    """
    vehicle, owner = next((v, o) for v, o in demo_fleet() if v.plate == plate)
    front, rear = (AxleAim(rise=Length.model_validate(text)) for text in aims)
    stack = tuple(PlannedChange.model_validate({"id": f"c{n}", "change": c}) for n, c in enumerate(changes, 1))
    return Job(
        id=number, title=title, vehicle=vehicle, measure=_read(vehicle, lower), plan=Plan(changes=stack),
        brief=Brief(
            owner=owner, purpose=purpose, front=front, rear=rear, due=date(2026, 12, due), local_limits=LOCAL_LIMITS,
            reversible=reversible, load="as it is driven, half a tank, nobody in it",
        ),
    )  # fmt: skip


def _read(vehicle: Vehicle, lower: tuple[float, float]) -> Measurements:
    """Hub to arch at the four wheels, left a millimetre above right, as tapes will have it."""
    return Measurements(
        corners=tuple(
            CornerReading(
                axle=axle, side=side, quantity="hub_to_arch",
                reading=Length.model_validate(f"{vehicle.axle(axle).hub_to_arch_mm - low + (side == 'left'):.0f} ± 2"),
            )
            for axle, low in zip(AXLES, lower, strict=True)
            for side in SIDES
        )
    )  # fmt: skip


def _begun(plate: str, kind: str, end: AxleName) -> Change:
    vehicle = next(v for v, _ in demo_fleet() if v.plate == plate)
    return begin(kind, end, vehicle, ()).change


def _packs() -> LeafPackData:
    vehicle = next(v for v, _ in demo_fleet() if v.plate == "Q-0233")
    old = vehicle.rear.spring
    assert isinstance(old, LeafPackData)
    return old.model_copy(
        update={
            "part": "TG-5L",
            "leaves": old.leaves + 1,
            "free_arch_mm": old.free_arch_mm + 6,
            "rate_tolerance_percent": 3,
        }
    )


def _unit(plate: str, end: AxleName, lower: float, shorter: float) -> CoilOver:
    unit = _begun(plate, "coil_over", end)
    assert isinstance(unit, CoilOver)
    return unit.model_copy(
        update={
            "part": "SB-CO", "collar_to_top_mm": unit.collar_to_top_mm + lower,
            "extended_mm": unit.extended_mm - shorter, "closed_mm": unit.closed_mm - shorter,
        }
    )  # fmt: skip


@cache
def demo_kind_jobs() -> tuple[Job, ...]:
    """Jobs of every further kind."""
    toe = EccentricAdjuster(name="toe eccentric", point="toe_link_inner", direction=(0, 1, 0), eccentricity_mm=5)
    camber = LinkAdjuster(
        name="adjustable camber arm", outer="camber_arm_outer", min_mm=-14, max_mm=14, thread_pitch_mm=1.5
    )
    return (
        _job(
            "pick-up-2026-leaf-packs", "Q-0233", "Vineyard pick-up: new packs and a block",
            "Packs are tired and grapes are heavy: new packs, 40 mm more behind, level when loaded.", ("0", "40 ± 6"),
            [
                LeafPacks(axle="rear", spring=_packs()), Block(axle="rear", height_mm=15),
                Wedge(axle="rear", angle_deg=2),
            ],
            lower=(2, 14),
        ),
        _job(
            "runabout-2026-tower-pack", "Q-0051", "Harbour runabout: rings all round",
            "The slip scrapes its sill. As high as the council lets it, nothing that cannot come out.", ("25", "25"),
            [SeatSpacer(axle="front", thickness_mm=22), SeatSpacer(axle="rear", thickness_mm=20)],
        ),
        _job(
            "old-car-2026-re-index", "Q-0007", "Baker's old car: torsion bars",
            "Tail-heavy since the flour crates: both ends up by their splines, bars stay.", ("10 ± 4", "18 ± 4"),
            [
                TorsionReindex(axle="front", inner_by=2, outer_by=2),
                TorsionReindex(axle="rear", inner_by=3, outer_by=3),
            ],
            lower=(0, 5),
        ),
        _job(
            "saloon-2026-collar-kit", "Q-0088", "Doctor's saloon: collars",
            "Lower by 25 mm, but the bag and the bumps of the surgery lane stay.", ("-25", "-25"),
            [_unit("Q-0088", "front", 14, 12), _unit("Q-0088", "rear", 22, 0), Collar(axle="rear", by_mm=-3)],
        ),
        _job(
            "off-roader-2026-brackets", "Q-0307", "Lighthouse off-roader: caster back",
            "Stands 42 mm up on its coils: steers as it did, dampers that open far enough.", ("42", "42"),
            [
                _raised("Q-0307", "front", 42), _raised("Q-0307", "rear", 42),
                BracketMoved(axle="front", point="arm_left_body", up_mm=-45, part="LB-ARM"),
                DamperExtension(axle="front", longer_mm=25), DamperExtension(axle="rear", longer_mm=30),
                ArmLength(axle="front", outer="lateral_rod_axle", longer_mm=6, pitch_mm=2),
            ],
            due=18,
        ),
        _job(
            "ranger-2026-shackle", "Q-0321", "Ranger's off-roader: shackles behind, arms in front",
            "Room for taller tyres on the dunes.", ("40", "40"),
            [
                _raised("Q-0321", "front", 44), ArmLength(axle="front", outer="upper_axle", longer_mm=-6),
                Shackle(axle="rear", longer_mm=60), Tyres(axle="front", radius_mm=392),
                Tyres(axle="rear", radius_mm=392),
            ],
        ),
        _job(
            "quarry-2026-winch", "Q-0311", "Quarry off-roader: winch and straps",
            "A winch on the nose, standing as before; the rear must not hang its coils.", ("0", "0"),
            [
                Load(axle="front", mass_kg=68, ahead_mm=620, what="winch and plate"),
                LimitStrap(axle="rear", damper_at_mm=_damper("Q-0311", "rear") - 18),
            ],
        ),
        _job(
            "bus-2026-level", "Q-0419", "School bus: level up, arms with it",
            "Twenty millimetres more for the ford; the rear is on its level valve.", ("20", "20"),
            [
                _raised("Q-0419", "front", 10), AirHeight(axle="rear", rise_mm=20),
                JointMoved(axle="front", point="upper_outer", up_mm=8),
            ],
        ),
        _job(
            "estate-2026-camber", "Q-0112", "Rescue estate: lower, and camber back in its window",
            "Lower by 20 mm for the pump's weight up top; tyres wear on the inside.", ("-20", "-20"),
            [
                _raised("Q-0112", "front", -13), _raised("Q-0112", "rear", -12), StopTrimmed(axle="rear", by_mm=10),
                AdjusterFitted(axle="rear", adjuster=camber), AdjusterFitted(axle="rear", adjuster=toe),
            ],
            reversible=False,
        ),
        _job(
            "dairy-2026-subframe", "Q-0430", "Dairy van: subframe spacers",
            "Up with its shafts flat again.", ("25", "25"),
            [
                _raised("Q-0430", "front", 26), SubframeLowered(axle="front", by_mm=20, part="HP-SF20"),
                _raised("Q-0430", "rear", 17),
            ],
        ),
        _job(
            "side-by-side-2026-arms", "Q-0740", "Side-by-side: longer arms",
            "Wider on the slipways, as high as before.", ("0", "0"),
            [
                ArmLength(axle="front", outer="lower_outer", longer_mm=30),
                ArmLength(axle="front", outer="upper_outer", longer_mm=30),
                ArmLength(axle="front", outer="tie_outer", longer_mm=30), WheelOffset(axle="rear", out_mm=30),
            ],
        ),
        _job(
            "coupe-2026-stated", "Q-0003", "Museum coupé: a kit somebody had",
            "The trustees bought a kit on a market: what does it do?", ("0", "-15"),
            [Stated(axle="rear", what="transverse helper out, as its seller says", rise_mm=-15, tolerance_mm=8)],
        ),
        _promised(),
        _leaning(),
        _brackets(),
    )  # fmt: skip


def _promised() -> Job:
    """A kit that lifts more than its box says, because the springs that go out had sagged."""
    job = _job(
        "dairy-2027-promised", "Q-0430", "Dairy van: a kit promised 30 and gives more",
        "The seller says 30 mm; last time somebody got twice that.", ("0", "0"),
        [
            StatedSprings(axle="front", lift_mm=30, tolerance_mm=8, part="PQ-30F"),
            StatedSprings(axle="rear", lift_mm=30, tolerance_mm=8, part="PQ-30R"),
        ],
        lower=(21.0, 8.0), due=21,
    )  # fmt: skip
    new = {f"{end}_as_new": Length.model_validate(f"{job.vehicle.axle(end).hub_to_arch_mm:.0f} ± 5") for end in AXLES}
    kit = Kit(name="PQ lift kit", changes=("c1", "c2"), front_mm=30, rear_mm=30)
    level = AxleAim(by="rake", rake=Angle.model_validate("0.3"), tolerance_mm=8)
    front = AxleAim(by="arch_to_ground", height=Length.model_validate(_arch(job, "front", 30)), tolerance_mm=8)
    return job.model_copy(
        update={
            "measure": job.measure.model_copy(update=new),
            "plan": job.plan.model_copy(update={"kits": (kit,)}),
            "brief": job.brief.model_copy(update={"front": front, "rear": level}),
        }
    )


def _arch(job: Job, end: AxleName, above: float) -> str:
    """Height of an arch above the ground so much over its data, as typed."""
    axle = job.vehicle.axle(end)
    return f"{axle.hub_to_arch_mm + axle.tyre_radius_mm + above:.0f}"


def _leaning() -> Job:
    """A car that leans, levelled by a ring on its low side."""
    job = _job(
        "saloon-2027-leaning", "Q-0088", "Doctor's saloon: it leans to the driver's side",
        "Straight again; nothing is bent.", ("0", "0"),
        [SeatSpacer(axle="front", thickness_mm=8, right_mm=0, part="NR-8")], due=22,
    )  # fmt: skip
    corners = tuple(
        c.model_copy(update={"reading": Length.model_validate(f"{c.reading.value - 13:.0f} ± 2")})
        if (c.axle, c.side) == ("front", "left")
        else c
        for c in job.measure.corners
    )
    nothing = AxleAim(by="none")
    return job.model_copy(
        update={
            "measure": job.measure.model_copy(update={"corners": corners}),
            "brief": job.brief.model_copy(update={"front": nothing, "rear": nothing}),
        }
    )


def _brackets() -> Job:
    """Damper mounts of a solid axle that drag over stones, on a bracket with three holes."""
    holes = tuple(Hole(name=n, up_mm=up) for n, up in (("lower hole", 20), ("middle hole", 35), ("upper hole", 50)))
    job = _job(
        "off-roader-2027-mounts", "Q-0307", "Lighthouse off-roader: damper mounts out of the stones",
        "The rear damper mounts hang lowest and catch: as high as the dampers allow.", ("0", "0"),
        [DamperHoles(axle="rear", holes=holes, hole="lower hole", ground="rear damper mount")],
        due=23, reversible=False,
    )  # fmt: skip
    nothing = AxleAim(by="none")
    return job.model_copy(update={"brief": job.brief.model_copy(update={"front": nothing, "rear": nothing})})


def _raised(plate: str, end: AxleName, longer: float) -> Change:
    """Coils like the fitted ones, so much longer."""
    vehicle = next(v for v, _ in demo_fleet() if v.plate == plate)
    coil = vehicle.axle(end).coil
    assert coil is not None
    part = f"SY-{'H' if longer > 0 else 'T'}{abs(longer):g}"
    new = coil.model_copy(update={"part": part, "free_length_mm": coil.free_length_mm + longer})
    return SpringSwap(axle=end, coil=new)


def _damper(plate: str, end: AxleName) -> float:
    return next(v for v, _ in demo_fleet() if v.plate == plate).axle(end).damper.extended_mm

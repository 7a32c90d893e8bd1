"""Three jobs of the post van: two finished, one in hand."""

from datetime import UTC, date, datetime, timedelta
from functools import cache

from inclinum.core.car.card import card
from inclinum.core.car.changes import PlannedChange, SeatSpacer, SpringSwap
from inclinum.core.car.job import (
    AngleReading,
    AxleAim,
    Brief,
    CornerReading,
    Job,
    Measurements,
    Plan,
    Prove,
    StationReading,
)
from inclinum.core.card.record import Build, SignOff, StepTick, TorqueRecord
from inclinum.core.quantity import Length, Torque
from inclinum.core.springs.fitted import Coil
from inclinum.demo.shop import LOCAL_LIMITS, PEOPLE
from inclinum.demo.van import FRONT_COIL, REAR_COIL, van

Corners = dict[str, tuple[str, str, str, str]]
"""Quantity → front left, front right, rear left, rear right, as typed."""


def _readings(
    corners: Corners, stations: dict[str, tuple[str, str]], angles: dict[str, str] | None = None
) -> Measurements:
    places = [("front", "left"), ("front", "right"), ("rear", "left"), ("rear", "right")]
    return Measurements(
        corners=tuple(
            CornerReading.model_validate({"axle": a, "side": s, "quantity": quantity, "reading": text})
            for quantity, texts in corners.items()
            for (a, s), text in zip(places, texts, strict=True)
        ),
        stations=tuple(
            StationReading.model_validate({"station": name, "side": side, "reading": text})
            for name, texts in stations.items()
            for side, text in zip(("left", "right"), texts, strict=True)
        ),
        angles=tuple(
            AngleReading.model_validate(
                dict(zip(("axle", "side", "angle"), key.split(), strict=True)) | {"reading": text}
            )
            for key, text in (angles or {}).items()
        ),
    )


def _brief(purpose: str, front: str, rear: str, due: date) -> Brief:
    return Brief(
        owner="Quillisay Post",
        purpose=purpose,
        front=AxleAim(rise=Length.model_validate(front)),
        rear=AxleAim(rise=Length.model_validate(rear)),
        load="half tank, 180 kg of mail over the rear axle, no driver",
        due=due,
        local_limits=LOCAL_LIMITS,
    )


def _built(job: Job, start: datetime, torques: bool = True) -> Build:
    """Every step of the card ticked in order by two people, every known torque recorded."""
    ticks, records, now = [], [], start
    for n, step in enumerate(card(job).steps):
        now += timedelta(minutes=sum(step.minutes) / 2)
        by = PEOPLE[n % 2]
        ticks.append(StepTick(step=step.id, done_at=now, by=by))
        for use in step.fasteners:
            if torques and use.torque_nm and step.axle and step.side:
                records.append(
                    TorqueRecord(
                        fastener=use.key,
                        axle=step.axle,
                        side=step.side,
                        torque=Torque.model_validate(f"{use.torque_nm:g} Nm"),
                        done_at=now,
                        by=by,
                    )
                )
    return Build(ticks=tuple(ticks), torques=tuple(records))


def _finished(job: Job, start: datetime, after: Measurements, note: str) -> Job:
    build = _built(job, start)
    signed = SignOff(by=PEOPLE[2], at=build.ticks[-1].done_at + timedelta(hours=18), note=note)
    return job.model_copy(update={"build": build, "prove": Prove(after=after, sign_off=signed)})


def _rear_sag() -> Job:
    vehicle = van()
    worn = REAR_COIL.model_copy(update={"part": "as delivered", "rate_n_per_mm": 50.0, "free_length_mm": 331.0})
    job = Job(
        id="van-2024-rear-sag",
        title="Post van: rear sags under mail",
        vehicle=vehicle.with_axle("rear", spring=worn),
        brief=_brief("Tail hangs under the Monday mail; front is right.", "0", "14 ± 3", date(2024, 9, 20)),
        measure=_readings(
            {"hub_to_arch": ("389", "387", "383", "381"), "tyre_radius": ("312", "312", "311", "311")},
            {"rear bumper": ("246", "244")},
        ),
        plan=Plan(changes=(PlannedChange(id="c1", change=SpringSwap(axle="rear", coil=REAR_COIL)),)),
    )
    after = _readings(
        {"hub_to_arch": ("388", "387", "399", "398")},
        {"rear bumper": ("267", "266")},
        {"rear left camber": "-1.2", "rear right camber": "-1.0", "rear left toe": "0.2", "rear right toe": "0.15"},
    )
    return _finished(job, datetime(2024, 9, 18, 7, 40, tzinfo=UTC), after, "Owner content. Settled after a week.")


def _front_worn() -> Job:
    worn = FRONT_COIL.model_copy(update={"part": "as delivered", "rate_n_per_mm": 29.0, "free_length_mm": 366.0})
    job = Job(
        id="van-2025-front-springs",
        title="Post van: worn front springs",
        vehicle=van().with_axle("front", spring=worn),
        brief=_brief("A front coil broke at its end; renew both, height as standard.", "8 ± 3", "0", date(2025, 5, 9)),
        measure=_readings(
            {"hub_to_arch": ("379", "382", "398", "397"), "tyre_radius": ("312", "312", "312", "312")},
            {"front bumper": ("222", "224")},
        ),
        plan=Plan(changes=(PlannedChange(id="c1", change=SpringSwap(axle="front", coil=FRONT_COIL)),)),
    )
    after = _readings(
        {"hub_to_arch": ("389", "389", "398", "397")},
        {"front bumper": ("233", "233")},
        {
            "front left camber": "-0.5", "front right camber": "-0.6", "front left toe": "0.1",
            "front right toe": "0.05", "front left caster": "4.3", "front right caster": "4.2",
        },
    )  # fmt: skip
    return _finished(job, datetime(2025, 5, 7, 8, 5, tzinfo=UTC), after, "Broken end kept for the owner.")


def _washed_out_track() -> Job:
    taller = Coil(
        part="YS-F32H", rate_n_per_mm=32, free_length_mm=378, solid_length_mm=119, active_coils=6.75,
        rate_tolerance_percent=3, free_length_tolerance_mm=2,
    )  # fmt: skip
    return Job(
        id="van-2026-washed-out-track",
        title="Post van: up for the washed-out track",
        vehicle=van(),
        brief=_brief(
            "The track to the north farms is washed out: the bumper digs in. Keep the rake, keep the van reversible.",
            "32",
            "22",
            date(2026, 12, 11),
        ),
        measure=_readings(
            {
                "hub_to_arch": ("387 ± 2", "385", "397", '15 5/8" ± 1/16'),
                "tyre_radius": ("312", "311", "312", "312"),
                "bump_stop_gap": ("51", "50", "60", "59"),
                "exposed_rod": ("110", "109", "127", "128"),
            },
            {"front bumper": ("231", "229"), "lamp centre": ("715", "714")},
            {
                "front left camber": "-0.6", "front right camber": "-0.4", "front left toe": "0.1",
                "front right toe": "0.05", "front left caster": "4.3", "front right caster": "4.1",
                "rear left camber": "-1.15", "rear right camber": "-1.05", "rear left toe": "0°10'",
                "rear right toe": "0°08'",
            },
        ),
        plan=Plan(
            changes=(
                PlannedChange(id="c1", change=SpringSwap(axle="front", coil=taller)),
                PlannedChange(id="c2", change=SeatSpacer(axle="rear", thickness_mm=15, part="YS-K15")),
            )
        ),
    )  # fmt: skip


@cache
def demo_jobs() -> tuple[Job, ...]:
    """All demo jobs, oldest first."""
    return _rear_sag(), _front_worn(), _washed_out_track()

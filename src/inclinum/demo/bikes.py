"""Two-wheelers of the island and a job on each, every one at another stage. All of it is invented."""

from datetime import UTC, datetime
from functools import cache
from typing import Any

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.changes.rear_link import holes
from inclinum.core.bike.fit import places
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.machine import Bike
from inclinum.core.bike.prediction import predict_bike

SHELF = [
    {"spring": {"part": f"YS-C{rate}", "rate_n_per_mm": rate, "free_length_mm": 205, "stroke_mm": 118,
                "max_preload_mm": 28}, "count": count}
    for rate, count in ((56, 1), (62, 2), (68, 1), (74, 2), (80, 1), (88, 1), (96, 2), (106, 1))
]  # fmt: skip
"""The yard's rear springs, all of one length."""
SHEET = "yard sheet B-3, taken from the maker's manual by the owner"
FASTENERS = {
    "rod_bolts": {"name": "rod bolt", "count_per_side": 2, "torque_nm": 58, "source": SHEET},
    "rocker_pivot_bolt": {"name": "rocker pivot bolt", "count_per_side": 1, "torque_nm": 72, "source": SHEET},
    "damper_upper_bolt": {
        "name": "damper bolt, upper",
        "count_per_side": 1,
        "torque_nm": 41,
        "source": SHEET,
        "renew": True,
    },
    "damper_lower_bolt": {
        "name": "damper bolt, lower",
        "count_per_side": 1,
        "torque_nm": 41,
        "source": SHEET,
        "renew": True,
    },
    "top_clamp_bolt": {"name": "top clamp bolt", "count_per_side": 2, "torque_nm": 19, "source": SHEET},
    "lower_clamp_bolt": {"name": "lower clamp bolt", "count_per_side": 2, "torque_nm": 21, "source": SHEET},
}
"""Invented figures of an invented machine; the others have none and are looked up."""


def _rides(bike: Bike, *what: tuple[str, str, float, float]) -> list[dict[str, Any]]:
    """Name, role, kg, and where along the wheelbase it rides, as a share from the rear axle."""
    return [
        {"name": name, "role": role, "mass": f"{kg:g}", "x_mm": round(share * bike.wheelbase_mm)}
        for name, role, kg, share in what
    ]


def _job(key: str, title: str, bike: Bike, brief: dict[str, Any], **stages: Any) -> BikeJob:
    return BikeJob.model_validate(
        {"id": key, "title": title, "vehicle": bike.model_dump(), "brief": {"use": bike.use, "shelf": SHELF} | brief}
        | stages
    )


def _tape(bike: Bike, offsets: dict[str, float]) -> list[dict[str, Any]]:
    """Readings told as what the calliper read less what the archetype has, mm."""
    points = bike.rear.arrays()
    return [
        {"key": p.key, "reading": f"{p.value(points) + offsets[p.key]:.1f}"}
        for p in places(bike.rear)
        if p.key in offsets
    ]


def _sags(job: BikeJob, extended: dict[str, float], off: float = 0.0, *, planned: bool = False) -> list[dict[str, Any]]:
    """Readings from axle to mark, as a tape would give them, ``off`` mm from what is predicted."""
    prediction = predict_bike(job)
    stance = prediction.planned if planned else prediction.before
    found = []
    for end, mark in extended.items():
        shift = prediction.full_extension_rise_mm if planned and end == "rear" else 0.0
        for state in ("extended", "unladen", "laden"):
            at = getattr(stance, state)
            sunk = at.rear_sag_mm if end == "rear" else at.front_sag_mm
            slip = 0.0 if state == "extended" else off
            found.append({"end": end, "state": state, "reading": f"{mark - shift - sunk - slip:.0f}"})
    return found


MARKS = {"rear": 612.0, "front": 704.0}


@cache
def _trail() -> BikeJob:
    """A lowering link for a rider who cannot reach: on the plan."""
    bike = BIKES["linkage_frame"].bike(
        "Skerra Whin, 250-class trail bike", "Q-M017", "Light trail bike of the rangers."
    )
    bike = bike.model_copy(update={"fasteners": {}, "orientation": ("Rocker: the stamped side to the left.",)})
    bike = Bike.model_validate(bike.model_dump() | {"fasteners": FASTENERS})
    hole, rod = holes(bike.rear)
    job = _job(
        "whin-2026-lower", "Trail bike: lower for the new ranger", bike,
        {
            "owner": "Shore Rangers", "purpose": "The new ranger is shorter: the feet should reach on the shingle.",
            "rear_drop": "24",
            "rides": _rides(bike, ("Odile Marsk", "rider", 63, 0.40), ("pack and radio", "kit", 9, 0.22)),
            "inseam_mm": 765, "supplier_raise_mm": 15, "due": "2026-12-04",
        },
    )  # fmt: skip
    tape = _tape(
        bike,
        {"rod_arm.rod_rocker": 0.4, "rocker_pivot.rod_rocker": -0.3, "damper_rocker.rocker_pivot": 0.2,
         "damper_rocker.rod_rocker": 0.3, "pivot.rod_arm": 1.2, "axle.pivot": 2.5, "pivot.height": 3.0},
    )  # fmt: skip
    job = job.model_copy(update={"measure": job.measure.model_validate({"tape": tape})})
    measured = {"tape": tape, "sags": _sags(job, MARKS, 1.0), "seat": "903"}
    link = {"type": "rear_link", "hole_mm": round(hole - 2, 1), "rod_mm": round(rod + 8, 1), "part": "YS-L24"}
    return BikeJob.model_validate(
        job.model_dump() | {"measure": measured, "plan": {"changes": [{"id": "c1", "change": link}]}}
    )


@cache
def _tourer() -> BikeJob:
    """Two up with luggage: being measured."""
    bike = BIKES["shaft_tourer"].bike("Ostrel Causeway, shaft tourer", "Q-M044", "Carries the nurse and the bags.")
    return _job(
        "causeway-2026-two-up", "Tourer: two up over the causeway", bike,
        {
            "owner": "Island Surgery", "purpose": "With passenger and bags it grounds on the causeway's ramps.",
            "rear_drop": "-15", "tolerance_mm": 6, "inseam_mm": 830,
            "rides": _rides(bike, ("Nurse Halloran", "rider", 74, 0.38), ("passenger", "passenger", 68, 0.12),
                            ("bags", "luggage", 26, -0.06)),
        },
    )  # fmt: skip


@cache
def _commuter() -> BikeJob:
    """Longer clevises for the postmistress: signed off."""
    bike = BIKES["twin_dampers"].bike(
        "Pelk Tram, twin-damper commuter", "Q-M008", "Two dampers, a basket, thirty years."
    )
    job = _job(
        "tram-2025-up", "Commuter: up a little, mudguard free", bike,
        {
            "owner": "Quillisay Post", "purpose": "The mudguard rubs with the basket full.", "rear_drop": "-5",
            "tolerance_mm": 4, "keep_steering": False,
            "rides": _rides(bike, ("postmistress", "rider", 81, 0.34), ("basket", "kit", 14, 0.9)),
        },
        plan={"changes": [{"id": "c1", "change": {"type": "clevis", "out_mm": 5}},
                          {"id": "c2", "change": {"type": "rear_preload", "preload_mm": 8}}]},
    )  # fmt: skip
    measured = {"sags": _sags(job, {"rear": 498.0, "front": 560.0}, -1.0), "seat": "776"}
    job = BikeJob.model_validate(job.model_dump() | {"measure": measured})
    after = {"sags": _sags(job, {"rear": 498.0, "front": 560.0}, 1.0, planned=True)}
    signed = {"by": "Bram Okkel", "at": datetime(2025, 10, 17, 15, 20, tzinfo=UTC), "note": "Rides level, rub is gone."}
    return BikeJob.model_validate(job.model_dump() | {"prove": {"after": after, "sign_off": signed}})


@cache
def _trials() -> BikeJob:
    """Another spring for a light rider: being built."""
    bike = BIKES["trials"].bike("Skerra Wren, trials bike", "Q-M031", "For standing on.")
    bike = Bike.model_validate(bike.model_dump() | {"fasteners": FASTENERS})
    job = _job(
        "wren-2026-spring", "Trials bike: spring for a light rider", bike,
        {
            "owner": "Juno Veyle", "purpose": "Bought from a heavy rider; it kicks at every step.", "rear_drop": "4",
            "tolerance_mm": 6, "rides": _rides(bike, ("Juno Veyle", "rider", 58, 0.37)), "inseam_mm": 770,
        },
        plan={"changes": [{"id": "c1", "change": {"type": "rear_spring", "spring": SHELF[6]["spring"],
                                                  "preload_mm": 4}}]},
        align={"note": "Trail kept: nothing to set."},
    )  # fmt: skip
    measured = {"sags": _sags(job, {"rear": 560.0, "front": 640.0}, 0.5)}
    ticks = [
        {"step": s, "done_at": datetime(2026, 11, 24, 9, 10 + n, tzinfo=UTC), "by": "Juno Veyle"}
        for n, s in enumerate(("ready.sag", "ready.parts"))
    ]
    return BikeJob.model_validate(job.model_dump() | {"measure": measured, "build": {"ticks": ticks}})


@cache
def _downhill() -> BikeJob:
    """Set up for a rider of another mass: steering decided, ready to build."""
    bike = BIKES["downhill"].bike("Dravik Scree, downhill bike", "", "Goes up by the quarry lift.")
    job = _job(
        "scree-2026-rider", "Downhill bike: set up for its new rider", bike,
        {
            "owner": "Ines Tarrow", "purpose": "New rider with kit is 92 kg; it bottoms on the quarry steps.",
            "rear_drop": "0", "tolerance_mm": 12, "keep_steering": True,
            "rides": _rides(bike, ("Ines Tarrow", "rider", 84, 0.36), ("helmet, pads, water", "kit", 8, 0.38)),
        },
    )  # fmt: skip
    measured = {"sags": _sags(job, {"rear": 488.0, "front": 610.0}, 2.0)}
    stiffer = {"type": "rear_spring", "spring": SHELF[2]["spring"], "preload_mm": 1}
    return BikeJob.model_validate(
        job.model_dump()
        | {"measure": measured, "plan": {"changes": [{"id": "c1", "change": stiffer}]},
           "align": {"note": "Single change at the rear: trail within a millimetre, tubes stay."}}
    )  # fmt: skip


@cache
def demo_bike_jobs() -> tuple[BikeJob, ...]:
    """All jobs, oldest first."""
    return _commuter(), _tourer(), _trials(), _downhill(), _trail()


@cache
def demo_bikes() -> tuple[tuple[Bike, str], ...]:
    """Machines without a job, with their owners: the archetypes no job uses. One is measured already."""
    read = {
        "damper.extended": "300.6", "rocker_pivot.rod_rocker": "86.4", "axle.rocker_pivot": "351",
        "pivot.rocker_pivot": "7 3/4 in", "damper_rocker.rocker_pivot": "50.2", "pivot.height": "371",
    }  # fmt: skip
    ferryman = BIKES["linkage_arm"].bike("Ostrel Ferryman, road bike", "Q-M052", "Fast to the boat.")
    ferryman = Bike.model_validate(
        ferryman.model_dump() | {"tape": [{"key": k, "reading": v} for k, v in read.items()]}
    )
    return (
        (ferryman, "Sound Ferries"),
        (BIKES["mountain"].bike("Dravik Sorrel, mountain bike", "", "The doctor's, for Sundays."), "Island Surgery"),
        (BIKES["cantilever"].bike("Pelk Lapwing, farm bike", "Q-M060", "Sheep, gates, fences."), "High Pasture Dairy"),
    )

"""Stage documents to rows and back: what is asked across jobs stands in columns, the rest in the document."""

import hashlib
import json
from collections.abc import Mapping, Sequence
from functools import cache
from typing import Any

from inclinum import __version__
from inclinum.core.bike.job import BikeAlign, BikeBrief, BikeMeasurements, BikeProve
from inclinum.core.car.job import Align, AxleAim, Brief, Measurements, Prove
from inclinum.core.card.record import Build
from inclinum.core.document import Document
from inclinum.core.document.names import STAGES, StageName
from inclinum.core.machines import KINDS
from inclinum.jobfile import HistoryEntry

ENTRY_FIELDS = ("text", "value", "tolerance", "unit")
PLACES = {
    "corners": ("axle", "quantity"),
    "stations": ("station", None),
    "angles": ("axle", "angle"),
    "scales": ("axle", None),
}
"""List of readings → the keys that become place and quantity of a row."""
Row = dict[str, Any]


@cache
def models_mark() -> str:
    """What the documents of this program look like, in short: rows read by another one are looked through again."""
    models = (*(k.job for k in KINDS.values()), *(k.machine for k in KINDS.values()), HistoryEntry)
    text = json.dumps([__version__, *(m.model_json_schema() for m in models)], sort_keys=True)
    return hashlib.sha256(text.encode()).hexdigest()[:16]


def put(wheels: int, stage: StageName, section: Document) -> tuple[Row, list[Row], list[Row]]:
    """A stage's document without what has rows of its own, its readings, and its torques."""
    document = section.model_dump(mode="json")
    readings: list[Row] = []
    torques: list[Row] = []
    if wheels == 4 and stage in ("measure", "prove"):
        readings = _reading_rows(stage, document if stage == "measure" else document["after"])
    if stage == "build":
        torques = [
            {
                "position": n, "fastener": t["fastener"], "axle": t["axle"], "side": t["side"],
                "done_at": t["done_at"], "done_by": t["by"],
                "angle": t["angle_deg"], **{f: t["torque"] and t["torque"][f] for f in ENTRY_FIELDS},
            }
            for n, t in enumerate(document.pop("torques"))
        ]  # fmt: skip
    return document, readings, torques


def raw(
    wheels: int, stage: str, document: Row, readings: Sequence[Mapping[Any, Any]], torques: Sequence[Mapping[Any, Any]]
) -> Row:
    """The stage's document whole again, not looked at."""
    document = dict(document)
    if wheels == 4 and stage == "measure":
        document |= _readings(readings, "measure")
    if wheels == 4 and stage == "prove":
        document["after"] = document.get("after", {}) | _readings(readings, "prove")
    if stage == "build":
        document["torques"] = [
            {
                "fastener": t["fastener"], "axle": t["axle"], "side": t["side"],
                "torque": None if t["value"] is None else {f: t[f] for f in ENTRY_FIELDS},
                "by_feel": t["value"] is None, "angle_deg": t["angle"], "done_at": t["done_at"], "by": t["done_by"],
            }
            for t in sorted(torques, key=lambda t: t["position"])
        ]  # fmt: skip
    return document


def begun(section: Any) -> bool:
    """Whether there is something in a stage that moves the job on."""
    match section:
        case Measurements():
            return bool(section.corners)
        case BikeMeasurements():
            return bool(section.sags or section.tape)
        case Align():
            return bool(section.chosen)
        case BikeAlign():
            return bool(section.note)
        case Build():
            return bool(section.ticks)
        case Prove():
            return bool(section.sign_off or section.after.corners)
        case BikeProve():
            return bool(section.sign_off or section.after.sags)
    return False


def next_stage(mask: int) -> StageName:
    """Where work goes on, by the stages that have something in them."""
    leads: tuple[tuple[StageName, StageName], ...] = (
        ("prove", "prove"), ("build", "build"), ("align", "align"), ("measure", "plan"),
    )  # fmt: skip
    for stage, leads_to in leads:
        if mask & bit(stage):
            return leads_to
    return "measure"


def bit(stage: StageName) -> int:
    """A stage's place in the mask of begun stages."""
    return 1 << STAGES.index(stage)


def listed(section: Document) -> Row:
    """Columns of the job's row that a stage tells."""
    match section:
        case Brief():
            return {
                "owner": section.owner, "due": section.due,
                "front_rise": _said_rise(section.front), "rear_rise": _said_rise(section.rear),
            }  # fmt: skip
        case BikeBrief():
            return {
                "owner": section.owner, "due": section.due,
                "front_rise": section.front_drop and -section.front_drop.value,
                "rear_rise": section.rear_drop and -section.rear_drop.value,
            }  # fmt: skip
        case Prove() | BikeProve():
            return {"signed_off": section.sign_off.at if section.sign_off else None}
    return {}


def _said_rise(aim: AxleAim) -> float | None:
    """A rise that stands in the brief as one; what is said by a height follows from the readings."""
    return aim.rise.value if aim.by == "rise" else None


def _reading_rows(stage: str, readings: Row) -> list[Row]:
    return [
        {
            "stage": stage, "kind": kind, "position": n, "place": item[place], "side": item["side"],
            "quantity": item[quantity] if quantity else "height" if kind == "stations" else "mass",
            **{f: item["reading"][f] for f in ENTRY_FIELDS},
        }
        for kind, (place, quantity) in PLACES.items()
        for n, item in enumerate(readings.pop(kind))
    ]  # fmt: skip


def _readings(rows: Sequence[Mapping[Any, Any]], stage: str) -> dict[str, list[Row]]:
    found: dict[str, list[Row]] = {kind: [] for kind in PLACES}
    for row in sorted(rows, key=lambda r: r["position"]):
        if row["stage"] != stage:
            continue
        place, quantity = PLACES[row["kind"]]
        item: Row = {place: row["place"], "side": row["side"]} | ({quantity: row["quantity"]} if quantity else {})
        found[row["kind"]].append(item | {"reading": {f: row[f] for f in ENTRY_FIELDS}})
    return found

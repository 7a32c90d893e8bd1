"""Stage documents to rows and back: what is asked across jobs stands in columns, the rest in the document."""

from collections.abc import Sequence
from typing import Any

from inclinum.core.bike.job import BikeAlign, BikeBrief, BikeJob, BikeMeasurements, BikePlan, BikeProve
from inclinum.core.document import Document
from inclinum.core.job import STAGES, Align, Brief, Build, Job, Measurements, Plan, Prove, StageName
from inclinum.store.models import JobRow, Measurement, StageRow, TorqueRow

STAGE_MODELS: dict[int, dict[StageName, type[Document]]] = {
    4: {"brief": Brief, "measure": Measurements, "plan": Plan, "align": Align, "build": Build, "prove": Prove},
    2: {"brief": BikeBrief, "measure": BikeMeasurements, "plan": BikePlan, "align": BikeAlign, "build": Build,
        "prove": BikeProve},
}  # fmt: skip
"""Wheels → stage → its document."""
JOB_MODELS: dict[int, type[Job | BikeJob]] = {4: Job, 2: BikeJob}

ENTRY_FIELDS = ("text", "value", "tolerance", "unit")
PLACES = {
    "corners": ("axle", "quantity"),
    "stations": ("station", None),
    "angles": ("axle", "angle"),
    "scales": ("axle", None),
}
"""List of readings → the keys that become place and quantity of a row."""


def put(row: JobRow, stage: StageName, section: Document) -> dict[str, Any]:
    """Lay a stage's rows into the job and give the document that is left."""
    document = section.model_dump(mode="json")
    if row.wheels == 4 and stage in ("measure", "prove"):
        readings = document if stage == "measure" else document["after"]
        row.measurements = [m for m in row.measurements if m.stage != stage] + _measurement_rows(stage, readings)
    if stage == "build":
        row.torques = [
            TorqueRow(
                position=n,
                fastener=t["fastener"],
                axle=t["axle"],
                side=t["side"],
                done_at=t["done_at"],
                done_by=t["by"],
                **{f: t["torque"][f] for f in ENTRY_FIELDS},
            )
            for n, t in enumerate(document.pop("torques"))
        ]
    return document


def take(row: JobRow, stage: StageRow) -> Document:
    """The stage's section, whole again."""
    document = dict(stage.document)
    if row.wheels == 4 and stage.name == "measure":
        document |= _readings(row.measurements, "measure")
    if row.wheels == 4 and stage.name == "prove":
        document["after"] = document["after"] | _readings(row.measurements, "prove")
    if stage.name == "build":
        document["torques"] = [
            {
                "fastener": t.fastener,
                "axle": t.axle,
                "side": t.side,
                "torque": {f: getattr(t, f) for f in ENTRY_FIELDS},
                "done_at": t.done_at,
                "by": t.done_by,
            }
            for t in row.torques
        ]
    return STAGE_MODELS[row.wheels][stage.name].model_validate(document)  # type: ignore[index]


def assemble(row: JobRow) -> Job | BikeJob:
    """The job as one document, of the kind its wheels say."""
    sections = {stage.name: take(row, stage) for stage in row.stages}
    return JOB_MODELS[row.wheels].model_validate(
        {"id": row.id, "title": row.title, "vehicle": row.vehicle_document} | {name: sections[name] for name in STAGES}
    )


def _measurement_rows(stage: str, readings: dict[str, Any]) -> list[Measurement]:
    rows = []
    for kind, (place, quantity) in PLACES.items():
        for n, item in enumerate(readings.pop(kind)):
            rows.append(
                Measurement(
                    stage=stage,
                    kind=kind,
                    position=n,
                    place=item[place],
                    side=item["side"],
                    quantity=item[quantity] if quantity else "height" if kind == "stations" else "mass",
                    **{f: item["reading"][f] for f in ENTRY_FIELDS},
                )
            )
    return rows


def _readings(rows: Sequence[Measurement], stage: str) -> dict[str, list[dict[str, Any]]]:
    found: dict[str, list[dict[str, Any]]] = {kind: [] for kind in PLACES}
    for row in sorted(rows, key=lambda r: r.position):
        if row.stage != stage:
            continue
        place, quantity = PLACES[row.kind]
        item: dict[str, Any] = {place: row.place, "side": row.side} | ({quantity: row.quantity} if quantity else {})
        found[row.kind].append(item | {"reading": {f: getattr(row, f) for f in ENTRY_FIELDS}})
    return found

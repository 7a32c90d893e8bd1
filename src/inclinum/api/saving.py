"""What saving a stage takes and gives, the same for all six."""

from collections.abc import Awaitable, Callable
from typing import Annotated, Any, Generic, Literal, TypeVar, Union

from fastapi import APIRouter, Path
from pydantic import BaseModel, Field, create_model

from inclinum.api.database import Acting, By, Database, Store
from inclinum.api.errors import ConflictBody
from inclinum.core.document import Document
from inclinum.core.document.merge import Whose
from inclinum.core.document.names import StageName
from inclinum.core.machines import KINDS
from inclinum.core.machines.kind import MachineKind
from inclinum.store import jobs, stages
from inclinum.store.errors import Moved

Section = TypeVar("Section", bound=Document)
LARGEST_ID = 2**31 - 1
JobId = Annotated[str, Path(max_length=64, description="id of a job")]
RowId = Annotated[int, Path(ge=1, le=LARGEST_ID)]
Version = Annotated[int, Field(ge=0, le=LARGEST_ID, description="of the stage, as its writer saw it")]
TRIES = 5


Chosen = Annotated[dict[Annotated[str, Field(max_length=400)], Whose], Field(max_length=1000)]


class Save(BaseModel, Generic[Section]):
    """A stage as its writer wants it, on top of what was read."""

    version: Version
    section: Section
    base: Section | None = Field(
        default=None,
        description="the stage as it was read; with it, what others changed since at other entries is kept",
    )
    chosen: Chosen = Field(default={}, description="of entries that both changed, whose holds, by path")


class Saved(BaseModel):
    """The version it now has."""

    version: int


class SavedStage(Saved, Generic[Section]):
    """The version it now has, and what it holds where others' entries came in."""

    section: Section | None = None


def conflicts(*models: Any) -> dict[int | str, dict[str, Any]]:
    """How a clash over a document of one of these kinds is answered."""
    return {409: {"model": ConflictBody[Union[models]]}}  # type: ignore[valid-type]  # noqa: UP007


def _save(kind: MachineKind, stage: StageName) -> type[Save[Any]]:
    """What saves a stage of one kind of job; the kind is named, so that a wrong field is told in its own words."""
    named: Any = (Literal[kind.name], ...)  # type: ignore[valid-type]
    return create_model(f"Save_{kind.name}_{stage}", __base__=Save[kind.stages[stage]], kind=named)


def add_save_route(router: APIRouter, stage: StageName) -> None:
    """``PUT /jobs/{job_id}/<stage>``, of any kind of job: save it, or 409 with both values."""
    models = tuple(_save(kind, stage) for kind in KINDS.values())
    body_of = Annotated[Union[models], Field(discriminator="kind")]  # type: ignore[valid-type]  # noqa: UP007
    sections = tuple(kind.stages[stage] for kind in KINDS.values())

    whole: Any = SavedStage[Union[sections]]  # type: ignore[valid-type]  # noqa: UP007

    async def save(job_id: JobId, body: body_of, store: Database, by: By) -> whole:  # type: ignore[valid-type]
        written = await store(
            stages.save_stage, job_id, stage, body.section, body.version, by=by, base=body.base, chosen=body.chosen
        )
        return whole(version=written.version, section=written.section)

    router.put(f"/jobs/{{job_id}}/{stage}", operation_id=f"save_{stage}", responses=conflicts(*sections))(save)


async def act(
    store: Store,
    job_id: str,
    stage: StageName,
    version: int,
    by: Acting,
    work: Callable[[Any], Awaitable[tuple[Document, str | None]]],
) -> Saved:
    """Work a stage out from the job as it is stored, and save it where the job is still so.

    What is worked out may take a while (a card, a proof), so it is done without holding the job; where somebody saved
    meanwhile, it is worked out again from what is there then.

    Args:
        store: where.
        job_id: which job.
        stage: which stage.
        version: of the stage, as the asker saw it.
        by: who acts.
        work: the stage that follows from the job, and what the history says of a signature.
    """
    for turn in range(TRIES):
        stored = await store(jobs.load, job_id)
        section, signing = await work(stored.job)
        try:
            written = await store(
                stages.save_stage, job_id, stage, section, version,
                by=by, worked_out_from=stored.versions, signing=signing,
            )  # fmt: skip
            return Saved(version=written.version)
        except Moved:
            if turn == TRIES - 1:
                raise
    raise AssertionError("the loop returns or raises")

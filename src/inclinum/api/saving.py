"""What saving a stage takes and gives, the same for all six."""

from typing import Any, Generic, TypeVar

from fastapi import APIRouter
from pydantic import BaseModel

from inclinum.api.acting import Acting
from inclinum.api.database import Database
from inclinum.api.errors import ConflictBody, Refusal
from inclinum.core.document import Document
from inclinum.core.job import StageName
from inclinum.store import jobs

Section = TypeVar("Section", bound=Document)


class Save(BaseModel, Generic[Section]):
    """A stage as its writer wants it, on top of the version that was read."""

    version: int
    section: Section


class Saved(BaseModel):
    """The version it now has."""

    version: int


def add_save_route(router: APIRouter, stage: StageName, model: type[Document], where: str = "jobs") -> None:
    """``PUT /<where>/{job_id}/<stage>``: save it, or 409 with both values."""

    def save(job_id: str, body: Save[model], session: Database, by: Acting) -> Saved:  # type: ignore[valid-type]
        return Saved(version=jobs.save_stage(session, job_id, stage, body.section, body.version, by))

    responses: dict[int | str, dict[str, Any]] = {
        409: {"model": ConflictBody[model]},  # type: ignore[valid-type]
        422: {"model": Refusal},
    }
    name = f"save_{stage}" if where == "jobs" else f"save_{where.removesuffix('s').replace('-', '_')}_{stage}"
    router.put(f"/{where}/{{job_id}}/{stage}", operation_id=name, responses=responses)(save)

"""Errors as sentences: what is wrong, where, and what was saved instead."""

from datetime import datetime
from typing import Generic, TypeVar

from fastapi import FastAPI, HTTPException, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel, ValidationError
from pydantic_core import ErrorDetails

from inclinum.core.document import Document
from inclinum.core.quantity import EntryError
from inclinum.jobfile import Complaint, JobFileError, complaints
from inclinum.jobfile.points_csv import PointsError
from inclinum.store.jobs import Conflict, Missing, Taken

Section = TypeVar("Section", bound=Document)


class Refusal(BaseModel):
    """Why a request was refused."""

    sentence: str
    complaints: list[Complaint] = []


class ConflictBody(BaseModel, Generic[Section]):
    """Two people saved the same stage: nothing was overwritten, both values are here."""

    sentence: str
    theirs: Section
    version: int
    by: str
    at: datetime


def install(app: FastAPI) -> None:
    """Register every handler."""

    @app.exception_handler(RequestValidationError)
    async def _bad_request(_: Request, error: RequestValidationError) -> JSONResponse:
        found = complaints(_inside_body(error))
        return _refuse(422, found[0].sentence if found else "The request cannot be read.", found)

    @app.exception_handler(JobFileError)
    async def _bad_file(_: Request, error: JobFileError) -> JSONResponse:
        first = error.complaints[0]
        return _refuse(422, f"{first.path}: {first.sentence}", error.complaints)

    @app.exception_handler(PointsError)
    async def _bad_table(_: Request, error: PointsError) -> JSONResponse:
        first = error.complaints[0]
        return _refuse(422, f"{first.path}: {first.sentence}", error.complaints)

    @app.exception_handler(ValidationError)
    async def _bad_document(_: Request, error: ValidationError) -> JSONResponse:
        found = complaints(error.errors())
        return _refuse(422, found[0].sentence, found)

    @app.exception_handler(Missing)
    async def _missing(_: Request, error: Missing) -> JSONResponse:
        return _refuse(404, str(error.args[0]))

    @app.exception_handler(Taken)
    async def _taken(_: Request, error: Taken) -> JSONResponse:
        return _refuse(409, str(error))

    @app.exception_handler(EntryError)
    async def _entry(_: Request, error: EntryError) -> JSONResponse:
        return _refuse(422, str(error))

    @app.exception_handler(ValueError)
    async def _cannot_compute(_: Request, error: ValueError) -> JSONResponse:
        return _refuse(422, str(error))

    @app.exception_handler(HTTPException)
    async def _http(_: Request, error: HTTPException) -> JSONResponse:
        return _refuse(error.status_code, str(error.detail))

    @app.exception_handler(Conflict)
    async def _conflict(_: Request, error: Conflict) -> JSONResponse:
        body = ConflictBody[type(error.theirs)](  # type: ignore[misc]
            sentence=f"{error.by} saved this while you were writing. Nothing was overwritten: "
            "keep theirs, or save yours on top.",
            theirs=error.theirs,
            version=error.version,
            by=error.by,
            at=error.at,
        )
        return JSONResponse(body.model_dump(mode="json"), 409)


def _inside_body(error: RequestValidationError) -> list[ErrorDetails]:
    """Details with their path as the writer of the body knows it."""
    return [
        ErrorDetails(**(d | {"loc": tuple(d["loc"])[1:] if d["loc"][0] == "body" else tuple(d["loc"])}))
        for d in error.errors()
    ]


def _refuse(status: int, sentence: str, found: list[Complaint] | None = None) -> JSONResponse:
    return JSONResponse(Refusal(sentence=sentence, complaints=found or []).model_dump(mode="json"), status)

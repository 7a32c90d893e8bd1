"""Errors as sentences: what is wrong, where, and what was saved instead. One shape for every status."""

import logging
import secrets
import traceback
from datetime import datetime
from typing import Any, Generic, TypeVar

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from psycopg.errors import UniqueViolation
from pydantic import BaseModel, ValidationError
from pydantic_core import ErrorDetails
from sqlalchemy.exc import DBAPIError, IntegrityError, OperationalError
from sqlalchemy.exc import TimeoutError as NoConnection
from starlette.exceptions import HTTPException

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.merge import Contested
from inclinum.jobfile import Complaint, JobFileError, complaints
from inclinum.jobfile.points_csv import PointsError
from inclinum.store.errors import Conflict, Missing, Moved, Taken, Unreadable

Section = TypeVar("Section", bound=Document)
log = logging.getLogger("inclinum")


class Refusal(BaseModel):
    """Why a request was refused, or could not be done."""

    sentence: str
    complaints: list[Complaint] = []
    raw_address: str | None = None
    """Where what is stored can be had, when it cannot be read."""
    trouble_id: str | None = None
    """Of a fault of ours: it stands in the log with the rest."""


class ConflictBody(BaseModel, Generic[Section]):
    """Two people saved the same stage: nothing was overwritten, both values are here."""

    sentence: str
    theirs: Section
    version: int
    by: str
    at: datetime
    contested: list[Contested] = []
    """What both changed, entry by entry: each is chosen by its path, and the save is sent again."""


ALWAYS: dict[int | str, dict[str, Any]] = {
    400: {"model": Refusal, "description": "Nobody is picked, or the request is not HTTP as it should be"},
    403: {"model": Refusal, "description": "The request comes from a page on another address"},
    404: {"model": Refusal, "description": "There is nothing of that id"},
    405: {"model": Refusal, "description": "There is nothing to do in that way here"},
    408: {"model": Refusal, "description": "The rest of the request did not come"},
    409: {"model": Refusal, "description": "It is already there, or somebody else was first"},
    413: {"model": Refusal, "description": "Larger than anything that is kept"},
    421: {"model": Refusal, "description": "The address in use is not one of this server"},
    422: {"model": Refusal, "description": "What was sent cannot be used; complaints say where and why"},
    500: {"model": Refusal, "description": "A fault of ours; its id stands in the log"},
    507: {"model": Refusal, "description": "The disk that holds the data is full"},
    503: {"model": Refusal, "description": "The database does not answer, or too much is being computed"},
}
"""What any route may answer beside what it is for."""


class NotSigned(Exception):  # noqa: N818
    """A job is not signed: something is missing, and nobody says why it is signed all the same."""

    def __init__(self, lacks: list[str]):
        super().__init__("; ".join(lacks))
        self.lacks = lacks


class AnsweredElsewhere(Exception):  # noqa: N818
    """A worker has already told what is wrong."""

    def __init__(self, status: int, body: dict[str, Any]):
        super().__init__(body.get("sentence"))
        self.status, self.body = status, body


def refusal_of(error: Exception) -> tuple[int, BaseModel] | None:
    """Status and body that tell an error; None for a fault of ours."""
    match error:
        case RequestValidationError():
            found = complaints(_inside_body(error))
            return 422, Refusal(
                sentence=found[0].sentence if found else "The request cannot be read.", complaints=found
            )
        case JobFileError() | PointsError():
            first = error.complaints[0]
            return 422, Refusal(sentence=f"{first.path}: {first.sentence}", complaints=error.complaints)
        case ValidationError():
            found = complaints(error.errors(include_url=False))
            return 422, Refusal(sentence=found[0].sentence, complaints=found)
        case NotSigned():
            return 422, Refusal(
                sentence=f"Not signed yet: {error}. See to it, or write why it is signed all the same.",
                complaints=[Complaint(path="missing", sentence=lack) for lack in error.lacks],
            )
        case Missing():
            return 404, Refusal(sentence=str(error.args[0]))
        case Taken():
            return 409, Refusal(sentence=str(error))
        case Unreadable():
            return 422, Refusal(sentence=error.sentence, complaints=error.complaints, raw_address=error.raw_address)
        case Moved():
            return 409, Refusal(sentence="The job is being changed by somebody else just now; press again.")
        case Conflict():
            return 409, ConflictBody[type(error.theirs)](  # type: ignore[misc]
                sentence=f"{error.by} changed the same while you were writing. Nothing was overwritten: "
                + ("choose for each whose holds." if error.contested else "look again, then press again."),
                theirs=error.theirs,
                version=error.version,
                by=error.by,
                at=error.at,
                contested=error.contested,
            )
        case HTTPException():
            return error.status_code, Refusal(sentence=_sentence_of(error))
        case IntegrityError() if isinstance(error.orig, UniqueViolation):
            return 409, Refusal(sentence="Somebody else took that name at the same moment; choose another one.")
        case OperationalError() | DBAPIError() if _state(error) == FULL:
            return 507, Refusal(sentence=FULL_SENTENCE)
        case OperationalError() | NoConnection() | DBAPIError() if _database_away(error):
            return 503, Refusal(sentence="The database does not answer just now. What you typed is kept; try again.")
        case RecursionError():
            return 422, Refusal(sentence="What was sent is nested deeper than anything that is kept.")
        case DomainError():
            return 422, Refusal(sentence=str(error))
    return None


WORDS = {
    404: "There is nothing at this address.",
    405: "That cannot be done at this address.",
    400: "The request cannot be read.",
}


def _sentence_of(error: HTTPException) -> str:
    """Our own sentence, or ours in place of the library's word for a status."""
    detail = str(error.detail)
    return detail if detail.endswith((".", "?", "!")) else WORDS.get(error.status_code, "The request cannot be read.")


GONE = {"57P01", "57P02", "57P03", "57014", "55P03", "40P01", "40001", "53300", "25P03", "53200"}
"""SQL states that pass: shutting down, starting up, a time-out, a lock, no more memory or connections."""


FULL = "53100"
FULL_SENTENCE = (
    "The disk that holds the shop's data is full: nothing more can be saved until there is room on it. "
    "What you typed is kept here, and is saved then."
)


def _state(error: Exception) -> str | None:
    return getattr(getattr(error, "orig", None), "sqlstate", None)


def _database_away(error: Exception) -> bool:
    if isinstance(error, NoConnection | OperationalError):
        return True
    return _state(error) in GONE or bool(getattr(error, "connection_invalidated", False))


def fault(method: str, address: str, trace: str) -> Refusal:
    """A fault of ours, put into the log under an id that its sentence names."""
    trouble = secrets.token_hex(4)
    log.error("fault %s in %s %s\n%s", trouble, method, address, trace)
    return Refusal(
        sentence=f"That is a fault of this program, not yours; it stands in the log as {trouble}. "
        "What you typed is kept.",
        trouble_id=trouble,
    )


def answer(request: Request, error: Exception) -> JSONResponse:
    """Any error on its way out."""
    if isinstance(error, AnsweredElsewhere):
        return JSONResponse(error.body, error.status)
    found = refusal_of(error)
    if found is None:
        trace = "".join(traceback.format_exception(error))
        found = 500, fault(request.method, request.url.path, trace)
    status, body = found
    if status == 503:
        log.warning("%s %s: %s", request.method, request.url.path, error)
    headers = dict(getattr(error, "headers", None) or {}) | ({"Retry-After": "1"} if status == 503 else {})
    return JSONResponse(body.model_dump(mode="json"), status, headers=headers)


def install(app: FastAPI) -> None:
    """Register the one handler for everything that is told, and for what is not foreseen."""

    async def _answer(request: Request, error: Exception) -> JSONResponse:
        return answer(request, error)

    for kind in (
        RequestValidationError, AnsweredElsewhere, NotSigned, HTTPException, Missing, Moved, Conflict, Unreadable,
        DomainError, ValidationError, DBAPIError, NoConnection, RecursionError, Exception,
    ):  # fmt: skip
        app.add_exception_handler(kind, _answer)


def _inside_body(error: RequestValidationError) -> list[ErrorDetails]:
    """Details with their path as the writer of the body knows it."""
    return [
        ErrorDetails(**(d | {"loc": tuple(d["loc"])[1:] if d["loc"][0] == "body" else tuple(d["loc"])}))
        for d in error.errors()
    ]

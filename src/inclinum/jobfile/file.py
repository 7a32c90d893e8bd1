"""Reading and writing ``*.inclinum.json``."""

import json
from typing import Any, Literal, NoReturn

from pydantic import Field, ValidationError

from inclinum.core.document import Document, Moment
from inclinum.core.job import Job
from inclinum.jobfile.sentences import Complaint, complaints

FORMAT = "inclinum-job"
VERSION = 1
LARGEST_BYTES = 4_000_000
"""More than any job needs; larger files are refused before they are parsed."""


class HistoryEntry(Document):
    """One saved change: who, when, what."""

    at: Moment
    by: str = Field(max_length=120)
    what: str = Field(max_length=2000)


class JobFile(Document):
    """A job with its history."""

    format: Literal["inclinum-job"] = FORMAT
    version: Literal[1] = VERSION
    job: Job
    history: tuple[HistoryEntry, ...] = ()


class JobFileError(ValueError):
    """The file cannot be used; ``complaints`` says why, each with a path and a sentence."""

    def __init__(self, found: list[Complaint]):
        super().__init__("\n".join(f"{c.path}: {c.sentence}" for c in found))
        self.complaints = found


UPGRADES: dict[int, Any] = {}
"""Version → function from its parsed JSON to the next version's. Version 1 is the first."""


def read(data: bytes | str) -> JobFile:
    """A job file from its bytes.

    Raises:
        JobFileError: too large, not JSON, cut off, of another format or version, or with a bad field.
    """
    if len(data) > LARGEST_BYTES:
        _refuse(f"The file has {len(data) / 1e6:.1f} MB; a job file has at most {LARGEST_BYTES / 1e6:.0f} MB.")
    text = ""
    try:
        text = data.decode("utf-8") if isinstance(data, bytes) else data
        parsed = json.loads(text, parse_constant=_no_constant)
    except UnicodeDecodeError:
        _refuse("The file is not text in UTF-8; export it again.")
    except RecursionError:
        _refuse("The file is nested deeper than any job file.")
    except json.JSONDecodeError as error:
        where = f"line {error.lineno}, column {error.colno}"
        if error.pos >= len(text.rstrip()) - 1:
            _refuse(f"The file is cut off at {where}; copy it again.")
        _refuse(f"The file is not JSON: {error.msg} at {where}.")
    if not isinstance(parsed, dict) or parsed.get("format") != FORMAT:
        _refuse(f"This is not a job file: its “format” is not “{FORMAT}”.", "format")
    version = parsed.get("version")
    while version in UPGRADES:
        parsed = UPGRADES[version](parsed)
        version = parsed["version"]
    if version != VERSION:
        _refuse(f"Version {version!r} of the job file is not known to this program, which reads {VERSION}.", "version")
    try:
        return JobFile.model_validate(parsed)
    except ValidationError as error:
        raise JobFileError(complaints(error.errors(), JobFile)) from None


def write(file: JobFile) -> str:
    """The file's text: the same job always gives the same text."""
    return json.dumps(file.model_dump(mode="json"), ensure_ascii=False, indent=1) + "\n"


def schema() -> dict[str, Any]:
    """The published JSON Schema of the format."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema"} | JobFile.model_json_schema()


def _no_constant(name: str) -> NoReturn:
    _refuse(f"{name} is no number a job file may hold; give the real figure or leave the field out.")


def _refuse(sentence: str, path: str = "(the file)") -> NoReturn:
    raise JobFileError([Complaint(path=path, sentence=sentence)]) from None

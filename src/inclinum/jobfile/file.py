"""Reading and writing ``*.inclinum.json`` (jobs), ``*.axle.json`` and ``*.sheet.json``."""

import json
from collections.abc import Callable
from typing import Any, Literal, NoReturn

from pydantic import Field, ValidationError

from inclinum.core.axle_sheet import AxleSheet
from inclinum.core.bike.job import BikeJob
from inclinum.core.document import Document, Moment
from inclinum.core.job import Job
from inclinum.core.sheets import AnySheet
from inclinum.jobfile.sentences import Complaint, complaints

FORMAT = "inclinum-job"
VERSION = 2
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
    version: Literal[2] = VERSION
    job: Job
    history: tuple[HistoryEntry, ...] = ()


class BikeFile(Document):
    """A job on a two-wheeler with its history."""

    format: Literal["inclinum-bike-job"] = "inclinum-bike-job"
    version: Literal[1] = 1
    job: BikeJob
    history: tuple[HistoryEntry, ...] = ()


class AxleFile(Document):
    """One axle alone."""

    format: Literal["inclinum-axle"] = "inclinum-axle"
    version: Literal[1] = 1
    axle: AxleSheet


class SheetFile(Document):
    """One bench sheet."""

    format: Literal["inclinum-sheet"] = "inclinum-sheet"
    version: Literal[1] = 1
    sheet: AnySheet


AnyJobFile = JobFile | BikeFile
AnyFile = JobFile | BikeFile | AxleFile | SheetFile
FORMATS: dict[str, type[AnyFile]] = {
    m.model_fields["format"].default: m for m in (JobFile, BikeFile, AxleFile, SheetFile)
}


class JobFileError(ValueError):
    """The file cannot be used; ``complaints`` says why, each with a path and a sentence."""

    def __init__(self, found: list[Complaint]):
        super().__init__("\n".join(f"{c.path}: {c.sentence}" for c in found))
        self.complaints = found


def upgrade_vehicle(vehicle: dict[str, Any]) -> dict[str, Any]:
    """A vehicle of version 1, whose axles had a ``coil``, with a ``spring`` of a stated kind instead."""
    axles = {
        name: {("spring" if k == "coil" else k): ({"type": "coil_spring"} | v if k == "coil" else v)
               for k, v in axle.items()}
        for name in ("front", "rear")
        if isinstance(axle := vehicle.get(name), dict) and isinstance(axle.get("coil"), dict)
    }  # fmt: skip
    return vehicle | axles


def _from_1(parsed: dict[str, Any]) -> dict[str, Any]:
    job = parsed.get("job")
    if isinstance(job, dict) and isinstance(job.get("vehicle"), dict):
        job = job | {"vehicle": upgrade_vehicle(job["vehicle"])}
    return parsed | {"version": 2, "job": job}


UPGRADES: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {1: _from_1}
"""Version → function from its parsed JSON to the next version's."""


def read(data: bytes | str) -> JobFile:
    """A job file from its bytes.

    Raises:
        JobFileError: too large, not JSON, cut off, of another format or version, or with a bad field.
    """
    parsed = _parsed(data)
    if parsed.get("format") != FORMAT:
        _refuse(f"This is not a job file: its “format” is not “{FORMAT}”.", "format")
    return _validated(JobFile, parsed)  # type: ignore[return-value]


def read_job(data: bytes | str) -> AnyJobFile:
    """A job of four wheels or of two from its bytes. Raises as :func:`read`."""
    parsed = _parsed(data)
    if parsed.get("format") == BikeFile.model_fields["format"].default:
        return _validated(BikeFile, parsed)  # type: ignore[return-value]
    return read(data)


def file_of(job: Job | BikeJob, history: tuple[HistoryEntry, ...] = ()) -> AnyJobFile:
    """A job as the file of its kind."""
    return BikeFile(job=job, history=history) if isinstance(job, BikeJob) else JobFile(job=job, history=history)


def read_any(data: bytes | str) -> AnyFile:
    """A job, axle or sheet file from its bytes. Raises as :func:`read`."""
    parsed = _parsed(data)
    model = FORMATS.get(str(parsed.get("format")))
    if model is None:
        known = ", ".join(f"“{f}”" for f in FORMATS)
        _refuse(f"This is no file of ours: its “format” must be one of {known}.", "format")
    return _validated(model, parsed)


def _parsed(data: bytes | str) -> dict[str, Any]:
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
    return parsed if isinstance(parsed, dict) else {}


def _validated(model: type[AnyFile], parsed: dict[str, Any]) -> AnyFile:
    known = model.model_fields["version"].default
    version = parsed.get("version")
    while model is JobFile and version in UPGRADES:
        parsed = UPGRADES[version](parsed)
        version = parsed["version"]
    if version != known:
        _refuse(f"Version {version!r} of the format is not known to this program, which reads {known}.", "version")
    try:
        return model.model_validate(parsed)
    except ValidationError as error:
        raise JobFileError(complaints(error.errors(), model)) from None


def write(file: AnyJobFile) -> str:
    """The file's text: the same job always gives the same text."""
    return json.dumps(file.model_dump(mode="json"), ensure_ascii=False, indent=1) + "\n"


def schema(model: type[AnyFile] = JobFile) -> dict[str, Any]:
    """The published JSON Schema of a format."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema"} | model.model_json_schema()


def _no_constant(name: str) -> NoReturn:
    _refuse(f"{name} is no number a job file may hold; give the real figure or leave the field out.")


def _refuse(sentence: str, path: str = "(the file)") -> NoReturn:
    raise JobFileError([Complaint(path=path, sentence=sentence)]) from None

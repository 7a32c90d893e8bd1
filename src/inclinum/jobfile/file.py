"""Reading and writing ``*.inclinum.json`` (jobs), ``*.axle.json`` and ``*.sheet.json``."""

import json
import re
from collections.abc import Callable, Iterator
from datetime import datetime
from typing import Annotated, Any, Literal, NoReturn, TypeVar
from uuid import UUID

from pydantic import Field, ValidationError

from inclinum.core.bike.job import BikeJob
from inclinum.core.car.job import Job
from inclinum.core.document import Document, Moment
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import Name
from inclinum.core.machines import AnyMachine
from inclinum.core.part_sheets import AnySheet
from inclinum.core.part_sheets.axle import AxleSheet
from inclinum.jobfile.sentences import Complaint, complaints

FORMAT = "inclinum-job"
VERSION = 7
BIKE_VERSION = 6
LARGEST_BYTES = 8_000_000
"""Larger files are refused before they are parsed. An export keeps below it."""
LARGEST_SECTION = 300_000
"""Characters of one stage, or of a vehicle: seven of them, written with their indents, leave room for a history."""
LONGEST_LINE = 2000
"""Characters of a line of history; what is longer is told shortened."""
MOST_LINES = 40_000


class HistoryEntry(Document):
    """One saved change: who, when, what."""

    at: Moment
    by: str = Field(max_length=120)
    what: str = Field(max_length=LONGEST_LINE)


History = Annotated[tuple[HistoryEntry, ...], Field(max_length=MOST_LINES)]


class JobFile(Document):
    """A job with its history."""

    format: Literal["inclinum-job"] = FORMAT
    version: Literal[7] = VERSION
    job: Job
    history: History = ()
    created_at: Moment | None = Field(default=None, description="when the job was opened")
    vehicle_id: UUID | None = Field(default=None, description="which vehicle it is, whatever its name and plate")


class BikeFile(Document):
    """A job on a two-wheeler with its history."""

    format: Literal["inclinum-bike-job"] = "inclinum-bike-job"
    version: Literal[6] = BIKE_VERSION
    job: BikeJob
    history: History = ()
    created_at: Moment | None = Field(default=None, description="when the job was opened")
    vehicle_id: UUID | None = Field(default=None, description="which machine it is, whatever its name and plate")


class AxleFile(Document):
    """One axle alone."""

    format: Literal["inclinum-axle"] = "inclinum-axle"
    version: Literal[1] = 1
    axle: AxleSheet


class VehicleFile(Document):
    """A vehicle of any kind alone, with whose it is."""

    format: Literal["inclinum-vehicle"] = "inclinum-vehicle"
    version: Literal[1] = 1
    vehicle: AnyMachine
    owner: Name
    vehicle_id: UUID | None = Field(default=None, description="which vehicle it is, whatever its name and plate")


class SheetFile(Document):
    """One bench sheet."""

    format: Literal["inclinum-sheet"] = "inclinum-sheet"
    version: Literal[1] = 1
    sheet: AnySheet


AnyJobFile = JobFile | BikeFile
AnyFile = JobFile | BikeFile | AxleFile | SheetFile
FileT = TypeVar("FileT", bound=Document)
FORMATS: dict[str, type[AnyFile]] = {
    m.model_fields["format"].default: m for m in (JobFile, BikeFile, AxleFile, SheetFile)
}


class JobFileError(DomainError):
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


def _newer(version: int) -> Callable[[dict[str, Any]], dict[str, Any]]:
    """To a version that only adds fields which may be left out."""
    return lambda parsed: parsed | {"version": version}


UPGRADES: dict[type[Document], dict[int, Callable[[dict[str, Any]], dict[str, Any]]]] = {
    JobFile: {1: _from_1, 2: _newer(3), 3: _newer(4), 4: _newer(5), 5: _newer(6), 6: _newer(7)},
    BikeFile: {1: _newer(2), 2: _newer(3), 3: _newer(4), 4: _newer(5), 5: _newer(6)},
}
"""Format → version → function from its parsed JSON to the next version's."""


def read(data: bytes | str) -> JobFile:
    """A job file from its bytes.

    Raises:
        JobFileError: too large, not JSON, cut off, of another format or version, or with a bad field.
    """
    parsed = _parsed(data)
    if parsed.get("format") != FORMAT:
        _refuse(f"This is not a job file: its “format” is not “{FORMAT}”.", "format")
    return _validated(JobFile, parsed)


def read_job(data: bytes | str) -> AnyJobFile:
    """A job of four wheels or of two from its bytes. Raises as :func:`read`."""
    parsed = _parsed(data)
    if parsed.get("format") == BikeFile.model_fields["format"].default:
        return _validated(BikeFile, parsed)
    return read(data)


def read_vehicle(data: bytes | str) -> VehicleFile:
    """A vehicle from its bytes. Raises as :func:`read`."""
    parsed = _parsed(data)
    if parsed.get("format") != VehicleFile.model_fields["format"].default:
        _refuse("This is not a vehicle's file: its “format” is not “inclinum-vehicle”.", "format")
    return _validated(VehicleFile, parsed)


def file_of(
    job: Job | BikeJob,
    history: tuple[HistoryEntry, ...] = (),
    created_at: datetime | None = None,
    vehicle_id: UUID | None = None,
) -> AnyJobFile:
    """A job as the file of its kind."""
    if isinstance(job, BikeJob):
        return BikeFile(job=job, history=history, created_at=created_at, vehicle_id=vehicle_id)
    return JobFile(job=job, history=history, created_at=created_at, vehicle_id=vehicle_id)


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
        # Editors on some systems put a byte-order mark before the text.
        text = (data.decode("utf-8") if isinstance(data, bytes) else data).removeprefix("\ufeff")
        parsed = json.loads(text, parse_constant=_no_constant, object_pairs_hook=once)
    except UnicodeDecodeError:
        _refuse("The file is not text in UTF-8; export it again.")
    except RecursionError:
        _refuse("The file is nested deeper than any job file.")
    except json.JSONDecodeError as error:
        where = f"line {error.lineno}, column {error.colno}"
        if error.pos >= len(text.rstrip()) - 1:
            _refuse(f"The file is cut off at {where}; copy it again.")
        _refuse(f"The file is not JSON: {error.msg} at {where}.")
    except Twice as error:
        _refuse(f"“{error.key}” stands twice in one place; one of them would be lost. Leave one of them out.")
    except JobFileError:
        raise
    except ValueError:
        _refuse("The file holds a whole number of thousands of digits; give the real figure or leave the field out.")
    if path := unwritable(parsed):
        _refuse("This text holds a character that is no text (NUL, or half of a pair); type it again.", path)
    return parsed if isinstance(parsed, dict) else {}


def _validated(model: type[FileT], parsed: dict[str, Any]) -> FileT:
    known, steps = model.model_fields["version"].default, UPGRADES.get(model, {})
    version = parsed.get("version")
    while type(version) is int and version in steps:
        parsed = steps[version](parsed)
        version = parsed["version"]
    if type(version) is not int or version != known:
        text = repr(version)
        version = text if len(text) <= 40 else text[:39] + "…"
        _refuse(f"Version {version} of the format is not known to this program, which reads {known}.", "version")
    try:
        file = model.model_validate(parsed)
    except ValidationError as error:
        raise JobFileError(complaints(error.errors(), model)) from None
    if found := list(_taken_for_another(parsed, file.model_dump(mode="json"))):
        raise JobFileError(found)
    return file


def _taken_for_another(given: Any, read: Any, path: str = "") -> Iterator[Complaint]:
    """Where a text was taken for a number or for yes or no, or a number for yes or no: it was not written so.

    Models that are read strictly would refuse them too, but not the other shapes a sheet may be written in.
    """
    if isinstance(given, dict) and isinstance(read, dict):
        for key in given.keys() & read.keys():
            yield from _taken_for_another(given[key], read[key], f"{path}.{key}" if path else key)
    elif isinstance(given, list) and isinstance(read, list) and len(given) == len(read):
        for n, (one, other) in enumerate(zip(given, read, strict=True)):
            yield from _taken_for_another(one, other, f"{path}[{n}]")
    elif isinstance(read, bool) and not isinstance(given, bool):
        yield Complaint(path=path, sentence=f"{given!r} is neither yes nor no; give true or false.")
    elif isinstance(read, int | float) and isinstance(given, str):
        yield Complaint(path=path, sentence=f"“{given}” is a text where a number belongs; write it without quotes.")


class Twice(ValueError):  # noqa: N818
    """A key stands twice in one object of JSON: which of both is meant, nobody knows."""

    def __init__(self, key: str):
        self.key = key if len(key) <= 60 else key[:59] + "…"
        super().__init__(self.key)


def once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    """An object of JSON whose keys stand in it once. Raises Twice."""
    found = dict(pairs)
    if len(found) < len(pairs):
        keys = [key for key, _ in pairs]
        raise Twice(next(key for key in keys if keys.count(key) > 1))
    return found


_NO_TEXT = re.compile(r"[\x00\ud800-\udfff]")
_MAY_HOLD_NONE = re.compile(rb"\\u(?:0000|[dD][89a-fA-F])|\x00")


def unwritable(value: Any, path: str = "") -> str | None:
    """Path of the first text in parsed JSON that neither a database nor a file can hold; None where all is well."""
    if isinstance(value, str):
        return (path or "(the file)") if _NO_TEXT.search(value) else None
    if isinstance(value, dict):
        found = (unwritable(k, path) or unwritable(v, f"{path}.{k}" if path else k) for k, v in value.items())
    elif isinstance(value, list):
        found = (unwritable(v, f"{path}[{n}]") for n, v in enumerate(value))
    else:
        return None
    return next((f for f in found if f), None)


def may_be_unwritable(body: bytes) -> bool:
    """Whether JSON might hold such a text: a quick look, before anything is parsed."""
    return bool(_MAY_HOLD_NONE.search(body))


def write(file: AnyJobFile | VehicleFile) -> str:
    """The file's text: the same job always gives the same text."""
    return json.dumps(file.model_dump(mode="json"), ensure_ascii=False, indent=1) + "\n"


def schema(model: type[AnyFile] = JobFile) -> dict[str, Any]:
    """The published JSON Schema of a format."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema"} | model.model_json_schema()


def _no_constant(name: str) -> NoReturn:
    _refuse(f"{name} is no number a job file may hold; give the real figure or leave the field out.")


def _refuse(sentence: str, path: str = "(the file)") -> NoReturn:
    raise JobFileError([Complaint(path=path, sentence=sentence)]) from None

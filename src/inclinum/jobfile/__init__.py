"""The open file formats: jobs, axles and bench sheets as versioned JSON, read strictly, written exactly."""

from inclinum.jobfile.file import (
    FORMAT,
    FORMATS,
    VERSION,
    AnyJobFile,
    AxleFile,
    BikeFile,
    HistoryEntry,
    JobFile,
    JobFileError,
    SheetFile,
    file_of,
    read,
    read_any,
    read_job,
    schema,
    upgrade_vehicle,
    write,
)
from inclinum.jobfile.sentences import Complaint, complaints

__all__ = [
    "FORMAT",
    "FORMATS",
    "VERSION",
    "AnyJobFile",
    "AxleFile",
    "BikeFile",
    "Complaint",
    "HistoryEntry",
    "JobFile",
    "JobFileError",
    "SheetFile",
    "complaints",
    "file_of",
    "read",
    "read_any",
    "read_job",
    "schema",
    "upgrade_vehicle",
    "write",
]

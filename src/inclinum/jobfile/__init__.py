"""The open file formats: jobs, axles and bench sheets as versioned JSON, read strictly, written exactly."""

from inclinum.jobfile.file import (
    FORMAT,
    FORMATS,
    VERSION,
    AxleFile,
    HistoryEntry,
    JobFile,
    JobFileError,
    SheetFile,
    read,
    read_any,
    schema,
    upgrade_vehicle,
    write,
)
from inclinum.jobfile.sentences import Complaint, complaints

__all__ = [
    "FORMAT",
    "FORMATS",
    "VERSION",
    "AxleFile",
    "Complaint",
    "HistoryEntry",
    "JobFile",
    "JobFileError",
    "SheetFile",
    "complaints",
    "read",
    "read_any",
    "schema",
    "upgrade_vehicle",
    "write",
]

"""The open job file: one job as versioned JSON, read strictly, written exactly."""

from inclinum.jobfile.file import FORMAT, VERSION, HistoryEntry, JobFile, JobFileError, read, schema, write
from inclinum.jobfile.sentences import Complaint, complaints

__all__ = [
    "FORMAT",
    "VERSION",
    "Complaint",
    "HistoryEntry",
    "JobFile",
    "JobFileError",
    "complaints",
    "read",
    "schema",
    "write",
]

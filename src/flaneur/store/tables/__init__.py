"""The tables. Everything a job is made of hangs on ``job``; the journal keeps every change of
it.
"""

from flaneur.store.tables.base import now
from flaneur.store.tables.jobs import BenchRecord, Job, JournalEntry, Report
from flaneur.store.tables.people import TrustedKey, User
from flaneur.store.tables.readings import (
    CaptureBlock,
    CaptureRow,
    ChannelMap,
    DriveLog,
    Incoming,
    IncomingPiece,
    Photo,
    ReadingRow,
    State,
)
from flaneur.store.tables.yard import Book, Unit

__all__ = [
    "BenchRecord",
    "Book",
    "CaptureBlock",
    "CaptureRow",
    "ChannelMap",
    "DriveLog",
    "Incoming",
    "IncomingPiece",
    "Job",
    "JournalEntry",
    "Photo",
    "ReadingRow",
    "Report",
    "State",
    "TrustedKey",
    "Unit",
    "User",
    "now",
]

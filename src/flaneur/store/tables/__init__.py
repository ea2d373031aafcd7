"""The tables. Everything a job is made of hangs on ``job``; the journal keeps every change of
it.
"""

from flaneur.store.tables.base import now
from flaneur.store.tables.jobs import BenchRecord, Job, JournalEntry, Report
from flaneur.store.tables.people import (
    AccountAct,
    AccountEvent,
    SignIn,
    SignInEnd,
    TrustedKey,
    User,
    WrongSignIn,
)
from flaneur.store.tables.readings import (
    CaptureBlock,
    CaptureRow,
    ChannelMap,
    DriveLog,
    Incoming,
    IncomingPiece,
    Photo,
    Pulse,
    ReadingRow,
    State,
)
from flaneur.store.tables.yard import (
    Book,
    EngineRow,
    MeterReading,
    Mount,
    Place,
    Shop,
    Unit,
)

__all__ = [
    "AccountAct",
    "AccountEvent",
    "BenchRecord",
    "Book",
    "CaptureBlock",
    "CaptureRow",
    "ChannelMap",
    "DriveLog",
    "EngineRow",
    "Incoming",
    "IncomingPiece",
    "Job",
    "JournalEntry",
    "MeterReading",
    "Mount",
    "Photo",
    "Place",
    "Pulse",
    "ReadingRow",
    "Report",
    "Shop",
    "SignIn",
    "SignInEnd",
    "State",
    "TrustedKey",
    "Unit",
    "User",
    "WrongSignIn",
    "now",
]

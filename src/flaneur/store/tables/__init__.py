"""The tables. Everything a job is made of hangs on ``job``; the journal keeps every change of
it.
"""

from flaneur.store.tables.after import Addendum, FollowUp
from flaneur.store.tables.base import now
from flaneur.store.tables.bench import BenchEvent, BenchRecord, PutIn, SecondLook, Shift
from flaneur.store.tables.jobs import Job, JournalEntry, Report
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
    SamplesLetGo,
    State,
)
from flaneur.store.tables.sent import SentOnce
from flaneur.store.tables.stores import (
    OrderRow,
    StockRow,
    SupplierRow,
    ToolRow,
    WearRow,
    WrenchRow,
)
from flaneur.store.tables.trend import CourseRow, LessonRow
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
    "Addendum",
    "BenchEvent",
    "BenchRecord",
    "Book",
    "CaptureBlock",
    "CaptureRow",
    "ChannelMap",
    "CourseRow",
    "DriveLog",
    "EngineRow",
    "FollowUp",
    "Incoming",
    "IncomingPiece",
    "Job",
    "JournalEntry",
    "LessonRow",
    "MeterReading",
    "Mount",
    "OrderRow",
    "Photo",
    "Place",
    "Pulse",
    "PutIn",
    "ReadingRow",
    "Report",
    "SamplesLetGo",
    "SecondLook",
    "SentOnce",
    "Shift",
    "Shop",
    "SignIn",
    "SignInEnd",
    "State",
    "StockRow",
    "SupplierRow",
    "ToolRow",
    "TrustedKey",
    "Unit",
    "User",
    "WearRow",
    "WrenchRow",
    "WrongSignIn",
    "now",
]

"""Every capture of the shop, as reading it again needs them."""

from dataclasses import dataclass
from typing import Any

from sqlalchemy import select
from sqlmodel import Session, col

from flaneur.core.measuring.kinds import ReadingKind
from flaneur.store.tables import Book, CaptureRow, EngineRow, Job, ReadingRow, SamplesLetGo


@dataclass(frozen=True)
class CaptureAt:
    """A capture, where it belongs, and what its reading follows from: digests of its samples and
    its book, stretches left out.
    """

    id: int
    job: str
    engine: str
    sha256: str
    book: str
    left_out: list[dict[str, Any]]


def captures_at(session: Session) -> list[CaptureAt]:
    """Every capture that counts and whose samples are kept, oldest first."""
    c = CaptureRow
    columns = (c.id, Job.number, EngineRow.number, c.sha256, Book.sha256, c.left_out)
    asked = (
        select(*map(col, columns))
        .join(Job, col(Job.id) == col(c.job_id))
        .join(EngineRow, col(EngineRow.id) == col(Job.engine_id))
        .join(Book, col(Book.id) == col(Job.book_id))
        .where(col(c.struck).is_(None), col(c.id).not_in(select(col(SamplesLetGo.capture_id))))
        .order_by(col(c.id))
    )
    return [CaptureAt(*row) for row in session.execute(asked)]


def read_before(session: Session) -> dict[int, dict[str, float]]:
    """What stands as read from each capture: how late each cam is, crank degrees."""
    r, found = ReadingRow, dict[int, dict[str, float]]()
    asked = select(*map(col, (r.capture_id, r.part, r.value))).where(
        col(r.capture_id).is_not(None), col(r.struck).is_(None), col(r.kind) == ReadingKind.CAM
    )
    for capture, cam, value in session.execute(asked):
        if value is not None:
            found.setdefault(int(capture), {})[str(cam)] = float(value)
    return found

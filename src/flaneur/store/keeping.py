"""How long the samples of captures are kept, what they take, and letting go of them.

What was read from a capture stays: readings, angles, the digest of its samples; and of the pyramid
over the samples what shows the capture as a whole. Photographs stay with their job, since its seal
covers them.
"""

from dataclasses import dataclass

from sqlalchemy import delete, text
from sqlmodel import Session, col

from flaneur.core.errors import CaptureError
from flaneur.store.tables import CaptureBlock, CaptureRow, SamplesLetGo

STAYS_FROM = 2  # the level of the pyramid; the database's guard knows it too

_TAKEN = text("""
SELECT
  (SELECT count(*) FROM capture WHERE id NOT IN (SELECT capture_id FROM samples_let_go)),
  (SELECT COALESCE(sum(octet_length(data)), 0) FROM capture_block),
  (SELECT count(*) FROM photo),
  (SELECT COALESCE(sum(octet_length(content) + octet_length(COALESCE(small, ''))), 0) FROM photo),
  (SELECT count(*) FROM samples_let_go)
""")
_DUE = text("""
SELECT capture.id, (
  SELECT COALESCE(sum(octet_length(data)), 0) FROM capture_block
  WHERE capture_id = capture.id AND level < :stays)
FROM capture JOIN job ON job.id = capture.job_id
WHERE job.signed_at < now() - make_interval(months => CAST(:months AS integer))
  AND capture.id NOT IN (SELECT capture_id FROM samples_let_go)
ORDER BY job.signed_at, capture.id
""")


@dataclass(frozen=True)
class Taken:
    """What is kept, in numbers and bytes, and what of it is past a term."""

    captures: int
    capture_bytes: int
    photos: int
    photo_bytes: int
    let_go: int
    due: int
    due_bytes: int


def taken(session: Session, months: int | None) -> Taken:
    """What captures and photographs take, and what would go after so many months; None: nothing."""
    captures, capture_bytes, photos, photo_bytes, gone = session.execute(_TAKEN).one()
    due = _due(session, months)
    return Taken(
        captures, int(capture_bytes), photos, int(photo_bytes), gone, len(due), sum(due.values())
    )


def _due(session: Session, months: int | None) -> dict[int, int]:
    """Captures past the term, the oldest first, with the bytes that would be free."""
    if months is None:
        return {}
    rows = session.execute(_DUE, {"months": months, "stays": STAYS_FROM})
    return {int(key): int(size) for key, size in rows}


def let_go(session: Session, months: int | None, most: int) -> list[int]:
    """Let go of the samples of the oldest captures past the term, ``most`` of them: their keys."""
    found = list(_due(session, months))[:most]
    for key in found:
        session.add(SamplesLetGo(capture_id=key))
    session.flush()
    gone = col(CaptureBlock.capture_id).in_(found), col(CaptureBlock.level) < STAYS_FROM
    session.execute(delete(CaptureBlock).where(*gone))
    return found


def is_let_go(session: Session, row: CaptureRow) -> bool:
    """Whether the samples of a capture are no longer kept."""
    return session.get(SamplesLetGo, row.id) is not None


def no_samples(row: CaptureRow) -> CaptureError:
    """The refusal of what needs samples that are no longer kept."""
    return CaptureError(
        "The samples of this capture are no longer kept.",
        read=f"capture {row.id}, taken {row.taken_at:%Y-%m-%d}",
        expected="a capture within the shop's term for samples",
        advice="What was read from it stands, and so does its picture as a whole.",
    )

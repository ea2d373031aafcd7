"""Undo: a reversal appended to the journal; nothing in it is ever taken away."""

from collections.abc import Callable, Mapping

from sqlmodel import Session

from flaneur.core.errors import ErrorCode, FlaneurError
from flaneur.core.job.change import Change
from flaneur.jobs.reopening import close_again
from flaneur.store.after import drop_open
from flaneur.store.changes import Note, notes_of, record
from flaneur.store.readings import restore, strike_capture
from flaneur.store.tables import BenchRecord, CaptureRow, Job, JournalEntry, PutIn, ReadingRow


class NothingToUndo(FlaneurError):
    """There is no change left that can be taken back."""

    code = ErrorCode.NOTHING_TO_UNDO


def last_undoable(notes: list[Note]) -> Note | None:
    """The newest change not yet reversed; nothing beyond a change that cannot be (a hard stop, the
    bench's start).
    """
    reversed_ids = {e.reverses for e in notes if e.reverses}
    for entry in reversed(notes):
        if entry.reverses or entry.id in reversed_ids or entry.kind in _NO_CHANGE:
            continue
        return entry if entry.kind in _REVERSALS else None
    return None


def is_a_leads(job: Job, entry: Note) -> bool:
    """Whether undoing ``entry`` takes back what a lead decided: what to do, to go past a point
    of no return, or to release over an unmet condition.
    """
    is_over = entry.kind == Change.RELEASED and job.override_reason is not None
    return is_over or entry.kind in (Change.DECIDED, Change.GO)


def undo(session: Session, job: Job, by: str) -> JournalEntry:
    """Reverse the last undoable change of a job. Raises NothingToUndo."""
    assert job.id is not None
    note = last_undoable(notes_of(session, job.id))
    if note is None:
        raise NothingToUndo(
            "There is nothing to undo.",
            advice="Strike a reading out, take a capture back, or open a step again instead.",
        )
    entry = session.get_one(JournalEntry, note.id)
    _REVERSALS[entry.kind](session, job, entry)
    return record(
        session, job, by, Change.UNDO, f"Undone: {entry.words}", {"of": entry.id}, reverses=entry.id
    )


def _intake(_: Session, job: Job, entry: JournalEntry) -> None:
    job.intake = dict(entry.data["before"])


def _reading(session: Session, _: Job, entry: JournalEntry) -> None:
    row = session.get_one(ReadingRow, entry.data["reading"])
    row.struck = "undone"
    session.add(row)


def _struck(session: Session, _: Job, entry: JournalEntry) -> None:
    row = session.get_one(ReadingRow, entry.data["reading"])
    row.struck = None
    session.add(row)


def _scope(_: Session, job: Job, entry: JournalEntry) -> None:
    job.scope, job.plan = list(entry.data["before_scope"]), entry.data["before_plan"]


def _nothing(_: Session, __: Job, ___: JournalEntry) -> None:
    """Nothing of the job itself: that the entry is reversed says it."""


def _phaser(session: Session, _: Job, entry: JournalEntry) -> None:
    row = session.get_one(ReadingRow, entry.data["reading"])
    row.phaser_state, row.command_deg = (
        entry.data["before"]["state"],
        entry.data["before"]["command_deg"],
    )
    session.add(row)


def _capture(session: Session, _: Job, entry: JournalEntry) -> None:
    strike_capture(session, session.get_one(CaptureRow, entry.data["capture"]), "undone")


def _capture_struck(session: Session, _: Job, entry: JournalEntry) -> None:
    row = session.get_one(CaptureRow, entry.data["capture"])
    row.struck = None
    session.add(row)
    restore(session, entry.data["readings"])


def _step(session: Session, job: Job, entry: JournalEntry) -> None:
    for key in entry.data["records"]:
        row = session.get_one(BenchRecord, key)
        row.reopened = True
        session.add(row)
    close_again(session, job, entry.data)


def _inside(session: Session, job: Job, entry: JournalEntry) -> None:
    line = session.get_one(PutIn, entry.data["line"])
    back = PutIn(
        job_id=job.id or 0,
        piece=line.piece,
        place=line.place,
        count=-line.count,
        by=entry.by,
    )
    session.add(back)


def _reopened(session: Session, job: Job, entry: JournalEntry) -> None:
    close_again(session, job, entry.data)


def _hands(_: Session, job: Job, entry: JournalEntry) -> None:
    job.hands = dict(entry.data["before"])


def _released(session: Session, job: Job, entry: JournalEntry) -> None:
    job.released_by, job.override_reason = None, None
    drop_open(session, job.id or 0, entry.by, "The release was taken back.")


def _ended(session: Session, job: Job, entry: JournalEntry) -> None:
    job.ended, job.ended_why = None, None
    drop_open(session, job.id or 0, entry.by, "The ending was taken back.")


# What was shown, told or asked changes nothing that rests on it.
_NO_CHANGE = frozenset({Change.PHOTO, Change.SHIFT, Change.SECOND_LOOK, Change.LINK})
_REVERSALS: Mapping[str, Callable[[Session, Job, JournalEntry], None]] = {
    Change.INTAKE: _intake,
    Change.READING: _reading,
    Change.PHASER: _phaser,
    Change.CAPTURE: _capture,
    Change.CAPTURE_STRUCK: _capture_struck,
    Change.REOPENED: _reopened,
    Change.STRUCK: _struck,
    Change.DECIDED: _nothing,
    Change.SCOPE: _scope,
    Change.AGREED: _nothing,
    Change.GO: _nothing,
    Change.STEP: _step,
    Change.INSIDE: _inside,
    Change.HANDS: _hands,
    Change.RELEASED: _released,
    Change.ENDED: _ended,
}

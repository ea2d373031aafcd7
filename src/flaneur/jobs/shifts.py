"""A job handed over in the middle of it, and taken over by signature."""

from flaneur.core.bench.handing import Leaving, leaving, note_fits
from flaneur.core.errors import StepError
from flaneur.core.job.change import Change
from flaneur.jobs.fitted import bench_plan
from flaneur.jobs.standing import bench_of
from flaneur.jobs.within import times_answered
from flaneur.jobs.work import Work
from flaneur.store.bench import events_of, shifts_of
from flaneur.store.jobs import hands_of
from flaneur.store.tables import JournalEntry, Shift, now


def leaving_now(work: Work) -> Leaving:
    """How the engine stands, whether it may be left so, and what to know."""
    session, job = work.session, work.job
    events = [
        e for e in events_of(session, work.job_id) if e.answered == times_answered(work, e.step)
    ]
    return leaving(bench_plan(work), bench_of(session, job), events, hands_of(job).is_stopped)


def waiting_shift(work: Work) -> Shift | None:
    """The handing over that nobody has taken yet."""
    return next((s for s in shifts_of(work.session, work.job_id) if s.taken_at is None), None)


def holder(work: Work) -> str:
    """Who has the job: whoever took it over last; empty where it was never handed over."""
    taken = [s.taken_by for s in shifts_of(work.session, work.job_id) if s.taken_by]
    return taken[-1] if taken else ""


def hand_over(work: Work, note: str) -> JournalEntry:
    """Hand the job over as the engine stands. Raises StepError where it must not be left so and
    the note says nothing, and where it is handed over already.
    """
    if not work.job.bench_started:
        raise StepError("The bench has not started.", advice="Start it from Plan.")
    if waiting := waiting_shift(work):
        raise StepError(
            "It is handed over already.",
            read=f"by {waiting.given_by}, {waiting.given_at:%Y-%m-%d %H:%M %Z}",
            advice="Take it over first.",
        )
    left = leaving_now(work)
    said = note_fits(note, left.against)
    work.session.add(
        Shift(
            job_id=work.job_id,
            given_by=work.by,
            note=said,
            stands=list(left.stands),
            against=list(left.against),
            mind=list(left.mind),
        )
    )
    parts = [*left.stands, *(f"Not to be left so: {a}" for a in left.against), *left.mind]
    words = f"Handed over. {' '.join(parts)}{f' {said}' if said else ''}"
    return work.record(Change.SHIFT, words)


def take_over(work: Work) -> JournalEntry:
    """Take the job over; whoever does has shown who they are. Raises StepError where nobody handed
    it over.
    """
    shift = waiting_shift(work)
    if shift is None:
        raise StepError(
            "Nobody handed this job over.", read="no shift that waits", advice="Work on."
        )
    shift.taken_by, shift.taken_at = work.by, now()
    work.session.add(shift)
    own = " (their own)" if shift.given_by == work.by else ""
    return work.record(Change.SHIFT, f"Taken over from {shift.given_by}{own}, signed.")

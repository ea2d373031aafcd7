"""What is laid into the engine by hand, counted in and counted out."""

from flaneur.core.bench.inside import Laid, LaidPiece, counts, said
from flaneur.core.errors import StepError
from flaneur.core.job.change import Change
from flaneur.jobs.work import Work
from flaneur.store.bench import laid_of
from flaneur.store.tables import JournalEntry, PutIn, now


def lay(work: Work, piece: LaidPiece, place: str, count: int) -> JournalEntry:
    """Count pieces in, or out (``count`` below nought). Raises StepError for what cannot be."""
    if not work.job.bench_started:
        raise StepError("The bench has not started.", advice="Start it from Plan.")
    lines = laid_of(work.session, work.job_id)
    counts(lines, piece, place, count)
    # A place is written as it was written first: what went in there comes out of there.
    place = next((e.place for e in lines if e.place.casefold() == place.casefold()), place)
    row = PutIn(job_id=work.job_id, piece=piece, place=place, count=count, by=work.by)
    work.session.add(row)
    work.session.flush()
    words = said(Laid(piece, place, count, work.by, now()))
    done = "Laid in by hand" if count > 0 else "Counted out"
    return work.record(Change.INSIDE, f"{done}: {words}.", {"line": row.id})

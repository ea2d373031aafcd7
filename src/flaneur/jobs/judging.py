"""The verdict on readings, kept by what it was made from: book, readings and how much is asked."""

from dataclasses import dataclass
from functools import lru_cache

from flaneur.core.book.bands import left_open
from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.verdict import Verdict, diagnose
from flaneur.core.measuring.kinds import Phase, ReadingKind
from flaneur.core.picture.ladder import Ladder, make_ladder
from flaneur.core.plan.propose import Proposal, propose
from flaneur.core.readings.counting import cam_readings, for_diagnosis
from flaneur.core.readings.swept import swept
from flaneur.core.readings.taken import Readings
from flaneur.jobs.learning import errors_for, learned_for, put_in_before
from flaneur.jobs.work import Work
from flaneur.store.jobs import signed_before
from flaneur.store.readings import readings_of, sweeps_of
from flaneur.store.tables import ReadingRow

VERDICTS_KEPT = 512


def judge(book: EngineBook, readings: Readings, with_evidence: bool = True) -> Verdict:
    """What the readings say. The same readings of the same book are worked out once; one reading
    more is another question, so that nothing stale is ever given back.
    """
    return _judged(book, readings.model_dump_json(), with_evidence)


@lru_cache(maxsize=VERDICTS_KEPT)
def _judged(book: EngineBook, readings: str, with_evidence: bool) -> Verdict:
    return diagnose(book, Readings.model_validate_json(readings), with_evidence)


def verdict_of(
    work: Work, with_evidence: bool = True, rows: list[ReadingRow] | None = None
) -> Verdict:
    """The verdict on a job's readings that count, of the engine as it came in. ``rows`` are its
    readings where they were fetched already.
    """
    return judge(work.book, readings_for(work, rows), with_evidence)


def readings_for(work: Work, rows: list[ReadingRow] | None = None) -> Readings:
    """A job's readings that count, of the engine as it came in."""
    rows = readings_of(work.session, work.job_id) if rows is None else rows
    sweeps = [
        sweep
        for key, found in sweeps_of(work.session, work.job_id, Phase.BEFORE)
        for sweep in swept(work.book, f"L{key}", found.get("fits", []))
    ]
    job = work.job
    put_in = put_in_before(work, job, signed_before(work.session, job))
    more = [*sweeps, *put_in]
    found = for_diagnosis(work.book, rows, job.intake, job.baseline_deg, more=more)
    bands = work.bands if left_open(work.book) else None
    shop = {"learned": learned_for(work), "errors": errors_for(work)}
    return found.model_copy(update={**shop, "bands": bands})


def ladder_of(work: Work) -> Ladder:
    """The job's ladder: cam readings not struck, in time order, before and after the repair."""
    rows = readings_of(work.session, work.job_id)
    cams = [r for r in rows if r.struck is None and r.kind == ReadingKind.CAM]
    pairs = [(row.phase, found) for row in cams for found in cam_readings([row])]
    return make_ladder(work.book, pairs, work.job.baseline_deg)


@dataclass(frozen=True)
class Proposed:
    """A verdict and what it proposes to renew: what was measured, or the whole set."""

    verdict: Verdict
    measured: list[Proposal]
    whole_set: list[Proposal]


def proposed(work: Work, with_evidence: bool) -> Proposed:
    """The verdict on a job with what it proposes."""
    found = verdict_of(work, with_evidence)
    return Proposed(
        found, propose(work.book, found, "measured"), propose(work.book, found, "whole_set")
    )

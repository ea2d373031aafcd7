"""What is asked of the control unit over the vehicle link: codes read and cleared, its base learned
anew; each with the record of it.
"""

from collections.abc import Sequence
from typing import Any

from sqlmodel import col, select

from flaneur.core.choices import Worded
from flaneur.core.errors import DeviceError
from flaneur.core.job.change import Change
from flaneur.core.record.bounds import printable
from flaneur.core.wording import counted
from flaneur.devices.link import LinkClient
from flaneur.jobs.work import Work
from flaneur.store.tables import JournalEntry

MOST_CODES, CODE_LETTERS, WORD_LETTERS = 40, 12, 120


class LinkTask(Worded):
    """What is asked."""

    READ = "codes", "Read the codes"
    CLEAR = "clear", "Clear the codes"
    RELEARN = "relearn", "Learn the base anew"


def ask(link: LinkClient, task: LinkTask, unit: str, engine: str) -> list[tuple[str, str]]:
    """Ask the control unit; the codes it answers with, each with its words. Raises DeviceError."""
    answer = link.ask({"do": task, "unit": unit, "engine": engine})
    codes: list[Any] = answer.get("codes") or []
    try:
        return [
            (
                printable(str(code["code"]), CODE_LETTERS),
                printable(str(code["words"]), WORD_LETTERS),
            )
            for code in codes[:MOST_CODES]
        ]
    except (KeyError, TypeError) as error:
        raise DeviceError(
            "The vehicle link's codes cannot be read.",
            read=str(codes)[:80],
            expected='[{"code": "P0016", "words": "…"}]',
        ) from error


def record(work: Work, task: LinkTask, codes: Sequence[tuple[str, str]]) -> JournalEntry:
    """Keep what was asked of the control unit, and what it answered."""
    listed = "; ".join(f"{code}: {words}" for code, words in codes)
    if task is LinkTask.RELEARN:
        words = "Vehicle link: the base was learned anew."
    elif task is LinkTask.CLEAR:
        back = f"Back at once: {listed}." if codes else "None came back."
        words = f"Vehicle link: codes cleared. {back}"
    else:
        stored = f"{counted(len(codes), 'code')} stored"
        words = f"Vehicle link: {stored}{f': {listed}' if codes else ''}."
    return work.record(Change.LINK, words, {"task": str(task), "codes": [c for c, _ in codes]})


def asked(work: Work) -> Sequence[JournalEntry]:
    """What was asked of the control unit, oldest first."""
    e = JournalEntry
    query = select(e).where(e.job_id == work.job_id, e.kind == Change.LINK)
    return work.session.exec(query.order_by(col(e.version))).all()

"""The verdict on readings, kept by what it was made from: book, readings and how much is asked."""

from functools import lru_cache

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.readings import Readings
from flaneur.core.diagnosis.verdict import Verdict, diagnose

VERDICTS_KEPT = 512


def judge(book: EngineBook, readings: Readings, with_evidence: bool = True) -> Verdict:
    """What the readings say. The same readings of the same book are worked out once; one reading
    more is another question, so that nothing stale is ever given back.
    """
    return _judged(book, readings.model_dump_json(), with_evidence)


@lru_cache(maxsize=VERDICTS_KEPT)
def _judged(book: EngineBook, readings: str, with_evidence: bool) -> Verdict:
    return diagnose(book, Readings.model_validate_json(readings), with_evidence)

"""What to do about an engine: advice by the shop's rates, what if a reading were otherwise, and
the lead's decision.
"""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from functools import lru_cache

from sqlmodel import Session

from flaneur.core.book.bands import Bands
from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.advice import advise
from flaneur.core.decision.found import Advice, Option
from flaneur.core.decision.rates import Rates, School
from flaneur.core.diagnosis.model import solve_readings
from flaneur.core.diagnosis.reading_words import about
from flaneur.core.diagnosis.verdict import Verdict
from flaneur.core.errors import ErrorCode, FlaneurError
from flaneur.core.job.change import Change
from flaneur.core.readings.otherwise import Figure, Read, figure_of, otherwise
from flaneur.core.readings.taken import Learned, Readings
from flaneur.jobs.judging import judge, readings_for
from flaneur.jobs.work import Work
from flaneur.store.changes import standing_entries
from flaneur.store.shop import shop_of
from flaneur.store.tables import JournalEntry

ADVICE_KEPT, LEAST_REASON = 256, 10


class DecisionRefused(FlaneurError):
    """A decision that cannot be taken so."""

    code = ErrorCode.DECISION_REFUSED


@dataclass(frozen=True)
class Decided:
    """The decision that stands: what was decided, by whom, and why where it is not the advice."""

    option: Option
    advised: Option
    school: School
    reason: str
    by: str
    is_still_advised: bool


def rates_of(session: Session) -> Rates:
    """The shop's rates; where no lead wrote any, those it starts from."""
    return Rates.model_validate(shop_of(session).rates or {})


def advice_on(book: EngineBook, readings: Readings, rates: Rates, school: School) -> Advice:
    """Advice on readings; the same question is worked out once."""
    return _advised(
        book, readings.model_dump_json(), rates.model_dump_json(), school.model_dump_json()
    )


@lru_cache(maxsize=ADVICE_KEPT)
def _advised(book: EngineBook, readings: str, rates: str, school: str) -> Advice:
    solved = solve_readings(book, Readings.model_validate_json(readings))
    return advise(solved, Rates.model_validate_json(rates), School.model_validate_json(school))


@dataclass(frozen=True)
class Tried:
    """A reading that counts, as a what-if may change it; ``figure`` None where it is a word."""

    id: str
    words: str
    figure: Figure | None


@dataclass(frozen=True)
class Considered:
    """Verdict and advice, of the readings as they are or as they might be; what a what-if may
    change; the decision that stands.
    """

    verdict: Verdict
    advice: Advice
    readings: list[Tried]
    decided: Decided | None
    rates: Rates
    learned: list[Learned]
    bands: Bands


def consider(
    work: Work, left_out: Collection[str], changed: Mapping[str, float], school: School
) -> Considered:
    """What is said of a job, were some readings left out or their figures others; nothing is
    kept.
    """
    book, readings, rates = work.book, readings_for(work), rates_of(work.session)
    asked = otherwise(book, readings, left_out, changed)
    every: list[Read] = [*readings.cams, *readings.plungers, *readings.direct, *readings.tests]
    return Considered(
        verdict=judge(book, asked),
        advice=advice_on(book, asked, rates, school),
        readings=[Tried(r.id, about(book, r), figure_of(book, r)) for r in every if r.id],
        decided=_decided(work, readings, rates),
        rates=rates,
        learned=readings.learned,
        bands=work.bands,
    )


def decide(work: Work, key: str, school: School, reason: str) -> JournalEntry:
    """Take a decision: frozen in the journal with the verdict and the advice as they stood. Raises
    DecisionRefused for an action that is not offered, or one that is not the advice without a
    reason.
    """
    if work.job.bench_started:
        raise DecisionRefused(
            "The bench has started; what was decided stands.",
            advice="Start a new job on the unit to decide anew.",
        )
    readings, rates = readings_for(work), rates_of(work.session)
    verdict, advice = judge(work.book, readings), advice_on(work.book, readings, rates, school)
    chosen = next((o for o in advice.decision if o.key == key), None)
    if chosen is None:
        raise DecisionRefused(
            "This is not among the actions any more.",
            read=key,
            expected=", ".join(o.name for o in advice.decision[:4]),
            advice="The readings or the rates changed: look at the actions again.",
        )
    advised = advice.advised
    said = reason.strip()
    if chosen != advised and len(said) < LEAST_REASON:
        raise DecisionRefused(
            "This is not what is advised: say why.",
            read=said or "nothing",
            expected=f"at least {LEAST_REASON} letters",
            advice=f"Advised: {advised.name}.",
        )
    why = f" Instead of “{advised.name}”: {said}" if chosen != advised else ""
    more = f" {said}" if chosen == advised and said else ""
    return work.record(
        Change.DECIDED,
        f"Decided: {chosen.name}.{more}{why} {chosen.words}",
        {
            "option": chosen.model_dump(mode="json"),
            "advised": advised.model_dump(mode="json"),
            "school": school.model_dump(mode="json"),
            "rates": rates.model_dump(mode="json"),
            "reason": said,
            "verdict": verdict.model_dump(mode="json"),
        },
    )


def _entry_that_stands(work: Work) -> JournalEntry | None:
    """The newest decision that was not taken back."""
    found = standing_entries(work.session, [work.job_id], Change.DECIDED)
    return found.get((work.job_id, Change.DECIDED))


def decided_option(work: Work) -> tuple[Option, School] | None:
    """The action that was decided on and by which school, where there is a decision that stands."""
    entry = _entry_that_stands(work)
    if entry is None:
        return None
    return Option.model_validate(entry.data["option"]), School.model_validate(entry.data["school"])


def _decided(work: Work, readings: Readings, rates: Rates) -> Decided | None:
    """The decision that stands, and whether it would be advised still."""
    entry = _entry_that_stands(work)
    if entry is None:
        return None
    option, advised = (Option.model_validate(entry.data[k]) for k in ("option", "advised"))
    school = School.model_validate(entry.data["school"])
    now = advice_on(work.book, readings, rates, school).advised
    reason = str(entry.data["reason"])
    return Decided(option, advised, school, reason, entry.by, now.key == advised.key)

"""What to do about an engine: advice by the shop's rates, what if a reading were otherwise, and
the lead's decision.
"""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from functools import lru_cache

from sqlmodel import Session, col, select

from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.advice import advise
from flaneur.core.decision.found import Advice, Option
from flaneur.core.decision.rates import Rates, School
from flaneur.core.diagnosis.model import solve_readings
from flaneur.core.diagnosis.reading_words import Used, about
from flaneur.core.diagnosis.verdict import Verdict
from flaneur.core.errors import ErrorCode, FlaneurError
from flaneur.core.job.change import Change
from flaneur.core.readings.taken import Readings
from flaneur.jobs.judging import judge, readings_for
from flaneur.jobs.work import Work
from flaneur.store.tables import JournalEntry, Shop

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
    shop = session.get(Shop, 1)
    return Rates.model_validate(shop.rates) if shop and shop.rates else Rates()


def advice_on(book: EngineBook, readings: Readings, rates: Rates, school: School) -> Advice:
    """Advice on readings; the same question is worked out once."""
    return _advised(
        book, readings.model_dump_json(), rates.model_dump_json(), school.model_dump_json()
    )


@lru_cache(maxsize=ADVICE_KEPT)
def _advised(book: EngineBook, readings: str, rates: str, school: str) -> Advice:
    solved = solve_readings(book, Readings.model_validate_json(readings))
    return advise(solved, Rates.model_validate_json(rates), School.model_validate_json(school))


def advice_of(work: Work, school: School) -> Advice:
    """Advice on a job, of the engine as it came in."""
    return advice_on(work.book, readings_for(work), rates_of(work.session), school)


def what_if(
    work: Work, left_out: Collection[str], changed: Mapping[str, float], school: School
) -> tuple[Verdict, Advice]:
    """Verdict and advice were some readings left out, or their figures others; nothing is kept."""
    readings = otherwise(readings_for(work), left_out, changed)
    return judge(work.book, readings), advice_on(
        work.book, readings, rates_of(work.session), school
    )


def otherwise(
    readings: Readings, left_out: Collection[str], changed: Mapping[str, float]
) -> Readings:
    """The same readings without some, and with other figures. Raises ReadingError where a figure
    cannot be one.
    """
    return Readings.model_validate(
        readings.model_dump(exclude={"cams", "plungers", "direct", "tests"})
        | {
            "cams": [
                r.model_dump() | _figure("deviation_deg", r.id, changed)
                for r in readings.cams
                if r.id not in left_out
            ],
            "plungers": [
                r.model_dump() | _figure("plunger_mm", r.id, changed)
                for r in readings.plungers
                if r.id not in left_out
            ],
            "direct": [
                r.model_dump() | _figure("value", r.id, changed)
                for r in readings.direct
                if r.id not in left_out
            ],
            "tests": [
                t.model_dump() | (_figure("lash_deg", t.id, changed) if t.kind == "lash" else {})
                for t in readings.tests
                if not t.id or t.id not in left_out
            ],
        }
    )


@dataclass(frozen=True)
class Tried:
    """A reading that counts, as a what-if may change it; ``value`` None where it is a word."""

    id: str
    words: str
    value: float | None
    unit: str


def tried(work: Work) -> list[Tried]:
    """The readings of a job that count."""
    readings, book = readings_for(work), work.book
    rows: list[tuple[Used, float | None, str]] = [
        *((r, r.deviation_deg, "°") for r in readings.cams),
        *((r, r.plunger_mm, "mm") for r in readings.plungers),
        *((r, r.value, "%" if r.part in book.chains else "mm") for r in readings.direct),
        *((t, t.lash_deg if t.kind == "lash" else None, "°") for t in readings.tests if t.id),
    ]
    return [Tried(r.id, about(book, r), value, unit) for r, value, unit in rows]


def _figure(field: str, key: str, changed: Mapping[str, float]) -> dict[str, float]:
    return {field: changed[key]} if key in changed else {}


def decide(work: Work, key: str, school: School, reason: str) -> JournalEntry:
    """Take a decision: frozen in the journal with the verdict and the advice as they stood. Raises
    DecisionRefused for an action that is not offered, or one that is not the advice without a
    reason.
    """
    if work.job.bench_started:
        raise DecisionRefused(
            "The bench has started; what was decided stands.",
            advice="Strike the plan, or start a new job on the unit.",
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
    advised = next(o for o in advice.decision if o.is_advised)
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
    entries = work.session.exec(
        select(JournalEntry)
        .where(
            JournalEntry.job_id == work.job_id,
            col(JournalEntry.kind).in_((Change.DECIDED, Change.UNDO)),
        )
        .order_by(col(JournalEntry.version).desc())
    ).all()
    reversed_ = {e.reverses for e in entries if e.reverses}
    return next((e for e in entries if e.kind == Change.DECIDED and e.id not in reversed_), None)


def decided_option(work: Work) -> Option | None:
    """The action that was decided on, where there is a decision that stands."""
    entry = _entry_that_stands(work)
    return Option.model_validate(entry.data["option"]) if entry else None


def decided(work: Work) -> Decided | None:
    """The decision that stands."""
    entry = _entry_that_stands(work)
    if entry is None:
        return None
    option, advised = (Option.model_validate(entry.data[k]) for k in ("option", "advised"))
    school = School.model_validate(entry.data["school"])
    best = next(o for o in advice_of(work, school).decision if o.is_advised)
    return Decided(
        option, advised, school, str(entry.data["reason"]), entry.by, best.key == advised.key
    )

"""What is worn, how sure, and what speaks for and against it."""

import math

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis import wording
from flaneur.core.diagnosis.found import LIKELY, Evidence, Suspect, Verdict, WearEstimate, WearState
from flaneur.core.diagnosis.model import solve_prior, solve_readings
from flaneur.core.diagnosis.statistics import confounded_with, shares, teeth_of, wear_estimates
from flaneur.core.diagnosis.wording import percent, suspect_name
from flaneur.core.keys import SuspectKey, SuspectKind
from flaneur.core.readings.taken import CamReading, DirectReading, PlungerReading, Readings
from flaneur.core.wording import late_words, teeth_words

__all__ = [
    "LIKELY",
    "Evidence",
    "Suspect",
    "Verdict",
    "WearEstimate",
    "WearState",
    "diagnose",
    "percent",
    "suspect_name",
]
FLOOR = 1e-5
FEWEST_SHOWN, MOST_SHOWN, LEAST_SHOWN = 4, 9, 0.03


def diagnose(book: EngineBook, readings: Readings, with_evidence: bool = True) -> Verdict:
    """The verdict on a set of readings. Raises ReadingError when they do not belong to the book."""
    solved = solve_readings(book, readings)
    now = shares(solved).probability
    unread = solve_prior(book, readings.hours, readings.oil)
    prior = shares(unread).probability
    without = _leave_one_out(book, readings) if with_evidence else {}
    suspects: list[Suspect] = []
    for key, probability in now.items():
        kind, part = SuspectKey.of(key)
        teeth = teeth_of(solved, key)
        evidence = [_evidence(book, r, probability, others[key]) for r, others in without.values()]
        evidence = sorted(
            (e for e in evidence if abs(e.log_factor) > 0.2), key=lambda e: -abs(e.log_factor)
        )
        suspects.append(
            Suspect(
                key=key,
                kind=kind,
                part=part,
                name=suspect_name(book, key),
                probability=probability,
                prior=prior[key],
                detail=teeth_words(teeth) if teeth else "",
                evidence=evidence,
                teeth=teeth,
            )
        )
    suspects = _told_apart(suspects)
    leader = suspects[0]
    confounded = confounded_with(solved, unread, leader.key)
    return Verdict(
        engine=book.name,
        suspects=suspects,
        wear=wear_estimates(book, solved),
        confounded=confounded,
        others=wording.others(suspects),
        headline=wording.headline(leader, readings),
        apart=wording.apart([suspect_name(book, k) for k in confounded], readings),
        advice=wording.advice(book, readings),
        judged_against=wording.judged_against(book, readings),
        readings_used=len(readings.cams) + len(readings.plungers) + len(readings.direct),
    )


Used = CamReading | PlungerReading | DirectReading


def _told_apart(suspects: list[Suspect]) -> list[Suspect]:
    """By probability, each with whether it is accused and worth a line of its own."""
    ranked = sorted(suspects, key=lambda s: -s.probability)
    worth = [
        place < FEWEST_SHOWN or (place < MOST_SHOWN and s.probability > LEAST_SHOWN)
        for place, s in enumerate(ranked)
    ]
    return [
        s.model_copy(
            update={
                "is_accused": s.probability > LIKELY and s.kind is not SuspectKind.SOUND,
                "is_shown": is_worth,
            }
        )
        for s, is_worth in zip(ranked, worth, strict=True)
    ]


def _leave_one_out(
    book: EngineBook, readings: Readings
) -> dict[str, tuple[Used, dict[str, float]]]:
    result: dict[str, tuple[Used, dict[str, float]]] = {}
    kinds: dict[str, list[CamReading] | list[PlungerReading] | list[DirectReading]] = {
        "cams": readings.cams,
        "plungers": readings.plungers,
        "direct": readings.direct,
    }
    for kind, rows in kinds.items():
        for i, row in enumerate(rows):
            rest = readings.model_copy(update={kind: [*rows[:i], *rows[i + 1 :]]})
            result[f"{kind}{i}"] = (row, shares(solve_readings(book, rest, points=128)).probability)
    return result


def _log_odds(p: float) -> float:
    p = min(max(p, FLOOR), 1 - FLOOR)
    return math.log(p / (1 - p))


def _evidence(book: EngineBook, reading: Used, with_it: float, without_it: float) -> Evidence:
    factor = _log_odds(with_it) - _log_odds(without_it)
    if isinstance(reading, CamReading):
        about = f"{book.shafts[reading.cam].name} {late_words(reading.deviation_deg)}"
        identity = reading.id
    elif isinstance(reading, DirectReading):
        is_chain = reading.part in book.chains
        part = (
            book.chains[reading.part]
            if is_chain
            else book.guides.get(reading.part) or book.arms[reading.part]
        )
        about = f"{part.name} measured: {reading.value:.2f} {'% longer' if is_chain else 'mm worn'}"
        identity = reading.id
    else:
        chain, mm = reading.chain, reading.plunger_mm
        tensioner = book.tensioner_of(chain)
        about = f"{tensioner.name if tensioner else chain} plunger out {mm:.1f} mm"
        identity = reading.id
    ratio = math.exp(min(abs(factor), 9.2))
    odds = f"{ratio:,.0f} to 1" if ratio >= 9.5 else f"{ratio:.1f} to 1"
    return Evidence(
        reading=identity,
        about=about,
        log_factor=factor,
        odds=odds,
        is_for=factor > 0,
        words=f"{odds} {'for' if factor > 0 else 'against'}",
    )

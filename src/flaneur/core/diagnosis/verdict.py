"""What is out of tolerance, what makes it so, what is worn, how sure, and what speaks for and
against it.
"""

import math
from functools import lru_cache

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis import wording
from flaneur.core.diagnosis.attribution import attribute
from flaneur.core.diagnosis.expected import expected_under
from flaneur.core.diagnosis.found import (
    LIKELY,
    STATED,
    Cause,
    Evidence,
    NoneOfThese,
    NotGoneThrough,
    OutOfTolerance,
    Suspect,
    Verdict,
    WearEstimate,
    WearState,
)
from flaneur.core.diagnosis.leaving_out import Without, without_each
from flaneur.core.diagnosis.model import Solved, solve_readings
from flaneur.core.diagnosis.naming import part_name, suspect_name
from flaneur.core.diagnosis.reading_words import about, contradictions, number_of, unused
from flaneur.core.diagnosis.statistics import (
    alike_of,
    confounded_with,
    finite_odds,
    is_moved,
    more_at_once,
    noise_scale,
    readings_fit,
    shares,
    teeth_of,
    wear_estimates,
)
from flaneur.core.diagnosis.wording import percent
from flaneur.core.keys import SuspectKey, SuspectKind
from flaneur.core.readings.taken import Readings
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
FEWEST_SHOWN, MOST_SHOWN, LEAST_SHOWN = 4, 9, 0.03
TOLD = 0.2  # natural log of a Bayes factor: less is not worth a line


def diagnose(book: EngineBook, readings: Readings, with_evidence: bool = True) -> Verdict:
    """The verdict on a set of readings. Raises ReadingError when they do not belong to the book."""
    return verdict_on(solve_readings(book, readings), with_evidence)


def verdict_on(solved: Solved, with_evidence: bool = True) -> Verdict:
    """The verdict on a question that was solved."""
    book, readings = solved.book, solved.readings
    now = shares(solved)
    prior = _unread(book, readings.unread.model_dump_json())
    without = without_each(solved) if with_evidence else []
    every = [_suspect(solved, key, p, prior.get(key, p), now, without) for key, p in now.items()]
    used = readings.used
    ranked = sorted(every, key=lambda s: (-s.probability, s.key))
    suspects = _told_apart(
        [s for s in ranked if (s.is_read if used else s.kind is not SuspectKind.SOUND)],
        readings_fit(solved),
    )
    if with_evidence:
        suspects = [_with_expected(solved, s) for s in suspects]
    only_age = [s for s in ranked if not s.is_read and used and s.probability >= LEAST_SHOWN]
    figures = _figures(solved)
    leader = suspects[0].key if suspects else ""
    confounded = confounded_with(solved, leader) if used else []
    wear = wear_estimates(solved)
    none = now[str(SuspectKind.NONE)]
    return Verdict(
        engine=book.name,
        headline=wording.headline(figures, suspects, used),
        out_of_tolerance=figures,
        suspects=suspects,
        only_age=only_age,
        wear=wear,
        confounded=confounded,
        none_of_these=NoneOfThese(weight=none, words=wording.none_words(none)),
        left_out=_left_out(solved),
        noise_scale=noise_scale(solved),
        contradictions=contradictions(solved),
        others=wording.others(suspects),
        apart=wording.apart([suspect_name(book, k) for k in confounded], readings),
        advice=wording.advice(book, readings),
        unused=unused(book, readings),
        judged_against=wording.judged_against(book, readings),
        readings_used=used,
    )


def _left_out(solved: Solved) -> NotGoneThrough:
    bound, more = solved.draws.left_out, more_at_once(solved)
    return NotGoneThrough(bound=bound, more=more, words=wording.left_out_words(bound, more))


@lru_cache(maxsize=64)
def _unread(book: EngineBook, readings: str) -> dict[str, float]:
    """Every suspect's share before any reading; solved once for an engine's hours and oil."""
    return shares(solve_readings(book, Readings.model_validate_json(readings), points=32))


def _suspect(
    solved: Solved,
    key: str,
    probability: float,
    prior: float,
    now: dict[str, float],
    without: list[Without],
) -> Suspect:
    kind, part = SuspectKey.of(key)
    teeth = teeth_of(solved, key) if kind is SuspectKind.JUMP else 0
    evidence = [_evidence(solved, w, now[key], w.shares.get(key, prior)) for w in without]
    told = sorted(
        (e for e in evidence if abs(e.log_factor) > TOLD), key=lambda e: -abs(e.log_factor)
    )
    return Suspect(
        key=key,
        kind=kind,
        part=part,
        name=suspect_name(solved.book, key),
        probability=probability,
        prior=prior,
        detail=teeth_words(teeth) if teeth else "",
        evidence=told,
        expected=[],
        teeth=teeth,
        alike=alike_of(solved.faults, key),
        is_read=_is_read(solved, kind, part) and is_moved(probability, prior),
    )


def _with_expected(solved: Solved, suspect: Suspect) -> Suspect:
    """What a suspect that has a line of its own would make cams read."""
    if not suspect.is_shown:
        return suspect
    return suspect.model_copy(update={"expected": expected_under(solved, suspect.key)})


def _is_read(solved: Solved, kind: SuspectKind, part: str) -> bool:
    """Whether any reading bears on a part's wear; on other faults their probability tells."""
    worn = [i for i, item in enumerate(solved.items) if item.key == part]
    return kind is not SuspectKind.WEAR or any(bool(solved.is_read[i]) for i in worn)


def _told_apart(ranked: list[Suspect], fits: bool) -> list[Suspect]:
    """Each with whether it is accused, may be said flatly and is worth a line of its own."""
    worth = [
        place < FEWEST_SHOWN or (place < MOST_SHOWN and s.probability > LEAST_SHOWN)
        for place, s in enumerate(ranked)
    ]
    return [
        s.model_copy(
            update={
                "is_accused": s.probability > LIKELY and s.kind is not SuspectKind.SOUND,
                "is_stated": fits and s.probability > STATED and s.kind is not SuspectKind.NONE,
                "is_shown": is_worth,
            }
        )
        for s, is_worth in zip(ranked, worth, strict=True)
    ]


def _evidence(solved: Solved, without: Without, with_it: float, without_it: float) -> Evidence:
    factor = finite_odds(with_it) - finite_odds(without_it)
    ratio = math.exp(min(abs(factor), 9.2))
    odds = f"{ratio:,.0f} to 1" if ratio >= 9.5 else f"{ratio:.1f} to 1"
    reading = getattr(solved.readings, without.kind)[without.index]
    return Evidence(
        reading=reading.id,
        number=number_of(reading.id),
        about=about(solved.book, reading),
        log_factor=factor,
        odds=odds,
        is_for=factor > 0,
        words=f"{odds} {'for' if factor > 0 else 'against'}",
    )


def _cause_name(book: EngineBook, cause: str | SuspectKey) -> str:
    return (
        suspect_name(book, str(cause)) if isinstance(cause, SuspectKey) else part_name(book, cause)
    )


def _figures(solved: Solved) -> list[OutOfTolerance]:
    """Every cam's figure beyond what the book allows, built up from its causes."""
    book, found = solved.book, list[OutOfTolerance]()
    limit = book.limits.cam_deviation_deg
    for row, read in enumerate(solved.problem.seen.rows):
        if read.kind != "cam" or abs(read.value) <= limit:
            continue
        causes = [
            Cause(
                part=str(share.part),
                name=_cause_name(book, share.part),
                share=share.mean,
                low=share.low,
                high=share.high,
                words=f"{share.mean:+.1f}° ({share.low:.1f} to {share.high:.1f})",
            )
            for share in attribute(solved, row)
        ]
        figure = OutOfTolerance(
            reading=read.id,
            part=read.about,
            name=book.shafts[read.about].name,
            value=read.value,
            limit=limit,
            unit="°",
            late=late_words(read.value),
            causes=causes,
            words="",
        )
        found.append(figure.model_copy(update={"words": wording.built_up(figure)}))
    return found

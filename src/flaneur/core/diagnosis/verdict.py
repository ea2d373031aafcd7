"""What is worn, how sure, and what speaks for and against it."""

import math
from dataclasses import dataclass

import numpy as np
from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.model import Solved, solve_prior, solve_readings
from flaneur.core.diagnosis.readings import CamReading, DirectReading, PlungerReading, Readings

FLOOR = 1e-5
CONFOUNDED_FACTOR = 3.0
WORTH_NAMING = 0.001


class VerdictModel(BaseModel):
    model_config = ConfigDict(frozen=True)


class Evidence(VerdictModel):
    """What one reading says of a suspect: ``log_factor`` > 0 speaks for it (natural log of the
    Bayes factor).
    """

    reading: str
    about: str
    log_factor: float
    words: str


class Suspect(VerdictModel):
    """One thing that may be wrong. ``key`` is ``kind:part``; ``evidence`` sorted by weight;
    ``teeth`` late for a jump.
    """

    key: str
    kind: str
    part: str
    name: str
    probability: float
    prior: float
    detail: str
    evidence: list[Evidence]
    teeth: int = 0


class WearEstimate(VerdictModel):
    """Posterior wear with its 90 % interval against the book's limit; ``over`` is the chance of
    being over it.
    """

    key: str
    name: str
    unit: str
    limit: float
    median: float
    low: float
    high: float
    over: float
    judged: str


class Verdict(VerdictModel):
    """Suspects by probability, wear estimates, and the set the readings cannot tell apart from the
    first.
    """

    engine: str
    suspects: list[Suspect]
    wear: list[WearEstimate]
    confounded: list[str]
    headline: str
    apart: str
    advice: list[str]
    judged_against: str
    readings_used: int


@dataclass(frozen=True)
class Shares:
    """Probability per suspect key, in a fixed order, ``sound`` and ``none`` included."""

    probability: dict[str, float]


def shares(solved: Solved) -> Shares:
    """Probability of every suspect from the configurations and draws."""
    posterior, faults = solved.posterior, solved.faults
    result: dict[str, float] = {}
    draws, weights = posterior.draws, posterior.weights
    none_index = len(solved.sets)
    real = posterior.leaders != none_index
    abrupt = np.array(
        [
            i < none_index and any(faults[f].wear_index is None for f in solved.sets[i])
            for i in map(int, posterior.leaders)
        ]
    )
    over_any = np.zeros(weights.shape, dtype=bool)
    for i, item in enumerate(solved.items):
        over = draws[:, :, i] > item.limit
        over_any |= over
        result[f"wear:{item.key}"] = float((weights * over)[real].sum())
    for c, chosen in enumerate(solved.sets):
        for f in chosen:
            if faults[f].wear_index is None:
                key = faults[f].suspect
                result[key] = result.get(key, 0.0) + float(posterior.probability[c])
    for fault in faults:
        result.setdefault(fault.suspect, 0.0)
    sound = (weights * ~over_any)[real & ~abrupt].sum()
    result["sound"] = float(sound)
    result["none"] = float(posterior.probability[none_index])
    return Shares({key: min(1.0, max(0.0, p)) for key, p in result.items()})


def exclusive_shares(solved: Solved) -> dict[str, float]:
    """Probability that a suspect is the one thing wrong: nothing else over its limit, no other
    abrupt fault.
    """
    posterior, faults = solved.posterior, solved.faults
    over = np.stack(
        [posterior.draws[:, :, i] > item.limit for i, item in enumerate(solved.items)], axis=2
    )
    count = over.sum(axis=2)
    result: dict[str, float] = {f"wear:{item.key}": 0.0 for item in solved.items} | {
        f.suspect: 0.0 for f in faults
    }
    for row, c in enumerate(map(int, posterior.leaders)):
        if c == len(solved.sets):
            continue
        abrupt = [faults[f].suspect for f in solved.sets[c] if faults[f].wear_index is None]
        weights = posterior.weights[row]
        if len(abrupt) == 1:
            result[abrupt[0]] += float(weights[count[row] == 0].sum())
        elif not abrupt:
            for i, item in enumerate(solved.items):
                result[f"wear:{item.key}"] += float(
                    weights[(count[row] == 1) & over[row, :, i]].sum()
                )
    return result


def confounded_with(solved: Solved, prior: Solved, leader: str) -> list[str]:
    """Suspects that, each as the one thing wrong, explain the readings about as well as the leader
    does.

    The Bayes factor between two such explanations is the ratio of what the readings made of each
    share; under three to one they cannot be told apart. What is under one in a thousand is not
    named.
    """
    now, before = exclusive_shares(solved), exclusive_shares(prior)
    if now.get(leader, 0.0) < WORTH_NAMING or before[leader] <= 0:
        return []
    gain = {
        key: now[key] / before[key] for key in now if now[key] >= WORTH_NAMING and before[key] > 0
    }
    return [
        key
        for key, factor in gain.items()
        if key != leader and factor > gain[leader] / CONFOUNDED_FACTOR
    ]


def wear_estimates(book: EngineBook, solved: Solved) -> list[WearEstimate]:
    """Posterior quantiles of every gradual unknown."""
    weights = solved.posterior.weights.ravel()
    result: list[WearEstimate] = []
    for i, item in enumerate(solved.items):
        values = solved.posterior.draws[:, :, i].ravel()
        order = np.argsort(values)
        cumulative = np.cumsum(weights[order])
        low, median, high = (
            float(values[order][np.searchsorted(cumulative, q)]) for q in (0.05, 0.5, 0.95)
        )
        over = float(weights[values > item.limit].sum())
        name = (book.chains.get(item.key) or book.guides.get(item.key) or book.arms[item.key]).name
        if low > item.limit:
            judged = "over the limit"
        elif high < item.limit:
            judged = "within the limit"
        else:
            judged = "cannot be said yet"
        result.append(
            WearEstimate(
                key=item.key,
                name=name,
                unit=item.unit,
                limit=item.limit,
                median=median,
                low=low,
                high=high,
                over=over,
                judged=judged,
            )
        )
    return result


def diagnose(book: EngineBook, readings: Readings, with_evidence: bool = True) -> Verdict:
    """The verdict on a set of readings. Raises ReadingError when they do not belong to the book."""
    solved = solve_readings(book, readings)
    now = shares(solved).probability
    unread = solve_prior(book, readings.hours, readings.oil)
    prior = shares(unread).probability
    without = _leave_one_out(book, readings) if with_evidence else {}
    suspects: list[Suspect] = []
    for key, probability in now.items():
        kind, _, part = key.partition(":")
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
                detail=_detail(_teeth(solved, key)),
                evidence=evidence,
                teeth=_teeth(solved, key),
            )
        )
    suspects.sort(key=lambda s: -s.probability)
    leader = suspects[0]
    confounded = confounded_with(solved, unread, leader.key)
    return Verdict(
        engine=book.name,
        suspects=suspects,
        wear=wear_estimates(book, solved),
        confounded=confounded,
        headline=_headline(leader, readings),
        apart=_apart([suspect_name(book, k) for k in confounded], readings),
        advice=_advice(book, readings),
        judged_against=_judged_against(book, readings),
        readings_used=len(readings.cams) + len(readings.plungers) + len(readings.direct),
    )


Used = CamReading | PlungerReading | DirectReading


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
        late = reading.deviation_deg
        about = (
            f"{book.shafts[reading.cam].name} {abs(late):.1f}° {'late' if late >= 0 else 'early'}"
        )
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
    words = f"{ratio:,.0f} to 1" if ratio >= 9.5 else f"{ratio:.1f} to 1"
    return Evidence(
        reading=identity,
        about=about,
        log_factor=factor,
        words=f"{words} {'for' if factor > 0 else 'against'}",
    )


def suspect_name(book: EngineBook, key: str) -> str:
    """The wording of a suspect, in the trade's terms."""
    kind, _, part = key.partition(":")
    if kind == "wear":
        if part in book.chains:
            return f"{book.chains[part].name} elongated"
        return f"{(book.guides.get(part) or book.arms[part]).name} worn"
    if kind == "jump":
        chain, _, sprocket = part.partition("/")
        return f"{book.chains[chain].name} jumped at the {book.sprockets[sprocket].name}"
    if kind == "phaser":
        return f"{book.phasers[part].name} off park"
    if kind == "tone":
        return f"{book.tone_wheels[part].name} slipped"
    return {
        "sound": "Nothing wrong that these readings show",
        "none": "None of these: the readings contradict",
    }[key]


def _teeth(solved: Solved, key: str) -> int:
    """Teeth late that a jump most probably is; nought for what is no jump."""
    teeth: dict[int, float] = {}
    for c, chosen in enumerate(solved.sets):
        for f in chosen:
            if key.startswith("jump:") and solved.faults[f].suspect == key:
                label = int(solved.faults[f].label)
                teeth[label] = teeth.get(label, 0.0) + float(solved.posterior.probability[c])
    return max(teeth, key=lambda k: teeth[k]) if teeth else 0


def _detail(teeth: int) -> str:
    number = abs(teeth)
    return (
        f"{number} {'tooth' if number == 1 else 'teeth'} {'late' if teeth > 0 else 'early'}"
        if teeth
        else ""
    )


def percent(share: float) -> str:
    """A probability in words that never claim certainty."""
    if share > 0.99:
        return "over 99\u00a0%"
    return "under 1\u00a0%" if share < 0.01 else f"{share:.0%}".replace("%", "\u00a0%")


def _judged_against(book: EngineBook, readings: Readings) -> str:
    known = [cam for cam in book.cams if cam in readings.baseline_deg]
    if not known:
        return "the engine book"
    if len(known) == len(book.cams):
        return "the engine's own baseline"
    return f"the engine's own baseline for {len(known)} cams, the engine book for the rest"


def _apart(confounded: list[str], readings: Readings) -> str:
    """What else explains the readings about as well, or nothing."""
    if not confounded or not (readings.cams or readings.plungers or readings.direct):
        return ""
    return f"These readings cannot tell it from: {'; '.join(confounded)}."


def _headline(leader: Suspect, readings: Readings) -> str:
    if not (readings.cams or readings.plungers or readings.direct):
        return "No readings yet: only what is usual at this age is known."
    sure = (
        "very likely"
        if leader.probability > 0.95
        else "likely"
        if leader.probability > 0.75
        else "leading, not sure"
    )
    return (
        f"{leader.name}{f', {leader.detail}' if leader.detail else ''}: {sure} "
        f"({percent(leader.probability)})."
    )


def _advice(book: EngineBook, readings: Readings) -> list[str]:
    advice: list[str] = []
    read = {r.cam for r in readings.cams}
    if missing := [book.shafts[c].name for c in book.cams if c not in read]:
        way = (
            "A capture reads them all at once."
            if book.crank_wheel_key and book.cam_wheels
            else "Read them by their marks."
        )
        advice.append(f"Not read yet: {', '.join(missing)}. {way}")
    if unknown := [
        book.shafts[r.cam].name
        for r in readings.cams
        if book.phaser_of(r.cam) and r.phaser.state == "unknown"
    ]:
        advice.append(
            f"Phaser state unknown for {', '.join(unknown)}: that reading counts for little. Read "
            "it parked."
        )
    measured = {r.chain for r in readings.plungers}
    if missing := [c.name for k, c in book.chains.items() if k not in measured and book.arm_of(k)]:
        advice.append(
            f"Plunger extension not measured: {', '.join(missing)}. It tells elongation from guide "
            "wear."
        )
    if readings.hours is None:
        advice.append("Running hours unknown: wear priors are wide.")
    return advice

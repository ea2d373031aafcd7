"""How well the hour a part comes to its limit is told (simulated fleets of this file's own: wear in
steps of 25 hours, read now and then), and whether the riskiest engines come first.
"""

import time
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bench.figure import Figure, at_least, at_most, for_information
from bench.house import ROOT
from flaneur.core.trend.forecast import SOON_H, fleet_trend
from flaneur.core.trend.lives import Fleet, Life, WearPart, WearReading, wear_parts
from flaneur.formats.books import load_book

FLEETS, ENGINES, STEP_H, OLDER = 500, 10, 25.0, 3
BOOKS = ("ostrey-tansy", "brindle-fennel", "quillon-sorrel")
COVERS, NEAR = 0.90, 0.02


@dataclass(frozen=True)
class Truth:
    """A simulated life, with the hour it comes to its limit; its hours now where it is over."""

    life: Life
    limit_h: float
    limit: float


def run(is_tiny: bool = False, times: int = 1) -> Iterator[Figure]:
    inside, widths, met = list[bool](), list[float](), 0
    lines, truths, labels = list[float](), list[float](), list[bool]()
    risks, ages, taken = list[float](), list[float](), 0.0
    for number in range(8 if is_tiny else FLEETS * times):
        book = load_book(ROOT / "engines" / f"{BOOKS[number % len(BOOKS)]}.yaml")
        parts = list(wear_parts(book).values())
        part = parts[number // len(BOOKS) % len(parts)]
        every, older = _fleet(part, np.random.default_rng(71_000 + number))
        known = Fleet(lives=[*(t.life for t in every), *older])
        begun = time.perf_counter()
        found = {t.engine: t for t in fleet_trend(book, known, seed=number).trends}
        taken += time.perf_counter() - begun
        for true in every:
            trend = found[true.life.engine]
            low, high = trend.at_limit_hours.low, trend.at_limit_hours.high
            # Where it may be over already, or its end is not looked ahead to, an end of the
            # interval stands at the edge and holds more than its share.
            if low is not None and high is not None and low > true.life.hours:
                inside.append(low <= true.limit_h <= high)
            labels.append(true.limit_h <= true.life.hours + SOON_H)
            risks.append(trend.risk)
            ages.append(true.life.hours)
            line = _line(true.life, true.limit)
            if low is None or high is None or line is None:
                continue
            met += 1
            widths.append(high - low)
            lines.append(line)
            truths.append(true.limit_h)
    share = float(np.mean(inside or [COVERS]))
    yield for_information("trend", "limits told of", len(inside))
    yield at_least("trend", "share in its 90 % interval", share, COVERS - NEAR)
    yield at_most("trend", "share in its 90 % interval", share, COVERS + NEAR)
    # A straight line through the readings, its interval as wide as covers as many of these.
    off = np.abs(np.log(np.array(truths) / np.array(lines)))
    wide = float(np.quantile(off, share))
    straight = np.array(lines) * (np.exp(wide) - np.exp(-wide))
    yield at_most(
        "trend",
        f"width of {met} intervals, of a straight line's that cover as many",
        float(np.median(widths) / np.median(straight)),
        1.0,
    )
    by_risk, by_hours = _auc(risks, labels), _auc(ages, labels)
    yield at_least(
        "trend", "pairs ordered right by risk, over those by hours", by_risk / by_hours, 1.0
    )
    yield for_information("trend", "pairs ordered right by risk", by_risk)
    yield for_information("trend", "pairs ordered right by hours", by_hours)
    yield for_information("trend", "ms a part", 1000 * taken / max(1, len(ages)))


def _fleet(part: WearPart, rng: np.random.Generator) -> tuple[list[Truth], list[Life]]:
    """Engines that run, and some whose part was renewed and measured."""
    mean, tau = rng.normal(0, 0.35), float(rng.choice([0.12, 0.18, 0.25, 0.33, 0.42, 0.55]))
    every, older = list[Truth](), list[Life]()
    while len(every) < ENGINES:
        hours, wear, at = _grown(part, rng.normal(mean, tau), rng)
        now = float(rng.uniform(0.2, 1.4)) * part.wear.typical_hours
        at = max(at, now)  # over already: nobody has looked yet
        life = _read(part, f"E{len(every)}", hours, wear, now, int(rng.integers(1, 6)), rng)
        every.append(Truth(life, at, part.limit))
    for number in range(OLDER):
        hours, wear, _ = _grown(part, rng.normal(mean, tau), rng)
        end = float(rng.uniform(0.6, 1.5)) * part.wear.typical_hours
        life = _read(part, f"O{number}", hours, wear, end, 1, rng)
        older.append(life.model_copy(update={"is_over": True}))
    return every, older


def _grown(
    part: WearPart, log_f: float, rng: np.random.Generator
) -> tuple[NDArray[np.float64], NDArray[np.float64], float]:
    """Hours, wear at them, and the hour the limit is met."""
    wear = part.wear
    shape = float(np.clip(rng.normal(wear.shape, 0.12), 0.4, 2.5))
    hours = np.arange(0.0, 9 * wear.typical_hours, STEP_H)
    law = np.exp(log_f) * wear.typical * (hours / wear.typical_hours) ** shape
    scale = 0.015 * np.exp(log_f) * wear.typical
    worn = np.concatenate([[0.0], np.cumsum(rng.gamma(np.diff(law) / scale) * scale)])
    over = worn >= part.limit
    at = float(np.interp(part.limit, worn, hours)) if over.any() else np.inf
    return hours, worn, at


def _read(
    part: WearPart,
    engine: str,
    hours: NDArray[np.float64],
    worn: NDArray[np.float64],
    now: float,
    count: int,
    rng: np.random.Generator,
) -> Life:
    sd = part.limit * float(rng.uniform(0.03, 0.15))
    at = np.sort(rng.uniform(0.25 * now, now, count))
    values = np.interp(at, hours, worn) + sd * rng.normal(size=count)
    readings = [
        WearReading(hours=float(h), value=float(max(v, -1.0)), stderr=sd)
        for h, v in zip(at, values, strict=True)
    ]
    return Life(engine=engine, part=part.key, hours=now, readings=readings)


def _line(life: Life, limit: float) -> float | None:
    """The hour at which a straight line from nought through the readings meets the limit."""
    t = np.array([r.hours for r in life.readings])
    w = np.array([r.value for r in life.readings])
    slope = float((t * w).sum() / (t * t).sum())
    return limit / slope if slope > 0 else None


def _auc(scores: list[float], labels: list[bool]) -> float:
    """Share of pairs of one that comes to its limit soon and one that does not, ordered right."""
    score, label = np.array(scores), np.array(labels)
    ranks = score.argsort().argsort() + 1.0
    good, bad = label.sum(), (~label).sum()
    return float((ranks[label].sum() - good * (good + 1) / 2) / max(1, good * bad))

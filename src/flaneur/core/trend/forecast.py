"""When a part comes to its limit, when to look again, and which engine comes first."""

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.wording import percent
from flaneur.core.trend.failing import fails
from flaneur.core.trend.fleet import Spread, learned
from flaneur.core.trend.growth import DRAWS, Draws, crossing_hours, followed, grown
from flaneur.core.trend.lives import Fleet, Life, WearPart, known_lives
from flaneur.core.wording import counted

Floats = NDArray[np.float64]
LEAST_STEP_H, CHOICES = 50.0, 60
# A day at the bench for a look, against what a thousand hours over a limit cost on average.
LOOK_COST, OVER_COST = 1.0, 12.0
SOON_H, LIKELY = 1000.0, 0.5
# From where on a part is said to be over its limit, probably; below it is as likely as not.
SURE, EVEN = 0.9, 0.6


class TrendModel(BaseModel):
    """What a trend is made of: fixed once made."""

    model_config = ConfigDict(frozen=True)


class Between(TrendModel):
    """The middle of what is believed, and 90 % of it; None where the limit is not met within what
    is looked ahead.
    """

    low: float | None
    middle: float | None
    high: float | None


class Trend(TrendModel):
    """A part's wear and when it comes to its limit. ``hours`` are the part's own; ``days`` count
    from today. ``over`` is the chance that it is over its limit now, ``is_over``: likelier so than
    not; ``risk`` that it is within SOON_H hours, ``fails`` that the engine fails by it within them;
    ``look_again`` in so many hours costs least for every hour run.
    """

    engine: str
    part: str
    name: str
    unit: str
    limit: float
    hours: float
    readings: int
    wear: Between
    at_limit_hours: Between
    at_limit_days: Between
    over: float
    is_over: bool
    risk: float
    fails: float
    look_again_in: float
    words: str


class FleetTrend(TrendModel):
    """Every life that goes on, the likeliest to come to its limit first; ``times`` the book's wear
    each kind of part shows in this fleet, and from how many lives that is known.
    """

    trends: list[Trend]
    times: dict[str, float]
    told: dict[str, int]


def fleet_trend(book: EngineBook, fleet: Fleet, seed: int = 0, draws: int = DRAWS) -> FleetTrend:
    """The trend of every part of a fleet. Raises ReadingError for a part the book lacks."""
    parts = known_lives(book, fleet.lives)
    spreads = learned(parts, fleet.lives, seed)
    found = [
        trend_of(parts[life.part], life, spreads[parts[life.part].kind], fleet, seed, draws)
        for life in fleet.lives
        if not life.is_over
    ]
    found.sort(key=lambda t: (-t.risk, t.at_limit_hours.middle or math.inf))
    return FleetTrend(
        trends=found,
        times={kind: round(spread.times, 3) for kind, spread in spreads.items()},
        told={kind: spread.lives for kind, spread in spreads.items()},
    )


def trend_of(
    part: WearPart, life: Life, spread: Spread, fleet: Fleet, seed: int = 0, draws: int = DRAWS
) -> Trend:
    """The trend of one part."""
    rng = draws_for(life, seed)
    return seen_on(part, life, followed(part, life, spread, rng, draws), fleet, rng)


def draws_for(life: Life, seed: int) -> np.random.Generator:
    """Chance for one life: the same for the same life, whatever else is in the fleet."""
    return np.random.default_rng([seed, *f"{life.engine} {life.part}".encode()])


def seen_on(
    part: WearPart, life: Life, now: Draws, fleet: Fleet, rng: np.random.Generator
) -> Trend:
    """The trend of one part from draws of it as it is now."""
    at = crossing_hours(part, now, rng)
    soon = grown(part, now, now.hours + SOON_H, rng).wear
    rate = fleet.hours_a_day * np.exp(
        fleet.hours_a_day_spread * rng.normal(size=len(at)) - fleet.hours_a_day_spread**2 / 2
    )
    over = float((now.wear >= part.limit).mean())
    risk = float((at <= life.hours + SOON_H).mean())
    hours, wear = between(at), between(now.wear)
    again = look_again_in(at - life.hours)
    return Trend(
        engine=life.engine,
        part=life.part,
        name=part.name,
        unit=part.unit,
        limit=part.limit,
        hours=life.hours,
        readings=len(life.readings),
        wear=wear,
        at_limit_hours=hours,
        at_limit_days=between((at - life.hours) / rate),
        over=over,
        is_over=over > LIKELY,
        risk=risk,
        fails=float(fails(part.kind, soon / part.limit).mean()),
        look_again_in=again,
        words=_words(part, life, hours, over, again),
    )


def between(values: Floats) -> Between:
    """5, 50 and 95 % of draws; None for what lies past what is looked ahead."""
    low, middle, high = np.quantile(values, [0.05, 0.5, 0.95], method="inverted_cdf")
    figures = (None if np.isinf(v) else float(v) for v in (low, middle, high))
    return Between(**dict(zip(("low", "middle", "high"), figures, strict=True)))


def look_again_in(left: Floats) -> float:
    """In how many hours a look costs least for every hour run until then: itself, and the hours
    that an engine runs over its limit meanwhile. Never so late that it is likelier over than not.
    Draws of hours left, shape (n,).
    """
    finite = left[np.isfinite(left)]
    longest = float(np.quantile(finite, 0.9)) if len(finite) else 20 * LEAST_STEP_H
    choices = np.linspace(LEAST_STEP_H, max(longest, 2 * LEAST_STEP_H), CHOICES)
    over_h = np.maximum(choices[:, None] - left[None, :], 0.0).mean(axis=1)
    cost = (LOOK_COST + OVER_COST * over_h / SOON_H) / choices
    is_late = (left[None, :] <= choices[:, None]).mean(axis=1) > LIKELY
    cost[1:] = np.where(is_late[1:], np.inf, cost[1:])
    return float(round(choices[int(np.argmin(cost))] / 50) * 50)


def over_words(over: float) -> str:
    """That a part is over its limit now, with its odds."""
    sure = "over" if over > SURE else "probably over" if over > EVEN else "as likely as not over"
    return f"{sure} its limit already ({percent(over)})"


def _words(part: WearPart, life: Life, at: Between, over: float, again: float) -> str:
    if over > LIKELY:
        return f"{part.name}: {over_words(over)}."
    if at.middle is None:
        far = "its limit is farther off than is looked ahead"
        return f"{part.name}: {far}. Look again in {again:g} h."
    left = [None if h is None else h - life.hours for h in (at.low, at.middle, at.high)]
    low, middle = (f"{max(0.0, h or 0):.0f}" for h in left[:2])
    high = "later" if left[2] is None else f"{left[2]:.0f} h"
    return (
        f"{part.name}: at its limit in {middle} h ({low} h to {high}), from "
        f"{counted(len(life.readings), 'reading')}. Look again in {again:g} h."
    )


def by_engine(trends: Sequence[Trend]) -> dict[str, float]:
    """Odds by engine that any of its parts is over its limit soon, the likeliest first. Parts are
    taken to wear on their own.
    """
    sound = dict[str, float]()
    for trend in trends:
        sound[trend.engine] = sound.get(trend.engine, 1.0) * (1 - trend.risk)
    return dict(sorted(((k, 1 - v) for k, v in sound.items()), key=lambda item: -item[1]))

"""A cam wheel's events against the book's: which shift fits, and what every edge reads in every
cycle.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import VaneWheel
from flaneur.core.book.wheels import cam_events_deg
from flaneur.core.errors import CaptureError
from flaneur.core.signals.edges import Edges

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
SEARCH_DEG = 110.0
MATCH_DEG = 2.5
FITS = 0.7  # least score of a pattern that is taken for its wheel


@dataclass(frozen=True)
class Match:
    """``score``: share of observed edges that meet a book edge, less the share of book edges that
    none meets.

    ``moves_deg``: from where to where the cam went, when the pattern fits all along but at
    different deviations.
    """

    score: float
    deviation_deg: float
    inverted: bool
    moves_deg: tuple[float, float] | None = None


def wheel_events(wheel: VaneWheel) -> tuple[Floats, Bools]:
    """Book angles (degrees of the cycle) and directions of a cam wheel's events."""
    events = cam_events_deg(wheel)
    return np.array([a for a, _ in events]), np.array([r for _, r in events])


def wrap(angle: Floats | float) -> Floats:
    """To [−360, 360)."""
    return np.asarray((np.asarray(angle) + 360.0) % 720.0 - 360.0)


def best_match(theta: Floats, rising: Bools, wheel: VaneWheel) -> Match:
    """Deviation within ±SEARCH_DEG at which most observed events meet book events, either way
    round.

    An inverted sensor is believed only when it fits clearly better.
    """
    keep = np.isfinite(theta)
    theta, rising = theta[keep], rising[keep]
    book, direction = wheel_events(wheel)
    if len(theta) == 0:
        return Match(-1.0, 0.0, False)
    # Two whole cycles from begin, middle and end, each by itself: a cold engine's cams move on in
    # between.
    run = min(len(theta), 2 * book.size)
    starts = sorted({0, (len(theta) - run) // 2, len(theta) - run})
    sample = [(theta[a : a + run] % 720.0, rising[a : a + run]) for a in starts]
    straight = _joined([_match(t, up, book, direction, False) for t, up in sample])
    if wheel.sensor == "vr" or straight.score > 0.95:
        return straight
    inverted = _joined([_match(t, ~up, book, direction, True) for t, up in sample])
    return inverted if inverted.score > straight.score + 0.15 else straight


def _joined(matches: list[Match]) -> Match:
    """One match from several stretches: the middle of their deviations, and how well they fit
    together.
    """
    deviation = float(np.median([m.deviation_deg for m in matches]))
    near = [m.score if abs(m.deviation_deg - deviation) < 10.0 else 0.0 for m in matches]
    each = [m.deviation_deg for m in matches if m.score > 0.9]
    moved = len(each) > 1 and max(each) - min(each) > 10.0
    return Match(
        float(np.mean(near)),
        deviation,
        matches[0].inverted,
        (min(each), max(each)) if moved else None,
    )


def _match(sample: Floats, up: Bools, book: Floats, direction: Bools, inverted: bool) -> Match:
    difference = wrap(sample[:, None] - book[None, :])
    same = up[:, None] == direction[None, :]
    candidates = difference[same & (np.abs(difference) < SEARCH_DEG)]
    best = Match(-1.0, 0.0, inverted)
    for candidate in np.unique(np.round(candidates, 1)):
        near = same & (np.abs(wrap(difference - candidate)) < MATCH_DEG)
        score = float(near.any(axis=1).mean() - (~near.any(axis=0)).mean())
        if score > best.score + 1e-9 or (
            score > best.score - 1e-9 and abs(candidate) < abs(best.deviation_deg) - 1
        ):
            best = Match(
                score, float(np.median(wrap(difference - candidate)[near]) + candidate), inverted
            )
    return best


@dataclass(frozen=True)
class CamTable:
    """Deviation of every edge in every whole cycle, crank degrees, NaN where it was not seen.

    ``deviation_deg`` (cycles, edges); ``cycle`` their numbers; ``start_s`` when each began;
    ``edges_used`` the edges that count; ``unmatched`` how many observed events met none of the
    book's; ``sigma_s`` (cycles,) the timing error of one edge in each; ``edge_weight`` (edges,) how
    exactly each can be timed: where the crank runs slower, a time is a smaller angle.
    """

    deviation_deg: Floats
    cycle: NDArray[np.int64]
    start_s: Floats
    edges_used: Bools
    unmatched: int
    sigma_s: Floats
    edge_weight: Floats


def cam_table(
    wheel: VaneWheel, edges: Edges, theta: Floats, rising: Bools, match: Match, speed_deg_s: Floats
) -> CamTable:
    """Sort events into cycles and edges. Raises CaptureError when not one whole cycle is there."""
    book, direction = wheel_events(wheel)
    keep = np.isfinite(theta)
    theta, rising, times_s = theta[keep], rising[keep] ^ match.inverted, edges.times_s[keep]
    difference = wrap(theta[:, None] % 720.0 - book[None, :] - match.deviation_deg)
    difference[rising[:, None] != direction[None, :]] = 999.0
    nearest = np.argmin(np.abs(difference), axis=1) if len(theta) else np.zeros(0, dtype=int)
    residual = difference[np.arange(len(theta)), nearest]
    ok = np.abs(residual) < _catch_deg(book)
    cycle = np.round((theta - match.deviation_deg - book[nearest]) / 720.0).astype(np.int64)[ok]
    if len(cycle) == 0:
        raise CaptureError(
            f"No edge of {wheel.channel} could be matched.", expected="at least one whole cycle"
        )
    first = cycle.min()
    table = np.full((cycle.max() - first + 1, book.size), np.nan)
    began = np.full(len(table), np.inf)
    table[cycle - first, nearest[ok]] = residual[ok]
    np.minimum.at(began, cycle - first, times_s[ok])
    timing = np.zeros(len(table))
    timing[cycle - first] = edges.sigma_s[keep][ok]
    speed = np.full(table.shape, np.nan)
    speed[cycle - first, nearest[ok]] = speed_deg_s[keep][ok]
    seen = np.isfinite(table)
    used = seen.sum(axis=0) >= 0.5 * max(1, seen.any(axis=1).sum())
    whole = (
        seen[:, used].all(axis=1) & seen.any(axis=1) if used.any() else np.zeros(len(table), bool)
    )
    if not whole.any():
        raise CaptureError(
            f"Not one whole engine cycle of {wheel.channel} is in the capture.",
            read=f"{len(cycle)} cam edges",
            expected=f"{book.size} edges in one cycle",
            advice="Record longer.",
        )
    number = np.arange(len(table))[whole] + first
    return CamTable(
        table[whole] + match.deviation_deg,
        number,
        began[whole],
        used,
        int(np.sum(~ok)),
        timing[whole],
        _edge_weight(speed[whole][:, used], used),
    )


def _edge_weight(speed: Floats, used: Bools) -> Floats:
    """One over the mean squared speed at each edge against its cycle's; one for edges that do not
    count.
    """
    weight = np.ones(len(used))
    weight[used] = 1 / np.mean((speed / speed.mean(axis=1, keepdims=True)) ** 2, axis=0)
    return weight


def _catch_deg(book: Floats) -> float:
    """How far an edge may stand from its place and still be this edge: short of half way to its
    neighbour, at most 8°.
    """
    spans = np.diff(np.append(book, book[0] + 720.0))
    return float(min(8.0, max(MATCH_DEG + 1.5, 0.4 * spans.min())))

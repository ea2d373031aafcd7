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
NOT_THIS_EDGE = 999.0  # degrees no event is off: of another direction
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


@dataclass(frozen=True, kw_only=True)
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
    book, _ = wheel_events(wheel)
    placed = _place(wheel, edges, theta, rising, match, speed_deg_s)
    first, count = _cycles(wheel, placed)
    at = (placed.cycle - first, placed.edge)
    table = np.full((count, book.size), np.nan)  # (cycles, edges) misfit, degrees
    table[at] = placed.residual_deg
    began = np.full(count, np.inf)  # (cycles,) seconds
    np.minimum.at(began, at[0], placed.times_s)
    timing = np.zeros(count)  # (cycles,) seconds
    timing[at[0]] = placed.sigma_s
    speed = np.full(table.shape, np.nan)  # (cycles, edges) degrees a second
    speed[at] = placed.speed_deg_s
    used, whole = _whole_cycles(wheel, table, len(placed.cycle))
    return CamTable(
        deviation_deg=table[whole] + match.deviation_deg,
        cycle=np.arange(count)[whole] + first,
        start_s=began[whole],
        edges_used=used,
        unmatched=placed.unmatched,
        sigma_s=timing[whole],
        edge_weight=_edge_weight(speed[whole][:, used], used),
    )


@dataclass(frozen=True, kw_only=True)
class _Placed:
    """Events that meet an edge of the book, (n,) each: when, in which cycle, which edge, how far
    from it (degrees), its timing error, and the crank's speed there. ``unmatched`` meet none.
    """

    times_s: Floats
    cycle: NDArray[np.int64]
    edge: NDArray[np.int64]
    residual_deg: Floats
    sigma_s: Floats
    speed_deg_s: Floats
    unmatched: int


def _place(
    wheel: VaneWheel, edges: Edges, theta: Floats, rising: Bools, match: Match, speed_deg_s: Floats
) -> _Placed:
    """Give every event the book's nearest edge of its direction."""
    book, direction = wheel_events(wheel)
    known = np.isfinite(theta)
    theta, rising = theta[known], rising[known] ^ match.inverted
    difference = wrap(theta[:, None] % 720.0 - book[None, :] - match.deviation_deg)  # (n, edges)
    difference[rising[:, None] != direction[None, :]] = NOT_THIS_EDGE
    nearest = np.argmin(np.abs(difference), axis=1) if len(theta) else np.zeros(0, dtype=np.int64)
    residual = difference[np.arange(len(theta)), nearest]
    meets = np.abs(residual) < _catch_deg(book)
    cycle = np.round((theta - match.deviation_deg - book[nearest]) / 720.0).astype(np.int64)
    return _Placed(
        times_s=edges.times_s[known][meets],
        cycle=cycle[meets],
        edge=nearest[meets],
        residual_deg=residual[meets],
        sigma_s=edges.sigma_s[known][meets],
        speed_deg_s=speed_deg_s[known][meets],
        unmatched=int(np.sum(~meets)),
    )


def _cycles(wheel: VaneWheel, placed: _Placed) -> tuple[int, int]:
    """Number of the first cycle, and how many there are to the last. Raises CaptureError when no
    event meets an edge.
    """
    if len(placed.cycle) == 0:
        raise CaptureError(
            f"No edge of {wheel.channel} could be matched.", expected="at least one whole cycle"
        )
    first = int(placed.cycle.min())
    return first, int(placed.cycle.max()) - first + 1


def _whole_cycles(wheel: VaneWheel, table: Floats, events: int) -> tuple[Bools, Bools]:
    """Edges that count, (edges,): seen in half the cycles or more. Cycles in which all of them were
    seen, (cycles,). Raises CaptureError when there is no such cycle.
    """
    seen = np.isfinite(table)
    used: Bools = np.asarray(seen.sum(axis=0) >= 0.5 * max(1, seen.any(axis=1).sum()))
    whole: Bools = np.zeros(len(table), bool)
    if used.any():
        whole |= seen[:, used].all(axis=1) & seen.any(axis=1)
    if not whole.any():
        raise CaptureError(
            f"Not one whole engine cycle of {wheel.channel} is in the capture.",
            read=f"{events} cam edges",
            expected=f"{table.shape[1]} edges in one cycle",
            advice="Record longer.",
        )
    return used, whole


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

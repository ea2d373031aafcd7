"""A run of crank events laid against the wheel as a whole.

Which tooth each event is follows from all of them together, by dynamic programming: the next tooth,
one after lost edges, or an event that is no tooth. A step costs how far the crank's speed there
(its logarithm) stands from where the last two steps were taking it: compression brakes a crank
hard, but never from one tooth to the next. Each state keeps the speed of the best way into it.
"""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import median_filter

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

SKIP, LOST = 3, 3  # events in a row that may be no teeth, teeth in a row that may be lost
WORST = 16.0  # cost of a step that fits in no way
LOSES, GAINS, AGAIN = 12.0, 12.0, 60.0  # cost of a lost tooth, of an event too many, of a new start
ROUGHLY, ABOUT = 0.25, 31  # weight of the speed where counting begins; events it is taken from
NEAR, FAR = 0.5, 11.0  # of a step, within which an event is near its tooth; cost where it is not
APART = 13.0  # cost of an event out of its place
MORE = 3.0  # of every further tooth lost with it
LEAST_SPREAD, MOST_SPREAD = 0.05, 0.4
LOOSE, MOST_LOOSE = 0.7, 0.35
DAMPED = 0.7  # how far a change of speed is expected to go on


@dataclass(frozen=True)
class Laid:
    """Events laid against a wheel, (events,) each: the tooth (−1: none), teeth lost just before it,
    and whether counting starts anew there. ``misfit``: how far the log of the speed stands from
    what was expected, in spreads; 0 where nothing was. ``cost`` of all of it.
    """

    tooth: Ints
    lost: Ints
    anew: NDArray[np.bool_]
    misfit: Floats
    cost: float


def spread_of(times_s: Floats, pattern: Floats) -> float:
    """How far the log of the speed usually stands from what two steps led to expect: from the
    events alone, the pattern's own jumps set aside as the rarer ones.
    """
    steps = np.diff(np.log(np.maximum(np.diff(times_s), 1e-12)))
    if len(steps) < 3:
        return LEAST_SPREAD
    bends = np.abs(steps[1:] - DAMPED * steps[:-1])
    jumps = float(np.mean(np.abs(pattern) > 0.2))
    usual = float(np.quantile(bends, max(0.25, 0.6 - jumps)))
    hard = float(np.quantile(bends, max(0.25, 0.95 - 1.5 * jumps)))
    return float(np.clip(max(1.5 * usual, 0.7 * hard), LEAST_SPREAD, MOST_SPREAD))


COST, SPEED, BEND, WIDTH, KNOWN = range(5)  # what is kept of the best way into each state


def lay(times_s: Floats, angles: Floats) -> Laid:
    """Lay events (seconds, sorted) against the teeth of one turn (degrees, rising)."""
    count, events = len(angles), len(times_s)
    away = np.arange(1, LOST + 2)  # teeth from one event to the next
    rows = np.arange(count)
    before = (rows[None, :] - away[:, None]) % count  # (D, teeth)
    reach = np.concatenate([angles - 360.0 * n for n in (3, 2, 1, 0)])
    span = angles[None, :] - reach[3 * count + rows[None, :] - away[:, None]]  # (D, teeth) degrees
    log_span = np.log(span)
    spread = spread_of(times_s, np.roll(log_span[0], -1) - log_span[0])
    extra = _extra(np.arange(SKIP)[:, None], away[None, :] - 1)[:, :, None]  # (A, D, 1)
    # Degrees from the tooth a step of n + 1 begins at to each tooth it passes, (n, teeth).
    within = [
        np.array([span[n] - span[n - m] for m in range(1, n + 1)]).reshape(n, count)
        for n in range(SKIP)
    ]
    pitch = float(span[0].min())
    steps = np.append(np.diff(times_s), times_s[-1] - times_s[-2])
    usual = np.log(np.median(span[0]) / median_filter(steps, ABOUT, mode="nearest"))
    strays = np.where(extra > 0, AGAIN, 0.0)
    ago = np.stack([np.roll(times_s, a + 1) for a in range(SKIP)], axis=1)
    log_t = np.log(np.maximum(times_s[:, None] - ago, 1e-9))  # (events, A)
    # The last SKIP events, newest last, and before the first of them nothing.
    kept = np.zeros((SKIP, 5, count))
    kept[:, COST], kept[:, WIDTH] = np.inf, 1.0
    way = np.full((events, count), -1, dtype=np.int16)
    origin = np.full(events, -1, dtype=np.int64)
    misfits = np.zeros((events, count), dtype=np.float32)
    best_end: tuple[float, int, int] = (np.inf, 0, 0)
    for i in range(events):
        last = np.take(kept[::-1], before, axis=2)  # (A, 5, D, teeth)
        new = log_span[None] - log_t[i][:, None, None]  # (A, D, teeth)
        going = last[:, BEND] * (0.5 * (span[None] + last[:, WIDTH]))
        # A speed that is changing may as well stop changing: the more it does, the less is known.
        loose = spread**2 + np.minimum((LOOSE * going) ** 2, MOST_LOOSE**2)
        off = (new - last[:, SPEED] - DAMPED * going) * last[:, KNOWN]
        misfit = off * off / loose
        # The first step of a count anew sets its speed: it must be from one tooth to the next.
        blind = strays * (last[:, KNOWN] < 1)
        total = last[:, COST] + np.minimum(misfit, WORST) + extra + blind
        for n in range(1, min(SKIP, i)):
            # An event out of its place is still near it: else a tooth was lost, and this is none.
            passed = (times_s[i - n : i] - times_s[i - n - 1]) / (times_s[i] - times_s[i - n - 1])
            off = np.abs(passed[:, None] * span[n] - within[n])
            total[n, n] += np.where((off > NEAR * pitch).any(axis=0), n * FAR, 0.0)
        total = total.reshape(-1, count)
        pick = total.argmin(axis=0)
        here = total[pick, rows]
        newest = int(kept[-1, COST].argmin())
        afresh = 0.0
        if i:
            afresh = float(kept[-1, COST, newest]) + AGAIN
            afresh = min(afresh, GAINS * i) if i < SKIP else afresh
            origin[i] = newest if i >= SKIP else -1
        begins = here > afresh
        a, d = pick // len(away), pick % len(away)
        took, wide = new[a, d, rows], span[d, rows]
        was = last[a, :, d, rows]  # (teeth, 5)
        change = (took - was[:, SPEED]) / (0.5 * (wide + was[:, WIDTH]))
        change *= was[:, KNOWN] == 1
        goes_on = ~begins
        way[i] = np.where(begins, -1, pick)
        misfits[i] = np.sqrt(misfit[a, d, rows]) * goes_on
        kept[:-1] = kept[1:].copy()
        row = kept[-1]
        row[COST] = np.where(begins, afresh, here)
        row[SPEED], row[BEND] = np.where(begins, usual[i], took), np.where(begins, 0.0, change)
        row[WIDTH], row[KNOWN] = wide, np.where(begins, ROUGHLY, 1.0)
        if i >= events - SKIP:
            tooth = int(row[COST].argmin())
            best_end = min(best_end, (float(row[COST, tooth]) + GAINS * (events - 1 - i), i, tooth))
    found = _back(events, before, way, origin, misfits, best_end, len(away))
    return _with_bent_teeth(found, count)


def _extra(skipped: Ints, lost: Ints) -> Floats:
    """What it costs to pass over so many events and lose so many teeth at one step; an event and a
    tooth together are one tooth out of its place.
    """
    apart = np.minimum(skipped, lost)
    gone, more = lost - apart, skipped - apart
    loses = np.where(gone > 0, LOSES + MORE * (gone - 1), 0.0)
    return np.asarray(APART * apart + loses + GAINS * more, dtype=np.float64)


def _back(
    events: int,
    before: Ints,
    way: NDArray[np.int16],
    origin: Ints,
    misfits: NDArray[np.float32],
    end: tuple[float, int, int],
    steps: int,
) -> Laid:
    """The best way, from its end."""
    tooth = np.full(events, -1, dtype=np.int64)
    lost = np.zeros(events, dtype=np.int64)
    anew, misfit = np.zeros(events, dtype=bool), np.zeros(events)
    cost, i, k = end
    while i >= 0:
        tooth[i], code = k, int(way[i, k])
        misfit[i] = float(misfits[i, k])
        if code < 0:
            anew[i] = True
            if origin[i] < 0:
                break
            i, k = i - 1, int(origin[i])
            continue
        a, d = divmod(code, steps)
        lost[i] = d
        i, k = i - 1 - a, int(before[d, k])
    return Laid(tooth, lost, anew, misfit, cost)


def _with_bent_teeth(laid: Laid, count: int) -> Laid:
    """Events that stand where a tooth was lost, so many as were lost: in turn after turn the tooth
    is bent, and the event is that tooth; now and then the event was disturbed, and stays out.
    """
    kept = np.flatnonzero(laid.tooth >= 0)
    between = np.diff(kept) - 1
    late = kept[1:][(laid.lost[kept[1:]] == between) & (between > 0)]
    if len(late) == 0:
        return laid
    first = kept[np.searchsorted(kept, late) - 1]
    size = late - first - 1
    gone = np.repeat(late, size)
    # The events between: counted from the one after the last that was kept.
    events = np.repeat(first + 1 - np.cumsum(size) + size, size) + np.arange(int(size.sum()))
    teeth = (laid.tooth[gone] - (gone - events)) % count
    turns = max(1, int(turn_of(laid)[-1]) + 1)
    bent = np.bincount(teeth, minlength=count) > OFTEN * turns
    tooth, lost = laid.tooth.copy(), laid.lost.copy()
    is_bent = np.ones(len(late), dtype=bool)
    np.logical_and.at(is_bent, np.searchsorted(late, gone), bent[teeth])
    back = np.repeat(is_bent, size)
    tooth[events[back]], lost[late[is_bent]] = teeth[back], 0
    return replace(laid, tooth=tooth, lost=lost)


@dataclass(frozen=True)
class Troubles:
    """What was found when events were laid against a wheel: events that are no teeth, teeth that
    are missing, stretches counted anew; ``turns`` how many turns have any of it. ``missing``: teeth
    that never show. ``sound``: whether the pattern is this wheel's at all. ``a_turn``: events seen
    from one turn to the next, most often.
    """

    added: int
    lost: int
    anew: int
    turns: int
    missing: tuple[int, ...]
    sound: bool
    a_turn: int


TELLING = 0.25  # log of one step against the next that tells teeth apart
CLEAN = 4.0  # spreads within which a step is as expected
SEEN = 0.5  # least share of telling steps that must be seen as the book has them
OFTEN = 0.5  # share of turns in which a tooth is missing for it to be the wheel's own


def troubles_of(laid: Laid, angles: Floats) -> Troubles:
    """What a laying says of the wheel and of the capture."""
    count, kept = len(angles), np.flatnonzero(laid.tooth >= 0)
    tooth, lost = laid.tooth[kept], laid.lost[kept]
    turn = turn_of(laid)[kept]
    turns = max(1, int(turn[-1] - turn[0]) + 1) if len(turn) else 1
    span = np.diff(np.concatenate([[angles[-1] - 360.0], angles]))
    step = np.log(span) - np.log(np.roll(span, 1))  # at each tooth, of the step into it
    telling = np.abs(step) > TELLING
    direct = np.diff(kept, prepend=kept[:1] - 1) == 1
    usual: NDArray[np.bool_] = direct & (lost == 0) & ~laid.anew[kept]
    usual &= laid.misfit[kept] < CLEAN
    asked = telling[tooth]
    due = max(1.0, turns * float(telling.sum()))
    shown = float(np.sum(asked & usual)) / due if telling.any() else float(np.mean(usual))
    gone = np.zeros(count)
    for back in range(1, LOST + 1):
        np.add.at(gone, (tooth[lost >= back] - back) % count, 1)
    missing = tuple(int(k) for k in np.flatnonzero(gone > OFTEN * turns))
    added = np.flatnonzero(laid.tooth < 0)
    whole = turn_of(laid)
    spoilt = np.unique(np.concatenate([turn[lost > 0], whole[added]]))
    each = np.bincount(whole)
    seen = np.bincount(each[1:-1] if len(each) > 2 else each)
    a_turn = int(seen.argmax())
    is_other = a_turn != count - len(missing) and seen[a_turn] > OFTEN * seen.sum()
    strange = is_other or len(missing) > max(1, count // 12)
    return Troubles(
        added=len(added),
        lost=int(lost.sum()),
        anew=int(np.sum(laid.anew)) - 1,
        turns=len(spoilt),
        missing=missing,
        sound=shown >= SEEN and not strange,
        a_turn=a_turn,
    )


def turn_of(laid: Laid) -> Ints:
    """Which turn each event lies in, from nought on; events that are no teeth count with the tooth
    before them.
    """
    tooth = laid.tooth
    kept = np.flatnonzero(tooth >= 0)
    new = np.zeros(len(tooth), dtype=np.int64)
    if len(kept) > 1:
        on = tooth[kept]
        new[kept[1:]] = (on[1:] <= on[:-1]) & ~laid.anew[kept[1:]]
    return np.cumsum(new)

"""Crank angle over time from the events of the crank wheel, whatever its pattern.

Steps between log intervals do not depend on the speed and hardly on its changes: turn after turn
they are laid against the book's pattern in every rotation at once (one matrix product), and the
rotation that fits gives each tooth its number. Where turns fit in no rotation, all events are laid
against the wheel together (``laying``); across a break turns are counted by time.
"""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EdgeWheel, GapWheel
from flaneur.core.book.wheels import crank_events_deg, crank_teeth_deg, gap_places
from flaneur.core.errors import CaptureError
from flaneur.core.signals.laying import Troubles, lay, troubles_of

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
NODES = 6
FEWEST = 12  # steps in one window, so that a wheel of few teeth is judged over several turns


@dataclass(frozen=True)
class CrankAngle:
    """Event times (s) and their unwrapped crank angles (degrees, NaN in turns that do not count
    out).

    ``segment`` numbers the stretches between breaks, −1 outside; ``tooth`` is each event's number
    round the wheel; ``troubles`` what was found where turns did not fit one by one.
    """

    times_s: Floats
    theta_deg: Floats
    turns: int
    rpm: float
    segment: NDArray[np.int64]
    tooth: NDArray[np.int64]
    troubles: Troubles | None = None

    @property
    def bad_turns(self) -> int:
        """Turns in which a tooth was lost, or an event was none."""
        return self.troubles.turns if self.troubles else 0

    def at(self, times_s: Floats) -> Floats:
        """Crank angle at given times by the six-point Lagrange polynomial through the nearest
        teeth; NaN outside.
        """
        right = np.searchsorted(self.times_s, times_s)
        start = right - NODES // 2
        ok = (start >= 0) & (start + NODES <= len(self.times_s))
        index = np.where(ok, start, 0)[:, None] + np.arange(NODES)
        if len(self.times_s) < NODES:
            return np.full(len(times_s), np.nan)
        nodes, values = self.times_s[index], self.theta_deg[index]
        # Centred and scaled, so that the products stay of order one.
        scale = nodes[:, -1:] - nodes[:, :1]
        t = (times_s[:, None] - nodes[:, :1]) / scale
        knots = (nodes - nodes[:, :1]) / scale
        base = values[:, :1]
        total = np.zeros(len(times_s))
        for i in range(NODES):
            weight = np.ones(len(times_s))
            for j in range(NODES):
                if i != j:
                    weight = weight * (t[:, 0] - knots[:, j]) / (knots[:, i] - knots[:, j])
            total = total + weight * (values[:, i] - base[:, 0])
        return np.where(ok, base[:, 0] + total, np.nan)

    def speed_deg_s(self, times_s: Floats) -> Floats:
        """Crank speed in degrees per second at given times, from the slope between teeth; flat
        outside.
        """
        good = np.isfinite(self.theta_deg)
        t, theta = self.times_s[good], self.theta_deg[good]
        step = np.maximum(np.diff(t), 1e-9)
        return np.interp(times_s, (t[1:] + t[:-1]) / 2, np.maximum(np.diff(theta) / step, 1e-3))


def _steps(intervals: Floats) -> Floats:
    return np.clip(np.diff(np.log(np.maximum(intervals, 1e-12))), -2.5, 2.5)


def _pattern_steps(angles: Floats) -> Floats:
    spans = np.diff(np.append(angles, angles[0] + 360.0))
    log = np.log(spans)
    return np.clip(np.roll(log, -1) - log, -2.5, 2.5)


@dataclass(frozen=True)
class Alignment:
    """Per window of events: where it starts, which rotation fits, and its worst step's misfit
    (natural log units).
    """

    starts: NDArray[np.int64]
    size: int
    rotation: NDArray[np.int64]
    rms: Floats
    worst: Floats


def align(times_s: Floats, angles: Floats, most_windows: int | None = None) -> Alignment | None:
    """Lay events against a one-turn pattern; None when there are too few events. Event i is tooth
    (i + rotation) % count.
    """
    count = len(angles)
    size = count * -(-FEWEST // count)
    d = _steps(np.diff(times_s))
    if len(d) < size:
        return None
    q = _pattern_steps(angles)
    starts = np.append(np.arange(0, len(d) - size, size), len(d) - size)
    if most_windows is not None and len(starts) > most_windows:
        starts = starts[np.linspace(0, len(starts) - 1, most_windows).astype(int)]
    seen = d[starts[:, None] + np.arange(size)]
    circulant = q[(np.arange(size)[:, None] + np.arange(count)) % count]
    cost = np.sum(seen**2, axis=1)[:, None] - 2 * seen @ circulant + np.sum(circulant**2, axis=0)
    local = np.argmin(cost, axis=1)
    left = seen - circulant[:, local].T
    return Alignment(
        starts,
        size,
        (local - starts) % count,
        np.sqrt(np.mean(left**2, axis=1)),
        np.max(np.abs(left), axis=1),
    )


def tolerance(count: int) -> float:
    """Largest step misfit of a sound turn: few teeth leave the speed more room to change between
    them.
    """
    return 0.25 if count >= 24 else 0.35 if count >= 8 else 0.6


def hall_polarity(times_s: Floats, rising: Bools, wheel: GapWheel | EdgeWheel) -> bool:
    """Whether the sensor is inverted: all edges are laid against the book's, whose directions then
    tell.
    """
    teeth = np.array(crank_teeth_deg(wheel))
    angles: Floats = teeth.ravel()
    first = crank_teeth_deg(wheel)[0][0]
    if not np.all(np.diff(angles) > 0) or angles[-1] >= first + 360:
        return False
    found = align(times_s, angles, most_windows=40)
    if found is None:
        return False
    good: Bools = found.rms < 2 * tolerance(len(angles))
    if not good.any():
        return False
    book_rises = (found.starts[good] + found.rotation[good]) % len(angles) % 2 == 0
    agrees: Bools = book_rises == rising[found.starts[good]]
    return float(np.count_nonzero(agrees)) < 0.5 * len(agrees)


def decode_crank(events_s: Floats, wheel: GapWheel | EdgeWheel) -> CrankAngle:
    """Give every active event its angle. Raises CaptureError when no turn fits, the count is
    another, or too little turned.
    """
    angles = np.array(crank_events_deg(wheel))  # (teeth,) degrees of one turn
    count = len(angles)
    found = align(events_s, angles)
    if found is None:
        read = f"{len(events_s)} crank teeth, {len(events_s) / count:.1f} turns"
        raise _too_short(read, f"at least two turns of {count} teeth")
    good = found.worst < tolerance(count)  # (windows,)
    if not good.all():
        return _laid_out(events_s, wheel, angles)
    named = _Named.nothing(events_s)
    for w in range(len(good)):
        named.name(events_s, angles, found, w)
    theta, segment = _without_brinks(named.theta, named.segment)
    return _counted(events_s, theta, segment, named.tooth, count)


def _laid_out(events_s: Floats, wheel: GapWheel | EdgeWheel, angles: Floats) -> CrankAngle:
    """The same where turns do not fit one by one: all events laid against the wheel together; what
    is no tooth is left out, and across lost ones the crank is followed.
    """
    laid = lay(events_s, angles)
    found = troubles_of(laid, angles)
    if not found.sound:
        raise _no_fit(events_s, wheel, len(angles))
    kept = np.flatnonzero(laid.tooth >= 0)
    times, tooth, anew = events_s[kept], laid.tooth[kept], laid.anew[kept]
    theta, segment = np.full(len(kept), np.nan), np.cumsum(anew) - 1
    for number in range(int(segment[-1]) + 1):
        here = np.flatnonzero(segment == number)
        on = tooth[here]
        place = np.concatenate([[0], np.cumsum(on[1:] <= on[:-1])])
        turn = 0
        if number:
            turn = _turns_passed(times, theta, int(here[0]), float(angles[on[0]]))
        theta[here] = angles[on] + 360.0 * (place + turn)
    theta, segment = _without_brinks(theta, segment)
    counted = _counted(times, theta, segment, tooth, len(angles))
    return replace(counted, troubles=found)


def _counted(
    events_s: Floats,
    theta: Floats,
    segment: NDArray[np.int64],
    tooth: NDArray[np.int64],
    count: int,
) -> CrankAngle:
    kept = np.flatnonzero(np.isfinite(theta))
    if len(kept) < 2 * count:
        read = f"{len(kept) / count:.1f} whole turns"
        raise _too_short(read, "at least two whole turns (one engine cycle)")
    turned = float(theta[kept[-1]] - theta[kept[0]])
    return CrankAngle(
        times_s=events_s,
        theta_deg=theta,
        turns=round(turned / 360.0),
        rpm=turned / float(events_s[kept[-1]] - events_s[kept[0]]) / 6.0,
        segment=segment,
        tooth=tooth,
    )


@dataclass(kw_only=True)
class _Named:
    """Events named so far, (events,) each: unwrapped angle, stretch between breaks, tooth.

    ``number`` is the stretch under way, ``turn`` the whole turns its places count from, ``last``
    the last event named, ``rotation`` the rotation that fitted there.
    """

    theta: Floats
    segment: NDArray[np.int64]
    tooth: NDArray[np.int64]
    number: int = -1
    turn: int = 0
    last: int = -1
    rotation: int = -1

    @classmethod
    def nothing(cls, events_s: Floats) -> "_Named":
        count = len(events_s)
        return cls(
            theta=np.full(count, np.nan),
            segment=np.full(count, -1, dtype=np.int64),
            tooth=np.zeros(count, dtype=np.int64),
        )

    def name(self, events_s: Floats, angles: Floats, found: Alignment, window: int) -> None:
        """Name the events of one window that fits; where it does not follow on from the last, a
        new stretch begins, its turn counted by time.
        """
        count = len(angles)
        start, rotation = int(found.starts[window]), int(found.rotation[window])
        # A window's steps touch its first event and the two after its last step.
        end = min(start + found.size + 2, len(events_s))
        span = np.arange(max(start, self.last + 1), end)
        if len(span) == 0:
            return
        place, tooth = (span + rotation) // count, (span + rotation) % count
        follows = self.number >= 0 and self.segment[span[0] - 1] == self.number
        if not (follows and self.rotation == rotation):
            self.number += 1
            passed = (
                _turns_passed(events_s, self.theta, int(span[0]), float(angles[tooth[0]]))
                if self.number
                else 0
            )
            self.turn = passed - int(place[0])
        self.theta[span] = angles[tooth] + 360.0 * (place + self.turn)
        self.segment[span], self.tooth[span] = self.number, tooth
        self.last, self.rotation = int(span[-1]), rotation


def _without_brinks(theta: Floats, segment: NDArray[np.int64]) -> tuple[Floats, NDArray[np.int64]]:
    """Angles and stretches without the teeth next to a break, which may be on either side of it."""
    theta, segment = theta.copy(), segment.copy()
    for i in np.flatnonzero(np.diff(segment) != 0):
        brink = slice(max(0, i - 2), i + 4)
        theta[brink], segment[brink] = np.nan, -1
    return theta, segment


def _too_short(read: str, expected: str) -> CaptureError:
    return CaptureError(
        "The crank does not turn far enough in this capture.",
        read=read,
        expected=expected,
        advice="Record longer, with the engine turning.",
    )


def _turns_passed(events_s: Floats, theta: Floats, index: int, fraction: float) -> int:
    """Whole turns at an event after a break, from the time since the last tooth known and the speed
    there.
    """
    known = np.flatnonzero(np.isfinite(theta[:index]))
    back, end = int(known[max(0, len(known) - 60)]), int(known[-1])
    speed = (theta[end] - theta[back]) / max(events_s[end] - events_s[back], 1e-9)
    reached = theta[end] + speed * (events_s[index] - events_s[end])
    return round(float(reached - fraction) / 360.0)


def _no_fit(events_s: Floats, wheel: GapWheel | EdgeWheel, count: int) -> CaptureError:
    """Why no turn fits: no gap at all, or another number of teeth in a turn."""
    steps = np.diff(np.log(np.maximum(np.diff(events_s), 1e-12)))
    name = f"{wheel.teeth}−{wheel.missing}" if isinstance(wheel, GapWheel) else f"{count} teeth"
    jumps = np.flatnonzero(steps > 0.45)
    if len(jumps) < 2:
        return CaptureError(
            "No gap was found in the crank signal.",
            read=f"{len(events_s)} teeth at an even pace",
            expected=f"the pattern of {name} in every turn",
            advice="Check that the crank channel is the crank sensor.",
        )
    usual = int(np.bincount(np.diff(jumps)).argmax())
    places = gap_places(wheel) if isinstance(wheel, GapWheel) else []
    expected = f"{len(places)} ({name})" if places else name
    if usual == len(places):
        return CaptureError(
            "The crank signal cannot be followed from turn to turn.",
            read=f"{usual} teeth between gaps now and then, and other numbers between",
            expected=f"{expected} in most turns",
            advice="Look at the crank sensor's gap and lead, then capture again.",
        )
    return CaptureError(
        "This looks like a capture of another engine.",
        read=f"{usual} crank teeth between gaps",
        expected=expected,
        advice="Choose the engine book that fits, or check the crank sensor.",
    )

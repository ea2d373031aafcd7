"""A phaser's answer to step commands fitted: dead time, rates, steady error, hunting, drift."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares

from flaneur.core.book.schema import EngineBook, Phaser
from flaneur.core.errors import CaptureError
from flaneur.core.phasers.drivelog import DriveLog
from flaneur.core.phasers.found import PhaserResponseFit, PhaserState, Response
from flaneur.core.phasers.judge import judge
from flaneur.core.phasers.response import Expected, Floats, command_steps, expected_response, follow

STEP_DEG = 3.0
STUCK_SHARE = 0.15
SETTLED_S = 1.2


@dataclass(frozen=True, kw_only=True)
class _Sweep:
    """One phaser's columns of a log, and what the book expects at its oil."""

    key: str
    phaser: Phaser
    times_s: Floats
    command_deg: Floats
    actual_deg: Floats
    oil_c: float
    oil_kpa: float
    expected: Expected
    park_deg: float | None

    @property
    def swing_deg(self) -> float:
        return float(np.ptp(self.command_deg))


def fit_phaser(book: EngineBook, key: str, log: DriveLog) -> PhaserResponseFit:
    """Fit one phaser's columns of a log. Raises CaptureError when the log has no such columns."""
    sweep = _sweep(book, key, log)
    steps = np.abs(np.diff(sweep.command_deg)) > STEP_DEG
    if not steps.any() or sweep.swing_deg < 2 * STEP_DEG:
        words = "No step command was given: nothing can be said of its response."
        return _told(sweep, PhaserState.NOT_TOLD, words, None)
    moved = float(np.ptp(np.percentile(sweep.actual_deg, [5, 95])))
    if moved < STUCK_SHARE * sweep.swing_deg:
        at = float(np.median(sweep.actual_deg))
        words = (
            f"Commanded over {sweep.swing_deg:.0f}°, it moved {moved:.1f}°: stuck at {at:.1f}° "
            "from park."
        )
        return _told(sweep, PhaserState.STUCK, words, None)
    found = _response(sweep)
    state, words = judge(sweep.phaser, sweep.expected, found, sweep.park_deg, log.relearned)
    if not log.oil_known and state in (PhaserState.SOUND, PhaserState.SLOW):
        words = (
            f"Out {found.rate_out_deg_s:.0f}°/s, back {found.rate_back_deg_s:.0f}°/s; whether that "
            "is slow depends on the oil, which was not logged."
        )
        return _told(sweep, PhaserState.NOT_TOLD, words, found)
    return _told(sweep, state, words, found)


def _sweep(book: EngineBook, key: str, log: DriveLog) -> _Sweep:
    if key not in log.command_deg or key not in log.actual_deg:
        raise CaptureError(
            "The log does not hold this phaser.",
            read=", ".join(log.command_deg) or "no phaser",
            expected=key,
        )
    phaser, command, actual = book.phasers[key], log.command_deg[key], log.actual_deg[key]
    oil_c, oil_kpa = float(np.median(log.oil_c)), float(np.median(log.oil_kpa))
    parked = _settled(log.times_s, command, low=True)
    return _Sweep(
        key=key,
        phaser=phaser,
        times_s=log.times_s,
        command_deg=command,
        actual_deg=actual,
        oil_c=oil_c,
        oil_kpa=oil_kpa,
        expected=expected_response(phaser, oil_c, oil_kpa),
        park_deg=float(np.median(actual[parked])) if parked.sum() >= 5 else None,
    )


def _response(sweep: _Sweep) -> Response:
    """Fit the model, then read hunting and drift from the stretches where it had arrived."""
    t, command, actual = sweep.times_s, sweep.command_deg, sweep.actual_deg
    dead, out, back, error, rest = _fit(t, command, actual, sweep.expected, sweep.park_deg or 0.0)
    targets = _targets(command_steps(t, command), error, rest)
    held = _settled(t, command, low=False, more_s=dead + sweep.swing_deg / out)
    is_long = held.sum() >= 20
    hunting, hz = _hunting(t, held, actual) if is_long else (None, None)
    return Response(
        dead_time_s=dead,
        rate_out_deg_s=out,
        rate_back_deg_s=back,
        steady_error_deg=error,
        hunting_deg=hunting,
        hunting_hz=hz,
        drift_deg_s=_drift(t, held, actual) if is_long else None,
        curve_deg=follow(t, targets, dead, out, back, rest),
    )


def _told(
    sweep: _Sweep, state: PhaserState, words: str, found: Response | None
) -> PhaserResponseFit:
    curve = found.curve_deg if found else None
    rmse = float(np.sqrt(np.mean((sweep.actual_deg - curve) ** 2))) if curve is not None else 0.0
    return PhaserResponseFit(
        phaser=sweep.key,
        name=sweep.phaser.name,
        state=state,
        state_words=state.words,
        words=words,
        dead_time_s=found.dead_time_s if found else None,
        rate_out_deg_s=found.rate_out_deg_s if found else None,
        rate_back_deg_s=found.rate_back_deg_s if found else None,
        steady_error_deg=found.steady_error_deg if found else None,
        hunting_deg=found.hunting_deg if found else None,
        hunting_hz=found.hunting_hz if found else None,
        park_deg=sweep.park_deg,
        drift_deg_s=found.drift_deg_s if found else None,
        rmse_deg=rmse,
        oil_c=sweep.oil_c,
        oil_kpa=sweep.oil_kpa,
        expected=sweep.expected,
        times_s=_rounded(sweep.times_s, 3),
        command_deg=_rounded(sweep.command_deg, 2),
        actual_deg=_rounded(sweep.actual_deg, 2),
        fit_deg=_rounded(curve, 2) if curve is not None else (),
    )


def _rounded(values: Floats, digits: int) -> tuple[float, ...]:
    return tuple(round(float(v), digits) for v in values)


def _settled(t: Floats, command: Floats, low: bool, more_s: float = 0.0) -> NDArray[np.bool_]:
    """Rows at which the command has stood still for a while, at park or away from it."""
    changed = np.concatenate([[0], np.flatnonzero(np.abs(np.diff(command)) > 0.5) + 1])
    last = changed[np.searchsorted(changed, np.arange(len(t)), side="right") - 1]
    still = t - t[last] > SETTLED_S + more_s
    return still & ((command <= STEP_DEG / 2) if low else (command > STEP_DEG / 2))


def _targets(
    steps: Sequence[tuple[float, float]], error: float, rest: float
) -> list[tuple[float, float]]:
    return [(t, deg + error if deg > STEP_DEG / 2 else rest) for t, deg in steps]


def _fit(
    t: Floats, command: Floats, actual: Floats, expected: Expected, rest: float
) -> tuple[float, float, float, float, float]:
    """Dead time, rates, steady error and rest by least squares, from several starts since a slow
    one looks like a late one.
    """
    best: tuple[float, Floats] | None = None
    steps = command_steps(t, command)

    def left(p: Floats) -> Floats:
        curve = follow(
            t,
            _targets(steps, float(p[3]), float(p[4])),
            abs(float(p[0])),
            _rate(p[1]),
            _rate(p[2]),
            float(p[4]),
        )
        return curve - actual

    for dead in (expected.dead_time_s, 2.5 * expected.dead_time_s):
        for share in (1.0, 0.4):
            guess = np.array(
                [dead, expected.rate_out_deg_s * share, expected.rate_back_deg_s * share, 0.0, rest]
            )
            found = least_squares(
                left,
                guess,
                x_scale=np.array([0.1, 20.0, 20.0, 1.0, 1.0]),
                loss="soft_l1",
                max_nfev=60,
            )
            if best is None or found.cost < best[0]:
                best = float(found.cost), np.asarray(found.x, dtype=np.float64)
    assert best is not None
    p = best[1]
    return abs(float(p[0])), _rate(p[1]), _rate(p[2]), float(p[3]), float(p[4])


def _rate(value: float) -> float:
    return max(abs(float(value)), 0.5)


def _stretches(held: NDArray[np.bool_]) -> list[tuple[int, int]]:
    """Begin and end of every stretch held for ten rows or more."""
    turns: NDArray[np.int64] = np.flatnonzero(held[1:] != held[:-1])
    edges: list[int] = [0, *(int(i) + 1 for i in turns), len(held)]
    return [(a, b) for a, b in itertools.pairwise(edges) if held[a] and b - a >= 10]


def _slope(t: Floats, values: Floats) -> float:
    """Least-squares slope."""
    x = t - t.mean()
    return float(x @ (values - values.mean()) / (x @ x))


def _hunting(
    times: Floats, held: NDArray[np.bool_], actual: Floats
) -> tuple[float | None, float | None]:
    """Half the swing about the held angle and its frequency, by a scan of sines over the stretches,
    each freed of its slope.
    """
    pieces = [(times[a:b], actual[a:b]) for a, b in _stretches(held)]
    if not pieces:
        return None, None
    t: Floats = np.concatenate([p for p, _ in pieces])
    left: Floats = np.concatenate([v - v.mean() - _slope(p, v) * (p - p.mean()) for p, v in pieces])
    amplitude = float(np.percentile(left, 95) - np.percentile(left, 5)) / 2
    rate = 1.0 / float(np.median(np.diff(t)))
    best, frequency = 0.0, None
    for hz in np.arange(0.2, 0.45 * rate, 0.02).tolist():
        phase: Floats = 2 * np.pi * float(hz) * t
        design = np.column_stack([np.sin(phase), np.cos(phase)])
        answer, *_ = np.linalg.lstsq(design, left, rcond=None)
        power = float(np.hypot(answer[0], answer[1]))
        if power > best:
            best, frequency = power, float(hz)
    return max(amplitude, best), frequency if best > 0.4 * max(
        amplitude, 1e-9
    ) and best > 0.2 else None


def _drift(t: Floats, held: NDArray[np.bool_], actual: Floats) -> float | None:
    """Creep away from a held command, degrees per second: median slope over all stretches held for
    long enough.
    """
    slopes = [_slope(t[a:b], actual[a:b]) for a, b in _stretches(held)]
    return float(np.median(slopes)) if slopes else None

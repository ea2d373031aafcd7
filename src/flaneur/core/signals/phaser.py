"""A phaser's answer to step commands: fitted, compared with the book at that oil temperature and
pressure, and judged.

Model: after a dead time the phaser runs at a constant rate (out, or back) towards its command plus
a steady error, and arrives there with a short lag. What is left once it has arrived is hunting.
"""

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares

from flaneur.core.book.schema import EngineBook, Phaser
from flaneur.core.errors import CaptureError
from flaneur.core.signals.drivelog import DriveLog

Floats = NDArray[np.float64]
State = Literal[
    "sound",
    "slow",
    "stuck",
    "drifting",
    "hunting",
    "not parking",
    "off its command",
    "off its base",
    "not told",
]
STEP_DEG = 3.0
STUCK_SHARE = 0.15
SETTLED_S = 1.2
LAG_S = 0.08


@dataclass(frozen=True)
class Expected:
    """What the book expects at a temperature and pressure: dead time (s), rates (crank degrees per
    second).
    """

    dead_time_s: float
    rate_out_deg_s: float
    rate_back_deg_s: float


def expected_response(phaser: Phaser, oil_c: float, oil_kpa: float) -> Expected:
    """Rates go with (p/p_ref)**exponent and fall by ``cold_factor`` per 10 K of colder oil; dead
    time grows likewise.
    """
    r = phaser.response
    thick = r.cold_factor ** max(0.0, (r.oil_c - oil_c) / 10.0)
    gain = (max(oil_kpa, 1.0) / r.oil_kpa) ** r.pressure_exponent * thick
    return Expected(
        r.dead_time_s / max(thick, 1e-3), r.rate_out_deg_s * gain, r.rate_back_deg_s * gain
    )


def follow(
    times_s: Floats,
    targets: Sequence[tuple[float, float]],
    dead_s: float,
    out: float,
    back: float,
    start: float,
    lag_s: float = LAG_S,
) -> Floats:
    """Angle of a phaser sent to ``targets`` (time, degrees), each heard after the dead time.

    Solution of x′ = clip((target − x)/lag, −back, out), stretch by stretch: a straight run, then an
    exponential arrival.
    """
    angle = np.full(len(times_s), float(start))
    at = float(start)
    for k, (begin, target) in enumerate(targets):
        t0 = begin + dead_s
        t1 = targets[k + 1][0] + dead_s if k + 1 < len(targets) else np.inf
        inside = (times_s >= t0) & (times_s < t1)
        rate = out if target > at else back
        gap, sign = abs(target - at), 1.0 if target > at else -1.0
        run = max(0.0, gap - rate * lag_s) / rate
        left = min(gap, rate * lag_s)

        def reached(
            u: Floats,
            at: float = at,
            run: float = run,
            sign: float = sign,
            rate: float = rate,
            left: float = left,
            target: float = target,
        ) -> Floats:
            arriving = target - sign * left * np.exp(-np.maximum(u - run, 0.0) / lag_s)
            return np.where(u < run, at + sign * rate * u, arriving)

        angle[inside] = reached(times_s[inside] - t0)
        if np.isfinite(t1):
            at = float(reached(np.array([t1 - t0]))[0])
    return angle


def command_steps(times_s: Floats, command: Floats) -> list[tuple[float, float]]:
    """When the command changed and to what. A change shows first at the row after it: on average
    half a row late.
    """
    changed = np.flatnonzero(np.abs(np.diff(command)) > 0.5) + 1
    half = 0.5 * float(np.median(np.diff(times_s)))
    return [(float(times_s[i]) - half, float(command[i])) for i in changed]


@dataclass(frozen=True)
class PhaserResponseFit:
    """What a sweep says of one phaser; crank degrees away from park, seconds. None where the sweep
    does not show it.
    """

    phaser: str
    name: str
    state: State
    words: str
    dead_time_s: float | None
    rate_out_deg_s: float | None
    rate_back_deg_s: float | None
    steady_error_deg: float | None
    hunting_deg: float | None
    hunting_hz: float | None
    park_deg: float | None
    drift_deg_s: float | None
    rmse_deg: float
    oil_c: float
    oil_kpa: float
    expected: Expected
    times_s: tuple[float, ...]
    command_deg: tuple[float, ...]
    actual_deg: tuple[float, ...]
    fit_deg: tuple[float, ...]


def fit_phaser(book: EngineBook, key: str, log: DriveLog) -> PhaserResponseFit:
    """Fit one phaser's columns of a log. Raises CaptureError when the log has no such columns."""
    if key not in log.command_deg or key not in log.actual_deg:
        raise CaptureError(
            "The log does not hold this phaser.",
            read=", ".join(log.command_deg) or "no phaser",
            expected=key,
        )
    phaser = book.phasers[key]
    t, command, actual = log.times_s, log.command_deg[key], log.actual_deg[key]
    oil_c, oil_kpa = float(np.median(log.oil_c)), float(np.median(log.oil_kpa))
    expected = expected_response(phaser, oil_c, oil_kpa)
    steps = np.flatnonzero(np.abs(np.diff(command)) > STEP_DEG)
    swing = float(np.ptp(command))
    parked = _settled(t, command, low=True)
    park = float(np.median(actual[parked])) if parked.sum() >= 5 else None

    def result(state: State, words: str, **found: float | None) -> PhaserResponseFit:
        curve = found.pop("curve", None)
        fit = np.full(len(t), np.nan) if curve is None else np.asarray(curve)
        left = actual - fit
        rmse = float(np.sqrt(np.nanmean(left**2))) if np.isfinite(left).any() else 0.0
        blank = dict.fromkeys(
            (
                "dead_time_s",
                "rate_out_deg_s",
                "rate_back_deg_s",
                "steady_error_deg",
                "hunting_deg",
                "hunting_hz",
                "drift_deg_s",
            )
        )
        return PhaserResponseFit(
            phaser=key,
            name=phaser.name,
            state=state,
            words=words,
            park_deg=park,
            rmse_deg=rmse,
            oil_c=oil_c,
            oil_kpa=oil_kpa,
            expected=expected,
            times_s=tuple(round(float(v), 3) for v in t),
            command_deg=tuple(round(float(v), 2) for v in command),
            actual_deg=tuple(round(float(v), 2) for v in actual),
            fit_deg=tuple(round(float(v), 2) for v in fit) if curve is not None else (),
            **{**blank, **found},
        )

    if len(steps) == 0 or swing < 2 * STEP_DEG:
        return result("not told", "No step command was given: nothing can be said of its response.")
    moved = float(np.percentile(actual, 95) - np.percentile(actual, 5))
    if moved < STUCK_SHARE * swing:
        return result(
            "stuck",
            f"Commanded over {swing:.0f}°, it moved {moved:.1f}°: stuck at "
            f"{float(np.median(actual)):.1f}° from park.",
        )
    rates = _fit(t, command, actual, expected, park or 0.0)
    dead, out, back, error, rest = rates
    curve = follow(t, _targets(command_steps(t, command), error, rest), dead, out, back, rest)
    held = _settled(t, command, low=False, more_s=dead + swing / out)
    hunting, hz = _hunting(t, held, actual) if held.sum() >= 20 else (None, None)
    drift = _drift(t, held, actual) if held.sum() >= 20 else None
    found = {
        "dead_time_s": rates[0],
        "rate_out_deg_s": rates[1],
        "rate_back_deg_s": rates[2],
        "steady_error_deg": rates[3],
        "hunting_deg": hunting,
        "hunting_hz": hz,
        "drift_deg_s": drift,
        "curve": curve,
    }
    state, words = _judge(phaser, expected, found, park, log.relearned)
    if not log.oil_known and state in ("sound", "slow"):
        state = "not told"
        words = (
            f"Out {rates[1]:.0f}°/s, back {rates[2]:.0f}°/s; whether that is slow depends on "
            "the oil, which was not logged."
        )
    return result(state, words, **found)  # type: ignore[arg-type]


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


def _judge(
    phaser: Phaser,
    expected: Expected,
    found: Mapping[str, object],
    park: float | None,
    relearned: bool | None,
) -> tuple[State, str]:
    """The first thing that speaks against it, gravest first, with the figures."""
    r = phaser.response
    value = {k: float(v) for k, v in found.items() if isinstance(v, float | int)}
    out, back = (
        value["rate_out_deg_s"] / expected.rate_out_deg_s,
        value["rate_back_deg_s"] / expected.rate_back_deg_s,
    )
    figures = (
        f"dead time {value['dead_time_s'] * 1000:.0f} ms (book {expected.dead_time_s * 1000:.0f}), "
        f"out {value['rate_out_deg_s']:.0f}°/s "
        f"(book {expected.rate_out_deg_s:.0f}), back {value['rate_back_deg_s']:.0f}°/s (book "
        f"{expected.rate_back_deg_s:.0f})"
    )
    unsure = (
        " The base was relearned, so park is only as the control unit states it."
        if relearned
        else ""
    )
    off = value["steady_error_deg"]
    far = max(1.5, 3 * phaser.park_tolerance_deg)
    is_shifted = park is not None and abs(park) > far and abs(off - park) < 0.35 * abs(park)
    if park is not None and abs(park) > far and not is_shifted:
        return (
            "not parking",
            f"Rests {park:+.1f}° from park when not commanded: lock pin or return spring; "
            f"{figures}.{unsure}",
        )
    if value.get("hunting_deg", 0.0) > 2 * r.hunting_deg:
        hz = f" at {value['hunting_hz']:.1f} Hz" if "hunting_hz" in value else ""
        return (
            "hunting",
            f"Swings ±{value['hunting_deg']:.1f}° about its command{hz}; the book allows "
            f"±{r.hunting_deg:g}°; {figures}.",
        )
    if "drift_deg_s" in value and abs(value["drift_deg_s"]) > 0.6:
        return (
            "drifting",
            f"Creeps {value['drift_deg_s']:+.1f}°/s away from a held command: it leaks inside; "
            f"{figures}.",
        )
    low = 1 - r.rate_tolerance
    if min(out, back) < low:
        return (
            "slow",
            f"Slower than the book at this oil: {figures}. Look at screens, solenoid and oil "
            "before the phaser.",
        )
    if value["dead_time_s"] > expected.dead_time_s * 2 + 0.15:
        return "slow", f"Answers late: {figures}. Look at solenoid and oil supply first."
    if is_shifted:
        shift = f"All its angles stand {park:+.1f}° off, parked and commanded alike"
        return (
            "off its base",
            f"{shift}: the drive is off by as much or the base was not learned; the phaser itself "
            f"follows; {figures}.",
        )
    if abs(off) > 2 * phaser.steady_error_deg:
        return (
            "off its command",
            f"Stands {off:+.1f}° from its command, the book allows {phaser.steady_error_deg:g}°; "
            f"{figures}.",
        )
    return "sound", f"Sound: {figures}; steady within {abs(off):.1f}°.{unsure}"

"""Cam-crank correlation: by how many crank degrees each cam's edges come later than the book says."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook, VaneWheel
from flaneur.core.errors import CaptureError
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.crank import CrankAngle, decode_crank
from flaneur.core.signals.edges import Edges, find_edges

Floats = NDArray[np.float64]
SEARCH_DEG = 110.0
MATCH_DEG = 2.5


@dataclass(frozen=True)
class CamCorrelation:
    """One cam's reading: mean deviation, its standard error and the cycle scatter, crank degrees, late positive."""

    cam: str
    deviation_deg: float
    stderr_deg: float
    scatter_deg: float
    cycles: int
    per_cycle_deg: tuple[float, ...]


@dataclass(frozen=True)
class Correlation:
    """All cams of a capture, in book order, with the engine speed and what is wrong with the capture, in words."""

    engine: str
    cams: tuple[CamCorrelation, ...]
    quality: tuple[str, ...]
    rpm: float
    cycle_offset_deg: float
    crank: CrankAngle


@dataclass(frozen=True)
class _Match:
    score: float
    deviation: float


def correlate(capture: Capture, book: EngineBook) -> Correlation:
    """Decode a capture against a book. Raises CaptureError when it cannot be read as this engine."""
    wheel = book.crank_wheel
    cams = {w.channel: w for w in book.tone_wheels.values() if isinstance(w, VaneWheel)}
    missing = [c for c in (wheel.channel, *cams) if c not in capture.channels]
    if missing:
        raise CaptureError(
            f"The capture has no channel {', '.join(missing)}.",
            read=f"channels {', '.join(capture.channels)}",
            expected=f"channels {', '.join((wheel.channel, *cams))}",
            advice="Name the columns after the book's channels, or choose the book that fits.",
        )
    quality = list(capture.notes)
    found = {
        name: find_edges(capture.channels[name], capture.rate_hz, name, rising_only=name == wheel.channel)
        for name in (wheel.channel, *cams)
    }
    for name, edges in found.items():
        quality += _signal_words(name, edges)
    crank_edges = found[wheel.channel]
    crank = decode_crank(crank_edges.times_s, wheel)
    if crank.bad_turns:
        quality.append(f"{crank.bad_turns} of {crank.turns} crank turns have dropped or extra teeth and are left out.")
    theta = {name: crank.at(found[name].times_s) for name in cams}
    offset = _cycle_offset(theta, found, cams)
    _check_patterns(theta, found, cams, offset, book)
    readings: list[CamCorrelation] = []
    for name, cam in cams.items():
        match = _best_match(theta[name] - offset, found[name].rising, cam)
        readings.append(_read_cam(cam, theta[name] - offset, found[name].rising, match.deviation))
        if readings[-1].scatter_deg > 3 * book.limits.cycle_scatter_deg:
            quality.append(f"{name}: cycle scatter {readings[-1].scatter_deg:.2f}° is large; the reading is unsteady.")
    order = {cam: i for i, cam in enumerate(book.cams)}
    readings.sort(key=lambda r: order[r.cam])
    return Correlation(book.name, tuple(readings), tuple(quality), crank.rpm, offset, crank)


def _signal_words(name: str, edges: Edges) -> list[str]:
    words: list[str] = []
    if edges.noise_v > 0 and edges.swing_v / edges.noise_v < 12:
        words.append(f"{name}: noisy, swing only {edges.swing_v / edges.noise_v:.0f} times the noise.")
    if edges.chatter:
        words.append(f"{name}: {edges.chatter} false crossings by noise were merged.")
    return words


def _flat(wheel: VaneWheel) -> tuple[Floats, NDArray[np.bool_]]:
    edges = np.array([e for vane in wheel.vanes_deg for e in vane])
    return edges, np.arange(edges.size) % 2 == 0


def _wrap(angle: Floats | float) -> Floats:
    return np.asarray((np.asarray(angle) + 360.0) % 720.0 - 360.0)


def _best_match(theta: Floats, rising: NDArray[np.bool_], wheel: VaneWheel) -> _Match:
    """Deviation within ±SEARCH_DEG at which most observed edges meet book edges of the same direction.

    Score: share of observed edges that meet one, less the share of book edges that none meets.
    """
    keep = np.isfinite(theta)
    theta, rising = theta[keep], rising[keep]
    if len(theta) == 0:
        return _Match(-1.0, 0.0)
    book, direction = _flat(wheel)
    # Whole cycles from begin, middle and end: a regular stride could meet the same few edges of every cycle.
    run = min(len(theta), 2 * book.size)
    pick = np.unique(np.concatenate([s + np.arange(run) for s in (0, (len(theta) - run) // 2, len(theta) - run)]))
    sample, up = theta[pick] % 720.0, rising[pick]
    difference = _wrap(sample[:, None] - book[None, :])
    same = up[:, None] == direction[None, :]
    candidates = difference[same & (np.abs(difference) < SEARCH_DEG)]
    if candidates.size == 0:
        return _Match(-1.0, 0.0)
    candidates = np.unique(np.round(candidates, 1))
    best = _Match(-1.0, 0.0)
    for candidate in candidates:
        near = same & (np.abs(_wrap(difference - candidate)) < MATCH_DEG)
        score = float(near.any(axis=1).mean() - (~near.any(axis=0)).mean())
        if score > best.score + 1e-9 or (score > best.score - 1e-9 and abs(candidate) < abs(best.deviation) - 1):
            best = _Match(score, float(np.median(_wrap(difference - candidate)[near]) + candidate))
    return best


def _cycle_offset(theta: dict[str, Floats], found: dict[str, Edges], cams: dict[str, VaneWheel]) -> float:
    """0 or 360: which of the two crank turns the first one is, by which all cam patterns fit best."""
    scores = [sum(_best_match(theta[n] - offset, found[n].rising, wheel).score for n, wheel in cams.items()) for offset in (0.0, 360.0)]
    return 0.0 if scores[0] >= scores[1] else 360.0


def _check_patterns(theta: dict[str, Floats], found: dict[str, Edges], cams: dict[str, VaneWheel], offset: float, book: EngineBook) -> None:
    """Raise CaptureError naming swapped channels or another engine when cam patterns do not fit."""
    poor = [n for n, w in cams.items() if _best_match(theta[n] - offset, found[n].rising, w).score < 0.7]
    if not poor:
        return
    advice = "Check sensor, lead and engine book."
    for name in poor:
        for other, wheel in cams.items():
            if other != name and _best_match(theta[name] - offset, found[name].rising, wheel).score > 0.9:
                back = _best_match(theta[other] - offset, found[other].rising, cams[name]).score > 0.9
                if back:
                    first, second = sorted((name, other))
                    advice = f"{first} and {second} look swapped: exchange their leads or column names."
    what = "This looks like a capture of another engine." if len(poor) == len(cams) else "A cam pattern does not fit."
    raise CaptureError(
        what,
        read=f"edges on {', '.join(poor)} that do not follow their tone wheels",
        expected=f"the patterns of {book.name}",
        advice=advice,
    )


def _read_cam(wheel: VaneWheel, theta: Floats, rising: NDArray[np.bool_], deviation: float) -> CamCorrelation:
    """Mean over edges per cycle, Huber mean over cycles."""
    book, direction = _flat(wheel)
    keep = np.isfinite(theta)
    theta, rising = theta[keep], rising[keep]
    difference = _wrap(theta[:, None] % 720.0 - book[None, :] - deviation)
    difference[rising[:, None] != direction[None, :]] = 999.0
    nearest = np.argmin(np.abs(difference), axis=1)
    residual = difference[np.arange(len(theta)), nearest]
    ok = np.abs(residual) < MATCH_DEG + 1.5
    cycle = np.round((theta - deviation - book[nearest]) / 720.0).astype(int)[ok]
    edge, residual = nearest[ok], residual[ok]
    if len(cycle) == 0:
        raise CaptureError(f"No edge of {wheel.channel} could be matched.", expected="at least one whole cycle")
    cycle -= cycle.min()
    table = np.full((cycle.max() + 1, book.size), np.nan)
    table[cycle, edge] = residual
    whole = np.isfinite(table).all(axis=1)
    if not whole.any():
        raise CaptureError(
            f"Not one whole engine cycle of {wheel.channel} is in the capture.",
            read=f"{len(cycle)} cam edges",
            expected=f"{book.size} edges in one cycle",
            advice="Record longer.",
        )
    per_cycle = table[whole].mean(axis=1) + deviation
    mean, stderr, scatter = huber_mean(per_cycle)
    return CamCorrelation(wheel.shaft, mean, stderr, scatter, int(whole.sum()), tuple(float(v) for v in per_cycle))


def huber_mean(values: Floats, tuning: float = 1.5) -> tuple[float, float, float]:
    """Huber's M-estimate of location with its standard error and the robust scatter (MAD · 1.4826).

    At Gaussian data the estimate keeps 96 % of the mean's efficiency (Huber 1981, tuning 1.5). One value
    gives a standard error of 0.5°, since nothing is known of its spread.
    """
    centre = float(np.median(values))
    if len(values) < 2:
        return centre, 0.5, 0.0
    scatter = 1.4826 * float(np.median(np.abs(values - centre)))
    if scatter <= 1e-12:
        spread = float(values.std(ddof=1))
        return float(values.mean()), spread / np.sqrt(len(values)), spread
    for _ in range(30):
        weight = np.minimum(1.0, tuning * scatter / np.maximum(np.abs(values - centre), 1e-12))
        moved = float(np.sum(weight * values) / np.sum(weight))
        if abs(moved - centre) < 1e-10:
            break
        centre = moved
    clipped = np.clip(values - centre, -tuning * scatter, tuning * scatter)
    inside = float(np.mean(np.abs(values - centre) <= tuning * scatter))
    stderr = float(np.sqrt(np.sum(clipped**2) / (len(values) - 1) / len(values)) / max(inside, 0.2))
    return centre, stderr, scatter

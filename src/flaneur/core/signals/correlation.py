"""Cam-crank correlation: by how many crank degrees each cam's edges come later than the book
says.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook, VaneWheel
from flaneur.core.book.wheels import crank_events_deg
from flaneur.core.errors import CaptureError
from flaneur.core.signals.camreading import CamCorrelation, read_cam_table
from flaneur.core.signals.camwheel import FITS, Match, best_match, cam_table, wheel_events
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.crank import CrankAngle, decode_crank, hall_polarity
from flaneur.core.signals.edges import Edges, coarse_edges
from flaneur.core.signals.notes import Note, NoteCode
from flaneur.core.signals.quality import (
    bent_words,
    cam_words,
    channel_words,
    crank_words,
    sensor_name,
    tooth_words,
)
from flaneur.core.signals.reluctor import CoarseCrossings, coarse_crossings
from flaneur.core.signals.rest import Rest, came_to_rest
from flaneur.core.signals.sampling import too_slow
from flaneur.core.signals.tooth_errors import ToothErrors, tooth_errors, without_errors

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Correlation:
    """All cams of a capture, in book order, with the engine speed and what is wrong with the
    capture, in words.

    ``notes`` says what was found and allowed for (an inverted sensor, a tooth pattern taken out).
    ``cam_events`` holds each cam channel's event times, seconds; ``rest`` is where the engine stood
    when it stopped turning before the capture's end.
    """

    engine: str
    cams: tuple[CamCorrelation, ...]
    quality: tuple[str, ...]
    rpm: float
    cycle_offset_deg: float
    crank: CrankAngle
    notes: tuple[str, ...] = ()
    fingerprint: ToothErrors | None = None
    cam_events: dict[str, Floats] | None = None
    rest: Rest | None = None


def correlate(
    capture: Capture, book: EngineBook, left_out: Sequence[tuple[float, float]] = ()
) -> Correlation:
    """Decode a capture against a book, without the stretches ``left_out`` (seconds). CaptureError
    when it is not this engine's, or was not taken often enough.
    """
    try:
        return _correlate(capture, book, left_out)
    except CaptureError as error:
        slow = too_slow(capture, book)
        if slow is None:
            raise
        raise slow from error


def _correlate(
    capture: Capture, book: EngineBook, left_out: Sequence[tuple[float, float]]
) -> Correlation:
    wheel, cams = book.crank_wheel, book.cam_wheels
    missing = [c for c in (wheel.channel, *cams) if c not in capture.channels]
    if missing:
        raise CaptureError(
            f"The capture has no channel {', '.join(missing)}.",
            read=f"channels {', '.join(capture.channels)}",
            expected=f"channels {', '.join((wheel.channel, *cams))}",
            advice="Say which column is which sensor, or choose the book that fits.",
        )
    crank_edges, crank, crank_inverted = read_crank(capture, book)
    quality = [*capture.notes]
    notes: list[str] = []
    if crank_inverted:
        notes.append(_inverted(sensor_name(book, wheel.channel)))
    quality += channel_words(
        sensor_name(book, wheel.channel), capture.channels[wheel.channel], crank_edges, wheel.sensor
    )
    quality += crank_words(crank, capture)
    fingerprint = tooth_errors(crank, np.array(crank_events_deg(wheel)))
    if fingerprint is not None and fingerprint.is_clear:
        crank = without_errors(crank, fingerprint)
        notes.append(tooth_words(fingerprint))
        quality += bent_words(fingerprint)
    found = {name: read_cam(capture, name, cam, crank) for name, cam in cams.items()}
    for name, (edges, _) in found.items():
        quality += channel_words(
            sensor_name(book, name), capture.channels[name], edges, cams[name].sensor
        )
    theta, words = _theta_of(crank, found, cams)
    quality += words
    theta = {
        name: _left_out(theta[name], edges.times_s, left_out) for name, (edges, _) in found.items()
    }
    matches, offset = _matches(theta, found, cams, book)
    readings: list[CamCorrelation] = []
    for name, cam in cams.items():
        edges, directions = found[name]
        table = cam_table(
            cam,
            edges,
            theta[name] - offset,
            _all_up(cam, directions),
            matches[name],
            crank.speed_deg_s(edges.times_s),
        )
        reading = read_cam_table(book, cam, table, matches[name], crank, crank_edges)
        if matches[name].inverted or (cam.sensor == "vr" and directions.size and not directions[0]):
            notes.append(_inverted(sensor_name(book, name)))
        quality += cam_words(
            book.shafts[cam.shaft].name,
            table,
            reading.scatter_deg,
            reading.moved,
            [e.expected_deg for e in reading.edges if e.is_off],
            crank,
            book,
            left_out,
        )
        readings.append(reading)
    order = {cam: i for i, cam in enumerate(book.cams)}
    readings.sort(key=lambda r: order[r.cam])
    events = {name: edges.times_s for name, (edges, _) in found.items()}
    return Correlation(
        book.name,
        tuple(readings),
        tuple(quality),
        crank.rpm,
        offset,
        crank,
        tuple(notes),
        fingerprint,
        events,
        came_to_rest(crank, wheel, offset, capture.seconds),
    )


def read_crank(capture: Capture, book: EngineBook) -> tuple[Edges, CrankAngle, bool]:
    """Crank events, their angles, and whether the sensor is inverted. Raises CaptureError."""
    wheel = book.crank_wheel
    x = capture.channels[wheel.channel]
    if wheel.sensor == "hall":
        coarse = coarse_edges(x, capture.rate_hz, wheel.channel)
        inverted = hall_polarity(coarse.at, coarse.rising, wheel)
        edges = coarse.refined(capture.rate_hz, coarse.rising ^ inverted)
        return edges, decode_crank(edges.times_s, wheel), inverted
    crossings = coarse_crossings(x, capture.rate_hz, wheel.channel)
    order = {"down": ("down",), "up": ("up",), None: ("down", "up")}[crossings.compact]
    trouble: CaptureError | None = None
    for direction in order:
        try:
            rough = decode_crank(crossings.events(direction) / capture.rate_hz, wheel)
        except CaptureError as error:
            trouble = trouble or error
            continue
        speed = rough.speed_deg_s(crossings.events(direction) / capture.rate_hz)
        edges = crossings.refined(direction, capture.rate_hz, speed)
        return edges, decode_crank(edges.times_s, wheel), direction == "up"
    assert trouble is not None
    raise trouble


def read_cam(
    capture: Capture, name: str, wheel: VaneWheel, crank: CrankAngle
) -> tuple[Edges, NDArray[np.bool_]]:
    """Events of a cam channel with their directions; for a reluctor all rise, or none does when it
    is wired the other way round.
    """
    if wheel.sensor == "hall":
        fastest = float(np.percentile(crank.speed_deg_s(crank.times_s), 99.5))
        shortest_s = _shortest_deg(wheel) / fastest
        coarse = coarse_edges(capture.channels[name], capture.rate_hz, name, shortest_s)
        edges = coarse.refined(capture.rate_hz)
        return edges, edges.rising
    crossings: CoarseCrossings = coarse_crossings(capture.channels[name], capture.rate_hz, name)
    direction = crossings.compact or "down"
    rough = crossings.events(direction) / capture.rate_hz
    edges = crossings.refined(direction, capture.rate_hz, crank.speed_deg_s(rough))
    return edges, np.full(len(edges.times_s), direction == "down")


def _shortest_deg(wheel: VaneWheel) -> float:
    """The least crank angle from one edge of a cam wheel to the next."""
    book, _ = wheel_events(wheel)
    return float(np.min(np.diff(np.append(book, book[0] + 720.0))))


Found = dict[str, tuple[Edges, NDArray[np.bool_]]]


def _theta_of(
    crank: CrankAngle, found: Found, cams: dict[str, VaneWheel]
) -> tuple[dict[str, Floats], list[str]]:
    """Crank angle of every cam event; after a break the cams themselves say which of the two turns
    it is.
    """
    theta = {name: crank.at(edges.times_s) for name, (edges, _) in found.items()}
    numbers = [int(n) for n in np.unique(crank.segment) if n >= 0]
    if len(numbers) < 2:
        return theta, []
    words: list[str] = [
        Note(
            NoteCode.BREAKS,
            f"The crank signal breaks off {len(numbers) - 1} times; the stretches are put together "
            "by the cams.",
        )
    ]
    where = {n: crank.times_s[crank.segment == n][[0, -1]] for n in numbers}
    inside = {
        n: {
            name: (edges.times_s >= where[n][0]) & (edges.times_s <= where[n][1])
            for name, (edges, _) in found.items()
        }
        for n in numbers
    }

    def score(n: int, offset: float) -> float:
        total = 0.0
        for name, wheel in cams.items():
            pick = inside[n][name]
            total += best_match(
                theta[name][pick] - offset, _all_up(wheel, found[name][1][pick]), wheel
            ).score
        return total / len(cams)

    longest = max(numbers, key=lambda n: float(where[n][1] - where[n][0]))
    first = 0.0 if score(longest, 0.0) >= score(longest, 360.0) else 360.0
    lost = 0
    for n in numbers:
        same, other = score(n, first), score(n, first + 360.0)
        if other > same + 0.3:
            for name in theta:
                theta[name] = np.where(inside[n][name], theta[name] - 360.0, theta[name])
        elif same < other + 0.3:
            lost += 1
            for name in theta:
                theta[name] = np.where(inside[n][name], np.nan, theta[name])
    if lost:
        words.append(
            Note(
                NoteCode.BREAKS,
                f"{lost} stretches are too short to tell which turn of the cycle they are, and are "
                "left out.",
            )
        )
    return theta, words


def _inverted(sensor: str) -> Note:
    return Note(NoteCode.INVERTED, f"{sensor}: wired the other way round; allowed for.")


def _all_up(wheel: VaneWheel, directions: NDArray[np.bool_]) -> NDArray[np.bool_]:
    return np.ones(len(directions), bool) if wheel.sensor == "vr" else directions


def _matches(
    theta: dict[str, Floats], found: Found, cams: dict[str, VaneWheel], book: EngineBook
) -> tuple[dict[str, Match], float]:
    """Best match of every cam and the turn (0 or 360) in which all fit best. CaptureError when one
    does not fit.
    """
    tries = {
        offset: {
            n: best_match(theta[n] - offset, _all_up(w, found[n][1]), w) for n, w in cams.items()
        }
        for offset in (0.0, 360.0)
    }
    offset = max(tries, key=lambda o: (sum(m.score for m in tries[o].values()), -o))
    matches = tries[offset]
    poor = [n for n, m in matches.items() if m.score < FITS]
    if not poor:
        return matches, offset
    for name in poor:
        if matches[name].moves_deg is not None:
            low, high = matches[name].moves_deg or (0.0, 0.0)
            raise CaptureError(
                f"{sensor_name(book, name)} moves during the capture.",
                read=f"{low:+.0f}° to {high:+.0f}°",
                expected="a phaser that stands still",
                advice="Capture with the phaser held, or leave out the stretch in which it moves.",
            )
    advice, proposal = "Check sensor, lead and engine book.", None
    for name in poor:
        for other, wheel in cams.items():
            if other == name:
                continue
            there = (
                best_match(theta[name] - offset, _all_up(wheel, found[name][1]), wheel).score > 0.9
            )
            back = (
                best_match(
                    theta[other] - offset, _all_up(cams[name], found[other][1]), cams[name]
                ).score
                > 0.9
            )
            if there and back:
                first, second = sorted((name, other))
                advice = f"{first} and {second} look swapped: exchange their leads or column names."
                proposal = {c: c for c in (book.crank_wheel.channel, *cams)} | {
                    first: second,
                    second: first,
                }
    raise CaptureError(
        "This looks like a capture of another engine."
        if len(poor) == len(cams)
        else "A cam pattern does not fit.",
        read=f"edges on {', '.join(poor)} that do not follow their tone wheels",
        expected=f"the patterns of {book.name}",
        advice=advice,
        proposal=proposal,
    )


def _left_out(theta: Floats, times_s: Floats, stretches: Sequence[tuple[float, float]]) -> Floats:
    out = np.zeros(len(times_s), bool)
    for begin, end in stretches:
        out |= (times_s >= begin) & (times_s <= end)
    return np.where(out, np.nan, theta)

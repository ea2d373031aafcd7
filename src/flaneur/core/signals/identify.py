"""Which channel is which sensor, and which engine a capture is of, from the patterns alone."""

from collections.abc import Iterable
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import linear_sum_assignment

from flaneur.core.book.schema import EngineBook, VaneWheel
from flaneur.core.book.wheels import crank_events_deg
from flaneur.core.errors import CaptureError
from flaneur.core.signals.camwheel import best_match, wheel_events
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import correlate, read_cam, read_crank
from flaneur.core.signals.notes import Note, NoteCode

Floats = NDArray[np.float64]

SURE = 0.85
SAME_DEG = 1.0  # a step of two wheels that a signal does not tell apart
LEAST_RPM, MOST_RPM = 40.0, 12_000.0  # a crank that is recorded turns so fast
UNITS = {1e-3: "milliseconds", 1e-6: "microseconds", 1e-9: "nanoseconds"}
LOOK_SECONDS = 12.0
MOST_LOOKED_AT = 600_000  # samples that say how fast the crank turns


def renamed(capture: Capture, mapping: dict[str, str]) -> Capture:
    """The capture with its channels named as in the book; channels without a name there are left
    away.

    ``mapping``: capture's channel -> book's channel. Raises CaptureError for one that is not there
    or named twice.
    """
    for name in mapping:
        if name not in capture.channels:
            raise CaptureError(
                "The capture has no such channel.", read=name, expected=", ".join(capture.channels)
            )
    if len(set(mapping.values())) < len(mapping):
        raise CaptureError(
            "One sensor is named for two channels.",
            read=", ".join(mapping.values()),
            expected="each sensor once",
        )
    return replace(capture, channels={book: capture.channels[own] for own, book in mapping.items()})


def in_time(capture: Capture, book: EngineBook) -> Capture:
    """The capture with its time in the unit that lets its crank turn as cranks do, where its time
    column names none; said among its notes. As it is where seconds do, or nothing does.
    """
    x = capture.channels.get(book.crank_wheel.channel) if book.can_be_captured else None
    if not capture.unit_open or x is None:
        return capture
    short = x[: int(MOST_LOOKED_AT)]
    for factor in (1.0, *UNITS):
        tried = replace(capture, rate_hz=capture.rate_hz / factor, unit_open=False)
        try:
            alone = replace(tried, channels={book.crank_wheel.channel: short})
            _, crank, _ = read_crank(alone, book)
        except (CaptureError, ValueError):
            continue
        if LEAST_RPM <= crank.rpm <= MOST_RPM:
            if factor == 1.0:
                return tried
            said = (
                f"The time column names no unit: taken as {UNITS[factor]}, in which the crank "
                f"turns at {crank.rpm:.0f} rpm."
            )
            return replace(tried, notes=(*tried.notes, said))
    return capture


def propose_channels(capture: Capture, book: EngineBook) -> dict[str, str] | None:
    """Channels of the capture for the book's sensors, by pattern; None when they do not fit without
    doubt.
    """
    look = min(capture.samples, int(LOOK_SECONDS * capture.rate_hz))
    short = replace(capture, channels={n: x[:look] for n, x in capture.channels.items()})
    wheel, cams = book.crank_wheel, book.cam_wheels
    for candidate in short.channels:
        try:
            _, crank, _ = read_crank(
                replace(short, channels={wheel.channel: short.channels[candidate]}), book
            )
        except CaptureError:
            continue
        others = [n for n in short.channels if n != candidate]
        best: tuple[float, dict[str, str]] | None = None
        for offset in (0.0, 360.0):
            scores = np.full((len(others), len(cams)), -1.0)
            for i, name in enumerate(others):
                for j, cam in enumerate(cams.values()):
                    try:
                        edges, directions = read_cam(short, name, cam, crank)
                    except CaptureError:
                        continue
                    up = directions if cam.sensor == "hall" else np.ones(len(directions), bool)
                    scores[i, j] = best_match(crank.at(edges.times_s) - offset, up, cam).score
            rows, columns = linear_sum_assignment(-scores)
            if len(columns) == len(cams) and scores[rows, columns].min() >= SURE:
                total = float(scores[rows, columns].sum())
                if best is None or total > best[0]:
                    channels = list(cams)
                    best = (
                        total,
                        {candidate: wheel.channel}
                        | {others[r]: channels[c] for r, c in zip(rows, columns, strict=True)},
                    )
        if best is not None:
            return best[1]
    return None


def fits(capture: Capture, book: EngineBook) -> bool:
    """Whether a capture can be read by a book, under its names or by its patterns; never by one
    without tone wheels.
    """
    if not book.can_be_captured:
        return False
    try:
        correlate(capture, book)
    except CaptureError:
        return propose_channels(capture, book) is not None
    return True


def better_books(capture: Capture, books: Iterable[EngineBook]) -> list[str]:
    """Names of the books a capture can be read by."""
    return [book.name for book in books if fits(capture, book)]


def share_wheels(one: EngineBook, other: EngineBook) -> bool:
    """Whether the tone wheels of two books cannot be told apart by a signal: the same crank wheel,
    and for every cam wheel one of the same pattern, wherever it stands.
    """
    if not (one.can_be_captured and other.can_be_captured):
        return False
    cranks = [np.array(crank_events_deg(b.crank_wheel)) for b in (one, other)]
    if not _alike(cranks[0], cranks[1], 360.0) or len(one.cam_wheels) != len(other.cam_wheels):
        return False
    left = list(other.cam_wheels.values())
    for wheel in one.cam_wheels.values():
        found = next((w for w in left if _alike_vanes(wheel, w)), None)
        if found is None:
            return False
        left.remove(found)
    return True


def _alike_vanes(one: VaneWheel, other: VaneWheel) -> bool:
    if one.sensor != other.sensor:
        return False
    # Rising and falling edges take turns, so a wheel looks like itself from every second one.
    return _alike(wheel_events(one)[0], wheel_events(other)[0], 720.0, 2 - (one.sensor == "vr"))


def _alike(one: Floats, other: Floats, turn: float, every: int = 1) -> bool:
    """Whether two runs of events have the same steps, from whichever of them one begins."""
    if len(one) != len(other):
        return False
    steps, others = (np.diff(np.append(a, a[0] + turn)) for a in (one, other))
    return any(
        float(np.max(np.abs(np.roll(others, k) - steps))) < SAME_DEG
        for k in range(0, len(steps), every)
    )


def shared_words(book: EngineBook, others: Iterable[EngineBook]) -> list[str]:
    """That a capture may as well be of another engine whose wheels are the same."""
    alike = [o.name for o in others if o.name != book.name and share_wheels(book, o)]
    if not alike:
        return []
    names = " and ".join([book.name, *alike])
    return [
        Note(
            NoteCode.SHARED_WHEELS,
            f"{names} share their wheels: the signal cannot tell them apart. Make sure which unit "
            "was recorded.",
        )
    ]

"""Samples of a capture in PostgreSQL: compressed blocks, and a pyramid of lowest and highest values
over them.

Level 0 holds samples, 65,536 a block; level k holds the lowest and highest of every 16**k samples,
8,192 pairs a block. A look at any stretch takes from the level that has a few values for each point
asked, so it reads little whatever the capture's length.
"""

import io
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import pyarrow as pa
from numpy.typing import NDArray
from sqlalchemy import insert
from sqlmodel import Session, col, select

from flaneur.core.errors import CaptureError
from flaneur.core.picture.stretch import Look
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import Correlation
from flaneur.store.keeping import STAYS_FROM, is_let_go, no_samples
from flaneur.store.tables import CaptureBlock, CaptureRow

FACTOR = 16
SAMPLES = 65536
PAIRS = 8192
_CODEC = pa.Codec("zstd", compression_level=1)

Progress = Callable[[float], None]


def _packed(values: NDArray[np.float32]) -> bytes:
    """Bytes of like weight side by side, then zstd: float samples shrink better that way."""
    raw = np.ascontiguousarray(values, dtype="<f4")
    shuffled = raw.view(np.uint8).reshape(-1, 4).T.tobytes()
    return len(raw).to_bytes(4, "little") + _CODEC.compress(shuffled, asbytes=True)


def _unpacked(data: bytes) -> NDArray[np.float32]:
    count = int.from_bytes(data[:4], "little")
    plain = _CODEC.decompress(data[4:], decompressed_size=4 * count, asbytes=True)
    return np.frombuffer(plain, np.uint8).reshape(4, -1).T.copy().view("<f4").ravel()


def _halves(
    low: NDArray[np.float32], high: NDArray[np.float32]
) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    """The next level: lowest and highest of every 16 pairs."""
    starts = np.arange(0, len(low), FACTOR)
    return np.minimum.reduceat(low, starts), np.maximum.reduceat(high, starts)


def write_blocks(
    session: Session, capture_id: int, capture: Capture, progress: Progress = lambda _: None
) -> None:
    """Store all samples and their pyramid. ``progress`` hears the share done and may raise to
    stop.
    """
    total = len(capture.channels)
    for done, (name, x) in enumerate(capture.channels.items()):
        rows: list[dict[str, object]] = []

        def keep(
            level: int,
            number: int,
            values: NDArray[np.float32],
            name: str = name,
            rows: list[dict[str, object]] = rows,
        ) -> None:
            rows.append(
                {
                    "capture_id": capture_id,
                    "channel": name,
                    "level": level,
                    "number": number,
                    "data": _packed(values),
                }
            )

        for number, start in enumerate(range(0, len(x), SAMPLES)):
            keep(0, number, x[start : start + SAMPLES])
            if number % 16 == 15:
                session.execute(insert(CaptureBlock), rows)
                rows.clear()
                progress((done + 0.8 * start / len(x)) / total)
        low = high = x
        level = 0
        while len(low) > FACTOR:
            low, high = _halves(low, high)
            level += 1
            for number, start in enumerate(range(0, len(low), PAIRS)):
                keep(
                    level,
                    number,
                    np.concatenate([low[start : start + PAIRS], high[start : start + PAIRS]]),
                )
        if rows:
            session.execute(insert(CaptureBlock), rows)
        progress((done + 1) / total)


def _fetch(
    session: Session, capture_id: int, channels: list[str], level: int, first: int, last: int
) -> dict[str, list[NDArray[np.float32]]]:
    rows = session.exec(
        select(CaptureBlock.channel, CaptureBlock.data)
        .where(
            CaptureBlock.capture_id == capture_id,
            col(CaptureBlock.channel).in_(channels),
            CaptureBlock.level == level,
            col(CaptureBlock.number).between(first, last),
        )
        .order_by(col(CaptureBlock.number))
    )
    found: dict[str, list[NDArray[np.float32]]] = {name: [] for name in channels}
    for channel, data in rows:
        found[channel].append(_unpacked(data))
    return found


def load_capture(session: Session, row: CaptureRow) -> Capture:
    """All samples of a kept capture. Raises CaptureError when they are no longer kept, and when
    blocks are missing.
    """
    if is_let_go(session, row):
        raise no_samples(row)
    pieces = _fetch(session, row.id or 0, row.channels, 0, 0, row.samples // SAMPLES)
    channels = {
        name: np.concatenate(found) if found else np.zeros(0, np.float32)
        for name, found in pieces.items()
    }
    if any(len(x) != row.samples for x in channels.values()):
        raise CaptureError(
            "The kept capture is not whole.",
            read=f"capture {row.id}",
            expected=f"{row.samples} samples",
            advice="Capture again.",
        )
    return Capture(row.rate_hz, channels, row.source)


def look(session: Session, row: CaptureRow, start: int, stop: int, points: int) -> Look:
    """What shows between two samples on ``points`` columns; single samples once there are fewer
    than that.
    """
    start, stop = max(0, start), min(row.samples, stop)
    if stop - start < 2:
        raise CaptureError(
            "This stretch lies outside the capture.",
            read=f"samples {start} to {stop}",
            expected=f"0 to {row.samples}",
        )
    level = _level(row, stop - start, points)
    if level < STAYS_FROM and is_let_go(session, row):
        level = STAYS_FROM
    piece = _piece(session, row, start, stop, level)
    return _columns(row, start, stop, piece, points)


def _level(row: CaptureRow, span: int, points: int) -> int:
    """The coarsest level of the pyramid that still has ``points`` pairs in ``span`` samples."""
    level = 0
    while span / FACTOR ** (level + 1) >= points and FACTOR ** (level + 1) < row.samples:
        level += 1
    return level


@dataclass(frozen=True, kw_only=True)
class _Piece:
    """Lowest and highest of every ``unit`` samples from sample ``offset`` on, by channel."""

    offset: int
    unit: int
    low: dict[str, NDArray[np.float32]]
    high: dict[str, NDArray[np.float32]]

    @property
    def count(self) -> int:
        return len(next(iter(self.low.values())))


def _piece(session: Session, row: CaptureRow, start: int, stop: int, level: int) -> _Piece:
    """Read the blocks that hold a stretch, and cut it out."""
    unit = FACTOR**level
    per_block = (SAMPLES if level == 0 else PAIRS) * unit
    first, last = start // per_block, (stop - 1) // per_block
    offset = first * per_block
    a, b = (start - offset) // unit, -(-(stop - offset) // unit)
    low: dict[str, NDArray[np.float32]] = {}
    high: dict[str, NDArray[np.float32]] = {}
    for name, pieces in _fetch(session, row.id or 0, row.channels, level, first, last).items():
        if not pieces:
            raise no_samples(row)
        lowest = np.concatenate([p if level == 0 else p[: len(p) // 2] for p in pieces])
        highest = lowest if level == 0 else np.concatenate([p[len(p) // 2 :] for p in pieces])
        low[name], high[name] = lowest[a:b], highest[a:b]
    return _Piece(offset=offset + a * unit, unit=unit, low=low, high=high)


def _columns(row: CaptureRow, start: int, stop: int, piece: _Piece, points: int) -> Look:
    """The stretch on the columns of a screen: as it is where it fits, else gathered."""
    offset, unit, count = piece.offset, piece.unit, piece.count
    if count <= points * 2:
        middle = 0.0 if unit == 1 else 0.5
        times = np.asarray(
            (offset + unit * (np.arange(count) + middle)) / row.rate_hz, dtype=np.float64
        )
        return Look(start, stop, times, piece.low, piece.high, unit == 1)
    edges = np.unique(np.linspace(0, count, points + 1).astype(int)[:-1])
    middles = (np.append(edges[1:], count) + edges) / 2.0
    times = np.asarray((offset + unit * middles) / row.rate_hz, dtype=np.float64)
    low = {n: np.minimum.reduceat(x, edges) for n, x in piece.low.items()}
    high = {n: np.maximum.reduceat(x, edges) for n, x in piece.high.items()}
    return Look(start, stop, times, low, high, False)


def pack_angle(found: Correlation) -> bytes:
    """Crank events with their angles, and every cam channel's events, compressed."""
    good = np.isfinite(found.crank.theta_deg)
    arrays = {
        "times": found.crank.times_s[good],
        "theta": found.crank.theta_deg[good] - found.cycle_offset_deg,
    }
    for name, times in (found.cam_events or {}).items():
        arrays[f"events {name}"] = times
    out = io.BytesIO()
    np.savez_compressed(out, **arrays)  # type: ignore[arg-type]
    return out.getvalue()


def unpack_angle(data: bytes) -> dict[str, NDArray[np.float64]]:
    """``times``, ``theta`` and one ``events <channel>`` per cam channel."""
    with np.load(io.BytesIO(data)) as found:
        return {name: found[name] for name in found.files}

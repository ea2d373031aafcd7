"""A kept capture looked at closely: stretches, edges, what is left out, comparison."""

from dataclasses import dataclass
from typing import Any

import numpy as np

from flaneur.core.errors import CaptureError
from flaneur.core.job.change import Change
from flaneur.core.picture.fold import FoldedTrace, fold
from flaneur.core.picture.stretch import Stretch, stretch_of
from flaneur.core.signals.compare import CamChange, compare_cams
from flaneur.core.signals.correlation import correlate
from flaneur.core.signals.timeline import Timeline
from flaneur.jobs.work import Work
from flaneur.store.blocks import load_capture, look, unpack_angle
from flaneur.store.changes import NotFound
from flaneur.store.readings import capture_by_id, read_again
from flaneur.store.tables import CaptureRow, JournalEntry


def left_out_of(row: CaptureRow) -> list[tuple[float, float]]:
    """Stretches of a capture that do not count, seconds."""
    return [(float(s["start_s"]), float(s["stop_s"])) for s in row.left_out]


def folded(work: Work, capture_id: int) -> tuple[CaptureRow, list[FoldedTrace]]:
    """Traces of a capture folded over one cycle, with the book's edges underneath."""
    row = capture_by_id(work.session, work.job_id, capture_id)
    capture = load_capture(work.session, row)
    return row, list(fold(capture, correlate(capture, work.book, left_out_of(row)), work.book))


def _known(row: CaptureRow) -> dict[str, Any]:
    nothing = {"times": np.zeros(0), "theta": np.zeros(0)}
    return unpack_angle(row.angle) if row.angle else nothing


def stretch(work: Work, capture_id: int, start_s: float, stop_s: float, points: int) -> Stretch:
    """A stretch of a capture at the detail a screen can show."""
    row = capture_by_id(work.session, work.job_id, capture_id)
    first, last = round(start_s * row.rate_hz), round(stop_s * row.rate_hz) + 1
    return stretch_of(
        work.book, look(work.session, row, first, last, points), row.rate_hz, _known(row)
    )


@dataclass(frozen=True)
class Edge:
    """An edge stepped to: when, at which crank angle and speed. None: there is no further one."""

    time_s: float | None
    theta_deg: float | None
    rpm: float | None
    words: str


def next_edge(work: Work, capture_id: int, channel: str, at_s: float, is_next: bool) -> Edge:
    """The next edge of a channel after or before a moment. Raises NotFound for another channel."""
    row = capture_by_id(work.session, work.job_id, capture_id)
    if channel not in row.channels or row.angle is None:
        raise NotFound(
            "This capture has no such channel.", read=channel, expected=", ".join(row.channels)
        )
    known = _known(row)
    times = known.get(f"events {channel}", known["times"])
    near = 0.2 / row.rate_hz
    after = int(np.searchsorted(times, at_s + near if is_next else at_s - near))
    i = after if is_next else after - 1
    if not 0 <= i < len(times):
        return Edge(None, None, None, "There is no further edge in this capture.")
    line, at = Timeline(known["times"], known["theta"]), np.array([float(times[i])])
    theta = float(line.theta(at)[0])
    return Edge(
        float(at[0]),
        theta % 720 if np.isfinite(theta) else None,
        float(line.rpm(at)[0]),
        f"edge {i + 1} of {len(times)}",
    )


def leave_out(
    work: Work, capture_id: int, start_s: float, stop_s: float, reason: str
) -> JournalEntry:
    """Leave a stretch out with a reason, and read the capture again without it. Raises
    CaptureError.
    """
    row = capture_by_id(work.session, work.job_id, capture_id)
    if not 0 <= start_s < stop_s <= row.seconds + 1:
        raise CaptureError(
            "This is no stretch of the capture.",
            read=f"{start_s} to {stop_s} s",
            expected=f"0 to {row.seconds:.2f} s",
        )
    new = {"start_s": start_s, "stop_s": stop_s, "reason": reason, "by": work.by}
    read_without(work, row, [*row.left_out, new])
    words = f"Left out {start_s:.2f} to {stop_s:.2f} s of the capture of {row.source}: {reason}"
    return work.record(Change.LEFT_OUT, words, {"capture": row.id})


def take_back_in(work: Work, capture_id: int, index: int) -> JournalEntry:
    """Take a left-out stretch back in, and read the capture again. Raises CaptureError."""
    row = capture_by_id(work.session, work.job_id, capture_id)
    if index >= len(row.left_out):
        raise CaptureError(
            "No such stretch is left out.",
            read=str(index + 1),
            expected=f"1 to {len(row.left_out)}",
        )
    gone = row.left_out[index]
    read_without(work, row, [s for i, s in enumerate(row.left_out) if i != index])
    words = (
        f"Took {gone['start_s']:.2f} to {gone['stop_s']:.2f} s of the capture of {row.source} "
        "back in."
    )
    return work.record(Change.LEFT_OUT, words, {"capture": row.id})


def read_without(work: Work, row: CaptureRow, left_out: list[dict[str, Any]]) -> None:
    """Read a capture again without these stretches, in the place of what was read. Raises
    CaptureError.
    """
    stretches = [(float(s["start_s"]), float(s["stop_s"])) for s in left_out]
    found = correlate(load_capture(work.session, row), work.book, stretches)
    read_again(work.session, row, found, left_out, work.by)


@dataclass(frozen=True)
class Compared:
    """Two captures of a job, the older one first, and what changed between them."""

    first: CaptureRow
    second: CaptureRow
    changes: list[CamChange]


def compare(work: Work, capture_id: int, other_id: int) -> Compared:
    """A capture against another of the job."""
    rows = [capture_by_id(work.session, work.job_id, i) for i in (capture_id, other_id)]
    first, second = sorted(rows, key=lambda c: c.taken_at)
    read = [
        {c["cam"]: (c["deviation_deg"], c["stderr_deg"]) for c in row.correlation["cams"]}
        for row in (first, second)
    ]
    return Compared(first, second, list(compare_cams(work.book, read[0], read[1])))

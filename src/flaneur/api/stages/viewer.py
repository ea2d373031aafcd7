"""A kept capture looked at closely: traces, windows, edges, stretches left out, comparison, and
files out of it.
"""

import tempfile
from pathlib import Path

import numpy as np
from flask import Blueprint, Response
from spectree import Response as Answers

from flaneur.api.models import Changed, ErrorOut, Trace, Traces
from flaneur.api.reading_models import (
    CamDetail,
    CaptureDetail,
    ChannelOut,
    CompareOut,
    ExpectedEdge,
    FingerprintOut,
    LeaveOutIn,
    LeftOut,
    StepOutcome,
    StepQuery,
    TakeBackIn,
    WindowChannel,
    WindowOut,
    WindowQuery,
)
from flaneur.api.spec import checked
from flaneur.api.work import JOB, Work, capture_out, changing, reading
from flaneur.core.errors import CaptureError
from flaneur.core.signals.compare import compare_cams
from flaneur.core.signals.correlation import correlate
from flaneur.core.signals.fold import fold
from flaneur.core.signals.quality import quality_verdict
from flaneur.core.signals.timeline import Timeline
from flaneur.formats.captures import to_parquet, write_csv, write_wav
from flaneur.formats.correlations import correlation_csv, correlation_json
from flaneur.store.blocks import load_capture, look, unpack_angle
from flaneur.store.changes import NotFound, record
from flaneur.store.jobs import job_by_id
from flaneur.store.readings import capture_by_id, captures_of, read_again
from flaneur.store.tables import CaptureRow

blueprint = Blueprint("viewer", __name__)
CAPTURE = f"{JOB}/captures/<int(max=2147483647):capture_id>"
MOST_TEETH = 600
MOST_CSV_VALUES = 20_000_000


@blueprint.get(f"{CAPTURE}/traces")
@checked(resp=Answers(HTTP_200=Traces, HTTP_404=ErrorOut))
def traces(job_id: int, capture_id: int) -> Traces:
    """Folded traces of a capture, with the book's edges underneath."""
    with reading(job_id) as work:
        row = capture_by_id(work.session, job_id, capture_id)
        capture = load_capture(work.session, row)
        folded = fold(capture, correlate(capture, work.book, _stretches(row)), work.book)
        names = {w.channel: w.name for w in work.book.tone_wheels.values()}
        return Traces(
            capture=capture_out(row),
            traces=[
                Trace(
                    name=names[t.channel],
                    **{k: getattr(t, k) for k in Trace.model_fields if k != "name"},
                )
                for t in folded
            ],
        )


def _stretches(row: CaptureRow) -> list[tuple[float, float]]:
    return [(float(s["start_s"]), float(s["stop_s"])) for s in row.left_out]


@blueprint.get(CAPTURE)
@checked(resp=Answers(HTTP_200=CaptureDetail, HTTP_404=ErrorOut))
def capture_detail(job_id: int, capture_id: int) -> CaptureDetail:
    """Everything read from a capture: every cam, cycle and edge, and how far it can be trusted."""
    with reading(job_id) as work:
        return detail_of(work, capture_by_id(work.session, job_id, capture_id))


def detail_of(work: Work, row: CaptureRow) -> CaptureDetail:
    """A kept capture as it is looked at."""
    book, fingerprint = work.book, row.correlation.get("fingerprint")
    return CaptureDetail(
        capture=capture_out(row),
        quality_verdict=quality_verdict(row.quality),
        cams=[
            CamDetail.model_validate({"name": book.shafts[c["cam"]].name, **_CAM_BLANK, **c})
            for c in row.correlation["cams"]
        ],
        fingerprint=FingerprintOut.model_validate(fingerprint) if fingerprint else None,
        left_out=[LeftOut.model_validate(s) for s in row.left_out],
        channels=[
            ChannelOut(channel=w.channel, name=w.name, is_crank=w.kind != "vanes")
            for w in book.tone_wheels.values()
        ],
        others=[capture_out(c) for c in captures_of(work.session, row.job_id) if c.id != row.id],
        is_fixed=bool(work.job.released_by or work.job.signed_at),
    )


_CAM_BLANK = {
    "cycle_s": [],
    "cycle_rpm": [],
    "edges": [],
    "settling": None,
    "speed": None,
    "half_order": None,
    "is_inverted": False,
}


@blueprint.get(f"{CAPTURE}/window")
@checked(resp=Answers(HTTP_200=WindowOut, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def window(job_id: int, capture_id: int, query: WindowQuery) -> WindowOut:
    """A stretch of a capture at the detail a screen can show, with crank angle, speed, and expected
    and found edges.
    """
    with reading(job_id) as work:
        row, book = capture_by_id(work.session, job_id, capture_id), work.book
        seen = look(
            work.session,
            row,
            round(query.start_s * row.rate_hz),
            round(query.stop_s * row.rate_hz) + 1,
            query.points,
        )
        start, stop = seen.start / row.rate_hz, (seen.stop - 1) / row.rate_hz
        known = (
            unpack_angle(row.angle) if row.angle else {"times": np.zeros(0), "theta": np.zeros(0)}
        )
        line = Timeline(known["times"], known["theta"])
        has_line = len(line.times_s) > 2
        inside = (line.times_s >= start) & (line.times_s <= stop)
        turns = float(np.ptp(line.theta_deg[inside])) / 360 if inside.any() else 0.0
        channels: list[WindowChannel] = []
        for wheel in book.tone_wheels.values():
            expected: list[ExpectedEdge] = []
            found = (
                known["times"]
                if wheel.kind != "vanes"
                else known.get(f"events {wheel.channel}", np.zeros(0))
            )
            if wheel.kind == "vanes" and has_line and turns < 24:
                times, degs, rising = line.expected(book, wheel.channel, start, stop)
                expected = [
                    ExpectedEdge(time_s=float(t), deg=float(d), rising=r)
                    for t, d, r in zip(times, degs, rising, strict=True)
                ]
            shown = found[(found >= start) & (found <= stop)]
            channels.append(
                WindowChannel(
                    channel=wheel.channel,
                    name=wheel.name,
                    low_v=np.round(seen.low[wheel.channel].astype(float), 4).tolist(),
                    high_v=np.round(seen.high[wheel.channel].astype(float), 4).tolist(),
                    expected=expected,
                    found_s=shown.tolist() if len(shown) <= MOST_TEETH else [],
                )
            )
        knots = np.linspace(start, stop, 200) if has_line else np.zeros(0)
        inner = (
            (knots >= line.times_s[0]) & (knots <= line.times_s[-1])
            if has_line
            else np.zeros(0, bool)
        )
        return WindowOut(
            start_s=start,
            stop_s=stop,
            is_exact=seen.is_exact,
            times_s=seen.times_s.tolist(),
            channels=channels,
            angle_s=knots[inner].tolist(),
            theta_deg=line.theta(knots[inner]).tolist() if has_line else [],
            rpm=np.round(line.rpm(knots[inner]), 1).tolist() if has_line else [],
        )


@blueprint.get(f"{CAPTURE}/edge")
@checked(resp=Answers(HTTP_200=StepOutcome, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def step_to_edge(job_id: int, capture_id: int, query: StepQuery) -> StepOutcome:
    """The next edge of a channel after or before a moment."""
    with reading(job_id) as work:
        row = capture_by_id(work.session, job_id, capture_id)
        if query.channel not in row.channels or row.angle is None:
            raise NotFound(
                "This capture has no such channel.",
                read=query.channel,
                expected=", ".join(row.channels),
            )
        known = unpack_angle(row.angle)
        times = known.get(f"events {query.channel}", known["times"])
        near = 0.2 / row.rate_hz
        is_next = query.way == "next"
        i = int(np.searchsorted(times, query.at_s + near if is_next else query.at_s - near)) - (
            0 if is_next else 1
        )
        if not 0 <= i < len(times):
            return StepOutcome(
                time_s=None,
                theta_deg=None,
                rpm=None,
                words="There is no further edge in this capture.",
            )
        line, at = Timeline(known["times"], known["theta"]), np.array([float(times[i])])
        theta = float(line.theta(at)[0])
        known_theta = theta % 720 if np.isfinite(theta) else None
        words = f"edge {i + 1} of {len(times)}"
        return StepOutcome(
            time_s=float(at[0]), theta_deg=known_theta, rpm=float(line.rpm(at)[0]), words=words
        )


@blueprint.post(f"{CAPTURE}/left-out")
@checked(resp=Answers(HTTP_200=Changed, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def leave_out(job_id: int, capture_id: int, json: LeaveOutIn) -> Changed:
    """Leave a stretch out with a reason, and read the capture again without it."""
    with changing(job_id, json.version) as work:
        row = capture_by_id(work.session, job_id, capture_id)
        if not 0 <= json.start_s < json.stop_s <= row.seconds + 1:
            raise CaptureError(
                "This is no stretch of the capture.",
                read=f"{json.start_s} to {json.stop_s} s",
                expected=f"0 to {row.seconds:.2f} s",
            )
        stretch = {
            "start_s": json.start_s,
            "stop_s": json.stop_s,
            "reason": json.reason,
            "by": work.by,
        }
        _read_without(work, row, [*row.left_out, stretch])
        words = (
            f"Left out {json.start_s:.2f} to {json.stop_s:.2f} s of the capture of "
            f"{row.source}: {json.reason}"
        )
        return work.changed(
            record(work.session, work.job, work.by, "left out", words, {"capture": row.id})
        )


@blueprint.post(f"{CAPTURE}/taken-back")
@checked(resp=Answers(HTTP_200=Changed, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def take_back(job_id: int, capture_id: int, json: TakeBackIn) -> Changed:
    """Take a left-out stretch back in, and read the capture again."""
    with changing(job_id, json.version) as work:
        row = capture_by_id(work.session, job_id, capture_id)
        if json.index >= len(row.left_out):
            raise CaptureError(
                "No such stretch is left out.",
                read=str(json.index + 1),
                expected=f"1 to {len(row.left_out)}",
            )
        gone = row.left_out[json.index]
        _read_without(work, row, [s for i, s in enumerate(row.left_out) if i != json.index])
        words = (
            f"Took {gone['start_s']:.2f} to {gone['stop_s']:.2f} s of the capture of "
            f"{row.source} back in."
        )
        return work.changed(
            record(work.session, work.job, work.by, "left out", words, {"capture": row.id})
        )


def _read_without(work: Work, row: CaptureRow, left_out: list[dict[str, object]]) -> None:
    stretches = [(float(str(s["start_s"])), float(str(s["stop_s"]))) for s in left_out]
    found = correlate(load_capture(work.session, row), work.book, stretches)
    read_again(work.session, row, found, left_out, work.by)


@blueprint.get(f"{CAPTURE}/against/<int(max=2147483647):other_id>")
@checked(resp=Answers(HTTP_200=CompareOut, HTTP_404=ErrorOut))
def compare(job_id: int, capture_id: int, other_id: int) -> CompareOut:
    """This capture against another of the job, the older one first."""
    with reading(job_id) as work:
        first, second = sorted(
            (capture_by_id(work.session, job_id, i) for i in (capture_id, other_id)),
            key=lambda c: c.taken_at,
        )
        read = [
            {c["cam"]: (c["deviation_deg"], c["stderr_deg"]) for c in row.correlation["cams"]}
            for row in (first, second)
        ]
        return CompareOut(
            first=capture_out(first),
            second=capture_out(second),
            changes=compare_cams(work.book, read[0], read[1]),
        )


_KINDS = {"csv": "text/csv", "wav": "audio/wav", "parquet": "application/vnd.apache.parquet"}


@blueprint.get(f"{CAPTURE}/file.<string:kind>")
def export(job_id: int, capture_id: int, kind: str) -> Response:
    """The capture itself as CSV, WAV or Parquet."""
    if kind not in _KINDS:
        raise NotFound("A capture leaves in other formats.", read=kind, expected=", ".join(_KINDS))
    with reading(job_id) as work:
        row = capture_by_id(work.session, job_id, capture_id)
        if kind == "csv" and row.samples * max(1, len(row.channels)) > MOST_CSV_VALUES:
            raise CaptureError(
                "This capture is too large for CSV.",
                read=f"{row.samples * len(row.channels):,} samples",
                expected=f"at most {MOST_CSV_VALUES:,}",
                advice="Take it as WAV or Parquet.",
            )
        capture = load_capture(work.session, row)
        name = f"{work.job.number}-capture-{capture_id}.{kind}"
    if kind == "parquet":
        content = to_parquet(capture)
    else:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / name
            (write_csv if kind == "csv" else write_wav)(capture, path)
            content = path.read_bytes()
    return Response(
        content,
        mimetype=_KINDS[kind],
        headers={"Content-Disposition": f'attachment; filename="{name}"'},
    )


@blueprint.get(f"{CAPTURE}/correlation.<string:kind>")
def export_correlation(job_id: int, capture_id: int, kind: str) -> Response:
    """The correlation table as CSV, or all that was read as JSON."""
    if kind not in ("csv", "json"):
        raise NotFound("A correlation leaves in other formats.", read=kind, expected="csv, json")
    with reading(job_id) as work:
        row = capture_by_id(work.session, job_id, capture_id)
        head = {
            "job": job_by_id(work.session, job_id).number,
            "source": row.source,
            "rpm": row.rpm,
            "quality": row.quality,
            "notes": row.notes,
        }
        head["left_out"] = row.left_out
        text = (
            correlation_csv(work.book, row.correlation)
            if kind == "csv"
            else correlation_json(work.book, row.correlation, head)
        )
        name = f"{work.job.number}-correlation-{capture_id}.{kind}"
    mime = "text/csv" if kind == "csv" else "application/json"
    return Response(
        text, mimetype=mime, headers={"Content-Disposition": f'attachment; filename="{name}"'}
    )

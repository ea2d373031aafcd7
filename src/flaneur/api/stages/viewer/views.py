"""A kept capture looked at closely: traces, windows, edges, stretches left out, comparison, and
files out of it.
"""

import tempfile
from pathlib import Path

from flask import Blueprint, Response
from spectree import Response as Answers

from flaneur.api.models import Changed, ErrorOut
from flaneur.api.spec import checked
from flaneur.api.stages.viewer.models import (
    CamDetail,
    CaptureDetail,
    ChannelOut,
    CompareOut,
    FingerprintOut,
    LeaveOutIn,
    LeftOut,
    StepOutcome,
    StepQuery,
    TakeBackIn,
    Trace,
    Traces,
    WindowOut,
    WindowQuery,
)
from flaneur.api.work import JOB, capture_out, changed, changing, reading
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import CaptureError
from flaneur.core.gauss import Z90
from flaneur.core.signals.camreading import CamCorrelation
from flaneur.core.signals.wording import (
    edges_words,
    fingerprint_words,
    half_order_words,
    over_time_words,
)
from flaneur.formats.captures import to_parquet, write_csv, write_wav
from flaneur.formats.correlations import correlation_csv, correlation_json
from flaneur.jobs import looking
from flaneur.jobs.details import capture_detail as detail_of
from flaneur.store.blocks import load_capture
from flaneur.store.changes import NotFound
from flaneur.store.readings import capture_by_id, captures_listed

blueprint = Blueprint("viewer", __name__)
CAPTURE = f"{JOB}/captures/<int(max=2147483647):capture_id>"
MOST_CSV_VALUES = 20_000_000


@blueprint.get(f"{CAPTURE}/traces")
@checked(resp=Answers(HTTP_200=Traces, HTTP_404=ErrorOut))
def traces(job_id: int, capture_id: int) -> Traces:
    """Folded traces of a capture, with the book's edges underneath."""
    with reading(job_id) as work:
        row, folded = looking.folded(work, capture_id)
        wheels = {w.channel: (w.name, key) for key, w in work.book.tone_wheels.items()}
        plain = [k for k in Trace.model_fields if k not in ("name", "short")]
        return Traces(
            capture=capture_out(row),
            traces=[
                Trace(
                    name=wheels[t.channel][0],
                    short=work.book.wheel_name(wheels[t.channel][1]),
                    **{k: getattr(t, k) for k in plain},
                )
                for t in folded
            ],
        )


@blueprint.get(CAPTURE)
@checked(resp=Answers(HTTP_200=CaptureDetail, HTTP_404=ErrorOut))
def capture_detail(job_id: int, capture_id: int) -> CaptureDetail:
    """Everything read from a capture: every cam, cycle and edge, and how far it can be trusted."""
    with reading(job_id) as work:
        row = capture_by_id(work.session, job_id, capture_id)
        found, others = detail_of(work, row), captures_listed(work.session, job_id)
        print_ = found.fingerprint
        return CaptureDetail(
            capture=capture_out(row),
            cams=[_cam_out(work.book, cam) for cam in found.cams],
            fingerprint=FingerprintOut(**print_.model_dump(), words=fingerprint_words(print_))
            if print_
            else None,
            left_out=[LeftOut.model_validate(s) for s in row.left_out],
            channels=[
                ChannelOut(channel=w.channel, name=w.name, is_crank=w.kind != "vanes")
                for w in work.book.tone_wheels.values()
            ],
            others=[capture_out(c) for c in others if c.id != row.id],
            is_fixed=bool(work.job.released_by or work.job.signed_at),
        )


def _cam_out(book: EngineBook, cam: CamCorrelation) -> CamDetail:
    return CamDetail(
        **{k: getattr(cam, k) for k in _OF_CAM},
        name=book.shafts[cam.cam].name,
        short=book.shafts[cam.cam].short_name,
        half_90=Z90 * cam.stderr_deg,
        settling_deg=[cam.settling.at_deg(t) for t in cam.cycle_s] if cam.settling else [],
        over_time=over_time_words(cam),
        half_order=half_order_words(cam.half_order) if cam.half_order else None,
        edges_said=edges_words(cam.edges),
    )


_MADE = {"name", "short", "half_90", "settling_deg", "over_time", "half_order", "edges_said"}
_OF_CAM = [k for k in CamDetail.model_fields if k not in _MADE]


@blueprint.get(f"{CAPTURE}/window")
@checked(resp=Answers(HTTP_200=WindowOut, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def window(job_id: int, capture_id: int, query: WindowQuery) -> WindowOut:
    """A stretch of a capture at the detail a screen can show, with crank angle, speed, and expected
    and found edges.
    """
    with reading(job_id) as work:
        found = looking.stretch(work, capture_id, query.start_s, query.stop_s, query.points)
        return WindowOut.model_validate(found, from_attributes=True)


@blueprint.get(f"{CAPTURE}/edge")
@checked(resp=Answers(HTTP_200=StepOutcome, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def step_to_edge(job_id: int, capture_id: int, query: StepQuery) -> StepOutcome:
    """The next edge of a channel after or before a moment."""
    with reading(job_id) as work:
        is_next = query.way == "next"
        found = looking.next_edge(work, capture_id, query.channel, query.at_s, is_next)
        return StepOutcome.model_validate(found, from_attributes=True)


@blueprint.post(f"{CAPTURE}/left-out")
@checked(resp=Answers(HTTP_200=Changed, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def leave_out(job_id: int, capture_id: int, json: LeaveOutIn) -> Changed:
    """Leave a stretch out with a reason, and read the capture again without it."""
    with changing(job_id, json.version) as work:
        entry = looking.leave_out(work, capture_id, json.start_s, json.stop_s, json.reason)
        return changed(work, entry)


@blueprint.post(f"{CAPTURE}/taken-back")
@checked(resp=Answers(HTTP_200=Changed, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def take_back(job_id: int, capture_id: int, json: TakeBackIn) -> Changed:
    """Take a left-out stretch back in, and read the capture again."""
    with changing(job_id, json.version) as work:
        return changed(work, looking.take_back_in(work, capture_id, json.index))


@blueprint.get(f"{CAPTURE}/against/<int(max=2147483647):other_id>")
@checked(resp=Answers(HTTP_200=CompareOut, HTTP_404=ErrorOut))
def compare(job_id: int, capture_id: int, other_id: int) -> CompareOut:
    """This capture against another of the job, the older one first."""
    with reading(job_id) as work:
        found = looking.compare(work, capture_id, other_id)
        return CompareOut(
            first=capture_out(found.first),
            second=capture_out(found.second),
            changes=found.changes,
        )


_KINDS = {"csv": "text/csv", "wav": "audio/wav", "parquet": "application/vnd.apache.parquet"}


@blueprint.get(f"{CAPTURE}/file.<string:kind>")
def export(job_id: int, capture_id: int, kind: str) -> Response:
    """The capture itself as CSV, WAV or Parquet."""
    if kind not in _KINDS:
        raise NotFound("A capture leaves in other formats.", read=kind, expected=", ".join(_KINDS))
    with reading(job_id) as work:
        row = capture_by_id(work.session, job_id, capture_id)
        values = row.samples * max(1, len(row.channels))
        if kind == "csv" and values > MOST_CSV_VALUES:
            raise CaptureError(
                "This capture is too large for CSV.",
                read=f"{values:,} samples",
                expected=f"at most {MOST_CSV_VALUES:,}",
                advice="Take it as WAV or Parquet.",
            )
        capture = load_capture(work.session, row)
        name = f"{work.job.number}-capture-{capture_id}.{kind}"
    if kind == "parquet":
        return _attached(to_parquet(capture), _KINDS[kind], name)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / name
        (write_csv if kind == "csv" else write_wav)(capture, path)
        return _attached(path.read_bytes(), _KINDS[kind], name)


_TABLES = {"csv": "text/csv", "json": "application/json"}


@blueprint.get(f"{CAPTURE}/correlation.<string:kind>")
def export_correlation(job_id: int, capture_id: int, kind: str) -> Response:
    """The correlation table as CSV, or all that was read as JSON."""
    if kind not in _TABLES:
        raise NotFound(
            "A correlation leaves in other formats.", read=kind, expected=", ".join(_TABLES)
        )
    with reading(job_id) as work:
        row = capture_by_id(work.session, job_id, capture_id)
        head = {
            "job": work.job.number,
            "source": row.source,
            "rpm": row.rpm,
            "quality": row.quality,
            "notes": row.notes,
            "left_out": row.left_out,
        }
        text = (
            correlation_csv(work.book, row.correlation)
            if kind == "csv"
            else correlation_json(work.book, row.correlation, head)
        )
        name = f"{work.job.number}-correlation-{capture_id}.{kind}"
    return _attached(text, _TABLES[kind], name)


def _attached(content: str | bytes, mime: str, name: str) -> Response:
    return Response(
        content,
        mimetype=mime,
        headers={"Content-Disposition": f'attachment; filename="{name}"'},
    )

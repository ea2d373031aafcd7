"""Bolts by the torque–angle wrench: what it measures as it comes, and the traces that are kept."""

import json
from collections.abc import Iterator

from flask import Response as Flowing
from flask import stream_with_context
from spectree import Response

from flaneur.api.errors import error_out
from flaneur.api.models import ErrorOut
from flaneur.api.spec import checked
from flaneur.api.stages.bench.models import BoltTrace, BoltTraceIn, BoltTraces
from flaneur.api.stages.bench.views import blueprint
from flaneur.api.work import JOB, changing, reading, settings
from flaneur.core.bench.closing import step_of
from flaneur.core.bench.within import bolts_of
from flaneur.core.errors import DeviceError, FlaneurError, StepError
from flaneur.devices.wrench import WrenchClient
from flaneur.jobs.fitted import bench_plan
from flaneur.jobs.traces import Tightened, keep_trace, trace_file, traces_of

DRAWN = 400


@blueprint.get(f"{JOB}/bench/traces/<step>")
@checked(resp=Response(HTTP_200=BoltTraces, HTTP_422=ErrorOut))
def get_traces(job_id: int, step: str) -> BoltTraces:
    """BoltTraces of the bolts of a step, judged beside each other."""
    with reading(job_id) as work:
        found = traces_of(work, step_of(bench_plan(work), step))
        return BoltTraces(version=work.job.version, traces=[_trace_out(t) for t in found])


@blueprint.post(f"{JOB}/bench/traces")
@checked(resp=Response(HTTP_200=BoltTraces, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def post_trace(job_id: int, json: BoltTraceIn) -> BoltTraces:
    """Keep the trace of one bolt, in place of an earlier one of the same bolt. While one says that
    its bolt is not right, the step is closed only by a lead who leaves it so.
    """
    with changing(job_id, None) as work:
        found = keep_trace(work, json.step, json.answered, json.fastener, json.bolt, json.csv)
        return BoltTraces(version=work.job.version, traces=[_trace_out(t) for t in found])


@blueprint.get(f"{JOB}/bench/traces/<int(max=2147483647):trace_id>/file.csv")
def export_trace(job_id: int, trace_id: int) -> Flowing:
    """A kept trace as its file."""
    with reading(job_id) as work:
        content, name = trace_file(work, trace_id)
    response = Flowing(content, mimetype="text/csv")
    response.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


@blueprint.get(f"{JOB}/bench/tighten/<step>/<fastener>/<int(max=60):bolt>")
def tighten(job_id: int, step: str, fastener: str, bolt: int) -> Flowing:
    """What the wrench measures while a bolt is tightened by its stages: lines of JSON as they come,
    at last ``{"end": true}``, or ``{"error": …}`` where it broke off. Nothing is kept.
    """
    with reading(job_id) as work:
        found, unit = step_of(bench_plan(work), step), f"unit-{work.job.unit_id}"
    stages = [a.stage for a in found.asked if a.stage is not None and a.fastener == fastener]
    if not stages or not 1 <= bolt <= bolts_of(found, fastener):
        raise StepError(
            "The step has no such bolt.",
            read=f"{fastener} {bolt}",
            expected=f"a bolt of “{found.title}”",
        )
    wrench = WrenchClient(settings().wrench_host, settings().wrench_port, timeout_s=20)
    lines = wrench.tighten(unit, f"{step} {fastener} {bolt}", stages)
    first = next(lines, None)  # a wrench that is not there is told as any other error
    if first is None:
        raise DeviceError("The wrench measured nothing.", advice="Tighten the bolt once more.")
    response = Flowing(stream_with_context(_all(first, lines)), mimetype="application/x-ndjson")
    response.headers["X-Accel-Buffering"] = "no"
    return response


def _all(first: dict[str, list[float]], lines: Iterator[dict[str, list[float]]]) -> Iterator[str]:
    try:
        yield json.dumps(first) + "\n"
        for line in lines:
            yield json.dumps(line) + "\n"
        yield json.dumps({"end": True}) + "\n"
    except FlaneurError as error:
        yield json.dumps({"error": error_out(error).model_dump(mode="json")}) + "\n"


def _trace_out(one: Tightened) -> BoltTrace:
    every = max(1, one.trace.time_s.size // DRAWN)
    return BoltTrace(
        id=one.id,
        fastener=one.fastener,
        bolt=one.bolt,
        by=one.by,
        at=one.at,
        judged=one.judged,
        angle_deg=[round(float(v), 2) for v in one.trace.angle_deg[::every]],
        torque_nm=[round(float(v), 3) for v in one.trace.torque_nm[::every]],
    )

"""The verdict on a job's readings."""

from flask import Blueprint
from spectree import Response

from flaneur.api.heavy import takes_a_while
from flaneur.api.kept import kept_while_unchanged
from flaneur.api.spec import checked
from flaneur.api.stages.verdict.models import VerdictOut
from flaneur.api.work import JOB, reading
from flaneur.jobs.judging import proposed
from flaneur.store.jobs import mark_of_readings

blueprint = Blueprint("verdict", __name__)


@blueprint.get(f"{JOB}/verdict")
@kept_while_unchanged(mark_of_readings)
@takes_a_while
@checked(resp=Response(HTTP_200=VerdictOut))
def verdict(job_id: int) -> VerdictOut:
    """Suspects with evidence, wear with intervals, and what the verdict proposes to renew."""
    with reading(job_id) as work:
        return VerdictOut.model_validate(proposed(work, with_evidence=True), from_attributes=True)

"""The verdict on a job's readings."""

from flask import Blueprint
from spectree import Response

from flaneur.api.models import VerdictOut
from flaneur.api.spec import checked
from flaneur.api.work import JOB, Work, reading, verdict_of
from flaneur.core.plan.propose import propose

blueprint = Blueprint("verdict", __name__)


def proposals(work: Work, with_evidence: bool) -> VerdictOut:
    found = verdict_of(work, with_evidence)
    return VerdictOut(
        verdict=found,
        measured=propose(work.book, found, "measured"),
        whole_set=propose(work.book, found, "whole_set"),
    )


@blueprint.get(f"{JOB}/verdict")
@checked(resp=Response(HTTP_200=VerdictOut))
def verdict(job_id: int) -> VerdictOut:
    """Suspects with evidence, wear with intervals, and what the verdict proposes to renew."""
    with reading(job_id) as work:
        return proposals(work, with_evidence=True)

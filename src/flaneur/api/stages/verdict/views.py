"""The verdict on a job's readings, what is advised on it, and what was decided."""

from flask import Blueprint
from spectree import Response

from flaneur.api.heavy import takes_a_while
from flaneur.api.kept import kept_while_unchanged
from flaneur.api.models import Changed, ErrorOut
from flaneur.api.shop import shop_of
from flaneur.api.spec import checked
from flaneur.api.stages.verdict.models import (
    AdviceIn,
    AdviceOut,
    DecisionIn,
    VerdictOut,
)
from flaneur.api.work import JOB, changed, changing, reading
from flaneur.core.book.bands import bands_asked
from flaneur.core.decision.rates import rates_asked, ways
from flaneur.jobs import deciding
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


@blueprint.post(f"{JOB}/advice")
@takes_a_while
@checked(resp=Response(HTTP_200=AdviceOut, HTTP_422=ErrorOut))
def advice(job_id: int, json: AdviceIn) -> AdviceOut:
    """The next test and what each action costs; of the readings as they are, or what if they were
    otherwise.
    """
    with reading(job_id) as work:
        found = deciding.consider(work, json.left_out, json.changed, json.school)
        more = {
            "ways": ways(bool(work.book.phasers)),
            "rates_asked": rates_asked(),
            "bands_asked": bands_asked(work.book),
            "learned": [each.words for each in found.learned],
            "currency": shop_of(work.session).currency,
            "is_fixed": work.job.bench_started,
        }
        return AdviceOut.model_validate(vars(found) | more, from_attributes=True)


@blueprint.post(f"{JOB}/decision")
@takes_a_while
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def decide(job_id: int, json: DecisionIn) -> Changed:
    """Take the lead's decision, frozen with the verdict and the advice as they stand."""
    with changing(job_id, json.version) as work:
        return changed(work, deciding.decide(work, json.key, json.school, json.reason))
